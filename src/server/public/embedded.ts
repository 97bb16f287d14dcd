import { type Asked, fragmentHtml, framePage } from '../../services/storefront/embedded';
import { loadSite } from '../../services/sites/site';
import { prepare, sendPrepared } from './prepared';
import { type Call, route } from './router';
import { type Shop, siteOf } from './shop';
import { viaOf } from './via';

const FRESH_HTML = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'public, max-age=0, must-revalidate',
  'cdn-cache-control': 'public, max-age=5, stale-while-revalidate=30',
};

/** Widgets for pages that take no script or are put together elsewhere: frames, and fragments for includes. */
export const embeddedRoutes = [
  route('GET', '/:shop/frame/:kind', (shop, c) =>
    embedded(shop, c, framePage, { 'content-security-policy': framePolicy(shop.ctx.addresses.shop) }),
  ),
  route('GET', '/:shop/fragments/:kind', (shop, c) =>
    embedded(shop, c, fragmentHtml, { 'access-control-allow-origin': '*' }),
  ),
];

async function embedded(
  shop: Shop,
  c: Call<'shop' | 'kind'>,
  make: typeof framePage,
  headers: Readonly<Record<string, string>>,
): Promise<void> {
  const { ctx, answers } = shop;
  const { id } = (await siteOf(shop, c)).row;
  const draw = async () =>
    prepare(await make(ctx, await loadSite(ctx, { id }), askedBy(c)), { ...FRESH_HTML, ...headers });
  sendPrepared(c.req, c.res, await answers.get(id, c.req.url ?? '', draw));
}

function askedBy(c: Call<'kind'>): Asked {
  const own = new Map(c.url.searchParams);
  const draft = own.get('draft');
  own.delete('via');
  own.delete('draft');
  return { kind: c.params.kind, attributes: own, via: viaOf(c), ...(draft !== undefined && { draft }) };
}

/** A frame may stand on any page; in it runs our script and nobody else's. */
const framePolicy = (shop: string): string =>
  `default-src 'none'; script-src ${shop}; connect-src ${shop}; img-src ${shop} https: http: data:; media-src ${shop}; style-src 'unsafe-inline' ${shop}; font-src ${shop} data:; form-action ${shop}; base-uri 'none'; frame-ancestors *`;
