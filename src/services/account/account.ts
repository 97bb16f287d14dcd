import { createHash } from 'node:crypto';
import { and, count, desc, eq, gt, isNull, lt, sql } from 'drizzle-orm';
import { z } from 'zod';
import { fill, stepWordsIn } from '../../core/languages/languages';
import { orders, shopperLinks, shopperSessions } from '../../data/schema';
import type { Tx } from '../../data/database';
import type { Ctx } from '../context';
import { conflict, invalid, missing, unreachable } from '../errors';
import { newToken } from '../ids';
import type { Site } from '../sites/site';

/** How long the link of a letter holds, how long one stays signed in, in milliseconds; and where the session stands in the address, less long. */
export const LINK_MINUTES = 30;
const SESSION_MS = { site: 30 * 86_400_000, ordinary: 60 * 60_000 };
/** Letters to one address in a quarter of an hour: nobody's mailbox is flooded through a shop. */
const LETTERS = 3;
const QUARTER_MS = 15 * 60_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');
const address = z.email().max(200);

/**
 * Sends a letter with a link that opens the orders of an address. Told the same whether there are orders or not, so that
 * nobody learns who shops here.
 * @param page the account page that asked; believed only on an origin of this site.
 */
export async function sendLink(ctx: Ctx, site: Site, typed: string, page = ''): Promise<{ email: string }> {
  const w = stepWordsIn(site.row.locale);
  const parsed = address.safeParse(typed.trim());
  if (!parsed.success) throw invalid(w.needEmail, { field: 'email' });
  const email = parsed.data.toLowerCase();
  const now = ctx.now();
  const token = newToken();
  await ctx.store.write(async (tx) => {
    const [recent] = await tx
      .select({ n: count() })
      .from(shopperLinks)
      .where(
        and(
          eq(shopperLinks.siteId, site.row.id),
          eq(shopperLinks.email, email),
          gt(shopperLinks.createdAt, new Date(now.getTime() - QUARTER_MS)),
        ),
      );
    if ((recent?.n ?? 0) >= LETTERS) throw conflict(w.tooMany);
    await tx.insert(shopperLinks).values({
      hash: hashOf(token),
      siteId: site.row.id,
      email,
      createdAt: now,
      expiresAt: new Date(now.getTime() + LINK_MINUTES * 60_000),
    });
  });
  const link = isOwn(ctx, site, page)
    ? `${page.split('#')[0]}#orders=${token}`
    : `${ctx.addresses.shop}/${site.row.slug}/account/link/${token}`;
  const name = site.row.name;
  const text = `${fill(w.letterText, { x: name })}\n\n${link}\n\n${fill(w.letterEnd, { n: LINK_MINUTES })}\n`;
  try {
    if (!ctx.mail) throw new Error('no mail server is set (STALL_SMTP)');
    await ctx.mail.send({ to: email, fromName: name, subject: fill(w.letterSubject, { x: name }), text });
  } catch (error) {
    ctx.log.error(
      { site: site.row.id, error: error instanceof Error ? error.message : String(error) },
      'a letter could not be sent',
    );
    await ctx.store.write((tx) => tx.delete(shopperLinks).where(eq(shopperLinks.hash, hashOf(token))));
    throw unreachable(w.mailFailed);
  }
  return { email };
}

/** Links in letters lead to the site itself, live or draft, and nowhere that a stranger names. */
function isOwn(ctx: Ctx, site: Site, page: string): boolean {
  // Addresses that are not of the web all have the origin "null", and would pass for one another.
  if (!URL.canParse(page) || !/^https?:$/.test(new URL(page).protocol)) return false;
  const own = [site.row.liveUrl, ctx.addresses.draft(site.row.draftKey)]
    .filter((u) => URL.canParse(u))
    .map((u) => new URL(u).origin);
  return own.includes(new URL(page).origin);
}

/** The address a letter's link is for, without using it. @throws Refusal when it is used or too old. */
export async function linkIsFor(ctx: Ctx, site: Site, link: string): Promise<string> {
  const [row] = await ctx.store.db
    .select()
    .from(shopperLinks)
    .where(
      and(
        eq(shopperLinks.hash, hashOf(link)),
        eq(shopperLinks.siteId, site.row.id),
        isNull(shopperLinks.usedAt),
        gt(shopperLinks.expiresAt, ctx.now()),
      ),
    );
  if (!row) throw missing(stepWordsIn(site.row.locale).linkOld);
  return row.email;
}

/** Signs in with a letter's link, once. @returns the session's token; it is kept nowhere but with the shopper. */
export async function openSession(
  ctx: Ctx,
  site: Site,
  link: string,
  way: keyof typeof SESSION_MS,
): Promise<string> {
  const now = ctx.now();
  return ctx.store.write(async (tx) => {
    const [row] = await tx
      .update(shopperLinks)
      .set({ usedAt: now })
      .where(
        and(
          eq(shopperLinks.hash, hashOf(link)),
          eq(shopperLinks.siteId, site.row.id),
          isNull(shopperLinks.usedAt),
          gt(shopperLinks.expiresAt, now),
        ),
      )
      .returning();
    if (!row) throw missing(stepWordsIn(site.row.locale).linkOld);
    return insertSession(tx, site, row.email, way, now);
  });
}

async function insertSession(
  tx: Tx,
  site: Site,
  email: string,
  way: keyof typeof SESSION_MS,
  now: Date,
): Promise<string> {
  const token = newToken();
  await tx.insert(shopperSessions).values({
    hash: hashOf(token),
    siteId: site.row.id,
    email,
    createdAt: now,
    expiresAt: new Date(now.getTime() + SESSION_MS[way]),
  });
  return token;
}

/** A session for an address that has been proven already. */
export const beginSession = (
  ctx: Ctx,
  site: Site,
  email: string,
  way: keyof typeof SESSION_MS,
): Promise<string> => ctx.store.write((tx) => insertSession(tx, site, email, way, ctx.now()));

/** Whose session it is; nothing when it is over. */
export async function sessionEmail(ctx: Ctx, site: Site, session: string): Promise<string | undefined> {
  const [row] = await ctx.store.db
    .select()
    .from(shopperSessions)
    .where(
      and(
        eq(shopperSessions.hash, hashOf(session)),
        eq(shopperSessions.siteId, site.row.id),
        gt(shopperSessions.expiresAt, ctx.now()),
      ),
    );
  return row?.email;
}

export const closeSession = (ctx: Ctx, session: string) =>
  ctx.store.write((tx) => tx.delete(shopperSessions).where(eq(shopperSessions.hash, hashOf(session))));

/** Links and sessions that are over are forgotten, and the addresses with them. Runs in the background; nothing depends on it. */
export async function forgetOver(ctx: Ctx): Promise<void> {
  const now = ctx.now();
  await ctx.store.write(async (tx) => {
    // A link counts against a flood of letters for a quarter of an hour, which is less than it holds.
    await tx.delete(shopperLinks).where(lt(shopperLinks.expiresAt, now));
    await tx.delete(shopperSessions).where(lt(shopperSessions.expiresAt, now));
  });
}

/** Orders with an address, newest first; baskets that were never paid for are none. */
export const ordersWith = (ctx: Ctx, siteId: string, email: string) =>
  ctx.store.db
    .select()
    .from(orders)
    .where(
      and(
        eq(orders.siteId, siteId),
        sql`lower(json_extract(buyer, '$.email')) = ${email.toLowerCase()}`,
        sql`${orders.number} is not null`,
      ),
    )
    .orderBy(desc(orders.createdAt))
    .limit(200);
