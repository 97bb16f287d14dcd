import { z } from 'zod';
import { orders, sources } from '../../goods/choose';
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
  parts,
  partsField,
  room,
} from './common';

const settings = z.object({
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
  parts: parts(['picture', 'name', 'price', 'stock', 'button']),
  level,
  lang,
});
export type ProductRowSettings = z.infer<typeof settings>;

const link = (s: ProductRowSettings, { placementId, shopUrl }: WriteContext) => ({
  href: `${shopUrl}/goods?via=${placementId}`,
  text: s.heading || 'See what we sell',
});

/** Room for the heading of a row, in rem. */
const HEADING = 2.8;

export const productRow = defineKind<ProductRowSettings>({
  kind: 'row',
  name: 'Product row',
  hint: 'Several products: newest, chosen by hand, a category, on offer, related.',
  element: 'stall-row',
  settings,
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
      `calc(${s.heading ? `${HEADING}rem + ` : ''}${s.form === 'table' && s.filter ? '4rem + ' : ''}${s.form === 'slider' ? '3.2rem + ' : ''}${rowHeight(s.form, c.countOf?.(s) ?? s.limit, s.columns, s.parts)})`,
      link(s, c),
    ),
  describe: (s) =>
    `Product row: ${s.heading || { newest: 'the newest', chosen: 'chosen by hand', category: s.category || 'a category', offer: 'on offer', related: 'related', all: 'all goods' }[s.source]}`,
});
