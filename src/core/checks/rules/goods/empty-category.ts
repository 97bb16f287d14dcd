import { each, onPage, openBench, type Rule } from '../../rule';

/** A link to a category of the shop in which there is nothing. */
export const emptyCategory: Rule = {
  name: 'empty-category',
  about: 'A menu item or link to a category of the shop that is empty or not there.',
  weight: 'away',
  reads: ['pages', 'goods'],
  *find(s) {
    const shop = s.shopPages.find((p) => p.part === 'shop')?.path;
    const met = new Set<string>();
    for (const [p, l] of each(shop ? s.pages : [], (page) => page.links)) {
      const name = l.to === shop ? categoryIn(l.href) : '';
      if (!name || met.has(name)) continue;
      met.add(name);
      const path = s.goods.pathNow(name);
      const found = s.goods.categories.find((c) => c.path === path || c.slug === path);
      if (found && found.count > 0) continue;
      yield {
        about: name,
        place: onPage(p, l),
        title: `“${l.text}” leads to ${found ? 'an empty category' : 'a category that is not there'}`,
        meets: 'They read that there is nothing here.',
        weight: l.inMenu ? 'away' : 'untidy',
        mends: [openBench(p.path, 'Put goods into the category, or take the link out.')],
      };
    }
  },
};

function categoryIn(href: string): string {
  const asked = /[?&]category=([^&#]+)/.exec(href)?.[1] ?? '';
  try {
    return decodeURIComponent(asked.replace(/\+/g, ' '));
  } catch {
    return asked;
  }
}
