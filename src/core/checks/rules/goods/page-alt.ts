import { each, onPage, openBench, ownPages, type Rule } from '../../rule';
import { isFileName } from './alt-missing';

/** Pictures of the owner's pages that are links without words. */
export const pageAlt: Rule = {
  name: 'page-alt',
  about:
    'A picture of a page that says nothing to those who do not see it: a link with nothing but a picture without words, or a file name for words.',
  many: 'pictures without words',
  weight: 'hard',
  reads: ['pages'],
  *find(s) {
    for (const [p, x] of each(ownPages(s), (page) => page.pictures)) {
      const isName = x.alt !== null && isFileName(x.alt);
      const isDumb = x.isLink && !x.alt?.trim();
      if (!isName && !isDumb) continue;
      yield {
        about: `${p.path} ${x.src}`,
        place: onPage(p, x),
        title: isName ? `The words for a picture are “${x.alt}”` : 'A link that is a picture without words',
        meets: isName
          ? `A screen reader reads “${x.alt}” aloud.`
          : 'A screen reader says “link”, and nobody knows where it leads.',
        weight: isName ? 'untidy' : 'hard',
        mends: [openBench(p.path, `Line ${x.line} of ${p.path}: write what the picture shows into alt="…".`)],
      };
    }
  },
};
