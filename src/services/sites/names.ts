import type { MenuItem } from '../../core/site/menu';
import type { SiteReading } from '../../core/site/read-site';
import type { Placement } from '../../core/placement/placement';
import type { Site } from './site';

/** "Every page", the page's name in the menu or title, or a count. */
export function placeName(site: Pick<Site, 'reading'>, p: Pick<Placement, 'reach'>): string {
  if (p.reach.to === 'every')
    return p.reach.except.length ? `Every page but ${p.reach.except.length}` : 'Every page';
  if (p.reach.to === 'pages')
    return p.reach.pages.length === 1
      ? pageName(site, p.reach.pages[0] ?? '')
      : `${p.reach.pages.length} pages`;
  if (p.reach.to === 'page') return pageName(site, p.reach.page);
  if (p.reach.to === 'chrome') return `Pages like ${pageName(site, p.reach.like)}`;
  if (p.reach.to === 'kind') return `Pages of kind ${p.reach.kind}`;
  const id = p.reach.section;
  return `All of ${site.reading.sections.find((s) => s.id === id)?.name ?? id}`;
}

/** What the menu calls a page, else its heading, its title, its path. */
export const pageName = ({ reading }: Pick<Site, 'reading'>, path: string): string =>
  namesIn(reading).get(path) ?? path;

/** Names of all pages of a reading, worked out once: whoever asks for one mostly asks for thousands. */
const known = new WeakMap<SiteReading, ReadonlyMap<string, string>>();

function namesIn(reading: SiteReading): ReadonlyMap<string, string> {
  const found = known.get(reading) ?? workOut(reading);
  known.set(reading, found);
  return found;
}

function workOut({ menu, pages }: SiteReading): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  const put = (path: string | undefined, name: string) => {
    if (path !== undefined && name && !names.has(path)) names.set(path, name);
  };
  const visit = (items: readonly MenuItem[]) => {
    for (const i of items) {
      put(i.page, i.label);
      visit(i.children);
    }
  };
  visit(menu);
  for (const p of pages) put(p.path, p.heading || p.title);
  return names;
}
