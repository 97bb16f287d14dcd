import { onGoods, onPage, openGoods, type Rule, takeAway } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';
import type { Subject } from '../../subject';
import { slugsOf } from '../../widget-goods';
import type { WrittenPage } from '../../written/facts';

/** Goods that only those with a link should meet, on a public page. */
export const byLinkInList: Rule = {
  name: 'by-link-in-list',
  about:
    'A product that is sold by its link alone, and stands in a row or card of a public page, or in the site map.',
  weight: 'two',
  reads: ['pages', 'goods'],
  *find(s) {
    yield* onPublicPages(s);
    for (const product of s.goods.all)
      if (product.shows === 'link' && isMapped(s, product.slug))
        yield {
          about: `map ${product.id}`,
          place: onGoods(product),
          title: `“${product.name}” is sold by link alone, and stands in the site map`,
          meets: 'Search engines show it to everybody.',
          mends: [openGoods(product, 'Take its address out of sitemap.xml.')],
        };
  },
};

function* onPublicPages(s: Subject) {
  for (const [page, w] of widgetsOnce(s))
    for (const slug of slugsOf(w)) {
      const product = s.goods.bySlug.get(slug);
      if (product?.shows !== 'link' || !isPublic(s, page)) continue;
      yield {
        about: `${widgetKey(page, w)} ${product.id}`,
        place: onPage(page, w),
        title: `“${product.name}” is sold by link alone, and stands on a public page`,
        meets: 'Everybody who comes by can buy what was meant for a few.',
        mends: [
          { do: 'goods' as const, label: 'Show it to everybody', id: product.id, set: { shows: 'shown' } },
          ...(w.kind === 'row' ? [] : takeAway(s, w.placement, 'Take the widget away')),
          openGoods(product, 'Decide who meets it: everybody, or those with its link.'),
        ],
      };
    }
}

/** A page that no menu and no link leads to is just what a link is for. */
const isPublic = (s: Subject, page: WrittenPage): boolean =>
  page.part !== '' ||
  s.pages.length === 1 ||
  s.pages.some((o) => o.path !== page.path && o.links.some((l) => l.to === page.path));

const isMapped = (s: Subject, slug: string): boolean =>
  s.site.mapped.some((a) => a.includes(`goods=${slug}`) || a.endsWith(`/goods/${slug}`));
