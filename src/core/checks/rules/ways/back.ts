import { onPage, openBench, type Rule } from '../../rule';

/** The cart or the checkout leads on, and nowhere back. */
export const noWayBack: Rule = {
  name: 'way-back',
  about: 'A page of the shop (cart, checkout, thank-you) without any link back to the site.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    const own = new Set(s.pages.filter((p) => p.part === '' || p.part === 'shop').map((p) => p.path));
    for (const p of s.pages) {
      if (!['cart', 'checkout', 'thanks', 'failed', 'lookup', 'account'].includes(p.part)) continue;
      if (p.links.some((l) => l.to !== undefined && own.has(l.to))) continue;
      yield {
        about: p.part,
        place: onPage(p),
        title: `${p.name} has no way back`,
        meets: 'Who wants to look at one more thing has only the back button of the browser.',
        mends: [
          openBench(
            p.path,
            'The page takes its header from your site, and that header holds no link. Put a menu or your name with a link into it.',
          ),
        ],
      };
    }
  },
};
