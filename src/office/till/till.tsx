import { useEffect, useState } from 'react';
import type { TillRules } from '../../core/till/rules';
import type { TillView } from '../../services/till/try-cart';
import { useGoods } from '../goods/use-goods';
import { useBoot } from '../shop-context';
import { DiscountsEditor } from './discounts-editor';
import { ShippingEditor } from './shipping-editor';
import { TaxEditor } from './tax-editor';
import { TryCart } from './try-cart';
import { usePart, useTill } from './use-till';
import { useTriedInput, useTry } from './use-try';

const sections = ['tax', 'shipping', 'discounts'] as const;
type Section = (typeof sections)[number];
const names: Readonly<Record<Section, string>> = { tax: 'Tax', shipping: 'Shipping', discounts: 'Discounts' };

/** An index of rules, the one that is open, and a cart to try them on: beside, always. */
export function Till() {
  const till = useTill();
  if (till.error) return <p className="empty bad">{till.error.message}</p>;
  if (!till.data) return <p className="empty note">Opening the till…</p>;
  return <Open view={till.data} />;
}

function Open({ view }: { view: TillView }) {
  const { site } = useBoot();
  const goods = useGoods().data ?? [];
  const [open, setOpen] = useState<Section>(() => sections.find((s) => new URLSearchParams(location.search).has(s)) ?? 'shipping');
  const [tax, shipping, discounts] = [usePart('tax', view.rules.tax), usePart('shipping', view.rules.shipping), usePart('discounts', view.rules.discounts)];
  const rules: TillRules = { ...view.rules, tax: tax.draft, shipping: shipping.draft, discounts: discounts.draft };
  const [input, setInput] = useTriedInput();
  const tried = useTry(input, rules);
  // A first cart: one of each of the first things that are sold, so that there is something to look at.
  useEffect(() => {
    if (input.lines.length === 0 && goods.length) setInput({ ...input, lines: goods.filter((g) => g.kind === 'ships').slice(0, 3).flatMap((g) => (g.variants[0] ? [{ variantId: g.variants[0].id, quantity: 1 }] : [])) });
  }, [goods, input, setInput]);
  const says: Readonly<Record<Section, string>> = {
    tax: !rules.tax.charged ? 'none is charged' : `${rules.tax.included ? 'in the prices' : 'added'}, ${rules.tax.rates.length} ${rules.tax.rates.length === 1 ? 'rate' : 'rates'}`,
    shipping: rules.shipping.regions.length ? `${rules.shipping.regions.length} ${rules.shipping.regions.length === 1 ? 'region' : 'regions'}` : 'nothing set',
    discounts: `${rules.discounts.filter((d) => d.code).length === 1 ? '1 code' : `${rules.discounts.filter((d) => d.code).length} codes`}, ${rules.discounts.filter((d) => !d.code).length} for all`,
  };
  const changed: Readonly<Record<Section, boolean>> = { tax: tax.changed, shipping: shipping.changed, discounts: discounts.changed };
  const go = (to: Section) => {
    setOpen(to);
    history.replaceState(null, '', `?${to}`);
  };
  return (
    <div className="till">
      <nav className="tidx" aria-label="Rules of the till">
        {sections.map((s) => <button key={s} type="button" aria-current={s === open} onClick={() => go(s)}><b>{names[s]}</b><em>{says[s]}{changed[s] && ' · not saved'}</em></button>)}
        <p className="note">{site.currency}. Ways to pay, letters and policies come next; today it is the card.</p>
      </nav>
      {open === 'tax' && <TaxEditor part={tax} view={view} />}
      {open === 'shipping' && <ShippingEditor part={shipping} view={{ ...view, rules }} cart={tried.data} />}
      {open === 'discounts' && <DiscountsEditor part={discounts} goods={goods} />}
      <TryCart input={input} onChange={setInput} worked={tried.data} problem={tried.error?.message ?? ''} goods={goods} view={view} rules={rules} unsaved={sections.some((s) => changed[s])} />
    </div>
  );
}
