import type { Mend } from '../../finding';
import { pathOf } from '../../../site/paths';
import { nearestName } from '../../ways/nearest-name';
import { each, onPage, openBench, ownPages, repaired, type Rule } from '../../rule';
import type { WrittenLink, WrittenPage } from '../../written/facts';

/** Kinds of addresses that a server may make up: nobody can tell from files that they are dead. */
const madeUp = /\.(?:php|asp|aspx|cgi|pl|jsp)$|[?]/i;

/** A link of the owner's to a file that is not there. */
export const deadLink: Rule = {
  name: 'dead-link',
  about: 'A link to a page or file of the site that is not there.',
  many: 'links that lead nowhere',
  weight: 'away',
  reads: ['pages'],
  *find(s) {
    const files = s.pages.map((p) => p.path);
    for (const [p, l] of each(ownPages(s), (page) => page.links)) {
      if (l.to !== undefined || !isOwn(p.path, l.href)) continue;
      yield {
        about: `${p.path} ${l.href}`,
        place: onPage(p, l),
        title: `“${l.text || l.href}” leads nowhere`,
        meets: `Who presses it on “${p.name}” reads that ${l.href} was not found.`,
        weight: l.inMenu || l.region === 'header' ? 'broken' : 'untidy',
        mends: [
          ...toNearest(p, l, files),
          openBench(
            p.path,
            `Line ${l.line} of ${p.path}: take the link off, or give it an address that is there.`,
          ),
        ],
      };
    }
  },
};

/** The page of that name that there is. */
function toNearest(p: WrittenPage, l: WrittenLink, files: readonly string[]): Mend[] {
  const near = nearestName(pathOf({ path: p.path }, l.href) ?? '', files);
  if (!near || !l.source) return [];
  const value =
    '../'.repeat(p.path.split('/').length - 1) + near.replace(/(^|\/)index\.html?$/, '$1') || './';
  const act = { do: 'attribute' as const, name: 'href', value };
  const words = `“${l.text}” leads to ${near}`;
  const repair = { page: p.path, block: l.block, source: l.source, act, words };
  return [repaired(`Lead it to ${near}`, repair, 'Lead each to the nearest name')];
}

function isOwn(from: string, href: string): boolean {
  if (/^\s*(?:https?:)?\/\//i.test(href) || madeUp.test(href.replace(/#.*/, ''))) return false;
  const path = pathOf({ path: from }, href);
  return path !== undefined && path !== '' && !/[{}<>]|%7b/i.test(href);
}
