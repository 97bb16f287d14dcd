import { z } from 'zod';
import { lookCss } from '../../core/look/look';
import type { Ctx } from '../../services/context';
import { pictureAt } from '../../services/goods/pictures';
import { goodsPageView } from '../../services/storefront/views';
import { loadSite, siteLook } from '../../services/sites/site';
import { send } from '../http';
import { type Call, route } from '../router';
import { prepare, type PreparedAnswers, sendPrepared } from './prepared';

/**
 * Browsers ask again each time and mostly get a 304, so that no price is ever yesterday's; caches in front may answer
 * for a moment and refresh behind it (RFC 9213 targeted cache control, RFC 5861).
 */
const FRESH = { 'cache-control': 'public, max-age=0, must-revalidate', 'cdn-cache-control': 'public, max-age=5, stale-while-revalidate=30', 'access-control-allow-origin': '*' } as const;
const slugs = z.string().max(4000).transform((s) => [...new Set(s.split(',').filter(Boolean))].sort());

/** One request for all the widgets of a page: their products, and the look they wear. */
export function readRoutes(ctx: Ctx, answers: PreparedAnswers) {
  const siteIds = new Map<string, string>();
  const page = async ({ req, res, url, params }: Call) => {
    const shop = params.shop ?? '';
    const id = siteIds.get(shop) ?? (await loadSite(ctx, { slug: shop })).row.id;
    siteIds.set(shop, id);
    const prepared = await answers.get(id, req.url ?? '', async () => {
      const site = await loadSite(ctx, { id });
      const wanted = slugs.parse(url.searchParams.get('goods') ?? '');
      const all = wanted.length ? await goodsPageView(ctx, site) : [];
      const goods = Object.fromEntries(all.filter((g) => wanted.includes(g.slug)).map((g) => [g.slug, { name: g.name, price: g.price, stock: g.stock, soldOut: g.soldOut }]));
      return prepare(JSON.stringify({ goods, look: lookCss(await siteLook(ctx, site)) }), { ...FRESH, 'content-type': 'application/json; charset=utf-8' });
    });
    sendPrepared(req, res, prepared);
  };

  const picture = async ({ res, params }: Call) => {
    const width = Number(/^(\d{1,4})\.webp$/.exec(params.file ?? '')?.[1] ?? 480);
    const body = await ctx.pictures.get(`${params.hash} ${width}`, () => pictureAt(ctx, params.hash ?? '', width));
    send(res, { type: 'image/webp', body, headers: { 'cache-control': 'public, max-age=31536000, immutable', 'access-control-allow-origin': '*', 'cross-origin-resource-policy': 'cross-origin' } });
  };

  return [route('GET', '/v1/:shop/page', page), route('GET', '/pictures/:hash/:file', picture)];
}
