import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { BulkEdit } from '../../core/goods/bulk';
import { priceEndings } from '../../core/goods/choices';
import type { BulkPreview } from '../../services/goods/bulk';
import { call, refresh, viewKey } from '../api';
import { useBoot } from '../shop-context';
import { bulkBar as say } from '../words/goods';
import { type BulkAct, bulkActs, type BulkDraft, editOf, startBulk } from './bulk-edit';
import { taxClassOptions, visibilityOptions } from './choices';

const namesOfAct: Readonly<Record<BulkAct, string>> = {
  price: say.changePrices,
  offer: say.putOnOffer,
  'offer-end': say.endTheOffer,
  'category-in': say.putIntoACategory,
  'category-out': say.takeOutOfACategory,
  'tag-in': say.giveATag,
  'tag-out': say.takeATagAway,
  shows: say.whoSeesThem,
  badge: say.badge,
  tax: say.taxClass,
  remove: say.remove,
};

/** What is written for an act, by its name; the others are chosen, or need nothing. */
const namesOfText: Partial<Record<BulkAct, string>> = {
  price: say.howMuch,
  offer: say.howMuch,
  'category-in': say.category,
  'category-out': say.category,
  'tag-in': say.tag,
  'tag-out': say.tag,
  badge: say.badge,
};

/** One change to all that are ticked: seen before it is made, undone as one. */
export function BulkBar({ ids, onDone }: { ids: readonly string[]; onDone: () => void }) {
  const { site } = useBoot();
  const [draft, setDraft] = useState(() => startBulk('price'));
  const put = (part: Partial<BulkDraft>) => setDraft((d) => ({ ...d, ...part }));
  const edit = editOf(draft, site.currency);
  const preview = useQuery({
    queryKey: viewKey('bulk', ids, edit),
    enabled: edit !== undefined,
    queryFn: () => call(site.slug, 'POST goods/bulk/preview', { body: { ids, edit: edit as BulkEdit } }),
  });
  const change = useMutation({
    mutationFn: (asked: BulkEdit) => call(site.slug, 'POST goods/bulk', { body: { ids, edit: asked } }),
    onSuccess: ({ changed }) => {
      refresh('goods', 'slip', 'bench');
      toast.success(say.changedAndLiveTheSlipHas(changed));
      onDone();
    },
    onError: (e) => toast.error(e.message, { duration: 9000 }),
  });
  const verb = draft.act === 'remove' ? say.remove : say.change;
  return (
    <section className="bulk" aria-label={say.changeThoseTicked}>
      <div className="bulk-row">
        <b>{say.ticked(ids.length)}</b>
        <Pick
          label={say.whatToChange}
          value={draft.act}
          options={bulkActs.map((a) => [a, namesOfAct[a]] as const)}
          onChange={(act) => setDraft(startBulk(act))}
        />
        <ActFields draft={draft} put={put} />
        <button
          type="button"
          className={draft.act === 'remove' ? 'btn beet' : 'btn leaf'}
          disabled={!edit || change.isPending || !preview.data?.changes}
          onClick={() => edit && change.mutate(edit)}
        >
          {change.isPending ? say.changing : `${verb} ${preview.data?.changes ?? ''}`}
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
      {preview.data && <Preview of={preview.data} />}
    </section>
  );
}

/** What the chosen act has to be told. */
function ActFields({ draft, put }: { draft: BulkDraft; put: (part: Partial<BulkDraft>) => void }) {
  const { act, by } = draft;
  const textName = namesOfText[act];
  const isPercent = act === 'offer' || (act === 'price' && by === 'percent');
  return (
    <>
      {act === 'price' && (
        <Pick
          label={say.how}
          value={by}
          options={[
            ['percent', say.byPerCent],
            ['amount', say.byAnAmount],
            ['set', say.toAPrice],
          ]}
          onChange={(v) => put({ by: v })}
        />
      )}
      {textName && (
        <span className="in">
          <input
            aria-label={textName}
            value={draft.text}
            onChange={(e) => put({ text: e.target.value })}
            placeholder={act === 'badge' ? say.emptyTakesItAway : ''}
          />
          {isPercent && <u>%</u>}
        </span>
      )}
      {act === 'price' && (
        <Pick
          label={say.endingIn}
          value={draft.ends}
          options={priceEndings.map((e) => [e, e ? say.endingIn2(e) : say.endingAsItComes] as const)}
          onChange={(ends) => put({ ends })}
        />
      )}
      {act === 'shows' && (
        <Pick
          label={say.whoSeesThem}
          value={draft.shows}
          options={visibilityOptions}
          onChange={(shows) => put({ shows })}
        />
      )}
      {act === 'tax' && (
        <Pick
          label={say.taxClass}
          value={draft.taxClass}
          options={taxClassOptions}
          onChange={(taxClass) => put({ taxClass })}
        />
      )}
    </>
  );
}

function Pick<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (v: T) => void;
}) {
  return (
    <select
      className="in"
      aria-label={label}
      value={value}
      onChange={(e) => {
        const chosen = options.find(([v]) => v === e.target.value);
        if (chosen) onChange(chosen[0]);
      }}
    >
      {options.map(([v, words]) => (
        <option key={v} value={v}>
          {words}
        </option>
      ))}
    </select>
  );
}

function Preview({ of: { changes, same, lines } }: { of: BulkPreview }) {
  return (
    <div className="bulk-preview" role="status">
      <p className="note">
        {changes === 0 ? say.itChangesNothing : say.wouldChange(changes, same ? say.stayAsTheyAre(same) : '')}
      </p>
      {lines.length > 0 && (
        <ul>
          {lines.map((l) => (
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
  );
}
