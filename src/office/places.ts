import { mayDo, type Right, type Role } from '../core/people/roles';
import type { Place } from './shop-context';
import { places as say } from './words/frame';

/** The six places, in the order of the top bar and of Alt+1 to Alt+6. */
export const places: readonly {
  readonly place: Exclude<Place, 'bench'>;
  readonly name: string;
  /** What one must be allowed to come in. */
  readonly right: Right;
}[] = [
  { place: 'site', name: say.site, right: 'own' },
  { place: 'goods', name: say.goods, right: 'see-goods' },
  { place: 'look', name: say.look, right: 'own' },
  { place: 'till', name: say.till, right: 'own' },
  { place: 'orders', name: say.orders, right: 'see-orders' },
  { place: 'checks', name: say.checks, right: 'own' },
];

/** Places that somebody in this role may come into. */
export const placesOf = (role: Role) => places.filter((p) => mayDo(role, p.right));

/** Only a path of the office: no link leads anybody elsewhere by what stands in an address. */
export const safePath = (to: string): string => (/^\/(?![/\\])/.test(to) ? to : '/');

export const hrefOf = (slug: string, place: string): string => `/${slug}/${place}`;
export const benchHref = (slug: string, page: string): string =>
  `/${slug}/bench?page=${encodeURIComponent(page)}`;
