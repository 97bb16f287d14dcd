import { onPage, openBench, type Rule } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';

/** A button for one choice of a product, and the product has no such choice. */
export const unknownChoice: Rule = {
  name: 'unknown-choice',
  about: 'A button or a price for a choice ("M, natural") that the product does not have.',
  weight: 'away',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s)) {
      const { goods, choice } = w.settings ?? {};
      const product = typeof goods === 'string' ? s.goods.bySlug.get(goods) : undefined;
      if (!product || typeof choice !== 'string' || !choice) continue;
      const has = product.variants.map((v) => v.values.join(', '));
      if (has.some((c) => c.toLowerCase() === choice.toLowerCase())) continue;
      const own = s.placements.get(w.placement);
      yield {
        about: widgetKey(page, w),
        place: onPage(page, w),
        title: `${product.name} has no choice “${choice}”`,
        meets: 'The button leads to the product, where they have to choose once more.',
        facts: [choice, has.slice(0, 20)],
        mends: [
          ...(own
            ? [
                {
                  do: 'settings' as const,
                  label: 'Let them choose',
                  placement: own.id,
                  settings: { ...own.settings, choice: '' },
                },
              ]
            : []),
          openBench(page.path, `Choose one of: ${has.slice(0, 6).join('; ')}.`),
        ],
      };
    }
  },
};
