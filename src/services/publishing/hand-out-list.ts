import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { describePlacement, writePlacement } from '../../core/placement/placement';
import { arrivalOn, type Arrival, menuItemOn, scriptOn } from '../../core/placement/hand-out/arrival';
import { hostOffers, type Pasted, usualPasted } from '../../core/placement/hand-out/pasted';
import {
  type HandedPlacement,
  type HandedState,
  type Piece,
  piecesOf,
} from '../../core/placement/hand-out/pieces';
import { pagesIn } from '../../core/placement/reach';
import type { PagePath } from '../../core/site/paths';
import { handOuts, sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, isRefusal } from '../errors';
import { liveAddress, liveUrlOf, partAddress, shopUrl } from '../sites/addresses';
import { liveUrlSchema } from '../sites/bring-in';
import { fetchPage } from '../sites/hand-out';
import { pageName } from '../sites/names';
import { currentPublication, loadSite, productNames, type Site } from '../sites/site';
import { publishedState, sellsIn } from '../sites/state';
import { placeContext, type Rendering, rendering } from './render';

/** A page that was looked at for a piece, and what was seen there. */
export interface Looked {
  readonly url: string;
  readonly name: string;
  /** Nothing where nobody has looked yet. */
  readonly seen: {
    readonly found: boolean;
    /** It stands there as it is handed out today. */
    readonly isToday: boolean;
    readonly message: string;
    readonly at: string;
  } | null;
}

export interface PieceLine extends Omit<Piece, 'pages'> {
  readonly pages: readonly Looked[];
  readonly state: 'new' | 'there' | 'missing';
}

/** Something that was pasted, stands on the live site still, and sells nothing any more. */
export interface ToTakeOut {
  readonly placement: string;
  readonly name: string;
  readonly url: string;
}

/** Everything that the owner of a site which only they can write pastes there, and how it stands. */
export interface HandOutView {
  readonly offers: Pasted['offers'];
  readonly shopPage: string;
  /** An address that the shop page could have. */
  readonly suggested: string;
  /** Something is live: there is something to paste. */
  readonly published: boolean;
  readonly sells: boolean;
  readonly pieces: readonly PieceLine[];
  readonly out: readonly ToTakeOut[];
}

/** Pages that are fetched at the same time: a host must not feel it. */
const AT_ONCE = 4;

const asked = z.object({
  offers: hostOffers.optional(),
  shopPage: z
    .union([
      z.literal(''),
      z
        .url({ protocol: /^https?$/, error: 'Enter the whole address of the page, with https:// in front.' })
        .max(2_000),
    ])
    .optional(),
});

/** What is to be pasted, as it is published: nothing that still waits on the slip is on it. */
export async function handOutView(ctx: Ctx, site: Site): Promise<HandOutView> {
  const [pieces, rows, names, publication] = await Promise.all([
    piecesFor(ctx, site),
    rowsOf(ctx, site),
    productNames(ctx, site.row.id),
    currentPublication(ctx, site.row),
  ]);
  const { offers, shopPage } = site.row.pasted ?? usualPasted;
  const seenAt = (piece: Piece, url: string): Looked['seen'] => {
    const row = rows.find(
      (r) => r.placementId === rowId(piece) && r.spelling === piece.spelling && r.url === url,
    );
    return row
      ? {
          found: row.found,
          isToday: row.found && row.state !== 'older',
          message: row.message,
          at: row.lookedAt.toISOString(),
        }
      : null;
  };
  const lines = pieces.map(({ pages, ...piece }): PieceLine => {
    const looked = pages.map((url) => ({
      url,
      name: nameAt(site, url),
      seen: seenAt({ pages, ...piece }, url),
    }));
    return { ...piece, pages: looked, state: stateOf(looked) };
  });
  const wanted = new Set(pieces.map(rowId));
  const placed = new Map(
    (publication?.placements ?? []).map((p) => [p.id, describePlacement(p, (s) => names.get(s))]),
  );
  return {
    offers,
    shopPage,
    suggested: liveUrlOf(site, `${new URL(site.row.liveUrl).pathname}${site.row.shop?.slug ?? 'shop'}`),
    published: publication !== undefined,
    sells: publication !== undefined && sellsIn(publishedState(publication)),
    pieces: lines,
    out: rows
      .filter((r) => r.found && !wanted.has(r.placementId) && !placed.has(r.placementId))
      .map((r) => ({ placement: r.placementId, name: nameOfRow(r.placementId, r.kind), url: r.url })),
  };
}

const stateOf = (looked: readonly Looked[]): PieceLine['state'] => {
  if (looked.some(({ seen }) => seen && !seen.isToday)) return 'missing';
  return looked.every(({ seen }) => seen?.isToday) ? 'there' : 'new';
};

/** Items of the menu are kept by their label, which may be any words. */
const rowId = (piece: Pick<Piece, 'id'>): string => piece.id.slice(0, 120);

const nameOfRow = (id: string, kind: string): string => {
  if (id === 'script') return 'The script';
  if (id.startsWith('menu:')) return `The menu item \u201c${id.slice(5)}\u201d`;
  return kind === 'shop' ? 'The shop front' : `A widget of kind ${kind}`;
};

const nameAt = (site: Site, url: string): string => {
  const page = site.reading.pages.find((p) => liveAddress(site, p.path) === url);
  return page ? pageName(site, page.path) : new URL(url).pathname;
};

const rowsOf = (ctx: Ctx, site: Site) =>
  ctx.store.db.select().from(handOuts).where(eq(handOuts.siteId, site.row.id));

/** The pieces of what is live; none where nothing is. */
async function piecesFor(ctx: Ctx, site: Site): Promise<Piece[]> {
  const publication = await currentPublication(ctx, site.row);
  if (!publication) return [];
  const state = publishedState(publication);
  const live =
    publication.snapshotId === site.row.snapshotId
      ? site
      : await loadSite(ctx, { id: site.row.id }, publication.snapshotId);
  const r = await rendering(ctx, live, state);
  const front = live.reading.pages[0]?.path ?? ('index.html' as PagePath);
  const context = placeContext(ctx, r, front, 'anywhere');
  const { offers, shopPage } = site.row.pasted ?? usualPasted;
  const shopHome = partAddress(site, 'shop', 'named') ?? `${shopUrl(ctx, site)}/goods`;
  const handed: HandedState = {
    offers,
    script: context.scriptTag ?? '',
    front: liveAddress(live, front),
    placements: r.placements.map((p) => handedPlacement(ctx, r, p)),
    shopPage,
    shopName: state.shop?.name ?? 'Shop',
    shopUrl: shopUrl(ctx, site),
    shopHome: `${shopUrl(ctx, site)}/goods`,
    sells: sellsIn(state),
    menu: state.menu.flatMap((c) =>
      c.do === 'add' ? [{ label: c.label, to: leadsTo(live, r, c.to, shopHome) }] : [],
    ),
  };
  return piecesOf(handed);
}

/** Where an item of the menu leads on the live site: the shop where it is, other pages where they are. */
function leadsTo(site: Site, r: Rendering, to: string, shopHome: string): string {
  if (/^https?:/.test(to)) return to;
  return r.shopPages.some((p) => p.part === 'shop' && p.address === to) ? shopHome : liveUrlOf(site, to);
}

function handedPlacement(
  ctx: Ctx,
  r: Rendering,
  placement: Rendering['placements'][number],
): HandedPlacement {
  const pages = pagesIn(r.site.reading, placement.reach) as PagePath[];
  const context = placeContext(ctx, r, pages[0] ?? ('index.html' as PagePath), 'anywhere');
  return {
    placement,
    name: describePlacement(placement, (slug) => r.names.get(slug)),
    pages: pages.map((path) => liveAddress(r.site, path)),
    everywhere: placement.reach.to === 'every',
    write: (spelling) => writePlacement({ ...placement, spelling }, context) ?? '',
  };
}

/** What the host offers, and where the shop page is. @throws Refusal for an address that is none, or on another host than the site */
export async function setHandOut(ctx: Ctx, site: Site, value: unknown): Promise<HandOutView> {
  onlyPasted(site);
  const parsed = asked.safeParse(value);
  if (!parsed.success)
    throw invalid(parsed.error.issues[0]?.message ?? 'Check what you filled in.', { field: 'shopPage' });
  const now = site.row.pasted ?? usualPasted;
  const shopPage = parsed.data.shopPage ?? now.shopPage;
  if (shopPage && !isOnSite(site, shopPage))
    throw invalid(
      `The shop page has to be on your own site (${new URL(site.row.liveUrl).host}): carts are kept by the site that they are on.`,
      { field: 'shopPage' },
    );
  const pasted: Pasted = {
    offers: parsed.data.offers ?? now.offers,
    shopPage,
    // At another address nobody has seen it yet.
    stands: now.stands && shopPage === now.shopPage,
  };
  await ctx.store.write((tx) => tx.update(sites).set({ pasted }).where(eq(sites.id, site.row.id)));
  ctx.changed(site.row.id);
  return handOutView(ctx, await loadSite(ctx, { id: site.row.id }));
}

function isOnSite(site: Site, address: string): boolean {
  const host = (url: string) => new URL(url).host.replace(/^www\./, '');
  return host(address) === host(site.row.liveUrl) && liveUrlSchema.safeParse(new URL(address).origin).success;
}

function onlyPasted(site: Site): void {
  if (site.row.delivery.to !== 'paste')
    throw conflict('Green Stall writes this site itself: nothing has to be pasted.');
}

/** Looks on the live site for one piece, or for all of them, and for what should be gone. */
export async function lookForPieces(ctx: Ctx, site: Site, id?: string): Promise<HandOutView> {
  onlyPasted(site);
  const pieces = await piecesFor(ctx, site);
  const asked = pieces.filter((p) => id === undefined || p.id === id);
  const questions = asked.flatMap((piece) => piece.pages.map((url) => ({ piece, url })));
  for (let n = 0; n < questions.length; n += AT_ONCE)
    await Promise.all(questions.slice(n, n + AT_ONCE).map((q) => lookAt(ctx, site, q.piece, q.url)));
  if (id === undefined) await lookForGone(ctx, site, new Set(pieces.map(rowId)));
  await noteShopPage(ctx, site, pieces);
  return handOutView(ctx, await loadSite(ctx, { id: site.row.id }));
}

async function lookAt(ctx: Ctx, site: Site, piece: Piece, url: string): Promise<void> {
  const seen = await seenAt(ctx, site, piece, url);
  const row = { found: seen.found, message: seen.message, state: seen.state, lookedAt: ctx.now() };
  await ctx.store.write((tx) =>
    tx
      .insert(handOuts)
      .values({
        siteId: site.row.id,
        placementId: rowId(piece),
        kind: piece.kind,
        spelling: piece.spelling,
        url,
        ...row,
      })
      .onConflictDoUpdate({
        target: [handOuts.siteId, handOuts.placementId, handOuts.spelling, handOuts.url],
        set: row,
      }),
  );
}

async function seenAt(ctx: Ctx, site: Site, piece: Piece, url: string): Promise<Arrival> {
  try {
    const { page, url: at } = await fetchPage(ctx, url);
    const shop = shopUrl(ctx, site);
    if (piece.what === 'script') return scriptOn(page, shop, piece.code, at);
    if (piece.what === 'menu') return menuItemOn(page, at, piece.label ?? '', piece.to ?? '');
    const wanted = {
      kind: piece.kind,
      spelling: piece.spelling,
      code: piece.code,
      placement: piece.id,
      shop,
    };
    return arrivalOn(page, wanted, at);
  } catch (error) {
    if (!isRefusal(error)) throw error;
    return { found: false, state: 'absent', message: error.message };
  }
}

/** What is not wanted any more and was seen: once it is gone it is forgotten. */
async function lookForGone(ctx: Ctx, site: Site, wanted: ReadonlySet<string>): Promise<void> {
  const publication = await currentPublication(ctx, site.row);
  const placed = new Set((publication?.placements ?? []).map((p) => p.id));
  for (const row of await rowsOf(ctx, site)) {
    if (wanted.has(row.placementId) || placed.has(row.placementId)) continue;
    const still = await stillThere(ctx, site, row);
    if (still) continue;
    await ctx.store.write((tx) =>
      tx
        .delete(handOuts)
        .where(
          and(
            eq(handOuts.siteId, row.siteId),
            eq(handOuts.placementId, row.placementId),
            eq(handOuts.spelling, row.spelling),
            eq(handOuts.url, row.url),
          ),
        ),
    );
  }
}

async function stillThere(ctx: Ctx, site: Site, row: typeof handOuts.$inferSelect): Promise<boolean> {
  const shop = shopUrl(ctx, site);
  try {
    const { page, url } = await fetchPage(ctx, row.url);
    if (row.placementId === 'script') return scriptOn(page, shop, '', url).state !== 'no-script';
    if (row.kind === 'menu')
      return menuItemOn(page, url, '', partAddress(site, 'shop', 'named') ?? `${shop}/goods`).found;
    return (
      arrivalOn(page, { kind: row.kind, spelling: row.spelling, placement: row.placementId, shop }, url)
        .state !== 'absent'
    );
  } catch (error) {
    if (!isRefusal(error)) throw error;
    // A page that does not answer may hold it still.
    return !/answers (404|410)/.test(error.message);
  }
}

/** Shoppers are led to the shop's own page as long as the shop front is there. */
async function noteShopPage(ctx: Ctx, site: Site, pieces: readonly Piece[]): Promise<void> {
  const { pasted } = site.row;
  if (!pasted) return;
  const rows = await rowsOf(ctx, site);
  const front = pieces.find((p) => p.what === 'shop');
  // As it is handed out today: what was seen of another way of writing it was seen before.
  const stands = rows.some(
    (r) =>
      r.placementId === front?.id && r.spelling === front.spelling && r.url === pasted.shopPage && r.found,
  );
  if (stands === pasted.stands) return;
  await ctx.store.write((tx) =>
    tx
      .update(sites)
      .set({ pasted: { ...pasted, stands } })
      .where(eq(sites.id, site.row.id)),
  );
  ctx.changed(site.row.id);
}
