import type { MenuItem } from '../../core/site/menu';
import type { PagePath } from '../../core/site/paths';
import type { Site } from './site';

/** The copy of the site's menu that changes are tried on and that owners are shown: which page it stands on, and its items. */
export interface UsualMenu {
  readonly path: PagePath;
  readonly items: readonly MenuItem[];
}

/** The menu of the front page; where that has none (a landing page), of the pages that most are like. */
export function usualMenu({ reading }: Pick<Site, 'reading'>): UsualMenu | undefined {
  const front = reading.pages[0];
  if (front && reading.menu.length > 0) return { path: front.path, items: reading.menu };
  const copy = [...reading.chrome].sort((a, b) => b.pages - a.pages).find((c) => c.menu.length > 0);
  return copy && { path: copy.model, items: copy.menu };
}
