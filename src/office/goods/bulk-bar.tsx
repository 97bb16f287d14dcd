import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { parseMoney } from '../../core/money/format';
import type { BulkPreview } from '../../services/goods/bulk';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';
import { bulkBar as say } from '../words/goods';

const acts = [
  ['price', say.changePrices],
  ['offer', say.putOnOffer],
  ['offer-end', say.endTheOffer],
  ['category-in', say.putIntoACategory],
  ['category-out', say.takeOutOfACategory],
  ['tag-in', say.giveATag],
  ['tag-out', say.takeATagAway],
  ['shows', say.whoSeesThem],
  ['badge', say.badge],
  ['tax', say.taxClass],
  ['remove', say.remove],
] as const;
type Act = (typeof acts)[number][0];

/** One change to all that are ticked: seen before it is made, undone as one. */
export function BulkBar({ ids, onDone }: { ids: readonly string[]; onDone: () => void }) {
  const { site } = useBoot();
  const [act, setAct] = useState<Act>('price');
  const [text, setText] = useState('10');
  const [by, setBy] = useState<'percent' | 'amount' | 'set'>('percent');
  const [ends, setEnds] = useState('');
  const [pick, setPick] = useState('shown');
  const edit = editOf({ act, text, by, ends, pick, currency: site.currency });
  const path = `/api/${site.slug}/goods/bulk`;
  const preview = useQuery({
    queryKey: ['bulk', ids, edit],
    enabled: edit !== null,
    queryFn: () => call<BulkPreview>(path, 'POST', { ids, edit, preview: true }),
  });
  const change = useMutation({
    mutationFn: () => call<{ changed: number }>(path, 'POST', { ids, edit }),
    onSuccess: ({ changed }) => {
      refresh('goods', 'slip', 'bench');
      toast.success(say.changedAndLiveTheSlipHas(changed));
      onDone();
    },
    onError: (e) => toast.error(e.message, { duration: 9000 }),
  });
  const start = (to: Act) => {
    setAct(to);
    setText(to === 'price' || to === 'offer' ? '10' : '');
    setPick(to === 'tax' ? 'standard' : 'shown');
  };
  return (
    <section className="bulk" aria-label={say.changeThoseTicked}>
      <div className="bulk-row">
        <b>{say.ticked(ids.length)}</b>
        <select
          className="in"
          aria-label={say.whatToChange}
          value={act}
          onChange={(e) => start(e.target.value as Act)}
        >
          {acts.map(([v, words]) => (
            <option key={v} value={v}>
              {words}
            </option>
          ))}
        </select>
        {act === 'price' && (
          <select
            className="in"
            aria-label={say.how}
            value={by}
            onChange={(e) => setBy(e.target.value as typeof by)}
          >
            <option value="percent">{say.byPerCent}</option>
            <option value="amount">{say.byAnAmount}</option>
            <option value="set">{say.toAPrice}</option>
          </select>
        )}
        {!['offer-end', 'remove', 'shows', 'tax'].includes(act) && (
          <span className="in">
            <input
              aria-label={
                act === 'price' || act === 'offer'
                  ? say.howMuch
                  : ({ badge: say.badge, category: say.category, tags: say.tag }[act as string] ?? say.value)
              }
              value={text}
              onChange={(e) => setText(e.target.value)}
              placeholder={act === 'badge' ? say.emptyTakesItAway : ''}
            />
            {(act === 'offer' || (act === 'price' && by === 'percent')) && <u>%</u>}
          </span>
        )}
        {act === 'price' && (
          <select
            className="in"
            aria-label={say.endingIn}
            value={ends}
            onChange={(e) => setEnds(e.target.value)}
          >
            <option value="">{say.endingAsItComes}</option>
            {['00', '50', '90', '95', '99'].map((e) => (
              <option key={e} value={e}>
                {say.endingIn2(e)}
              </option>
            ))}
          </select>
        )}
        {act === 'shows' && (
          <select
            className="in"
            aria-label={say.whoSeesThem}
            value={pick}
            onChange={(e) => setPick(e.target.value)}
          >
            <option value="shown">{say.inTheShop}</option>
            <option value="link">{say.byLinkOnly}</option>
            <option value="hidden">{say.nobody}</option>
          </select>
        )}
        {act === 'tax' && (
          <select
            className="in"
            aria-label={say.taxClass}
            value={pick}
            onChange={(e) => setPick(e.target.value)}
          >
            {['standard', 'reduced', 'zero', 'books', 'digital'].map((t) => (
              <option key={t} value={t}>
                {t}
              </option>
            ))}
          </select>
        )}
        <button
          type="button"
          className={act === 'remove' ? 'btn beet' : 'btn leaf'}
          disabled={!edit || change.isPending || !preview.data?.changes}
          onClick={() => change.mutate()}
        >
          {change.isPending
            ? say.changing
            : `${act === 'remove' ? say.remove : say.change} ${preview.data?.changes ?? ''}`}
        </button>
        <button type="button" className="btn quiet" onClick={onDone}>
          {say.untick}
        </button>
      </div>
      {preview.error && (
        <p className="field-error" role="alert">
          {preview.error.message}
        </p>
      )}
      {preview.data && (
        <div className="bulk-preview" role="status">
          <p className="note">
            {preview.data.changes === 0
              ? say.itChangesNothing
              : say.wouldChange(
                  preview.data.changes,
                  preview.data.same ? say.stayAsTheyAre(preview.data.same) : '',
                )}
          </p>
          {preview.data.lines.length > 0 && (
            <ul>
              {preview.data.lines.map((l) => (
                <li key={l.id}>
                  <span>{l.name}</span>
                  <span className="mono">
                    <del>{l.from}</del> → <b>{l.to}</b>
                  </span>
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </section>
  );
}

/** The change that is asked for, or nothing while it is not whole. */
function editOf({
  act,
  text,
  by,
  ends,
  pick,
  currency,
}: {
  act: Act;
  text: string;
  by: 'percent' | 'amount' | 'set';
  ends: string;
  pick: string;
  currency: string;
}): object | null {
  const number = Number(text.replace(',', '.').replace('%', ''));
  if (act === 'price') {
    if (by === 'percent')
      return text.trim() && Number.isFinite(number) && number !== 0
        ? { do: 'price', by, value: number, ends }
        : null;
    const amount = parseMoney(text.replace(/^\+/, ''), currency);
    return amount.ok ? { do: 'price', by, value: amount.value, ends } : null;
  }
  if (act === 'offer') return number > 0 && number <= 100 ? { do: 'offer', percent: number } : null;
  if (act === 'offer-end' || act === 'remove') return { do: act };
  if (act === 'shows') return { do: 'shows', shows: pick };
  if (act === 'tax') return { do: 'tax', taxClass: pick };
  if (act === 'badge') return { do: 'badge', badge: text };
  if (text.trim() === '') return null;
  const [what, how] = act.split('-') as ['category' | 'tag', 'in' | 'out'];
  return what === 'category' ? { do: 'category', how, path: text } : { do: 'tag', how, tag: text };
}
