import type { APIRoute } from 'astro';
import type { Answer, Params, Query, Route } from '../contract/endpoints';
import type { Site } from '../services/sites/site';

/** A request on a site, its path and query by their names. */
interface Call<R extends Route> {
  readonly app: App.Locals['app'];
  readonly by: string;
  readonly site: Site;
  readonly params: Params<R>;
  readonly query: { readonly [K in keyof Query<R>]?: string };
  /** The body as JSON, still to be parsed by whoever knows its shape. */
  readonly body: () => Promise<unknown>;
  readonly request: Request;
}

/** Problem details; what is not a refusal is a bug, logged and told without its inside. */
export function problemResponse(app: App.Locals['app'], error: unknown): Response {
  const { status, body } = app.services.errors.problemOf(error);
  if (status === 500)
    app.ctx.log.error({ error: error instanceof Error ? error.stack : String(error) }, 'endpoint failed');
  return Response.json(body, { status, headers: { 'content-type': 'application/problem+json' } });
}

/**
 * Parses a call on a site, runs one use case, serialises what it returns; nothing else. The contract says what a route takes and
 * answers; a test holds that the route is the one of the file it stands in.
 */
export const endpoint =
  <R extends Route>(_route: R, work: (call: Call<R>) => Promise<Answer<R>>): APIRoute =>
  async ({ locals, params, url, request }) => {
    const { app } = locals;
    try {
      const site = await app.services.site.loadSite(app.ctx, { slug: params.site ?? '' });
      const body = () =>
        request.json().catch(() => {
          throw new app.services.errors.Refusal('invalid', 'The request holds no JSON.');
        });
      const value: unknown = await work({
        app,
        by: locals.owner.name,
        site,
        // The framework has matched the file's own path: what it leaves open is there.
        params: params as Params<R>,
        query: Object.fromEntries(url.searchParams) as Call<R>['query'],
        body,
        request,
      });
      return value instanceof Response ? value : Response.json(value ?? { done: true });
    } catch (error) {
      return problemResponse(app, error);
    }
  };
