import type { APIContext, APIRoute } from 'astro';
import type { Site } from '../services/sites/site';

interface Call {
  readonly app: App.Locals['app'];
  readonly by: string;
  readonly site: Site;
  readonly params: APIContext['params'];
  readonly url: URL;
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

/** Parses a call on a site, runs one use case, serialises what it returns; nothing else. */
export const endpoint =
  (work: (call: Call) => Promise<unknown>): APIRoute =>
  async ({ locals, params, url, request }) => {
    const { app } = locals;
    try {
      const site = await app.services.site.loadSite(app.ctx, { slug: params.site ?? '' });
      const body = () =>
        request.json().catch(() => {
          throw new app.services.errors.Refusal('invalid', 'The request holds no JSON.');
        });
      const value = await work({ app, by: locals.owner.name, site, params, url, body, request });
      return value instanceof Response ? value : Response.json(value ?? { done: true });
    } catch (error) {
      return problemResponse(app, error);
    }
  };
