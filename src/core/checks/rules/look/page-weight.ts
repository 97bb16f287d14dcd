import { onPage, openBench, type Rule } from '../../rule';

/** What the shop may put into a page's own bytes: beyond this a phone waits for it. Chosen by hand. */
const MOST = 60_000;

export const pageWeight: Rule = {
  name: 'page-weight',
  about: 'A page that became much heavier by what the shop put into it.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      if (p.part === '' && p.added > MOST)
        yield {
          about: p.path,
          place: onPage(p),
          title: `The shop put ${Math.round(p.added / 1000)} kB into the page`,
          meets: 'On a slow line the page comes later by that much.',
          mends: [openBench(p.path, 'Use one row in place of many cards.')],
        };
  },
};
