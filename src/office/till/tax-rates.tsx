import { chosenOf } from '../goods/fields';
import { Plus, X } from 'lucide-react';
import { toast } from 'sonner';
import { type TaxClass, taxClasses } from '../../core/goods/choices';
import { RATES_AS_OF } from '../../core/till/rates';
import type { TaxRules } from '../../core/till/rules';
import type { TillView } from '../../services/till/try-cart';
import { taxEditor as say } from '../words/till';
import { Count } from './fields';

type Rate = TaxRules['rates'][number];

export const classNames: Readonly<Record<TaxClass, string>> = {
  standard: say.standard,
  reduced: say.reduced,
  zero: say.zero,
  books: say.books,
  digital: say.digital,
};

interface Props {
  readonly tax: TaxRules;
  readonly view: TillView;
  readonly put: (change: Partial<TaxRules>) => void;
}

/** How much is charged where, rate by rate, and whether the owner has looked them over. */
export function TaxRates({ tax, view, put }: Props) {
  const change = (n: number, to: Partial<Rate>) =>
    put({ rates: tax.rates.map((x, i) => (i === n ? { ...x, ...to } : x)) });
  const usual: Rate = { country: tax.home.country || 'GB', state: '', class: 'standard', percent: 20 };
  return (
    <>
      <div className="rh">
        <h2>{say.rates}</h2>
        <span className="note">
          {say.inAClassWithoutOneHas(tax.rates.length, placesOf(tax.rates.map((r) => r.country)))}
        </span>
      </div>
      <Beginning tax={tax} view={view} put={put} />
      <div className="trates">
        {tax.rates.map((rate, n) => (
          <RateRow
            // biome-ignore lint/suspicious/noArrayIndexKey: a rate has no identity but its place while it is written
            key={n}
            rate={rate}
            place={n + 1}
            view={view}
            onChange={(to) => change(n, to)}
            onPercent={(percent) => {
              put({
                rates: tax.rates.map((x, i) => (i === n ? { ...x, percent } : x)),
                confirmed: null,
              });
            }}
            onRemove={() => put({ rates: tax.rates.filter((_, i) => i !== n) })}
          />
        ))}
      </div>
      <p>
        <button type="button" className="btn sm" onClick={() => put({ rates: [...tax.rates, usual] })}>
          <Plus size={12} aria-hidden />
          {say.addARate}
        </button>
      </p>
      {tax.rates.length > 0 && <Confirmed tax={tax} put={put} />}
    </>
  );
}

/** Where rates are for: "2 countries and the rest of the world". */
function placesOf(countries: readonly string[]): string {
  const named = new Set(countries.filter((c) => c !== '*')).size;
  const text = named === 1 ? say.n1Country : say.countries(named);
  if (!countries.includes('*')) return text;
  return named === 0 ? say.theRest : say.andTheRest(text);
}

/** Rates that are known of a country and not in the table yet: offered while the business's own has none. */
function Beginning({ tax, view, put }: Props) {
  const { country } = tax.home;
  const nameOf = (code: string) => view.countries.find((c) => c.code === code)?.name ?? code;
  if (!country || tax.rates.some((r) => r.country === country)) return null;
  const all = view.start.filter((s) => !isThere(tax.rates, s));
  const own = all.filter((s) => s.country === country);
  const begin = (added: readonly Rate[], where: string) => {
    put({ rates: [...tax.rates, ...added], charged: true, confirmed: null });
    const number = added.length === 1 ? say.oneRate : say.severalRates(added.length);
    toast.success(say.ofAddedAsOfLookThem(number, where, RATES_AS_OF));
  };
  if (own.length === 0) return <p className="note">{say.noRatesOfAreKnownHere(nameOf(country))}</p>;
  return (
    <p>
      <button type="button" className="btn" onClick={() => begin(own, nameOf(country))}>
        <Plus size={13} aria-hidden />
        {say.beginWithTheRatesOf(nameOf(country))}
      </button>{' '}
      <button type="button" className="btn quiet" onClick={() => begin(all, say.europe)}>
        {say.andOfAllOfEurope}
      </button>
    </p>
  );
}

const isThere = (rates: readonly Rate[], s: Rate): boolean =>
  rates.some((r) => r.country === s.country && r.class === s.class && r.state === '');

function RateRow({
  rate,
  place,
  view,
  onChange,
  onPercent,
  onRemove,
}: {
  rate: Rate;
  place: number;
  view: TillView;
  onChange: (to: Partial<Rate>) => void;
  onPercent: (percent: number) => void;
  onRemove: () => void;
}) {
  const states = view.states[rate.country] ?? [];
  const hasStates = rate.state !== '' || states.length > 0;
  return (
    <div className={hasStates ? 'trate states' : 'trate'}>
      <select
        className="in"
        aria-label={say.countryOfRate(place)}
        value={rate.country}
        onChange={(e) => onChange({ country: e.target.value, state: '' })}
      >
        {view.countries.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
        <option value="*">{say.restOfTheWorld}</option>
      </select>
      {hasStates && (
        <StateOf
          states={states}
          label={say.stateOfRate(place)}
          value={rate.state}
          onChange={(state) => onChange({ state })}
        />
      )}
      <select
        className="in"
        aria-label={say.classOfRate(place)}
        value={rate.class}
        onChange={(e) => onChange({ class: chosenOf(taxClasses, e.target.value) ?? rate.class })}
      >
        {taxClasses.map((c) => (
          <option key={c} value={c}>
            {classNames[c]}
          </option>
        ))}
      </select>
      <Count
        label={say.perCentOfRate(place)}
        hidden
        value={rate.percent}
        most={100}
        after="%"
        onChange={onPercent}
      />
      <button
        type="button"
        className="btn sm quiet beet"
        aria-label={say.takeRateOut(place)}
        onClick={onRemove}
      >
        <X size={12} aria-hidden />
      </button>
    </div>
  );
}

function Confirmed({ tax, put }: Pick<Props, 'tax' | 'put'>) {
  const { confirmed } = tax;
  return (
    <div className={confirmed ? 'note' : 'gmend'}>
      {confirmed ? say.youLookedTheseRatesOverOn(confirmed) : <p>{say.theRatesThatWerePutIn}</p>}
      <button
        type="button"
        className="btn sm"
        onClick={() => put({ confirmed: confirmed ? null : new Date().toISOString().slice(0, 10) })}
      >
        {confirmed ? say.lookThemOverAgain : say.iHaveLookedThemOver}
      </button>
    </div>
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
