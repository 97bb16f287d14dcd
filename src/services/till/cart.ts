import { and, asc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { priceNow } from '../../core/goods/price';
import type { Product, Variant } from '../../core/goods/product';
import { findVariant, variantLabel } from '../../core/goods/variants';
import { nowhere } from '../../core/till/place';
import type { BasketLine, WorkedSum } from '../../core/till/worked-sum';
import { decimalText, formatMoney, parseMoney } from '../../core/money/format';
import type { ExchangeRules } from '../../core/money/exchange';
import type { Minor } from '../../core/money/minor';
import { fill, stepWordsIn, type StepWords, wordsIn } from '../../core/storefront/words';
import type { Db, Tx } from '../../data/database';
import { cartLines, carts, goods, idempotency, variants } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid, missing } from '../errors';
import { buyable } from '../goods/available';
import { categoriesOfGoods } from '../goods/categories';
import { catalogueOf, productIn, productOf, variantOf } from '../goods/catalogue';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { chargedAgain, priced, pricingFacts, type Said } from './pricing';
import { readRules } from './rules';

/** More pieces of one thing than a shopper means to buy; refuses typing errors and nonsense. */
const MAX_PIECES = 999;
const MAX_LINES = 100;

export const addInput = z.object({
  goods: z.string().min(1).max(80),
  quantity: z.coerce.number().int().min(1).max(MAX_PIECES).default(1),
  /** A form sends an empty field where a program sends nothing. */
  placement: z.union([z.literal(''), z.string().regex(/^[a-z0-9]{8,16}$/)]).nullish().transform((v) => v || null),
  /** What the buyer names, as typed, where the product leaves it to them. */
  amount: z.string().max(30).nullish().transform((v) => v ?? null),
  /** The choice: a variant's id, or its values in the order of the options. */
  variant: z.string().max(40).nullish().transform((v) => v || null),
  options: z.array(z.string().max(60)).max(3).nullish().transform((v) => v ?? null),
  /** What the buyer wrote, one to each text the product asks for. */
  texts: z.array(z.string().max(500)).max(5).nullish().transform((v) => v ?? []),
  page: z.string().max(500).nullish().transform((v) => v ?? null),
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
  /** What is charged again, and how much each time. */
  readonly again: readonly { readonly every: NonNullable<BasketLine['every']>; readonly amount: number }[];
}

interface BasketRow extends BasketLine {
  readonly placementId: string | null;
  readonly page: string | null;
  readonly addedAt: Date;
}

/** The lines of a cart at today's prices, with what there is of each. */
export async function basketOf(db: Db | Tx, cart: string, now: Date, butOrder = ''): Promise<{ lines: BasketRow[]; pictures: Record<string, string | null> }> {
  const rows = await db.select({ line: cartLines, product: goods, variant: variants }).from(cartLines).innerJoin(goods, eq(goods.id, cartLines.goodsId)).innerJoin(variants, eq(variants.id, cartLines.variantId)).where(eq(cartLines.cart, cart)).orderBy(asc(cartLines.addedAt));
  const free = await buyable(db, [...new Set(rows.map((r) => r.variant.id))], now, butOrder);
  const pictures: Record<string, string | null> = {};
  const within = rows[0] ? await categoriesOfGoods(db, rows[0].product.siteId, rows.map((r) => r.product.id)) : new Map<string, string[]>();
  const lines = rows.map(({ line, product, variant }): BasketRow => {
    const p = productOf(product, [variant], []);
    const v = variantOf(variant);
    pictures[line.id] = v.picture ?? p.pictures[0]?.hash ?? null;
    return {
      id: line.id, goodsId: p.id, variantId: v.id, slug: p.slug, name: p.name, particulars: particularsOf(p, v, line.texts), unit: unitOf(p, v, line, now), quantity: line.quantity,
      available: free.get(v.id) ?? null, ...pricingFacts(p, v, within.get(p.id) ?? [], now.getTime()), placementId: line.placementId, page: line.page, addedAt: line.addedAt, ...(p.kind === 'subscription' && p.every && { every: p.every }),
    };
  });
  return { lines, pictures };
}

/** A line as the sum takes it: where it came from is not its business. */
export const bareLine = ({ placementId: _, page: __, addedAt: ___, ...line }: BasketRow): BasketLine => line;

/** What one piece costs now: the price of the choice or the amount the buyer named, and what the texts cost that were written. */
function unitOf(p: Product, v: Variant, line: { named: number | null; texts: readonly string[] }, now: Date): Minor {
  const price = p.openLeast !== null && line.named !== null ? line.named : priceNow(p, v, now.getTime()).price;
  return p.texts.reduce((sum, t, n) => sum + (line.texts[n] ? t.price : 0), price) as Minor;
}

const particularsOf = (p: Product, v: Variant, texts: readonly string[]): string[] =>
  [variantLabel(v), ...p.texts.map((t, n) => (texts[n] ? `${t.label}: ${texts[n]}` : ''))].filter(Boolean);

export async function readCart(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  await mine(ctx.store.db, site, token);
  return viewOf(ctx, ctx.store.db, site, token);
}

/** What a shopper has said of a cart: codes, where it goes, by which way. */
export async function saidOf(db: Db | Tx, cart: string): Promise<Said> {
  const [row] = await db.select({ codes: carts.codes, place: carts.place, way: carts.way }).from(carts).where(eq(carts.token, cart));
  return { codes: row?.codes ?? [], place: row?.place ?? null, way: row?.way ?? '', email: '' };
}

async function viewOf(ctx: Ctx, db: Db | Tx, site: Site, token: string): Promise<CartView> {
  const { lines, pictures } = await basketOf(db, token, ctx.now());
  const said = await saidOf(db, token);
  const [kept] = await db.select({ form: carts.said, payBy: carts.payBy, remind: carts.remind }).from(carts).where(eq(carts.token, token));
  const basket = lines.map(bareLine);
  const rules = await readRules(db, site.row.id);
  const again = basket.flatMap((l) => (l.every ? [{ every: l.every, amount: chargedAgain(rules, site.row, l, said.place ?? nowhere).total }] : []));
  return { token, pictures, said, again, form: kept?.form ?? {}, payBy: kept?.payBy ?? '', remind: kept?.remind ?? false, exchange: rules.exchange, ...(await priced(ctx, db, site, basket, said, '', rules)) };
}

/**
 * Puts pieces into a cart, making the cart when there is none. The same product from the same placement joins its
 * line. A repeated request with the same key is told what the first was told, and adds nothing.
 */
export async function addToCart(ctx: Ctx, site: Site, token: string | null, input: AddInput, key: string | null): Promise<CartView> {
  // A former address of a product leads to it too.
  const goodsId = (await catalogueOf(ctx, site.row.id)).bySlug.get(input.goods)?.id;
  return ctx.store.write(async (tx) => {
    const now = ctx.now();
    const known = key ? await tx.select().from(idempotency).where(eq(idempotency.key, `cart ${key}`)) : [];
    const cart = known[0] ? String(known[0].answer) : token && (await exists(tx, site, token)) ? token : newToken();
    if (!known[0]) {
      await insertLine(tx, site, cart, input, now, goodsId);
      if (key) await tx.insert(idempotency).values({ key: `cart ${key}`, answer: cart, at: now });
    }
    return viewOf(ctx, tx, site, cart);
  });
}

async function insertLine(tx: Tx, site: Site, cart: string, input: AddInput, now: Date, goodsId: string | undefined): Promise<void> {
  const [row] = await tx.select().from(goods).where(and(eq(goods.siteId, site.row.id), goodsId ? eq(goods.id, goodsId) : eq(goods.slug, input.goods), isNull(goods.removedAt)));
  const product = row && (await productIn(tx, site.row.id, row));
  if (!product || product.shows === 'hidden' || product.kind === 'link') throw missing(wordsIn(site.row.locale).gone);
  const w = stepWordsIn(site.row.locale);
  const variant = findVariant(product, { id: input.variant ?? null, ...(input.options && { values: input.options }) });
  if (!variant) throw invalid(fill(w.chooseFirst, { x: product.options.map((o) => o.name).join(', ') }), { field: 'variant' });
  const texts = textsOf(product, input.texts ?? [], w);
  await tx.insert(carts).values({ token: cart, siteId: site.row.id, createdAt: now, updatedAt: now }).onConflictDoUpdate({ target: carts.token, set: { updatedAt: now } });
  const rows = await tx.select().from(cartLines).where(eq(cartLines.cart, cart));
  const inCart = rows.filter((r) => r.variantId === variant.id).reduce((n, r) => n + r.quantity, 0);
  const free = (await buyable(tx, [variant.id], now)).get(variant.id) ?? null;
  if (free !== null && inCart + input.quantity > free) {
    const label = variantLabel(variant);
    throw conflict(fill(free === 0 ? w.soldOutOf : inCart >= free ? w.allInCart : w.leftOf, { n: free, x: label ? `${product.name} (${label})` : product.name }), { available: free });
  }
  const named = product.openLeast === null ? null : namedAmount(site, input.amount ?? null, product.openLeast);
  const same = rows.find((r) => r.variantId === variant.id && r.placementId === input.placement && r.named === named && r.texts.join('\n') === texts.join('\n'));
  if (!same && rows.length >= MAX_LINES) throw invalid(fill(w.cartFull, { n: MAX_LINES }));
  const quantity = (same?.quantity ?? 0) + input.quantity;
  if (quantity > MAX_PIECES) throw invalid(fill(w.tooManyOf, { n: MAX_PIECES }));
  if (same) await tx.update(cartLines).set({ quantity }).where(eq(cartLines.id, same.id));
  else await tx.insert(cartLines).values({ id: newId(), cart, goodsId: product.id, variantId: variant.id, quantity, named, texts, placementId: input.placement, page: input.page, addedAt: now });
}

/** What the buyer wrote, checked against what the product asks for. */
function textsOf(product: Product, written: readonly string[], w: StepWords): string[] {
  return product.texts.map((t, n) => {
    const text = (written[n] ?? '').trim().replace(/\s+/g, ' ');
    if (t.required && !text) throw invalid(fill(w.needText, { x: t.label }), { field: 'texts' });
    if ([...text].length > t.most) throw invalid(fill(w.textTooLong, { x: t.label, n: t.most }), { field: 'texts' });
    return text;
  });
}

/** What a buyer typed as the amount, in minor units. @throws Refusal when it is no amount, or less than the least. */
function namedAmount(site: Site, typed: string | null, least: number): number {
  const { currency, locale } = site.row;
  const parsed = parseMoney(typed ?? decimalText(least as Minor, currency), currency);
  if (!parsed.ok) throw invalid(parsed.error, { field: 'amount' });
  if (parsed.value < least) throw invalid(`The amount is at least ${formatMoney({ amount: least as Minor, currency }, locale)}.`, { field: 'amount' });
  return parsed.value;
}

/** Sets how many of a line; nought takes it out. More than there is becomes all there is, and the cart says so. */
export async function setQuantity(ctx: Ctx, site: Site, token: string, lineId: string, quantity: number): Promise<CartView> {
  if (!Number.isInteger(quantity) || quantity < 0 || quantity > MAX_PIECES) throw invalid(`Write a number of pieces from 0 to ${MAX_PIECES}.`);
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    const where = and(eq(cartLines.id, lineId), eq(cartLines.cart, token));
    if (quantity === 0) await tx.delete(cartLines).where(where);
    else await tx.update(cartLines).set({ quantity }).where(where);
    return viewOf(ctx, tx, site, token);
  });
}

const exists = async (db: Db | Tx, site: Site, token: string): Promise<boolean> =>
  (await db.select({ t: carts.token }).from(carts).where(and(eq(carts.token, token), eq(carts.siteId, site.row.id)))).length > 0;

async function mine(db: Db | Tx, site: Site, token: string): Promise<void> {
  if (!(await exists(db, site, token))) throw missing(stepWordsIn(site.row.locale).cartGone);
}

/** Codes that a cart holds at once. */
const MAX_CODES = 6;

/** Puts a discount code or a gift voucher into a cart, or takes it out. Whether it fits is said by the sum. */
export async function setCode(ctx: Ctx, site: Site, token: string, typed: string, take: 'in' | 'out'): Promise<CartView> {
  const code = typed.trim().slice(0, 40);
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    const { codes } = await saidOf(tx, token);
    const others = codes.filter((c) => c.toLowerCase() !== code.toLowerCase());
    if (code) await tx.update(carts).set({ codes: take === 'in' ? [...others, code].slice(-MAX_CODES) : others }).where(eq(carts.token, token));
    return viewOf(ctx, tx, site, token);
  });
}

/** Where a cart goes, and by which way; kept, so that nobody has to say it twice. */
export async function setPlace(ctx: Ctx, site: Site, token: string, place: Said['place'], way: string, more: { readonly payBy?: string; readonly form?: Record<string, string> } = {}): Promise<CartView> {
  return ctx.store.write(async (tx) => {
    await mine(tx, site, token);
    await tx.update(carts).set({ place, way, ...(more.payBy !== undefined && { payBy: more.payBy }), ...(more.form && { said: more.form }) }).where(eq(carts.token, token));
    return viewOf(ctx, tx, site, token);
  });
}
