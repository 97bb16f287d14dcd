/** A way into the catalogue. `path` names it with those above it: "Baskets / Trugs". */
export interface Category {
  readonly id: string;
  readonly slug: string;
  readonly name: string;
  readonly path: string;
  readonly parent: string | null;
  readonly order: number;
  /** Paths it had before it was renamed or moved, the latest last: widgets on live pages and discounts go on meaning it. */
  readonly former: readonly string[];
}

/** A category with how many products it and those below it hold. */
export interface CategoryNode extends Category {
  readonly count: number;
  readonly children: readonly CategoryNode[];
}

const BETWEEN = ' / ';
/** Levels that categories nest; more are read as one name. */
const DEEPEST = 4;

/** "Baskets /Trugs" → ["Baskets", "Trugs"]. */
export const namesIn = (path: string): string[] =>
  path
    .split('/')
    .map((n) => n.trim().replace(/\s+/g, ' '))
    .filter(Boolean)
    .slice(0, DEEPEST);
export const pathOfNames = (names: readonly string[]): string => names.join(BETWEEN);

/** Rows as they are stored, with the path of each. A parent that is gone, or that leads round in a circle, is none. */
export function withPaths(rows: readonly Omit<Category, 'path'>[]): Category[] {
  const byId = new Map(rows.map((r) => [r.id, r]));
  return rows.map((row) => {
    const names: string[] = [];
    const met = new Set<string>();
    for (
      let at: Omit<Category, 'path'> | undefined = row;
      at && !met.has(at.id);
      at = at.parent === null ? undefined : byId.get(at.parent)
    ) {
      met.add(at.id);
      names.unshift(at.name);
    }
    return { ...row, path: pathOfNames(names) };
  });
}

/** Which category a path means now: the one that has it, else one that had it before. Paths that mean none stay as they are. */
export function pathsNow(categories: readonly Category[]): ReadonlyMap<string, string> {
  const now = new Map<string, string>();
  for (const c of categories) for (const path of c.former) now.set(path, c.path);
  for (const c of categories) now.delete(c.path);
  return now;
}

/**
 * The categories as a tree in the owner's order. A product counts once for each category it is in or below. Those that
 * hold nothing are left out where `hideEmpty` is set.
 */
export function categoryTree(
  categories: readonly Category[],
  products: readonly { readonly categories: readonly string[] }[],
  hideEmpty: boolean,
): CategoryNode[] {
  const counts = new Map<string, number>();
  for (const p of products) {
    const within = new Set(
      p.categories.flatMap((path) => {
        const names = namesIn(path);
        return names.map((_, n) => pathOfNames(names.slice(0, n + 1)));
      }),
    );
    for (const path of within) counts.set(path, (counts.get(path) ?? 0) + 1);
  }
  const children = new Map<string | null, Category[]>();
  for (const c of categories) children.set(c.parent, [...(children.get(c.parent) ?? []), c]);
  const below = (parent: string | null): CategoryNode[] =>
    (children.get(parent) ?? [])
      .sort((a, b) => a.order - b.order)
      .map((c) => ({ ...c, count: counts.get(c.path) ?? 0, children: below(c.id) }))
      .filter((c) => !hideEmpty || c.count > 0);
  return below(null);
}

/** Whether a product is in a category or in one below it. */
export const isIn = (p: { readonly categories: readonly string[] }, path: string): boolean =>
  p.categories.some((c) => c === path || c.startsWith(path + BETWEEN));
