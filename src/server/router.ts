import type { IncomingMessage, ServerResponse } from 'node:http';

export interface Call {
  readonly req: IncomingMessage;
  readonly res: ServerResponse;
  readonly url: URL;
  readonly params: Readonly<Record<string, string>>;
}
export type Handler = (call: Call) => Promise<void> | void;
type Method = 'GET' | 'POST' | 'PUT' | 'OPTIONS';
interface Route {
  readonly method: Method;
  readonly pattern: RegExp;
  readonly names: readonly string[];
  readonly handler: Handler;
}

/** Turns "/v1/:shop/carts/:token" and "/:shop/site/*path" into a match; names must differ. @throws when wiring, not when serving. */
export function route(method: Method, path: string, handler: Handler): Route {
  const names: string[] = [];
  const source = path.replace(/[.]/g, '\\.').replace(/:(\w+)|\*(\w+)/g, (_, one?: string, rest?: string) => {
    names.push(one ?? rest ?? '');
    return one ? '([^/]+)' : '(.+)';
  });
  if (new Set(names).size !== names.length) throw new Error(`route ${path} names a part twice`);
  return { method, pattern: new RegExp(`^${source}$`), names, handler };
}

/** The first route that fits; HEAD is served as GET. */
export function match(
  routes: readonly Route[],
  method: string,
  pathname: string,
): { handler: Handler; params: Record<string, string> } | undefined {
  const wanted = method === 'HEAD' ? 'GET' : method;
  for (const r of routes) {
    if (r.method !== wanted) continue;
    const m = r.pattern.exec(pathname);
    if (!m) continue;
    try {
      return {
        handler: r.handler,
        params: Object.fromEntries(r.names.map((n, i) => [n, decodeURIComponent(m[i + 1] ?? '')])),
      };
    } catch {
      return undefined;
    }
  }
  return undefined;
}
