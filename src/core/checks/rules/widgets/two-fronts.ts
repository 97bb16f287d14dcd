import { count, onPage, openBench, type Rule } from '../../rule';

/** Two shop fronts on one page answer the same address. */
export const twoFronts: Rule = {
  name: 'two-fronts',
  about: 'Two shop fronts on one page: both answer to the same address, and turn their pages together.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages) {
      const fronts = p.widgets.filter((w) => w.kind === 'shop');
      const extra = fronts.findLast((w) => s.placements.has(w.placement));
      if (fronts.length < 2) continue;
      yield {
        about: p.path,
        place: onPage(p, extra ?? fronts[1]),
        title: `${count(fronts.length, 'shop front')} on one page`,
        meets: 'Who opens a product in one sees it open in the other as well.',
        mends: [
          ...(extra
            ? [{ do: 'take-away' as const, label: 'Take the second away', placement: extra.placement }]
            : []),
          openBench(p.path, 'Leave one of them, or make a row of the other.'),
        ],
      };
    }
  },
};
