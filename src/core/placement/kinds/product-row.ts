import { z } from 'zod';
import { orders, productsOf, sources } from '../../goods/choose';
import { rowFragment } from '../../storefront/cards';
import { rowHeight } from '../../storefront/room';
import { rowForms } from '../../storefront/views';
import { defineKind, type WriteContext } from '../kind';
import {
  columns,
  columnsField,
  heading,
  headingField,
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
  saysIn,
} from './common';

/** What a row is asked for: the checks read the same. */
export const rowSettings = z.object({
  source: z.enum(sources).default('newest'),
  goods: z.array(z.string().min(1).max(80)).max(48, 'At most 48 products stand in a row.').default([]),
  category: z.string().max(200).default(''),
  /** The product others are related to. */
  of: z.string().max(80).default(''),
  form: z.enum(rowForms).default('grid'),
  order: z.enum(orders).default('hand'),
  limit: z
    .number()
    .int()
    .min(1, 'Show at least one product.')
    .max(48, 'At most 48 products stand in a row.')
    .default(4),
  columns,
  filter: z.boolean().default(true),
  heading,
  ...ownShape,
  parts: parts(['picture', 'name', 'price', 'stock', 'button']),
  level,
  lang,
});
type ProductRowSettings = z.infer<typeof rowSettings>;

const link = (s: ProductRowSettings, c: WriteContext) => ({
  href: `${c.shopUrl}/goods?via=${c.placementId}`,
  text: s.heading || saysIn(s, c).all,
});

/** Room for the heading of a row, in rem. */
const HEADING = 2.8;

/** How many products the row shows today; as many as it may where nobody knows. */
function countNow(s: ProductRowSettings, { goodsNow }: WriteContext): number {
  if (!goodsNow) return s.limit;
  return productsOf(goodsNow, { ...s, order: 'hand' }, goodsNow.at).length;
}

export const productRow = defineKind<ProductRowSettings>({
  kind: 'row',
  name: 'Product row',
  hint: 'Several products: newest, chosen by hand, a category, on offer, related.',
  sign: '<rect x=".6" y="3" width="3" height="5.6" fill="currentColor"/><rect x="4.5" y="3" width="3" height="5.6" fill="currentColor"/><rect x="8.4" y="3" width="3" height="5.6" fill="currentColor"/>',
  drawing:
    '<rect x="4" y="8" width="12" height="13" class="f"/><rect x="20" y="8" width="12" height="13" class="f"/><rect x="36" y="8" width="12" height="13" class="f"/><path d="M4 26h9M20 26h9M36 26h9" class="s"/>',
  script: 'more',
  settings: rowSettings,
  fields: [
    {
      key: 'source',
      label: 'Which products',
      as: 'choice',
      options: [
        ['newest', 'The newest'],
        ['chosen', 'Chosen by hand'],
        ['category', 'A category'],
        ['offer', 'On offer'],
        ['related', 'Related to one'],
        ['all', 'All'],
      ],
    },
    { key: 'goods', label: 'Products', as: 'goods-list', when: ['source', 'chosen'] },
    { key: 'category', label: 'Category', as: 'category', when: ['source', 'category'] },
    { key: 'of', label: 'Related to', as: 'goods', when: ['source', 'related'] },
    {
      key: 'form',
      label: 'Looks like',
      as: 'choice',
      options: [
        ['grid', 'Grid'],
        ['row', 'Row'],
        ['slider', 'Slider'],
        ['list', 'List'],
        ['table', 'Table'],
      ],
    },
    { key: 'filter', label: 'A field to filter the table', as: 'yes', when: ['form', 'table'] },
    {
      key: 'order',
      label: 'Order',
      as: 'choice',
      options: [
        ['hand', 'As you have them'],
        ['newest', 'Newest first'],
        ['name', 'By name'],
        ['cheapest', 'Cheapest first'],
        ['dearest', 'Dearest first'],
      ],
    },
    { key: 'limit', label: 'How many at most', as: 'number', least: 1, most: 48 },
    { ...columnsField, when: ['form', 'grid', 'row', 'slider'] },
    ...shapeFields.map((f) => ({ ...f, when: ['form', 'grid', 'row', 'slider'] as const })),
    headingField,
    partsField,
    levelField,
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 900,
  link,
  inner: (s, c) =>
    room(
      `calc(${s.heading ? `${HEADING}rem + ` : ''}${s.form === 'table' && s.filter ? '4rem + ' : ''}${s.form === 'slider' ? '3.2rem + ' : ''}${rowHeight(s.form, countNow(s, c), s.columns, s.parts, shapeWith(s, c.shape))})`,
      link(s, c),
    ),
  async draw(s, shop) {
    const chosen = productsOf(await shop.goods(), s, shop.at, shop.lang);
    const second = shapeWith(s, shop.shape).hover === 'second';
    return rowFragment({ ...s, second, products: await shop.views(chosen) }, shop.w);
  },
  describe: (s) =>
    `Product row: ${s.heading || { newest: 'the newest', chosen: 'chosen by hand', category: s.category || 'a category', offer: 'on offer', related: 'related', all: 'all goods' }[s.source]}`,
});
