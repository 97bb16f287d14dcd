import { priceFrom } from '../../../goods/price';
import { formatMoney } from '../../../money/format';
import { onPage, openBench, type Rule } from '../../rule';
import { priceMentions } from '../../prices/mention';

/** A button whose own text gives another price than the product has beside it. */
export const contradict: Rule = {
  name: 'widgets-contradict',
  about:
    "A button whose own words give another price than the product's, which stands beside it or in the cart.",
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    const met = new Set<string>();
    for (const p of s.pages)
      for (const w of p.widgets) {
        const { goods, text } = w.settings ?? {};
        const product = typeof goods === 'string' ? s.goods.bySlug.get(goods) : undefined;
        if (!product || typeof text !== 'string' || met.has(w.placement || `${p.path} ${w.line}`)) continue;
        met.add(w.placement || `${p.path} ${w.line}`);
        const [said] = priceMentions(text, s.site.currency);
        const { least } = priceFrom(product, s.now);
        if (!said || said.currency !== s.site.currency || said.amount === least) continue;
        const money = formatMoney({ amount: least, currency: s.site.currency }, s.site.locale);
        const own = s.placements.get(w.placement);
        yield {
          about: `${w.placement || p.path} ${product.id}`,
          place: onPage(p, w),
          title: `The button says ${said.text}, ${product.name} costs ${money}`,
          meets: `Who presses “${text}” finds ${money} in the cart.`,
          mends: [
            ...(own
              ? [
                  {
                    do: 'settings' as const,
                    label: `Write ${money}`,
                    placement: own.id,
                    settings: { ...own.settings, text: text.replace(said.text, money) },
                  },
                ]
              : []),
            openBench(p.path, 'Leave the price out of the text: the button can show it by itself.'),
          ],
        };
      }
  },
};
