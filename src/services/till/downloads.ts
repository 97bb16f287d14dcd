import { createHash, createHmac } from 'node:crypto';
import { and, count, eq, gt, inArray, isNotNull, ne, sql } from 'drizzle-orm';
import {
  type Downloads,
  filesFor,
  mayFetch,
  newestFirst,
  noDownloads,
  type ReleaseFile,
} from '../../core/goods/downloads';
import { plainText } from '../goods/rich-text';
import type { Db, Tx } from '../../data/database';
import { downloadLinks, goods, orderBrowsers, orderEvents, orders, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { missing, Refusal } from '../errors';
import { piecesOf } from '../goods/available';
import { isSecret, newToken } from '../ids';
import type { Site } from '../sites/site';

/**
 * What an order bought to download. The page of an order belongs to the browser that opened it first; others name the
 * order's mail address, or come with a proof that somebody just did. Each press makes a way to one file: signed, good for a
 * day in that browser alone, and counted once when its first byte is asked for, however often it is resumed.
 */
type Order = typeof orders.$inferSelect;

/** How long a way to a file holds, for those who resume; and a proof that leads from an account to the files. */
const LINK_MS = 86_400_000;
const PROOF_MS = 10 * 60_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');
const signature = (ctx: Ctx, ...parts: readonly (string | number)[]): string =>
  createHmac('sha256', ctx.signing).update(parts.join('\n')).digest('base64url');

export interface DownloadFile extends ReleaseFile {
  readonly may: ReturnType<typeof mayFetch>;
}
export interface BoughtDownload {
  readonly goodsId: string;
  readonly variantId: string;
  readonly name: string;
  readonly releases: readonly {
    readonly name: string;
    readonly date: string;
    readonly notes: string;
    readonly files: readonly DownloadFile[];
  }[];
}

interface Thing {
  readonly goodsId: string;
  readonly variantId: string;
  readonly name: string;
  readonly quantity: number;
  readonly values: readonly string[];
  readonly downloads: Downloads;
}

/** Things of a paid order that are downloads: bought alone, or in a bundle. Products that are no longer sold are still theirs. */
async function thingsOf(db: Db | Tx, order: Order): Promise<Thing[]> {
  // An order to try things out was never paid for, and anybody may have made it.
  if (order.state !== 'paid' || order.test || order.lacks) return [];
  const pieces = await piecesOf(db, order.worked.lines);
  const rows = await db
    .select({ id: variants.id, values: variants.values, name: goods.name, details: goods.details })
    .from(variants)
    .innerJoin(goods, eq(goods.id, variants.goodsId))
    .where(
      inArray(
        variants.id,
        pieces.map((p) => p.variantId),
      ),
    );
  const known = new Map(rows.map((r) => [r.id, r]));
  return pieces.flatMap((p) => {
    const row = known.get(p.variantId);
    const own = row?.details.downloads ?? noDownloads;
    return row?.details.kind === 'download' && own.releases.length
      ? [{ ...p, name: row.name, values: row.values, downloads: own }]
      : [];
  });
}

const sinceOf = (order: Order): number =>
  Math.max(order.paidAt?.getTime() ?? 0, order.downloadsSince?.getTime() ?? 0);

/** How often each file was begun since it counts; by variant and file. @param but a link that is not counted. */
async function startsOf(db: Db | Tx, order: Order, but = ''): Promise<Map<string, number>> {
  const rows = await db
    .select({ variantId: downloadLinks.variantId, file: downloadLinks.file, n: count() })
    .from(downloadLinks)
    .where(
      and(
        eq(downloadLinks.orderId, order.id),
        isNotNull(downloadLinks.startedAt),
        order.downloadsSince ? gt(downloadLinks.startedAt, order.downloadsSince) : undefined,
        ne(downloadLinks.id, but),
      ),
    )
    .groupBy(downloadLinks.variantId, downloadLinks.file);
  return new Map(rows.map((r) => [`${r.variantId} ${r.file}`, r.n]));
}

export async function hasDownloads(db: Db | Tx, order: Order): Promise<boolean> {
  return (await thingsOf(db, order)).length > 0;
}

/** What an order bought to download, with how often each file may still be fetched. */
export async function downloadsOf(ctx: Ctx, order: Order): Promise<BoughtDownload[]> {
  const { db } = ctx.store;
  const [things, starts] = await Promise.all([thingsOf(db, order), startsOf(db, order)]);
  const now = ctx.now().getTime();
  return things.map((t) => ({
    goodsId: t.goodsId,
    variantId: t.variantId,
    name: t.name,
    releases: newestFirst(t.downloads).flatMap((r) => {
      const files = filesFor(r, t.values).map((f) => ({
        ...f,
        may: mayFetch(
          t.downloads,
          { since: sinceOf(order), quantity: t.quantity },
          starts.get(`${t.variantId} ${f.hash}`) ?? 0,
          now,
        ),
      }));
      return files.length || plainText(r.notes)
        ? [{ name: r.name, date: r.date, notes: r.notes, files }]
        : [];
    }),
  }));
}

/** Whether this browser may see what the order bought; the first to come may. @param cookie what it holds, or nothing yet. */
export async function knowsBrowser(ctx: Ctx, order: Order, cookie: string): Promise<boolean> {
  const own = await ctx.store.db
    .select({ hash: orderBrowsers.hash })
    .from(orderBrowsers)
    .where(eq(orderBrowsers.orderId, order.id));
  return cookie !== '' && own.some((o) => o.hash === hashOf(cookie));
}

/** Lets a browser in. @returns what its cookie is to hold; nothing when somebody was here first and there is no proof. */
export async function admit(
  ctx: Ctx,
  order: Order,
  cookie: string,
  proof: { readonly email?: string; readonly signed?: string },
): Promise<string | undefined> {
  const own = order.buyer.email.toLowerCase();
  const proven =
    (own !== '' && proof.email?.trim().toLowerCase() === own) ||
    (!!proof.signed && proofHolds(ctx, order, proof.signed));
  const token = cookie || newToken();
  return ctx.store.write(async (tx) => {
    const first = (await tx.$count(orderBrowsers, eq(orderBrowsers.orderId, order.id))) === 0;
    if (!proven && !first) return undefined;
    await tx
      .insert(orderBrowsers)
      .values({ hash: hashOf(token), orderId: order.id, createdAt: ctx.now() })
      .onConflictDoNothing();
    return token;
  });
}

/** For the address that leads from an account or an order lookup to the files: whoever came there has named the mail address. */
export function proofFor(ctx: Ctx, order: Order): string {
  const until = ctx.now().getTime() + PROOF_MS;
  return `${until.toString(36)}.${signature(ctx, 'files', order.id, until)}`;
}

function proofHolds(ctx: Ctx, order: Order, proof: string): boolean {
  const [time = '', given = ''] = proof.split('.');
  const until = Number.parseInt(time, 36);
  return until > ctx.now().getTime() && isSecret(given, signature(ctx, 'files', order.id, until));
}

const notHad = (why: 'used' | 'over') =>
  new Refusal(
    'denied',
    why === 'used' ? 'This file was fetched as often as was agreed.' : 'The time to fetch this file is over.',
    { why },
  );

/** Makes a way to one file. @returns its address beneath the order's page: signed, with when it ends. */
export async function wayToFile(
  ctx: Ctx,
  site: Site,
  order: Order,
  variantId: string,
  file: string,
): Promise<string> {
  const thing = (await downloadsOf(ctx, order)).find((t) => t.variantId === variantId);
  const found = thing?.releases.flatMap((r) => r.files).find((f) => f.hash === file);
  if (!thing || !found) throw missing('This file is not part of the order.');
  if (!found.may.may) throw notHad(found.may.why);
  const id = newToken();
  const now = ctx.now();
  const until = now.getTime() + LINK_MS;
  await ctx.store.write((tx) =>
    tx.insert(downloadLinks).values({
      id,
      orderId: order.id,
      goodsId: thing.goodsId,
      variantId,
      file,
      name: found.name,
      createdAt: now,
      expiresAt: new Date(until),
    }),
  );
  return `${ctx.addresses.shop}/${site.row.slug}/downloads/${order.token}/${id}/${encodeURIComponent(found.name)}?until=${until}&sig=${signature(ctx, 'file', id, until)}`;
}

/** A file by its signed way. It counts when its first byte is asked for: exactly, however many ask at once. */
export async function openFile(
  ctx: Ctx,
  order: Order,
  ask: { readonly link: string; readonly until: string; readonly sig: string; readonly starts: boolean },
): Promise<{ hash: string; name: string }> {
  const until = Number(ask.until);
  if (!(until > ctx.now().getTime()) || !isSecret(ask.sig, signature(ctx, 'file', ask.link, until)))
    throw new Refusal(
      'denied',
      'This address is over. Go back to the order\u2019s page and press the button again.',
    );
  const [link] = await ctx.store.db
    .select()
    .from(downloadLinks)
    .where(and(eq(downloadLinks.id, ask.link), eq(downloadLinks.orderId, order.id)));
  if (!link) throw missing('There is no such file.');
  if (!link.startedAt && ask.starts) await begin(ctx, order, link);
  return { hash: link.file, name: link.name };
}

async function begin(ctx: Ctx, order: Order, link: typeof downloadLinks.$inferSelect): Promise<void> {
  await ctx.store.write(async (tx) => {
    const thing = (await thingsOf(tx, order)).find((t) => t.variantId === link.variantId);
    const starts = (await startsOf(tx, order, link.id)).get(`${link.variantId} ${link.file}`) ?? 0;
    const now = ctx.now();
    const may = thing
      ? mayFetch(thing.downloads, { since: sinceOf(order), quantity: thing.quantity }, starts, now.getTime())
      : undefined;
    if (!may?.may) throw notHad(may?.why ?? 'over');
    const begun = await tx
      .update(downloadLinks)
      .set({ startedAt: now })
      .where(and(eq(downloadLinks.id, link.id), sql`started_at IS NULL`))
      .returning({ id: downloadLinks.id });
    if (begun.length)
      await tx.insert(orderEvents).values({
        orderId: order.id,
        at: now,
        what: `Fetched ${link.name}`,
        detail: may.left === null ? '' : `${may.left - 1} more ${may.left === 2 ? 'time' : 'times'}`,
      });
  });
}

/** Lets a buyer begin anew: times and days count from now. */
export async function letFetchAgain(ctx: Ctx, site: Site, orderId: string): Promise<void> {
  await ctx.store.write(async (tx) => {
    const now = ctx.now();
    const changed = await tx
      .update(orders)
      .set({ downloadsSince: now })
      .where(and(eq(orders.id, orderId), eq(orders.siteId, site.row.id), eq(orders.state, 'paid')))
      .returning({ id: orders.id });
    if (changed.length === 0) throw missing('This order is not known here.');
    await tx.insert(orderEvents).values({
      orderId,
      at: now,
      what: 'Files may be fetched anew',
      detail: 'Times and days count from now',
    });
  });
}
