import { eq } from 'drizzle-orm';
import { changeMenu } from '../../core/placement/change-menu';
import type { MenuChange } from '../../core/placement/menu-change';
import type { Plan } from '../../core/placement/plan';
import { FileIndex, type PagePath } from '../../core/site/paths';
import { sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { draftPlacements, loadPage, productNames, type Site } from './site';
import { shopPagesOf } from './shop-pages';
import { sellsIn } from './state';

/**
 * Sets the draft's changes to the menu, all of them in their order. Refused where they do not fit the front page's
 * copy; copies of other pages that differ are told when the pages are computed.
 */
export async function setMenuChanges(ctx: Ctx, site: Site, changes: readonly MenuChange[]): Promise<void> {
  const front = site.reading.pages[0];
  if (front && changes.length > 0) {
    const tried = changeMenu(await loadPage(ctx, site, front.path), changes, new FileIndex(Object.keys(site.manifest) as PagePath[]).find);
    if (!tried.ok) throw conflict(`The menu cannot be changed so: on the front page, ${tried.error}.`);
  }
  await ctx.store.write((tx) => tx.update(sites).set({ menu: [...changes] }).where(eq(sites.id, site.row.id)));
}

/** Words for a change, for the slip. */
export function describeMenuChange(c: MenuChange): string {
  if (c.do === 'add') return `Menu: ${c.label} added`;
  const item = c.item.join(' \u203a ');
  return c.do === 'rename' ? `Menu: ${item} renamed to ${c.label}` : c.do === 'move' ? `Menu: ${item} moved` : `Menu: ${item} taken out`;
}

/** The draft as a plan: what the command line works with, and what could be carried to another installation. */
export async function planOf(ctx: Ctx, site: Site): Promise<Plan> {
  const placements = await draftPlacements(ctx, site.row.id);
  const built = sellsIn({ placements, shop: site.row.shop }) ? shopPagesOf(site, site.row.shop) : [];
  return {
    version: 1,
    shop: { url: `${ctx.addresses.shop}/${site.row.slug}`, script: `${ctx.addresses.shop}/stall.js`, cart: built.find((p) => p.part === 'cart')?.address ?? '/cart/', include: '/stall', goods: Object.fromEntries(await productNames(ctx, site.row.id)) },
    placements, menu: site.row.menu, shopPages: built.flatMap((p) => (p.part === 'moved' || p.part === 'home' ? [] : [p.part])), regions: site.row.regions,
  };
}
