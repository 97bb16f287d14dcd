import { productsOf } from '../../../goods/choose';
import { priceFrom, priceNow } from '../../../goods/price';
import type { Product } from '../../../goods/product';
import { rowSettings } from '../../../placement/kinds/product-row';
import { formatMoney } from '../../../money/format';
import type { Found } from '../../finding';
import { onPage, openBench, type Rule, settle, takeAway } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';
import { type PriceMention, priceMentions } from '../../../money/mention';
import type { Subject } from '../../subject';
import type { WrittenPage, WrittenWidget } from '../../written/facts';

/** Widgets that say of one product what it is not: its own words against its price, or two widgets against each other. */
export const contradict: Rule = {
  name: 'widgets-contradict',
  about:
    "A button or the heading of a row whose own words give another price than the product's; the same product in two languages on one page.",
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [p, w] of widgetsOnce(s)) {
      const found = w.kind === 'row' ? headingSays(s, p, w) : buttonSays(s, p, w);
      if (found) yield found;
    }
    for (const p of s.pages) yield* twoLanguages(s, p);
  },
};

const textOf = (w: WrittenWidget, key: string): string => {
  const text = w.settings?.[key];
  return typeof text === 'string' ? text : '';
};

/** The first price that the widget's own words give, in the shop's currency. */
const priceSaid = (s: Subject, text: string): PriceMention | undefined => {
  const [says] = text ? priceMentions(text, s.site.currency) : [];
  return says?.currency === s.site.currency ? says : undefined;
};

/** What may be paid for the product by this widget: of the choice it names, else of any of its choices. */
function pricesNow(s: Subject, product: Product, choice: string): readonly number[] {
  const named = product.variants.filter((v) => v.values.join(', ') === choice);
  const meant = choice && named.length > 0 ? named : product.variants;
  return meant.map((v) => priceNow(product, v, s.now).price);
}

function buttonSays(s: Subject, p: WrittenPage, w: WrittenWidget): Found | undefined {
  const text = textOf(w, 'text');
  const product = s.goods.bySlug.get(textOf(w, 'goods'));
  const says = priceSaid(s, text);
  if (!product || !says) return undefined;
  const prices = pricesNow(s, product, textOf(w, 'choice'));
  const [least] = prices.toSorted((a, b) => a - b);
  if (least === undefined || prices.includes(says.amount)) return undefined;
  const money = formatMoney({ amount: least, currency: says.currency }, s.site.locale);
  return {
    about: `${widgetKey(p, w)} ${product.id}`,
    place: onPage(p, w),
    title: `The button says ${says.text}, ${product.name} costs ${money}`,
    meets: `Who presses “${text}” finds ${money} in the cart.`,
    mends: [
      ...settle(s, w.placement, `Write ${money}`, { text: text.replace(says.text, money) }),
      openBench(p.path, 'Leave the price out of the text: the button can show it by itself.'),
    ],
  };
}

/** The products that a row shows now. */
function inRow(s: Subject, w: WrittenWidget): readonly Product[] {
  const row = rowSettings.safeParse(w.settings);
  return row.success ? productsOf(s.goods, row.data, s.now) : [];
}

/**
 * A heading with a price is true where one of its products costs that ("all 12 €", "from 12 €"), where all cost less
 * ("under 20 €") and where several all cost more ("over 100 €").
 */
function headingSays(s: Subject, p: WrittenPage, w: WrittenWidget): Found | undefined {
  const heading = textOf(w, 'heading');
  const says = priceSaid(s, heading);
  if (!says) return undefined;
  const shown = inRow(s, w).map((product) => ({ product, price: priceFrom(product, s.now).least }));
  const dearer = shown.filter((x) => x.price > says.amount);
  const [first] = dearer;
  const isTrue = !first || shown.some((x) => x.price === says.amount);
  if (isTrue || (dearer.length === shown.length && shown.length > 1)) return undefined;
  const money = formatMoney({ amount: first.price, currency: says.currency }, s.site.locale);
  return {
    about: `${widgetKey(p, w)} heading`,
    place: onPage(p, w),
    title: `The row is headed “${heading}”, ${first.product.name} in it costs ${money}`,
    meets: `They read ${says.text} above it and ${money} below.`,
    facts: [says.amount, first.price],
    mends: [openBench(p.path, 'Change the heading, or take what is dearer out of the row.')],
  };
}

/** Products of which two widgets of a page speak in two languages. */
function* twoLanguages(s: Subject, p: WrittenPage): Generator<Found> {
  const met = new Map<string, WrittenWidget>();
  for (const w of p.widgets) {
    if (!w.settings) continue;
    for (const product of goodsOf(s, w)) {
      const other = met.get(product.id);
      if (!other) met.set(product.id, w);
      else if (langOf(s, other) !== langOf(s, w)) {
        yield inTwoLanguages(s, p, w, other, product);
        return;
      }
    }
  }
}

function goodsOf(s: Subject, w: WrittenWidget): readonly Product[] {
  if (w.kind === 'row') return inRow(s, w);
  const product = w.kind === 'buy' || w.kind === 'card' ? s.goods.bySlug.get(textOf(w, 'goods')) : undefined;
  return product ? [product] : [];
}

const langOf = (s: Subject, w: WrittenWidget): string =>
  (textOf(w, 'lang') || s.site.locale).split('-')[0] ?? '';

const languageNames = new Intl.DisplayNames('en', { type: 'language', fallback: 'code' });

function inTwoLanguages(
  s: Subject,
  p: WrittenPage,
  w: WrittenWidget,
  other: WrittenWidget,
  product: Product,
): Found {
  const [first, second] = [langOf(s, other), langOf(s, w)];
  return {
    about: `${p.path} ${product.id} in two languages`,
    place: onPage(p, w),
    title: `${product.name} speaks ${languageNames.of(first)} and ${languageNames.of(second)} on one page`,
    meets: 'Price, stock and button of the same product read differently a few lines apart.',
    facts: [first, second],
    mends: [
      ...settle(s, w.placement, `Let both speak ${languageNames.of(first)}`, { lang: textOf(other, 'lang') }),
      ...takeAway(s, w.placement, 'Take the second away'),
      openBench(p.path, 'Choose one language for both widgets.'),
    ],
  };
}
