import type { IncomingMessage, ServerResponse } from 'node:http';
import { RegExpRouter } from 'hono/router/reg-exp-router';
import { SmartRouter } from 'hono/router/smart-router';
import { TrieRouter } from 'hono/router/trie-router';
import type { Shop } from './shop';

/** Names that a path leaves open: "/:shop/goods/:slug" has shop and slug, "/:shop/site/:path{.+}" shop and path. */
type Open<Path extends string> = Path extends `${string}:${infer Rest}` ? Name<Rest> | Open<Rest> : never;
type Name<S extends string> = S extends `${infer Before}/${string}`
  ? Name<Before>
  : S extends `${infer Before}{${string}`
    ? Before
    : S;

/** A request to the public server; `P` are the names of its path that are known. */
export interface Call<P extends string = never> {
  readonly req: IncomingMessage;
  readonly res: ServerResponse;
  readonly url: URL;
  readonly params: Readonly<Record<P, string>>;
}
export type Handler<P extends string> = (shop: Shop, call: Call<P>) => Promise<void> | void;

type Method = 'GET' | 'POST' | 'OPTIONS';
export interface Route {
  readonly method: Method;
  readonly path: string;
  readonly handler: Handler<string>;
}

/** A handler with the path it serves: it gets each name that the path leaves open, and no other compiles. */
export function route<Path extends string>(method: Method, path: Path, handler: Handler<Open<Path>>): Route {
  // What the router found is filled in by name when it is called; the type says so above.
  return { method, path, handler: handler as Handler<string> };
}

interface Matched {
  readonly handler: Handler<string>;
  readonly params: Readonly<Record<string, string>>;
}

/**
 * Finds the handler of a request; of several that fit, the one that was named first. HEAD is served as GET.
 * @throws when wiring, not when serving: a path that names a part twice, or that the router does not understand.
 */
export function matcher(routes: readonly Route[]): (method: string, pathname: string) => Matched | undefined {
  const router = new SmartRouter<Handler<string>>({ routers: [new RegExpRouter(), new TrieRouter()] });
  for (const { method, path, handler } of routes) {
    const names = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name);
    if (new Set(names).size !== names.length) throw new Error(`route ${path} names a part twice`);
    router.add(method, path, handler);
  }
  router.match('GET', '/');
  return (method, pathname) => {
    const [handlers, stash] = router.match(method === 'HEAD' ? 'GET' : method, pathname);
    const [first] = handlers;
    if (!first) return undefined;
    const [handler, found] = first;
    const params = Object.entries(found).map(([name, value]) => [
      name,
      typeof value === 'number' ? (stash?.[value] ?? '') : value,
    ]);
    const decoded = decodedParts(params);
    return decoded && { handler, params: decoded };
  };
}

/** Parts of a path as text; undefined where one is not written as addresses are (RFC 3986, 2.1). */
function decodedParts(parts: readonly (readonly string[])[]): Record<string, string> | undefined {
  try {
    return Object.fromEntries(parts.map(([name = '', value = '']) => [name, decodeURIComponent(value)]));
  } catch {
    return undefined;
  }
}
