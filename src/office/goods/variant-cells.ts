import { fullPrice } from '../../core/goods/price';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Draft, Row } from './form';

/** What stands in a row of the variants' grid, from left to right. */
export const variantColumns = ['difference', 'price', 'sku', 'gtin', 'stock', 'weight'] as const;
export type VariantColumn = (typeof variantColumns)[number];

export interface Cell {
  readonly row: number;
  readonly column: VariantColumn;
}
export interface FilledCell extends Cell {
  readonly text: string;
}

/** Rows with some cells written anew; cells beyond the last row are left out. */
export function withCells(rows: readonly Row[], cells: readonly FilledCell[]): Row[] {
  const to = [...rows];
  for (const { row, column, text } of cells) {
    const before = to[row];
    if (before) to[row] = { ...before, [column]: text };
  }
  return to;
}

/** The cells below one, each with its text. */
export const filledDown = (rows: readonly Row[], { row, column }: Cell): FilledCell[] =>
  rows.slice(row + 1).map((_, n) => ({ row: row + 1 + n, column, text: rows[row]?.[column] ?? '' }));

/**
 * The cells that a block of a spreadsheet fills from a cell on, to the right and downwards; undefined for a single value, which
 * is pasted as any text.
 */
export function pastedCells(
  text: string,
  { row, column }: Cell,
  columns: readonly VariantColumn[],
): FilledCell[] | undefined {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((l) => l.split('\t'));
  if (lines.length === 1 && lines[0]?.length === 1) return undefined;
  const to = columns.slice(columns.indexOf(column));
  return lines.flatMap((cells, n) =>
    to.slice(0, cells.length).map((c, i) => ({ row: row + n, column: c, text: cells[i]?.trim() ?? '' })),
  );
}

/** What a row costs, as text; empty while one of its prices is no amount. */
export function fullPriceText(draft: Pick<Draft, 'price'>, row: Row, currency: string): string {
  const base = parseMoney(draft.price, currency);
  const own = row.price.trim() ? parseMoney(row.price, currency) : undefined;
  const difference = parseMoney(row.difference.replace(/^\+/, '').replace('\u2212', '-') || '0', currency);
  if (!base.ok || !difference.ok || (own && !own.ok)) return '';
  const price = fullPrice(
    { price: base.value },
    { price: own ? own.value : null, difference: difference.value },
  );
  return decimalText(price, currency);
}

/** How a cell looks: wrong, sold out, few left, or plain. */
export function cellClass(
  column: VariantColumn,
  row: Row,
  draft: Pick<Draft, 'low'>,
  error: string | undefined,
): string {
  const kind = column === 'stock' || column === 'weight' ? '' : 'plain';
  if (error) return `cell ${kind} wrong`;
  if (column !== 'stock' || row.stock.trim() === '') return `cell ${kind}`;
  const n = Number(row.stock);
  if (n <= 0) return 'cell out';
  return n <= (draft.low ? Number(draft.low) : 3) ? 'cell low' : 'cell';
}
