import { z } from 'zod';
import { isIn } from '../../goods/category';
import { orders } from '../../goods/choose';
import { rowHeight } from '../../storefront/room';
import { drawShopFront } from './shop-front-drawing';
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

const settings = z.object({
  /** Category that is open at the start; '' is all. */
  category: z.string().max(200).default(''),
  categories: z.boolean().default(true),
  search: z.boolean().default(true),
  sort: z.boolean().default(true),
  /** By price, stock, offers and tags, where there are enough goods for it. */
  narrow: z.boolean().default(true),
  order: z.enum(orders).default('hand'),
  perPage: z
    .number()
    .int()
    .min(1, 'At least one product to a page.')
    .max(96, 'At most 96 products to a page.')
    .default(12),
  columns,
  ...ownShape,
  heading,
  parts: parts(['picture', 'name', 'price', 'stock', 'button', 'glance']),
  level,
  lang,
});
export type ShopFrontSettings = z.infer<typeof settings>;

const link = (s: ShopFrontSettings, c: WriteContext) => ({
  href: `${c.shopUrl}/goods?via=${c.placementId}`,
  text: saysIn(s, c).all,
});

/** How many products its first page shows today; a whole page where nobody knows. */
function countNow(s: ShopFrontSettings, { goodsNow }: WriteContext): number {
  if (!goodsNow) return s.perPage;
  const category = goodsNow.pathNow(s.category);
  return Math.min(s.perPage, goodsNow.shown.filter((p) => !category || isIn(p, category)).length);
}

export const shopFront = defineKind<ShopFrontSettings>({
  kind: 'shop',
  name: 'Shop front',
  hint: 'The whole catalogue with categories, search and product pages inside.',
  sign: '<path d="M1 5h10v5.4H1z" fill="none" stroke="currentColor" stroke-width="1.3"/><path d="M.6 1.4h10.8v2.4H.6z" fill="currentColor"/>',
  drawing:
    '<path d="M9 17v16h34V17" class="s"/><path d="M7 6h38l2 10H5z" class="f"/><path d="M17 6l-1 10M26 6v10M35 6l1 10" class="w1"/><path d="M21 33V22h10v11" class="s"/>',
  script: 'more',
  settings,
  fields: [
    { key: 'category', label: 'Opens with', as: 'category' },
    { key: 'categories', label: 'Categories above it', as: 'yes' },
    { key: 'search', label: 'A search field', as: 'yes' },
    { key: 'sort', label: 'A choice of order', as: 'yes' },
    { key: 'narrow', label: 'Narrowing by price, stock and tags', as: 'yes' },
    {
      key: 'order',
      label: 'Order at the start',
      as: 'choice',
      options: [
        ['hand', 'As you have them'],
        ['newest', 'Newest first'],
        ['name', 'By name'],
        ['cheapest', 'Cheapest first'],
        ['dearest', 'Dearest first'],
      ],
    },
    { key: 'perPage', label: 'Products to a page', as: 'number', least: 1, most: 96 },
    columnsField,
    ...shapeFields,
    headingField,
    partsField,
    levelField,
    langField,
  ],
  usualPlace: 'main',
  usualReach: 'page',
  frameHeight: 1400,
  link,
  inner: (s, c) =>
    room(
      `calc(${s.heading ? '2.8rem + ' : ''}${s.categories || s.search || s.sort || s.narrow ? '4.5rem + ' : ''}${rowHeight('grid', countNow(s, c), s.columns, s.parts, shapeWith(s, c.shape))})`,
      link(s, c),
    ),
  draw: (s, shop) => drawShopFront(s, shop),
  describe: (s) => `Shop front${s.category ? `: ${s.category}` : ''}`,
});
