import { atomFeed, type FeedEntry, jsonFeed, sitemap } from '../../core/goods/feed';
import { priceFrom } from '../../core/goods/price';
import { mostOf } from '../../core/goods/stock';
import { decimalText } from '../../core/money/format';
import type { Ctx } from '../context';
import { freeOfProducts } from '../goods/available';
import { catalogueOf } from '../goods/catalogue';
import type { Site } from '../sites/site';
import { pageOf, pictureUrl, shopHome, shopUrl } from '../sites/addresses';

async function entries(ctx: Ctx, site: Site): Promise<FeedEntry[]> {
  const all = await catalogueOf(ctx, site.row.id, site.row);
  const goods = all.shown.filter((p) => p.kind !== 'link');
  const now = ctx.now();
  const free = await freeOfProducts(ctx, site.row.id, goods, all);
  return goods.map((p) => ({
    url: pageOf(ctx, site, p.slug),
    name: p.name,
    summary: [...p.plain.slice(0, 1000)].slice(0, 500).join(''),
    price: decimalText(priceFrom(p, now.getTime()).least, site.row.currency),
    currency: site.row.currency,
    categories: p.categories,
    available: p.variants.some((v) => mostOf(free.get(v.id) ?? null, p.stockRule) !== 0),
    picture: pictureUrl(ctx, p.pictures[0]?.hash ?? null, 960) ?? '',
    gtin: p.variants[0]?.gtin ?? '',
    sku: p.variants[0]?.sku ?? '',
    updated: new Date(p.addedAt).toISOString(),
  }));
}

/** The goods for programs of others: Atom and linked data; and the shop's pages as a sitemap. Only what stands in lists. */
export const feeds = {
  'feed.atom': async (ctx: Ctx, site: Site) => ({
    type: 'application/atom+xml; charset=utf-8',
    body: atomFeed(
      {
        name: site.row.name,
        url: shopHome(ctx, site),
        self: `${shopUrl(ctx, site)}/feed.atom`,
        updated: ctx.now().toISOString(),
      },
      await entries(ctx, site),
    ),
  }),
  'feed.json': async (ctx: Ctx, site: Site) => ({
    type: 'application/ld+json; charset=utf-8',
    body: JSON.stringify(
      jsonFeed({ name: site.row.name, url: shopHome(ctx, site) }, await entries(ctx, site)),
    ),
  }),
  'sitemap.xml': async (ctx: Ctx, site: Site) => {
    const { shown, tree } = await catalogueOf(ctx, site.row.id, site.row);
    const home = shopHome(ctx, site);
    return {
      type: 'application/xml; charset=utf-8',
      body: sitemap([
        { url: home },
        ...tree.map((c) => ({ url: `${home}?category=${encodeURIComponent(c.slug)}` })),
        ...shown.map((p) => ({ url: pageOf(ctx, site, p.slug) })),
      ]),
    };
  },
} as const;
