import type { GoodsKindId } from '../../core/goods/kinds';
import { isOnOffer, type Product } from '../../core/goods/product';
import { variantLabel } from '../../core/goods/variants';
import type { Ctx } from '../context';
import { missing } from '../errors';
import { listGoods } from './goods';

/** A product as a line of the owner's list: what ten thousand of them can be sent with at once. */
export interface GoodsLine {
  readonly id: string;
  readonly slug: string;
  readonly name: string;
  readonly kind: GoodsKindId;
  readonly shows: Product['shows'];
  readonly price: number;
  readonly was: number | null;
  readonly open: boolean;
  readonly onOffer: boolean;
  readonly categories: readonly string[];
  readonly picture: string | null;
  readonly low: number | null;
  readonly whenOut: Product['stockRule']['whenOut'];
  readonly sample: boolean;
  readonly addedAt: number;
  /** A bundle of which a part is hidden or gone: nobody can buy it. */
  readonly partGone: boolean;
  readonly variants: readonly {
    readonly id: string;
    readonly label: string;
    readonly sku: string;
    readonly stock: number | null;
  }[];
}

export async function goodsLines(ctx: Ctx, siteId: string): Promise<GoodsLine[]> {
  const now = ctx.now().getTime();
  const all = await listGoods(ctx, siteId);
  const sold = new Set(
    all.filter((p) => p.shows !== 'hidden').flatMap((p) => p.variants.map((v) => `${p.id} ${v.id}`)),
  );
  return all.map((p) =>
    lineOf(p, now, p.kind === 'bundle' && p.bundle.some((b) => !sold.has(`${b.goodsId} ${b.variantId}`))),
  );
}

export const lineOf = (p: Product, now: number, partGone = false): GoodsLine => ({
  partGone,
  id: p.id,
  slug: p.slug,
  name: p.name,
  kind: p.kind,
  shows: p.shows,
  price: p.price,
  was: p.was,
  open: p.openLeast !== null,
  onOffer: isOnOffer(p, now),
  categories: p.categories,
  picture: p.pictures[0]?.hash ?? null,
  low: p.stockRule.low,
  whenOut: p.stockRule.whenOut,
  sample: p.sample,
  addedAt: p.addedAt,
  variants: p.variants.map((v) => ({ id: v.id, label: variantLabel(v), sku: v.sku, stock: v.stock })),
});

export async function oneProduct(ctx: Ctx, siteId: string, id: string): Promise<Product> {
  const found = (await listGoods(ctx, siteId)).find((p) => p.id === id);
  if (!found) throw missing('This product is gone. It may have been removed in another window.');
  return found;
}
