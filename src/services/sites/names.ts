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

export function pageName({ reading }: Pick<Site, 'reading'>, path: string): string {
  const page = reading.pages.find((x) => x.path === path);
  const flat = (items: typeof reading.menu): typeof reading.menu =>
    items.flatMap((i) => [i, ...flat(i.children)]);
  return flat(reading.menu).find((i) => i.page === path)?.label || page?.heading || page?.title || path;
}
