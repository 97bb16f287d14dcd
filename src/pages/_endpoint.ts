import type { APIRoute } from 'astro';
import type { Answer, Params, Query, Route } from '../contract/endpoints';
import { type ActivityDetail, isRecorded, rightFor } from '../contract/rights';
import { mayDo } from '../core/people/roles';
import type { Site } from '../services/sites/site';

/** What somebody's role does not let them do. */
export const notYours = (app: App.Locals['app']): Error =>
  new app.services.errors.Refusal(
    'denied',
    'Only an owner of the shop may do this. Ask them, or have them change what you may do.',
  );

/** A request on a site, its path and query by their names. */
interface Call<R extends Route> {
  readonly app: App.Locals['app'];
  readonly by: string;
  readonly person: App.Locals['person'];
  /** Says which of several things a route was asked for, for the list of who did what. */
  readonly was: (detail: ActivityDetail) => void;
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
  <R extends Route>(route: R, work: (call: Call<R>) => Promise<Answer<R>>): APIRoute =>
  async ({ locals, params, url, request }) => {
    const { app, person } = locals;
    try {
      if (!mayDo(person.role, rightFor[route])) throw notYours(app);
      const site = await app.services.site.loadSite(app.ctx, { slug: params.site ?? '' });
      const body = () =>
        request.json().catch(() => {
          throw new app.services.errors.Refusal('invalid', 'The request holds no JSON.');
        });
      const { activity } = app.services;
      const subject = isRecorded(route)
        ? await activity.subjectOf(app.ctx, site.row.id, route, params.id)
        : '';
      let detail: ActivityDetail | undefined;
      const value: unknown = await work({
        app,
        by: person.name,
        person,
        was: (one) => {
          detail = one;
        },
        site,
        // The framework has matched the file's own path: what it leaves open is there.
        params: params as Params<R>,
        query: Object.fromEntries(url.searchParams) as Call<R>['query'],
        body,
        request,
      });
      if (isRecorded(route))
        await activity.recordActivity(app.ctx, {
          person,
          siteId: site.row.id,
          what: detail ?? route,
          subject,
        });
      return value instanceof Response ? value : Response.json(value ?? { done: true });
    } catch (error) {
      return problemResponse(app, error);
    }
  };
