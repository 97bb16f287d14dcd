import { X } from 'lucide-react';
import type { DiscountRule } from '../../core/till/rules';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, TextField, Tick } from '../goods/fields';
import { discountsEditor as say } from '../words/till';
import { Amount, Count } from './fields';

const kinds = [
  ['percent', say.perCentOff],
  ['amount', say.amountOff],
  ['price', say.setPrice],
  ['shipping', say.freeShipping],
  ['buy-get', say.buyNGetN],
] as const;
/** "2026-12-01T00:00" beginning, as a day. */
const dayOf = (wall: string | null): string => wall?.slice(0, 10) ?? '';

interface CardProps {
  readonly rule: DiscountRule;
  readonly goods: readonly GoodsLine[];
  readonly former: Readonly<Record<string, string>>;
  readonly onChange: (to: DiscountRule) => void;
  readonly onRemove: () => void;
}

/** One discount: its name and code, what it gives of what, when and how often. */
export function DiscountCard({ rule: d, goods, former, onChange, onRemove }: CardProps) {
  const put = (change: Partial<DiscountRule>) => onChange({ ...d, ...change });
  const scope = (change: Partial<DiscountRule['scope']>) => put({ scope: { ...d.scope, ...change } });
  return (
    <div className="rg">
      <div className="rh">
        <input
          className="gname"
          aria-label={say.nameOfTheDiscount}
          value={d.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        {!d.active && <span className="note">{say.switchedOff}</span>}
        <button
          type="button"
          className="btn sm quiet beet"
          aria-label={say.takeAway(d.name)}
          onClick={onRemove}
        >
          <X size={12} aria-hidden />
        </button>
      </div>
      <div className="g-3">
        <TextField
          label={say.code2}
          value={d.code}
          most={40}
          placeholder={say.noneForAll}
          onChange={(code) => put({ code: code.replace(/[^\w-]/g, '').toUpperCase() })}
        />
        <Choice label={say.gives} value={d.kind} options={kinds} onChange={(kind) => put({ kind })} />
        <Gives of={d} put={put} />
        <Choice
          label={say.of}
          value={d.scope.to}
          options={[
            ['all', say.everything],
            ['categories', say.someCategories],
            ['goods', say.someProducts],
          ]}
          onChange={(to) => scope({ to })}
        />
        <TextField
          label={say.fromTheDay}
          type="date"
          value={dayOf(d.from)}
          onChange={(day) => put({ from: day ? `${day}T00:00` : null })}
        />
        <TextField
          label={say.endsBefore}
          type="date"
          value={dayOf(d.until)}
          onChange={(day) => put({ until: day ? `${day}T00:00` : null })}
        />
      </div>
      <ScopePick rule={d} goods={goods} former={former} scope={scope} />
      <WhenAndHowOften rule={d} put={put} scope={scope} />
    </div>
  );
}

type Put = (change: Partial<DiscountRule>) => void;
type PutScope = (change: Partial<DiscountRule['scope']>) => void;

/** Which categories or products a discount is for; a category that was renamed is meant by its new name. */
function ScopePick({
  rule: d,
  goods,
  former,
  scope,
}: Pick<CardProps, 'rule' | 'goods' | 'former'> & { scope: PutScope }) {
  if (d.scope.to === 'goods')
    return (
      <PickSome
        label={say.product}
        all={goods.map((g) => [g.id, g.name])}
        chosen={d.scope.goods}
        onChange={(g) => scope({ goods: [...g] })}
      />
    );
  if (d.scope.to !== 'categories') return null;
  const categories = [...new Set(goods.flatMap((g) => g.categories))].sort();
  return (
    <PickSome
      label={say.category}
      all={categories.map((c) => [c, c])}
      chosen={d.scope.categories.map((c) => former[c] ?? c)}
      onChange={(c) => scope({ categories: [...c] })}
    />
  );
}

const limitWords = (d: DiscountRule): string =>
  [
    d.leastAmount !== null || d.leastPieces !== null ? say.fromABasketOfSomeSize : '',
    d.limit ? say.timesInAll(d.limit) : '',
    d.limitEach ? say.forEachBuyer(d.limitEach) : '',
    d.combines ? '' : 'alone',
  ]
    .filter(Boolean)
    .join(', ');

function WhenAndHowOften({ rule: d, put, scope }: { rule: DiscountRule; put: Put; scope: PutScope }) {
  return (
    <details className="gpart">
      <summary>
        <h2>{say.whenAndHowOften}</h2>
        <span className="note">{limitWords(d) || say.always}</span>
      </summary>
      <div>
        <div className="g-4">
          <Amount<number | null>
            label={say.goodsOfAtLeast}
            empty
            value={d.leastAmount}
            placeholder={say.any}
            onChange={(v) => put({ leastAmount: v as DiscountRule['leastAmount'] })}
          />
          <Count<number | null>
            label={say.piecesAtLeast}
            empty
            value={d.leastPieces}
            placeholder={say.any}
            onChange={(leastPieces) => put({ leastPieces })}
          />
          <Count<number | null>
            label={say.timesInAll2}
            empty
            value={d.limit}
            placeholder={say.noEnd}
            onChange={(limit) => put({ limit: limit || null })}
          />
          <Count<number | null>
            label={say.timesEachBuyer}
            empty
            value={d.limitEach}
            placeholder={say.noEnd}
            onChange={(limitEach) => put({ limitEach: limitEach || null })}
          />
        </div>
        <div className="g-row">
          <Tick checked={d.active} onChange={(active) => put({ active })}>
            {say.switchedOn}
          </Tick>
          <Tick checked={d.combines} onChange={(combines) => put({ combines })}>
            {say.goesTogetherWithOthers}
          </Tick>
          <Tick checked={d.scope.notOnOffer} onChange={(notOnOffer) => scope({ notOnOffer })}>
            {say.notForWhatIsOnOffer}
          </Tick>
        </div>
      </div>
    </details>
  );
}

function PickSome({
  label,
  all,
  chosen,
  onChange,
}: {
  label: string;
  all: readonly (readonly [string, string])[];
  chosen: readonly string[];
  onChange: (to: readonly string[]) => void;
}) {
  const names = new Map(all);
  return (
    <p className="tareas">
      {chosen.map((c) => (
        <span key={c}>
          {names.get(c) ?? say.gone}
          <button
            type="button"
            aria-label={say.takeOut(names.get(c) ?? c)}
            onClick={() => onChange(chosen.filter((x) => x !== c))}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      <select
        aria-label={say.add(label.toLowerCase())}
        value=""
        onChange={(e) => e.target.value && onChange([...chosen, e.target.value])}
      >
        <option value="">{label}…</option>
        {all
          .filter(([v]) => !chosen.includes(v))
          .map(([v, name]) => (
            <option key={v} value={v}>
              {name}
            </option>
          ))}
      </select>
    </p>
  );
}

/** How much a discount gives, asked for as its kind needs it. */
function Gives({ of: d, put }: { of: DiscountRule; put: (change: Partial<DiscountRule>) => void }) {
  switch (d.kind) {
    case 'percent':
      return (
        <Count
          label={say.howMuch}
          value={d.percent}
          after="%"
          most={100}
          onChange={(percent) => put({ percent })}
        />
      );
    case 'amount':
    case 'price':
      return (
        <Amount
          label={d.kind === 'amount' ? say.howMuch : say.priceOfEach}
          value={d.amount}
          onChange={(amount) => put({ amount })}
        />
      );
    case 'buy-get':
      return (
        <div className="tbuy">
          <Count label={say.buy} value={d.buy} most={999} onChange={(buy) => put({ buy })} />
          <Count label={say.get} value={d.get} most={999} onChange={(get) => put({ get })} />
          <Count label={say.atOff} value={d.off} most={100} onChange={(off) => put({ off })} />
        </div>
      );
    case 'shipping':
      return <p className="note g-hint">{say.whateverIsBroughtCostsNothingTo}</p>;
  }
}
