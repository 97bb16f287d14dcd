import type { Mend } from '../../finding';
import { count, onPage, openBench, type Rule } from '../../rule';

/** The script stands on a page more than once. */
export const scriptTwice: Rule = {
  name: 'script-twice',
  about: "The shop's script stands on a page more than once, or in two versions.",
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages) {
      if (p.scripts.length < 2) continue;
      const versions = new Set(p.scripts.map((x) => x.src.replace(/\?.*/, '')));
      const extra = p.scripts.find((x) => !x.ours && x.source);
      yield {
        about: p.path,
        place: onPage(p, extra ?? p.scripts[1]),
        title:
          versions.size > 1
            ? `The script stands there in ${count(versions.size, 'version')}`
            : `The script stands there ${p.scripts.length} times`,
        meets:
          versions.size > 1
            ? 'Which of them a shopper gets is chance: widgets may be drawn by an old one.'
            : 'The page fetches it again for nothing.',
        weight: versions.size > 1 ? 'broken' : 'untidy',
        facts: [...versions].sort(),
        mends: extra
          ? [
              {
                do: 'repair',
                label: 'Take the other out',
                repair: {
                  page: p.path,
                  block: '',
                  source: extra.source,
                  act: { do: 'out' },
                  words: "A second copy of the shop's script taken out",
                },
              } satisfies Mend,
            ]
          : [openBench(p.path, 'Take one of the two out of your own file.')],
      };
    }
  },
};
