import { Plus, X } from 'lucide-react';
import { minor } from '../../core/money/minor';
import { type MeasureName, measureOf } from '../../core/till/measures';
import type { ShippingWay } from '../../core/till/rules';
import { inUnit, toGrams, type WeightUnit } from '../../core/till/weight';
import type { WorkedSum } from '../../core/till/worked-sum';
import { useMoney } from '../shop-context';
import { shippingEditor as say } from '../words/till';
import { Amount, Count } from './fields';
import { Ruler } from './ruler';
import { bandText, onRuler } from './shipping-words';

type Band = ShippingWay['bands'][number];

/** The bands of a shipping method, on a ruler with the cart beside, and as rows to write. */
export function WayBands({
  way,
  by,
  weight,
  cart,
  onChange,
}: {
  way: ShippingWay;
  by: MeasureName;
  weight: WeightUnit;
  cart: WorkedSum | undefined;
  onChange: (bands: Band[]) => void;
}) {
  const unit = bandText(way, weight, useMoney());
  const here = onRuler(way, cart);
  const last = way.bands.at(-1);
  const put = (n: number, change: Partial<Band>) =>
    onChange(way.bands.map((b, i) => (i === n ? { ...b, ...change } : b)));
  const add = () =>
    onChange([
      ...way.bands,
      {
        upTo: last?.upTo === null ? null : (last?.upTo ?? 0) + measureOf(by).step,
        price: last?.price ?? minor(500),
      },
    ]);
  return (
    <>
      <Ruler bands={way.bands} unit={unit} cart={here} />
      <div className="tbands">
        {way.bands.map((b, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a band has no identity but its place
          <div key={n} className={here?.band === n ? 'here' : ''}>
            <span className="mono">{n === 0 ? unit(0) : say.above(unit(way.bands[n - 1]?.upTo ?? 0))}</span>
            <BandEnd
              by={by}
              weight={weight}
              label={say.endOfBand(n + 1)}
              upTo={b.upTo}
              onChange={(upTo) => put(n, { upTo })}
            />
            <Amount
              label={say.priceOfBand(n + 1)}
              hidden
              value={b.price}
              onChange={(price) => put(n, { price })}
            />
            <button
              type="button"
              aria-label={say.takeBandOut(n + 1)}
              onClick={() => onChange(way.bands.filter((_, i) => i !== n))}
            >
              <X size={12} />
            </button>
          </div>
        ))}
      </div>
      <button type="button" className="btn sm quiet" onClick={add}>
        <Plus size={12} aria-hidden />
        {say.aBand}
      </button>
    </>
  );
}

interface BandEndProps {
  readonly by: MeasureName;
  readonly weight: WeightUnit;
  readonly label: string;
  readonly upTo: number | null;
  readonly onChange: (upTo: number | null) => void;
}

/** Where a band ends: an amount, a weight in the shop's unit, or pieces. */
function BandEnd({ by, weight, label, upTo, onChange }: BandEndProps) {
  const field = { label, hidden: true, empty: true, placeholder: say.noEnd };
  const { asked } = measureOf(by);
  if (asked === 'money') return <Amount<number | null> {...field} value={upTo} onChange={onChange} />;
  if (asked === 'number') return <Count<number | null> {...field} value={upTo} onChange={onChange} />;
  return (
    <Count<number | null>
      {...field}
      key={weight}
      value={upTo === null ? null : inUnit(upTo, weight)}
      after={weight}
      onChange={(v) => onChange(v === null ? null : toGrams(v, weight))}
    />
  );
}
