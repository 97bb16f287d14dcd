import { canStand } from '../../core/placement/place';
import { resolvePitch } from '../../core/site/resolve-pitch';
import { cartSpots } from '../../core/site/cart-spots';
import type { PitchAddress } from '../../core/site/pitch';
import type { Placement } from '../../core/placement/placement';
import { type Reach, reachIn } from '../../core/placement/reach';
import { eq } from 'drizzle-orm';
import { sites } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { change, place } from './placing';
import { draftPlacements, loadPage, type Site } from './site';

/** A spot that is asked for: `n` is its number among those of `page`; in the corner it floats. */
export interface CartSpot {
  readonly placement: string;
  readonly page: string;
  readonly n: number | 'corner';
}

/**
 * Moves a cart to one of the spots that a page has for it, or into the corner. Headers of a site are of several makes: where the spot is none
 * for all of its pages, those that are like the page get a cart of their own there.
 * @throws Refusal where the spot is gone
 */
export async function toCartSpot(ctx: Ctx, site: Site, to: CartSpot): Promise<void> {
  const cart = (await draftPlacements(ctx, site.row.id)).find((p) => p.id === to.placement);
  const make = site.reading.pages.find((p) => p.path === to.page)?.chrome;
  const moved = cart && make !== undefined && (await movedTo(ctx, site, cart, to));
  if (!cart || !moved)
    throw conflict('The page changed meanwhile, and has no such place any more. Look at it again.');
  const there = await pagesWith(ctx, site, cart, cart.pitch);
  const found = await pagesWith(ctx, site, cart, moved.pitch);
  const isAlike = (path: string) => site.reading.pages.find((p) => p.path === path)?.chrome === make;
  // A header that has no room says nothing of the others.
  const fits = (path: string) => (to.n === 'corner' ? isAlike(path) : found.includes(path));
  if (there.every(fits)) return void (await change(ctx, site, cart.id, moved));
  const alike = found.filter(isAlike);
  if (alike.length === 0)
    throw conflict(
      'The other pages of this make have no such place. Place the cart on the bench, page by page.',
    );
  await change(ctx, site, cart.id, { reach: without(cart.reach, alike) });
  const other = await place(ctx, site, { kind: 'cart', ...moved, reach: { to: 'pages', pages: alike } });
  await alsoMade(ctx, site, cart.id, other.id);
}

/** A cart that "Add selling" made two of is taken back with it as one. */
async function alsoMade(ctx: Ctx, site: Site, first: string, other: string): Promise<void> {
  await ctx.store.write(async (tx) => {
    const [row] = await tx.select({ shop: sites.shop }).from(sites).where(eq(sites.id, site.row.id));
    const made = row?.shop?.made;
    if (!row?.shop || !made || ![made.cart, ...made.carts].includes(first)) return;
    const shop = { ...row.shop, made: { ...made, carts: [...made.carts, other] } };
    await tx.update(sites).set({ shop }).where(eq(sites.id, site.row.id));
  });
  ctx.changed(site.row.id);
}

type Moved = Pick<Placement, 'pitch' | 'pitchLabel' | 'settings'>;

/** The cart as it is afterwards; nothing where there is no such spot. */
async function movedTo(
  ctx: Ctx,
  site: Site,
  { pitch, pitchLabel, settings }: Placement,
  to: CartSpot,
): Promise<Moved | undefined> {
  if (to.n === 'corner') return { pitch, pitchLabel, settings: { ...settings, floats: true } };
  const page = await loadPage(ctx, site, to.page);
  const spot = cartSpots(page)[to.n];
  return spot && canStand(page, spot.address)
    ? { pitch: spot.address, pitchLabel: spot.label, settings }
    : undefined;
}

/** What is left of a reach. */
function without(reach: Reach, pages: readonly string[]): Reach {
  if (reach.to === 'page') return reach;
  if (reach.to === 'pages')
    return { to: 'pages', pages: reach.pages.filter((path) => !pages.includes(path)) };
  return { ...reach, except: [...new Set([...reach.except, ...pages])] };
}

/** Pages that a cart is meant for on which a pitch is surely found, going by one page of each make. */
async function pagesWith(ctx: Ctx, site: Site, cart: Placement, pitch: PitchAddress): Promise<string[]> {
  const reaches = reachIn(site.reading);
  const all: string[] = [];
  for (const make of site.reading.chrome) {
    const pages = site.reading.pages.filter((p) => p.chrome === make.id && reaches(cart.reach, p.path));
    const [first] = pages;
    if (first && resolvePitch(await loadPage(ctx, site, first.path), pitch).found)
      all.push(...pages.map((p) => p.path));
  }
  return all;
}
