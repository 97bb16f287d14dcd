import { ArrowDownToLine } from 'lucide-react';
import { countWords } from '../../core/goods/stock';
import { variantGrid as say } from '../words/goods';
import type { Draft, Errors } from './form';
import type { Change } from './use-draft';
import type { FilledCell } from './variant-cells';

/** Which variants are sold out, and which nearly: as shoppers will be told. */
const stockCounts = (draft: Draft) =>
  countWords({
    variants: draft.rows.map((r) => ({
      values: [...r.values],
      stock: /^-?\d+$/.test(r.stock.trim()) ? Number(r.stock) : null,
    })),
    stockRule: { low: draft.low ? Number(draft.low) : null, whenOut: draft.whenOut, expected: null },
  });

/** Below the grid: filling down, the column of trade numbers, and how it stands with stock. */
export function VariantFoot({
  draft,
  errors,
  fill,
  onFill,
  onGtins,
}: {
  draft: Draft;
  errors: Errors;
  /** The head of the column that can be filled down. */
  fill: string | undefined;
  onFill: () => void;
  onGtins: (() => void) | undefined;
}) {
  const { out, low } = stockCounts(draft);
  const [wrong] = Object.entries(errors).filter(([k]) => k.startsWith('row-'));
  return (
    <div className="vgrid-foot">
      {fill ? (
        <button type="button" className="btn sm" onMouseDown={(e) => e.preventDefault()} onClick={onFill}>
          <ArrowDownToLine size={12} aria-hidden />
          {say.fillDown(fill.toLowerCase())}
        </button>
      ) : (
        <span />
      )}
      {onGtins && (
        <button type="button" className="btn sm quiet" onClick={onGtins}>
          {say.gtins}
        </button>
      )}
      <p>
        {wrong && (
          <span className="bad" role="alert">
            {wrong[1]}{' '}
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
  );
}

function some(names: readonly string[]): string {
  if (names.length > 4) return `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : (names[0] ?? '');
}

/** Nothing of it can be bought: three ways out of that. */
export function VariantMend({
  draft,
  put,
  change,
  onCount,
}: {
  draft: Draft;
  put: (key: string, cells: readonly FilledCell[]) => void;
  change: Change;
  onCount: () => void;
}) {
  const { out } = stockCounts(draft);
  if (out.length < draft.rows.length || draft.whenOut !== 'refuse') return null;
  const uncount = () =>
    put(
      'mend',
      draft.rows.map((_, row) => ({ row, column: 'stock', text: '' })),
    );
  return (
    <div className="gmend" role="alert">
      <p>
        <b>{say.nobodyCanBuyThisEveryChoice}</b>
        {say.shoppersReadSoldOutIfYou}
      </p>
      <button type="button" className="btn sm" onClick={uncount}>
        {say.setAllToUncounted}
      </button>
      <button type="button" className="btn sm" onClick={onCount}>
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
  );
}
