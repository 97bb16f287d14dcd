import Validator from '@adobe/structured-data-validator';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Minor } from '../money/minor';
import { atomFeed, type FeedEntry, jsonFeed, sitemap } from './feed';
import { type Product, productInput } from './product';
import { asScriptText, structuredData } from './structured';

const entry: FeedEntry = {
  url: 'https://a.example/shop/?goods=trug&x=1',
  name: 'Trug <b> & "co"',
  summary: 'Oval \u0001',
  price: '42.00',
  currency: 'GBP',
  available: true,
  picture: '',
  gtin: '',
  sku: 'T',
  categories: ['Baskets / Trugs'],
  updated: '2026-11-25T10:00:00.000Z',
};
const shop = {
  name: 'Withybed & co',
  url: 'https://a.example/shop/',
  self: 'https://shop.example/w/feed.atom',
  updated: '2026-11-25T10:00:00.000Z',
};

describe('feeds', () => {
  it('are XML that an independent parser reads, with what RFC 4287 asks of a feed and its entries', () => {
    const text = atomFeed(shop, [entry]);
    expect(XMLValidator.validate(text)).toBe(true);
    const { feed } = new XMLParser({ ignoreAttributes: false }).parse(text) as {
      feed: Record<string, unknown> & { entry: Record<string, unknown> };
    };
    // RFC 4287, 4.1.1 and 4.1.2: id, title, updated; author.
    for (const must of ['id', 'title', 'updated', 'author']) expect(feed[must], must).toBeDefined();
    for (const must of ['id', 'title', 'updated']) expect(feed.entry[must], must).toBeDefined();
    expect(feed.entry.title).toBe('Trug <b> & "co"');
    expect(
      XMLValidator.validate(
        sitemap([{ url: entry.url }, { url: 'https://a.example/?a=1&b=2', updated: '2026-11-25' }]),
      ),
    ).toBe(true);
    expect(jsonFeed(shop, [entry])).toMatchObject({
      '@type': 'ItemList',
      itemListElement: [{ item: { offers: { price: '42.00', availability: 'https://schema.org/InStock' } } }],
    });
  });

  it('stay XML whatever an owner writes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        const clean = text.replace(/[\ud800-\udfff]/g, '');
        expect(
          XMLValidator.validate(
            atomFeed({ ...shop, name: clean }, [
              { ...entry, name: clean, summary: clean, categories: [clean] },
            ]),
          ),
        ).toBe(true);
      }),
    );
  });
});

describe('structured data', () => {
  const product = (more: object): Product => {
    const form = productInput.parse({ name: 'Trug', price: 4200, ...more });
    return {
      ...form,
      id: 'p',
      plain: 'Oval',
      addedAt: 0,
      order: 1,
      rating: null,
      variants: form.variants.map((v, n) => ({ ...v, id: `v${n}` })),
    };
  };
  const input = (p: Product, prices: readonly number[] = [4200]) => ({
    product: p,
    url: 'https://a.example/shop/?goods=trug',
    seller: 'Withybed',
    currency: 'GBP',
    pictures: ['https://shop.example/p.webp'],
    crumbs: [{ name: 'Shop', url: 'https://a.example/shop/' }],
    rating: p.rating,
    reviews: [],
    offers: prices.map((price) => ({
      sku: 'T',
      gtin: '4006381333931',
      name: '',
      price: price as Minor,
      availability: 'few' as const,
      until: '2026-12-24T00:00:00Z',
    })),
  });
  const graph = (p: Product, prices?: readonly number[]) =>
    (structuredData(input(p, prices)) as unknown as { '@graph': Record<string, never>[] })['@graph'];

  it('has what search engines ask of a Product, an Event and a BreadcrumbList (schema.org)', () => {
    const [thing, crumbs] = graph(product({ categories: ['Baskets / Trugs'] }));
    expect(thing).toMatchObject({
      '@type': 'Product',
      name: 'Trug',
      category: 'Baskets > Trugs',
      offers: {
        '@type': 'Offer',
        price: '42.00',
        priceCurrency: 'GBP',
        availability: 'https://schema.org/LimitedAvailability',
        priceValidUntil: '2026-12-24',
        gtin: '4006381333931',
      },
    });
    expect(crumbs).toMatchObject({
      '@type': 'BreadcrumbList',
      itemListElement: [
        { position: 1, name: 'Shop' },
        { position: 2, name: 'Trug' },
      ],
    });
    expect(graph(product({}), [5400, 6800])[0]).toMatchObject({
      offers: { '@type': 'AggregateOffer', lowPrice: '54.00', highPrice: '68.00', offerCount: 2 },
    });
    expect(
      graph(product({ kind: 'event', event: { start: '2026-12-12T10:00:00+00:00', place: 'The shed' } }))[0],
    ).toMatchObject({
      '@type': 'Event',
      startDate: '2026-12-12T10:00:00+00:00',
      location: { '@type': 'Place', name: 'The shed' },
    });
  });

  it('cannot end the element it stands in, and is read back as it was', () => {
    fc.assert(
      fc.property(fc.string(), (name) => {
        const text = asScriptText({ name: `${name}</script><!--` });
        expect(text).not.toMatch(/[<>]/);
        expect(JSON.parse(text)).toEqual({ name: `${name}</script><!--` });
      }),
    );
  });
});

describe('structured data, by a checker that is not ours (@adobe/structured-data-validator: rules of schema.org and of search engines)', () => {
  const made = (more: object): Product => {
    const form = productInput.parse({ name: 'Trug', price: 4200, ...more });
    return {
      ...form,
      id: 'p',
      plain: 'Oval',
      addedAt: 0,
      order: 1,
      rating: { value: 4.5, count: 2 },
      variants: form.variants.map((v, n) => ({ ...v, id: `v${n}` })),
    };
  };
  const faults = async (data: unknown): Promise<string[]> => {
    const things = (data as { '@graph': { '@type': string }[] })['@graph'];
    const jsonld = Object.fromEntries(things.map((t) => [t['@type'], [t]]));
    const issues = (await new Validator().validate({ jsonld, microdata: {}, rdfa: {} })) as {
      severity: string;
      issueMessage: string;
    }[];
    return issues.filter((x) => x.severity === 'ERROR').map((x) => x.issueMessage);
  };
  const whole = (p: Product, prices: readonly number[]) =>
    structuredData({
      product: p,
      url: 'https://a.example/shop/?goods=trug',
      seller: 'Withybed',
      currency: 'GBP',
      pictures: ['https://shop.example/p'],
      crumbs: [{ name: 'Shop', url: 'https://a.example/shop/' }],
      rating: p.rating,
      reviews: [{ rating: 5, name: 'Ada', title: 'Fine', text: 'It holds.', at: new Date('2026-11-01') }],
      offers: prices.map((price) => ({
        sku: 'T',
        gtin: '4006381333931',
        name: 'M',
        price: price as Minor,
        availability: 'there' as const,
        until: null,
      })),
    });

  it('finds nothing wrong with a product of one price, of several, or with its reviews', async () => {
    expect(await faults(whole(made({}), [4200]))).toEqual([]);
    expect(
      await faults(
        whole(
          made({
            options: [{ name: 'Size', values: [{ name: 'S' }, { name: 'M' }] }],
            variants: [{ values: ['S'] }, { values: ['M'] }],
          }),
          [4200, 5400],
        ),
      ),
    ).toEqual([]);
  });

  it('would tell: without a price, or with stars beyond five, it does', async () => {
    const [thing] = (whole(made({}), [4200]) as unknown as { '@graph': Record<string, unknown>[] })['@graph'];
    expect(
      await faults({ '@graph': [{ ...thing, offers: { '@type': 'Offer', priceCurrency: 'GBP' } }] }),
    ).not.toEqual([]);
    expect(await faults({ '@graph': [{ ...thing, name: undefined }] })).not.toEqual([]);
  });
});
