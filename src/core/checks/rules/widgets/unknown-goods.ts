import type { Product } from '../../../goods/product';
import type { Mend } from '../../finding';
import { onPage, openBench, type Rule } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';
import type { Subject } from '../../subject';
import { slugsOf } from '../../widget-goods';

/** A widget that names a product which is not in the goods, or not to be seen. */
export const unknownGoods: Rule = {
  name: 'unknown-goods',
  about: 'A widget that shows a product which is not in the goods any more, or which is hidden.',
  weight: 'sale',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s))
      for (const slug of slugsOf(w)) {
        const product = s.goods.bySlug.get(slug);
        if (product && product.shows !== 'hidden') continue;
        const many = slugsOf(w).length > 1;
        yield {
          about: `${widgetKey(page, w)} ${slug}`,
          place: onPage(page, w),
          title: product ? `“${product.name}” is hidden` : `No product is called “${slug}”`,
          meets: many
            ? 'A card is missing from the row.'
            : 'They see a hole, or a link to a page that says that there is no such thing.',
          weight: many ? 'untidy' : 'sale',
          mends: mendsFor(s, page.path, w.placement, product),
        };
      }
  },
};

function mendsFor(s: Subject, page: string, placement: string, product: Product | undefined): Mend[] {
  const own = s.placements.get(placement);
  const names = own && Array.isArray(own.settings.goods);
  return [
    ...(product
      ? [{ do: 'goods' as const, label: `Show “${product.name}”`, id: product.id, set: { shows: 'shown' } }]
      : []),
    ...(own && !names ? [{ do: 'take-away' as const, label: 'Take the widget away', placement }] : []),
    ...(own && names
      ? [
          {
            do: 'settings' as const,
            label: 'Leave it out of the row',
            placement,
            settings: { ...own.settings, goods: (own.settings.goods as string[]).filter((g) => known(s, g)) },
          },
        ]
      : []),
    openBench(page, 'Choose the widget and give it another product.'),
  ];
}

const known = (s: Subject, slug: string): boolean => {
  const p = s.goods.bySlug.get(slug);
  return p !== undefined && p.shows !== 'hidden';
};
