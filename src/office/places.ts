import type { Place } from './shop-context';

/** The six places, in the order of the top bar and of Alt+1 to Alt+6. */
export const places: readonly { readonly place: Exclude<Place, 'bench'>; readonly name: string }[] = [
  { place: 'site', name: 'Site' },
  { place: 'goods', name: 'Goods' },
  { place: 'look', name: 'Look' },
  { place: 'till', name: 'Till' },
  { place: 'orders', name: 'Orders' },
  { place: 'checks', name: 'Checks' },
];

export const hrefOf = (slug: string, place: string): string => `/${slug}/${place}`;
export const benchHref = (slug: string, page: string): string =>
  `/${slug}/bench?page=${encodeURIComponent(page)}`;
