import { entryAt } from '../../core/entries';
import { ArrowDown, ArrowUp, Plus, X } from 'lucide-react';
import { isValidIBAN } from 'ibantools';
import { type PayKind, payKindOf, payKinds, viaProvider } from '../../core/till/pay-kinds';
import { payRules, type PayWay, whyNot } from '../../core/till/paying';
import type { TillView } from '../../services/till/try-cart';
import { TextField, Tick } from '../goods/fields';
import { Amount, Foot } from './fields';
import type { Part } from './use-till';
import { payEditor as say } from '../words/till';

const fresh = (kind: PayKind): PayWay =>
  entryAt(
    payRules.parse({
      ways: [
        {
          id: `${kind}-${Math.random().toString(36).slice(2, 8)}`,
          kind,
          words: payKindOf(kind).owner.words ?? '',
        },
      ],
    }).ways,
    0,
  );

/** How money comes in, in the order in which shoppers are offered it. */
export function PayEditor({ part, view }: { part: Part<'pay'>; view: TillView }) {
  const { draft: p, set } = part;
  const put = (n: number, change: Partial<PayWay>) =>
    set({ ...p, ways: p.ways.map((w, i) => (i === n ? { ...w, ...change } : w)) });
  const move = (n: number, by: -1 | 1) => {
    const ways = [...p.ways];
    const [way] = ways.splice(n, 1);
    if (way) ways.splice(n + by, 0, way);
    set({ ...p, ways });
  };
  const none = !p.ways.some((w) => w.active && (!viaProvider(w.kind) || view.connected.includes(w.kind)));
  return (
    <section className="tedit" aria-label={say.waysToPay}>
      <header>
        <h1>{say.waysToPay}</h1>
      </header>
      {none && (
        <p className="gmend" role="alert">
          {say.asItStandsNobodyCanPay}
        </p>
      )}
      <div className={p.test ? 'gmend' : 'rg'}>
        <Tick checked={p.test} onChange={(test) => set({ ...p, test })}>
          {say.onlyTryingOut}
        </Tick>
        <p className="note">{say.ordersAreMarkedAsTestsAnd}</p>
      </div>
      {p.ways.map((w, n) => (
        <PayCard
          key={w.id}
          way={w}
          view={view}
          isFirst={n === 0}
          isLast={n === p.ways.length - 1}
          put={(change) => put(n, change)}
          onMove={(by) => move(n, by)}
          onRemove={() => set({ ...p, ways: p.ways.filter((_, i) => i !== n) })}
        />
      ))}
      <p className="flex flex-wrap gap-2">
        {payKinds
          .filter((k) => !viaProvider(k) || !p.ways.some((w) => w.kind === k))
          .map((k) => (
            <button
              key={k}
              type="button"
              className="btn sm"
              onClick={() => set({ ...p, ways: [...p.ways, fresh(k)] })}
            >
              <Plus size={12} aria-hidden />
              {payKindOf(k).owner.name}
            </button>
          ))}
      </p>
      <Foot part={part} beside={false} />
    </section>
  );
}

/** One way to pay: whether it is offered, how it is called, for whom and what buyers are told. */
function PayCard({
  way: w,
  view,
  isFirst,
  isLast,
  put,
  onMove,
  onRemove,
}: {
  way: PayWay;
  view: TillView;
  isFirst: boolean;
  isLast: boolean;
  put: (change: Partial<PayWay>) => void;
  onMove: (by: -1 | 1) => void;
  onRemove: () => void;
}) {
  const { name, hint } = payKindOf(w.kind).owner;
  return (
    <div className="rg">
      <div className="rh">
        <h2>{w.name || name}</h2>
        <Offered way={w} view={view} />
        <span className="flex gap-1 ml-auto">
          <button
            type="button"
            className="btn sm quiet"
            aria-label={say.earlier(name)}
            disabled={isFirst}
            onClick={() => onMove(-1)}
          >
            <ArrowUp size={12} aria-hidden />
          </button>
          <button
            type="button"
            className="btn sm quiet"
            aria-label={say.later(name)}
            disabled={isLast}
            onClick={() => onMove(1)}
          >
            <ArrowDown size={12} aria-hidden />
          </button>
          <button
            type="button"
            className="btn sm quiet beet"
            aria-label={say.takeAway(name)}
            onClick={onRemove}
          >
            <X size={12} aria-hidden />
          </button>
        </span>
      </div>
      <p className="note">{hint}</p>
      <Tick checked={w.active} onChange={(active) => put({ active })}>
        {say.offeredToShoppers}
      </Tick>
      <div className="g-3">
        <TextField
          label={say.called}
          value={w.name}
          most={60}
          placeholder={name}
          onChange={(name) => put({ name })}
        />
        <Amount<number | null>
          label={say.fromATotalOf}
          empty
          value={w.least}
          placeholder={say.any}
          onChange={(least) => put({ least })}
        />
        <Amount<number | null>
          label={say.upToATotalOf}
          empty
          value={w.most}
          placeholder={say.any}
          onChange={(most) => put({ most })}
        />
      </div>
      <Countries chosen={w.countries} view={view} onChange={(countries) => put({ countries })} />
      {!viaProvider(w.kind) && (
        <label className="lab">
          {say.whatTheBuyerIsToldTo}
          <textarea
            className="in"
            rows={2}
            maxLength={600}
            value={w.words}
            onChange={(e) => put({ words: e.target.value })}
          />
        </label>
      )}
      {payKindOf(w.kind).account && (
        <TextField
          label={say.ibanWhereYouHaveOne}
          value={w.iban}
          most={42}
          placeholder={say.toldWithEachOrderBesideIts}
          error={isWrongIban(w.iban) ? say.thisIsNotAnIbanIts : undefined}
          onChange={(iban) => put({ iban })}
        />
      )}
    </div>
  );
}

const isWrongIban = (iban: string): boolean =>
  iban !== '' && !isValidIBAN(iban.replace(/\s/g, '').toUpperCase());

/** Whether shoppers are offered it, and if not why; asked of the rule that decides it. */
function Offered({ way, view }: { way: PayWay; view: TillView }) {
  const not = whyNot(way, { country: '', total: 1, goes: null, again: false, connected: view.connected });
  const isBad = not === 'not-connected' || not === 'no-account';
  return <span className={isBad ? 'bad' : 'note'}>{statusOf(way, not)}</span>;
}

function Countries({
  chosen,
  view,
  onChange,
}: {
  chosen: readonly string[];
  view: TillView;
  onChange: (to: string[]) => void;
}) {
  const names = new Map(view.countries.map((c) => [c.code, c.name]));
  return (
    <p className="tareas">
      <span className="lab">{chosen.length ? say.forBuyersIn : say.forBuyersEverywhere}</span>
      {chosen.map((c) => (
        <span key={c}>
          {names.get(c) ?? c}
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
        aria-label={say.onlyForACountry}
        value=""
        onChange={(e) => e.target.value && onChange([...chosen, e.target.value])}
      >
        <option value="">{say.only}</option>
        {view.countries
          .filter((c) => !chosen.includes(c.code))
          .map((c) => (
            <option key={c.code} value={c.code}>
              {c.name}
            </option>
          ))}
      </select>
    </p>
  );
}

/** What becomes of a way to pay as it is set. @param not why it is not offered. */
function statusOf(w: PayWay, not: ReturnType<typeof whyNot>): string {
  if (!w.active) return say.switchedOff;
  if (not === 'not-connected') return say.notSetUpOnThisServer;
  if (not === 'no-account') return say.notOfferedSayWhereTheMoney;
  return viaProvider(w.kind) ? say.connected : say.youMarkItAsPaid;
}
