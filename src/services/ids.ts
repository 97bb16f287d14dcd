import { randomBytes } from 'node:crypto';

/** Names a record: 40 random bits as hex. Unique by the database's key, not secret. */
export const newId = (): string => randomBytes(5).toString('hex');

/** Guards something: 128 random bits. */
export const newToken = (): string => randomBytes(16).toString('base64url');

/** A host name label that guards a draft: lower case only, 80 bits. */
export const newHostKey = (): string => BigInt(`0x${randomBytes(10).toString('hex')}`).toString(36);
