import { eq, sql } from 'drizzle-orm';
import type { ExchangeRules } from '../../core/money/exchange';
import { stepWordsIn } from '../../core/languages/languages';
import { nowhere } from '../../core/till/place';
import type { BasketLine, WorkedSum } from '../../core/till/worked-sum';
import type { Db, Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { carts } from '../../data/schema';
import type { Ctx } from '../context';
import { missing } from '../errors';
import type { Site } from '../sites/site';
import { bareLine, basketOf, type Line, linesOf } from './basket';
import { chargedAgain, priced, type BuyerChoices } from './pricing';
import { type ShopNow, shopNow } from './shop-now';

export interface CartView extends WorkedSum {
  readonly token: string;
  /** Pictures by line, as blob hashes. */
  readonly pictures: Readonly<Record<string, string | null>>;
  readonly choices: BuyerChoices;
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
export const saidFields = {
  siteId: carts.siteId,
  codes: carts.codes,
  place: carts.place,
  way: carts.way,
  said: carts.said,
  payBy: carts.payBy,
  remind: carts.remind,
};
export type CartRow = Pick<typeof carts.$inferSelect, keyof typeof saidFields> & {
  readonly open: string | null;
};
/**
 * The order that was begun from the cart and is being paid: what it holds is held for this very shopper.
 * The outer column is written out: the
 * query builder leaves its table away, and orders have a token, too.
 */
const openOrder = sql<
  string | null
>`(select o.id from orders o where o.cart = carts.token and o.state = 'waiting' order by o.created_at desc limit 1)`;
/** What is said of a cart, and the order that is being paid. */
export const rowOf = keep({ token: carts.token }, (q, { token }) =>
  q
    .select({ ...saidFields, open: openOrder })
    .from(carts)
    .where(eq(carts.token, token)),
);

/** A cart as it is now, asked where `shop` is read. */
export async function viewOf(shop: ShopNow, site: Site, token: string, known?: CartRow): Promise<CartView> {
  const rows = await linesOf(shop.db, { cart: token });
  return drawn(shop, site, token, rows, known ?? (await rowOf(shop.db, { token }))[0]);
}

/** A cart worked out from its lines and what its shopper has said. */
export async function drawn(
  shop: ShopNow,
  site: Site,
  token: string,
  rows: readonly Line[],
  row: CartRow | undefined,
): Promise<CartView> {
  const { rules } = shop;
  const open = row?.open ?? '';
  const { lines, pictures } = await basketOf(shop, rows, open);
  const said: BuyerChoices = {
    codes: row?.codes ?? [],
    place: row?.place ?? null,
    way: row?.way ?? '',
    email: '',
  };
  const basket = lines.map(bareLine);
  const again = basket.flatMap((l) =>
    l.every
      ? [{ every: l.every, amount: chargedAgain(rules, site.row, l, said.place ?? nowhere).total }]
      : [],
  );
  return {
    token,
    pictures,
    choices: said,
    again,
    form: row?.said ?? {},
    payBy: row?.payBy ?? '',
    remind: row?.remind ?? false,
    exchange: rules.exchange,
    shippingSet: rules.shipping.regions.length > 0,
    ...(await priced(shop, site, basket, said, open)),
  };
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

/** What is said of a cart of this shop. @throws Refusal where there is none by that name. */
export async function mine(db: Db | Tx, site: Site, token: string): Promise<CartRow> {
  const [row] = await rowOf(db, { token });
  if (row?.siteId !== site.row.id) throw missing(stepWordsIn(site.row.locale).cartGone);
  return row;
}
