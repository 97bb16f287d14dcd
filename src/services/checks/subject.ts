import { eq, sql } from 'drizzle-orm';
import type { GoodsFacts, LiveFacts, SiteFacts, Subject } from '../../core/checks/subject';
import type { SeenPage } from '../../core/checks/seen';
import { walkable } from '../../core/checks/ways/ways';
import type { WrittenPage } from '../../core/checks/written/facts';
import type { CategoryNode } from '../../core/goods/category';
import { shapeIn } from '../../core/look/look';
import { badgeLetters } from '../../core/storefront/badge-room';
import { pictureSize } from '../../core/site/pictures';
import type { Product } from '../../core/goods/product';
import { goods as goodsTable, liveSeen, pagesSeen, priceHistory, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { lettersWaiting } from '../mail/letters-waiting';
import type { Rendering } from '../publishing/render';
import { countryName } from '../rules/countries';
import { readRules } from '../rules/rules';
import { listCategories } from '../goods/categories';
import { again } from '../sites/connections';
import { deliveryOf } from '../sites/deliveries';
import { dressedIn } from '../sites/look';
import { driftOf } from '../sites/look-changes';
import type { Site } from '../sites/site';
import { draftState, sellsIn } from '../sites/state';
import { connected } from '../till/providers';
import { Recent } from '../cache';

/** What the checks read, of one state of a site. */
export async function subjectOf(
  ctx: Ctx,
  site: Site,
  r: Rendering,
  pages: readonly WrittenPage[],
  versionOf: (path: string) => string,
): Promise<Subject> {
  const [rules, facts, seen, live, look, drift, letters] = await Promise.all([
    readRules(ctx.store.db, site.row.id),
    goodsFacts(ctx, r),
    seenPages(ctx, site.row.id, versionOf),
    lastLive(ctx, site.row.id),
    dressedIn(ctx, site, (await draftState(ctx, site)).look),
    driftOf(ctx, site),
    lettersWaiting(ctx, site.row.id),
  ]);
  const shape = shapeIn(look.look);
  return {
    now: ctx.now().getTime(),
    site: await siteFacts(ctx, site, r),
    ...walkable(pages),
    shopPages: r.shopPages.map(({ part, path, address, name }) => ({ part, path, address, name })),
    placements: new Map(r.placements.map((p) => [p.id, p])),
    menu: r.menu,
    repairs: r.repairs,
    sells: sellsIn(r),
    goods: facts,
    till: {
      rules,
      connected: connected(ctx),
      letters,
      countryName: (code) => countryName(code, 'en'),
    },
    look: {
      proofs: [...look.light.proofs, ...(look.dark?.proofs ?? [])],
      drift: drift.length,
      picture: shape.picture,
      badgeRoom: badgeLetters(shape),
    },
    live,
    seen,
  };
}

async function siteFacts(ctx: Ctx, site: Site, r: Rendering): Promise<SiteFacts> {
  const { row, reading } = site;
  return {
    slug: row.slug,
    name: row.name,
    liveUrl: row.liveUrl,
    currency: row.currency,
    locale: row.locale,
    country: row.setUp?.country ?? '',
    shopUrl: `${ctx.addresses.shop}/${row.slug}`,
    scriptUrl: `${ctx.addresses.shop}/stall.js`,
    switches: reading.moves.how === 'switches',
    isLive: row.publicationId !== null,
    handIn: handInFor(row.connection),
    byHand: deliveryOf(row.delivery).byHand,
    shopName: r.shop?.name ?? '',
    mapped: await mapped(ctx, site),
    policies: await policiesIn(ctx, site),
  };
}

function handInFor(connection: Site['row']['connection']): string {
  const origin = again(connection);
  return 'handIn' in origin ? origin.handIn : '';
}

/** A file of the site's as text; '' where there is none. */
async function textFile(ctx: Ctx, site: Site, path: string): Promise<string> {
  const hash = site.manifest[path];
  return hash ? (await ctx.blobs.get(hash)).subarray(0, 2_000_000).toString('utf8') : '';
}

/** Addresses that the owner's own site map names (sitemaps.org 0.9). */
async function mapped(ctx: Ctx, site: Site): Promise<string[]> {
  const text = await textFile(ctx, site, 'sitemap.xml');
  return [...text.matchAll(/<loc>\s*([^<]+?)\s*<\/loc>/gi)].map((m) => (m[1] ?? '').replace(/&amp;/g, '&'));
}

/** Policies that files of the host set for all pages: "_headers" as several hosts read it; common practice. */
async function policiesIn(ctx: Ctx, site: Site): Promise<string[]> {
  const text = await textFile(ctx, site, '_headers');
  return [...text.matchAll(/^\s+content-security-policy:\s*(.+)$/gim)].map((m) => m[1] ?? '');
}

const sizes = new Recent<string, { width: number; height: number } | undefined>(20_000);
/** Bytes of a picture in which its size stands, all but always. */
const HEAD = 128 * 1024;

async function goodsFacts(ctx: Ctx, r: Rendering): Promise<GoodsFacts> {
  const siteId = r.site.row.id;
  const { goods } = r;
  const [counts, categories, highest] = await Promise.all([
    countsNow(ctx, siteId),
    listCategories(ctx, siteId),
    chargedBefore(ctx, siteId),
  ]);
  const fresh = new Map<Product, Product>();
  const now = (p: Product): Product => {
    const known = fresh.get(p);
    if (known) return known;
    const made = p.variants.every((v) => (counts.get(v.id) ?? null) === v.stock)
      ? p
      : { ...p, variants: p.variants.map((v) => ({ ...v, stock: counts.get(v.id) ?? null })) };
    fresh.set(p, made);
    return made;
  };
  const all = goods.all.map(now);
  const shown = goods.shown.map(now);
  const counted = new Map<string, number>();
  const count = (nodes: readonly CategoryNode[]) => {
    for (const n of nodes) {
      counted.set(n.path, n.count);
      count(n.children);
    }
  };
  count(goods.tree);
  return {
    all,
    shown,
    bySlug: new Map([...goods.bySlug].map(([slug, p]) => [slug, now(p)])),
    categories: categories.map((c) => ({ path: c.path, slug: c.slug, count: counted.get(c.path) ?? 0 })),
    pathNow: goods.pathNow,
    chargedBefore: highest,
    pictures: await sizesOf(ctx, shown),
  };
}

/** Pieces there are now: sales do not make the goods' version grow. */
async function countsNow(ctx: Ctx, siteId: string): Promise<Map<string, number | null>> {
  const rows = await ctx.store.db
    .select({ id: variants.id, stock: variants.stock })
    .from(variants)
    .innerJoin(goodsTable, eq(goodsTable.id, variants.goodsId))
    .where(eq(goodsTable.siteId, siteId));
  return new Map(rows.map((row) => [row.id, row.stock]));
}

const DAYS_30 = 30 * 86_400_000;

/** The highest price that is known of each product, where it is known for thirty days: of a newer one nobody can say what it cost before. */
async function chargedBefore(ctx: Ctx, siteId: string): Promise<Map<string, number>> {
  const since = ctx.now().getTime() - DAYS_30;
  const rows = await ctx.store.db
    .select({
      id: priceHistory.goodsId,
      most: sql<number>`max(${priceHistory.price})`,
      first: sql<number>`min(${priceHistory.at})`,
    })
    .from(priceHistory)
    .innerJoin(goodsTable, eq(goodsTable.id, priceHistory.goodsId))
    .where(eq(goodsTable.siteId, siteId))
    .groupBy(priceHistory.goodsId);
  return new Map(rows.filter((row) => row.first <= since).map((row) => [row.id, row.most]));
}

async function sizesOf(
  ctx: Ctx,
  products: readonly Product[],
): Promise<Map<string, { width: number; height: number }>> {
  const out = new Map<string, { width: number; height: number }>();
  for (const p of products) {
    const hash = p.pictures[0]?.hash;
    if (!hash) continue;
    const size = await sizes.get(hash, async () =>
      pictureSize((await ctx.blobs.get(hash).catch(() => Buffer.alloc(0))).subarray(0, HEAD)),
    );
    if (size) out.set(hash, size);
  }
  return out;
}

/** What a browser saw of pages; not of those that are written otherwise since. */
async function seenPages(
  ctx: Ctx,
  siteId: string,
  versionOf: (path: string) => string,
): Promise<Map<string, SeenPage>> {
  const rows = await ctx.store.db.select().from(pagesSeen).where(eq(pagesSeen.siteId, siteId));
  return new Map(
    rows.filter((row) => row.seen.version === versionOf(row.path)).map((row) => [row.path, row.seen]),
  );
}

async function lastLive(ctx: Ctx, siteId: string): Promise<LiveFacts | null> {
  const [row] = await ctx.store.db.select().from(liveSeen).where(eq(liveSeen.siteId, siteId));
  return row?.live ?? null;
}
