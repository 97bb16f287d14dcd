import { Plus, X } from 'lucide-react';
import { discountRule, type DiscountRule } from '../../core/till/rules';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, TextField, Tick } from '../goods/fields';
import { Amount, Count, Foot } from './fields';
import type { Part } from './use-till';

const fresh = (code: string): DiscountRule =>
  discountRule.parse({
    id: Math.random().toString(36).slice(2, 10),
    // What shoppers read beside the sum: until the owner names it, what it is.
    name: code ? `Code ${code}` : 'Discount',
    code,
  });
const kinds = [
  ['percent', 'per cent off'],
  ['amount', 'amount off'],
  ['price', 'set price'],
  ['shipping', 'free shipping'],
  ['buy-get', 'buy n, get n'],
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
    <section className="tedit" aria-label="Discounts">
      <header>
        <h1>Discounts</h1>
        <span className="flex gap-2">
          <button
            type="button"
            className="btn"
            onClick={() => set([...draft, fresh(`CODE${draft.length + 1}`)])}
          >
            <Plus size={13} aria-hidden />
            Add a code
          </button>
          <button type="button" className="btn" onClick={() => set([...draft, fresh('')])}>
            <Plus size={13} aria-hidden />
            Add one for everybody
          </button>
        </span>
      </header>
      {draft.length === 0 && (
        <p className="note">Nothing is set: everybody pays the price that stands on the goods.</p>
      )}
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
          aria-label="Name of the discount"
          value={d.name}
          maxLength={80}
          onChange={(e) => put({ name: e.target.value })}
        />
        {!d.active && <span className="note">switched off</span>}
        <button
          type="button"
          className="btn sm quiet beet"
          aria-label={`Take ${d.name} away`}
          onClick={onRemove}
        >
          <X size={12} aria-hidden />
        </button>
      </div>
      <div className="g-3">
        <TextField
          label="Code"
          value={d.code}
          most={40}
          placeholder="none: for all"
          onChange={(code) => put({ code: code.replace(/[^\w-]/g, '').toUpperCase() })}
        />
        <Choice label="Gives" value={d.kind} options={kinds} onChange={(kind) => put({ kind })} />
        {d.kind === 'percent' ? (
          <Count
            label="How much"
            value={d.percent}
            after="%"
            most={100}
            onChange={(percent) => put({ percent })}
          />
        ) : d.kind === 'amount' || d.kind === 'price' ? (
          <Amount
            label={d.kind === 'amount' ? 'How much' : 'Price of each'}
            value={d.amount}
            onChange={(amount) => put({ amount })}
          />
        ) : d.kind === 'buy-get' ? (
          <div className="tbuy">
            <Count label="Buy" value={d.buy} most={999} onChange={(buy) => put({ buy })} />
            <Count label="get" value={d.get} most={999} onChange={(get) => put({ get })} />
            <Count label="at % off" value={d.off} most={100} onChange={(off) => put({ off })} />
          </div>
        ) : (
          <p className="note g-hint">Whatever is brought costs nothing to bring.</p>
        )}
        <Choice
          label="Of"
          value={d.scope.to}
          options={[
            ['all', 'everything'],
            ['categories', 'some categories'],
            ['goods', 'some products'],
          ]}
          onChange={(to) => scope({ to })}
        />
        <TextField
          label="From the day"
          type="date"
          value={dayOf(d.from)}
          onChange={(day) => put({ from: day ? `${day}T00:00` : null })}
        />
        <TextField
          label="Ends before"
          type="date"
          value={dayOf(d.until)}
          onChange={(day) => put({ until: day ? `${day}T00:00` : null })}
        />
      </div>
      {d.scope.to === 'categories' && (
        <Pick
          label="Category"
          all={categories.map((c) => [c, c])}
          chosen={d.scope.categories.map((c) => former[c] ?? c)}
          onChange={(c) => scope({ categories: [...c] })}
        />
      )}
      {d.scope.to === 'goods' && (
        <Pick
          label="Product"
          all={goods.map((g) => [g.id, g.name])}
          chosen={d.scope.goods}
          onChange={(g) => scope({ goods: [...g] })}
        />
      )}
      <details className="gpart">
        <summary>
          <h2>When, and how often</h2>
          <span className="note">
            {[
              d.leastAmount !== null || d.leastPieces !== null ? 'from a basket of some size' : '',
              d.limit ? `${d.limit} times in all` : '',
              d.limitEach ? `${d.limitEach} for each buyer` : '',
              d.combines ? '' : 'alone',
            ]
              .filter(Boolean)
              .join(', ') || 'always'}
          </span>
        </summary>
        <div>
          <div className="g-4">
            <Amount<number | null>
              label="Goods of at least"
              empty
              value={d.leastAmount}
              placeholder="any"
              onChange={(v) => put({ leastAmount: v as DiscountRule['leastAmount'] })}
            />
            <Count<number | null>
              label="Pieces at least"
              empty
              value={d.leastPieces}
              placeholder="any"
              onChange={(leastPieces) => put({ leastPieces })}
            />
            <Count<number | null>
              label="Times in all"
              empty
              value={d.limit}
              placeholder="no end"
              onChange={(limit) => put({ limit: limit || null })}
            />
            <Count<number | null>
              label="Times each buyer"
              empty
              value={d.limitEach}
              placeholder="no end"
              onChange={(limitEach) => put({ limitEach: limitEach || null })}
            />
          </div>
          <div className="g-row">
            <Tick checked={d.active} onChange={(active) => put({ active })}>
              Switched on
            </Tick>
            <Tick checked={d.combines} onChange={(combines) => put({ combines })}>
              Goes together with others
            </Tick>
            <Tick checked={d.scope.notOnOffer} onChange={(notOnOffer) => scope({ notOnOffer })}>
              Not for what is on offer
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
          {names.get(c) ?? 'gone'}
          <button
            type="button"
            aria-label={`Take ${names.get(c) ?? c} out`}
            onClick={() => onChange(chosen.filter((x) => x !== c))}
          >
            <X size={11} />
          </button>
        </span>
      ))}
      <select
        aria-label={`Add: ${label.toLowerCase()}`}
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
