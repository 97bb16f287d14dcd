import { pathOf } from '../../../site/paths';
import { each, onPage, openBench, ownPages, type Rule } from '../../rule';
import type { Subject } from '../../subject';
import type { WrittenLink, WrittenPage } from '../../written/facts';

/** A link into a page, to a spot that is not on it. */
export const deadFragment: Rule = {
  name: 'dead-fragment',
  about: 'A link to a spot of a page (#name) that the page does not have.',
  many: 'links to spots that are not there',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    const ids = new Map(s.pages.map((p) => [p.path as string, new Set(p.ids.map((i) => i.toLowerCase()))]));
    for (const [p, l] of each(ownPages(s), (page) => (page.isShell ? [] : page.links))) {
      const name = nameIn(l.href);
      const target = name ? targetOf(p, l) : undefined;
      const known = target === undefined ? undefined : ids.get(target);
      if (!name || !known || known.has(decoded(name).toLowerCase()) || isFilled(s, target)) continue;
      yield {
        about: `${p.path} ${l.href}`,
        place: onPage(p, l),
        title: `“${l.text || l.href}” leads to a spot that is not there`,
        meets: `Pressed on “${p.name}”, nothing seems to happen: no element is called ${name}.`,
        mends: [
          openBench(p.path, `Line ${l.line} of ${p.path}: name the spot id="${name}", or mend the link.`),
        ],
      };
    }
  },
};

/** The name a link's fragment gives; '' for addresses of scripts ("#/page", "#!"), and for "#top", which every page has (HTML standard, 7.4.6.4). */
function nameIn(href: string): string {
  const name = /#([^#]+)$/.exec(href)?.[1] ?? '';
  return /^[/!]|[=&]|^:~:|^top$/i.test(name) ? '' : name;
}

const targetOf = (p: WrittenPage, l: WrittenLink): string | undefined =>
  l.href.startsWith('#') || pathOf({ path: p.path }, l.href) === p.path ? p.path : l.to;

/** Pages that a script fills get their names from it. */
const isFilled = (s: Subject, path: string | undefined): boolean => s.page(path ?? '')?.isShell ?? false;

function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}
