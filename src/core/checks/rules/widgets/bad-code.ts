import { each, onPage, openBench, repaired, type Rule } from '../../rule';
import type { WrittenPage, WrittenWidget } from '../../written/facts';

/** A widget that was written by hand, and is not understood. */
export const badCode: Rule = {
  name: 'bad-code',
  about:
    'A widget written by hand that is not understood: an unknown kind, a setting that it does not have or that does not fit.',
  weight: 'broken',
  reads: ['pages'],
  *find(s) {
    for (const [p, w] of each(s.pages, (page) => page.widgets)) {
      if (!w.problem || s.placements.has(w.placement)) continue;
      const isText = w.spelling === 'shortcode';
      yield {
        about: `${p.path} ${w.source || w.kind}`,
        place: onPage(p, w),
        title: isText
          ? `${w.source.slice(0, 40)} is not understood`
          : `The widget “${w.kind}” is not understood`,
        meets: isText ? 'They read the code itself.' : 'They see a link, or nothing.',
        facts: w.problem,
        mends: [
          ...(isText ? [takenOff(p, w)] : []),
          openBench(p.path, `${w.problem} Place it anew on the bench, or mend the code in line ${w.line}.`),
        ],
      };
    }
  },
};

const takenOff = (p: WrittenPage, w: WrittenWidget) =>
  repaired('Take the text off', {
    page: p.path,
    block: w.block,
    text: w.source,
    nth: 0,
    act: { do: 'text', text: '' },
    words: `Code taken off: ${w.source.slice(0, 30)}`,
  });
