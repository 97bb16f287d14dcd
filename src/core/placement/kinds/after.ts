import { z } from 'zod';
import { reviewOrders } from '../../goods/reviews';
import { defineKind } from '../kind';
import { heading, headingField, lang, langField, level, levelField } from './common';

/** What is said of goods after they were sold: by their buyers, and by the owner of what is downloaded. */

const reviewsSettings = z.object({
  /** A product; nothing for all of the shop. */
  goods: z.string().max(80).default(''),
  order: z.enum(reviewOrders).default('newest'),
  limit: z
    .number()
    .int()
    .min(1, 'Show at least one review.')
    .max(50, 'At most 50 reviews stand together.')
    .default(6),
  spread: z.boolean().default(true),
  heading,
  level,
  lang,
});
export type ReviewsSettings = z.infer<typeof reviewsSettings>;

export const reviews = defineKind<ReviewsSettings>({
  kind: 'reviews',
  name: 'Reviews',
  hint: 'What buyers say of a product, or of all that you sell.',
  element: 'stall-reviews',
  settings: reviewsSettings,
  fields: [
    { key: 'goods', label: 'Of one product; none: of all', as: 'goods' },
    {
      key: 'order',
      label: 'Order',
      as: 'choice',
      options: [
        ['newest', 'Newest first'],
        ['best', 'Most stars first'],
        ['worst', 'Fewest stars first'],
      ],
    },
    { key: 'limit', label: 'How many at most', as: 'number', least: 1, most: 50 },
    { key: 'spread', label: 'How many gave how many stars', as: 'yes' },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 600,
  link: (s, { shopUrl, placementId }) => ({
    href: s.goods
      ? `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`
      : `${shopUrl}/goods?via=${placementId}`,
    text: s.heading || 'What buyers say',
  }),
  describe: (s, productName) => `Reviews: ${s.goods ? (productName(s.goods) ?? s.goods) : 'of all goods'}`,
});

const releasesSettings = z.object({
  goods: z
    .string('Choose the product that is downloaded.')
    .min(1, 'Choose the product that is downloaded.')
    .max(80),
  limit: z
    .number()
    .int()
    .min(1, 'Show at least one release.')
    .max(50, 'At most 50 releases stand together.')
    .default(5),
  heading,
  level,
  lang,
});
export type ReleasesSettings = z.infer<typeof releasesSettings>;

export const releases = defineKind<ReleasesSettings>({
  kind: 'releases',
  name: 'Release notes',
  hint: 'What is new in a product that is downloaded.',
  element: 'stall-releases',
  settings: releasesSettings,
  fields: [
    { key: 'goods', label: 'Product', as: 'goods' },
    { key: 'limit', label: 'How many at most', as: 'number', least: 1, most: 50 },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 400,
  link: (s, { shopUrl, placementId, productName }) => ({
    href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
    text: s.heading || `What is new: ${productName(s.goods) ?? s.goods}`,
  }),
  describe: (s, productName) => `Release notes: ${productName(s.goods) ?? s.goods}`,
});
