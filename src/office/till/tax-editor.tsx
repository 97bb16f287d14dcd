import { Plus, X } from 'lucide-react';
import { type TaxClass, taxClasses } from '../../core/till/rules';
import { toast } from 'sonner';
import { RATES_AS_OF } from '../../core/till/rates';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField, Tick } from '../goods/fields';
import { Count, Foot } from './fields';
import type { Part } from './use-till';
import { taxEditor as say } from '../words/till';

const classNames: Readonly<Record<TaxClass, string>> = {
  standard: say.standard,
  reduced: say.reduced,
  zero: say.zero,
  books: say.books,
  digital: say.digital,
};

/** Whose tax, how much, and where it is rounded. */
/** Where rates are for: "2 countries and the rest of the world". */
function placesOf(countries: readonly string[]): string {
  const named = new Set(countries.filter((c) => c !== '*')).size;
  const text = named === 1 ? say.n1Country : say.countries(named);
  if (!countries.includes('*')) return text;
  return named === 0 ? say.theRest : say.andTheRest(text);
}

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
      say.ofAddedAsOfLookThem(
        added.length === 1 ? say.oneRate : `${added.length} rates`,
        only ? nameOf(t.home.country) : say.europe,
        RATES_AS_OF,
      ),
    );
  };
  const hasStates = (r: { readonly country: string; readonly state: string }) =>
    r.state !== '' || (view.states[r.country] ?? []).length > 0;
  const home = t.rates.some((r) => r.country === t.home.country);
  return (
    <section className="tedit" aria-label={say.tax}>
      <header>
        <h1>{say.tax}</h1>
      </header>
      <div className="g-row">
        <Tick checked={t.charged} onChange={(charged) => put({ charged })}>
          {say.taxIsCharged}
        </Tick>
        {t.charged && (
          <Tick checked={t.included} onChange={(included) => put({ included })}>
            {say.pricesHoldItAlready}
          </Tick>
        )}
      </div>
      {!t.charged ? (
        <TextField
          label={say.whatInvoicesSayAboutIt}
          value={t.exemptWords}
          most={200}
          placeholder={say.belowTheThresholdNoTaxIs}
          onChange={(exemptWords) => put({ exemptWords })}
        />
      ) : (
        <>
          <div className="g-2">
            <Choice
              label={say.theBusinessIsIn}
              value={t.home.country}
              options={[['', say.choose], ...countries]}
              onChange={(country) => put({ home: { country, state: '' } })}
            />
            {(view.states[t.home.country] ?? []).length > 0 && (
              <Choice
                label={say.inTheStateOf}
                value={t.home.state}
                options={[
                  ['', say.any],
                  ...(view.states[t.home.country] ?? []).map((x) => [x.code, x.name] as const),
                ]}
                onChange={(state) => put({ home: { ...t.home, state } })}
              />
            )}
            <Choice
              label={say.goodsHaveTheRateOf}
              value={t.goodsBy}
              options={[
                ['seller', say.whereYouAre],
                ['buyer', say.whereTheyGo],
              ]}
              onChange={(goodsBy) => put({ goodsBy })}
            />
            <Choice
              label={say.downloadsHaveTheRateOf}
              value={t.digitalBy}
              options={[
                ['buyer', say.whereTheBuyerIs],
                ['seller', say.whereYouAre],
              ]}
              onChange={(digitalBy) => put({ digitalBy })}
            />
            <Choice
              label={say.shippingIsTaxed}
              value={t.shipping}
              options={[
                ['proportion', say.likeTheGoodsInIt],
                ['none', say.notAtAll],
                ...taxClasses.map((c) => [c, say.atTheRate(classNames[c].toLowerCase())] as const),
              ]}
              onChange={(shipping) => put({ shipping })}
            />
            <Choice
              label={say.rounded}
              value={t.roundAt}
              options={[
                ['rate', say.onceForEachRate],
                ['line', say.forEachLine],
              ]}
              onChange={(roundAt) => put({ roundAt })}
            />
            <Choice
              label={say.partsOfTheSmallestCoin}
              value={t.rounding}
              options={[
                ['half-up', say.halfGoesUp],
                ['half-even', say.halfGoesToEven],
                ['down', say.areLeftOut],
              ]}
              onChange={(rounding) => put({ rounding })}
            />
          </div>
          {t.included && (
            <Choice
              label={say.whereNoTaxIsDue}
              value={t.abroad}
              options={[
                ['same', say.pricesStayAsTheyAre],
                ['net', say.theTaxAtHomeIsTaken],
              ]}
              onChange={(abroad) => put({ abroad })}
            />
          )}
          <div className="rh">
            <h2>{say.rates}</h2>
            <span className="note">
              {say.inAClassWithoutOneHas(t.rates.length, placesOf(t.rates.map((r) => r.country)))}
            </span>
          </div>
          {!home && t.home.country && missing(true).length === 0 && (
            <p className="note">{say.noRatesOfAreKnownHere(nameOf(t.home.country))}</p>
          )}
          {!home && t.home.country && missing(true).length > 0 && (
            <p>
              <button type="button" className="btn" onClick={() => begin(true)}>
                <Plus size={13} aria-hidden />
                {say.beginWithTheRatesOf(nameOf(t.home.country))}
              </button>{' '}
              <button type="button" className="btn quiet" onClick={() => begin(false)}>
                {say.andOfAllOfEurope}
              </button>
            </p>
          )}
          <div className="trates">
            {t.rates.map((r, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a rate has no identity but its place while it is written
              <div key={n} className={hasStates(r) ? 'trate states' : 'trate'}>
                <select
                  className="in"
                  aria-label={say.countryOfRate(n + 1)}
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
                  <option value="*">{say.restOfTheWorld}</option>
                </select>
                {hasStates(r) && (
                  <StateOf
                    states={view.states[r.country] ?? []}
                    label={say.stateOfRate(n + 1)}
                    value={r.state}
                    onChange={(state) =>
                      put({ rates: t.rates.map((x, i) => (i === n ? { ...x, state } : x)) })
                    }
                  />
                )}
                <select
                  className="in"
                  aria-label={say.classOfRate(n + 1)}
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
                  label={say.perCentOfRate(n + 1)}
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
                  aria-label={say.takeRateOut(n + 1)}
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
              {say.addARate}
            </button>
          </p>
          {t.rates.length > 0 && (
            <div className={t.confirmed ? 'note' : 'gmend'}>
              {t.confirmed ? say.youLookedTheseRatesOverOn(t.confirmed) : <p>{say.theRatesThatWerePutIn}</p>}
              <button
                type="button"
                className="btn sm"
                onClick={() => put({ confirmed: t.confirmed ? null : new Date().toISOString().slice(0, 10) })}
              >
                {t.confirmed ? say.lookThemOverAgain : say.iHaveLookedThemOver}
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
      <option value="">{say.allOfIt}</option>
      {states.map((s) => (
        <option key={s.code} value={s.code}>
          {s.name}
        </option>
      ))}
      {value && !states.some((s) => s.code === value) && <option value={value}>{value}</option>}
    </select>
  );
}
