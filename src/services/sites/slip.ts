import { and, desc, eq, gt, inArray, isNull } from 'drizzle-orm';
import type { MenuChange } from '../../core/placement/menu-change';
import { describePlacement, standsWhere, type Placement } from '../../core/placement/placement';
import { reachIn } from '../../core/placement/reach';
import type { ShopAddress } from '../../core/site/set-up';
import { formatMoney } from '../../core/money/format';
import { goods, liveChanges, publications, variants } from '../../data/schema';
import type { GoodsChange } from '../../data/schema/goods';
import { canonical } from '../../core/json';
import type { Ctx } from '../context';
import { describeMenuChange } from './menus';
import { pageName, placeName } from './names';
import { namesIn, partOf } from '../../core/change';
import type { Repair } from '../../core/placement/repair';
import { byId, difference, publishedState, repairsBetween, sellsIn, type SiteState } from './state';
import { publishedLook } from './look';
import { lookLines } from './look-lines';
import { shopPagesOf } from './shop-places';
import { currentPublication, draftPlacements, productNames, type Publication, type Site } from './site';

export interface WaitingLine {
  readonly id: string;
  /** Page or "Every page": lines are grouped under it. */
  readonly where: string;
  readonly what: string;
  readonly pages: readonly string[];
}

export interface LiveLine {
  readonly id: number;
  readonly where: string;
  readonly what: string;
  readonly from?: string;
  readonly to?: string;
  readonly at: string;
}

export interface PastSlip {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly changes: number;
  readonly pages: number;
  /** What is live now. */
  readonly current: boolean;
  /** Going back to it brings the owner's own pages back as they were then, too. */
  readonly otherPages: boolean;
}

export interface Slip {
  readonly waiting: readonly WaitingLine[];
  /** Pages that publishing will write, shop pages among them. */
  readonly pages: number;
  readonly shopPages: 'added' | 'removed' | 'same';
  /** The pages that come or go with that, by name. */
  readonly builtPages: readonly string[];
  readonly live: readonly LiveLine[];
  readonly past: readonly PastSlip[];
}

/** How long a live change can be undone from the slip, and how many are shown. */
const UNDO_DAYS = 7;
const SHOWN = 12;

/** The menu's changes are undone together: later ones stand on earlier ones. */
export const MENU = 'menu';

/** What waits of the menu, in words; changes that were published already are none. */
export function menuLines(published: readonly MenuChange[], draft: readonly MenuChange[]): string[] {
  if (canonical(published) === canonical(draft)) return [];
  const known = new Set(published.map(canonical));
  const added = draft.filter((c) => !known.has(canonical(c))).map(describeMenuChange);
  return [added.length ? added.join('; ') : 'Menu: as the owner made it'];
}

/** Repairs of the owner's pages are undone one by one: their ids begin so. */
export const REPAIR = 'mend-';

/** What waits of small changes to the owner's own pages: one line to each. */
export function repairLines(
  published: readonly Repair[],
  draft: readonly Repair[],
): { readonly id: string; readonly page: string; readonly what: string }[] {
  const change = repairsBetween(published, draft);
  return namesIn(change).flatMap((id) => {
    const { before, after } = partOf(change, id);
    const either = after ?? before;
    return either
      ? [{ id, page: either.page, what: after ? after.words : `as it was: ${either.words}` }]
      : [];
  });
}

/** The shop's own page, and what was added with it, are undone together. */
export const SHOP = 'shop';

/** Decisions on the look are undone one by one: this and their name. */
export const LOOK = 'look:';

/** What waits of the shop's own page, in words. */
export function shopLines(published: ShopAddress | null, draft: ShopAddress | null): string[] {
  if (canonical(published) === canonical(draft)) return [];
  if (!draft) return [`${published?.name ?? 'Shop'} page taken out`];
  if (!published)
    return [
      `${draft.name} page built at /${draft.front ? '' : draft.slug}${draft.made.menu ? ', in the menu' : ''}${draft.made.cart ? ', with the cart in every header' : ''}`,
    ];
  const lines = [
    published.front !== draft.front &&
      (draft.front ? 'Shop is the front page' : 'Your own front page is back'),
    published.slug !== draft.slug &&
      `Shop moved from /${published.slug} to /${draft.slug}; the old address leads on`,
    published.name !== draft.name && `Shop is called ${draft.name}`,
  ].filter((t): t is string => !!t);
  return lines.length ? [lines.join('; ')] : [];
}

/** The slip is computed from draft, publication and the record of live changes; no list of its own can disagree. */
export async function readSlip(ctx: Ctx, site: Site): Promise<Slip> {
  const [draft, publication, names, live, past] = await Promise.all([
    draftPlacements(ctx, site.row.id),
    currentPublication(ctx, site.row),
    productNames(ctx, site.row.id),
    liveLines(ctx, site),
    ctx.store.db
      .select()
      .from(publications)
      .where(eq(publications.siteId, site.row.id))
      .orderBy(desc(publications.createdAt))
      .limit(6),
  ]);
  const published = publishedState(publication);
  const { menu, shop, repairs, look } = site.row;
  const now: SiteState = { placements: draft, menu, shop, repairs, look };
  const every = site.reading.pages.map((p) => p.path);
  const waiting = [
    ...shopLines(published.shop, now.shop).map((what) => ({ id: SHOP, where: 'Selling', what, pages: [] })),
    ...menuLines(published.menu, now.menu).map((what) => ({
      id: MENU,
      where: 'Every page',
      what,
      pages: every,
    })),
    ...repairLines(published.repairs, now.repairs).map(({ id, page, what }) => ({
      id,
      where: pageName(site, page),
      what,
      pages: [page],
    })),
    ...waitingLines(site, published.placements, draft, isNewer(site, publication), (slug) => names.get(slug)),
    ...(await lookLines(ctx, site, await publishedLook(ctx, site, publication), look)).map(
      ({ name, what }) => ({
        id: `${LOOK}${name}`,
        where: 'Look',
        what,
        pages: [],
      }),
    ),
    ...newerLines(site, publication),
  ];
  const changed = sellsIn(now) ? 'added' : 'removed';
  // Where the owner pastes code, no page is built.
  const isSame = sellsIn(now) === sellsIn(published) || site.row.delivery.to === 'paste';
  const shopPages = isSame ? 'same' : changed;
  return {
    waiting,
    live,
    shopPages,
    builtPages:
      shopPages === 'same'
        ? []
        : shopPagesOf(site, (shopPages === 'added' ? now : published).shop)
            .filter((p) => p.part !== 'moved' && p.part !== 'home')
            .map((p) => p.name),
    pages: new Set(waiting.flatMap((w) => w.pages)).size,
    past: past.map((p) => ({
      id: p.id,
      at: p.createdAt.toISOString(),
      by: p.by,
      changes: p.changes,
      pages: p.pages,
      current: p.id === site.row.publicationId,
      otherPages: p.snapshotId !== site.row.snapshotId,
    })),
  };
}

/** Whether the draft stands on another version of the owner's files than what is live. */
export const isNewer = (site: Site, publication: Publication | undefined): boolean =>
  publication !== undefined && publication.snapshotId !== site.row.snapshotId;

/** The owner's own files came in anew since the last publishing: that waits too. */
export function newerLines(site: Site, publication: Publication | undefined): WaitingLine[] {
  if (!isNewer(site, publication)) return [];
  return [{ id: NEWER, where: 'Your own pages', what: 'A newer version of the site', pages: [] }];
}
export const NEWER = 'newer';

/** One line to each placement that is not as it is published; in the order in which they were placed. */
function waitingLines(
  site: Site,
  published: readonly Placement[],
  draft: readonly Placement[],
  newer: boolean,
  productName: (slug: string) => string | undefined,
): WaitingLine[] {
  const change = difference(published, draft, newer);
  return Object.keys({ ...byId(published), ...byId(draft) }).flatMap((id) => {
    const { before, after } = partOf(change, id);
    const either = after ?? before;
    return either ? [waitingLine(site, { id, before, after, either }, productName)] : [];
  });
}

interface Line {
  readonly id: string;
  readonly before: Placement | undefined;
  readonly after: Placement | undefined;
  /** Whichever there is. */
  readonly either: Placement;
}

function waitingLine(
  site: Site,
  { id, before, after, either: p }: Line,
  productName: (slug: string) => string | undefined,
): WaitingLine {
  const what = describePlacement(p, productName);
  const within = reachIn(site.reading);
  const pages = site.reading.pages
    .filter((page) => [before, after].some((x) => x && within(x.reach, page.path)))
    .map((page) => page.path);
  return { id, where: placeName(site, p), what: `${what} ${verbOf(before, after)}`, pages };
}

function verbOf(before: Placement | undefined, after: Placement | undefined): string {
  if (!after) return 'taken away';
  if (!before) return `added ${standsWhere(after)}`;
  const moved =
    before.pitch.path !== after.pitch.path ||
    before.pitch.side !== after.pitch.side ||
    (before.settings.floats === true) !== (after.settings.floats === true);
  return moved ? `moved ${standsWhere(after)}` : 'changed';
}

async function liveLines(ctx: Ctx, site: Site): Promise<LiveLine[]> {
  const since = new Date(ctx.now().getTime() - UNDO_DAYS * 86_400_000);
  const changes = await ctx.store.db
    .select()
    .from(liveChanges)
    .where(and(eq(liveChanges.siteId, site.row.id), isNull(liveChanges.undoneAt), gt(liveChanges.at, since)))
    .orderBy(desc(liveChanges.id))
    .limit(SHOWN);
  const single = changes.flatMap((c) => ('act' in c.detail ? c.detail.changes.slice(0, 1) : [c.detail]));
  const [names, choices] = await Promise.all([
    ctx.store.db
      .select({ id: goods.id, name: goods.name })
      .from(goods)
      .where(
        inArray(
          goods.id,
          single.map((d) => d.goodsId),
        ),
      ),
    ctx.store.db
      .select({ id: variants.id, values: variants.values })
      .from(variants)
      .where(
        inArray(
          variants.id,
          single.flatMap((d) => d.variantId ?? []),
        ),
      ),
  ]);
  const nameOf = new Map(names.map((n) => [n.id, n.name]));
  const choiceOf = new Map(choices.map((v) => [v.id, v.values.join(' ')]));
  return changes.map(({ id, at, detail }): LiveLine => {
    const line = { id, at: at.toISOString() };
    if (!('act' in detail))
      return {
        ...line,
        where: nameOf.get(detail.goodsId) ?? 'Goods',
        ...words(detail, site, choiceOf.get(detail.variantId ?? '') ?? ''),
      };
    if (detail.till) return { ...line, where: 'Till', what: `${detail.act} changed` };
    const of = new Set(detail.changes.map((c) => c.goodsId));
    return {
      ...line,
      where: of.size === 1 ? (nameOf.get(detail.changes[0]?.goodsId ?? '') ?? 'Goods') : 'Goods',
      what: of.size === 1 ? `${detail.act} changed` : detail.act,
    };
  });
}

/** Fields whose old and new value are said; of the others only that they changed. */
const labels: Readonly<Partial<Record<GoodsChange['field'], string>>> = {
  name: 'Name',
  slug: 'Address',
  badge: 'Badge',
  kind: 'Kind',
  shows: 'Shown',
  taxClass: 'Tax class',
  description: 'Description',
  pictures: 'Pictures',
  categories: 'Categories',
  tags: 'Tags',
  sections: 'Sections',
  texts: 'Texts the buyer writes',
  options: 'Options',
  variants: 'Variants',
  related: 'Related products',
  stockRule: 'What happens when it is sold out',
  unit: 'Price per unit',
  searchWords: 'Words it is found by',
  video: 'Film',
  event: 'Date and place',
  bundle: 'What is in the bundle',
  link: 'Link',
  every: 'How often it is charged',
  offer: 'Offer',
  openSuggestions: 'Suggested amounts',
  linkPrices: 'Prices by link',
  voucherMonths: 'How long it holds',
  downloads: 'Files and releases',
  film: 'Film',
  sample: 'Sample',
};
const money = new Set<GoodsChange['field']>(['price', 'was', 'cost', 'openLeast']);
const moneyLabels: Readonly<Record<string, string>> = {
  price: 'Price',
  was: 'Price before',
  cost: 'Cost',
  openLeast: 'Amount named by the buyer',
};

function words(d: GoodsChange, site: Site, choice: string): { what: string; from?: string; to?: string } {
  if (d.field === 'added') return { what: 'Added to the goods' };
  if (d.field === 'removed') return { what: 'Removed from the goods' };
  const count = (v: unknown) => (v === null ? 'not counted' : String(v));
  if (d.field === 'stock')
    return { what: choice ? `Stock, ${choice}` : 'Stock', from: count(d.from), to: count(d.to) };
  const amount = (v: unknown) =>
    typeof v !== 'number' ? 'none' : formatMoney({ amount: v, currency: site.row.currency }, site.row.locale);
  if (money.has(d.field))
    return { what: moneyLabels[d.field] ?? 'Price', from: amount(d.from), to: amount(d.to) };
  const label = labels[d.field] ?? 'Details';
  const short = (v: unknown) => typeof v === 'string' && v.length <= 40;
  return short(d.from) && short(d.to)
    ? { what: label, from: String(d.from) || 'none', to: String(d.to) || 'none' }
    : { what: `${label} changed` };
}
