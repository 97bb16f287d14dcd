import { betterSpot } from '../../core/checks/cart-spot';
import { call } from '../api';
import { seePages } from '../ui/see-pages';
import type { Added } from '../../services/sites/add-selling';

/** How long a page is looked at, at most, in milliseconds. */
const PATIENCE = 20_000;

/**
 * Looks whether a cart that was just placed has room where it stands, at every width, and moves it to where it has. A page that cannot be
 * looked at leaves it where it is: the checks tell of it then.
 */
export async function settleCart(
  site: { readonly slug: string; readonly draftUrl: string },
  { placement, pages }: NonNullable<Added['cart']>,
): Promise<void> {
  // As pages that had no menu of their own before: how it stood there is not asked, which takes half the time.
  const asked = pages.map((path) => ({ path, version: '', built: true }));
  try {
    for await (const seen of seePages(site.draftUrl, asked, AbortSignal.timeout(PATIENCE))) {
      const n = betterSpot(seen.at, placement);
      if (n !== undefined)
        await call(site.slug, 'POST selling/cart', { body: { placement, page: seen.path, n } });
    }
  } catch {
    // It stands where it stood; whatever is wrong with that is a finding of the checks, with the same move as its mend.
  }
}
