import { lazy, Suspense } from 'react';
import { goodsKinds } from '../../core/goods/kinds';
import type { Product, ProductForm } from '../../core/goods/product';
import type { GoodsLine } from '../../services/goods/lines';
import { useMoney } from '../shop-context';
import { sheet as say } from '../words/goods';
import { taxClassOptions, visibilityOptions } from './choices';
import { Choice, TextField, Wrong } from './fields';
import type { Draft, Errors } from './form';
import { KindFields, kindOptions } from './kind-fields';
import { Ledger } from './ledger';
import { MoreFields } from './more-fields';
import { OptionsField } from './options-field';
import { PicturesField } from './pictures-field';
import { PriceBox } from './price-box';
import { SheetFoot } from './sheet-foot';
import { SheetHead } from './sheet-head';
import type { Change, SetField } from './use-draft';
import { useSheet } from './use-sheet';
import { VariantGrid } from './variant-grid';

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
  const money = useMoney();
  const s = useSheet({ product, onSaved, onDraft });
  const { draft, set, change, errors } = s;
  const symbol = money(0).replace(/[\d.,\s]/g, '');
  const others = goods.filter((g) => g.id !== product?.id);
  return (
    <form
      className="gsheet"
      noValidate
      onKeyDown={s.onKeyDown}
      onSubmit={(e) => {
        e.preventDefault();
        s.submit();
      }}
    >
      <SheetHead product={product} draft={draft} set={set} error={errors.name} />
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
          options={visibilityOptions}
          onChange={(v) => set('shows', v)}
        />
        <Choice
          label={say.taxClass}
          value={draft.taxClass}
          options={taxClassOptions}
          onChange={(v) => set('taxClass', v)}
        />
      </div>
      <KindFields draft={draft} set={set} change={change} errors={errors} goods={others} />
      <div className="g-a">
        <Description draft={draft} set={set} error={errors.description} />
        <PicturesField
          pictures={draft.pictures}
          onChange={(to) => change('pictures', (d) => ({ ...d, pictures: [...to(d.pictures)] }))}
        />
      </div>
      <PriceBox draft={draft} set={set} change={change} errors={errors} symbol={symbol} />
      {goodsKinds[draft.kind].options && (
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
        goods={others}
        saved={product && { slug: product.slug, keys: product.linkPrices.map((l) => l.key) }}
      />
      {product && product.kind !== 'link' && product.kind !== 'bundle' && <Ledger product={product} />}
      <SheetFoot sheet={s} product={product} onCopied={onSaved} onRemoved={onRemoved} />
    </form>
  );
}

function Description({ draft, set, error }: { draft: Draft; set: SetField; error: string | undefined }) {
  const opening = (
    <div className="rich">
      <p className="note p-3">{say.opening}</p>
    </div>
  );
  return (
    <div>
      <span className="lab">{say.description}</span>
      <Suspense fallback={opening}>
        <RichEditor
          label={say.description}
          value={draft.description}
          onChange={(v) => set('description', v)}
        />
      </Suspense>
      <Wrong text={error} />
    </div>
  );
}

/** A product without options has one row, and needs no grid for it. */
function Single({ draft, change, errors }: { draft: Draft; change: Change; errors: Errors }) {
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
