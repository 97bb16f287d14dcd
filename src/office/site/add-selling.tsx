import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { countryList, type OptionalPage, optionalPages, type SetUp } from '../../core/site/set-up';
import type { SellingGuess } from '../../services/sites/add-selling';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { addSelling as say } from '../words/site';
import { settleCart } from './settle-cart';
import { HowItFits } from './how-it-fits';
import { PlaceAndCurrency, TillAnswers, WhatIsSold } from './set-up-answers';

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
    queryKey: viewKey('selling'),
    queryFn: () => call(site.slug, 'GET selling'),
    staleTime: 0,
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">{say.readingWhatTheSiteSaysOf}</p>;
  return <SetUpForm guess={data} onDone={onDone} />;
}

function SetUpForm({ guess, onDone }: { guess: SellingGuess; onDone: () => void }) {
  const { answers, set, setCountry, setCurrency } = useAnswers(guess);
  const [name, setName] = useState(guess.shopName);
  const [pages, setPages] = useState<readonly OptionalPage[]>(optionalPages);
  const { add, isSettling } = useAddSelling(onDone);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate({ setUp: answers, shop: { name, pages: [...pages] } });
  };
  const isWhole = answers.sells.length > 0 && answers.takesMoney.length > 0 && name.trim() !== '';
  return (
    <form className="adding" onSubmit={submit}>
      <section>
        <h1>{say.addSelling}</h1>
        <p className="lead">{say.shortAnswersMostOfThemRead}</p>
        <PlaceAndCurrency guess={guess} answers={answers} onCountry={setCountry} onCurrency={setCurrency} />
        <WhatIsSold answers={answers} set={set} />
        <TillAnswers guess={guess} answers={answers} set={set} />
        {guess.tries && (
          <HowItFits address={guess.tries} label={guess.inMenu ? name || guess.shopName : null} />
        )}
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
        <PagesItBuilds guess={guess} name={name} pages={pages} onChange={setPages} />
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
          <button type="submit" className="btn leaf" disabled={add.isPending || !isWhole}>
            {add.isPending ? say.adding : say.addSelling}
          </button>
          <button type="button" className="btn quiet" disabled={add.isPending} onClick={onDone}>
            {say.notNow}
          </button>
        </div>
        <p className="note mt-2" role="status">
          {add.isPending && isSettling && say.lookingForRoom}
        </p>
      </aside>
    </form>
  );
}

/** The answers as they are being given. */
function useAnswers(guess: SellingGuess) {
  const [answers, setAnswers] = useState<SetUp>(guess.setUp);
  const set = (part: Partial<SetUp>) => setAnswers((a) => ({ ...a, ...part }));
  // The currency follows the country until somebody has chosen one.
  const [chose, setChose] = useState(guess.setUp.currency !== guess.guess.currency);
  const setCountry = (country: string) => {
    const currency = countryList.find((c) => c.code === country)?.currency;
    set({ country, taxed: guess.ratesOf.includes(country), ...(!chose && currency && { currency }) });
  };
  const setCurrency = (currency: string) => {
    setChose(true);
    set({ currency });
  };
  return { answers, set, setCountry, setCurrency };
}

function useAddSelling(onDone: () => void) {
  const { site } = useBoot();
  const [isSettling, setSettling] = useState(false);
  const add = useMutation({
    mutationFn: async (body: { setUp: SetUp; shop: { name: string; pages: OptionalPage[] } }) => {
      const added = await call(site.slug, 'POST selling', { body });
      setSettling(added.cart !== undefined);
      if (added.cart) await settleCart(site, added.cart);
      return added;
    },
    onSuccess: ({ cannot }) => {
      refresh('overview', 'slip', 'bench', 'menu', 'coverage', 'selling');
      toast.success(say.sellingIsAddedAllOfIt);
      for (const c of cannot) toast.warning(c, { duration: 15_000 });
      onDone();
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  return { add, isSettling };
}

function PagesItBuilds({
  guess,
  name,
  pages,
  onChange,
}: {
  guess: SellingGuess;
  name: string;
  pages: readonly OptionalPage[];
  onChange: (pages: readonly OptionalPage[]) => void;
}) {
  const isPasted = guess.pages.every((p) => p.address === '');
  const put = (page: OptionalPage | undefined, on: boolean) =>
    onChange(optionalPages.filter((o) => (o === page ? on : pages.includes(o))));
  return (
    <fieldset className="pages">
      <legend className="lab">{isPasted ? say.partsOfTheShop : say.pagesItBuildsInYourOwn}</legend>
      {isPasted && <p className="note">{say.theyStandInsideOnePage}</p>}
      {guess.pages.map((p) => (
        <label key={p.part}>
          <input
            type="checkbox"
            checked={!p.optional || pages.includes(p.optional)}
            disabled={!p.optional}
            onChange={(e) => put(p.optional, e.target.checked)}
          />
          <span>
            <b>{p.part === 'shop' ? name || p.name : p.name}</b> <span className="mono">{p.address}</span>
            <span className="note">{pageWords[p.part]}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
