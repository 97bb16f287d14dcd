import { Plus, X } from 'lucide-react';
import { type TaxClass, taxClasses } from '../../core/till/rules';
import { toast } from 'sonner';
import { RATES_AS_OF } from '../../core/till/rates';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField, Tick } from '../goods/fields';
import { Count, Foot } from './fields';
import type { Part } from './use-till';

const classNames: Readonly<Record<TaxClass, string>> = {
  standard: 'Standard',
  reduced: 'Reduced',
  zero: 'Zero',
  books: 'Books',
  digital: 'Digital',
};

/** Whose tax, how much, and where it is rounded. */
export function TaxEditor({ part, view }: { part: Part<'tax'>; view: TillView }) {
  const { draft: t, set } = part;
  const put = (change: Partial<typeof t>) => set({ ...t, ...change });
  const countries = view.countries.map((c) => [c.code, c.name] as const);
  const nameOf = (code: string) => view.countries.find((c) => c.code === code)?.name ?? code;
  const missing = (only: boolean) =>
    view.start.filter(
      (s) =>
        (!only || s.country === t.home.country) &&
        !t.rates.some((r) => r.country === s.country && r.class === s.class && r.state === ''),
    );
  const begin = (only: boolean) => {
    const added = missing(only);
    put({ rates: [...t.rates, ...added], charged: true, confirmed: null });
    toast.success(
      `${added.length === 1 ? 'One rate' : `${added.length} rates`} of ${only ? nameOf(t.home.country) : 'Europe'} added, as of ${RATES_AS_OF}. Look them over, then save.`,
    );
  };
  const home = t.rates.some((r) => r.country === t.home.country);
  return (
    <section className="tedit" aria-label="Tax">
      <header>
        <h1>Tax</h1>
      </header>
      <div className="g-row">
        <Tick checked={t.charged} onChange={(charged) => put({ charged })}>
          Tax is charged
        </Tick>
        {t.charged && (
          <Tick checked={t.included} onChange={(included) => put({ included })}>
            Prices hold it already
          </Tick>
        )}
      </div>
      {!t.charged ? (
        <TextField
          label="What invoices say about it"
          value={t.exemptWords}
          most={200}
          placeholder="Below the threshold: no tax is charged."
          onChange={(exemptWords) => put({ exemptWords })}
        />
      ) : (
        <>
          <div className="g-2">
            <Choice
              label="The business is in"
              value={t.home.country}
              options={[['', 'Choose…'], ...countries]}
              onChange={(country) => put({ home: { country, state: '' } })}
            />
            {(view.states[t.home.country] ?? []).length > 0 && (
              <Choice
                label="In the state of"
                value={t.home.state}
                options={[
                  ['', 'any'],
                  ...(view.states[t.home.country] ?? []).map((x) => [x.code, x.name] as const),
                ]}
                onChange={(state) => put({ home: { ...t.home, state } })}
              />
            )}
            <Choice
              label="Goods have the rate of"
              value={t.goodsBy}
              options={[
                ['seller', 'where you are'],
                ['buyer', 'where they go'],
              ]}
              onChange={(goodsBy) => put({ goodsBy })}
            />
            <Choice
              label="Downloads have the rate of"
              value={t.digitalBy}
              options={[
                ['buyer', 'where the buyer is'],
                ['seller', 'where you are'],
              ]}
              onChange={(digitalBy) => put({ digitalBy })}
            />
            <Choice
              label="Shipping is taxed"
              value={t.shipping}
              options={[
                ['proportion', 'like the goods in it'],
                ['none', 'not at all'],
                ...taxClasses.map((c) => [c, `at the rate: ${classNames[c].toLowerCase()}`] as const),
              ]}
              onChange={(shipping) => put({ shipping })}
            />
            <Choice
              label="Rounded"
              value={t.roundAt}
              options={[
                ['rate', 'once for each rate'],
                ['line', 'for each line'],
              ]}
              onChange={(roundAt) => put({ roundAt })}
            />
            <Choice
              label="Parts of the smallest coin"
              value={t.rounding}
              options={[
                ['half-up', 'half goes up'],
                ['half-even', 'half goes to even'],
                ['down', 'are left out'],
              ]}
              onChange={(rounding) => put({ rounding })}
            />
          </div>
          {t.included && (
            <Choice
              label="Where no tax is due"
              value={t.abroad}
              options={[
                ['same', 'prices stay as they are'],
                ['net', 'the tax at home is taken off'],
              ]}
              onChange={(abroad) => put({ abroad })}
            />
          )}
          <div className="rh">
            <h2>Rates</h2>
            <span className="note">
              {t.rates.length === 1 ? '1' : t.rates.length} in{' '}
              {new Set(t.rates.map((r) => r.country)).size === 1
                ? '1 country'
                : `${new Set(t.rates.map((r) => r.country)).size} countries`}
              ; a class without one has the standard rate
            </span>
          </div>
          {!home && t.home.country && missing(true).length === 0 && (
            <p className="note">No rates of {nameOf(t.home.country)} are known here: add yours below.</p>
          )}
          {!home && t.home.country && missing(true).length > 0 && (
            <p>
              <button type="button" className="btn" onClick={() => begin(true)}>
                <Plus size={13} aria-hidden />
                Begin with the rates of {nameOf(t.home.country)}
              </button>{' '}
              <button type="button" className="btn quiet" onClick={() => begin(false)}>
                and of all of Europe
              </button>
            </p>
          )}
          <div className="trates">
            {t.rates.map((r, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a rate has no identity but its place while it is written
              <div key={n} className="trate">
                <select
                  className="in"
                  aria-label={`Country of rate ${n + 1}`}
                  value={r.country}
                  onChange={(e) =>
                    put({
                      rates: t.rates.map((x, i) =>
                        i === n ? { ...x, country: e.target.value, state: '' } : x,
                      ),
                    })
                  }
                >
                  {countries.map(([code, name]) => (
                    <option key={code} value={code}>
                      {name}
                    </option>
                  ))}
                </select>
                <StateOf
                  states={view.states[r.country] ?? []}
                  label={`State of rate ${n + 1}`}
                  value={r.state}
                  onChange={(state) => put({ rates: t.rates.map((x, i) => (i === n ? { ...x, state } : x)) })}
                />
                <select
                  className="in"
                  aria-label={`Class of rate ${n + 1}`}
                  value={r.class}
                  onChange={(e) =>
                    put({
                      rates: t.rates.map((x, i) =>
                        i === n ? { ...x, class: e.target.value as TaxClass } : x,
                      ),
                    })
                  }
                >
                  {taxClasses.map((c) => (
                    <option key={c} value={c}>
                      {classNames[c]}
                    </option>
                  ))}
                </select>
                <Count
                  label={`Per cent of rate ${n + 1}`}
                  hidden
                  value={r.percent}
                  most={100}
                  after="%"
                  onChange={(percent) =>
                    put({ rates: t.rates.map((x, i) => (i === n ? { ...x, percent } : x)), confirmed: null })
                  }
                />
                <button
                  type="button"
                  className="btn sm quiet beet"
                  aria-label={`Take rate ${n + 1} out`}
                  onClick={() => put({ rates: t.rates.filter((_, i) => i !== n) })}
                >
                  <X size={12} aria-hidden />
                </button>
              </div>
            ))}
          </div>
          <p>
            <button
              type="button"
              className="btn sm"
              onClick={() =>
                put({
                  rates: [
                    ...t.rates,
                    { country: t.home.country || 'GB', state: '', class: 'standard', percent: 20 },
                  ],
                })
              }
            >
              <Plus size={12} aria-hidden />
              Add a rate
            </button>
          </p>
          {t.rates.length > 0 && (
            <div className={t.confirmed ? 'note' : 'gmend'}>
              {t.confirmed ? (
                `You looked these rates over on ${t.confirmed}.`
              ) : (
                <p>
                  The rates that were put in here are from memory, not from a table of your tax office. Look
                  them over before you sell.
                </p>
              )}
              <button
                type="button"
                className="btn sm"
                onClick={() => put({ confirmed: t.confirmed ? null : new Date().toISOString().slice(0, 10) })}
              >
                {t.confirmed ? 'Look them over again' : 'I have looked them over'}
              </button>
            </div>
          )}
        </>
      )}
      <Foot part={part} />
    </section>
  );
}

/** A state of a country, from its list: what is sent by the checkout is what stands here. Empty is the whole country. */
function StateOf({
  states,
  label,
  value,
  onChange,
}: {
  states: readonly { readonly code: string; readonly name: string }[];
  label: string;
  value: string;
  onChange: (state: string) => void;
}) {
  return (
    <select
      className="in"
      aria-label={label}
      value={value}
      disabled={states.length === 0}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">all of it</option>
      {states.map((s) => (
        <option key={s.code} value={s.code}>
          {s.name}
        </option>
      ))}
      {value && !states.some((s) => s.code === value) && <option value={value}>{value}</option>}
    </select>
  );
}
