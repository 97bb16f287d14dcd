import { fileFinder } from './find-file';
import { changeMenu } from '../../core/placement/change-menu';
import type { MenuChange } from '../../core/placement/menu-change';
import { canStand } from '../../core/placement/place';

import { edgePitch, type Pitch } from '../../core/site/pitch';
import type { Landmark } from '../../core/site/regions';
import { type OptionalPage, optionalPages, type ShopAddress } from '../../core/site/set-up';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import { pageName } from './names';
import { isFree, type ShopPage, shopPagesOf } from './shop-places';
import { draftPlacements, loadPage, type Site } from './site';
import { usualMenu } from './usual-menu';

export interface PlannedPage {
  readonly part: ShopPage['part'];
  readonly name: string;
  readonly address: string;
  readonly optional: OptionalPage | undefined;
}

export interface SellingPlan {
  readonly shop: ShopAddress;
  readonly menu: MenuChange | undefined;
  /** `models`: a page of each make that has the pitch, those of the most pages first. */
  readonly cart:
    | { readonly pitch: Pitch; readonly models: readonly string[]; readonly floats: boolean }
    | undefined;
  /** Where no menu takes the shop: a line above the content leads to it, on these pages. */
  readonly line: { readonly pitch: Pitch; readonly pages: readonly string[] } | undefined;
  /** Address of a page that has the menu, to see how what is added fits. */
  readonly tries: string | undefined;
  readonly pages: readonly PlannedPage[];
  /** What the act does, and what it cannot do with what it does instead; in sentences. */
  readonly will: readonly string[];
  readonly cannot: readonly string[];
}

/** The plan before the act: what the button says, and what it does, come from here. It is tried on every kind of page the site has. */
export async function planSelling(ctx: Ctx, site: Site, wanted: ShopAddress): Promise<SellingPlan> {
  const slug = [wanted.slug, `${wanted.slug}-1`, 'our-shop', 'buy'].find((s) => isFree(site, s));
  if (!slug)
    throw invalid(
      'Choose another address for the shop: the site has pages at this one and at those like it.',
      { field: 'slug' },
    );
  const shop = { ...wanted, slug };
  const every = shopPagesOf(site, { ...shop, pages: [...optionalPages] });
  const address = every.find((p) => p.part === 'shop')?.address ?? `/${slug}/`;
  const menu = await planMenu(ctx, site, shop.name, address);
  const isMissed = menu.without.length * LINE_FROM >= site.reading.pages.length;
  const line = isMissed ? await planLine(ctx, site, shop.name, menu.without) : undefined;
  const has = (await draftPlacements(ctx, site.row.id)).some((p) => p.kind === 'cart');
  const cart = has ? undefined : await planCart(ctx, site);
  return {
    shop,
    menu: menu.change,
    cart: cart?.spot,
    line: line?.spot,
    tries: menu.tries,
    pages: every.flatMap((p): PlannedPage[] =>
      p.part === 'moved' || p.part === 'home'
        ? []
        : [
            {
              part: p.part,
              name: p.name,
              // Where the owner pastes code, all of them stand inside one page, which is named afterwards.
              address: site.row.delivery.to === 'paste' ? '' : p.address,
              optional: optionalPages.find((o) => o === p.part),
            },
          ],
    ),
    will: [
      ...menu.will,
      ...(line?.will ?? []),
      ...(has ? ['the cart you have stays where it is'] : (cart?.will ?? [])),
      'colours, fonts and corners of the shop as your own style sheets have them',
    ],
    cannot: [...menu.cannot, ...(line?.cannot ?? []), ...(cart?.cannot ?? [])],
  };
}

/** As soon as one in so many pages has no menu that takes the shop, these get a line that leads there; what is fewer is told. */
const LINE_FROM = 3;

/** Pages that share a header and a menu, with one that stands for them. */
async function kindsOfPages(ctx: Ctx, site: Site) {
  return Promise.all(
    site.reading.chrome.map(async (c) => ({
      model: await loadPage(ctx, site, c.model),
      pages: site.reading.pages.filter((p) => p.chrome === c.id).map((p) => p.path),
    })),
  );
}

interface Planned {
  readonly will: readonly string[];
  readonly cannot: readonly string[];
}

interface PlannedMenu extends Planned {
  readonly change: MenuChange | undefined;
  readonly tries: string | undefined;
  /** Pages that get nothing. */
  readonly without: readonly string[];
}

/** Where something goes in the menu: the spot that the most pages have, and which pages have none. */
export async function planMenu(ctx: Ctx, site: Site, label: string, to: string): Promise<PlannedMenu> {
  const find = fileFinder(site);
  const kinds = await kindsOfPages(ctx, site);
  // Pages that share their chrome may yet be without the menu: what looks like one here is a way to the next page there.
  const withMenu = new Set(
    site.reading.pages.filter((p) => p.regions.some((r) => r.region === 'menu')).map((p) => p.path),
  );
  let why = '';
  const tried = menuSpots(site).map((at) => {
    const change: MenuChange = { do: 'add', label, to, at };
    const taken = kinds.filter(({ model }) => {
      const made = changeMenu(model, [...site.row.menu, change], find);
      if (!made.ok) why ||= made.error;
      return made.ok;
    });
    return { change, pages: new Set(taken.flatMap((k) => k.pages).filter((p) => withMenu.has(p))) };
  });
  const best = tried.reduce((a, b) => (b.pages.size > a.pages.size ? b : a));
  const without = site.reading.pages.filter((p) => !best.pages.has(p.path));
  if (best.pages.size === 0)
    return {
      change: undefined,
      tries: undefined,
      without: site.reading.pages.map((p) => p.path),
      will: [],
      cannot: [`The shop cannot stand in the menu: ${why || 'no menu was found'}.`],
    };
  return {
    change: best.change,
    without: without.map((p) => p.path),
    tries: site.reading.pages.find((p) => best.pages.has(p.path))?.address,
    will: [
      without.length === 0
        ? `\u201c${label}\u201d in the menu of every page`
        : `\u201c${label}\u201d in the menu of ${best.pages.size} of ${site.reading.pages.length} pages`,
    ],
    cannot: without.length
      ? [`${named(site, without)} no menu of that make, so the shop is not in it there.`]
      : [],
  };
}

/** "Home and Prices have", "Home, Prices and 3 more have": pages as the subject of a sentence. */
function named(site: Site, pages: readonly { readonly path: string }[]): string {
  const names = pages.slice(0, 3).map((p) => pageName(site, p.path));
  const more = pages.length - names.length;
  const all = more > 0 ? [...names, `${more} more`] : names;
  const last = all.pop() ?? '';
  return all.length ? `${all.join(', ')} and ${last} have` : `${last} has`;
}

type MenuSpot = Extract<MenuChange, { do: 'add' }>['at'];

/** After the item that already speaks of goods, before the last (contact mostly stands there), at the end, in the first fold. */
function menuSpots(site: Site): MenuSpot[] {
  const menu = usualMenu(site)?.items ?? [];
  const labels = menu.map((m) => m.label);
  const goods = labels.find((l) =>
    /\b(products?|goods|wares|baskets|collection|catalog(ue)?|produkte|waren|produits|price)/i.test(l),
  );
  return [
    ...(goods ? [{ under: [], after: goods }] : []),
    ...(!goods && labels.length > 2 ? [{ under: [], before: labels.at(-1) }] : []),
    { under: [] },
    // Where all that stands in the row are titles over folds.
    ...menu
      .filter((m) => m.href === '' && m.children.some((c) => c.href))
      .slice(0, 1)
      .map((m) => ({ under: [m.label] })),
  ];
}

/** Where no menu takes the shop: a line at the head of the content, on as many pages as have one. */
async function planLine(
  ctx: Ctx,
  site: Site,
  name: string,
  wanted: readonly string[],
): Promise<Planned & { readonly spot: SellingPlan['line'] }> {
  const kinds = await kindsOfPages(ctx, site);
  const able = kinds.flatMap(({ model, pages }) => {
    const pitch = edgePitch(model, 'main', 'start');
    return pitch && canStand(model, pitch.address) ? [{ pitch, pages }] : [];
  });
  const pages = new Set(able.flatMap((a) => a.pages).filter((p) => wanted.includes(p)));
  const all = site.reading.pages.length;
  const [first] = able;
  return pages.size === 0 || !first
    ? {
        spot: undefined,
        will: [],
        cannot: [
          'No place for a line that leads to the shop was surely found either: place a category list or a search box on the bench.',
        ],
      }
    : {
        spot: { pitch: first.pitch, pages: [...pages] },
        will: [
          `a line \u201c${name}\u201d at the head of the content, on ${pagesOf(pages.size, all, 'every page')}`,
        ],
        cannot: [],
      };
}

function pagesOf(n: number, all: number, every: string): string {
  if (n < all) return `${n} of ${all} pages`;
  return all === 1 ? 'the page' : every;
}

/** Where a cart can stand on a page that has no header: it floats then, so it is seen wherever it is written. */
const floatingPlaces: readonly (readonly [Landmark, 'end' | 'start'])[] = [
  ['footer', 'end'],
  ['menu', 'end'],
  ['main', 'end'],
];

/** A cart at the end of the header; where too few pages have a header, one that floats in a corner. */
async function planCart(ctx: Ctx, site: Site): Promise<Planned & { readonly spot: SellingPlan['cart'] }> {
  const kinds = await kindsOfPages(ctx, site);
  const all = site.reading.pages.length;
  const tryAt = (region: Landmark, side: 'start' | 'end') => {
    const able = kinds.flatMap(({ model, pages }) => {
      const pitch = edgePitch(model, region, side);
      return pitch && canStand(model, pitch.address) ? [{ pitch, model: model.path, pages }] : [];
    });
    const pages = new Set(able.flatMap((a) => a.pages));
    const models = able.toSorted((a, b) => b.pages.length - a.pages.length).map((a) => a.model);
    return { pitch: able[0]?.pitch, models, pages };
  };
  const header = tryAt('header', 'end');
  const [floating] = floatingPlaces
    .map(([region, side]) => tryAt(region, side))
    .sort((a, b) => b.pages.size - a.pages.size);
  // Only its owner can write there, and a foot of every page is what most hosts let them: what floats comes with that.
  const isPasted = site.row.delivery.to === 'paste';
  if (!isPasted && header.pitch && header.pages.size * 2 >= all) {
    const without = site.reading.pages.filter((p) => !header.pages.has(p.path));
    return {
      spot: { pitch: header.pitch, models: header.models, floats: false },
      will: [
        `a cart in the header, where there is room for it, on ${pagesOf(header.pages.size, all, `all ${all} pages`)}`,
      ],
      cannot: without.length ? [`${named(site, without)} no header, so there is no cart there.`] : [],
    };
  }
  if (floating?.pitch && floating.pages.size > 0)
    return {
      spot: { pitch: floating.pitch, models: floating.models, floats: true },
      will: [
        `a cart that floats in the corner, on ${floating.pages.size === all ? 'every page' : `${floating.pages.size} of ${all} pages`}${isPasted ? '' : ', because no header was surely found'}`,
      ],
      cannot: [],
    };
  return {
    spot: undefined,
    will: [],
    cannot: ['No place for a cart was surely found. Place one on the bench, on the page itself.'],
  };
}
