import { z } from 'zod';
import { rowHeight } from '../../storefront/room';
import { defineKind, type WriteContext } from '../kind';
import { lang, langField, level, levelField, parts, partsField, room } from './common';

const settings = z.object({
  goods: z.string('Choose the product of this card.').min(1, 'Choose the product of this card.'),
  /** Upright, or picture and text beside each other. */
  form: z.enum(['upright', 'across']).default('upright'),
  parts: parts(['picture', 'name', 'description', 'price', 'stock', 'button']),
  level,
  lang,
});
export type ProductCardSettings = z.infer<typeof settings>;

const link = (s: ProductCardSettings, { placementId, shopUrl, productName }: WriteContext) => ({
  href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
  text: productName(s.goods) ?? s.goods,
});

export const productCard = defineKind<ProductCardSettings>({
  kind: 'card',
  name: 'Product card',
  hint: 'One product with picture, price and button.',
  element: 'stall-card',
  settings,
  fields: [
    { key: 'goods', label: 'Product', as: 'goods' },
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['upright', 'Upright'],
        ['across', 'Across'],
      ],
    },
    partsField,
    levelField,
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 460,
  link,
  inner: (s, c) =>
    room(
      s.form === 'across'
        ? '11rem'
        : rowHeight('grid', 1, 1, s.parts).replaceAll('100cqw', 'min(100cqw, 22rem)'),
      link(s, c),
    ),
  describe: (s, productName) => `Product card: ${productName(s.goods) ?? s.goods}`,
});
