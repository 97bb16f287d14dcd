import type { Placement } from '../placement/placement';
import type { Place } from './finding';
import { onPage } from './rule';
import type { Subject } from './subject';
import type { WrittenPage, WrittenWidget } from './written/facts';

/** Where a placement is written; the first page of its reach where it is written nowhere. */
export function placeOfPlacement(s: Subject, p: Placement): Place {
  for (const page of s.pages) {
    const w = page.widgets.find((x) => x.placement === p.id);
    if (w) return onPage(page, w);
  }
  const { reach } = p;
  const named = {
    page: 'page' in reach ? reach.page : undefined,
    pages: 'pages' in reach ? reach.pages[0] : undefined,
  };
  const page = s.page(named.page ?? named.pages ?? '') || s.pages[0];
  return page ? onPage(page) : { on: 'site', name: 'Site' };
}

/** Every widget with the page it stands on; the same placement on many pages once, where it was met first. */
export function* widgetsOnce(s: Subject): Generator<[WrittenPage, WrittenWidget]> {
  const met = new Set<string>();
  for (const page of s.pages)
    for (const w of page.widgets) {
      if (w.placement && met.has(w.placement)) continue;
      if (w.placement) met.add(w.placement);
      yield [page, w];
    }
}

/** Who a widget is: its placement, or page and source. */
export const widgetKey = (page: WrittenPage, w: WrittenWidget): string =>
  w.placement || `${page.path} ${w.source}`;
