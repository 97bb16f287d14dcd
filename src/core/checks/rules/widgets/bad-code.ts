import { onPage, openBench, type Rule } from '../../rule';

/** A widget that was written by hand, and is not understood. */
export const badCode: Rule = {
  name: 'bad-code',
  about:
    'A widget written by hand that is not understood: an unknown kind, a setting that it does not have or that does not fit.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages)
      for (const w of p.widgets) {
        if (!w.problem || s.placements.has(w.placement)) continue;
        yield {
          about: `${p.path} ${w.source || w.kind}`,
          place: onPage(p, w),
          title:
            w.spelling === 'shortcode'
              ? `${w.source.slice(0, 40)} is not understood`
              : `The widget “${w.kind}” is not understood`,
          meets: w.spelling === 'shortcode' ? 'They read the code itself.' : 'They see a link, or nothing.',
          facts: w.problem,
          mends: [
            ...(w.spelling === 'shortcode'
              ? [
                  {
                    do: 'repair' as const,
                    label: 'Take the text off',
                    repair: {
                      page: p.path,
                      block: w.block,
                      text: w.source,
                      nth: 0,
                      act: { do: 'text' as const, text: '' },
                      words: `Code taken off: ${w.source.slice(0, 30)}`,
                    },
                  },
                ]
              : []),
            openBench(p.path, `${w.problem} Place it anew on the bench, or mend the code in line ${w.line}.`),
          ],
        };
      }
  },
};
