import { count, onPage, openBench, type Rule } from '../../rule';

/** Spellings that are nothing without the script. */
const byScript = new Set(['element', 'shortcode']);

/** Widgets that need the script, on a page that has none. */
export const scriptMissing: Rule = {
  name: 'script-missing',
  about: 'A widget on a page that does not have the one script it needs.',
  weight: 'sale',
  reads: ['pages'],
  *find(s) {
    for (const p of s.pages) {
      const needs = p.widgets.filter((w) => w.problem === '' && byScript.has(w.spelling));
      const [first] = needs;
      // On pages that nothing was written into, code waits for a script that another page brings: a site that turns pages by script.
      if (!first || p.scripts.length > 0 || (s.site.switches && s.pages.some((o) => o.scripts.length > 0)))
        continue;
      if (needs.every((w) => w.kind === 'notice')) continue;
      const asText = needs.every((w) => w.spelling === 'shortcode');
      yield {
        about: p.path,
        place: onPage(p, first),
        title: `${count(needs.length, 'widget')} without the script`,
        meets: asText
          ? `They read ${first.source.slice(0, 40)} where something to buy should be.`
          : 'They see a plain link where the widget should be, or nothing at all.',
        mends: [
          openBench(
            p.path,
            `Place any widget on this page: the script comes with it. Or put <script async src="${s.site.scriptUrl}"></script> into the page once.`,
          ),
        ],
      };
    }
  },
};
