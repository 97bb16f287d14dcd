import { createHash } from 'node:crypto';
import { and, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Product, Variant } from '../../core/goods/product';
import { findVariant, variantLabel } from '../../core/goods/variants';
import type { ExchangeRules } from '../../core/money/exchange';
import { formatMoney, parseMoney } from '../../core/money/format';
import { count, fill, stepWordsIn, type StepWords, wordsIn } from '../../core/storefront/words';
import { nowhere } from '../../core/till/place';
import type { BasketLine, WorkedSum } from '../../core/till/worked-sum';
import type { Db, Tx } from '../../data/database';
import { keep, keepInsert } from '../../data/kept-queries';
import { cartLines, carts, idempotency } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing, type Refusal } from '../errors';
import { buyable } from '../goods/available';
import { catalogueOf } from '../goods/catalogue';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { bareLine, basketOf, type Line, linesOf } from './basket';
import { chargedAgain, priced, type Said } from './pricing';
import { type ShopNow, shopNow } from './shop-now';

/** More pieces of one thing than a shopper means to buy; refuses typing errors and nonsense. */
const MAX_PIECES = 999;
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

export interface CartView extends WorkedSum {
  readonly token: string;
  /** Pictures by line, as blob hashes. */
  readonly pictures: Readonly<Record<string, string | null>>;
  readonly said: Said;
  /** What was typed at the checkout so far. */
  readonly form: Readonly<Record<string, string>>;
  /** The way to pay that was chosen; '' while none is. */
  readonly payBy: string;
  readonly remind: boolean;
  readonly exchange: ExchangeRules;
  /** Whether the shop has set any shipping: else nothing is said of it. */
  readonly shippingSet: boolean;
  /** What is charged again, and how much each time. */
  readonly again: readonly { readonly every: NonNullable<BasketLine['every']>; readonly amount: number }[];
}

export async function readCart(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  const row = await mine(ctx.store.db, site, token);
  return viewOf(await shopNow(ctx, ctx.store.db, site.row.id), site, token, row);
}

/** All that is written of a cart, and the versions of what it is worked out from, as one text: the same text is the same cart. */
const stateOf = keep({ token: carts.token }, (q, { token }) =>
  q
    .select({
      siteId: carts.siteId,
      state: sql<string>`concat_ws(' ',
        (select group_concat(l.id || ':' || l.quantity) from cart_lines l where l.cart = carts.token),
        carts.codes, carts.place, carts.way, carts.said, carts.pay_by, carts.remind, ${openOrder},
        (select s.goods_version from sites s where s.id = carts.site_id),
        (select t.updated_at from tills t where t.site_id = carts.site_id))`,
    })
    .from(carts)
    .where(eq(carts.token, token)),
);

/**
 * What is made of a cart, again as long as the cart, goods and rules stay as they are: two tabs, a page that is come back to. One
 * small question decides. Like all that is remembered of a site it is dropped by any change here (pieces that others hold among
 * them) and holds five seconds at most; what is paid is decided anew.
 */
export async function whileUnchanged<T>(
  ctx: Ctx,
  site: Site,
  token: string,
  what: string,
  make: () => Promise<T>,
): Promise<T> {
  if (!ctx.memo) return make();
  const [found] = await stateOf(ctx.store.db, { token });
  if (found?.siteId !== site.row.id) throw missing(stepWordsIn(site.row.locale).cartGone);
  return ctx.memo.get(site.row.id, `cart ${token} ${what} ${found.state}`, make);
}

/** What a shopper has said of a cart. */
const saidFields = {
  siteId: carts.siteId,
  codes: carts.codes,
  place: carts.place,
  way: carts.way,
  said: carts.said,
  payBy: carts.payBy,
  remind: carts.remind,
};
type CartRow = Pick<typeof carts.$inferSelect, keyof typeof saidFields> & { readonly open: string | null };
/**
 * The order that was begun from the cart and is being paid: what it holds is held for this very shopper.
 * The outer column is written out: the
 * query builder leaves its table away, and orders have a token, too.
 */
const openOrder = sql<
  string | null
>`(select o.id from orders o where o.cart = carts.token and o.state = 'waiting' order by o.created_at desc limit 1)`;
const rowOf = keep({ token: carts.token }, (q, { token }) =>
  q
    .select({ ...saidFields, open: openOrder })
    .from(carts)
    .where(eq(carts.token, token)),
);

async function viewOf(shop: ShopNow, site: Site, token: string, known?: CartRow): Promise<CartView> {
  const rows = await linesOf(shop.db, { cart: token });
  return drawn(shop, site, token, rows, known ?? (await rowOf(shop.db, { token }))[0]);
}

/** A cart worked out from its lines and what its shopper has said. */
async function drawn(
  shop: ShopNow,
  site: Site,
  token: string,
  rows: readonly Line[],
  row: CartRow | undefined,
): Promise<CartView> {
  const { rules } = shop;
  const open = row?.open ?? '';
  const { lines, pictures } = await basketOf(shop, rows, open);
  const said: Said = { codes: row?.codes ?? [], place: row?.place ?? null, way: row?.way ?? '', email: '' };
  const basket = lines.map(bareLine);
  const again = basket.flatMap((l) =>
    l.every
      ? [{ every: l.every, amount: chargedAgain(rules, site.row, l, said.place ?? nowhere).total }]
      : [],
  );
  return {
    token,
    pictures,
    said,
    again,
    form: row?.said ?? {},
    payBy: row?.payBy ?? '',
    remind: row?.remind ?? false,
    exchange: rules.exchange,
    shippingSet: rules.shipping.regions.length > 0,
    ...(await priced(shop, site, basket, said, open)),
  };
}

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
const setPieces = keep(
  { id: cartLines.id, cart: cartLines.cart, quantity: cartLines.quantity },
  (q, { id, cart, quantity }) =>
    q
      .update(cartLines)
      .set({ quantity })
      .where(and(eq(cartLines.id, id), eq(cartLines.cart, cart))),
);

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

/** Sets how many of a line; nought takes it out. More than there is becomes all there is, and the cart says so. */
export async function setQuantity(
  ctx: Ctx,
  site: Site,
  token: string,
  lineId: string,
  quantity: number,
): Promise<CartView> {
  if (!Number.isInteger(quantity) || quantity < 0 || quantity > MAX_PIECES)
    throw invalid(stepWordsIn(site.row.locale).needPieces);
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    if (quantity === 0)
      await tx.delete(cartLines).where(and(eq(cartLines.id, lineId), eq(cartLines.cart, token)));
    else await setPieces(tx, { id: lineId, cart: token, quantity });
    return viewOf(await shopNow(ctx, tx, site.row.id), site, token);
  });
}

/** A cart as the plain pages name it: how many pieces are in it; undefined for one that is not this shop's, or no longer kept. */
export async function piecesIn(ctx: Ctx, site: Site, token: string): Promise<number | undefined> {
  const [found] = token ? await countOf(ctx.store.db, { token }) : [];
  return found?.siteId === site.row.id ? found.pieces : undefined;
}

const countOf = keep({ token: carts.token }, (q, { token }) =>
  q
    .select({
      siteId: carts.siteId,
      pieces: sql<number>`(select coalesce(sum(l.quantity), 0) from cart_lines l where l.cart = carts.token)`,
    })
    .from(carts)
    .where(eq(carts.token, token)),
);

/** How many pieces are in a cart: one small question, since every page of whoever has a cart asks it. */
export async function countPieces(ctx: Ctx, site: Site, token: string): Promise<number> {
  const [found] = await countOf(ctx.store.db, { token });
  if (found?.siteId !== site.row.id) throw missing(stepWordsIn(site.row.locale).cartGone);
  return found.pieces;
}

/** Puts what is in one cart into another: what is the same in both joins, codes too. The first is empty afterwards. */
export async function joinCarts(ctx: Ctx, site: Site, from: string, into: string): Promise<void> {
  if (from === into) return;
  await ctx.store.write(async (tx) => {
    await mine(tx, site, from);
    await mine(tx, site, into);
    const kept = await linesOf(tx, { cart: into });
    for (const line of await linesOf(tx, { cart: from })) {
      const same = kept.find((k) => isSameLine(k, line));
      if (same) {
        const quantity = Math.min(MAX_PIECES, same.quantity + line.quantity);
        await setPieces(tx, { id: same.id, cart: into, quantity });
        await tx.delete(cartLines).where(eq(cartLines.id, line.id));
      } else await tx.update(cartLines).set({ cart: into }).where(eq(cartLines.id, line.id));
    }
    const [a, b] = [(await rowOf(tx, { token: into }))[0], (await rowOf(tx, { token: from }))[0]];
    const codes = [...new Set([...(a?.codes ?? []), ...(b?.codes ?? [])])].slice(-MAX_CODES);
    await tx.update(carts).set({ codes, updatedAt: ctx.now() }).where(eq(carts.token, into));
  });
}

type LineWish = Pick<Line, 'variantId' | 'placementId' | 'named' | 'linkPrice' | 'texts'>;
const isSameLine = (a: LineWish, b: LineWish): boolean =>
  a.variantId === b.variantId &&
  a.placementId === b.placementId &&
  a.named === b.named &&
  a.linkPrice === b.linkPrice &&
  a.texts.join('\n') === b.texts.join('\n');

const exists = async (db: Db | Tx, site: Site, token: string): Promise<boolean> =>
  (await rowOf(db, { token }))[0]?.siteId === site.row.id;

async function mine(db: Db | Tx, site: Site, token: string): Promise<CartRow> {
  const [row] = await rowOf(db, { token });
  if (row?.siteId !== site.row.id) throw missing(stepWordsIn(site.row.locale).cartGone);
  return row;
}

/** Codes that a cart holds at once. */
const MAX_CODES = 6;

/** Puts a discount code or a gift voucher into a cart, or takes it out. Whether it fits is said by the sum. */
export async function setCode(
  ctx: Ctx,
  site: Site,
  token: string,
  typed: string,
  take: 'in' | 'out',
): Promise<CartView> {
  const code = typed.trim().slice(0, 40);
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    const codes = (await rowOf(tx, { token }))[0]?.codes ?? [];
    const others = codes.filter((c) => c.toLowerCase() !== code.toLowerCase());
    if (code)
      await tx
        .update(carts)
        .set({ codes: take === 'in' ? [...others, code].slice(-MAX_CODES) : others })
        .where(eq(carts.token, token));
    return viewOf(await shopNow(ctx, tx, site.row.id), site, token);
  });
}

/** Where a cart goes, and by which way; kept, so that nobody has to say it twice. */
export async function setPlace(
  ctx: Ctx,
  site: Site,
  token: string,
  place: Said['place'],
  way: string,
  more: { readonly payBy?: string; readonly form?: Record<string, string> } = {},
): Promise<CartView> {
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    await tx
      .update(carts)
      .set({
        place,
        way,
        ...(more.payBy !== undefined && { payBy: more.payBy }),
        ...(more.form && { said: more.form }),
      })
      .where(eq(carts.token, token));
    return viewOf(await shopNow(ctx, tx, site.row.id), site, token);
  });
}
