import { Plus } from 'lucide-react';
import { discountRule, type DiscountRule } from '../../core/till/rules';
import type { GoodsLine } from '../../services/goods/lines';
import { DiscountCard } from './discount-card';
import { Foot } from './fields';
import type { Part } from './use-till';
import { discountsEditor as say } from '../words/till';

const fresh = (code: string): DiscountRule =>
  discountRule.parse({
    id: Math.random().toString(36).slice(2, 10),
    // What shoppers read beside the sum: until the owner names it, what it is.
    name: code ? say.code(code) : say.discount,
    code,
  });
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
        <DiscountCard
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
