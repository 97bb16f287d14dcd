import { and, desc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import type { Minor } from '../../core/money/minor';
import { formatMoney } from '../../core/money/format';
import { fill, stepWordsIn, type StepWords } from '../../core/storefront/words';
import type { WorkedSum } from '../../core/till/worked-sum';
import { carts, orderEvents, orderLines, orders, payments } from '../../data/schema';
import type { Tx } from '../../data/database';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { buyable, type Pieces, piecesOf } from '../goods/available';
import { newId, newToken } from '../ids';
import type { Site } from '../sites/site';
import { basketOf, type CartView, readCart, saidOf, setPlace } from './cart';
import { holdUses } from './codes';
import { countryCode, countryName } from './countries';
import { backTo, settleFree, startPayment } from './payment';
import { priced } from './pricing';
import { HELD_MS, hold, release } from './reserve';
import { readRules } from './rules';

/** What an address needs; each field that is wrong is told by the name of its sentence. */
const need = { email: 'needEmail', name: 'needName', street: 'needStreet', town: 'needTown', postcode: 'needPostcode', country: 'needCountry' } as const satisfies Record<string, keyof StepWords>;
const line = (field: keyof typeof need, least: number, most: number) => z.string(need[field]).trim().min(least, need[field]).max(most, 'tooLong' satisfies keyof StepWords);

export const buyerInput = z.object({
  email: z.email(need.email).max(200, 'tooLong' satisfies keyof StepWords),
  name: line('name', 1, 120),
  street: line('street', 1, 200),
  town: line('town', 1, 120),
  postcode: line('postcode', 1, 20),
  /** ISO 3166-1 alpha-2; names in English are understood too. */
  country: line('country', 2, 80).transform((c, ctx) => {
    const code = countryCode(c);
    if (!code) ctx.addIssue({ code: 'custom', message: need.country });
    return code ?? '';
  }),
});

export const checkoutInput = buyerInput.extend({
  /** The total the shopper saw on the button, in minor units: no other amount is ever charged. */
  total: z.coerce.number().int(),
  /** The way of shipping; the first offered while none is chosen. */
  way: z.string().max(40).default(''),
});
type Parsed = z.output<typeof checkoutInput>;
export type CheckoutInput = Omit<Parsed, 'way'> & Partial<Pick<Parsed, 'way'>>;

export interface FieldErrors {
  readonly fields: Readonly<Record<string, string>>;
}

/** Checks a checkout form; every field in error has its own sentence, in the shopper's language. */
export function parseCheckout(input: unknown, w: StepWords = stepWordsIn('en')): CheckoutInput {
  const parsed = checkoutInput.safeParse(input);
  if (parsed.success) return parsed.data;
  const fields: Record<string, string> = {};
  for (const issue of parsed.error.issues) fields[String(issue.path[0])] ??= w[issue.message as keyof StepWords] ?? issue.message;
  throw invalid('Some fields need another look.', { fields });
}

type Way = 'site' | 'ordinary';

/**
 * Goes to pay: prices, stock and total are decided here, in one write transaction, and the pieces are held. Then, and
 * only then, the provider is asked for a payment page. Pressed twice, or in two tabs, the same order is used again.
 * @returns the provider's address for the shopper.
 */
export async function goToPay(ctx: Ctx, site: Site, cart: string, input: CheckoutInput, way: Way): Promise<{ url: string; order: string }> {
  const { total: shown, way: chosen = '', ...buyer } = input;
  const place = { country: buyer.country, state: '', postcode: buyer.postcode };
  const now = ctx.now();
  const w = stepWordsIn(site.row.locale);
  const prepared = await ctx.store.write(async (tx) => {
    const [open] = await tx.select().from(orders).where(and(eq(orders.cart, cart), eq(orders.siteId, site.row.id), inArray(orders.state, ['waiting', 'failed']))).orderBy(desc(orders.createdAt)).limit(1);
    const { lines } = await basketOf(tx, cart, now, open?.id);
    if (lines.length === 0) throw conflict(w.cartIsEmpty);
    await tx.update(carts).set({ place, way: chosen }).where(eq(carts.token, cart));
    const { codes } = await saidOf(tx, cart);
    const worked = await priced(ctx, tx, site, lines.map(({ placementId: _, page: __, ...l }) => l), { codes, place, way: chosen, email: buyer.email }, open?.id);
    if (worked.noWay) throw conflict(fill(worked.noWay === 'no-region' ? w.notSentThere : w.tooMuchToSend, { x: countryName(buyer.country, site.row.locale) }), { fields: { country: fill(w.notSentThere, { x: countryName(buyer.country, site.row.locale) }) } });
    const pieces = await piecesOf(tx, worked.lines);
    await checkStock(tx, worked, pieces, open?.id ?? '', now, w);
    if (worked.total !== shown) {
      throw conflict(fill(w.totalChanged, { x: formatMoney({ amount: worked.total, currency: worked.currency }, site.row.locale) }), { changed: true });
    }
    const same = open && samePieces(open.worked, worked) ? open : undefined;
    if (open && !same) await abandon(tx, open.id, now);
    const orderId = same?.id ?? newId();
    const token = same?.token ?? newToken();
    if (same) {
      await release(tx, orderId);
      await tx.update(orders).set({ state: 'waiting', buyer, way, worked, total: worked.total }).where(eq(orders.id, orderId));
    } else {
      await tx.insert(orders).values({ id: orderId, token, siteId: site.row.id, cart, state: 'waiting', buyer, worked, total: worked.total, currency: worked.currency, way, createdAt: now });
      await tx.insert(orderLines).values(lines.map((l, i) => ({
        id: newId(), orderId, goodsId: l.goodsId, variantId: l.variantId, name: l.name, particulars: [...l.particulars], unit: l.unit, quantity: l.quantity, amount: (worked.lines[i]?.amount ?? 0) as Minor, placementId: l.placementId, page: l.page,
      })));
      await tx.insert(orderEvents).values(lines.map((l) => ({ orderId, at: now, what: `${l.name} in the cart`, detail: l.quantity === 1 ? '1 piece' : `${l.quantity} pieces` })));
    }
    await hold(tx, orderId, pieces, now);
    await holdUses(tx, site.row.id, orderId, buyer.email, worked, new Date(now.getTime() + HELD_MS));
    const paymentId = await reusePayment(tx, orderId) ?? newId();
    await tx.insert(payments).values({ id: paymentId, orderId, amount: worked.total, currency: worked.currency, state: 'started', createdAt: now }).onConflictDoNothing();
    if (worked.total === 0) {
      await settleFree(ctx, tx, orderId, paymentId);
      return { orderId, token, paymentId, worked };
    }
    await tx.insert(orderEvents).values({ orderId, at: now, what: 'Went to pay', detail: 'card' });
    return { orderId, token, paymentId, worked };
  });
  ctx.changed(site.row.id);
  if (prepared.worked.total === 0) return { url: backTo(ctx, site, way, 'thanks', prepared.token), order: prepared.token };
  const url = await startPayment(ctx, site, { ...prepared, way });
  return { url, order: prepared.token };
}

/** Whether all of it can be had: each line, and each thing that several lines or bundles draw on. */
async function checkStock(tx: Tx, worked: WorkedSum, pieces: readonly Pieces[], orderId: string, now: Date, w: StepWords): Promise<void> {
  const free = await buyable(tx, pieces.map((p) => p.variantId), now, orderId);
  const short = new Map(pieces.flatMap((p) => {
    const left = free.get(p.variantId) ?? null;
    return left !== null && left < p.quantity ? [[p.variantId, left] as const] : [];
  }));
  const asked = new Map<string, number>();
  for (const l of worked.lines) asked.set(l.variantId, (asked.get(l.variantId) ?? 0) + l.quantity);
  const lines = worked.lines.filter((l) => short.has(l.variantId) || (l.available !== null && l.available < (asked.get(l.variantId) ?? 0)));
  const first = lines[0] ?? (short.size ? worked.lines[0] : undefined);
  if (!first) return;
  const left = short.get(first.variantId) ?? first.available ?? 0;
  throw conflict(fill(left === 0 ? w.justSold : w.onlyLeftOf, { n: left, x: first.name }), { short: lines.map((l) => ({ line: l.id, available: short.get(l.variantId) ?? l.available })) });
}

const samePieces = (a: WorkedSum, b: WorkedSum): boolean => {
  const key = (w: WorkedSum) => JSON.stringify(w.lines.map((l) => [l.variantId ?? l.goodsId, l.particulars ?? [], l.unit, l.quantity]));
  return a.total === b.total && key(a) === key(b);
};

/** A payment page that is still open serves again: a double click must not make two. */
async function reusePayment(tx: Tx, orderId: string): Promise<string | undefined> {
  const [open] = await tx.select({ id: payments.id }).from(payments).where(and(eq(payments.orderId, orderId), eq(payments.state, 'started'))).orderBy(desc(payments.createdAt)).limit(1);
  return open?.id;
}

async function abandon(tx: Tx, orderId: string, now: Date): Promise<void> {
  await release(tx, orderId);
  await tx.update(orders).set({ state: 'failed' }).where(eq(orders.id, orderId));
  await tx.insert(orderEvents).values({ orderId, at: now, what: 'Left for another basket' });
}

/** A cart at the checkout: until the shopper has said where it goes, it is taken to go where the shop is. */
export async function atCheckout(ctx: Ctx, site: Site, token: string): Promise<CartView> {
  const cart = await readCart(ctx, site, token);
  const home = (await readRules(ctx.store.db, site.row.id)).tax.home.country || (site.row.setUp?.country ?? '');
  return cart.said.place || !home ? cart : setPlace(ctx, site, token, { country: home, state: '', postcode: '' }, '');
}

/** The sum for where the form says it goes; the rest of the form is not looked at yet. */
export async function lookAgain(ctx: Ctx, site: Site, token: string, { country = '', postcode = '', way = '' }: Record<string, string>): Promise<CartView> {
  return setPlace(ctx, site, token, { country: countryCode(country) ?? '', state: '', postcode: postcode.trim().slice(0, 20) }, way.slice(0, 40));
}
