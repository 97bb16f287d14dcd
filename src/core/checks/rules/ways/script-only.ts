import { onPage, openBench, ownPages, type Rule } from '../../rule';

/** A page that is empty until a script has filled it, and sells in there. */
export const scriptOnly: Rule = {
  name: 'script-only',
  about: 'A page that sells, and holds nothing to read until a script has run.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    for (const p of ownPages(s))
      if (p.isShell && p.widgets.length > 0)
        yield {
          about: p.path,
          place: onPage(p),
          title: 'It sells by script alone',
          meets: 'Where a script is stopped, on a slow line or by a search engine, the page is white.',
          mends: [
            openBench(
              p.path,
              'Write what the page says into its HTML too; a product card of Green Stall works without script.',
            ),
          ],
        };
  },
};
