import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { countryList, sells } from '../../core/site/set-up';
import type { Basics } from '../../services/till/basics';
import { call } from '../api';
import { Tick } from '../goods/fields';
import { useBoot } from '../shop-context';
import { Foot } from './fields';
import { basicsEditor as say } from '../words/till';

const sellWords = {
  ships: say.thingsThatShip,
  downloads: say.downloads,
  events: say.placesAtAnEvent,
  services: say.services,
} as const;
const currencyName = new Intl.DisplayNames(['en'], { type: 'currency' });
const currencies = [...new Set(countryList.map((c) => c.currency))].sort();

/** What was asked when selling was added: the currency, and what is sold. */
export function BasicsEditor({ basics }: { basics: Basics }) {
  const { site } = useBoot();
  const [draft, setDraft] = useState({ name: basics.name, currency: basics.currency, sells: basics.sells });
  const changed =
    draft.name !== basics.name ||
    draft.currency !== basics.currency ||
    draft.sells?.join() !== basics.sells?.join();
  const save = useMutation({
    mutationFn: () => call(site.slug, 'PATCH till', { body: draft }),
    onSuccess: () => {
      toast.success(say.savedAndLive);
      // Every amount on the screen is in the currency that the page was opened with.
      location.reload();
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const reset = () => setDraft({ name: basics.name, currency: basics.currency, sells: basics.sells });
  return (
    <section className="tedit" aria-label={say.basics}>
      <header>
        <h1>{say.basics}</h1>
      </header>
      <div>
        <label className="lab" htmlFor="b-name">
          {say.shoppersReadTheName}
        </label>
        <input
          id="b-name"
          className="in"
          maxLength={120}
          value={draft.name}
          onChange={(e) => setDraft((d) => ({ ...d, name: e.target.value }))}
        />
        <p className="note mt-1">{say.inTheTitlesOfShopPages}</p>
      </div>
      <div>
        <label className="lab" htmlFor="b-currency">
          {say.pricesAreIn}
        </label>
        <select
          id="b-currency"
          className="in"
          value={draft.currency}
          disabled={basics.orders > 0}
          onChange={(e) => setDraft((d) => ({ ...d, currency: e.target.value }))}
        >
          {currencies.map((c) => (
            <option key={c} value={c}>
              {c}, {currencyName.of(c)}
            </option>
          ))}
        </select>
        <p className={draft.currency === basics.currency ? 'note mt-1' : 'gmend mt-1'}>
          {currencySays(basics, draft.currency)}
        </p>
      </div>
      {draft.sells && (
        <fieldset className="grid gap-2">
          <legend className="lab">{say.whatYouSell}</legend>
          {sells.map((s) => (
            <Tick
              key={s}
              checked={draft.sells?.includes(s) ?? false}
              onChange={(on) =>
                setDraft((d) => ({ ...d, sells: sells.filter((x) => (x === s ? on : d.sells?.includes(x))) }))
              }
            >
              {sellWords[s]}
            </Tick>
          ))}
          <p className="note">{say.aNewProductBeginsAsThe}</p>
        </fieldset>
      )}
      <Foot
        part={{ changed: changed && draft.sells?.length !== 0 && draft.name.trim() !== '', save, reset }}
        beside={false}
      />
    </section>
  );
}

function currencySays({ orders, priced, currency }: Basics, to: string): string {
  if (orders > 0)
    return say.madeInSoItStaysOther(orders === 1 ? say.anOrderWas : say.ordersWere(orders), currency);
  if (to === currency) return say.itCanBeChangedAsLong;
  return priced === 0
    ? say.nothingIsPricedYet
    : say.whatCosts1250NowWill(
        priced === 1 ? say.oneProductKeepsItsFigure : say.productsKeepTheirFigures(priced),
        currency,
        to,
      );
}
