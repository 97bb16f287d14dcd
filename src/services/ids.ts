import { randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';

/** Names a record: 40 random bits as hex. Unique by the database's key, not secret. */
export function newId(): string {
  // The first 48 bits of a version 4 UUID are random (RFC 9562, 5.4); Node.js draws them many at a time.
  const uuid = randomUUID();
  return uuid.slice(0, 8) + uuid.slice(9, 11);
}

/** Guards something: 128 random bits. */
export const newToken = (): string => randomBytes(16).toString('base64url');

/** A host name label that guards a draft: lower case only, 80 bits. */
export const newHostKey = (): string => BigInt(`0x${randomBytes(10).toString('hex')}`).toString(36);

/** Whether a secret that was given is the right one; how long it takes tells nothing. Compared in bytes: letters may have several. */
export function isSecret(given: string, right: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(right)];
  return a.length === b.length && timingSafeEqual(a, b);
}
