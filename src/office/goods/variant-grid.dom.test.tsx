import { cleanup, fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { inOffice } from '../testing';
import { blankRow, type Draft, draftOf } from './form';
import { useDraft } from './use-draft';
import { filledDown, pastedCells, variantColumns, withCells } from './variant-cells';
import { VariantGrid } from './variant-grid';

afterEach(cleanup);

const sizes = ['S', 'M', 'L'];
const draft: Draft = {
  ...draftOf(undefined, 'GBP'),
  price: '10.00',
  options: [{ name: 'Size', as: 'list', values: sizes.map((name) => ({ name, colour: '' })) }],
  rows: sizes.map((s) => ({ ...blankRow, values: [s] })),
};

let now: Draft;
function Grid() {
  const d = useDraft(() => draft);
  now = d.draft;
  return (
    <>
      <VariantGrid draft={d.draft} change={d.change} errors={{}} />
      <button type="button" onClick={d.undo}>
        Undo
      </button>
    </>
  );
}
const cell = (column: string, size: string): HTMLInputElement =>
  screen.getByRole('textbox', { name: `${column}, ${size}` });
const stocks = () => now.rows.map((r) => r.stock);

describe('the grid of variants', () => {
  it('is typed into from cell to cell with Enter, and filled down with one key', async () => {
    inOffice(<Grid />);
    await userEvent.type(cell('Stock', 'S'), '4{Enter}');
    await new Promise((frame) => requestAnimationFrame(frame));
    expect(document.activeElement).toBe(cell('Stock', 'M'));
    await userEvent.type(cell('Stock', 'S'), '{Control>}d{/Control}');
    expect(stocks()).toEqual(['4', '4', '4']);
  });

  it('takes a block from a spreadsheet, and gives it back in one undo', async () => {
    inOffice(<Grid />);
    fireEvent.paste(cell('SKU', 'M'), { clipboardData: { getData: () => 'J-M\t7\r\nJ-L\t9\r\n' } });
    expect(now.rows.map((r) => [r.sku, r.stock])).toEqual([
      ['', ''],
      ['J-M', '7'],
      ['J-L', '9'],
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(now.rows).toEqual(draft.rows);
  });

  it('shows what each choice costs while it has no price of its own', async () => {
    inOffice(<Grid />);
    await userEvent.type(cell('Difference', 'L'), '+2.50');
    expect(cell('Price', 'L').placeholder).toBe('12.50');
    expect(cell('Price', 'S').placeholder).toBe('10.00');
  });

  it('says when nobody can buy anything, with ways out that do what they say', async () => {
    inOffice(<Grid />);
    await userEvent.type(cell('Stock', 'S'), '0{Control>}d{/Control}');
    expect(screen.getByRole('alert')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Stop counting stock' }));
    expect(stocks()).toEqual(['', '', '']);
    expect(screen.queryByRole('alert')).toBeNull();
  });
});

describe('cells', () => {
  const column = fc.constantFrom(...variantColumns);
  it('pasted from anywhere fill a block to the right and downwards, and nothing beyond the grid', () => {
    fc.assert(
      fc.property(
        fc.nat(2),
        column,
        fc.array(fc.array(fc.stringMatching(/^[\w.]{1,5}$/), { minLength: 2, maxLength: 4 }), {
          minLength: 1,
          maxLength: 5,
        }),
        (row, at, block) => {
          const text = block.map((l) => l.join('\t')).join('\n');
          const cells = pastedCells(text, { row, column: at }, variantColumns) ?? [];
          const from = variantColumns.indexOf(at);
          for (const [n, line] of block.entries())
            for (const [i, value] of line.entries()) {
              const to = variantColumns[from + i];
              const found = cells.find((c) => c.row === row + n && c.column === to);
              expect(found?.text).toBe(to && value);
            }
          expect(withCells(draft.rows, cells)).toHaveLength(draft.rows.length);
        },
      ),
    );
  });
  it('filled down are all below, each with the text of the first', () => {
    const rows = withCells(draft.rows, [{ row: 0, column: 'sku', text: 'X' }]);
    expect(filledDown(rows, { row: 0, column: 'sku' })).toEqual([
      { row: 1, column: 'sku', text: 'X' },
      { row: 2, column: 'sku', text: 'X' },
    ]);
  });
});
