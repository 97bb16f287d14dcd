import type { Product } from '../../../goods/product';
import type { Mend } from '../../finding';
import { onPage, openBench, type Rule, settle, takeAway } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';
import type { Subject } from '../../subject';
import { slugsOf } from '../../widget-goods';
import type { WrittenPage, WrittenWidget } from '../../written/facts';

/** A widget that names a product which is not in the goods, or not to be seen. */
export const unknownGoods: Rule = {
  name: 'unknown-goods',
  about: 'A widget that shows a product which is not in the goods any more, or which is hidden.',
  weight: 'sale',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s))
      for (const slug of slugsOf(w)) if (!isToBeSeen(s, slug)) yield unseen(s, page, w, slug);
  },
};

function unseen(s: Subject, page: WrittenPage, w: WrittenWidget, slug: string) {
  const product = s.goods.bySlug.get(slug);
  const many = slugsOf(w).length > 1;
  return {
    about: `${widgetKey(page, w)} ${slug}`,
    place: onPage(page, w),
    title: product ? `“${product.name}” is hidden` : `No product is called “${slug}”`,
    meets: many
      ? 'A card is missing from the row.'
      : 'They see a hole, or a link to a page that says that there is no such thing.',
    weight: many ? ('untidy' as const) : ('sale' as const),
    mends: mendsFor(s, page.path, w.placement, product),
  };
}

function mendsFor(s: Subject, page: string, placement: string, product: Product | undefined): Mend[] {
  const named = s.placements.get(placement)?.settings.goods;
  const show: Mend[] = product
    ? [{ do: 'goods', label: `Show “${product.name}”`, id: product.id, set: { shows: 'shown' } }]
    : [];
  const without = Array.isArray(named)
    ? settle(s, placement, 'Leave it out of the row', {
        goods: named.filter((g) => isToBeSeen(s, String(g))),
      })
    : takeAway(s, placement, 'Take the widget away');
  return [...show, ...without, openBench(page, 'Choose the widget and give it another product.')];
}

function isToBeSeen(s: Subject, slug: string): boolean {
  const p = s.goods.bySlug.get(slug);
  return p !== undefined && p.shows !== 'hidden';
}
