import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDownToLine } from 'lucide-react';
import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react';
import { fullPrice } from '../../core/goods/price';
import { countWords } from '../../core/goods/stock';
import { decimalText, parseMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import { useBoot } from '../shop-context';
import type { Draft, Errors, Row } from './form';
import type { Change } from './use-draft';
import { variantGrid as say } from '../words/goods';

const allColumns = ['difference', 'price', 'sku', 'gtin', 'stock', 'weight'] as const;
type Column = (typeof allColumns)[number];
const heads: Readonly<Record<Column, string>> = {
  difference: say.difference,
  price: say.price,
  sku: 'SKU',
  gtin: 'GTIN',
  stock: say.stock,
  weight: say.grams,
};

/** Height of a row in CSS pixels, and how many stand before only those in view are drawn. */
const ROW = 33;
const MANY = 60;

/**
 * All choices of a product as a sheet of cells: typing, arrows, Enter for the next below, a block pasted from a spreadsheet,
 * Ctrl+D to fill down. Undo is the sheet's own. A thousand rows stay quick: only those in view are drawn.
 */
export function VariantGrid({ draft, change, errors }: { draft: Draft; change: Change; errors: Errors }) {
  const { rows, options } = draft;
  const { site } = useBoot();
  const box = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<{ row: number; column: Column } | null>(null);
  // Few goods have trade numbers: the column stands where one is known or wanted.
  const [gtins, setGtins] = useState(() => rows.some((r) => r.gtin !== ''));
  const columns = allColumns.filter((c) => c !== 'gtin' || gtins);
  const many = rows.length > MANY;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
    enabled: many,
  });
  const base = parseMoney(draft.price, site.currency);
  const full = (row: Row): string => {
    const own = row.price.trim() ? parseMoney(row.price, site.currency) : undefined;
    const difference = parseMoney(
      row.difference.replace(/^\+/, '').replace('\u2212', '-') || '0',
      site.currency,
    );
    if (!base.ok || (own && !own.ok) || !difference.ok) return '';
    return decimalText(
      fullPrice(
        { price: base.value },
        { price: own?.ok ? own.value : null, difference: difference.value as Minor },
      ),
      site.currency,
    );
  };
  const put = (
    key: string,
    cells: readonly { readonly row: number; readonly column: Column; readonly text: string }[],
  ) =>
    change(key, (d) => {
      const to = [...d.rows];
      for (const c of cells) if (to[c.row]) to[c.row] = { ...(to[c.row] as Row), [c.column]: c.text };
      return { ...d, rows: to };
    });
  const focus = (row: number, column: Column) => {
    if (row < 0 || row >= rows.length) return;
    if (many) virtual.scrollToIndex(row);
    requestAnimationFrame(() => {
      const cell = box.current?.querySelector<HTMLInputElement>(`[data-cell="${row} ${column}"]`);
      cell?.focus();
      cell?.select();
    });
  };
  const fillDown = (row: number, column: Column) =>
    put(
      'fill',
      rows.slice(row + 1).map((_, n) => ({ row: row + 1 + n, column, text: rows[row]?.[column] ?? '' })),
    );
  const key = (e: KeyboardEvent<HTMLInputElement>, row: number, column: Column) => {
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'd') {
      e.preventDefault();
      fillDown(row, column);
    } else if (e.key === 'ArrowDown' || (e.key === 'Enter' && !e.shiftKey)) {
      e.preventDefault();
      focus(row + 1, column);
    } else if (e.key === 'ArrowUp' || e.key === 'Enter') {
      e.preventDefault();
      focus(row - 1, column);
    }
  };
  const paste = (e: ClipboardEvent<HTMLInputElement>, row: number, column: Column) => {
    const lines = e.clipboardData
      .getData('text')
      .replace(/\r\n?/g, '\n')
      .replace(/\n$/, '')
      .split('\n')
      .map((l) => l.split('\t'));
    if (lines.length === 1 && lines[0]?.length === 1) return;
    e.preventDefault();
    const from = columns.indexOf(column);
    put(
      'paste',
      lines.flatMap((cells, n) =>
        cells.flatMap((text, i) =>
          columns[from + i] ? [{ row: row + n, column: columns[from + i] as Column, text: text.trim() }] : [],
        ),
      ),
    );
  };
  const shown = many ? virtual.getVirtualItems().map((v) => v.index) : rows.map((_, n) => n);
  const top = many ? (virtual.getVirtualItems()[0]?.start ?? 0) : 0;
  const bottom = many ? virtual.getTotalSize() - (virtual.getVirtualItems().at(-1)?.end ?? 0) : 0;
  const { out, low } = countWords({
    variants: rows.map((r) => ({
      values: [...r.values],
      stock: /^-?\d+$/.test(r.stock.trim()) ? Number(r.stock) : null,
    })),
    stockRule: { low: draft.low ? Number(draft.low) : null, whenOut: draft.whenOut, expected: null },
  });
  const wrong = Object.entries(errors).filter(([k]) => k.startsWith('row-'));
  return (
    <div className="vgrid">
      <div ref={box} className="vgrid-scroll">
        <table>
          <thead>
            <tr>
              {options.map((o) => (
                <th key={o.name} scope="col">
                  {o.name}
                </th>
              ))}
              {columns.map((c) => (
                <th key={c} scope="col" className={c === 'sku' || c === 'gtin' ? '' : 'n'}>
                  {heads[c]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {top > 0 && (
              <tr style={{ height: top }}>
                <td />
              </tr>
            )}
            {shown.map((n) => {
              const row = rows[n];
              if (!row) return null;
              const first = row.values[0] !== rows[n - 1]?.values[0];
              return (
                <tr key={row.values.join('\n')} className={first ? 'top' : ''}>
                  {options.map((option, o) => (
                    <th key={option.name} scope="row">
                      {o > 0 && row.values[o]}
                      {o === 0 && (
                        <b className={first || (many && n === shown[0]) ? '' : 'sr-only'}>{row.values[0]}</b>
                      )}
                    </th>
                  ))}
                  {columns.map((c) => (
                    <td key={c} className={c === 'sku' || c === 'gtin' ? '' : 'n'}>
                      <input
                        data-cell={`${n} ${c}`}
                        className={cellClass(c, row, draft, errors[`row-${n}-${c}`])}
                        aria-label={`${heads[c]}, ${row.values.join(' ')}`}
                        aria-invalid={!!errors[`row-${n}-${c}`]}
                        title={errors[`row-${n}-${c}`]}
                        value={row[c]}
                        placeholder={
                          { price: full(row), stock: say.any, difference: '\u2014' }[c as string] ?? ''
                        }
                        inputMode={digitsOnly.has(c) ? 'numeric' : 'text'}
                        onFocus={() => setAt({ row: n, column: c })}
                        onChange={(e) => put(`cell ${n} ${c}`, [{ row: n, column: c, text: e.target.value }])}
                        onKeyDown={(e) => key(e, n, c)}
                        onPaste={(e) => paste(e, n, c)}
                      />
                    </td>
                  ))}
                </tr>
              );
            })}
            {bottom > 0 && (
              <tr style={{ height: bottom }}>
                <td />
              </tr>
            )}
          </tbody>
        </table>
      </div>
      <div className="vgrid-foot">
        {at && at.row < rows.length - 1 ? (
          <button
            type="button"
            className="btn sm"
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => fillDown(at.row, at.column)}
          >
            <ArrowDownToLine size={12} aria-hidden />
            {say.fillDown(heads[at.column].toLowerCase())}
          </button>
        ) : (
          <span />
        )}
        {!gtins && (
          <button type="button" className="btn sm quiet" onClick={() => setGtins(true)}>
            {say.gtins}
          </button>
        )}
        <p>
          {wrong.length > 0 && (
            <span className="bad" role="alert">
              {wrong[0]?.[1]}{' '}
            </span>
          )}
          {out.length > 0 && (
            <span className="bad">{say.soldOut(some(out), out.length === 1 ? say.is : say.are)} </span>
          )}
          {low.length > 0 && (
            <span className="low">{say.low(some(low), low.length === 1 ? say.is : say.are)} </span>
          )}
          {(out.length > 0 || low.length > 0) && <span className="note">{say.shoppersAreTold}</span>}
        </p>
      </div>
      {out.length === rows.length && draft.whenOut === 'refuse' && (
        <div className="gmend" role="alert">
          <p>
            <b>{say.nobodyCanBuyThisEveryChoice}</b>
            {say.shoppersReadSoldOutIfYou}
          </p>
          <button
            type="button"
            className="btn sm"
            onClick={() =>
              put(
                'mend',
                rows.map((_, row) => ({ row, column: 'stock' as const, text: '' })),
              )
            }
          >
            {say.setAllToUncounted}
          </button>
          <button type="button" className="btn sm" onClick={() => focus(0, 'stock')}>
            {say.countThem}
          </button>
          <button
            type="button"
            className="btn sm"
            onClick={() => change('mend', (d) => ({ ...d, whenOut: 'sell-on' }))}
          >
            {say.sellOnAnyway}
          </button>
        </div>
      )}
    </div>
  );
}

/** Columns that telephones offer digits for. */
const digitsOnly: ReadonlySet<string> = new Set(['stock', 'weight', 'gtin']);

function some(names: readonly string[]): string {
  if (names.length > 4) return `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');
}

function cellClass(c: Column, row: Row, d: Draft, error: string | undefined): string {
  const kind = c === 'sku' || c === 'gtin' || c === 'difference' || c === 'price' ? 'plain' : '';
  if (error) return `cell ${kind} wrong`;
  if (c !== 'stock' || row.stock.trim() === '') return `cell ${kind}`;
  const n = Number(row.stock);
  if (n <= 0) return 'cell out';
  return n <= (d.low ? Number(d.low) : 3) ? 'cell low' : 'cell';
}
