import { and, eq } from 'drizzle-orm';
import { stepWordsIn } from '../../core/languages/languages';
import type { Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { cartLines, carts } from '../../data/schema';
import type { Ctx } from '../context';
import { invalid } from '../errors';
import type { Site } from '../sites/site';
import { linesOf } from './basket';
import { type CartRow, type CartView, mine, readCart, rowOf } from './cart';
import { isSameLine, MAX_PIECES, setPieces } from './cart-line';
import type { BuyerChoices } from './pricing';

/**
 * Writes to a cart of this shop, then reads it. Only the writing stands at the gate: working the sum out takes longer than that,
 * and whoever comes next need not wait for it.
 */
async function changed(
  ctx: Ctx,
  site: Site,
  token: string,
  write: (tx: Tx, cart: CartRow) => Promise<unknown>,
): Promise<CartView> {
  await ctx.store.writeTogether(async (tx) => write(tx, await mine(tx, site, token)));
  return readCart(ctx, site, token);
}

const takeLineOut = keep({ id: cartLines.id, cart: cartLines.cart }, (q, { id, cart }) =>
  q.delete(cartLines).where(and(eq(cartLines.id, id), eq(cartLines.cart, cart))),
);

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
  const line = { id: lineId, cart: token };
  return changed(ctx, site, token, (tx) =>
    quantity === 0 ? takeLineOut(tx, line) : setPieces(tx, { ...line, quantity }),
  );
}

/** Codes that a cart holds at once. */
const MAX_CODES = 6;

const setCodes = keep({ token: carts.token, codes: carts.codes }, (q, { token, codes }) =>
  q.update(carts).set({ codes }).where(eq(carts.token, token)),
);

/** Puts a discount code or a gift voucher into a cart, or takes it out. Whether it fits is said by the sum. */
export async function setCode(
  ctx: Ctx,
  site: Site,
  token: string,
  typed: string,
  take: 'in' | 'out',
): Promise<CartView> {
  const code = typed.trim().slice(0, 40);
  return changed(ctx, site, token, async (tx, cart) => {
    const others = cart.codes.filter((c) => c.toLowerCase() !== code.toLowerCase());
    if (code)
      await setCodes(tx, { token, codes: take === 'in' ? [...others, code].slice(-MAX_CODES) : others });
  });
}

const setSaid = keep(
  { token: carts.token, place: carts.place, way: carts.way, payBy: carts.payBy, said: carts.said },
  (q, { token, ...said }) => q.update(carts).set(said).where(eq(carts.token, token)),
);

/** Where a cart goes, and by which way; kept, so that nobody has to say it twice. */
export async function setPlace(
  ctx: Ctx,
  site: Site,
  token: string,
  place: BuyerChoices['place'],
  way: string,
  more: { readonly payBy?: string; readonly form?: Record<string, string> } = {},
): Promise<CartView> {
  return changed(ctx, site, token, (tx, cart) =>
    setSaid(tx, { token, place, way, payBy: more.payBy ?? cart.payBy, said: more.form ?? cart.said }),
  );
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
