import { Plus, X } from 'lucide-react';
import { convert } from '../../core/money/exchange';
import { minor } from '../../core/money/minor';
import { TextField } from '../goods/fields';
import { useBoot, useMoney } from '../shop-context';
import { Foot } from './fields';
import type { Part } from './use-till';
import { exchangeEditor as say } from '../words/till';

/** Other currencies that prices are told in, by a table with a date. What is charged stays the shop's own. */
export function ExchangeEditor({ part }: { part: Part<'exchange'> }) {
  const { site } = useBoot();
  const money = useMoney();
  const { draft: x, set } = part;
  const put = (n: number, change: Partial<(typeof x.rates)[number]>) =>
    set({ ...x, rates: x.rates.map((r, i) => (i === n ? { ...r, ...change } : r)) });
  const known = Intl.supportedValuesOf('currency').filter((c) => c !== site.currency);
  const name = new Intl.DisplayNames('en', { type: 'currency' });
  const right = (rate: string) => /^\d{1,9}(\.\d{1,9})?$/.test(rate) && Number(rate) > 0;
  return (
    <section className="tedit" aria-label={say.otherCurrencies}>
      <header>
        <h1>{say.otherCurrencies}</h1>
      </header>
      <p className="note">{say.shoppersMaySeeTheTotalIn(site.currency)}</p>
      <div className="g-3">
        <TextField
          label={say.ratesOf}
          type="date"
          value={x.date ?? ''}
          onChange={(date) => set({ ...x, date: date || null })}
        />
      </div>
      <div className="trates">
        {x.rates.map((r, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a rate has no identity but its place while it is written
          <div key={n} className="trate xrate">
            <select
              className="in"
              aria-label={say.currency(n + 1)}
              value={r.currency}
              onChange={(e) => put(n, { currency: e.target.value })}
            >
              {known.map((c) => (
                <option key={c} value={c}>
                  {c}, {name.of(c)}
                </option>
              ))}
            </select>
            <div className="in mono">
              <u>1 {site.currency} =</u>
              <input
                aria-label={say.rateOf(r.currency)}
                inputMode="decimal"
                value={r.rate}
                aria-invalid={!right(r.rate)}
                onChange={(e) => put(n, { rate: e.target.value.replace(',', '.') })}
              />
              <u>{r.currency}</u>
            </div>
            <span className="note">
              {right(r.rate)
                ? say.isAbout(
                    money(10_000),
                    money(convert(minor(10_000), site.currency, r.currency, r.rate), r.currency),
                  )
                : ''}
            </span>
            <button
              type="button"
              className="btn sm quiet beet"
              aria-label={say.takeOut(r.currency)}
              onClick={() => set({ ...x, rates: x.rates.filter((_, i) => i !== n) })}
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
            set({
              date: x.date ?? new Date().toISOString().slice(0, 10),
              rates: [
                ...x.rates,
                {
                  currency:
                    known.find(
                      (c) =>
                        !x.rates.some((r) => r.currency === c) && ['EUR', 'USD', 'CHF', 'GBP'].includes(c),
                    ) ??
                    known[0] ??
                    'EUR',
                  rate: '',
                },
              ],
            })
          }
        >
          <Plus size={12} aria-hidden />
          {say.aCurrency}
        </button>
      </p>
      <Foot part={part} beside={false} />
    </section>
  );
}
