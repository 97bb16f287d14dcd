import { nearestName } from '../../ways/nearest-name';
import { onPage, openBench, ownPages, type Rule } from '../../rule';
import { pathOf } from '../../../site/paths';

/** Kinds of addresses that a server may make up: nobody can tell from files that they are dead. */
const madeUp = /\.(?:php|asp|aspx|cgi|pl|jsp)$|[?]/i;

/** A link of the owner's to a file that is not there. */
export const deadLink: Rule = {
  name: 'dead-link',
  about: 'A link to a page or file of the site that is not there.',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    const files = s.pages.map((p) => p.path);
    for (const p of ownPages(s))
      for (const l of p.links) {
        if (l.to !== undefined || !isOwn(p.path, l.href)) continue;
        const near = nearestName(pathOf({ path: p.path }, l.href) ?? '', files);
        yield {
          about: `${p.path} ${l.href}`,
          place: onPage(p, l),
          title: `“${l.text || l.href}” leads nowhere`,
          meets: `Who presses it on “${p.name}” reads that ${l.href} was not found.`,
          weight: l.inMenu || l.region === 'header' ? 'broken' : 'untidy',
          mends: [
            ...(near
              ? [
                  {
                    do: 'repair' as const,
                    label: `Lead it to ${near}`,
                    repair: {
                      page: p.path,
                      block: l.block,
                      source: l.source,
                      act: { do: 'attribute' as const, name: 'href', value: fromTo(p.path, near) },
                      words: `“${l.text}” leads to ${near}`,
                    },
                  },
                ].filter((m) => m.repair.source)
              : []),
            openBench(
              p.path,
              `Line ${l.line} of ${p.path}: take the link off, or give it an address that is there.`,
            ),
          ],
        };
      }
  },
};

function isOwn(from: string, href: string): boolean {
  if (/^\s*(?:https?:)?\/\//i.test(href) || madeUp.test(href.replace(/#.*/, ''))) return false;
  const path = pathOf({ path: from }, href);
  return path !== undefined && path !== '' && !/[{}<>]|%7b/i.test(href);
}

/** A relative address from one page to another. */
function fromTo(from: string, to: string): string {
  return '../'.repeat(from.split('/').length - 1) + to.replace(/(^|\/)index\.html?$/, '$1') || './';
}
