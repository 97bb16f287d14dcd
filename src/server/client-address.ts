import { BlockList, isIP, isIPv6, type Socket } from 'node:net';
import type { IncomingMessage } from 'node:http';
import forwardedParse from 'forwarded-parse';

/** Headers in which a proxy may say whose request it passes on. */
export const proxyHeaders = ['x-forwarded-for', 'forwarded'] as const;
export type ProxyHeader = (typeof proxyHeaders)[number];

/** Whose word is taken for where a request comes from. */
export interface Proxies {
  /** Addresses of our own proxies; nobody is believed where it is empty. */
  readonly trusted: BlockList;
  /** The one header that they set. What else a stranger sends through them is not looked at. */
  readonly header: ProxyHeader;
}

/** Tells the address of whoever sent a request. */
export type ClientOf = (req: IncomingMessage) => string;

/** The address at the other end of a connection. */
export const addressOf = (socket: Pick<Socket, 'remoteAddress'>): string => plain(socket.remoteAddress ?? '');

/** The address that is connected, whatever it says. */
export const connected: ClientOf = (req) => addressOf(req.socket);

/**
 * A list of addresses and ranges, "127.0.0.1, 10.0.0.0/8, fd00::/8", with commas or spaces between.
 * @throws Error that names the entry which is neither.
 */
export function addressRanges(list: string): BlockList {
  const ranges = new BlockList();
  for (const entry of list.split(/[\s,]+/).filter(Boolean)) {
    const [address = '', bits, more] = entry.split('/');
    const family = isIP(address);
    const most = family === 4 ? 32 : 128;
    const prefix = bits === undefined ? most : Number(bits);
    if (!family || more !== undefined || !/^\d*$/.test(bits ?? '') || prefix > most)
      throw new Error(`"${entry}" is no address and no range of addresses, as 127.0.0.1 or 10.0.0.0/8 are`);
    ranges.addSubnet(address, prefix, family === 4 ? 'ipv4' : 'ipv6');
  }
  return ranges;
}

/**
 * The address a request comes from: the one that is connected, or, as long as that is a proxy of ours, the
 * one it names. Read from the right: each proxy adds the address it was asked from, and whatever stands left
 * of the first stranger is the stranger's own word.
 */
export function clientFrom({ trusted, header }: Proxies): ClientOf {
  return (req) => {
    let client = addressOf(req.socket);
    const named = isOneOf(trusted, client) ? namedIn(header, String(req.headers[header] ?? '')) : [];
    for (const address of named.reverse()) {
      // A proxy that says "unknown", or hides the address, is the last that is known (RFC 7239, 6.2 and 6.3).
      if (!isIP(address)) break;
      client = address;
      if (!isOneOf(trusted, client)) break;
    }
    return client;
  };
}

/**
 * What limits count by: the address itself, or the half of a version 6 address that names the network,
 * because whoever has one of them has 2^64 (RFC 6177 leaves no household less).
 */
export function networkOf(address: string): string {
  if (!isIPv6(address)) return address;
  return `${wholeIPv6(address).slice(0, 4).join(':')}::/64`;
}

/** Whether an address lies in one of the ranges; what is no address does not. */
export const isOneOf = (ranges: BlockList, address: string): boolean =>
  isIP(address) > 0 && ranges.check(address, isIPv6(address) ? 'ipv6' : 'ipv4');

/** Addresses in the order in which they were written. */
function namedIn(header: ProxyHeader, value: string): string[] {
  if (!value) return [];
  if (header === 'x-forwarded-for') return value.split(',').map(plain);
  try {
    return forwardedParse(value).map((hop) => plain(hop.for ?? ''));
  } catch {
    // What cannot be read names nobody.
    return [];
  }
}

/**
 * Without port and brackets; a version 4 address that is written as a version 6 one is the former (RFC 4291,
 * 2.5.5.2).
 */
function plain(written: string): string {
  const text = written.trim().toLowerCase();
  const bare = /^\[(.+)\](?::\d+)?$/.exec(text)?.[1] ?? /^([\d.]+):\d+$/.exec(text)?.[1] ?? text;
  return /^::ffff:([\d.]+)$/.exec(bare)?.[1] ?? bare.replace(/%.*$/, '');
}

/** Eight groups, without the short form and leading noughts. */
function wholeIPv6(address: string): string[] {
  const dotted = /^(.*:)(\d+)\.(\d+)\.(\d+)\.(\d+)$/.exec(address);
  const groups = dotted ? `${dotted[1]}${hex(dotted[2], dotted[3])}:${hex(dotted[4], dotted[5])}` : address;
  const [before = '', after = ''] = groups.split('::');
  const left = before.split(':').filter(Boolean);
  const right = after.split(':').filter(Boolean);
  const between = Array.from({ length: Math.max(0, 8 - left.length - right.length) }, () => '0');
  return [...left, ...between, ...right].map((group) => Number.parseInt(group, 16).toString(16));
}

const hex = (high = '0', low = '0'): string => (Number(high) * 256 + Number(low)).toString(16);
