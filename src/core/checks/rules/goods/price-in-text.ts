import { priceFrom } from '../../../goods/price';
import { formatMoney } from '../../../money/format';
import type { Product } from '../../../goods/product';
import type { Found, Mend } from '../../finding';
import { onPage, openBench, ownPages, repaired, type Rule } from '../../rule';
import { pricesNow } from '../../prices/prices-now';
import { isPriceNow, NameIndex, speaksOf } from '../../prices/speaks-of';
import type { Subject } from '../../subject';
import type { PriceText, WrittenPage } from '../../written/facts';

const indexes = new WeakMap<readonly Product[], NameIndex>();

/** A price that stands in the page's own text, and that the product has no more. */
export const priceInText: Rule = {
  name: 'price-in-text',
  about: 'A price in the text of a page, beside the name of a product that has another price now.',
  many: 'prices in texts that are no longer true',
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    const names = indexes.get(s.goods.shown) ?? new NameIndex(s.goods.shown);
    indexes.set(s.goods.shown, names);
    const allowed = new Map<string, ReadonlySet<number>>();
    for (const p of ownPages(s))
      for (const [t, nth] of counted(p.prices)) {
        const product = productOf(s, names, p, t);
        if (!product) continue;
        const now = allowed.get(product.id) ?? pricesNow(product, s.now);
        allowed.set(product.id, now);
        if (!now.has(t.mention.amount)) yield differs(s, p, t, product, nth);
      }
  },
};

/** Each price with its number among those that are written alike in the same block. */
function* counted(prices: readonly PriceText[]): Generator<[PriceText, number]> {
  const counts = new Map<string, number>();
  for (const t of prices) {
    const spot = `${t.block} ${t.mention.text}`;
    const nth = counts.get(spot) ?? 0;
    counts.set(spot, nth + 1);
    yield [t, nth];
  }
}

/** The product whose price of today it is meant to be. */
const productOf = (s: Subject, names: NameIndex, p: WrittenPage, t: PriceText): Product | undefined =>
  t.mention.currency === s.site.currency && isPriceNow(t) ? speaksOf(t, names, p.prices) : undefined;

function differs(s: Subject, p: WrittenPage, t: PriceText, product: Product, nth: number): Found {
  const { least, differs: several } = priceFrom(product, s.now);
  const money = formatMoney({ amount: least, currency: s.site.currency }, s.site.locale);
  const alike = writtenAs(t.mention.text, money);
  const words = `${t.mention.text} → ${money}, ${product.name}`;
  const base = { page: p.path, block: t.block, text: t.mention.text, nth, words };
  const mends: Mend[] = [
    repaired("Show today's price", {
      ...base,
      act: { do: 'price', goods: product.slug, choice: '' },
    }),
    repaired(`Write ${alike}`, { ...base, act: { do: 'text', text: alike } }, 'Write the prices of today'),
    openBench(p.path, `Line ${t.line} of ${p.path}.`),
  ];
  return {
    about: `${p.path} ${product.id} ${nth} ${t.mention.text}`,
    place: onPage(p, t),
    title: `The text says ${t.mention.text}, ${product.name} costs ${several ? 'from ' : ''}${money}`,
    meets: `“${excerpt(t)}” and ${money} in the cart.`,
    mends,
  };
}

/** Whole amounts are written as they were: £39 becomes £42, not £42.00, and € 39,- becomes € 42,-. */
export function writtenAs(was: string, now: string): string {
  if (/[.,]\d{2}(?!\d)/.test(was)) return now;
  const [dash] = /[.,][-–—]{1,2}/.exec(was) ?? [''];
  return now.replace(/[.,]00(?!\d)/, dash);
}

function excerpt({ text, mention }: PriceText): string {
  const from = Math.max(0, mention.at - 36);
  const to = Math.min(text.length, mention.at + mention.text.length + 24);
  return `${from > 0 ? '…' : ''}${text.slice(from, to).trim()}${to < text.length ? '…' : ''}`;
}
