import { ChevronRight } from 'lucide-react';
import type { Region, ShippingWay } from '../../core/till/rules';
import type { WeightUnit } from '../../core/till/weight';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { TillView } from '../../services/till/try-cart';
import { useMoney } from '../shop-context';
import { shippingEditor as say } from '../words/till';
import { Ruler } from './ruler';
import { bandText, onRuler, whereWords } from './shipping-words';

/** A region that is not open: what it costs at one look, and a press to open it. */
export function FoldedRegion({
  region: r,
  unit,
  view,
  cart,
  onOpen,
}: {
  region: Region;
  unit: WeightUnit;
  view: TillView;
  cart: WorkedSum | undefined;
  onOpen: () => void;
}) {
  const money = useMoney();
  const where = whereWords(r, view);
  const priceOf = (x: ShippingWay): string =>
    [
      money(x.base),
      x.each > 0 ? say.andForEachPiece(money(x.each)) : '',
      x.freeFrom !== null && x.base + x.each > 0 ? say.freeFrom(money(x.freeFrom)) : '',
      x.hint,
    ]
      .filter(Boolean)
      .join(', ');
  return (
    <div className="rg">
      <button type="button" className="rfold" aria-expanded={false} onClick={onOpen}>
        <ChevronRight size={14} aria-hidden />
        <b>{r.name}</b>
        {where !== r.name && <span className="note">{where}</span>}
      </button>
      {r.ways.map((x) =>
        x.by === 'flat' ? (
          <p key={x.id} className="rflat">
            <span>{x.name}</span>
            <span className="mono">{priceOf(x)}</span>
          </p>
        ) : (
          <div key={x.id}>
            <p className="rflat">
              <span>{x.name}</span>
              <span className="note">
                {x.freeFrom === null ? say.noFreeLine : say.freeFrom(money(x.freeFrom))}
              </span>
            </p>
            <Ruler bands={x.bands} unit={bandText(x, unit, money)} cart={onRuler(x, cart)} told />
          </div>
        ),
      )}
    </div>
  );
}
