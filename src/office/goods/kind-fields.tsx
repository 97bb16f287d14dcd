import { X } from 'lucide-react';
import { goodsKinds } from '../../core/goods/kinds';
import type { GoodsLine } from '../../services/goods/lines';
import { Choice, TextField, Wrong } from './fields';
import { FilesField } from './files-field';
import type { Draft, Errors } from './form';
import type { Change, SetField } from './use-draft';
import { kindFields as say } from '../words/goods';

/** What only one kind of goods asks for. */
export function KindFields({
  draft,
  set,
  change,
  errors,
  goods,
}: {
  draft: Draft;
  set: SetField;
  change: Change;
  errors: Errors;
  goods: readonly GoodsLine[];
}) {
  if (draft.kind === 'event') {
    const event = draft.event ?? { start: '', end: '', place: '', address: '' };
    const put = (key: keyof typeof event) => (value: string) =>
      change(`event-${key}`, (d) => ({ ...d, event: { ...(d.event ?? event), [key]: value } }));
    return (
      <div className="g-2">
        <TextField
          label={say.begins}
          type="datetime-local"
          value={event.start}
          onChange={put('start')}
          error={errors.event}
        />
        <TextField label={say.ends} type="datetime-local" value={event.end} onChange={put('end')} />
        <TextField
          label={say.place}
          value={event.place}
          onChange={put('place')}
          placeholder={say.theWillowShed}
        />
        <TextField label={say.address} value={event.address} onChange={put('address')} />
      </div>
    );
  }
  if (draft.kind === 'link')
    return (
      <div className="g-2">
        <TextField
          label={say.whereItIsSold}
          type="url"
          value={draft.linkUrl}
          onChange={(v) => set('linkUrl', v)}
          placeholder={say.https}
          error={errors.link}
        />
        <TextField
          label={say.whoSellsIt}
          value={draft.linkSeller}
          onChange={(v) => set('linkSeller', v)}
          most={80}
        />
      </div>
    );
  if (draft.kind === 'subscription') {
    const every = draft.every ?? { count: '1', unit: 'month' as const };
    return (
      <div className="g-4">
        <TextField
          label={say.chargedEvery}
          value={every.count}
          mode="numeric"
          onChange={(count) => change('every', (d) => ({ ...d, every: { ...every, count } }))}
          error={errors.every}
        />
        <Choice
          label={say.of}
          value={every.unit}
          options={[
            ['week', say.weeks],
            ['month', say.months],
            ['year', say.years],
          ]}
          onChange={(unit) => change('every-unit', (d) => ({ ...d, every: { ...every, unit } }))}
        />
      </div>
    );
  }
  if (draft.kind === 'voucher')
    return (
      <div className="g-4">
        <TextField
          label={say.holds}
          value={draft.voucherMonths}
          mode="numeric"
          after={say.months}
          placeholder={say.forEver}
          onChange={(v) => set('voucherMonths', v)}
          error={errors.voucherMonths}
        />
      </div>
    );
  if (draft.kind === 'download') return <FilesField draft={draft} change={change} errors={errors} />;
  return draft.kind === 'bundle' ? (
    <Bundle draft={draft} change={change} errors={errors} goods={goods} />
  ) : null;
}

function Bundle({
  draft,
  change,
  errors,
  goods,
}: {
  draft: Draft;
  change: Change;
  errors: Errors;
  goods: readonly GoodsLine[];
}) {
  const choices = goods
    .filter((p) => p.kind !== 'bundle' && p.kind !== 'link')
    .flatMap((p) =>
      p.variants.map((v) => ({
        goodsId: p.id,
        variantId: v.id,
        name: [p.name, v.label].filter(Boolean).join(', '),
        stock: v.stock,
        hidden: p.shows === 'hidden',
      })),
    );
  const nameOf = new Map(choices.map((c) => [c.variantId, c]));
  const set = (bundle: Draft['bundle']) => change('bundle', (d) => ({ ...d, bundle }));
  const gone = draft.bundle.flatMap((b) => {
    const part = nameOf.get(b.variantId);
    return part && !part.hidden ? [] : [part?.name ?? say.aPart];
  });
  const can = draft.bundle.reduce<number | null>((least, b) => {
    const stock = nameOf.get(b.variantId)?.stock ?? null;
    const times = stock === null ? null : Math.floor(stock / b.quantity);
    if (times === null || least === null) return least ?? times;
    return Math.min(least, times);
  }, null);
  return (
    <div>
      <span className="lab">{say.inIt}</span>
      <ul className="gparts">
        {draft.bundle.map((b, n) => (
          <li key={b.variantId}>
            <input
              className="in mono"
              aria-label={say.howManyOf(nameOf.get(b.variantId)?.name)}
              type="number"
              min={1}
              max={99}
              value={b.quantity}
              onChange={(e) =>
                set(
                  draft.bundle.map((x, i) =>
                    i === n ? { ...x, quantity: Math.max(1, Math.min(99, Number(e.target.value) || 1)) } : x,
                  ),
                )
              }
            />
            <span>{nameOf.get(b.variantId)?.name ?? <b className="bad">{say.noLongerAmongTheGoods}</b>}</span>
            {nameOf.get(b.variantId)?.hidden ? (
              <b className="bad">{say.hidden}</b>
            ) : (
              <span className="note">{say.inStock(nameOf.get(b.variantId)?.stock ?? say.any)}</span>
            )}
            <button
              type="button"
              aria-label={say.takeOut(nameOf.get(b.variantId)?.name)}
              onClick={() => set(draft.bundle.filter((_, i) => i !== n))}
            >
              <X size={13} />
            </button>
          </li>
        ))}
      </ul>
      <select
        className="in"
        aria-label={say.putIntoTheBundle}
        value=""
        onChange={(e) => {
          const c = nameOf.get(e.target.value);
          if (c) set([...draft.bundle, { goodsId: c.goodsId, variantId: c.variantId, quantity: 1 }]);
        }}
      >
        <option value="">{say.putSomethingIntoIt}</option>
        {choices
          .filter((c) => !draft.bundle.some((b) => b.variantId === c.variantId))
          .map((c) => (
            <option key={c.variantId} value={c.variantId}>
              {c.name}
            </option>
          ))}
      </select>
      <Wrong text={errors.bundle} />
      {gone.length > 0 && (
        <p className="warn">
          {say.notSoldNowSoNobodyCan(
            gone.join(', '),
            gone.length === 1 ? say.is : say.are,
            gone.length === 1 ? say.it : say.them,
            gone.length === 1 ? say.it : say.them,
          )}
        </p>
      )}
      {draft.bundle.length > 0 && gone.length === 0 && (
        <p className="note">
          {can === null
            ? say.itsPartsAreNotCountedSo
            : say.canBeMadeOfWhatThere(can, can === 1 ? 'bundle' : 'bundles')}
        </p>
      )}
    </div>
  );
}

export const kindOptions = Object.entries(goodsKinds).map(
  ([id, k]) => [id as Draft['kind'], k.name] as const,
);
