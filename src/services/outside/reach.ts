import ipaddr from 'ipaddr.js';

/** Which machines may be asked for something on an owner's word. */
export interface Reach {
  /** Whether a connection to this address (not a name) may be made. */
  readonly mayConnect: (address: string) => boolean;
  /** Whether an origin was named by whoever runs the program, and not by an owner: ours, and the web host's. */
  readonly isOurs: (url: URL) => boolean;
}

/**
 * Whether an address is one of the public Internet, where anybody may be asked. Everything that IANA keeps for special purposes is none:
 * this machine, private and shared networks, link-local, documentation, multicast (RFC 6890 and its registries, as ipaddr.js has them). An
 * address of version 6 that stands for one of version 4 is judged as that one.
 */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const ip = ipaddr.process(address);
  if (ip.kind() === 'ipv4') return ip.range() === 'unicast';
  const inside = versionFourIn(ip as ipaddr.IPv6);
  return inside ? isPublic(inside) : ip.range() === 'unicast';
}

/** The address of version 4 that one of version 6 leads to: through a translator (RFC 6052), or a tunnel (RFC 3056). */
function versionFourIn(ip: ipaddr.IPv6): string | undefined {
  const bytes = ip.toByteArray();
  if (ip.range() === 'rfc6052') return bytes.slice(12).join('.');
  return ip.range() === '6to4' ? bytes.slice(2, 6).join('.') : undefined;
}

/** Public addresses, and those of networks that the settings name. @param ours origins that the settings name, as "https://shop.example" */
export const reachOf = (
  isNamed: (address: string) => boolean,
  ours: (url: URL) => boolean = () => false,
): Reach => ({ mayConnect: (address) => isPublic(address) || isNamed(address), isOurs: ours });
