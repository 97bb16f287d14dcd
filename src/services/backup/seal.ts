import { createCipheriv, createDecipheriv, randomBytes, scrypt } from 'node:crypto';
import { z } from 'zod';
import { invalid } from '../errors';

/** How much it costs to try one pass phrase: about 64 MB and a tenth of a second (RFC 7914; N as OWASP has it for N = 2^16, from memory). */
const COST = { N: 2 ** 16, r: 8, p: 1, maxmem: 128 * 1024 * 1024 } as const;
const KEY_BYTES = 32;

/** Shorter ones are guessed by whoever has the file: nothing slows them down but the cost. */
export const SHORTEST_PHRASE = 12;

const sealed = z.object({
  kdf: z.literal('scrypt'),
  N: z.literal(COST.N),
  r: z.literal(COST.r),
  p: z.literal(COST.p),
  salt: z.string(),
  cipher: z.literal('aes-256-gcm'),
  iv: z.string(),
  tag: z.string(),
  data: z.string(),
});

const keyOf = (phrase: string, salt: Buffer): Promise<Buffer> =>
  new Promise((done, fail) =>
    scrypt(phrase.normalize('NFKC'), salt, KEY_BYTES, COST, (error, key) =>
      error ? fail(error) : done(key),
    ),
  );

/** Closes bytes with a pass phrase: a key by scrypt (RFC 7914), AES-256-GCM (NIST SP 800-38D). @returns JSON */
export async function seal(bytes: Uint8Array, phrase: string): Promise<string> {
  if (phrase.length < SHORTEST_PHRASE)
    throw invalid(
      `The pass phrase needs ${SHORTEST_PHRASE} characters or more: it is all that guards the secrets.`,
    );
  const [salt, iv] = [randomBytes(16), randomBytes(12)];
  const cipher = createCipheriv('aes-256-gcm', await keyOf(phrase, salt), iv);
  const data = Buffer.concat([cipher.update(bytes), cipher.final()]);
  const text = (b: Buffer) => b.toString('base64');
  return JSON.stringify({
    kdf: 'scrypt',
    N: COST.N,
    r: COST.r,
    p: COST.p,
    salt: text(salt),
    cipher: 'aes-256-gcm',
    iv: text(iv),
    tag: text(cipher.getAuthTag()),
    data: text(data),
  });
}

/** @throws Refusal for another pass phrase, or where anything was changed */
export async function unseal(text: string, phrase: string): Promise<Buffer> {
  const bytes = (b: string) => Buffer.from(b, 'base64');
  try {
    const s = sealed.parse(JSON.parse(text));
    const key = await keyOf(phrase, bytes(s.salt));
    const decipher = createDecipheriv('aes-256-gcm', key, bytes(s.iv), { authTagLength: 16 });
    decipher.setAuthTag(bytes(s.tag));
    return Buffer.concat([decipher.update(bytes(s.data)), decipher.final()]);
  } catch {
    throw invalid(
      'The pass phrase does not open the secrets of this backup. Look for a typing error; nothing was changed.',
    );
  }
}
