import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { countryList, type SetUp, sells, takesMoney } from '../../core/site/set-up';
import type { SellingGuess } from '../../services/sites/add-selling';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';

const sellWords = {
  ships: 'Things that ship',
  downloads: 'Downloads',
  events: 'Places at an event',
  services: 'Services',
} as const;
const moneyWords = { card: 'By card', transfer: 'By bank transfer', 'in-person': 'In person' } as const;

/** The short set-up, with what was read from the site as its answers, and what the one press will do. */
export function AddSelling({ onDone }: { onDone: () => void }) {
  const { site } = useBoot();
  const { data, error } = useQuery({
    queryKey: ['selling'],
    queryFn: () => call<SellingGuess>(`/api/${site.slug}/selling`),
    staleTime: 0,
  });
  if (error) return <p className="empty bad">{error.message}</p>;
  if (!data) return <p className="empty note">Reading what the site says of itself…</p>;
  return <SetUpForm guess={data} onDone={onDone} />;
}

function SetUpForm({ guess, onDone }: { guess: SellingGuess; onDone: () => void }) {
  const { site } = useBoot();
  const [answers, setAnswers] = useState<SetUp>(guess.setUp);
  const set = (part: Partial<SetUp>) => setAnswers((a) => ({ ...a, ...part }));
  const names = new Intl.DisplayNames(['en'], { type: 'region' });
  const money = new Intl.DisplayNames(['en'], { type: 'currency' });
  const add = useMutation({
    mutationFn: () => call<{ cannot: string[] }>(`/api/${site.slug}/selling`, 'POST', { setUp: answers }),
    onSuccess: ({ cannot }) => {
      refresh('overview', 'slip', 'bench', 'menu', 'coverage', 'selling');
      toast.success('Selling is added. All of it waits on the slip; nothing is live yet.');
      for (const c of cannot) toast.warning(c, { duration: 15_000 });
      onDone();
    },
    onError: (e) => toast.error(e.message, { duration: 12_000 }),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  const currencies = [...new Set([answers.currency, ...countryList.map((c) => c.currency)])].sort();
  return (
    <form className="adding" onSubmit={submit}>
      <section>
        <h1>Add selling</h1>
        <p className="lead">
          Six short answers. Most were read from your pages; change what is wrong. All of them can be changed
          later.
        </p>
        <div className="two">
          <div>
            <label className="lab" htmlFor="as-country">
              Where the business is
            </label>
            <select
              id="as-country"
              className="in"
              value={answers.country}
              onChange={(e) => set({ country: e.target.value })}
            >
              {[...new Set([answers.country, ...countryList.map((c) => c.code)])].map((c) => (
                <option key={c} value={c}>
                  {names.of(c)}
                </option>
              ))}
            </select>
            <p className="note mt-1">Because {guess.guess.why}.</p>
          </div>
          <div>
            <label className="lab" htmlFor="as-currency">
              Prices are in
            </label>
            <select
              id="as-currency"
              className="in"
              value={answers.currency}
              onChange={(e) => set({ currency: e.target.value })}
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
          legend="What you sell"
          all={sells}
          words={sellWords}
          chosen={answers.sells}
          onChange={(v) => set({ sells: v })}
        />
        <Ticks
          legend="How you are paid"
          all={takesMoney}
          words={moneyWords}
          chosen={answers.takesMoney}
          onChange={(v) => set({ takesMoney: v })}
        />
        <div className="two">
          <Seg
            legend="Prices"
            value={answers.taxIncluded ? 'in' : 'out'}
            options={[
              ['in', 'with tax in them'],
              ['out', 'tax added'],
            ]}
            onChoose={(v) => set({ taxIncluded: v === 'in' })}
          />
          <Seg
            legend="Weights and lengths"
            value={answers.units}
            options={[
              ['metric', 'kg and cm'],
              ['imperial', 'lb and in'],
            ]}
            onChoose={(v) => set({ units: v as SetUp['units'] })}
          />
        </div>
      </section>
      <aside>
        <h2>What one press does</h2>
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
        <p className="note">
          It waits on the slip, is seen in your own pages first, and is taken back with one press.
        </p>
        <div className="flex gap-2 mt-3">
          <button
            type="submit"
            className="btn leaf"
            disabled={add.isPending || answers.sells.length === 0 || answers.takesMoney.length === 0}
          >
            {add.isPending ? 'Adding' : 'Add selling'}
          </button>
          <button type="button" className="btn quiet" onClick={onDone}>
            Not now
          </button>
        </div>
      </aside>
    </form>
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
