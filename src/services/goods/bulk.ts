import { eq } from 'drizzle-orm';
import { applyBulk, bulkEdit, type BulkEdit } from '../../core/goods/bulk';
import { formOf } from '../../core/goods/product';
import { formatMoney } from '../../core/money/format';
import { goods } from '../../data/schema';
import type { GoodsChange } from '../../data/schema/goods';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import type { Site } from '../sites/site';
import { catalogueOf, productIn } from './catalogue';
import { changesBetween, record, rowOf, writeForm, writing } from './changes';
import { parseProduct } from './goods';

export interface BulkLine {
  readonly id: string;
  readonly name: string;
  readonly from: string;
  readonly to: string;
}
export interface BulkPreview {
  readonly changes: number;
  readonly same: number;
  /** The first of them, in words. */
  readonly lines: readonly BulkLine[];
}

function parseEdit(asked: unknown): BulkEdit {
  const parsed = bulkEdit.safeParse(asked);
  if (!parsed.success) throw invalid(parsed.error.issues[0]?.message ?? 'This change is not known.');
  return parsed.data;
}

/** Lines of a preview; the rest is told as a number. */
const SHOWN = 50;

/** What a change to many would do; nothing is written. */
export async function previewBulk(
  ctx: Ctx,
  site: Site,
  ids: readonly string[],
  asked: unknown,
): Promise<BulkPreview> {
  const edit = parseEdit(asked);
  const { byId } = await catalogueOf(ctx, site.row.id);
  const lines: BulkLine[] = [];
  let changes = 0;
  for (const id of ids) {
    const p = byId.get(id);
    if (!p) continue;
    const before = formOf(p);
    const after = applyBulk(before, edit, site.row.currency);
    const [change] =
      edit.do === 'remove' ? [{ field: 'removed', from: null, to: null }] : changesBetween(id, before, after);
    if (!change) continue;
    changes++;
    if (lines.length < SHOWN) lines.push({ id, name: p.name, ...words(change, site) });
  }
  return { changes, same: ids.length - changes, lines };
}

function words(
  c: Pick<GoodsChange, 'from' | 'to'> & { field: string },
  site: Site,
): { from: string; to: string } {
  const money = (v: unknown) =>
    typeof v === 'number' ? formatMoney({ amount: v, currency: site.row.currency }, site.row.locale) : 'none';
  if (c.field === 'removed') return { from: 'among the goods', to: 'removed' };
  if (c.field === 'price' || c.field === 'was') return { from: money(c.from), to: money(c.to) };
  return { from: valueWords(c.from), to: valueWords(c.to) };
}

/** A value of a product's form as people read it: a list, an offer, a word. */
function valueWords(v: unknown): string {
  if (v === null || v === '') return 'none';
  if (Array.isArray(v)) return v.join(', ') || 'none';
  return typeof v === 'object' ? `${(v as { value: number }).value} % off` : String(v);
}

/** Makes one change to many products: all or none, one line on the slip, one undo. */
export async function changeMany(
  ctx: Ctx,
  site: Site,
  ids: readonly string[],
  asked: unknown,
  by: string,
): Promise<{ changed: number }> {
  const edit = parseEdit(asked);
  const changed = await ctx.store.write(async (tx) => {
    const w = await writing(ctx, tx, site, by);
    const changes: GoodsChange[] = [];
    for (const id of new Set(ids)) {
      const row = await rowOf(w, id);
      if (edit.do === 'remove') {
        await tx.update(goods).set({ removedAt: w.now, version: w.version }).where(eq(goods.id, id));
        changes.push({ goodsId: id, field: 'removed', from: null, to: null });
        continue;
      }
      const before = await productIn(tx, site.row.id, row);
      const form = parseProduct(applyBulk(formOf(before), edit, site.row.currency));
      const own = changesBetween(id, formOf(before), form);
      if (own.length === 0) continue;
      await writeForm(w, id, before, form);
      changes.push(...own);
    }
    const many = new Set(changes.map((c) => c.goodsId)).size;
    if (changes.length)
      await record(w, {
        act: `${actWords[edit.do]} of ${many} ${many === 1 ? 'product' : 'products'}`,
        changes,
      });
    return many;
  });
  ctx.changed(site.row.id);
  return { changed };
}

const actWords: Readonly<Record<BulkEdit['do'], string>> = {
  price: 'Prices',
  offer: 'An offer',
  'offer-end': 'The end of the offer',
  category: 'Categories',
  tag: 'Tags',
  shows: 'Who sees them,',
  badge: 'Badges',
  tax: 'Tax class',
  remove: 'Removal',
};
