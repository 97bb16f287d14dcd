import { createHmac } from 'node:crypto';

/**
 * A one-time code of RFC 6238 with its usual values: HMAC-SHA-1, six digits, steps of half a minute. @param
 * secret as bytes. @param ms since 1970.
 */
export function totp(secret: Buffer, ms: number): string {
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(ms / 30_000)));
  const mac = createHmac('sha1', secret).update(counter).digest();
  const at = (mac.at(-1) ?? 0) & 15;
  return String((mac.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}

/** Bytes that were written as base 32 (RFC 4648, section 6), with or without spaces. */
export function base32(text: string): Buffer {
  const bits = [...text.replace(/[\s=]/g, '')].map((c) =>
    'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0'),
  );
  return Buffer.from((bits.join('').match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
}
