import { X } from 'lucide-react';
import { type Minor, minor } from '../../core/money/minor';
import { measureNames, measureOf } from '../../core/till/measures';
import type { ShippingWay } from '../../core/till/rules';
import type { WeightUnit } from '../../core/till/weight';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { GoodsLine } from '../../services/goods/lines';
import { chosenOf, TextField } from '../goods/fields';
import { useMoney } from '../shop-context';
import { shippingEditor as say } from '../words/till';
import { Amount, Count } from './fields';
import { WayBands } from './way-bands';

const bys = [['flat', say.onePrice], ...measureNames.map((m) => [m, measureOf(m).name] as const)] as const;

interface Props {
  readonly way: ShippingWay;
  readonly weight: WeightUnit;
  readonly goods: readonly GoodsLine[];
  readonly cart: WorkedSum | undefined;
  readonly onChange: (to: ShippingWay) => void;
  readonly onRemove: () => void;
}

/** One shipping method: what it goes by, what it costs, how long it takes. */
export function WayCard({ way, weight, goods, cart, onChange, onRemove }: Props) {
  const money = useMoney();
  const put = (change: Partial<ShippingWay>) => onChange({ ...way, ...change });
  const untilFree = cart?.ways?.find((o) => o.id === way.id)?.untilFree;
  return (
    <div className="tway">
      <div className="tway-h">
        <input
          className="in"
          aria-label={say.nameOfTheWay}
          value={way.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        <select
          className="in"
          aria-label={say.priceOf(way.name)}
          value={way.by}
          onChange={(e) => put({ by: chosenOf(['flat', ...measureNames], e.target.value) ?? way.by })}
        >
          {bys.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </select>
        <button
          type="button"
          className="btn sm quiet beet"
          aria-label={say.takeAway(way.name)}
          onClick={onRemove}
        >
          <X size={12} aria-hidden />
        </button>
      </div>
      {way.by !== 'flat' && (
        <WayBands way={way} by={way.by} weight={weight} cart={cart} onChange={(bands) => put({ bands })} />
      )}
      <div className="g-4">
        <Amount
          label={way.by === 'flat' ? say.price : say.baseAdded}
          value={way.base}
          onChange={(base) => put({ base })}
        />
        <Amount label={say.forEachPiece} value={way.each} onChange={(each) => put({ each })} />
        <Amount<Minor | null>
          label={say.freeFrom2}
          empty
          value={way.freeFrom}
          placeholder={say.never}
          onChange={(freeFrom) => put({ freeFrom })}
        />
        <Days days={way.days} onChange={(days) => put({ days })} />
      </div>
      {untilFree ? <p className="note">{say.thisCartIsShortOfThe(money(untilFree))}</p> : null}
      <OwnAmounts way={way} goods={goods} onChange={(own) => put({ own })} />
      <TextField
        label={say.aWordForShoppers}
        value={way.hint}
        most={200}
        placeholder={way.kind === 'collect' ? say.fridays10To4 : say.none}
        onChange={(hint) => put({ hint })}
      />
    </div>
  );
}

/** Between how many days it arrives; one that is written draws the other along. */
function Days({
  days,
  onChange,
}: {
  days: ShippingWay['days'];
  onChange: (days: ShippingWay['days']) => void;
}) {
  const from = (least: number | null) =>
    least === null ? null : { least, most: Math.max(least, days?.most ?? least) };
  const to = (most: number | null) =>
    most === null ? null : { least: Math.min(most, days?.least ?? most), most };
  return (
    <div>
      <span className="lab">{say.arrivesInDays}</span>
      <div className="flex gap-1">
        <Count<number | null>
          label={say.daysAtLeast}
          hidden
          empty
          value={days?.least ?? null}
          placeholder="3"
          most={120}
          onChange={(least) => onChange(from(least))}
        />
        <Count<number | null>
          label={say.daysAtMost}
          hidden
          empty
          value={days?.most ?? null}
          placeholder="5"
          most={120}
          onChange={(most) => onChange(to(most))}
        />
      </div>
    </div>
  );
}

/** Products that cost an amount of their own to send: they count in no band, and not as pieces. */
function OwnAmounts({
  way: x,
  goods,
  onChange,
}: {
  way: ShippingWay;
  goods: readonly GoodsLine[];
  onChange: (own: ShippingWay['own']) => void;
}) {
  const names = new Map(goods.map((g) => [g.id, g.name]));
  return (
    <div className="town">
      {x.own.map((o) => (
        <div key={o.goodsId} className="tway-h">
          <span>{say.each(names.get(o.goodsId) ?? say.aProductThatIsGone)}</span>
          <Amount
            label={say.sending(names.get(o.goodsId) ?? 'it')}
            hidden
            value={o.each}
            onChange={(each) => onChange(x.own.map((y) => (y.goodsId === o.goodsId ? { ...y, each } : y)))}
          />
          <button
            type="button"
            className="btn sm quiet beet"
            aria-label={say.takeOutOf(names.get(o.goodsId) ?? 'it', x.name)}
            onClick={() => onChange(x.own.filter((y) => y.goodsId !== o.goodsId))}
          >
            <X size={12} aria-hidden />
          </button>
        </div>
      ))}
      <p className="tareas">
        <select
          aria-label={say.aProductWithAnAmountOf(x.name)}
          value=""
          onChange={(e) =>
            e.target.value && onChange([...x.own, { goodsId: e.target.value, each: minor(500) }])
          }
        >
          <option value="">{say.aProductWithAnAmountOf2}</option>
          {goods
            .filter((g) => !x.own.some((o) => o.goodsId === g.id))
            .map((g) => (
              <option key={g.id} value={g.id}>
                {g.name}
              </option>
            ))}
        </select>
      </p>
    </div>
  );
}
