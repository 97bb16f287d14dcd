import { describePlacement } from '../../core/placement/placement';
import { reachesShopPages, reachIn } from '../../core/placement/reach';
import type { MenuItem } from '../../core/site/menu';
import type { PagePath } from '../../core/site/paths';
import type { Ctx } from '../context';
import { again } from './connections';
import { deliveryOf } from './deliveries';
import { shopPagesOf } from './shop-places';
import { pageName } from './names';
import { isNewer } from './slip';
import { namesIn } from '../../core/change';
import { fingerprint } from '../../core/hash';
import { canonical } from '../../core/json';
import { difference, repairsBetween, sellsIn } from './state';
import { currentPublication, draftPlacements, productNames, type Site } from './site';

export interface PageCard {
  readonly path: string;
  readonly address: string;
  readonly name: string;
  readonly title: string;
  readonly depth: number;
  readonly widgets: readonly {
    readonly id: string;
    readonly kind: string;
    readonly words: string;
    readonly changed: boolean;
  }[];
  readonly onSlip: boolean;
  readonly built: boolean;
  /** It has an address of its own on the live site; parts that stand inside one pasted shop front have none. */
  readonly addressed: boolean;
  /** A cart is meant to stand on it; whether it found a place there is told by the coverage. */
  readonly cart: boolean;
  /** Changes when the page would be written otherwise: pictures of it are kept by this. */
  readonly version: string;
}

export interface SiteOverview {
  readonly id: string;
  readonly slug: string;
  readonly name: string;
  readonly currency: string;
  readonly locale: string;
  readonly liveUrl: string;
  readonly draftUrl: string;
  readonly isLive: boolean;
  /** The shop has a page of its own. */
  readonly selling: boolean;
  /** Publications have to be put up by the owner. */
  readonly byHand: boolean;
  /** Nothing can be written there: its owner pastes code. */
  readonly pasted: boolean;
  /** The owner says where the site lives; nobody gives the address. */
  readonly movable: boolean;
  /** Its files can be read again from where they came. */
  readonly readsAgain: boolean;
  readonly columns: readonly {
    readonly name: string;
    readonly inMenu: boolean;
    readonly pages: readonly PageCard[];
  }[];
  readonly pageCount: number;
  readonly withCart: number;
  readonly notes: readonly string[];
}

/** Changes when a page would be written otherwise. @param here the placements that reach it. */
export const pageVersion = (site: Site, here: readonly unknown[], path?: string): string =>
  fingerprint(
    canonical([
      site.row.snapshotId,
      site.row.menu,
      site.row.shop,
      site.row.regions,
      here,
      ...site.row.repairs.filter((r) => r.page === path),
    ]),
  );

/** The site as its owner thinks of it: pages in the order of the menu, each with what stands on it. */
export async function siteOverview(ctx: Ctx, site: Site): Promise<SiteOverview> {
  const [draft, publication, names] = await Promise.all([
    draftPlacements(ctx, site.row.id),
    currentPublication(ctx, site.row),
    productNames(ctx, site.row.id),
  ]);
  const change = difference(publication?.placements ?? [], draft, isNewer(site, publication));
  const changed = new Set(namesIn(change));
  const within = reachIn(site.reading);
  const repaired = new Set(
    namesIn(repairsBetween(publication?.repairs ?? [], site.row.repairs)).flatMap(
      (id) => [...site.row.repairs, ...(publication?.repairs ?? [])].find((r) => r.id === id)?.page ?? [],
    ),
  );
  const version = (here: readonly unknown[], path?: string) => pageVersion(site, here, path);
  const cards = new Map(
    site.reading.pages.map((facts) => {
      const here = draft.filter((p) => within(p.reach, facts.path));
      const gone = Object.values(change.removed).some((p) => within(p.reach, facts.path));
      const widgets = here.map((p) => ({
        id: p.id,
        kind: p.kind,
        words: describePlacement(p, (slug) => names.get(slug)),
        changed: changed.has(p.id),
      }));
      return [
        facts.path,
        {
          path: facts.path,
          address: facts.address,
          name: pageName(site, facts.path),
          title: facts.title,
          widgets,
          depth: 0,
          onSlip: gone || widgets.some((w) => w.changed) || repaired.has(facts.path),
          built: false,
          addressed: true,
          cart: here.some((p) => p.kind === 'cart'),
          version: version(here, facts.path),
        } satisfies PageCard as PageCard,
      ];
    }),
  );
  const isPasted = site.row.delivery.to === 'paste';
  const everywhere = draft.filter((p) => reachesShopPages(p.reach, p.pitch.region));
  const built: PageCard[] = (
    sellsIn({ placements: draft, shop: site.row.shop }) ? shopPagesOf(site, site.row.shop) : []
  ).map((p) => ({
    path: p.path,
    address: p.address,
    name: p.name,
    title: p.title,
    depth: 0,
    built: true,
    addressed: !isPasted,
    onSlip: isPasted ? !publication?.shop : !publication?.manifest[p.path],
    cart: everywhere.some((x) => x.kind === 'cart'),
    version: version(everywhere),
    widgets: everywhere.map((x) => ({ id: x.id, kind: x.kind, words: 'Cart', changed: changed.has(x.id) })),
  }));
  const columns = menuColumns(site.reading.menu, cards);
  if (built.length)
    columns.push({
      name: isPasted ? 'Inside your shop page' : 'Built for the shop',
      inMenu: false,
      pages: built,
    });
  const { row } = site;
  return {
    id: row.id,
    slug: row.slug,
    name: row.name,
    currency: row.currency,
    locale: row.locale,
    liveUrl: row.liveUrl,
    draftUrl: ctx.addresses.draft(row.draftKey),
    isLive: row.publicationId !== null,
    selling: row.shop !== null,
    byHand: deliveryOf(row.delivery).byHand,
    pasted: row.delivery.to === 'paste',
    movable: row.delivery.to !== 'host' && row.connection.how !== 'live',
    readsAgain: !('handIn' in again(row.connection)),
    columns,
    pageCount: cards.size + built.length,
    withCart: [...cards.values(), ...built].filter((c) => c.cart).length,
    notes: site.reading.notes,
  };
}

/** One column to each item of the menu's first level: below it what the menu nests, then pages whose address lies under it. */
function menuColumns(
  menu: readonly MenuItem[],
  cards: Map<PagePath, PageCard>,
): { name: string; inMenu: boolean; pages: PageCard[] }[] {
  const left = new Map(cards);
  const take = (path: PagePath | undefined, depth: number): PageCard[] => {
    const card = path && left.get(path);
    if (!card) return [];
    left.delete(path);
    return [{ ...card, depth }];
  };
  const nested = (item: MenuItem, depth: number): PageCard[] => [
    ...take(item.page, depth),
    ...item.children.flatMap((c) => nested(c, depth + 1)),
  ];
  const columns = menu.map((item) => ({ name: item.label, inMenu: true, item, pages: nested(item, 0) }));
  for (const column of columns) {
    const under = column.item.page?.replace(/[^/]*$/, '');
    if (!under) continue;
    for (const path of [...left.keys()]) if (path.startsWith(under)) column.pages.push(...take(path, 1));
  }
  const rest = [...left.values()];
  const shown = columns
    .filter((c) => c.pages.length > 0)
    .map(({ name, inMenu, pages }) => ({ name, inMenu, pages }));
  return rest.length
    ? [...shown, { name: shown.length ? 'Not in a menu' : 'Pages', inMenu: false, pages: rest }]
    : shown;
}
