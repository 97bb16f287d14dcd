import { onPage, openBench, type Rule } from '../../rule';

/** A form for comments came along to a page of the shop. */
export const journalOnShop: Rule = {
  name: 'journal-on-shop',
  about:
    'A form for comments of the journal on a page of the shop: it came with the page that the shop took its looks from.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages) {
      const [form] = p.comments;
      if (!p.part || p.part === 'home' || !form) continue;
      yield {
        about: p.part,
        place: onPage(p, form),
        title: `A form for comments stands on “${p.name}”`,
        meets: 'Under what they pay for they are asked for a comment on a post.',
        mends: [
          openBench(
            p.path,
            'Say where the main part of your posts ends (Site, the page, Regions): what stands in it does not come along.',
          ),
        ],
      };
    }
  },
};
