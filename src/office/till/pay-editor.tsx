import { ArrowDown, ArrowUp, Plus, X } from 'lucide-react';
import { isValidIBAN } from 'ibantools';
import { type PayKind, payKinds, payRules, type PayWay, viaProvider, whyNot } from '../../core/till/paying';
import type { TillView } from '../../services/till/try-cart';
import { TextField, Tick } from '../goods/fields';
import { Amount, Foot } from './fields';
import type { Part } from './use-till';

const names: Readonly<Record<PayKind, string>> = {
  card: 'Card',
  wallet: 'Wallet',
  transfer: 'Bank transfer',
  delivery: 'On delivery',
  person: 'When it is collected',
};
const says: Readonly<Record<PayKind, string>> = {
  card: 'On a page of the card service. The order is paid when the service says so.',
  wallet: 'In the wallet’s own window. The order is paid when the wallet says so.',
  transfer:
    'The buyer is told where to send the money, with a reference that finds the order again. You mark it as paid.',
  delivery: 'Whoever brings it takes the money. You mark it as paid.',
  person: 'The buyer pays when they fetch it. You mark it as paid.',
};
const words: Readonly<Partial<Record<PayKind, string>>> = {
  transfer: 'Please transfer within seven days. We send it as soon as the money is here.',
  delivery: 'Please have the amount ready.',
  person: 'Cash or card, at the workshop.',
};
const fresh = (kind: PayKind): PayWay =>
  payRules.parse({
    ways: [{ id: `${kind}-${Math.random().toString(36).slice(2, 8)}`, kind, words: words[kind] ?? '' }],
  }).ways[0] as PayWay;

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
    <section className="tedit" aria-label="Ways to pay">
      <header>
        <h1>Ways to pay</h1>
      </header>
      {none && (
        <p className="gmend" role="alert">
          As it stands, nobody can pay. Shoppers are told so kindly at the checkout, and their cart is kept.
        </p>
      )}
      <div className={p.test ? 'gmend' : 'rg'}>
        <Tick checked={p.test} onChange={(test) => set({ ...p, test })}>
          Only trying out
        </Tick>
        <p className="note">
          Orders are marked as tests and have numbers of their own; providers are told, and charge nobody;
          takings and invoices leave them out; they hand out no files and no vouchers, because anybody could
          fetch them for nothing. The checkout says so in a band that nobody overlooks. You can throw test
          orders away in one go.
        </p>
      </div>
      {p.ways.map((w, n) => {
        const not = whyNot(w, { country: '', total: 1, goes: null, again: false, connected: view.connected });
        return (
          <div key={w.id} className="rg">
            <div className="rh">
              <h2>{w.name || names[w.kind]}</h2>
              <span className={not === 'not-connected' || not === 'no-account' ? 'bad' : 'note'}>
                {!w.active
                  ? 'switched off'
                  : not === 'not-connected'
                    ? 'not set up on this server'
                    : not === 'no-account'
                      ? 'not offered: say where the money goes'
                      : viaProvider(w.kind)
                        ? 'connected'
                        : 'you mark it as paid'}
              </span>
              <span className="flex gap-1 ml-auto">
                <button
                  type="button"
                  className="btn sm quiet"
                  aria-label={`${names[w.kind]} earlier`}
                  disabled={n === 0}
                  onClick={() => move(n, -1)}
                >
                  <ArrowUp size={12} aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn sm quiet"
                  aria-label={`${names[w.kind]} later`}
                  disabled={n === p.ways.length - 1}
                  onClick={() => move(n, 1)}
                >
                  <ArrowDown size={12} aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn sm quiet beet"
                  aria-label={`Take ${names[w.kind]} away`}
                  onClick={() => set({ ...p, ways: p.ways.filter((_, i) => i !== n) })}
                >
                  <X size={12} aria-hidden />
                </button>
              </span>
            </div>
            <p className="note">{says[w.kind]}</p>
            <Tick checked={w.active} onChange={(active) => put(n, { active })}>
              Offered to shoppers
            </Tick>
            <div className="g-3">
              <TextField
                label="Called"
                value={w.name}
                most={60}
                placeholder={names[w.kind]}
                onChange={(name) => put(n, { name })}
              />
              <Amount<number | null>
                label="From a total of"
                empty
                value={w.least}
                placeholder="any"
                onChange={(least) => put(n, { least })}
              />
              <Amount<number | null>
                label="Up to a total of"
                empty
                value={w.most}
                placeholder="any"
                onChange={(most) => put(n, { most })}
              />
            </div>
            <Countries chosen={w.countries} view={view} onChange={(countries) => put(n, { countries })} />
            {!viaProvider(w.kind) && (
              <label className="lab">
                What the buyer is told to do
                <textarea
                  className="in"
                  rows={2}
                  maxLength={600}
                  value={w.words}
                  onChange={(e) => put(n, { words: e.target.value })}
                />
              </label>
            )}
            {w.kind === 'transfer' && (
              <TextField
                label="IBAN, where you have one"
                value={w.iban}
                most={42}
                placeholder="told with each order, beside its reference"
                error={
                  w.iban && !isValidIBAN(w.iban.replace(/\s/g, '').toUpperCase())
                    ? 'This is not an IBAN: its check digits do not fit. Copy it from your bank.'
                    : undefined
                }
                onChange={(iban) => put(n, { iban })}
              />
            )}
          </div>
        );
      })}
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
              {names[k]}
            </button>
          ))}
      </p>
      <Foot part={part} beside={false} />
    </section>
  );
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
      <span className="lab">{chosen.length ? 'For buyers in' : 'For buyers everywhere'}</span>
      {chosen.map((c) => (
        <span key={c}>
          {names.get(c) ?? c}
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
        aria-label="Only for a country"
        value=""
        onChange={(e) => e.target.value && onChange([...chosen, e.target.value])}
      >
        <option value="">Only…</option>
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
