import { eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { type Category, type CategoryNode, categoryTree } from '../../core/goods/category';
import { actOnCategories, type CategoryAct, type CategoryRow } from '../../core/goods/category-acts';
import type { Tx } from '../../data/database';
import { categories, goodsCategories } from '../../data/schema';
import type { TreeState } from '../../data/schema/goods';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newId } from '../ids';
import { sameJson } from '../../core/json';
import type { Site } from '../sites/site';
import { listCategories, rowsOf } from './categories';
import { record, type Writing, writing } from './changes';

const state = async (
  tx: Tx,
  siteId: string,
  gone: readonly string[] = [],
): Promise<TreeState & { readonly rows: readonly CategoryRow[] }> => ({
  rows: (await rowsOf(tx, siteId)).map(({ path: _, ...row }) => row),
  within: gone.length
    ? await tx
        .select({ goodsId: goodsCategories.goodsId, categoryId: goodsCategories.categoryId })
        .from(goodsCategories)
        .where(inArray(goodsCategories.categoryId, [...gone]))
    : [],
});

async function writeRows(
  tx: Tx,
  siteId: string,
  before: readonly CategoryRow[],
  after: readonly CategoryRow[],
): Promise<void> {
  const [was, is] = [new Map(before.map((r) => [r.id, r])), new Map(after.map((r) => [r.id, r]))];
  for (const r of before) if (!is.has(r.id)) await tx.delete(categories).where(eq(categories.id, r.id));
  for (const r of after) {
    const known = was.get(r.id);
    if (!known) await tx.insert(categories).values({ ...r, former: [...r.former], siteId });
    else if (!sameJson(known, r))
      await tx
        .update(categories)
        .set({ name: r.name, parent: r.parent, order: r.order, former: [...r.former] })
        .where(eq(categories.id, r.id));
  }
}

const acts = z.discriminatedUnion('do', [
  z.object({ do: z.literal('add'), parent: z.string().nullable().default(null), name: z.string().max(200) }),
  z.object({ do: z.literal('rename'), id: z.string(), name: z.string().max(200) }),
  z.object({
    do: z.literal('move'),
    id: z.string(),
    parent: z.string().nullable(),
    before: z.string().nullable(),
  }),
  z.object({ do: z.literal('remove'), id: z.string() }),
]);
/** What the owner asks for; a new category has no id yet. */
export type CategoryAsked = z.input<typeof acts>;
const says = { add: 'added', rename: 'renamed', move: 'moved', remove: 'removed' } as const;

/** What the owner does to the categories: live at once, one line on the slip, one undo. */
export async function changeCategories(ctx: Ctx, site: Site, asked: unknown, by: string): Promise<void> {
  const parsed = acts.safeParse(asked);
  if (!parsed.success) throw invalid('This change of categories is not known.');
  await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const act: CategoryAct = parsed.data.do === 'add' ? { ...parsed.data, id: newId() } : parsed.data;
    const before = await state(tx, site.row.id, act.do === 'remove' ? [act.id] : []);
    const after = actOnCategories(before.rows, act);
    if (!after.ok) throw invalid(after.error, { field: 'name' });
    if (sameJson(after.value, before.rows)) return;
    await writeRows(tx, site.row.id, before.rows, after.value);
    const name = (act.do === 'remove' ? before.rows : after.value).find((r) => r.id === act.id)?.name ?? '';
    await record(w, {
      act: `Category \u201c${name}\u201d ${says[act.do]}`,
      changes: [],
      tree: { from: before, to: { rows: after.value, within: [] } },
    });
  });
  ctx.changed(site.row.id);
}

/** Puts the categories back as they were before an act, when nothing later stands on it. */
export async function takeTreeBack(
  w: Writing,
  tree: { readonly from: TreeState; readonly to: TreeState },
): Promise<void> {
  const now = await state(w.tx, w.site.row.id);
  if (!sameJson(now.rows, tree.to.rows))
    throw conflict('The categories were changed again since. Undo the later change first.');
  await writeRows(w.tx, w.site.row.id, now.rows, tree.from.rows);
  for (const row of tree.from.within) await w.tx.insert(goodsCategories).values(row).onConflictDoNothing();
}

export interface CategoryLine extends Category {
  readonly depth: number;
  /** Products in it and beneath it, hidden ones too. */
  readonly count: number;
}

/** The categories as the owner has them, each after the one it stands in; empty ones too. */
export async function categoryLines(
  ctx: Ctx,
  site: Site,
  products: readonly { readonly categories: readonly string[] }[],
): Promise<CategoryLine[]> {
  const flat = (nodes: readonly CategoryNode[], depth: number): CategoryLine[] =>
    nodes.flatMap(({ children, ...c }) => [{ ...c, depth }, ...flat(children, depth + 1)]);
  return flat(categoryTree(await listCategories(ctx, site.row.id), products, false), 0);
}
