import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { GoodsLine } from '../../services/goods/lines';
import { call, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { useGoods as say } from '../words/goods';

export const useGoods = () => {
  const { site } = useBoot();
  return useQuery({ queryKey: viewKey('goods'), queryFn: () => call(site.slug, 'GET goods') });
};

/** Pieces of a product in all, nothing where none of it is counted. */
export const piecesOf = (p: GoodsLine): number | null =>
  p.variants.some((v) => v.stock !== null) ? p.variants.reduce((n, v) => n + (v.stock ?? 0), 0) : null;
export const isOut = (p: GoodsLine): boolean =>
  p.whenOut === 'refuse' &&
  p.kind !== 'bundle' &&
  p.kind !== 'link' &&
  p.variants.length > 0 &&
  p.variants.every((v) => v.stock !== null && v.stock <= 0);
export const isLow = (p: GoodsLine): boolean =>
  p.variants.some((v) => v.stock !== null && v.stock > 0 && v.stock <= (p.low ?? 3));

/** What the list can be narrowed to, beside what is typed. */
export const filters = [
  ['', say.all],
  ['out', say.soldOut],
  ['low', say.fewLeft],
  ['offer', say.onOffer],
  ['link', say.byLinkOnly],
  ['hidden', say.hidden],
  ['sample', say.samples],
] as const;
export const sorts = [
  ['hand', say.byHand],
  ['name', say.name],
  ['price', say.price],
  ['stock', say.stock],
  ['new', say.newest],
] as const;
export type Filter = string;
export type Sort = (typeof sorts)[number][0];

const letters = (t: string): string => t.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** The goods that are wanted, in the order that is wanted. */
export function useWanted(
  all: readonly GoodsLine[],
  find: string,
  filter: Filter,
  sort: Sort,
): readonly GoodsLine[] {
  const haystacks = useMemo(
    () =>
      all.map((p) =>
        letters(`${p.name} ${p.categories.join(' ')} ${p.variants.map((v) => v.sku).join(' ')}`),
      ),
    [all],
  );
  return useMemo(() => {
    const words = letters(find).split(/\s+/).filter(Boolean);
    const found = all.filter((p, n) => passes(p, filter) && words.every((w) => haystacks[n]?.includes(w)));
    return sort === 'hand' ? found : found.sort(orders[sort]);
  }, [all, haystacks, find, filter, sort]);
}

/** Whether a line is let through by what the list is narrowed to; "in:Baskets" is a category with all below it. */
function passes(p: GoodsLine, filter: Filter): boolean {
  switch (filter) {
    case '':
      return true;
    case 'out':
      return isOut(p);
    case 'low':
      return isLow(p);
    case 'offer':
      return p.onOffer;
    case 'sample':
      return p.sample;
    case 'link':
    case 'hidden':
      return p.shows === filter;
    default:
      return p.categories.some((c) => `in:${c}` === filter || `in:${c}`.startsWith(`${filter} / `));
  }
}

const piecesFirst = (p: GoodsLine): number => piecesOf(p) ?? Number.POSITIVE_INFINITY;

const orders: Readonly<Record<Exclude<Sort, 'hand'>, (a: GoodsLine, b: GoodsLine) => number>> = {
  name: (a, b) => a.name.localeCompare(b.name),
  price: (a, b) => a.price - b.price,
  new: (a, b) => b.addedAt - a.addedAt,
  stock: (a, b) => piecesFirst(a) - piecesFirst(b) || 0,
};
