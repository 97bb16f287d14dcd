import { z } from 'zod';
import { cardFragment } from '../../storefront/cards';
import { html } from '../../storefront/html';
import { rowHeight } from '../../storefront/room';
import { defineKind, type WriteContext } from '../kind';
import { goneWords } from './common-drawing';
import {
  lang,
  langField,
  level,
  levelField,
  ownShape,
  parts,
  partsField,
  room,
  shapeFields,
  shapeWith,
} from './common';

const settings = z.object({
  goods: z.string('Choose the product of this card.').min(1, 'Choose the product of this card.'),
  /** Upright, or picture and text beside each other. */
  form: z.enum(['upright', 'across']).default('upright'),
  ...ownShape,
  parts: parts(['picture', 'name', 'description', 'price', 'stock', 'button']),
  level,
  lang,
});
type ProductCardSettings = z.infer<typeof settings>;

const link = (s: ProductCardSettings, { placementId, shopUrl, productName }: WriteContext) => ({
  href: `${shopUrl}/goods/${encodeURIComponent(s.goods)}?via=${placementId}`,
  text: productName(s.goods) ?? s.goods,
});

export const productCard = defineKind<ProductCardSettings>({
  kind: 'card',
  name: 'Product card',
  hint: 'One product with picture, price and button.',
  sign: '<rect x="2.2" y="1" width="7.6" height="9.6" rx="1" fill="none" stroke="currentColor" stroke-width="1.3"/><rect x="3.8" y="2.6" width="4.4" height="3.6" fill="currentColor"/>',
  drawing:
    '<rect x="15" y="4" width="22" height="30" rx="2" class="s"/><rect x="18" y="7" width="16" height="13" class="f"/><path d="M18 25h11M18 29h7" class="s"/>',
  script: 'more',
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
    ...shapeFields,
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
        : rowHeight('grid', 1, 1, s.parts, shapeWith(s, c.shape)).replaceAll('100cqw', 'min(100cqw, 22rem)'),
      link(s, c),
    ),
  async draw(s, shop) {
    const product = (await shop.goods()).bySlug.get(s.goods);
    if (!product || product.shows === 'hidden') return goneWords(shop.w);
    const [view] = await shop.views([product]);
    return view
      ? html`<div class="stall-one stall-${s.form}">${cardFragment(view, { ...s, second: shapeWith(s, shop.shape).hover === 'second' }, shop.w, false)}</div>`
      : html``;
  },
  describe: (s, productName) => `Product card: ${productName(s.goods) ?? s.goods}`,
});
