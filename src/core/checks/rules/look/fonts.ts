import { go, onPage, type Rule } from '../../rule';

export const fontMissing: Rule = {
  name: 'font-missing',
  about: 'A font of the site that did not load in the page. Seen by a browser.',
  weight: 'untidy',
  reads: ['seen'],
  *find(s) {
    const met = new Set<string>();
    for (const p of s.pages)
      for (const font of s.seen.get(p.path)?.fontsMissing ?? []) {
        if (met.has(font)) continue;
        met.add(font);
        yield {
          about: font,
          place: onPage(p),
          title: `The font ${font} did not load`,
          meets: 'Headings and text stand in another face than you chose; the shop beside them, too.',
          mends: [go('Open Look', 'look', {}, 'Put the font file where the style sheet looks for it.')],
        };
      }
  },
};
