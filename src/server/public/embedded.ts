import type { Ctx } from '../../services/context';
import { type Asked, fragmentHtml, framePage } from '../../services/storefront/embedded';
import { loadSite } from '../../services/sites/site';
import { type Call, route } from '../router';
import { viaOf } from './ordinary';
import { prepare, type PreparedAnswers, sendPrepared } from './prepared';

const askedBy = (c: Call): Asked => {
  const own = new Map(c.url.searchParams);
  own.delete('via');
  return { kind: c.params.kind ?? '', attributes: own, via: viaOf(c) };
};

/** Widgets for pages that take no script or are put together elsewhere: frames, and fragments for includes. */
export function embeddedRoutes(ctx: Ctx, answers: PreparedAnswers) {
  const { shop } = ctx.addresses;
  // A frame may stand on any page; in it runs our script and nobody else's.
  const policy = `default-src 'none'; script-src ${shop}; connect-src ${shop}; img-src ${shop} https: http: data:; media-src ${shop}; style-src 'unsafe-inline' ${shop}; font-src ${shop} data:; form-action ${shop}; base-uri 'none'; frame-ancestors *`;
  const fresh = {
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'public, max-age=0, must-revalidate',
    'cdn-cache-control': 'public, max-age=5, stale-while-revalidate=30',
  };
  const answer = (make: typeof framePage, headers: Record<string, string>) => async (c: Call) => {
    const { id } = (await loadSite(ctx, { slug: c.params.shop ?? '' })).row;
    sendPrepared(
      c.req,
      c.res,
      await answers.get(id, c.req.url ?? '', async () =>
        prepare(await make(ctx, await loadSite(ctx, { id }), askedBy(c)), { ...fresh, ...headers }),
      ),
    );
  };
  return [
    route('GET', '/:shop/frame/:kind', answer(framePage, { 'content-security-policy': policy })),
    route('GET', '/:shop/fragments/:kind', answer(fragmentHtml, { 'access-control-allow-origin': '*' })),
  ];
}
