import type { Input, Route } from './endpoints';

/** Where a route is of a site: "GET goods/:id" with its id is "/api/withybed/goods/8k3f". */
export function address<R extends Route>(site: string, route: R, input: Omit<Input<R>, 'body'>): string {
  const given = input as Readonly<Record<string, unknown>>;
  const path = pathOf(route).replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(given[name])));
  const query = new URLSearchParams(
    Object.entries(given.query ?? {}).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)]])),
  );
  return `/api/${encodeURIComponent(site)}/${path}${query.size ? `?${query}` : ''}`;
}

export const methodOf = (route: Route): string => route.slice(0, route.indexOf(' '));
export const pathOf = (route: Route): string => route.slice(route.indexOf(' ') + 1);
