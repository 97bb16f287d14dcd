import { countryList, type SetUp, sells } from '../../core/site/set-up';
import { payKindOf } from '../../core/till/pay-kinds';
import type { SellingGuess } from '../../services/sites/add-selling';
import { Choice } from '../goods/fields';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { addSelling as say } from '../words/site';
import { Seg, Ticks } from './set-up-fields';

const sellWords = {
  ships: say.thingsThatShip,
  downloads: say.downloads,
  events: say.placesAtAnEvent,
  services: say.services,
} as const;

const regionNames = new Intl.DisplayNames(['en'], { type: 'region' });
const currencyNames = new Intl.DisplayNames(['en'], { type: 'currency' });
const nameOf = (country: string): string => regionNames.of(country) ?? country;

interface Props {
  readonly guess: SellingGuess;
  readonly answers: SetUp;
  readonly set: (part: Partial<SetUp>) => void;
}

/** Country and currency; the currency follows the country until somebody has chosen one. */
export function PlaceAndCurrency({
  guess,
  answers,
  onCountry,
  onCurrency,
}: Pick<Props, 'guess' | 'answers'> & {
  onCountry: (country: string) => void;
  onCurrency: (currency: string) => void;
}) {
  const countries = countryList
    .map((c) => [c.code, nameOf(c.code)] as const)
    .sort((a, b) => a[1].localeCompare(b[1]));
  const currencies = [...new Set([answers.currency, ...countryList.map((c) => c.currency)])].sort();
  return (
    <div className="two">
      <div>
        <Choice
          label={say.whereTheBusinessIs}
          value={answers.country}
          options={countries}
          onChange={onCountry}
        />
        <p className="note mt-1">{say.because(guess.guess.why)}</p>
      </div>
      <Choice
        label={say.pricesAreIn}
        value={answers.currency}
        options={currencies.map((c) => [c, `${c}, ${currencyNames.of(c) ?? c}`] as const)}
        onChange={onCurrency}
      />
    </div>
  );
}

export const WhatIsSold = ({ answers, set }: Pick<Props, 'answers' | 'set'>) => (
  <Ticks
    legend={say.whatYouSell}
    all={sells}
    words={(kind) => sellWords[kind]}
    chosen={answers.sells}
    onChange={(v) => set({ sells: v })}
  />
);

/** What the till begins with; where it is set already it says so, and leads there. */
export function TillAnswers({ guess, answers, set }: Props) {
  const { site } = useBoot();
  if (guess.tillIsSet)
    return (
      <p className="note">
        {say.howYouArePaidTaxAnd} <a href={`${hrefOf(site.slug, 'till')}?pay`}>{say.till}</a>
        {say.alreadyAndStayAsTheyAre}
      </p>
    );
  return (
    <>
      <Ticks
        legend={say.howYouArePaid}
        all={guess.takes}
        words={(kind) => payKindOf(kind).owner.atSetUp}
        chosen={answers.takesMoney}
        onChange={(v) => set({ takesMoney: v })}
      />
      {answers.takesMoney.some((k) => payKindOf(k).account) && <Account answers={answers} set={set} />}
      <div className="two">
        <div>
          <Seg
            legend={say.taxOnPrices}
            value={taxOf(answers)}
            options={[
              ['in', say.included],
              ['out', say.added],
              ['none', say.noTax],
            ]}
            onChoose={(v) => set({ taxed: v !== 'none', ...(v !== 'none' && { taxIncluded: v === 'in' }) })}
          />
          <p className="note mt-1">
            {taxWords(answers, guess.ratesOf.includes(answers.country), nameOf(answers.country))}
          </p>
        </div>
        <Seg
          legend={say.weightsAreIn}
          value={answers.units}
          options={[
            ['metric', say.kilograms],
            ['imperial', say.pounds],
          ]}
          onChoose={(units) => set({ units })}
        />
      </div>
    </>
  );
}

function Account({ answers, set }: Pick<Props, 'answers' | 'set'>) {
  return (
    <div>
      <label className="lab" htmlFor="as-account">
        {say.accountThatTransfersGoTo}
      </label>
      <input
        id="as-account"
        className="in"
        maxLength={120}
        placeholder={say.anIbanOrAsYourBank}
        value={answers.account}
        onChange={(e) => set({ account: e.target.value })}
      />
      <p className="note mt-1">{say.buyersAreToldItWithTheir}</p>
    </div>
  );
}

const taxOf = ({ taxed, taxIncluded }: SetUp): 'none' | 'in' | 'out' => {
  if (!taxed) return 'none';
  return taxIncluded ? 'in' : 'out';
};

/** @param known whether the rates of the country are at hand. */
function taxWords({ taxed }: SetUp, known: boolean, country: string): string {
  if (!taxed) return say.forABusinessBelowTheThreshold;
  return known ? say.ratesForAreFilledInFrom(country) : say.noRatesForAreKnownHere(country);
}
