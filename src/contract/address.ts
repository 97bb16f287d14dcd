import type { AccountInput, AccountRoute } from './account';
import type { Input, Route } from './endpoints';

/** Where a route is of a site: "GET goods/:id" with its id is "/api/withybed/goods/8k3f". */
export const address = <R extends Route>(site: string, route: R, input: Omit<Input<R>, 'body'>): string =>
  filledIn(`/api/${encodeURIComponent(site)}/${pathOf(route)}`, input);

/** The same of a route about accounts. */
export const accountAddress = <R extends AccountRoute>(route: R, input: AccountInput<R>): string =>
  filledIn(`/api/account/${pathOf(route)}`, input);

function filledIn(pattern: string, input: object): string {
  const given = input as Readonly<Record<string, unknown>>;
  const path = pattern.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(given[name])));
  const query = new URLSearchParams(
    Object.entries(given.query ?? {}).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)]])),
  );
  return `${path}${query.size ? `?${query}` : ''}`;
}

export const methodOf = (route: string): string => route.slice(0, route.indexOf(' '));
export const pathOf = (route: string): string => route.slice(route.indexOf(' ') + 1);
