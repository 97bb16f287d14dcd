import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { and, eq } from 'drizzle-orm';
import { stepWordsIn } from '../../core/languages/languages';
import { shoppers } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid, Refusal } from '../errors';
import type { Site } from '../sites/site';
import { beginSession } from './account';

/**
 * A password for shoppers who do not want a letter each time. It can be set only by who is signed in by a letter, so that an
 * address is proven before it has one; hashed by the sign-in library (scrypt).
 */
const LEAST = 10;
const MOST = 200;

const mine = (site: Site, email: string) =>
  and(eq(shoppers.siteId, site.row.id), eq(shoppers.email, email.trim().toLowerCase()));
/** Checked against when there is no such account, so that both answers take as long. */
let nobody: Promise<string> | undefined;

export async function setPassword(ctx: Ctx, site: Site, email: string, password: string): Promise<void> {
  if (password.length < LEAST || password.length > MOST)
    throw invalid(stepWordsIn(site.row.locale).passwordShort, { field: 'new-password' });
  const passwordHash = await hashPassword(password);
  await ctx.store.write((tx) =>
    tx
      .insert(shoppers)
      .values({ siteId: site.row.id, email: email.toLowerCase(), passwordHash, createdAt: ctx.now() })
      .onConflictDoUpdate({ target: [shoppers.siteId, shoppers.email], set: { passwordHash } }),
  );
}

export async function dropPassword(ctx: Ctx, site: Site, email: string): Promise<void> {
  await ctx.store.write((tx) => tx.delete(shoppers).where(mine(site, email)));
}

export async function hasPassword(ctx: Ctx, site: Site, email: string): Promise<boolean> {
  return (
    (await ctx.store.db.select({ e: shoppers.email }).from(shoppers).where(mine(site, email))).length > 0
  );
}

/** Opens a session by password. @throws Refusal, the same for an unknown address and a wrong password. */
export async function signInByPassword(
  ctx: Ctx,
  site: Site,
  email: string,
  password: string,
  way: 'site' | 'ordinary',
): Promise<string> {
  const [row] = await ctx.store.db.select().from(shoppers).where(mine(site, email));
  nobody ??= hashPassword('nobody has this password');
  const fits =
    password.length <= MOST &&
    (await verifyPassword({ hash: row?.passwordHash ?? (await nobody), password }));
  if (!row || !fits) throw new Refusal('denied', stepWordsIn(site.row.locale).wrongPassword);
  return beginSession(ctx, site, row.email, way);
}
