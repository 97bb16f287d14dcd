import { onGoods, onPage, openGoods, type Rule } from '../../rule';
import { widgetsOnce, widgetKey } from '../../place-of-placement';
import { slugsOf } from '../../widget-goods';

/** Goods that only those with a link should meet, on a public page. */
export const byLinkInList: Rule = {
  name: 'by-link-in-list',
  about:
    'A product that is sold by its link alone, and stands in a row or card of a public page, or in the site map.',
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    for (const [page, w] of widgetsOnce(s))
      for (const slug of slugsOf(w)) {
        const product = s.goods.bySlug.get(slug);
        if (product?.shows !== 'link') continue;
        // One card or button on a page that no menu and no link leads to is just what a link is for.
        const linked = s.pages.some((o) => o.path !== page.path && o.links.some((l) => l.to === page.path));
        if (!linked && page.part === '' && s.pages.length > 1) continue;
        yield {
          about: `${widgetKey(page, w)} ${product.id}`,
          place: onPage(page, w),
          title: `“${product.name}” is sold by link alone, and stands on a public page`,
          meets: 'Everybody who comes by can buy what was meant for a few.',
          mends: [
            { do: 'goods', label: 'Show it to everybody', id: product.id, set: { shows: 'shown' } },
            ...(s.placements.has(w.placement) && w.kind !== 'row'
              ? [{ do: 'take-away' as const, label: 'Take the widget away', placement: w.placement }]
              : []),
            openGoods(product, 'Decide who meets it: everybody, or those with its link.'),
          ],
        };
      }
    for (const product of s.goods.all)
      if (
        product.shows === 'link' &&
        s.site.mapped.some((a) => a.includes(`goods=${product.slug}`) || a.endsWith(`/goods/${product.slug}`))
      )
        yield {
          about: `map ${product.id}`,
          place: onGoods(product),
          title: `“${product.name}” is sold by link alone, and stands in the site map`,
          meets: 'Search engines show it to everybody.',
          mends: [openGoods(product, 'Take its address out of sitemap.xml.')],
        };
  },
};
