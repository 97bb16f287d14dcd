import type { IncomingMessage } from 'node:http';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressRanges, clientFrom, connected, networkOf, type ProxyHeader } from './client-address';

const request = (remoteAddress: string, headers: Record<string, string> = {}) =>
  ({ socket: { remoteAddress }, headers }) as unknown as IncomingMessage;
const client = (trusted: string, header: ProxyHeader, from: string, value: string) =>
  clientFrom({ trusted: addressRanges(trusted), header })(request(from, { [header]: value }));

describe('where a request comes from', () => {
  it('is the address that is connected, whatever it says, while no proxy is trusted', () => {
    fc.assert(
      fc.property(fc.ipV4(), fc.string(), (address, said) => {
        expect(client('', 'x-forwarded-for', address, said)).toBe(address);
        expect(connected(request(address, { forwarded: said }))).toBe(address);
      }),
    );
  });

  it('is what the nearest trusted proxy says; what stands left of it is a stranger’s own word', () => {
    const trusted = '127.0.0.1, ::1, 10.0.0.0/8';
    const of = (value: string, from = '127.0.0.1') => client(trusted, 'x-forwarded-for', from, value);
    expect(of('203.0.113.7')).toBe('203.0.113.7');
    // A stranger who puts an address before the proxy’s.
    expect(of('198.51.100.1, 203.0.113.7')).toBe('203.0.113.7');
    // Two proxies of ours.
    expect(of('203.0.113.7, 10.4.0.1')).toBe('203.0.113.7');
    expect(of('203.0.113.7', '192.0.2.1')).toBe('192.0.2.1');
    expect(of('')).toBe('127.0.0.1');
    expect(of('unknown')).toBe('127.0.0.1');
    expect(of('203.0.113.7, <script>')).toBe('127.0.0.1');
    expect(of('203.0.113.7:51000')).toBe('203.0.113.7');
    expect(of('203.0.113.7', '::ffff:127.0.0.1')).toBe('203.0.113.7');
  });

  it('cannot be chosen by a stranger, whatever they write before what the proxy adds', () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(fc.ipV4(), fc.string())), fc.ipV4(), (theirs, address) => {
        fc.pre(!address.startsWith('10.') && address !== '127.0.0.1');
        const value = [...theirs.map((t) => t.replace(/[\r\n]/g, '')), address].join(', ');
        expect(client('127.0.0.1 10.0.0.0/8', 'x-forwarded-for', '127.0.0.1', value)).toBe(address);
      }),
    );
  });

  // The examples of RFC 7239, section 4 and 6, as far as they name addresses.
  it.each([
    ['for="_gazonk"', '127.0.0.1'],
    ['For="[2001:db8:cafe::17]:4711"', '2001:db8:cafe::17'],
    ['for=192.0.2.60;proto=http;by=203.0.113.43', '192.0.2.60'],
    ['for=192.0.2.43, for=198.51.100.17', '198.51.100.17'],
    ['for=unknown', '127.0.0.1'],
    ['for=192.0.2.43, for="[2001:db8:cafe::17]"', '2001:db8:cafe::17'],
    ['for="192.0.2.43:47011"', '192.0.2.43'],
    ['for="un;closed', '127.0.0.1'],
  ])('by RFC 7239, %s is %s', (value, address) =>
    expect(client('127.0.0.1', 'forwarded', '127.0.0.1', value)).toBe(address),
  );

  it('looks at the one header that the proxy sets', () => {
    const of = clientFrom({ trusted: addressRanges('127.0.0.1'), header: 'x-forwarded-for' });
    const sent = { 'x-forwarded-for': '203.0.113.7', forwarded: 'for=198.51.100.1' };
    expect(of(request('127.0.0.1', sent))).toBe('203.0.113.7');
  });
});

describe('ranges of addresses', () => {
  it.each(['localhost', '10.0.0.0/33', '10.0.0.0/8/8', 'fd00::/129', '10.0.0', '1.2.3.4/x'])(
    'refuses %s by its name',
    (entry) => expect(() => addressRanges(`127.0.0.1, ${entry}`)).toThrow(`"${entry}"`),
  );
});

describe('what limits count by', () => {
  it.each([
    ['203.0.113.7', '203.0.113.7'],
    // The three ways of writing one address in RFC 4291, section 2.2.
    ['2001:db8:0:0:8:800:200c:417a', '2001:db8:0:0::/64'],
    ['2001:0db8::8:800:200c:417a', '2001:db8:0:0::/64'],
    ['::13.1.68.3', '0:0:0:0::/64'],
    ['::1', '0:0:0:0::/64'],
    ['fd00::1', 'fd00:0:0:0::/64'],
    ['', ''],
  ])('%s counts as %s', (address, network) => expect(networkOf(address)).toBe(network));

  it('is one for all addresses of a network, and another for the next', () => {
    fc.assert(
      fc.property(fc.ipV6(), fc.integer({ min: 1, max: 0xffff }), (address, end) => {
        fc.pre(!address.includes('.'));
        const network = networkOf(address).replace('::/64', '');
        expect(networkOf(`${network}:0:0:0:${end.toString(16)}`)).toBe(`${network}::/64`);
      }),
    );
  });
});
