import { Minus, Plus } from 'lucide-react';
import type { TillRules } from '../../core/till/rules';
import { weightText } from '../../core/till/weight';
import type { Step } from '../../core/till/worked-sum';
import type { GoodsLine } from '../../services/goods/lines';
import type { TillView, TriedCart } from '../../services/till/try-cart';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import type { ChangeTried, TriedInput } from './use-try';
import { day } from '../ui/when';
import { tryCart as say } from '../words/till';

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

const codeSays: Readonly<Record<NonNullable<TriedCart['codes']>[number]['says'], string>> = {
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
  const { site } = useBoot();
  const money = useMoney();
  const choices = goods
    .filter((g) => g.kind !== 'link')
    .flatMap((g) =>
      g.variants.map((v) => ({ id: v.id, name: [g.name, v.label].filter(Boolean).join(', ') })),
    );
  const put = (change: Partial<TriedInput>) => onChange((now) => ({ ...now, ...change }));
  const set = (variantId: string, to: (now: number) => number) =>
    onChange((now) => ({
      ...now,
      lines: now.lines
        .map((l) => (l.variantId === variantId ? { ...l, quantity: Math.min(MOST, to(l.quantity)) } : l))
        .filter((l) => l.quantity > 0),
    }));
  const wanted = new Map(input.lines.map((l) => [l.variantId, l.quantity]));
  const states = view.states[input.country] ?? [];
  return (
    <section className="try" aria-label={say.tryACart}>
      <header>
        <h1>{say.tryACart}</h1>
        <span className="note">{unsaved ? say.withWhatIsTyped : say.asShoppersPayNow}</span>
      </header>
      <ul className="tl">
        {(worked?.lines ?? [])
          .filter((l) => wanted.has(l.variantId))
          .map((l) => (
            <li key={l.variantId}>
              {worked?.pictures[l.variantId] ? (
                <img src={pictureOf(site.shopUrl, worked.pictures[l.variantId] ?? null)} alt="" />
              ) : (
                <span className="thumb" aria-hidden="true">
                  –
                </span>
              )}
              <div>
                <b>{l.name}</b>
                <em>
                  {l.particulars.join(', ')}
                  {l.ships && (
                    <span className="mono">
                      {l.grams ? weightText(l.grams, rules.shipping.unit) : say.notWeighed}
                    </span>
                  )}
                </em>
              </div>
              <div className="qty">
                <button
                  type="button"
                  aria-label={say.oneFewer(l.name)}
                  onClick={() => set(l.variantId, (n) => n - 1)}
                >
                  <Minus size={12} />
                </button>
                <input
                  aria-label={say.howMany(l.name)}
                  inputMode="numeric"
                  value={wanted.get(l.variantId) ?? ''}
                  onChange={(e) => {
                    const n = Number(e.target.value.replace(/\D/g, ''));
                    if (n > 0) set(l.variantId, () => n);
                  }}
                />
                <button
                  type="button"
                  aria-label={say.oneMore(l.name)}
                  onClick={() => set(l.variantId, (n) => n + 1)}
                >
                  <Plus size={12} />
                </button>
              </div>
              <span className="p mono">{money(l.amount)}</span>
            </li>
          ))}
      </ul>
      <select
        className="addl"
        aria-label={say.addGoodsToThisCart}
        value=""
        onChange={(e) =>
          e.target.value &&
          onChange((now) => ({
            ...now,
            lines: now.lines.some((l) => l.variantId === e.target.value)
              ? now.lines
              : [...now.lines, { variantId: e.target.value, quantity: 1 }],
          }))
        }
      >
        <option value="">{say.addGoodsToThisCart}</option>
        {choices.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
          </option>
        ))}
      </select>
      <div className="dest">
        <div>
          <label className="lab" htmlFor="t-to">
            {say.goingTo}
          </label>
          <select
            id="t-to"
            className="in"
            value={input.country}
            onChange={(e) => put({ country: e.target.value, state: '', way: '' })}
          >
            <option value="">{say.nobodyHasSaid}</option>
            {view.countries.map((c) => (
              <option key={c.code} value={c.code}>
                {c.name}
              </option>
            ))}
          </select>
        </div>
        {states.length > 0 && (
          <div>
            <label className="lab" htmlFor="t-state">
              {say.state}
            </label>
            <select
              id="t-state"
              className="in"
              value={input.state}
              onChange={(e) => put({ state: e.target.value })}
            >
              <option value="">{say.any}</option>
              {states.map((x) => (
                <option key={x.code} value={x.code}>
                  {x.name}
                </option>
              ))}
            </select>
          </div>
        )}
        <div>
          <label className="lab" htmlFor="t-post">
            {say.postcode}
          </label>
          <div className="in">
            <input
              id="t-post"
              value={input.postcode}
              maxLength={20}
              onChange={(e) => put({ postcode: e.target.value })}
            />
          </div>
        </div>
        <div>
          <label className="lab" htmlFor="t-code">
            {say.codes}
          </label>
          <div className="in mono">
            <input
              id="t-code"
              value={input.code}
              maxLength={80}
              placeholder={say.none}
              onChange={(e) => put({ code: e.target.value })}
            />
          </div>
        </div>
        {(worked?.ways?.length ?? 0) > 1 && (
          <div>
            <label className="lab" htmlFor="t-way">
              {say.by}
            </label>
            <select
              id="t-way"
              className="in"
              value={worked?.way}
              onChange={(e) => put({ way: e.target.value })}
            >
              {worked?.ways?.map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}, {money(x.price)}
                </option>
              ))}
            </select>
          </div>
        )}
      </div>
      {worked?.codes?.map((c) => (
        <p key={c.code} className={c.says === 'applied' || c.says === 'voucher' ? 'note' : 'field-error'}>
          {c.code} {codeSays[c.says]}.
        </p>
      ))}
      {problem && (
        <p className="field-error" role="alert">
          {problem}
        </p>
      )}
      <h2 className="sumh">{say.howItAddsUp}</h2>
      {worked && <Sum worked={worked} />}
    </section>
  );
}

const rowClass: Partial<Record<NonNullable<Step['kind']>, string>> = {
  discount: 'sl leafy',
  voucher: 'sl leafy',
  included: 'sl vatl',
};

function Sum({ worked }: { worked: TriedCart }) {
  const money = useMoney();
  const row = (s: Step) => (
    <div key={`${s.kind} ${s.id ?? s.what}`} className={rowClass[s.kind ?? 'goods'] ?? 'sl'}>
      <dt>
        {s.what}
        <em>{s.rule}</em>
      </dt>
      <dd className="mono">{money(s.amount)}</dd>
    </div>
  );
  const off = worked.steps.filter((s) => s.kind === 'discount');
  const goods = worked.steps.find((s) => s.kind === 'goods');
  const days = worked.ways?.find((x) => x.id === worked.way)?.days;
  return (
    <>
      <dl className="tsum" aria-live="polite">
        {goods && row(goods)}
        {off.map(row)}
        {off.length > 0 && goods && (
          <div className="sl sub">
            <dt>{say.goodsAfterDiscounts}</dt>
            <dd className="mono">{money(off.reduce<number>((n, s) => n + s.amount, goods.amount))}</dd>
          </div>
        )}
        {worked.steps
          .filter((s) => s.kind !== 'goods' && s.kind !== 'discount' && s.kind !== 'included')
          .map(row)}
        {worked.noWay && (
          <div className="sl">
            <dt>
              {say.shipping}
              <em>
                {worked.noWay === 'no-region'
                  ? say.noRegionHoldsThisPlaceShoppers
                  : say.beyondEveryBandShoppersAreTold}
              </em>
            </dt>
            <dd className="bad">{say.noWay}</dd>
          </div>
        )}
        <div className="sl tot">
          <dt>{say.toPay}</dt>
          <dd className="mono">{money(worked.total)}</dd>
        </div>
        {worked.steps.filter((s) => s.kind === 'included').map(row)}
      </dl>
      {days && <p className="note">{say.expectedBetween(day(days.from), day(days.to))}</p>}
    </>
  );
}
