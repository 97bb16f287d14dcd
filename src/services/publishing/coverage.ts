import { edgePitch } from '../../core/site/pitch';
import type { PagePath } from '../../core/site/paths';
import { canStand } from '../../core/placement/place';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import { pageName } from '../sites/names';
import { type Rendering, rendering, renderPage } from './render';
import { pageVersion } from '../sites/overview';
import { draftState } from '../sites/state';
import { loadPage, type Site } from '../sites/site';

/** How a shopper stands on one page. */
export interface CoverageRow {
  readonly path: string;
  readonly name: string;
  readonly address: string;
  readonly shopInMenu: boolean;
  readonly cart: boolean;
  /** The page shares its header with most of the site. */
  readonly sameHeader: boolean;
  /** Widgets that show products here. */
  readonly products: number;
  /** Presses from this page to a checkout with something in it; nothing where there is no way. */
  readonly clicks: number | null;
}

export interface Coverage {
  readonly rows: readonly CoverageRow[];
  /** Pages that lack it, by column, and whether it can be put there in one step. */
  readonly mend: Readonly<
    Record<'shopInMenu' | 'cart', { readonly pages: number; readonly can: boolean; readonly how: string }>
  >;
}

const selling = new Set(['buy', 'card', 'row', 'shop']);

interface PageAsWritten {
  readonly p: Site['reading']['pages'][number];
  readonly products: number;
  readonly cart: boolean;
  readonly shopInMenu: boolean;
  readonly toShop: boolean;
}

/**
 * What is written follows from the owner's page and what is decided about it alone: asked again, nothing is
 * computed anew.
 */
const written = new Recent<
  string,
  { readonly placed: readonly string[]; readonly menuProblem: string | undefined }
>(20_000);

/** What stands on a page as it would be published: a placement that found no place there is not counted, nor a menu that stayed as it was. */
async function asWritten(
  ctx: Ctx,
  r: Rendering,
  p: PageAsWritten['p'],
  kinds: ReadonlyMap<string, string>,
  adds: boolean,
  version: string,
): Promise<PageAsWritten> {
  const { placed, menuProblem } = await written.get(version, async () => {
    const { placed, menuProblem } = await renderPage(ctx, r, p.path);
    await new Promise(setImmediate);
    return { placed, menuProblem };
  });
  const here = placed.map((id) => kinds.get(id) ?? '');
  return {
    p,
    products: here.filter((kind) => selling.has(kind)).length,
    cart: here.includes('cart'),
    shopInMenu: adds && menuProblem === undefined,
    toShop: here.includes('categories') || here.includes('search'),
  };
}

async function takesCart(ctx: Ctx, site: Site, path: PagePath): Promise<boolean> {
  const page = await loadPage(ctx, site, path);
  const header = edgePitch(page, 'header', 'end');
  return header !== undefined && canStand(page, header.address);
}

/**
 * Pages by what selling needs of them. Clicks are the shortest way: from a product to the checkout is two presses (add, go
 * to checkout, which the answer links to by way of the cart: three), each link to a page that sells is one more.
 */
export async function coverage(ctx: Ctx, site: Site): Promise<Coverage> {
  const state = await draftState(ctx, site);
  const r = await rendering(ctx, site, state);
  const kinds = new Map(state.placements.map((p) => [p.id, p.kind]));
  const shop = r.shopPages.find((p) => p.part === 'shop');
  const adds = state.menu.some((c) => c.do === 'add' && c.to === shop?.address);
  const chromes = new Map<number, number>();
  for (const p of site.reading.pages) chromes.set(p.chrome, (chromes.get(p.chrome) ?? 0) + 1);
  const [usual] = [...chromes].sort((a, b) => b[1] - a[1])[0] ?? [0];
  const base: PageAsWritten[] = [];
  for (const p of site.reading.pages) {
    const here = state.placements.filter((x) => r.reaches(x.reach, p.path));
    base.push(await asWritten(ctx, r, p, kinds, adds, `${p.path} ${pageVersion(site, here, p.path)}`));
  }
  const away = distances(
    base.map((b) => ({
      path: b.p.path,
      sells: b.products > 0,
      toShop: shop !== undefined && (b.shopInMenu || b.toShop),
      links: b.p.links,
    })),
  );
  const rows = base.map(
    ({ p, products, cart, shopInMenu }): CoverageRow => ({
      path: p.path,
      name: pageName(site, p.path),
      address: p.address,
      shopInMenu,
      cart,
      sameHeader: p.chrome === usual,
      products,
      clicks: away.get(p.path) === undefined ? null : (away.get(p.path) ?? 0) + TO_CHECKOUT,
    }),
  );
  const models = [site.reading.pages[0]?.path, site.reading.chrome.find((c) => c.id === usual)?.model];
  const canCart = (await Promise.all(models.map((m) => m && takesCart(ctx, site, m)))).some(Boolean);
  return {
    rows,
    mend: {
      shopInMenu: {
        pages: rows.filter((r) => !r.shopInMenu).length,
        can: shop ? !adds : site.row.shop === null,
        how: shop ? shopInMenuWords(adds) : 'Add selling builds the shop and puts it into the menu',
      },
      cart: {
        pages: rows.filter((r) => !r.cart).length,
        can: canCart,
        how: canCart
          ? 'Puts a cart at the end of the header of these pages'
          : 'No header was surely found; place a cart on the bench',
      },
    },
  };
}

/** @param adds whether the menu was given the shop already. */
const shopInMenuWords = (adds: boolean): string =>
  adds
    ? 'These pages have a menu of their own, or none: change them on the Menus lens'
    : 'Puts the shop into every copy of the menu';

/** From a product: add it, see the cart, go to the checkout. */
const TO_CHECKOUT = 3;

interface Node {
  readonly path: string;
  readonly sells: boolean;
  readonly toShop: boolean;
  readonly links: readonly string[];
}

/** Presses on links to the nearest page that sells: breadth first, from all of them backwards. */
export function distances(pages: readonly Node[]): Map<string, number> {
  const selling = pages.filter((p) => p.sells);
  const near = pages.filter((p) => p.toShop && !p.sells);
  const linkedFrom = backlinks(pages);
  // A map is walked in the order in which it grew, so the first way that comes to a page is the nearest; those that lead
  // to the shop come after all that are one press from a page that sells.
  const away = new Map<string, number>(selling.map((p) => [p.path, 0]));
  const come = (from: string, far: number) => {
    if (!away.has(from)) away.set(from, far);
  };
  for (const p of selling) for (const from of linkedFrom.get(p.path) ?? []) come(from, 1);
  for (const p of near) come(p.path, 1);
  for (const [path, far] of away) for (const from of linkedFrom.get(path) ?? []) come(from, far + 1);
  return away;
}

function backlinks(pages: readonly Node[]): Map<string, string[]> {
  const from = new Map<string, string[]>();
  for (const p of pages) {
    for (const to of p.links) {
      const known = from.get(to);
      if (known) known.push(p.path);
      else from.set(to, [p.path]);
    }
  }
  return from;
}
