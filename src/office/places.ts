import type { Place } from './shop-context';
import { places as say } from './words/frame';

/** The six places, in the order of the top bar and of Alt+1 to Alt+6. */
export const places: readonly { readonly place: Exclude<Place, 'bench'>; readonly name: string }[] = [
  { place: 'site', name: say.site },
  { place: 'goods', name: say.goods },
  { place: 'look', name: say.look },
  { place: 'till', name: say.till },
  { place: 'orders', name: say.orders },
  { place: 'checks', name: say.checks },
];

export const hrefOf = (slug: string, place: string): string => `/${slug}/${place}`;
export const benchHref = (slug: string, page: string): string =>
  `/${slug}/bench?page=${encodeURIComponent(page)}`;
