import { useMutation } from '@tanstack/react-query';
import { Copy, Link2, Trash2, Undo2 } from 'lucide-react';
import { type KeyboardEvent, lazy, Suspense, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { goodsKinds } from '../../core/goods/kinds';
import type { Product, ProductForm } from '../../core/goods/product';
import type { GoodsLine } from '../../services/goods/lines';
import { call, Problem, refresh } from '../api';
import { useBoot, useMoney } from '../shop-context';
import { Choice, TextField, Wrong } from './fields';
import {
  type Draft,
  draftOf,
  type Errors,
  firstKind,
  keepDraft,
  keptDraft,
  patchOf,
  readDraft,
} from './form';
import { KindFields, kindOptions } from './kind-fields';
import { Ledger } from './ledger';
import { MoreFields } from './more-fields';
import { OptionsField } from './options-field';
import { PicturesField } from './pictures-field';
import { PriceBox } from './price-box';
import { useDraft } from './use-draft';
import { VariantGrid } from './variant-grid';
import { sheet as say } from '../words/goods';

const RichEditor = lazy(() => import('./rich-editor'));

interface Props {
  readonly product: Product | undefined;
  readonly goods: readonly GoodsLine[];
  readonly onSaved: (p: Product) => void;
  readonly onRemoved: () => void;
  /** What is written so far, whenever it could be saved; nothing when it is what is saved. */
  readonly onDraft: (form: ProductForm | null) => void;
}

/** One product, written and saved here. What is saved is live at once, and stands on the slip with its undo. */
export function Sheet({ product, goods, onSaved, onRemoved, onDraft }: Props) {
  const { site } = useBoot();
  const money = useMoney();
  const id = product?.id ?? 'new';
  const start = draftOf(product, site.currency, firstKind(site.sells));
  const { draft, set, change, undo, redo, restart, canUndo } = useDraft(
    () => keptDraft(site.slug, id) ?? start,
  );
  const [errors, setErrors] = useState<Errors>({});
  const changed = JSON.stringify(draft) !== JSON.stringify(start);
  const symbol = money(0).replace(/[\d.,\s]/g, '');
  const kind = goodsKinds[draft.kind];
  // What was saved is no draft any more: the next new product begins empty.
  const done = useRef(false);
  useEffect(() => {
    if (!done.current) keepDraft(site.slug, id, changed ? draft : null);
  }, [draft, changed, id, site.slug]);
  useEffect(() => {
    const read = changed ? readDraft(draft, site.currency) : undefined;
    if (!read) onDraft(null);
    else if ('form' in read) onDraft(read.form);
  }, [draft, changed, site.currency, onDraft]);
  // What was said of a field is over once something is written.
  useEffect(() => setErrors((e) => (draft && Object.keys(e).length ? {} : e)), [draft]);

  const save = useMutation({
    mutationFn: async () => {
      const read = readDraft(draft, site.currency);
      if ('errors' in read) {
        setErrors(read.errors);
        throw new Problem(say.someFieldsNeedAnotherLook, 422);
      }
      const saved = product
        ? await call<Product>(`/api/${site.slug}/goods/${id}`, 'PUT', patchOf(product, read.form, draft.rows))
        : await call<Product>(`/api/${site.slug}/goods`, 'POST', read.form);
      return saved;
    },
    onSuccess: (saved) => {
      done.current = !product;
      keepDraft(site.slug, id, null);
      if (product) restart(draftOf(saved, site.currency));
      refresh('goods', 'slip', 'bench');
      toast.success(say.isSavedAndLive(saved.name));
      onSaved(saved);
    },
    onError: (e) => {
      if (e instanceof Problem && e.field) setErrors({ [e.field]: e.message });
      else if (!(e instanceof Problem && e.status === 422)) toast.error(e.message, { duration: 9000 });
    },
  });
  const act = useMutation({
    mutationFn: ({
      method,
      path,
    }: {
      method: string;
      path: string;
      says: string;
      after?: (p: Product) => void;
    }) => call<Product>(path, method),
    onSuccess: (made, { says, after }) => {
      refresh('goods', 'slip', 'bench');
      after?.(made);
      toast.success(says);
    },
    onError: (e) => toast.error(e.message),
  });
  const keys = (e: KeyboardEvent) => {
    if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest('.rich-text')) return;
    const letter = e.key.toLowerCase();
    if (letter !== 'z' && letter !== 'y' && letter !== 's') return;
    e.preventDefault();
    e.stopPropagation();
    if (letter === 's') save.mutate();
    else if (letter === 'y' || e.shiftKey) redo();
    else undo();
  };
  const fault = Object.keys(errors).length;

  const saveWord = product ? say.save : say.addToTheGoods;
  const saved = product ? say.savedAndLive : '';
  const standing = changed ? say.goesLiveWhenYouSave : saved;
  return (
    <form
      className="gsheet"
      noValidate
      onKeyDown={keys}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <div className="ghead">
        <div>
          <input
            className="gname"
            aria-label={say.name}
            placeholder={say.whatIsItCalled}
            value={draft.name}
            maxLength={140}
            onChange={(e) => set('name', e.target.value)}
            aria-invalid={!!errors.name}
          />
          <p className="path">
            {product ? `/goods/${product.slug}` : say.aNewProduct}
            {draft.sample && <b className="sample">{say.sample}</b>}
          </p>
          <Wrong text={errors.name} />
        </div>
        {product && (
          <button
            type="button"
            className="btn quiet sm"
            onClick={() =>
              void navigator.clipboard
                .writeText(site.goodsAddress.replace('{}', encodeURIComponent(product.slug)))
                .then(() => toast.success(say.itsLinkIsCopied))
            }
          >
            <Link2 size={13} aria-hidden />
            {say.copyLink}
          </button>
        )}
      </div>
      <div className="g-3">
        <Choice
          label={say.whatItIs}
          value={draft.kind}
          options={kindOptions}
          onChange={(v) => set('kind', v)}
        />
        <Choice
          label={say.whoSeesIt}
          value={draft.shows}
          options={[
            ['shown', say.inTheShop],
            ['link', say.byLinkOnly],
            ['hidden', say.nobody],
          ]}
          onChange={(v) => set('shows', v)}
        />
        <Choice
          label={say.taxClass}
          value={draft.taxClass}
          options={[
            ['standard', say.standard],
            ['reduced', say.reduced],
            ['zero', say.zero],
            ['books', say.books],
            ['digital', say.digital],
          ]}
          onChange={(v) => set('taxClass', v)}
        />
      </div>
      <KindFields
        draft={draft}
        set={set}
        change={change}
        errors={errors}
        goods={goods.filter((g) => g.id !== product?.id)}
      />
      <div className="g-a">
        <div>
          <span className="lab">{say.description}</span>
          <Suspense
            fallback={
              <div className="rich">
                <p className="note p-3">{say.opening}</p>
              </div>
            }
          >
            <RichEditor
              label={say.description}
              value={draft.description}
              onChange={(v) => set('description', v)}
            />
          </Suspense>
          <Wrong text={errors.description} />
        </div>
        <PicturesField
          pictures={draft.pictures}
          onChange={(to) => change('pictures', (d) => ({ ...d, pictures: [...to(d.pictures)] }))}
        />
      </div>
      <PriceBox draft={draft} set={set} change={change} errors={errors} symbol={symbol} />
      {kind.options && (
        <section>
          <div className="gopt">
            <h2>{say.options}</h2>
            <OptionsField draft={draft} change={change} />
          </div>
          <Wrong text={errors.options ?? errors.variants} />
          {draft.options.length > 0 ? (
            <VariantGrid draft={draft} change={change} errors={errors} />
          ) : (
            <Single draft={draft} change={change} errors={errors} />
          )}
        </section>
      )}
      <MoreFields
        draft={draft}
        set={set}
        change={change}
        errors={errors}
        symbol={symbol}
        goods={goods.filter((g) => g.id !== product?.id)}
        saved={product && { slug: product.slug, keys: product.linkPrices.map((l) => l.key) }}
      />
      {product && product.kind !== 'link' && product.kind !== 'bundle' && <Ledger product={product} />}
      <div className="gfoot">
        <button type="submit" className="btn leaf" disabled={!changed || save.isPending}>
          {save.isPending ? say.saving : saveWord}
        </button>
        {canUndo && (
          <button type="button" className="btn quiet" onClick={undo}>
            <Undo2 size={13} aria-hidden />
            {say.undo}
          </button>
        )}
        {changed && product && (
          <button
            type="button"
            className="btn quiet"
            onClick={() => {
              restart(start);
              setErrors({});
            }}
          >
            {say.backToWhatIsSaved}
          </button>
        )}
        <span className={fault ? 'bad' : 'note'} role="status">
          {fault ? say.anotherLook(fault === 1 ? say.oneFieldNeeds : say.fieldsNeed(fault)) : standing}
        </span>
        {product && (
          <button
            type="button"
            className="btn quiet ml-auto"
            onClick={() =>
              act.mutate({
                method: 'POST',
                path: `/api/${site.slug}/goods/${id}/copy`,
                says: say.copiedTheCopyIsHiddenUntil,
                after: onSaved,
              })
            }
          >
            <Copy size={13} aria-hidden />
            {say.duplicate}
          </button>
        )}
        {product && (
          <button
            type="button"
            className="btn quiet beet"
            onClick={() =>
              act.mutate({
                method: 'DELETE',
                path: `/api/${site.slug}/goods/${id}`,
                says: say.removedTheSlipHasTheUndo,
                after: onRemoved,
              })
            }
          >
            <Trash2 size={13} aria-hidden />
            {say.remove}
          </button>
        )}
      </div>
    </form>
  );
}

/** A product without options has one row, and needs no grid for it. */
function Single({
  draft,
  change,
  errors,
}: {
  draft: Draft;
  change: ReturnType<typeof useDraft>['change'];
  errors: Errors;
}) {
  const [row] = draft.rows;
  if (!row) return null;
  const put = (key: 'stock' | 'sku' | 'gtin' | 'weight') => (value: string) =>
    change(`single-${key}`, (d) => ({
      ...d,
      rows: d.rows.map((r, n) => (n === 0 ? { ...r, [key]: value } : r)),
    }));
  const stock = row.stock.trim();
  const counted = stock ? say.shoppersAreToldWhenOrFewer(draft.low || 3) : say.emptyStockIsNotCountedAnd;
  return (
    <div className="g-4">
      <TextField
        label={goodsKinds[draft.kind].pieces === 'seats' ? say.seatsLeft : say.inStock}
        value={row.stock}
        onChange={put('stock')}
        mode="numeric"
        placeholder={say.uncounted}
        error={errors['row-0-stock']}
      />
      <TextField label={say.sku} value={row.sku} onChange={put('sku')} most={60} />
      <TextField
        label={say.gtin}
        value={row.gtin}
        onChange={put('gtin')}
        mode="numeric"
        error={errors['row-0-gtin']}
      />
      {goodsKinds[draft.kind].ships && (
        <TextField
          label={say.weight}
          value={row.weight}
          onChange={put('weight')}
          mode="decimal"
          after={/[a-z]/i.test(row.weight) ? '' : 'g'}
          placeholder="350"
          error={errors['row-0-weight']}
        />
      )}
      <p className="note g-all">
        {stock === '0' && draft.whenOut === 'refuse' ? (
          <b className="bad">{say.shoppersReadSoldOut}</b>
        ) : (
          counted
        )}
      </p>
    </div>
  );
}
