import { fileFinder, type FindFile } from './find-file';
import { eq } from 'drizzle-orm';
import { changeMenu } from '../../core/placement/change-menu';
import type { MenuChange } from '../../core/placement/menu-change';
import type { Plan } from '../../core/placement/plan';
import { applyEdits } from '../../core/html/edits';
import { type MenuItem, readMenu } from '../../core/site/menu';
import type { PagePath } from '../../core/site/paths';
import { parsePageFile } from '../../core/site/read-page';
import { regionsOf } from '../../core/site/regions';
import type { ShopAddress } from '../../core/site/set-up';
import { sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { listCategories } from '../goods/categories';
import { pageName } from './names';
import { draftPlacements, loadPage, productNames, type Site } from './site';
import { shopPagesOf } from './shop-places';
import { sellsIn } from './state';
import { usualMenu } from './usual-menu';

/**
 * Sets the draft's changes to the menu, all of them in their order. Refused where they do not fit the usual copy;
 * copies of other pages that differ are told when the pages are computed.
 */
export async function setMenuChanges(ctx: Ctx, site: Site, changes: readonly MenuChange[]): Promise<void> {
  const front = site.reading.pages[0]?.path;
  const path = usualMenu(site)?.path ?? front;
  if (path && changes.length > 0) {
    const tried = changeMenu(await loadPage(ctx, site, path), changes, fileFinder(site));
    const where = path === front ? 'the front page' : `the page ${pageName(site, path)}`;
    if (!tried.ok) throw conflict(`The menu cannot be changed so: on ${where}, ${tried.error}.`);
  }
  await ctx.store.write((tx) =>
    tx
      .update(sites)
      .set({ menu: [...changes] })
      .where(eq(sites.id, site.row.id)),
  );
}

export interface MenuItemView {
  readonly label: string;
  /** The labels that lead to it: how changes name it. */
  readonly at: readonly string[];
  readonly href: string;
  /** Put there by the draft. */
  readonly added: boolean;
  readonly children: readonly MenuItemView[];
}

export interface MenuView {
  readonly items: readonly MenuItemView[];
  readonly changes: readonly MenuChange[];
  /** The copies of the menu, one to each group of pages that look alike; and whether the changes fit each. */
  readonly copies: readonly {
    readonly id: number;
    readonly name: string;
    readonly address: string;
    readonly pages: number;
    readonly items: number;
    readonly takes: boolean;
    readonly why: string;
  }[];
  /** Fonts the site asks for and does not bring: widths are then those of a stand-in. */
  readonly fontsMissing: readonly string[];
  readonly pages: number;
  readonly shop: (ShopAddress & { readonly address: string }) | null;
  /** What could be added, with where it leads. */
  readonly offers: readonly { readonly label: string; readonly to: string; readonly kind: string }[];
}

/** The menu as the draft has it, its copies, and where the shop lives. */
export async function menuView(ctx: Ctx, site: Site): Promise<MenuView> {
  const find = fileFinder(site);
  const changes = site.row.menu;
  const usual = usualMenu(site);
  const added = new Set(changes.flatMap((c) => (c.do === 'add' ? [c.label] : [])));
  const copies = await Promise.all(
    site.reading.chrome.map(async (c) => {
      const tried = changeMenu(await loadPage(ctx, site, c.model), changes, find);
      return {
        id: c.id,
        name: pageName(site, c.model),
        address: site.reading.pages.find((p) => p.path === c.model)?.address ?? '',
        pages: c.pages,
        items: c.menu.length,
        takes: tried.ok,
        why: tried.ok ? '' : tried.error,
      };
    }),
  );
  const built = site.row.shop ? shopPagesOf(site, site.row.shop) : [];
  const shopPage = built.find((p) => p.part === 'shop');
  const categories = await listCategories(ctx, site.row.id);
  const offers = built
    .filter((p) => p.part === 'shop' || p.part === 'cart' || p.part === 'lookup' || p.part === 'account')
    .map((p) => ({ label: p.name, to: p.address, kind: p.part }));
  return {
    items: usual ? viewOf(await menuAfter(ctx, site, usual.path, changes, find), added, []) : [],
    changes,
    copies: copies.filter((c) => c.items > 0 || copies.length === 1),
    fontsMissing: [...new Set(site.reading.fonts.filter((f) => f.missing).map((f) => f.family))],
    pages: site.reading.pages.length,
    shop: site.row.shop && shopPage ? { ...site.row.shop, address: shopPage.address } : null,
    offers: shopPage
      ? [
          ...offers,
          ...categories
            .filter((c) => c.parent === null)
            .slice(0, 12)
            .map((c) => ({
              label: c.name,
              to: `${shopPage.address}?category=${encodeURIComponent(c.slug)}`,
              kind: 'categories',
            })),
        ]
      : [],
  };
}

const viewOf = (
  items: readonly MenuItem[],
  added: ReadonlySet<string>,
  at: readonly string[],
): MenuItemView[] =>
  items.map((i) => ({
    label: i.label,
    at: [...at, i.label],
    href: i.href,
    added: added.has(i.label),
    children: viewOf(i.children, added, [...at, i.label]),
  }));

/** One page's menu with the changes in it; as the owner has it where they do not fit. */
async function menuAfter(
  ctx: Ctx,
  site: Site,
  path: PagePath,
  changes: readonly MenuChange[],
  find: FindFile,
): Promise<MenuItem[]> {
  const page = await loadPage(ctx, site, path);
  const changed = changeMenu(page, changes, find);
  const parsed =
    changed.ok && changed.value
      ? parsePageFile(path, applyEdits(page.source, changed.value.edits), page.regions)
      : { page };
  if (!('page' in parsed)) return [];
  const root = regionsOf(parsed.page).get('menu')?.element;
  return root ? readMenu(root, path, parsed.page.source, find) : [];
}

/** Words for a change, for the slip. */
export function describeMenuChange(c: MenuChange): string {
  if (c.do === 'add') return `Menu: ${c.label} added`;
  const item = c.item.join(' \u203a ');
  if (c.do === 'rename') return `Menu: ${item} renamed to ${c.label}`;
  return `Menu: ${item} ${c.do === 'move' ? 'moved' : 'taken out'}`;
}

/** The draft as a plan: what the command line works with, and what could be carried to another installation. */
export async function planOf(ctx: Ctx, site: Site): Promise<Plan> {
  const placements = await draftPlacements(ctx, site.row.id);
  const built = sellsIn({ placements, shop: site.row.shop }) ? shopPagesOf(site, site.row.shop) : [];
  return {
    version: 1,
    shop: {
      url: `${ctx.addresses.shop}/${site.row.slug}`,
      script: `${ctx.addresses.shop}/stall.js`,
      cart: built.find((p) => p.part === 'cart')?.address ?? '/cart/',
      include: '/stall',
      goods: Object.fromEntries(await productNames(ctx, site.row.id)),
    },
    placements,
    menu: site.row.menu,
    repairs: site.row.repairs,
    shopPages: built.flatMap((p) => (p.part === 'moved' || p.part === 'home' ? [] : [p.part])),
    regions: site.row.regions,
  };
}
