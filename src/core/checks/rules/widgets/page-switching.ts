import { onPage, openBench, type Rule } from '../../rule';

/** The site turns its pages by script, and the cart stands in what is turned. */
export const pageSwitching: Rule = {
  name: 'page-switching',
  about: 'On a site that turns pages by script the cart stands in the part that is turned, and goes with it.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    if (!s.site.switches) return;
    const met = new Set<string>();
    for (const p of s.pages) {
      if (p.part) continue;
      const w = p.widgets.find((x) => x.kind === 'cart' && x.region === 'main' && !met.has(x.placement));
      if (!w || p.widgets.some((x) => x.kind === 'cart' && x.region !== 'main')) continue;
      met.add(w.placement);
      yield {
        about: w.placement || p.path,
        place: onPage(p, w),
        title: 'The cart is lost when the page is turned',
        meets: 'They add something, press a link, and the cart is gone.',
        mends: [openBench(p.path, 'Put the cart into the header, which stays.')],
      };
    }
  },
};
