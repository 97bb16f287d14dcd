import { z } from 'zod';
import { releasesFragment } from '../../storefront/downloads';
import { defineKind } from '../kind';
import { goneWords } from './common-drawing';
import { heading, headingField, lang, langField, level, levelField, saysIn } from './common';

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
type ReleasesSettings = z.infer<typeof releasesSettings>;

export const releases = defineKind<ReleasesSettings>({
  kind: 'releases',
  name: 'Release notes',
  hint: 'What is new in a product that is downloaded.',
  sign: '<path d="M6 .8v6M3.4 4.4 6 7l2.6-2.6" fill="none" stroke="currentColor" stroke-width="1.4"/><path d="M1.2 8.4v2.2h9.6V8.4" fill="none" stroke="currentColor" stroke-width="1.3"/>',
  drawing:
    '<path d="M26 4v18M18 15l8 8 8-8" class="s"/><path d="M9 25v8h34v-8" class="s"/><path d="M14 33h24" class="s"/>',
  script: 'more',
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
  link: (s, { shopUrl, placementId, productName, lang: ofShop }) => ({
    href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
    text: s.heading || `${saysIn(s, { lang: ofShop }).releases}: ${productName(s.goods) ?? s.goods}`,
  }),
  async draw(s, shop) {
    const product = (await shop.goods()).bySlug.get(s.goods);
    if (!product || product.shows === 'hidden') return goneWords(shop.w);
    return releasesFragment({ ...s, releases: shop.releases(product, s.limit) }, shop.w);
  },
  describe: (s, productName) => `Release notes: ${productName(s.goods) ?? s.goods}`,
});
