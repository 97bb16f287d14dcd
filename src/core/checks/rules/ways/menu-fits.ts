import { go, onPage, type Rule } from '../../rule';

/** The menu got an item more, and takes another row for it, or is cut off. Seen by a browser. */
export const menuFits: Rule = {
  name: 'menu-fits',
  about: 'A menu that wraps into one row more, or is cut off at some width, since the shop is in it.',
  weight: 'broken',
  reads: ['seen'],
  *find(s) {
    const cutBefore = new Set(
      [...s.seen.values()].flatMap((p) => p.at.filter((w) => w.menuCutBefore).map((w) => w.width)),
    );
    for (const p of s.pages) {
      const bad = (s.seen.get(p.path)?.at ?? []).filter(
        (w) =>
          (w.menuCut && !cutBefore.has(w.width)) || (w.menuRowsBefore > 0 && w.menuRows > w.menuRowsBefore),
      );
      const [first] = bad;
      if (!first) continue;
      yield {
        about: p.path,
        place: onPage(p),
        title: first.menuCut
          ? `The menu is cut off at ${bad.map((w) => `${w.width}`).join(', ')} px`
          : `The menu needs ${first.menuRows} rows at ${bad.map((w) => `${w.width}`).join(', ')} px, it had ${first.menuRowsBefore}`,
        meets: 'The header looks as if something went wrong, and the last item is easily missed.',
        mends: [
          go('Open the menus', 'site', { lens: 'menus' }, 'Move an item below another, or shorten a name.'),
        ],
      };
    }
  },
};
