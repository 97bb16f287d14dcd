import type {
  AggregateOffer,
  BreadcrumbList,
  Event as SchemaEvent,
  Graph,
  Offer,
  Product as SchemaProduct,
} from 'schema-dts';
import { decimalText } from '../money/format';
import type { Minor } from '../money/minor';
import type { Product } from './product';

/** What a product's structured data is made of; addresses whole, prices as they are now. */
export interface StructuredInput {
  readonly product: Product;
  readonly url: string;
  readonly seller: string;
  readonly currency: string;
  readonly pictures: readonly string[];
  readonly offers: readonly {
    readonly sku: string;
    readonly gtin: string;
    readonly name: string;
    readonly price: Minor;
    readonly availability: 'there' | 'few' | 'later' | 'out';
    readonly until: string | null;
  }[];
  /** Ways to it, the shop first. */
  readonly crumbs: readonly { readonly name: string; readonly url: string }[];
  readonly rating: { readonly value: number; readonly count: number } | null;
  readonly reviews: readonly {
    readonly rating: number;
    readonly name: string;
    readonly title: string;
    readonly text: string;
    readonly at: Date;
  }[];
}

/** schema.org ItemAvailability for how a count stands. */
const availability = {
  there: 'https://schema.org/InStock',
  few: 'https://schema.org/LimitedAvailability',
  later: 'https://schema.org/BackOrder',
  out: 'https://schema.org/OutOfStock',
} as const;

const offerOf = (i: StructuredInput, o: StructuredInput['offers'][number]): Offer => ({
  '@type': 'Offer',
  url: i.url,
  price: decimalText(o.price, i.currency),
  priceCurrency: i.currency,
  itemCondition: 'https://schema.org/NewCondition',
  seller: { '@type': 'Organization', name: i.seller },
  availability:
    i.product.stockRule.whenOut === 'preorder' && o.availability === 'later'
      ? 'https://schema.org/PreOrder'
      : availability[o.availability],
  ...(o.until && { priceValidUntil: o.until.slice(0, 10) }),
  ...(o.sku && { sku: o.sku }),
  ...(o.gtin && { gtin: o.gtin.replace(/\D/g, '') }),
  ...(o.name && { name: o.name }),
});

/** Stars and what buyers say; only what is shown on the page. */
const rated = ({ rating, reviews }: StructuredInput) => ({
  ...(rating && {
    aggregateRating: {
      '@type': 'AggregateRating' as const,
      ratingValue: rating.value,
      bestRating: 5,
      worstRating: 1,
      reviewCount: rating.count,
    },
  }),
  ...(reviews.length && {
    review: reviews.map((r) => ({
      '@type': 'Review' as const,
      reviewRating: { '@type': 'Rating' as const, ratingValue: r.rating, bestRating: 5, worstRating: 1 },
      author: { '@type': 'Person' as const, name: r.name },
      datePublished: r.at.toISOString().slice(0, 10),
      ...(r.title && { name: r.title }),
      ...(r.text && { reviewBody: r.text }),
    })),
  }),
});

/** The product as a graph of schema.org: Product (or Event) with its offers, and the way to it. Source: schema.org 28. */
export function structuredData(i: StructuredInput): Graph {
  const { product: p } = i;
  const prices = i.offers.map((o) => o.price);
  const offers: Offer | AggregateOffer =
    i.offers.length === 1 && i.offers[0]
      ? offerOf(i, i.offers[0])
      : {
          '@type': 'AggregateOffer',
          priceCurrency: i.currency,
          lowPrice: decimalText(Math.min(...prices), i.currency),
          highPrice: decimalText(Math.max(...prices), i.currency),
          offerCount: i.offers.length,
          offers: i.offers.slice(0, 50).map((o) => offerOf(i, o)),
        };
  const shared = {
    name: p.name,
    url: i.url,
    ...(p.plain && { description: p.plain.slice(0, 5000) }),
    ...(i.pictures.length && { image: i.pictures }),
    ...(i.offers.length && { offers }),
    ...rated(i),
  };
  const thing: SchemaProduct | SchemaEvent =
    p.kind === 'event' && p.event
      ? {
          '@type': 'Event',
          ...shared,
          startDate: p.event.start,
          ...(p.event.end && { endDate: p.event.end }),
          eventStatus: 'https://schema.org/EventScheduled',
          eventAttendanceMode: 'https://schema.org/OfflineEventAttendanceMode',
          location: {
            '@type': 'Place',
            name: p.event.place || i.seller,
            address: p.event.address || p.event.place || i.seller,
          },
          organizer: { '@type': 'Organization', name: i.seller },
        }
      : {
          '@type': 'Product',
          ...shared,
          ...(p.categories[0] && { category: p.categories[0].replace(/ \/ /g, ' > ') }),
          brand: { '@type': 'Brand', name: i.seller },
        };
  const crumbs: BreadcrumbList = {
    '@type': 'BreadcrumbList',
    itemListElement: [...i.crumbs, { name: p.name, url: i.url }].map((c, n) => ({
      '@type': 'ListItem',
      position: n + 1,
      name: c.name,
      item: c.url,
    })),
  };
  return { '@context': 'https://schema.org', '@graph': [thing, crumbs] };
}

/** As it stands inside a script element: nothing in it can end that element. */
export const asScriptText = (data: unknown): string =>
  JSON.stringify(data).replace(
    /[<>&\u2028\u2029]/g,
    (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
