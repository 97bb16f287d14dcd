import { z } from 'zod';
import { reviewOrders } from '../../goods/reviews';
import { reviewsFragment } from '../../storefront/reviews';
import { defineKind } from '../kind';
import { goneWords } from './common-drawing';
import { heading, headingField, lang, langField, level, levelField, saysIn } from './common';

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
type ReviewsSettings = z.infer<typeof reviewsSettings>;

export const reviews = defineKind<ReviewsSettings>({
  kind: 'reviews',
  name: 'Reviews',
  hint: 'What buyers say of a product, or of all that you sell.',
  sign: '<path d="M6 .8 7.6 4.2l3.7.4-2.8 2.5.8 3.7L6 8.9l-3.3 1.9.8-3.7L.7 4.6l3.7-.4z" fill="none" stroke="currentColor" stroke-width="1.2" stroke-linejoin="round"/>',
  drawing:
    '<path d="M26 4l4.4 9.4 10.2 1.2-7.6 7 2.1 10.1L26 26.6l-9.1 5.1L19 21.6l-7.6-7 10.2-1.2z" class="s"/><path d="M26 4v22.6l-9.1 5.1L19 21.6l-7.6-7 10.2-1.2z" class="f"/>',
  script: 'more',
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
  link: (s, { shopUrl, placementId, lang: ofShop }) => ({
    href: s.goods
      ? `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`
      : `${shopUrl}/goods?via=${placementId}`,
    text: s.heading || saysIn(s, { lang: ofShop }).reviews,
  }),
  async draw(s, shop) {
    const product = s.goods ? (await shop.goods()).bySlug.get(s.goods) : null;
    if (product === undefined || product?.shows === 'hidden') return goneWords(shop.w);
    return reviewsFragment({ ...s, ...(await shop.reviews(product, s)) }, shop.w);
  },
  describe: (s, productName) => `Reviews: ${s.goods ? (productName(s.goods) ?? s.goods) : 'of all goods'}`,
});
