import { useMutation } from '@tanstack/react-query';
import { ImagePlus, Trash2 } from 'lucide-react';
import { useEffect, useId, useState } from 'react';
import { toast } from 'sonner';
import type { Product } from '../../core/goods/product';
import { call, Problem, refresh } from '../api';
import { pictureOf, useBoot, useMoney } from '../shop-context';
import { blank, type Draft, draftOf, type Errors, keepDraft, keptDraft, readDraft } from './form';

interface Props {
  readonly product: Product | undefined;
  readonly onSaved: (p: Product) => void;
  readonly onRemoved: () => void;
}

/** One product, written and saved here. What is saved is live at once, and stands on the slip with its undo. */
export function Sheet({ product, onSaved, onRemoved }: Props) {
  const { site } = useBoot();
  const money = useMoney();
  const id = product?.id ?? 'new';
  const start = product ? draftOf(product, site.currency) : blank;
  const [draft, setDraft] = useState<Draft>(() => keptDraft(site.slug, id) ?? start);
  const [picture, setPicture] = useState<File | null>(null);
  const [errors, setErrors] = useState<Errors>({});
  const changed = JSON.stringify(draft) !== JSON.stringify(start) || picture !== null;
  const symbol = money(0).replace(/[\d.,\s]/g, '');
  useEffect(() => keepDraft(site.slug, id, changed ? draft : null), [draft, changed, id, site.slug]);
  const set = (field: keyof Draft) => (value: string) => {
    setDraft((d) => ({ ...d, [field]: value }));
    setErrors(({ [field]: _, ...rest }) => rest);
  };

  const save = useMutation({
    mutationFn: async () => {
      const read = readDraft(draft, site.currency);
      if ('errors' in read) {
        setErrors(read.errors);
        throw new Problem('Some fields need another look.', 422);
      }
      const saved = product ? await call<Product>(`/api/${site.slug}/goods/${id}`, 'PUT', read.input) : await call<Product>(`/api/${site.slug}/goods`, 'POST', read.input);
      keepDraft(site.slug, id, null);
      if (!picture) return saved;
      return call<Product>(`/api/${site.slug}/goods/${saved.id}`, 'POST', picture).catch((e: Problem) => {
        toast.error(e.message, { duration: 9000 });
        return saved;
      });
    },
    onSuccess: (saved) => {
      setPicture(null);
      setDraft(draftOf(saved, site.currency));
      refresh('goods', 'slip', 'bench');
      toast.success(`${saved.name} is saved, and live.`);
      onSaved(saved);
    },
    onError: (e) => {
      if (e instanceof Problem && e.field) setErrors({ [e.field]: e.message });
      else if (!(e instanceof Problem && e.status === 422)) toast.error(e.message, { duration: 9000 });
    },
  });
  const remove = useMutation({
    mutationFn: () => call(`/api/${site.slug}/goods/${id}`, 'DELETE'),
    onSuccess: () => {
      refresh('goods', 'slip', 'bench');
      onRemoved();
      toast.success('Removed. The slip has the undo.');
    },
    onError: (e) => toast.error(e.message),
  });

  return (
    <form className="gsheet" noValidate onSubmit={(e) => { e.preventDefault(); save.mutate(); }}>
      <div>
        <input className="gname" aria-label="Name" placeholder="What is it called?" value={draft.name} maxLength={140} onChange={(e) => set('name')(e.target.value)} aria-invalid={!!errors.name} />
        <p className="path">{product ? `/goods/${product.slug}` : 'a new product'}</p>
        <Wrong text={errors.name} />
      </div>
      <div className="g-a">
        <div>
          <label className="lab" htmlFor="g-description">Description</label>
          <textarea id="g-description" className="in w-full" style={{ minHeight: 148 }} value={draft.description} onChange={(e) => set('description')(e.target.value)} />
        </div>
        <PictureField product={product} picture={picture} onPick={setPicture} />
      </div>
      <div className="g-p">
        <TextField label={draft.open ? 'At least' : 'Price'} value={draft.price} onChange={set('price')} unit={symbol} mode="decimal" error={errors.price} />
        <TextField label="Price before" value={draft.was} onChange={set('was')} unit={symbol} mode="decimal" error={errors.was} />
        <TextField label="In stock" value={draft.stock} onChange={set('stock')} mode="numeric" error={errors.stock} />
        <p className="note pb-1">Leave the stock empty if nobody counts. {draft.stock === '0' ? <b className="bad">Shoppers read “sold out”.</b> : 'Shoppers are told when three or fewer are left.'}</p>
      </div>
      <label className="flex items-center gap-2"><input type="checkbox" checked={draft.open === 'yes'} onChange={(e) => set('open')(e.target.checked ? 'yes' : '')} />The buyer names the amount, for gifts and pay-what-you-like</label>
      <TextField label="Categories, with commas between; one inside another as Baskets / Trugs" value={draft.categories} onChange={set('categories')} error={errors.categories} />
      <TextField label="The picture in words, for those who cannot see it" value={draft.pictureAlt} onChange={set('pictureAlt')} />
      <div className="gfoot">
        <button type="submit" className="btn leaf" disabled={!changed || save.isPending}>{save.isPending ? 'Saving' : product ? 'Save' : 'Add to the goods'}</button>
        {changed && product && <button type="button" className="btn quiet" onClick={() => { setDraft(start); setPicture(null); setErrors({}); }}>Back to what is saved</button>}
        <span className="note">{changed ? 'Goes live when you save.' : product ? 'Saved, and live.' : ''}</span>
        {product && <button type="button" className="btn quiet beet ml-auto" onClick={() => remove.mutate()}><Trash2 size={13} aria-hidden />Remove</button>}
      </div>
    </form>
  );
}

const Wrong = ({ text, id }: { text?: string | undefined; id?: string }) => (text ? <p className="field-error" id={id} role="alert">{text}</p> : null);

function TextField({ label, value, onChange, unit, mode, error }: { label: string; value: string; onChange: (v: string) => void; unit?: string; mode?: 'decimal' | 'numeric'; error?: string | undefined }) {
  const id = useId();
  return (
    <div>
      <label className="lab" htmlFor={id}>{label}</label>
      <div className={mode ? 'in mono' : 'in'}>{unit && <u>{unit}</u>}<input id={id} value={value} inputMode={mode} onChange={(e) => onChange(e.target.value)} aria-invalid={!!error} aria-describedby={error ? `${id}-e` : undefined} /></div>
      <Wrong text={error} id={`${id}-e`} />
    </div>
  );
}

function PictureField({ product, picture, onPick }: { product: Product | undefined; picture: File | null; onPick: (f: File) => void }) {
  const { site } = useBoot();
  const [over, setOver] = useState(false);
  const [preview, setPreview] = useState<string>();
  useEffect(() => {
    if (!picture) return setPreview(undefined);
    const url = URL.createObjectURL(picture);
    setPreview(url);
    return () => URL.revokeObjectURL(url);
  }, [picture]);
  const shown = preview ?? pictureOf(site.shopUrl, product?.picture ?? null, 480);
  return (
    <div>
      <span className="lab">Picture</span>
      <label className={over ? 'picture-drop over' : 'picture-drop'} onDragEnter={() => setOver(true)} onDragLeave={() => setOver(false)} onDrop={() => setOver(false)}>
        {shown ? <><img src={shown} alt="" /><span className="swap">Another picture</span></> : <span><ImagePlus size={20} aria-hidden className="mx-auto mb-1" />Drop a picture, or press to choose</span>}
        <input type="file" accept="image/*" aria-label="Picture" onChange={(e) => e.target.files?.[0] && onPick(e.target.files[0])} />
      </label>
    </div>
  );
}
