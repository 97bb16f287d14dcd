import { onPage, openBench, ownPages, type Rule } from '../../rule';
import { pathOf } from '../../../site/paths';

/** A link into a page, to a spot that is not on it. */
export const deadFragment: Rule = {
  name: 'dead-fragment',
  about: 'A link to a spot of a page (#name) that the page does not have.',
  weight: 'untidy',
  reads: ['pages'],
  *find(s) {
    const ids = new Map(s.pages.map((p) => [p.path as string, new Set(p.ids.map((i) => i.toLowerCase()))]));
    for (const p of ownPages(s)) {
      // Pages that are filled by script get their names from it.
      if (p.isShell) continue;
      for (const l of p.links) {
        const name = /#([^#]+)$/.exec(l.href)?.[1] ?? '';
        // "#/page" and "#!" are addresses of scripts; "#top" every page has (HTML standard, 7.4.6.4).
        if (!name || /^[/!]|[=&]|^:~:/.test(name) || /^top$/i.test(name)) continue;
        const target = l.href.startsWith('#')
          ? p.path
          : (l.to ?? (pathOf({ path: p.path }, l.href) === p.path ? p.path : undefined));
        const known = target === undefined ? undefined : ids.get(target);
        if (!known || known.has(decoded(name).toLowerCase())) continue;
        if (s.page(target ?? '')?.isShell) continue;
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
    }
  },
};

function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}
