import { useVirtualizer } from '@tanstack/react-virtual';
import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react';
import { useBoot } from '../shop-context';
import { variantGrid as say } from '../words/goods';
import type { Draft, Errors, Row } from './form';
import type { Change } from './use-draft';
import {
  type Cell,
  cellClass,
  type FilledCell,
  filledDown,
  fullPriceText,
  pastedCells,
  type VariantColumn,
  variantColumns,
  withCells,
} from './variant-cells';
import { VariantFoot, VariantMend } from './variant-foot';

const heads: Readonly<Record<VariantColumn, string>> = {
  difference: say.difference,
  price: say.price,
  sku: 'SKU',
  gtin: 'GTIN',
  stock: say.stock,
  weight: say.grams,
};
const isText = (c: VariantColumn): boolean => c === 'sku' || c === 'gtin';

/** Height of a row in CSS pixels, and how many stand before only those in view are drawn. */
const ROW = 33;
const MANY = 60;

interface Props {
  readonly draft: Draft;
  readonly change: Change;
  readonly errors: Errors;
}

/**
 * All choices of a product as a sheet of cells: typing, arrows, Enter for the next below, a block pasted from a spreadsheet,
 * Ctrl+D to fill down. Undo is the sheet's own. A thousand rows stay quick: only those in view are drawn.
 */
export function VariantGrid({ draft, change, errors }: Props) {
  const { rows } = draft;
  const box = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<Cell | null>(null);
  // Few goods have trade numbers: the column stands where one is known or wanted.
  const [gtins, setGtins] = useState(() => rows.some((r) => r.gtin !== ''));
  const columns = variantColumns.filter((c) => c !== 'gtin' || gtins);
  const view = useRowsInView(box, rows.length);
  const put = (key: string, cells: readonly FilledCell[]) =>
    change(key, (d) => ({ ...d, rows: withCells(d.rows, cells) }));
  const focus = ({ row, column }: Cell) => {
    if (row < 0 || row >= rows.length) return;
    view.scrollTo(row);
    requestAnimationFrame(() => {
      const cell = box.current?.querySelector<HTMLInputElement>(`[data-cell="${row} ${column}"]`);
      cell?.focus();
      cell?.select();
    });
  };
  const fillDown = (cell: Cell) => put('fill', filledDown(rows, cell));
  return (
    <div className="vgrid">
      <div ref={box} className="vgrid-scroll">
        <table>
          <thead>
            <tr>
              {draft.options.map((o) => (
                <th key={o.name} scope="col">
                  {o.name}
                </th>
              ))}
              {columns.map((c) => (
                <th key={c} scope="col" className={isText(c) ? '' : 'n'}>
                  {heads[c]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <Gap height={view.above} />
            {view.shown.map((n) => (
              <VariantRow
                key={rows[n]?.values.join('\n')}
                n={n}
                named={n === view.shown[0]}
                draft={draft}
                columns={columns}
                errors={errors}
                onFocus={setAt}
                onWrite={(cell) => put(`cell ${cell.row} ${cell.column}`, [cell])}
                onKeyDown={gridKeys(focus, fillDown)}
                onPaste={(e, cell) => {
                  const cells = pastedCells(e.clipboardData.getData('text'), cell, columns);
                  if (!cells) return;
                  e.preventDefault();
                  put('paste', cells);
                }}
              />
            ))}
            <Gap height={view.below} />
          </tbody>
        </table>
      </div>
      <VariantFoot
        draft={draft}
        errors={errors}
        fill={at && at.row < rows.length - 1 ? heads[at.column] : undefined}
        onFill={() => at && fillDown(at)}
        onGtins={gtins ? undefined : () => setGtins(true)}
      />
      <VariantMend
        draft={draft}
        put={put}
        change={change}
        onCount={() => focus({ row: 0, column: 'stock' })}
      />
    </div>
  );
}

/** Which rows are drawn, and the room that the others take above and below. */
function useRowsInView(box: React.RefObject<HTMLDivElement | null>, count: number) {
  const many = count > MANY;
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
    enabled: many,
  });
  if (!many)
    return { shown: Array.from({ length: count }, (_, n) => n), above: 0, below: 0, scrollTo: () => {} };
  const items = virtual.getVirtualItems();
  return {
    shown: items.map((v) => v.index),
    above: items[0]?.start ?? 0,
    below: virtual.getTotalSize() - (items.at(-1)?.end ?? 0),
    scrollTo: (row: number) => virtual.scrollToIndex(row),
  };
}

const Gap = ({ height }: { height: number }) =>
  height > 0 ? (
    <tr style={{ height }}>
      <td />
    </tr>
  ) : null;

type OnKey = (e: KeyboardEvent<HTMLInputElement>, cell: Cell) => void;

/** Ctrl+D fills down; arrows and Enter go up and down. */
const gridKeys =
  (focus: (cell: Cell) => void, fillDown: (cell: Cell) => void): OnKey =>
  (e, cell) => {
    const down = e.key === 'ArrowDown' || (e.key === 'Enter' && !e.shiftKey);
    const up = e.key === 'ArrowUp' || (e.key === 'Enter' && e.shiftKey);
    const fills = (e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'd';
    if (!fills && !down && !up) return;
    e.preventDefault();
    if (fills) fillDown(cell);
    else focus({ ...cell, row: cell.row + (down ? 1 : -1) });
  };

function VariantRow({
  n,
  named,
  draft,
  columns,
  errors,
  onFocus,
  onWrite,
  onKeyDown,
  onPaste,
}: {
  n: number;
  /** The first of those drawn says its first option, whatever stands above it. */
  named: boolean;
  draft: Draft;
  columns: readonly VariantColumn[];
  errors: Errors;
  onFocus: (cell: Cell) => void;
  onWrite: (cell: FilledCell) => void;
  onKeyDown: OnKey;
  onPaste: (e: ClipboardEvent<HTMLInputElement>, cell: Cell) => void;
}) {
  const { site } = useBoot();
  const row = draft.rows[n];
  if (!row) return null;
  const isFirst = row.values[0] !== draft.rows[n - 1]?.values[0];
  const hints: Partial<Record<VariantColumn, string>> = {
    price: fullPriceText(draft, row, site.currency),
    stock: say.any,
    difference: '\u2014',
  };
  return (
    <tr className={isFirst ? 'top' : ''}>
      {draft.options.map((option, o) => (
        <th key={option.name} scope="row">
          {o > 0 ? row.values[o] : <b className={isFirst || named ? '' : 'sr-only'}>{row.values[0]}</b>}
        </th>
      ))}
      {columns.map((column) => {
        const error = errors[`row-${n}-${column}`];
        const cell = { row: n, column };
        return (
          <td key={column} className={isText(column) ? '' : 'n'}>
            <input
              data-cell={`${n} ${column}`}
              className={cellClass(column, row, draft, error)}
              aria-label={labelOf(column, row)}
              aria-invalid={!!error}
              title={error}
              value={row[column]}
              placeholder={hints[column] ?? ''}
              inputMode={digitsOnly.has(column) ? 'numeric' : 'text'}
              onFocus={() => onFocus(cell)}
              onChange={(e) => onWrite({ ...cell, text: e.target.value })}
              onKeyDown={(e) => onKeyDown(e, cell)}
              onPaste={(e) => onPaste(e, cell)}
            />
          </td>
        );
      })}
    </tr>
  );
}

const labelOf = (column: VariantColumn, row: Row): string => `${heads[column]}, ${row.values.join(' ')}`;

/** Columns that telephones offer digits for. */
const digitsOnly: ReadonlySet<VariantColumn> = new Set(['stock', 'weight', 'gtin']);
