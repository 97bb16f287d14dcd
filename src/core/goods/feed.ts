import { escapeHtml } from '../html/escape';

/** A product as feeds tell of it; addresses whole, price as text with its currency. */
export interface FeedEntry {
  readonly url: string;
  readonly name: string;
  readonly summary: string;
  readonly price: string;
  readonly currency: string;
  readonly available: boolean;
  readonly picture: string;
  readonly gtin: string;
  readonly sku: string;
  readonly categories: readonly string[];
  /** ISO 8601. */
  readonly updated: string;
}

/** Characters that XML 1.0 has no way to write (section 2.2) are left out. */
const xml = (text: string): string =>
  escapeHtml(text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, ''));

/** The shop's goods as an Atom feed (RFC 4287): name, price and text, picture and address; programs that want more read the JSON feed. */
export function atomFeed(
  shop: { readonly name: string; readonly url: string; readonly self: string; readonly updated: string },
  entries: readonly FeedEntry[],
): string {
  const entry = (e: FeedEntry) =>
    `<entry><id>${xml(e.url)}</id><title>${xml(e.name)}</title><link rel="alternate" type="text/html" href="${xml(e.url)}"/>${e.picture ? `<link rel="enclosure" type="image/webp" href="${xml(e.picture)}"/>` : ''}<updated>${e.updated}</updated>${e.categories.map((c) => `<category term="${xml(c)}"/>`).join('')}<summary>${xml(e.price)} ${xml(e.currency)}${e.summary ? `. ${xml(e.summary)}` : ''}</summary></entry>`;
  return `<?xml version="1.0" encoding="utf-8"?>\n<feed xmlns="http://www.w3.org/2005/Atom"><id>${xml(shop.self)}</id><title>${xml(shop.name)}</title><author><name>${xml(shop.name)}</name></author><link rel="self" type="application/atom+xml" href="${xml(shop.self)}"/><link rel="alternate" type="text/html" href="${xml(shop.url)}"/><updated>${shop.updated}</updated>\n${entries.map(entry).join('\n')}\n</feed>\n`;
}

/** The same as linked data: an ItemList of schema.org with a Product and its Offer to each. */
export const jsonFeed = (
  shop: { readonly name: string; readonly url: string },
  entries: readonly FeedEntry[],
): Record<string, unknown> => ({
  '@context': 'https://schema.org',
  '@type': 'ItemList',
  name: shop.name,
  url: shop.url,
  numberOfItems: entries.length,
  itemListElement: entries.map((e, n) => ({
    '@type': 'ListItem',
    position: n + 1,
    item: {
      '@type': 'Product',
      name: e.name,
      url: e.url,
      ...(e.summary && { description: e.summary }),
      ...(e.picture && { image: e.picture }),
      ...(e.gtin && { gtin: e.gtin }),
      ...(e.sku && { sku: e.sku }),
      offers: {
        '@type': 'Offer',
        price: e.price,
        priceCurrency: e.currency,
        availability: `https://schema.org/${e.available ? 'InStock' : 'OutOfStock'}`,
        url: e.url,
      },
    },
  })),
});

/** Addresses a sitemap holds at most: sitemaps.org, protocol 0.9. */
export const SITEMAP_MOST = 50_000;

/** The shop's pages for search engines, as sitemaps.org, protocol 0.9, has it. */
export const sitemap = (urls: readonly { readonly url: string; readonly updated?: string }[]): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${urls
    .slice(0, SITEMAP_MOST)
    .map((u) => `<url><loc>${xml(u.url)}</loc>${u.updated ? `<lastmod>${u.updated}</lastmod>` : ''}</url>`)
    .join('\n')}\n</urlset>\n`;
