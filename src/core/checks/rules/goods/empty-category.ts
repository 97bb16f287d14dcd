import { onPage, openBench, type Rule } from '../../rule';

/** A link to a category of the shop in which there is nothing. */
export const emptyCategory: Rule = {
  name: 'empty-category',
  about: 'A menu item or link to a category of the shop that is empty or not there.',
  weight: 'away',
  reads: ['pages', 'goods'],
  *find(s) {
    const shop = s.shopPages.find((p) => p.part === 'shop')?.path;
    const met = new Set<string>();
    for (const p of s.pages)
      for (const l of p.links) {
        const asked = /[?&]category=([^&#]+)/.exec(l.href)?.[1];
        if (!asked || l.to !== shop || !shop) continue;
        const name = decoded(asked);
        const path = s.goods.pathNow(name);
        const found = s.goods.categories.find((c) => c.path === path || c.slug === path);
        if ((found && found.count > 0) || met.has(name)) continue;
        met.add(name);
        yield {
          about: name,
          place: onPage(p, l),
          title: found
            ? `“${l.text}” leads to an empty category`
            : `“${l.text}” leads to a category that is not there`,
          meets: 'They read that there is nothing here.',
          weight: l.inMenu ? 'away' : 'untidy',
          mends: [openBench(p.path, 'Put goods into the category, or take the link out.')],
        };
      }
  },
};

function decoded(text: string): string {
  try {
    return decodeURIComponent(text.replace(/\+/g, ' '));
  } catch {
    return text;
  }
}
