import { canStand } from '../../core/placement/place';
import { resolvePitch } from '../../core/site/resolve-pitch';
import { cartSpots } from '../../core/site/cart-spots';
import type { PitchAddress } from '../../core/site/pitch';
import type { Placement } from '../../core/placement/placement';
import { reachIn } from '../../core/placement/reach';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { change } from './placing';
import { draftPlacements, loadPage, type Site } from './site';

/** A spot that is asked for: `n` is its number among those of `page`; in the corner it floats. */
export interface CartSpot {
  readonly placement: string;
  readonly page: string;
  readonly n: number | 'corner';
}

/**
 * Moves a cart to one of the spots that a page has for it.
 * @throws Refusal where the spot is gone, or fewer pages have it than have the one where the cart stands
 */
export async function toCartSpot(ctx: Ctx, site: Site, to: CartSpot): Promise<void> {
  const cart = (await draftPlacements(ctx, site.row.id)).find((p) => p.id === to.placement);
  if (to.n === 'corner' && cart)
    return void (await change(ctx, site, cart.id, { settings: { ...cart.settings, floats: true } }));
  const page = await loadPage(ctx, site, to.page);
  const pitch = cartSpots(page)[Number(to.n)];
  if (!pitch || !cart || !canStand(page, pitch.address))
    throw conflict('The page changed meanwhile, and has no such place any more. Look at it again.');
  const lost =
    (await pagesWith(ctx, site, cart, cart.pitch)) - (await pagesWith(ctx, site, cart, pitch.address));
  if (lost > 0)
    throw conflict(
      `${lost === 1 ? 'One page has' : `${lost} pages have`} no such place. Open them on the bench, and place the cart there by hand.`,
    );
  await change(ctx, site, cart.id, { pitch: pitch.address, pitchLabel: pitch.label });
}

/** On how many pages that a cart is meant for a pitch is surely found, going by one page of each make. */
async function pagesWith(ctx: Ctx, site: Site, cart: Placement, pitch: PitchAddress): Promise<number> {
  const reaches = reachIn(site.reading);
  let n = 0;
  for (const make of site.reading.chrome) {
    const pages = site.reading.pages.filter((p) => p.chrome === make.id && reaches(cart.reach, p.path));
    const [first] = pages;
    if (first && resolvePitch(await loadPage(ctx, site, first.path), pitch).found) n += pages.length;
  }
  return n;
}
