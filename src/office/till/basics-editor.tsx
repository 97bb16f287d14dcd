import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { countryList, sells } from '../../core/site/set-up';
import type { Basics } from '../../services/till/basics';
import { call } from '../api';
import { Tick } from '../goods/fields';
import { useBoot } from '../shop-context';
import { Foot } from './fields';

const sellWords = {
  ships: 'Things that ship',
  downloads: 'Downloads',
  events: 'Places at an event',
  services: 'Services',
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
    mutationFn: () => call<Basics>(`/api/${site.slug}/till`, 'PATCH', draft),
    onSuccess: () => {
      toast.success('Saved, and live.');
      // Every amount on the screen is in the currency that the page was opened with.
      location.reload();
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const reset = () => setDraft({ name: basics.name, currency: basics.currency, sells: basics.sells });
  return (
    <section className="tedit" aria-label="Basics">
      <header>
        <h1>Basics</h1>
      </header>
      <div>
        <label className="lab" htmlFor="b-name">
          Shoppers read the name
        </label>
        <input
          id="b-name"
          className="in"
          maxLength={120}
          value={draft.name}
          onChange={(e) => setDraft((d) => ({ ...d, name: e.target.value }))}
        />
        <p className="note mt-1">
          In the titles of shop pages, on the checkout, in letters. Pages that are live take it with the next
          publishing.
        </p>
      </div>
      <div>
        <label className="lab" htmlFor="b-currency">
          Prices are in
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
          <legend className="lab">What you sell</legend>
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
          <p className="note">A new product begins as the first of these; each can be any kind.</p>
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
    return `${orders === 1 ? 'An order was' : `${orders} orders were`} made in ${currency}, so it stays. Other currencies can be shown beside it.`;
  if (to === currency) return 'It can be changed as long as there are no orders.';
  return priced === 0
    ? 'Nothing is priced yet.'
    : `${priced === 1 ? 'One product keeps its figure' : `${priced} products keep their figures`}: what costs 12.50 ${currency} now will cost 12.50 ${to}. Amounts of shipping, discounts and ways to pay likewise. Look them over.`;
}
