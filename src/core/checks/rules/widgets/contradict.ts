import { priceFrom } from '../../../goods/price';
import type { Product } from '../../../goods/product';
import { formatMoney } from '../../../money/format';
import type { Found } from '../../finding';
import { onPage, openBench, type Rule, settle } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';
import { priceMentions } from '../../prices/mention';
import type { Subject } from '../../subject';
import type { WrittenPage, WrittenWidget } from '../../written/facts';

/** A button whose own text gives another price than the product has beside it. */
export const contradict: Rule = {
  name: 'widgets-contradict',
  about:
    "A button whose own words give another price than the product's, which stands beside it or in the cart.",
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [p, w] of widgetsOnce(s)) {
      const { goods, text } = w.settings ?? {};
      const product = typeof goods === 'string' ? s.goods.bySlug.get(goods) : undefined;
      const found = product && typeof text === 'string' ? saysAnother(s, p, w, product, text) : undefined;
      if (found) yield found;
    }
  },
};

function saysAnother(
  s: Subject,
  p: WrittenPage,
  w: WrittenWidget,
  product: Product,
  text: string,
): Found | undefined {
  const { currency, locale } = s.site;
  const [says] = priceMentions(text, currency);
  const { least } = priceFrom(product, s.now);
  if (!says || says.currency !== currency || says.amount === least) return undefined;
  const money = formatMoney({ amount: least, currency }, locale);
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
