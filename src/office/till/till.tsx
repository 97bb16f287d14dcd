import { useEffect, useState } from 'react';
import type { TillRules } from '../../core/till/rules';
import type { GoodsLine } from '../../services/goods/lines';
import type { TillView } from '../../services/till/try-cart';
import { useGoods } from '../goods/use-goods';
import { useBoot } from '../shop-context';
import { BasicsEditor } from './basics-editor';
import { CheckoutEditor, SellerEditor } from './checkout-editor';
import { DiscountsEditor } from './discounts-editor';
import { ExchangeEditor } from './exchange-editor';
import { LettersEditor } from './letters-editor';
import { PayEditor } from './pay-editor';
import { ShippingEditor } from './shipping-editor';
import { TaxEditor } from './tax-editor';
import { TryCart } from './try-cart';
import { usePart, useTill } from './use-till';
import { useTriedInput, useTry } from './use-try';
import { till as say } from '../words/till';

const sections = [
  'basics',
  'tax',
  'shipping',
  'discounts',
  'pay',
  'checkout',
  'letters',
  'seller',
  'exchange',
] as const;
/** Those that a cart is worked out with. */
const counted = ['tax', 'shipping', 'discounts'] as const;
type Section = (typeof sections)[number];
const names: Readonly<Record<Section, string>> = {
  basics: say.basics,
  tax: say.tax,
  shipping: say.shipping,
  discounts: say.discounts,
  pay: say.waysToPay,
  checkout: say.checkout,
  letters: say.letters,
  seller: say.whoSells,
  exchange: say.otherCurrencies,
};

/** An index of rules, the one that is open, and a cart to try them on: beside, always. */
export function Till() {
  const till = useTill();
  if (till.error) return <p className="empty bad">{till.error.message}</p>;
  if (!till.data) return <p className="empty note">{say.openingTheTill}</p>;
  return <Open view={till.data} />;
}

function Open({ view }: { view: TillView }) {
  const { site } = useBoot();
  const goods = useGoods().data ?? [];
  const [open, setOpen] = useState<Section>(
    () => sections.find((s) => new URLSearchParams(location.search).has(s)) ?? 'shipping',
  );
  const [tax, shipping, discounts] = [
    usePart('tax', view.rules.tax),
    usePart('shipping', view.rules.shipping),
    usePart('discounts', view.rules.discounts),
  ];
  const [pay, checkout, letters, seller, exchange, zone] = [
    usePart('pay', view.rules.pay),
    usePart('checkout', view.rules.checkout),
    usePart('letters', view.rules.letters),
    usePart('seller', view.rules.seller),
    usePart('exchange', view.rules.exchange),
    usePart('zone', view.rules.zone),
  ];
  const rules: TillRules = {
    ...view.rules,
    tax: tax.draft,
    shipping: shipping.draft,
    discounts: discounts.draft,
  };
  const [input, setInput] = useTriedInput();
  const tried = useTry(input, rules);
  // A first cart, so that there is something to look at.
  useEffect(() => {
    if (input.lines.length === 0 && goods.length) setInput((now) => ({ ...now, lines: firstLines(goods) }));
  }, [goods, input.lines.length, setInput]);
  const drafts = {
    ...{ tax: rules.tax, shipping: rules.shipping, discounts: rules.discounts },
    ...{ pay: pay.draft, checkout: checkout.draft, seller: seller.draft, exchange: exchange.draft },
  };
  const changed: Readonly<Record<Section, boolean>> = {
    basics: false,
    tax: tax.changed,
    shipping: shipping.changed,
    discounts: discounts.changed,
    pay: pay.changed,
    checkout: checkout.changed,
    letters: letters.changed,
    seller: seller.changed || zone.changed,
    exchange: exchange.changed,
  };
  const go = (to: Section) => {
    setOpen(to);
    history.replaceState(null, '', `?${to}`);
  };
  return (
    <div className="till">
      <nav className="tidx" aria-label={say.rulesOfTheTill}>
        {sections.map((s) => (
          <button key={s} type="button" aria-current={s === open} onClick={() => go(s)}>
            <b>{names[s]}</b>
            <em>
              {wordsOf(s, drafts, view, site)}
              {changed[s] && say.notSaved}
            </em>
          </button>
        ))}
        <p className="note">{say.allMoneyIn(site.currency)}</p>
      </nav>
      {open === 'basics' && <BasicsEditor basics={view.basics} />}
      {open === 'tax' && <TaxEditor part={tax} view={view} />}
      {open === 'shipping' && (
        <ShippingEditor part={shipping} view={{ ...view, rules }} cart={tried.data} goods={goods} />
      )}
      {open === 'pay' && <PayEditor part={pay} view={view} />}
      {open === 'checkout' && <CheckoutEditor part={checkout} view={view} />}
      {open === 'letters' && <LettersEditor part={letters} />}
      {open === 'seller' && <SellerEditor part={seller} zone={zone} />}
      {open === 'exchange' && <ExchangeEditor part={exchange} />}
      {open === 'discounts' && <DiscountsEditor part={discounts} goods={goods} former={view.former} />}
      <TryCart
        input={input}
        onChange={setInput}
        worked={tried.data}
        problem={tried.error?.message ?? ''}
        goods={goods}
        view={view}
        rules={rules}
        unsaved={counted.some((s) => changed[s])}
      />
    </div>
  );
}

/** One of each of the first things that are sent. */
const firstLines = (goods: readonly GoodsLine[]) =>
  goods
    .filter((g) => g.kind === 'ships')
    .slice(0, 3)
    .flatMap((g) => (g.variants[0] ? [{ variantId: g.variants[0].id, quantity: 1 }] : []));

type Drafts = Pick<TillRules, 'tax' | 'shipping' | 'discounts' | 'pay' | 'checkout' | 'seller' | 'exchange'>;

/** How a section stands, in a few words. */
const wordsOf = (
  section: Section,
  drafts: Drafts,
  view: TillView,
  site: { readonly name: string; readonly currency: string },
): string => sectionWords[section](drafts, view, site);

const sectionWords: Readonly<
  Record<
    Section,
    (d: Drafts, v: TillView, site: { readonly name: string; readonly currency: string }) => string
  >
> = {
  basics: (_, view) => say.whatIsSold(view.basics.currency),
  tax({ tax }) {
    if (!tax.charged) return say.noneIsCharged;
    const rates = `${tax.rates.length} ${tax.rates.length === 1 ? 'rate' : 'rates'}`;
    return `${tax.included ? say.inThePrices : 'added'}, ${rates}`;
  },
  shipping({ shipping: { regions } }) {
    if (regions.length === 0) return say.nothingSet;
    return `${regions.length} ${regions.length === 1 ? 'region' : 'regions'}`;
  },
  discounts({ discounts }) {
    const codes = discounts.filter((d) => d.code).length;
    return say.forAll(codes === 1 ? '1 code' : `${codes} codes`, discounts.length - codes);
  },
  pay: ({ pay }) => (pay.test ? say.onlyTryingOut : `${pay.ways.filter((w) => w.active).length} offered`),
  checkout({ checkout: { policies } }) {
    return policies.length === 1 ? say.n1TextToAgreeTo : say.textsToAgreeTo(policies.length);
  },
  letters: () => say.wordsAndWhichGoOut,
  seller: ({ seller }, _, site) => seller.name || site.name,
  exchange: ({ exchange: { rates } }, _, site) =>
    rates.length ? rates.map((r) => r.currency).join(', ') : `${site.currency} alone`,
};
