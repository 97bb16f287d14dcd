import type { MenuItem } from './menu';
import type { PagePath } from './paths';
import { addressOf } from './paths';

/** A part of the site that its owner thinks of as one: an item of the menu with what it nests, or a folder. */
export interface Section {
  /** The address it begins at: "/journal/". */
  readonly id: string;
  readonly name: string;
  readonly pages: number;
}

/**
 * Sections by menu and by address: each item of the menu's first level is one, with what it nests and what lies below
 * its address; pages that no item leads to belong to the folder they lie in.
 */
export function sectionsOf(
  paths: readonly PagePath[],
  menu: readonly MenuItem[],
  titleOf: (path: PagePath) => string,
): { sections: Section[]; of: Map<PagePath, string> } {
  const { of, names } = sectionsOfMenu(menu);
  const folders = [...names.keys()]
    .filter((id) => id !== '/' && id.endsWith('/'))
    .sort((a, b) => b.length - a.length);
  for (const path of paths) {
    if (of.has(path)) continue;
    const address = addressOf(path);
    const home =
      folders.find((f) => address.startsWith(f)) ?? (path.includes('/') ? `/${address.split('/')[1]}/` : '');
    of.set(path, home);
    if (home && !names.has(home)) names.set(home, titleOf(paths.find((p) => addressOf(p) === home) ?? path));
  }
  return { of, sections: counted(of, names) };
}

const nestedPages = (item: MenuItem): PagePath[] => [
  ...(item.page ? [item.page] : []),
  ...item.children.flatMap(nestedPages),
];

function sectionsOfMenu(menu: readonly MenuItem[]) {
  const of = new Map<PagePath, string>();
  const names = new Map<string, string>();
  for (const item of menu) {
    const [head, ...rest] = nestedPages(item);
    if (!head || of.has(head)) continue;
    const id = addressOf(head);
    names.set(id, item.label);
    for (const page of [head, ...rest]) if (!of.has(page)) of.set(page, id);
  }
  return { of, names };
}

function counted(of: ReadonlyMap<PagePath, string>, names: ReadonlyMap<string, string>): Section[] {
  const counts = new Map<string, number>();
  for (const id of of.values()) counts.set(id, (counts.get(id) ?? 0) + 1);
  return [...names]
    .map(([id, name]) => ({ id, name, pages: counts.get(id) ?? 0 }))
    .filter((s) => s.pages > 0);
}
