import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import type { Product, Variant } from '../../core/goods/product';
import { findVariant, variantLabel } from '../../core/goods/variants';
import { formatMoney, parseMoney } from '../../core/money/format';
import { count, fill, stepWordsIn, type StepWords, wordsIn } from '../../core/languages/languages';
import type { Db, Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { cartLines, carts, idempotency } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing, type Refusal } from '../errors';
import { buyable } from '../goods/available';
import { catalogueOf } from '../goods/catalogue';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { type Line, linesOf } from './basket';
import { type CartRow, type CartView, drawn, rowOf, saidFields, viewOf } from './cart';
import { isSameLine, MAX_PIECES, setPieces } from './cart-line';
import { type ShopNow, shopNow } from './shop-now';

const MAX_LINES = 100;

export const addInput = z.object({
  goods: z.string().min(1).max(80),
  quantity: z.coerce.number().int().min(1).max(MAX_PIECES).default(1),
  /** A form sends an empty field where a program sends nothing. */
  placement: z
    .union([z.literal(''), z.string().regex(/^[a-z0-9]{8,16}$/)])
    .nullish()
    .transform((v) => v || null),
  /** What the buyer names, as typed, where the product leaves it to them. */
  amount: z
    .string()
    .max(30)
    .nullish()
    .transform((v) => v ?? null),
  /** Key of a link with a price of its own. */
  price: z
    .string()
    .max(16)
    .nullish()
    .transform((v) => v ?? ''),
  /** The choice: a variant's id, or its values in the order of the options. */
  variant: z
    .string()
    .max(40)
    .nullish()
    .transform((v) => v || null),
  options: z
    .array(z.string().max(60))
    .max(3)
    .nullish()
    .transform((v) => v ?? null),
  /** What the buyer wrote, one to each text the product asks for. */
  texts: z
    .array(z.string().max(500))
    .max(5)
    .nullish()
    .transform((v) => v ?? []),
  page: z
    .string()
    .max(500)
    .nullish()
    .transform((v) => v ?? null),
});
type Added = z.output<typeof addInput>;
/** What is put into a cart; what is left out is none. */
export type AddInput = Pick<Added, 'goods' | 'quantity' | 'placement' | 'page'> & Partial<Added>;

const answerOf = keep({ key: idempotency.key }, (q, { key }) =>
  q
    .select({ answer: idempotency.answer, asked: idempotency.asked })
    .from(idempotency)
    .where(eq(idempotency.key, key)),
);
const remember = keep(
  { key: idempotency.key, answer: idempotency.answer, asked: idempotency.asked, at: idempotency.at },
  (q, { key, answer, asked, at }) =>
    q.insert(idempotency).values({ key, answer, asked, at }).onConflictDoNothing(),
);
const openCart = keep(
  { token: carts.token, siteId: carts.siteId, now: carts.updatedAt },
  (q, { token, siteId, now }) =>
    q
      .insert(carts)
      .values({ token, siteId, createdAt: now, updatedAt: now })
      .onConflictDoUpdate({ target: carts.token, set: { updatedAt: now } })
      .returning(saidFields),
);

/**
 * Puts pieces into a cart, making the cart when there is none. The same product from the same placement joins its
 * line. A repeated request with the same key is told what the first was told, and adds nothing.
 */
export async function addToCart(
  ctx: Ctx,
  site: Site,
  token: string | null,
  input: AddInput,
  key: string | null,
): Promise<CartView> {
  // Goods that were never read yet are read before the gate, not behind it.
  await catalogueOf(ctx, site.row.id, site.row);
  return ctx.store.writeTogether(async (tx) => {
    const shop = await shopNow(ctx, tx, site.row.id);
    const known = token && (await exists(tx, site, token)) ? token : undefined;
    const cart = known ?? newToken();
    if (key) {
      const own = `cart ${site.row.id} ${key}`;
      const asked = createHash('sha256')
        .update(JSON.stringify([token, input]))
        .digest('base64url');
      const { rowsAffected: first } = await remember(tx, { key: own, answer: cart, asked, at: shop.now });
      if (!first) {
        const [before] = await answerOf(tx, { key: own });
        // Draft "The Idempotency-Key HTTP Header Field" of the IETF, 2.7: another payload under the same
        // key is refused.
        if (before?.asked !== asked)
          throw invalid('This Idempotency-Key was used for another request. Use a new one for each.');
        return viewOf(shop, site, String(before.answer));
      }
    }
    const { rows, row } = await insertLine(shop, site, cart, input, known !== undefined);
    return drawn(shop, site, cart, rows, row);
  });
}

const insertCartLine = keepInsert(cartLines);

/** What is to be added. @throws Refusal where it is not for sale, or a choice is still to be made. */
function chosenIn(shop: ShopNow, site: Site, input: AddInput): { product: Product; variant: Variant } {
  // A former address of a product leads to it too.
  const product = shop.goods.bySlug.get(input.goods);
  if (!product || product.shows === 'hidden' || product.kind === 'link')
    throw missing(wordsIn(site.row.locale).gone);
  const asked = { id: input.variant ?? null, ...(input.options && { values: input.options }) };
  const variant = findVariant(product, asked);
  if (variant) return { product, variant };
  const options = product.options.map((o) => o.name).join(', ');
  throw invalid(fill(stepWordsIn(site.row.locale).chooseFirst, { x: options }), { field: 'variant' });
}

function notThatMany(
  of: { product: Product; variant: Variant; free: number; inCart: number },
  w: StepWords,
): Refusal {
  const { product, variant, free, inCart } = of;
  const label = variantLabel(variant);
  const left = inCart >= free ? w.allInCart : w.leftOf;
  const x = label ? `${product.name} (${label})` : product.name;
  return conflict(fill(free === 0 ? w.soldOutOf : left, { n: free, x }), { available: free });
}

/** @returns the cart's lines and what was said of it, as they are then. */
async function insertLine(
  shop: ShopNow,
  site: Site,
  cart: string,
  input: AddInput,
  known: boolean,
): Promise<{ rows: Line[]; row: CartRow | undefined }> {
  const w = stepWordsIn(site.row.locale);
  const { product, variant } = chosenIn(shop, site, input);
  const texts = textsOf(product, input.texts ?? [], w);
  const [said] = await openCart(shop.db, { token: cart, siteId: site.row.id, now: shop.now });
  const open = known ? ((await rowOf(shop.db, { token: cart }))[0]?.open ?? null) : null;
  const row = said && { ...said, open };
  const rows = known ? await linesOf(shop.db, { cart }) : [];
  await checkFree(shop, { product, variant }, rows, open ?? '', input.quantity, w);
  const named =
    product.openLeast === null ? null : namedAmount(site, input.amount ?? null, product.openLeast);
  // A link that is no longer good sells at the usual price, as the page showed it.
  const linkPrice = product.linkPrices.find((l) => l.key === input.price)?.key ?? '';
  const wish = { variantId: variant.id, placementId: input.placement, named, linkPrice, texts };
  const same = rows.find((r) => isSameLine(r, wish));
  if (!same && rows.length >= MAX_LINES) throw invalid(fill(w.cartFull, { n: MAX_LINES }));
  const quantity = (same?.quantity ?? 0) + input.quantity;
  if (quantity > MAX_PIECES) throw invalid(fill(w.tooManyOf, { n: MAX_PIECES }));
  if (same) {
    await setPieces(shop.db, { id: same.id, cart, quantity });
    return { row, rows: rows.map((r) => (r === same ? { ...r, quantity } : r)) };
  }
  const line: Line = {
    id: newId(),
    cart,
    goodsId: product.id,
    variantId: variant.id,
    quantity,
    named,
    linkPrice,
    texts,
    placementId: input.placement,
    page: input.page,
    addedAt: shop.now,
  };
  await insertCartLine(shop.db, line);
  return { row, rows: [...rows, line] };
}

/** @param order the cart's own open order: what it holds is the cart's. @throws Refusal where there are not that many more. */
async function checkFree(
  shop: ShopNow,
  { product, variant }: { readonly product: Product; readonly variant: Variant },
  rows: readonly Line[],
  order: string,
  more: number,
  w: StepWords,
): Promise<void> {
  const inCart = rows.filter((r) => r.variantId === variant.id).reduce((n, r) => n + r.quantity, 0);
  const counts = await buyable(shop, [{ goodsId: product.id, variantId: variant.id }], order);
  const free = counts.get(variant.id) ?? null;
  if (free !== null && inCart + more > free) throw notThatMany({ product, variant, free, inCart }, w);
}

/** What the buyer wrote, checked against what the product asks for. */
function textsOf(product: Product, written: readonly string[], w: StepWords): string[] {
  return product.texts.map((t, n) => {
    const text = (written[n] ?? '').trim().replace(/\s+/g, ' ');
    if (t.required && !text) throw invalid(fill(w.needText, { x: t.label }), { field: 'texts' });
    if ([...text].length > t.most)
      throw invalid(count(w, w.textTooLong, t.most, { x: t.label }), { field: 'texts' });
    return text;
  });
}

/**
 * What a buyer typed as the amount, in minor units. @throws Refusal in the shop's language when it is no
 * amount, or less than the least.
 */
function namedAmount(site: Site, typed: string | null, least: number): number {
  const { currency, locale } = site.row;
  const w = stepWordsIn(locale);
  const money = (amount: number) => formatMoney({ amount, currency }, locale);
  if (typed === null) return least;
  const parsed = parseMoney(typed, currency, locale);
  if (!parsed.ok) throw invalid(fill(w.amountUnclear, { x: money(Math.max(least, 1)) }), { field: 'amount' });
  if (parsed.value < least) throw invalid(fill(w.amountLeast, { x: money(least) }), { field: 'amount' });
  return parsed.value;
}

const exists = async (db: Db | Tx, site: Site, token: string): Promise<boolean> =>
  (await rowOf(db, { token }))[0]?.siteId === site.row.id;
