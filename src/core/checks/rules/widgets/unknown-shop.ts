import { onPage, openBench, type Rule } from '../../rule';
import { widgetKey, widgetsOnce } from '../../place-of-placement';

/** A widget that asks another shop than this one. */
export const unknownShop: Rule = {
  name: 'unknown-shop',
  about:
    'A widget that asks a shop at another address: copied from elsewhere, or from before the shop moved.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    const own = trimmed(s.site.shopUrl);
    for (const [page, w] of widgetsOnce(s)) {
      if (!w.shop || trimmed(w.shop) === own) continue;
      yield {
        about: widgetKey(page, w),
        place: onPage(page, w),
        title: `It asks another shop: ${w.shop.replace(/^https?:\/\//, '').slice(0, 60)}`,
        meets: 'What they order there never comes to you, or nothing answers at all.',
        facts: w.shop,
        mends: [
          openBench(
            page.path,
            `Take the code in line ${w.line} out of your file and place the widget on the bench.`,
          ),
        ],
      };
    }
  },
};

const trimmed = (url: string): string => url.replace(/^https?:/, '').replace(/\/$/, '');
