import { Plus, X } from 'lucide-react';
import { discountRule, type DiscountRule } from '../../core/till/rules';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, TextField, Tick } from '../goods/fields';
import { Amount, Count, Foot } from './fields';
import type { Part } from './use-till';
import { discountsEditor as say } from '../words/till';

const fresh = (code: string): DiscountRule =>
  discountRule.parse({
    id: Math.random().toString(36).slice(2, 10),
    // What shoppers read beside the sum: until the owner names it, what it is.
    name: code ? say.code(code) : say.discount,
    code,
  });
const kinds = [
  ['percent', say.perCentOff],
  ['amount', say.amountOff],
  ['price', say.setPrice],
  ['shipping', say.freeShipping],
  ['buy-get', say.buyNGetN],
] as const;
/** "2026-12-01T00:00" beginning, as a day. */
const dayOf = (wall: string | null): string => wall?.slice(0, 10) ?? '';

/** Codes, and what everybody gets; the first that stand alone are weighed against all the others together. */
export function DiscountsEditor({
  part,
  goods,
  former,
}: {
  part: Part<'discounts'>;
  goods: readonly GoodsLine[];
  former: Readonly<Record<string, string>>;
}) {
  const { draft, set } = part;
  return (
    <section className="tedit" aria-label={say.discounts}>
      <header>
        <h1>{say.discounts}</h1>
        <span className="flex gap-2">
          <button
            type="button"
            className="btn"
            onClick={() => set([...draft, fresh(`CODE${draft.length + 1}`)])}
          >
            <Plus size={13} aria-hidden />
            {say.addACode}
          </button>
          <button type="button" className="btn" onClick={() => set([...draft, fresh('')])}>
            <Plus size={13} aria-hidden />
            {say.addOneForEverybody}
          </button>
        </span>
      </header>
      {draft.length === 0 && <p className="note">{say.nothingIsSetEverybodyPaysThe}</p>}
      {draft.map((d, n) => (
        <Card
          key={d.id}
          rule={d}
          goods={goods}
          former={former}
          onChange={(to) => set(draft.map((x, i) => (i === n ? to : x)))}
          onRemove={() => set(draft.filter((_, i) => i !== n))}
        />
      ))}
      <Foot part={part} />
    </section>
  );
}

function Card({
  rule: d,
  goods,
  former,
  onChange,
  onRemove,
}: {
  rule: DiscountRule;
  goods: readonly GoodsLine[];
  former: Readonly<Record<string, string>>;
  onChange: (to: DiscountRule) => void;
  onRemove: () => void;
}) {
  const put = (change: Partial<DiscountRule>) => onChange({ ...d, ...change });
  const categories = [...new Set(goods.flatMap((g) => g.categories))].sort();
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
      {d.scope.to === 'categories' && (
        <Pick
          label={say.category}
          all={categories.map((c) => [c, c])}
          chosen={d.scope.categories.map((c) => former[c] ?? c)}
          onChange={(c) => scope({ categories: [...c] })}
        />
      )}
      {d.scope.to === 'goods' && (
        <Pick
          label={say.product}
          all={goods.map((g) => [g.id, g.name])}
          chosen={d.scope.goods}
          onChange={(g) => scope({ goods: [...g] })}
        />
      )}
      <details className="gpart">
        <summary>
          <h2>{say.whenAndHowOften}</h2>
          <span className="note">
            {[
              d.leastAmount !== null || d.leastPieces !== null ? say.fromABasketOfSomeSize : '',
              d.limit ? say.timesInAll(d.limit) : '',
              d.limitEach ? say.forEachBuyer(d.limitEach) : '',
              d.combines ? '' : 'alone',
            ]
              .filter(Boolean)
              .join(', ') || say.always}
          </span>
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
    </div>
  );
}

function Pick({
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
