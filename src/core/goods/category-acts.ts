import { fail, ok, type Result } from '../result';
import { type Category, namesIn, withPaths } from './category';
import { slugOf } from './product';

/** A category as it is stored. */
export type CategoryRow = Omit<Category, 'path'>;

/** Levels that categories nest. */
const DEEPEST = 4;

/** What an owner does to the ways into the catalogue; each gives the rows as they are after it. */
export type CategoryAct =
  | { readonly do: 'add'; readonly parent: string | null; readonly name: string; readonly id: string }
  | { readonly do: 'rename'; readonly id: string; readonly name: string }
  /** Beneath `parent`, before one of its children; last where that is null. */
  | {
      readonly do: 'move';
      readonly id: string;
      readonly parent: string | null;
      readonly before: string | null;
    }
  | { readonly do: 'remove'; readonly id: string };

/** Paths that are remembered of each category. */
const FORMER = 20;

/** What an act leaves, each category with the path it had until now among those it had before. */
export function actOnCategories(
  rows: readonly CategoryRow[],
  act: CategoryAct,
): Result<readonly CategoryRow[]> {
  const after = rowsAfter(rows, act);
  if (!after.ok) return after;
  const before = new Map(withPaths(rows).map((c) => [c.id, c.path]));
  const now = new Map(withPaths(after.value).map((c) => [c.id, c.path]));
  return ok(
    after.value.map((row) => {
      const [was, is] = [before.get(row.id), now.get(row.id)];
      return was === undefined || was === is
        ? row
        : { ...row, former: [...row.former.filter((p) => p !== was && p !== is), was].slice(-FORMER) };
    }),
  );
}

/**
 * The rows after an act. A renamed category keeps its address, so that links to it go on leading there; what was beneath a
 * removed one moves up into its place.
 */
function rowsAfter(rows: readonly CategoryRow[], act: CategoryAct): Result<readonly CategoryRow[]> {
  if (act.do === 'add') return added(rows, act);
  const known = rows.find((r) => r.id === act.id);
  if (!known) return fail('This category is gone. It may have been removed in another window.');
  if (act.do === 'rename') return renamed(rows, known, act.name);
  return act.do === 'move' ? moved(rows, known, act) : removed(rows, known);
}

/** One name, as an owner wrote it. */
function readName(written: string): Result<string> {
  const [name = '', ...more] = namesIn(written);
  if (more.length > 0) return fail('A name has no slash; put the category into another by moving it.');
  return name && name.length <= 60 ? ok(name) : fail('A category needs a name of at most 60 letters.');
}

function added(
  rows: readonly CategoryRow[],
  {
    id,
    parent,
    name: written,
  }: { readonly id: string; readonly parent: string | null; readonly name: string },
): Result<readonly CategoryRow[]> {
  const name = readName(written);
  if (!name.ok) return name;
  const clash = sameName(rows, parent, name.value, id);
  if (clash) return clash;
  if (parent !== null && !rows.some((r) => r.id === parent))
    return fail('The category it is to stand in is gone.');
  if (depthOf(rows, parent) >= DEEPEST) return fail(`Categories nest ${DEEPEST} deep at most.`);
  const slugs = new Set(rows.map((r) => r.slug));
  const slug = slugOf(name.value, (s) => slugs.has(s));
  return ok(numbered([...rows, { id, slug, name: name.value, parent, order: rows.length + 1, former: [] }]));
}

function renamed(
  rows: readonly CategoryRow[],
  one: CategoryRow,
  written: string,
): Result<readonly CategoryRow[]> {
  const name = readName(written);
  if (!name.ok) return name;
  const clash = sameName(rows, one.parent, name.value, one.id);
  return clash ?? ok(rows.map((r) => (r === one ? { ...r, name: name.value } : r)));
}

function moved(
  rows: readonly CategoryRow[],
  one: CategoryRow,
  { parent, before }: { readonly parent: string | null; readonly before: string | null },
): Result<readonly CategoryRow[]> {
  if (parent !== null && !rows.some((r) => r.id === parent))
    return fail('The category it is to stand in is gone.');
  if (parent === one.id || (parent !== null && isBelow(rows, parent, one.id)))
    return fail('A category cannot stand in itself.');
  if (depthOf(rows, parent) + heightOf(rows, one.id) > DEEPEST)
    return fail(`Categories nest ${DEEPEST} deep at most.`);
  const clash = sameName(rows, parent, one.name, one.id);
  if (clash) return clash;
  const left = rows.filter((r) => r.id !== one.id);
  const at = before === null ? -1 : left.findIndex((r) => r.id === before && r.parent === parent);
  const to = { ...one, parent };
  return ok(numbered(at < 0 ? [...left, to] : [...left.slice(0, at), to, ...left.slice(at)]));
}

function removed(rows: readonly CategoryRow[], one: CategoryRow): Result<readonly CategoryRow[]> {
  for (const child of rows.filter((r) => r.parent === one.id)) {
    const clash = sameName(rows, one.parent, child.name, one.id);
    if (clash)
      return fail(
        `${child.name} would move up, and there is another of that name. Rename one of them first.`,
      );
  }
  // Children take its place, in their own order.
  const children = rows.filter((r) => r.parent === one.id).map((r) => ({ ...r, parent: one.parent }));
  const others = rows.filter((r) => r.parent !== one.id);
  return ok(numbered(others.flatMap((r) => (r.id === one.id ? children : [r]))));
}

const numbered = (rows: readonly CategoryRow[]): CategoryRow[] =>
  rows.map((r, n) => ({ ...r, order: n + 1 }));

/** Small and capital letters are the same, as a shopper reads them. */
const sameName = (
  rows: readonly CategoryRow[],
  parent: string | null,
  name: string,
  but: string,
): Result<never> | undefined =>
  rows.some((r) => r.id !== but && r.parent === parent && r.name.toLowerCase() === name.toLowerCase())
    ? fail(`There is a category called ${name} here already.`)
    : undefined;

const childrenOf = (rows: readonly CategoryRow[], id: string): CategoryRow[] =>
  rows.filter((r) => r.parent === id);
const isBelow = (rows: readonly CategoryRow[], id: string, above: string): boolean =>
  childrenOf(rows, above).some((c) => c.id === id || isBelow(rows, id, c.id));
const heightOf = (rows: readonly CategoryRow[], id: string): number =>
  1 + Math.max(0, ...childrenOf(rows, id).map((c) => heightOf(rows, c.id)));
function depthOf(rows: readonly CategoryRow[], id: string | null): number {
  const row = id === null ? undefined : rows.find((r) => r.id === id);
  return row ? 1 + depthOf(rows, row.parent) : 0;
}
