import { XMLParser, XMLValidator } from 'fast-xml-parser';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Minor } from '../money/minor';
import { atomFeed, type FeedEntry, jsonFeed, sitemap } from './feed';
import { type Product, productInput } from './product';
import { asScriptText, structuredData } from './structured';

const entry: FeedEntry = { url: 'https://a.example/shop/?goods=trug&x=1', name: 'Trug <b> & "co"', summary: 'Oval \u0001', price: '42.00', currency: 'GBP', available: true, picture: '', gtin: '', sku: 'T', categories: ['Baskets / Trugs'], updated: '2026-11-25T10:00:00.000Z' };
const shop = { name: 'Withybed & co', url: 'https://a.example/shop/', self: 'https://shop.example/w/feed.atom', updated: '2026-11-25T10:00:00.000Z' };

describe('feeds', () => {
  it('are XML that an independent parser reads, with what RFC 4287 asks of a feed and its entries', () => {
    const text = atomFeed(shop, [entry]);
    expect(XMLValidator.validate(text)).toBe(true);
    const { feed } = new XMLParser({ ignoreAttributes: false }).parse(text) as { feed: Record<string, unknown> & { entry: Record<string, unknown> } };
    // RFC 4287, 4.1.1 and 4.1.2: id, title, updated; author.
    for (const must of ['id', 'title', 'updated', 'author']) expect(feed[must], must).toBeDefined();
    for (const must of ['id', 'title', 'updated']) expect(feed.entry[must], must).toBeDefined();
    expect(feed.entry.title).toBe('Trug <b> & "co"');
    expect(XMLValidator.validate(sitemap([{ url: entry.url }, { url: 'https://a.example/?a=1&b=2', updated: '2026-11-25' }]))).toBe(true);
    expect(jsonFeed(shop, [entry])).toMatchObject({ '@type': 'ItemList', itemListElement: [{ item: { offers: { price: '42.00', availability: 'https://schema.org/InStock' } } }] });
  });

  it('stay XML whatever an owner writes', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (text) => {
      const clean = text.replace(/[\ud800-\udfff]/g, '');
      expect(XMLValidator.validate(atomFeed({ ...shop, name: clean }, [{ ...entry, name: clean, summary: clean, categories: [clean] }]))).toBe(true);
    }));
  });
});

describe('structured data', () => {
  const product = (more: object): Product => {
    const form = productInput.parse({ name: 'Trug', price: 4200, ...more });
    return { ...form, id: 'p', plain: 'Oval', addedAt: 0, order: 1, variants: form.variants.map((v, n) => ({ ...v, id: `v${n}` })) };
  };
  const input = (p: Product, prices: readonly number[] = [4200]) => ({
    product: p, url: 'https://a.example/shop/?goods=trug', seller: 'Withybed', currency: 'GBP', pictures: ['https://shop.example/p.webp'], crumbs: [{ name: 'Shop', url: 'https://a.example/shop/' }],
    offers: prices.map((price) => ({ sku: 'T', gtin: '4006381333931', name: '', price: price as Minor, standing: 'few' as const, until: '2026-12-24T00:00:00Z' })),
  });
  const graph = (p: Product, prices?: readonly number[]) => (structuredData(input(p, prices)) as { '@graph': Record<string, never>[] })['@graph'];

  it('has what search engines ask of a Product, an Event and a BreadcrumbList (schema.org)', () => {
    const [thing, crumbs] = graph(product({ categories: ['Baskets / Trugs'] }));
    expect(thing).toMatchObject({ '@type': 'Product', name: 'Trug', category: 'Baskets > Trugs', offers: { '@type': 'Offer', price: '42.00', priceCurrency: 'GBP', availability: 'https://schema.org/LimitedAvailability', priceValidUntil: '2026-12-24', gtin: '4006381333931' } });
    expect(crumbs).toMatchObject({ '@type': 'BreadcrumbList', itemListElement: [{ position: 1, name: 'Shop' }, { position: 2, name: 'Trug' }] });
    expect(graph(product({}), [5400, 6800])[0]).toMatchObject({ offers: { '@type': 'AggregateOffer', lowPrice: '54.00', highPrice: '68.00', offerCount: 2 } });
    expect(graph(product({ kind: 'event', event: { start: '2026-12-12T10:00:00+00:00', place: 'The shed' } }))[0]).toMatchObject({ '@type': 'Event', startDate: '2026-12-12T10:00:00+00:00', location: { '@type': 'Place', name: 'The shed' } });
  });

  it('cannot end the element it stands in, and is read back as it was', () => {
    fc.assert(fc.property(fc.string(), (name) => {
      const text = asScriptText({ name: `${name}</script><!--` });
      expect(text).not.toMatch(/[<>]/);
      expect(JSON.parse(text)).toEqual({ name: `${name}</script><!--` });
    }));
  });
});
