import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { parseMoney } from '../../core/money/format';
import type { BulkPreview } from '../../services/goods/bulk';
import { call, refresh } from '../api';
import { useBoot } from '../shop-context';

const acts = [
  ['price', 'Change prices'],
  ['offer', 'Put on offer'],
  ['offer-end', 'End the offer'],
  ['category-in', 'Put into a category'],
  ['category-out', 'Take out of a category'],
  ['tag-in', 'Give a tag'],
  ['tag-out', 'Take a tag away'],
  ['shows', 'Who sees them'],
  ['badge', 'Badge'],
  ['tax', 'Tax class'],
  ['remove', 'Remove'],
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
      toast.success(`${changed} changed, and live. The slip has the undo.`);
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
    <section className="bulk" aria-label="Change those ticked">
      <div className="bulk-row">
        <b>{ids.length} ticked</b>
        <select
          className="in"
          aria-label="What to change"
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
            aria-label="How"
            value={by}
            onChange={(e) => setBy(e.target.value as typeof by)}
          >
            <option value="percent">by per cent</option>
            <option value="amount">by an amount</option>
            <option value="set">to a price</option>
          </select>
        )}
        {!['offer-end', 'remove', 'shows', 'tax'].includes(act) && (
          <span className="in">
            <input
              aria-label={
                act === 'price' || act === 'offer'
                  ? 'How much'
                  : ({ badge: 'Badge', category: 'Category', tags: 'Tag' }[act as string] ?? 'Value')
              }
              value={text}
              onChange={(e) => setText(e.target.value)}
              placeholder={act === 'badge' ? 'empty takes it away' : ''}
            />
            {(act === 'offer' || (act === 'price' && by === 'percent')) && <u>%</u>}
          </span>
        )}
        {act === 'price' && (
          <select
            className="in"
            aria-label="Ending in"
            value={ends}
            onChange={(e) => setEnds(e.target.value)}
          >
            <option value="">ending as it comes</option>
            {['00', '50', '90', '95', '99'].map((e) => (
              <option key={e} value={e}>
                ending in {e}
              </option>
            ))}
          </select>
        )}
        {act === 'shows' && (
          <select
            className="in"
            aria-label="Who sees them"
            value={pick}
            onChange={(e) => setPick(e.target.value)}
          >
            <option value="shown">In the shop</option>
            <option value="link">By link only</option>
            <option value="hidden">Nobody</option>
          </select>
        )}
        {act === 'tax' && (
          <select
            className="in"
            aria-label="Tax class"
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
            ? 'Changing'
            : `${act === 'remove' ? 'Remove' : 'Change'} ${preview.data?.changes ?? ''}`}
        </button>
        <button type="button" className="btn quiet" onClick={onDone}>
          Untick
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
              ? 'It changes nothing.'
              : `${preview.data.changes} would change${preview.data.same ? `, ${preview.data.same} stay as they are` : ''}.`}
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
