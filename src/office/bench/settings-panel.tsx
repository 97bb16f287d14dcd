import { Trash2, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Product } from '../../core/goods/product';
import type { Reach } from '../../core/placement/reach';
import type { BenchView } from '../../services/sites/bench';
import { hrefOf } from '../places';
import { useBoot } from '../shop-context';
import { Awning, OnSlip } from '../ui/mark';

type Placed = BenchView['placements'][number];
export interface Change { readonly settings?: Record<string, unknown>; readonly reach?: Reach }

interface Props {
  readonly placed: Placed;
  readonly name: string;
  readonly page: BenchView['page'];
  readonly goods: readonly Product[];
  readonly pages: readonly { readonly path: string; readonly name: string }[];
  readonly onSlip: boolean;
  readonly onChange: (change: Change) => void;
  readonly onTakeAway: () => void;
  readonly onClose: () => void;
}

/** Settings of the chosen widget, beside the page they change. Every change shows on the page at once, and on the slip. */
export function SettingsPanel(props: Props) {
  const { placed, name, page, onSlip, onClose, onTakeAway, onChange } = props;
  const set = (key: string, value: unknown) => onChange({ settings: { ...placed.settings, [key]: value } });
  return (
    <section className="set" aria-label={`${name}: settings`}>
      <div className="set-h">
        <Awning kind={placed.kind} flat />
        <div><h2>{name}{onSlip && <OnSlip />}</h2><p>{page.name}, {placed.pitchLabel}</p></div>
        <button type="button" className="fold" onClick={onClose} aria-label="Close the settings"><X size={15} /></button>
      </div>
      {placed.kind === 'buy' ? <BuyFields {...props} set={set} /> : <CartFields placed={placed} set={set} />}
      <ReachField {...props} />
      <details className="f"><summary className="lab">How it is written</summary><code className="written">{placed.html}</code></details>
      <button type="button" className="btn sm beet" onClick={onTakeAway}><Trash2 size={13} aria-hidden />Take it away</button>
    </section>
  );
}

interface Fields { readonly placed: Placed; readonly set: (key: string, value: unknown) => void }

function BuyFields({ placed, set, goods }: Fields & { goods: readonly Product[] }) {
  const { site } = useBoot();
  const s = placed.settings as { goods: string; text: string; showPrice: boolean; after: string; align: string };
  return (
    <>
      <div className="f">
        <label className="lab" htmlFor="set-goods">Product</label>
        <select id="set-goods" className="in" value={s.goods} onChange={(e) => set('goods', e.target.value)}>
          {!goods.some((g) => g.slug === s.goods) && <option value={s.goods}>{s.goods} (gone)</option>}
          {goods.map((g) => <option key={g.slug} value={g.slug}>{g.name}</option>)}
        </select>
        {goods.length === 0 && <p className="note mt-1">There are no goods yet. <a className="underline" href={`${hrefOf(site.slug, 'goods')}?id=new`}>Add the first</a>.</p>}
      </div>
      <TextField id="set-text" label="Text" value={s.text} placeholder={`Buy: ${goods.find((g) => g.slug === s.goods)?.name ?? ''}`} onSave={(v) => set('text', v)} />
      <div className="f"><label className="flex gap-2"><input type="checkbox" checked={s.showPrice} onChange={(e) => set('showPrice', e.target.checked)} />Today's price on the button</label></div>
      <Choice label="After a click" value={s.after} options={[['stay', 'Stay here'], ['cart', 'Open the cart']]} onChoose={(v) => set('after', v)} />
      <Choice label="Stands" value={s.align} options={[['start', 'At the start'], ['center', 'In the middle']]} onChoose={(v) => set('align', v)} />
    </>
  );
}

function CartFields({ placed, set }: Fields) {
  const s = placed.settings as { text: string; hideWhenEmpty: boolean };
  return (
    <>
      <TextField id="set-text" label="Text" value={s.text} placeholder="Cart" onSave={(v) => set('text', v || 'Cart')} />
      <div className="f"><label className="flex gap-2"><input type="checkbox" checked={s.hideWhenEmpty} onChange={(e) => set('hideWhenEmpty', e.target.checked)} />Hidden while it is empty</label></div>
    </>
  );
}

/** Saved when typing rests: each save draws the page anew. */
function TextField({ id, label, value, placeholder, onSave }: { id: string; label: string; value: string; placeholder: string; onSave: (v: string) => void }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  useEffect(() => {
    if (text === value) return;
    const rest = setTimeout(() => onSave(text), 500);
    return () => clearTimeout(rest);
  });
  return (
    <div className="f">
      <label className="lab" htmlFor={id}>{label}</label>
      <div className="in"><input id={id} value={text} placeholder={placeholder} maxLength={80} onChange={(e) => setText(e.target.value)} /></div>
    </div>
  );
}

function Choice({ label, value, options, onChoose }: { label: string; value: string; options: readonly (readonly [string, string])[]; onChoose: (v: string) => void }) {
  return (
    <div className="f">
      <span className="lab">{label}</span>
      <fieldset className="seg full" aria-label={label}>
        {options.map(([v, words]) => <button key={v} type="button" aria-pressed={v === value} onClick={() => onChoose(v)}>{words}</button>)}
      </fieldset>
    </div>
  );
}

function ReachField({ placed, page, pages, onChange }: Props) {
  const { reach } = placed;
  const [choosing, setChoosing] = useState(reach.to === 'pages');
  const chosen = reach.to === 'pages' ? reach.pages : reach.to === 'page' ? [reach.page] : pages.map((p) => p.path).filter((p) => reach.to !== 'every' || !reach.except.includes(p));
  const toggle = (path: string, on: boolean) => {
    const next = on ? [...chosen, path] : chosen.filter((p) => p !== path);
    if (next.length > 0) onChange({ reach: { to: 'pages', pages: next } });
  };
  return (
    <div className="f">
      <span className="lab">Appears on <em>on {placed.pages} of {pages.length} pages</em></span>
      <div className="chips">
        <button type="button" aria-pressed={reach.to === 'page' && !choosing} onClick={() => { setChoosing(false); onChange({ reach: { to: 'page', page: page.path } }); }}>This page</button>
        <button type="button" aria-pressed={reach.to === 'every' && !choosing} onClick={() => { setChoosing(false); onChange({ reach: { to: 'every', except: [] } }); }}>Every page</button>
        <button type="button" aria-pressed={choosing} onClick={() => setChoosing(true)}>Other pages…</button>
      </div>
      {choosing && (
        <div className="pagelist">
          {pages.map((p) => <label key={p.path}><input type="checkbox" checked={chosen.includes(p.path)} onChange={(e) => toggle(p.path, e.target.checked)} />{p.name}</label>)}
        </div>
      )}
    </div>
  );
}
