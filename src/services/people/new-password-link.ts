import { createHash } from 'node:crypto';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, gt } from 'drizzle-orm';
import { openStore, type Store } from '../../data/database';
import { user, verification } from '../../data/schema';
import { missing } from '../errors';
import { newId, newToken } from '../ids';

/** The link is good for that long, in milliseconds: as one that came by letter. */
const GOOD_MS = 60 * 60_000;

/**
 * The way to a new password for somebody who gets no letter, written down as the sign-in library writes its
 * own; a test has the library take it.
 * @throws Refusal when nobody has this address.
 */
export async function newPasswordLink(
  store: Store,
  { office, email, now }: { readonly office: string; readonly email: string; readonly now: Date },
): Promise<string> {
  const [person] = await store.db
    .select({ id: user.id })
    .from(user)
    .where(eq(user.email, email.trim().toLowerCase()));
  if (!person) throw missing(`Nobody comes into this office with the address ${email}.`);
  const token = newToken();
  const expiresAt = new Date(now.getTime() + GOOD_MS);
  await store.write((tx) =>
    tx.insert(verification).values({
      id: newId(),
      identifier: nameOf(token),
      value: person.id,
      expiresAt,
      createdAt: now,
      updatedAt: now,
    }),
  );
  return `${office}/new-password?token=${token}`;
}

/** How the sign-in library calls such a link (better-auth 1.7), hashed as it is told to. */
const nameOf = (token: string): string =>
  createHash('sha256').update(`reset-password:${token}`).digest('base64url');

/** Whether a link is good now: asked before anything is worked out for whoever brings it. */
export async function isPasswordLink(store: Store, token: string, now: Date): Promise<boolean> {
  const good = and(eq(verification.identifier, nameOf(token)), gt(verification.expiresAt, now));
  return (await store.db.$count(verification, good)) > 0;
}

/**
 * The same for a data folder, beside a server that is running or not. @throws Refusal where there is no such
 * folder.
 */
export async function newPasswordLinkIn(
  folder: string,
  migrations: string,
  asked: { readonly office: string; readonly email: string },
): Promise<string> {
  const file = join(folder, 'stall.db');
  if (!(await stat(file).catch(() => undefined))?.isFile())
    throw missing(`There is no data of Green Stall in ${folder}. Name the folder with --data DIR.`);
  const store = await openStore(`file:${file}`, migrations);
  try {
    return await newPasswordLink(store, { ...asked, now: new Date() });
  } finally {
    store.close();
  }
}
