import { asc, eq, sql } from 'drizzle-orm';
import { atLinkPrice, pieceCost } from '../../core/goods/price';
import type { Product, Variant } from '../../core/goods/product';
import { variantLabel } from '../../core/goods/variants';
import type { BasketLine } from '../../core/till/worked-sum';
import { keep, many } from '../../data/kept-queries';
import { cartLines, goods, variants } from '../../data/schema';
import { buyable } from '../goods/available';
import { productOf, variantOf } from '../goods/catalogue';
import { categoriesOfGoods } from '../goods/categories';
import { pricingFacts } from './pricing';
import type { ShopNow } from './shop-now';

export interface BasketRow extends BasketLine {
  readonly placementId: string | null;
  readonly page: string | null;
  readonly addedAt: Date;
}

export const linesOf = keep({ cart: cartLines.cart }, (q, { cart }) =>
  q.select().from(cartLines).where(eq(cartLines.cart, cart)).orderBy(asc(cartLines.addedAt)),
);
export type Line = typeof cartLines.$inferSelect;

/** Lines of a cart at today's prices, with what there is of each. @param butOrder an order whose own holds do not count against it. */
export async function basketOf(
  shop: ShopNow,
  rows: readonly Line[],
  butOrder = '',
): Promise<{ lines: BasketRow[]; pictures: Record<string, string | null> }> {
  const [free, before] = await Promise.all([buyable(shop, rows, butOrder), noLongerSold(shop, rows)]);
  const pictures: Record<string, string | null> = {};
  const lines = rows.flatMap((line): BasketRow[] => {
    const sold = choiceOf(shop, line) ?? before.get(line.variantId);
    if (!sold) return [];
    const p = atLinkPrice(sold.product, line.linkPrice);
    const v = p.variants.find((x) => x.id === sold.variant.id) ?? sold.variant;
    pictures[line.id] = v.picture ?? p.pictures[0]?.hash ?? null;
    return [
      {
        id: line.id,
        goodsId: p.id,
        variantId: v.id,
        slug: p.slug,
        name: p.name,
        particulars: particularsOf(p, v, line.texts),
        unit: pieceCost(p, v, line, shop.now.getTime()),
        quantity: line.quantity,
        available: free.get(v.id) ?? null,
        ...pricingFacts(p, v, p.categories, shop.now.getTime()),
        placementId: line.placementId,
        page: line.page,
        addedAt: line.addedAt,
        ...(p.kind === 'subscription' && p.every && { every: p.every }),
      },
    ];
  });
  return { lines, pictures };
}

/** Which of a cart's lines are sent, and which come over the wire: all that a checkout asks to know what it has to ask. */
export async function kindsIn(shop: ShopNow, cart: string): Promise<Pick<BasketLine, 'ships' | 'digital'>[]> {
  const rows = await linesOf(shop.db, { cart });
  return rows.map((row) => {
    const choice = choiceOf(shop, row);
    // What is no longer sold is told later on; until then nothing of the address is left out for it.
    return choice ? pricingFacts(choice.product, choice.variant, [], shop.now.getTime()) : { ships: true };
  });
}

/** A line as the sum takes it: where it came from is not its business. */
export const bareLine = ({ placementId: _, page: __, addedAt: ___, ...line }: BasketRow): BasketLine => line;

interface Choice {
  readonly product: Product;
  readonly variant: Variant;
}

function choiceOf({ goods }: ShopNow, line: Pick<Line, 'goodsId' | 'variantId'>): Choice | undefined {
  const product = goods.byId.get(line.goodsId);
  const variant = product?.variants.find((v) => v.id === line.variantId);
  return product && variant && { product, variant };
}

const rowsOf = keep({ ids: many(variants.id) }, (q, { ids }) =>
  q
    .select({ product: goods, variant: variants })
    .from(variants)
    .innerJoin(goods, eq(goods.id, variants.goodsId))
    .where(sql`${variants.id} in ${ids}`),
);

/** What lies in carts and was taken out of the shop meanwhile: it is told as it was, and that there is none. */
async function noLongerSold(shop: ShopNow, lines: readonly Line[]): Promise<Map<string, Choice>> {
  const ids = lines.filter((l) => !choiceOf(shop, l)).map((l) => l.variantId);
  if (ids.length === 0) return new Map();
  const rows = await rowsOf(shop.db, { ids });
  const within = await categoriesOfGoods(
    shop.db,
    shop.siteId,
    rows.map((r) => r.product.id),
  );
  return new Map(
    rows.map((r) => [
      r.variant.id,
      {
        product: productOf(r.product, [r.variant], within.get(r.product.id) ?? []),
        variant: variantOf(r.variant),
      },
    ]),
  );
}

const particularsOf = (p: Product, v: Variant, texts: readonly string[]): string[] =>
  [variantLabel(v), ...p.texts.map((t, n) => (texts[n] ? `${t.label}: ${texts[n]}` : ''))].filter(Boolean);
