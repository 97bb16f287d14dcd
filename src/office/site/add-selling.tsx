import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useCallback, useState } from 'react';
import { toast } from 'sonner';
import { countryList, type OptionalPage, optionalPages, type SetUp, sells } from '../../core/site/set-up';
import type { SellingGuess } from '../../services/sites/add-selling';
import { call, refresh } from '../api';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { type MenuFit, MenuFrame } from './menu-frame';
import { addSelling as say } from '../words/site';

const sellWords = {
  ships: say.thingsThatShip,
  downloads: say.downloads,
  events: say.placesAtAnEvent,
  services: say.services,
} as const;
const moneyWords = {
  card: say.byCard,
  wallet: say.byWallet,
  transfer: say.byBankTransfer,
  delivery: say.onDelivery,
  'in-person': say.whenItIsCollected,
} as const;
const pageWords: Readonly<Record<string, string>> = {
  shop: say.allYourGoodsWithEachProduct,
  cart: say.whatAShopperHasChosen,
  checkout: say.whereItGoesAndHowIt,
  thanks: say.afterPaying,
  failed: say.aSecondTryWhenAPayment,
  lookup: say.forBuyersWithoutAnAccount,
  account: say.pastOrdersByALetterWith,
};

/** The short set-up, with what was read from the site as its answers, and what the one press will do. */
export function AddSelling({ onDone }: { onDone: () => void }) {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: ['selling'],
    queryFn: () => call(site.slug, 'GET selling'),
    staleTime: 0,
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.readingWhatTheSiteSaysOf}</p>;
  return <SetUpForm guess={data} onDone={onDone} />;
}

function SetUpForm({ guess, onDone }: { guess: SellingGuess; onDone: () => void }) {
  const { site } = useBoot();
  const [answers, setAnswers] = useState<SetUp>(guess.setUp);
  const set = (part: Partial<SetUp>) => setAnswers((a) => ({ ...a, ...part }));
  const [name, setName] = useState<string>(say.shop);
  const [pages, setPages] = useState<readonly OptionalPage[]>(optionalPages);
  // The currency follows the country until somebody has chosen one.
  const [chose, setChose] = useState(guess.setUp.currency !== guess.guess.currency);
  const goTo = (country: string) => {
    const known = guess.ratesOf.includes(country);
    const currency = countryList.find((c) => c.code === country)?.currency;
    set({ country, taxed: known, ...(!chose && currency && { currency }) });
  };
  const known = guess.ratesOf.includes(answers.country);
  const names = new Intl.DisplayNames(['en'], { type: 'region' });
  const money = new Intl.DisplayNames(['en'], { type: 'currency' });
  const add = useMutation({
    mutationFn: () =>
      call(site.slug, 'POST selling', {
        body: {
          setUp: answers,
          shop: { name, pages },
        },
      }),
    onSuccess: ({ cannot }) => {
      refresh('overview', 'slip', 'bench', 'menu', 'coverage', 'selling');
      toast.success(say.sellingIsAddedAllOfIt);
      for (const c of cannot) toast.warning(c, { duration: 15_000 });
      onDone();
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  const countries = countryList
    .map((c) => [c.code, names.of(c.code) ?? c.code] as const)
    .sort((a, b) => a[1].localeCompare(b[1]));
  const currencies = [...new Set([answers.currency, ...countryList.map((c) => c.currency)])].sort();
  return (
    <form className="adding" onSubmit={submit}>
      <section>
        <h1>{say.addSelling}</h1>
        <p className="lead">{say.shortAnswersMostOfThemRead}</p>
        <div className="two">
          <div>
            <label className="lab" htmlFor="as-country">
              {say.whereTheBusinessIs}
            </label>
            <select
              id="as-country"
              className="in"
              value={answers.country}
              onChange={(e) => goTo(e.target.value)}
            >
              {countries.map(([c, called]) => (
                <option key={c} value={c}>
                  {called}
                </option>
              ))}
            </select>
            <p className="note mt-1">{say.because(guess.guess.why)}</p>
          </div>
          <div>
            <label className="lab" htmlFor="as-currency">
              {say.pricesAreIn}
            </label>
            <select
              id="as-currency"
              className="in"
              value={answers.currency}
              onChange={(e) => {
                setChose(true);
                set({ currency: e.target.value });
              }}
            >
              {currencies.map((c) => (
                <option key={c} value={c}>
                  {c}, {money.of(c)}
                </option>
              ))}
            </select>
          </div>
        </div>
        <Ticks
          legend={say.whatYouSell}
          all={sells}
          words={sellWords}
          chosen={answers.sells}
          onChange={(v) => set({ sells: v })}
        />
        {guess.tillIsSet ? (
          <p className="note">
            {say.howYouArePaidTaxAnd} <a href={`${hrefOf(site.slug, 'till')}?pay`}>{say.till}</a>
            {say.alreadyAndStayAsTheyAre}
          </p>
        ) : (
          <>
            <Ticks
              legend={say.howYouArePaid}
              all={guess.takes}
              words={moneyWords}
              chosen={answers.takesMoney}
              onChange={(v) => set({ takesMoney: v })}
            />
            {answers.takesMoney.includes('transfer') && (
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
            )}
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
                  onChoose={(v) =>
                    set({ taxed: v !== 'none', ...(v !== 'none' && { taxIncluded: v === 'in' }) })
                  }
                />
                <p className="note mt-1">{taxWords(answers, known, names.of(answers.country) ?? '')}</p>
              </div>
              <Seg
                legend={say.weightsAreIn}
                value={answers.units}
                options={[
                  ['metric', say.kilograms],
                  ['imperial', say.pounds],
                ]}
                onChoose={(v) => set({ units: v as SetUp['units'] })}
              />
            </div>
          </>
        )}
        {guess.tries && <HowItFits address={guess.tries} label={guess.inMenu ? name || say.shop : null} />}
      </section>
      <aside>
        <h2>{say.whatOnePressDoes}</h2>
        <div className="mt-3">
          <label className="lab" htmlFor="as-name">
            {say.theShopIsCalled}
          </label>
          <input
            id="as-name"
            className="in"
            maxLength={40}
            required
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </div>
        <fieldset className="pages">
          <legend className="lab">{say.pagesItBuildsInYourOwn}</legend>
          {guess.pages.map((p) => (
            <label key={p.part}>
              <input
                type="checkbox"
                checked={!p.optional || pages.includes(p.optional)}
                disabled={!p.optional}
                onChange={(e) =>
                  setPages(
                    optionalPages.filter((o) => (o === p.optional ? e.target.checked : pages.includes(o))),
                  )
                }
              />
              <span>
                <b>{p.part === 'shop' ? name || p.name : p.name}</b> <span className="mono">{p.address}</span>
                <span className="note">{pageWords[p.part]}</span>
              </span>
            </label>
          ))}
        </fieldset>
        <ul>
          {guess.will.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
        {guess.cannot.map((c) => (
          <p key={c} className="warn">
            {c}
          </p>
        ))}
        <p className="note">{say.itWaitsOnTheSlipIs}</p>
        <div className="flex gap-2 mt-3">
          <button
            type="submit"
            className="btn leaf"
            disabled={
              add.isPending || answers.sells.length === 0 || answers.takesMoney.length === 0 || !name.trim()
            }
          >
            {add.isPending ? say.adding : say.addSelling}
          </button>
          <button type="button" className="btn quiet" onClick={onDone}>
            {say.notNow}
          </button>
        </div>
      </aside>
    </form>
  );
}

const screens = [
  { px: 1280, name: 'desktop' },
  { px: 390, name: 'phone' },
] as const;

/** The head of the front page at two widths, measured as it stands, with what selling would put into it. */
function HowItFits({ address, label }: { address: string; label: string | null }) {
  const { site } = useBoot();
  const [fits, setFits] = useState<Readonly<Record<number, MenuFit>>>({});
  const onFit = useCallback((fit: MenuFit) => setFits((f) => ({ ...f, [fit.width]: fit })), []);
  const full = screens.filter((s) => fits[s.px]?.cartFits === false);
  return (
    <section className="how-fits" aria-label={say.howItFits}>
      <h3 className="lab">{say.howItFits}</h3>
      {screens.map((s) => (
        <MenuFrame
          key={s.px}
          src={`${site.draftUrl}${address}?stall=menu`}
          width={s.px}
          name={s.name}
          onFit={onFit}
          fit={fits[s.px]}
          trying={label}
        />
      ))}
      {full.map((s) => (
        <p key={s.px} className="warn">
          {say.atPxTheHeaderHasNo(s.px)}
        </p>
      ))}
    </section>
  );
}

function Ticks<T extends string>({
  legend,
  all,
  words,
  chosen,
  onChange,
}: {
  legend: string;
  all: readonly T[];
  words: Readonly<Record<T, string>>;
  chosen: readonly T[];
  onChange: (v: T[]) => void;
}) {
  return (
    <fieldset>
      <legend className="lab">{legend}</legend>
      <div className="ticks">
        {all.map((v) => (
          <label key={v}>
            <input
              type="checkbox"
              checked={chosen.includes(v)}
              onChange={(e) => onChange(all.filter((x) => (x === v ? e.target.checked : chosen.includes(x))))}
            />
            {words[v]}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function Seg({
  legend,
  value,
  options,
  onChoose,
}: {
  legend: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChoose: (v: string) => void;
}) {
  return (
    <div>
      <span className="lab">{legend}</span>
      <fieldset className="seg full" aria-label={legend}>
        {options.map(([v, words]) => (
          <button key={v} type="button" aria-pressed={v === value} onClick={() => onChoose(v)}>
            {words}
          </button>
        ))}
      </fieldset>
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
