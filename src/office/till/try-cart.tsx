import { Minus, Plus } from 'lucide-react';
import type { TillRules } from '../../core/till/rules';
import { weightText } from '../../core/till/weight';
import type { GoodsLine } from '../../services/goods/lines';
import type { TillView, TriedCart } from '../../services/till/try-cart';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { tryCart as say } from '../words/till';
import { TryDestination } from './try-destination';
import { TrySum } from './try-sum';
import type { ChangeTried, TriedInput } from './use-try';

interface Props {
  readonly input: TriedInput;
  readonly onChange: ChangeTried;
  readonly worked: TriedCart | undefined;
  readonly problem: string;
  readonly goods: readonly GoodsLine[];
  readonly view: TillView;
  readonly rules: TillRules;
  readonly unsaved: boolean;
}

/** Pieces that can be tried of one thing. */
const MOST = 9_999;

const codeSays: Readonly<Record<NonNullable<TriedCart['codes']>[number]['status'], string>> = {
  applied: 'counts',
  voucher: say.aGiftVoucher,
  unknown: say.isNotKnown,
  'not-yet': say.isNotGoodYet,
  over: say.isOver,
  'used-up': say.isUsedUp,
  'used-by-you': say.isUsedUp,
  'least-amount': say.wantsALargerBasket,
  'least-pieces': say.wantsMorePieces,
  'nothing-fits': say.fitsNothingHere,
  'saves-less': say.savesLessThanTheOthers,
  dearer: say.wouldMakeItDearer,
};

/** Any basket, destination and code, worked out line by line by the function of the checkout, with the rule behind each figure. */
export function TryCart({ input, onChange, worked, problem, goods, view, rules, unsaved }: Props) {
  const setQuantity = (variantId: string, to: (now: number) => number) =>
    onChange((now) => ({
      ...now,
      lines: now.lines
        .map((l) => (l.variantId === variantId ? { ...l, quantity: Math.min(MOST, to(l.quantity)) } : l))
        .filter((l) => l.quantity > 0),
    }));
  const wanted = new Map(input.lines.map((l) => [l.variantId, l.quantity]));
  return (
    <section className="try" aria-label={say.tryACart}>
      <header>
        <h1>{say.tryACart}</h1>
        <span className="note">{unsaved ? say.withWhatIsTyped : say.asShoppersPayNow}</span>
      </header>
      <ul className="tl">
        {worked?.lines
          .filter((l) => wanted.has(l.variantId))
          .map((l) => (
            <TriedLine
              key={l.variantId}
              line={l}
              picture={worked.pictures[l.variantId] ?? null}
              quantity={wanted.get(l.variantId)}
              unit={rules.shipping.unit}
              onQuantity={(to) => setQuantity(l.variantId, to)}
            />
          ))}
      </ul>
      <AddGoods goods={goods} onChange={onChange} />
      <TryDestination input={input} onChange={onChange} view={view} worked={worked} />
      {worked?.codes?.map((c) => (
        <p key={c.code} className={c.status === 'applied' || c.status === 'voucher' ? 'note' : 'field-error'}>
          {c.code} {codeSays[c.status]}.
        </p>
      ))}
      {problem && (
        <p className="field-error" role="alert">
          {problem}
        </p>
      )}
      <h2 className="sumh">{say.howItAddsUp}</h2>
      {worked && <TrySum worked={worked} />}
    </section>
  );
}

function TriedLine({
  line,
  picture,
  quantity,
  unit,
  onQuantity,
}: {
  line: TriedCart['lines'][number];
  picture: string | null;
  quantity: number | undefined;
  unit: TillRules['shipping']['unit'];
  onQuantity: (to: (now: number) => number) => void;
}) {
  const { site } = useBoot();
  const money = useMoney();
  return (
    <li>
      {picture ? (
        <img src={pictureOf(site.shopUrl, picture)} alt="" />
      ) : (
        <span className="thumb" aria-hidden="true">
          –
        </span>
      )}
      <div>
        <b>{line.name}</b>
        <em>
          {line.particulars.join(', ')}
          {line.ships && (
            <span className="mono">{line.grams ? weightText(line.grams, unit) : say.notWeighed}</span>
          )}
        </em>
      </div>
      <div className="qty">
        <button type="button" aria-label={say.oneFewer(line.name)} onClick={() => onQuantity((n) => n - 1)}>
          <Minus size={12} />
        </button>
        <input
          aria-label={say.howMany(line.name)}
          inputMode="numeric"
          value={quantity ?? ''}
          onChange={(e) => {
            const n = Number(e.target.value.replace(/\D/g, ''));
            if (n > 0) onQuantity(() => n);
          }}
        />
        <button type="button" aria-label={say.oneMore(line.name)} onClick={() => onQuantity((n) => n + 1)}>
          <Plus size={12} />
        </button>
      </div>
      <span className="p mono">{money(line.amount)}</span>
    </li>
  );
}

function AddGoods({ goods, onChange }: Pick<Props, 'goods' | 'onChange'>) {
  const choices = goods
    .filter((g) => g.kind !== 'link')
    .flatMap((g) =>
      g.variants.map((v) => ({ id: v.id, name: [g.name, v.label].filter(Boolean).join(', ') })),
    );
  const add = (variantId: string) =>
    onChange((now) => ({
      ...now,
      lines: now.lines.some((l) => l.variantId === variantId)
        ? now.lines
        : [...now.lines, { variantId, quantity: 1 }],
    }));
  return (
    <select
      className="addl"
      aria-label={say.addGoodsToThisCart}
      value=""
      onChange={(e) => e.target.value && add(e.target.value)}
    >
      <option value="">{say.addGoodsToThisCart}</option>
      {choices.map((c) => (
        <option key={c.id} value={c.id}>
          {c.name}
        </option>
      ))}
    </select>
  );
}
