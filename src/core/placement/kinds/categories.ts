import { z } from 'zod';
import { categoriesFragment } from '../../storefront/shop-front';
import { categoryView } from '../../storefront/shop-list';
import { defineKind } from '../kind';
import { heading, headingField, lang, langField, level, levelField, saysIn } from './common';

const categorySettings = z.object({
  form: z.enum(['list', 'across']).default('list'),
  counts: z.boolean().default(true),
  heading,
  level,
  lang,
});
export const categoryList = defineKind<z.infer<typeof categorySettings>>({
  kind: 'categories',
  name: 'Category list',
  hint: 'The ways into the catalogue; empty ones hidden.',
  sign: '<path d="M1 2.4h2M1 5.8h2M1 9.2h2M5 2.4h6M5 5.8h6M5 9.2h6" stroke="currentColor" stroke-width="1.4"/>',
  drawing:
    '<path d="M12 9h4v4h-4zM12 18h4v4h-4zM12 27h4v4h-4z" class="f"/><path d="M21 11h20M21 20h15M21 29h18" class="s"/>',
  script: 'more',
  settings: categorySettings,
  fields: [
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['list', 'A list'],
        ['across', 'A line'],
      ],
    },
    { key: 'counts', label: 'How many are in each', as: 'yes' },
    headingField,
    levelField,
    langField,
  ],
  usualPlace: 'side',
  usualReach: 'page',
  frameHeight: 260,
  // The shop's own page on the site, where it has one; else the plain list.
  link: (s, { shopUrl, shopHref, placementId, lang: ofShop }) => ({
    href: shopHref || `${shopUrl}/goods?via=${placementId}`,
    text: s.heading || saysIn(s, { lang: ofShop }).all,
  }),
  async draw(s, shop) {
    const { tree } = await shop.goods();
    const categories = tree.map((node) => categoryView(node, shop.listHref));
    return categoriesFragment({ ...s, across: s.form === 'across', categories }, shop.w);
  },
  describe: () => 'Category list',
});
