import { and, asc, eq, inArray, or, sql } from 'drizzle-orm';
import {
  cartLines,
  carts,
  letters,
  orderEvents,
  orderLines,
  orders,
  payments,
  refunds,
  reviews,
  shopperLinks,
  shoppers,
  shopperSessions,
  subscriptions,
} from '../../data/schema';
import type { Db, Tx } from '../../data/database';
import type { Ctx } from '../context';
import type { Site } from '../sites/site';

/**
 * What is kept about a shopper: all of it to take along (GDPR Art. 15 and 20), and taken away again (Art. 17). Orders that were
 * paid are kept with what an invoice has to say, as tax law asks; everything else about the person goes.
 */
const withEmail = (email: string) =>
  sql`lower(json_extract(${orders.buyer}, '$.email')) = ${email.toLowerCase()}`;
const ownOrders = (db: Db | Tx, site: Site, email: string) =>
  db
    .select()
    .from(orders)
    .where(and(eq(orders.siteId, site.row.id), withEmail(email)))
    .orderBy(asc(orders.createdAt));
const ownCarts = (db: Db | Tx, site: Site, email: string) =>
  db
    .select()
    .from(carts)
    .where(
      and(
        eq(carts.siteId, site.row.id),
        sql`lower(json_extract(${carts.said}, '$.email')) = ${email.toLowerCase()}`,
      ),
    );

/** All that is kept about an address, as JSON; no keys of the shop's own are among it. */
export async function dataOf(ctx: Ctx, site: Site, email: string): Promise<object> {
  const { db } = ctx.store;
  const own = await ownOrders(db, site, email);
  const ids = own.map((o) => o.id);
  const none = ids.length === 0;
  const [lines, events, paid, back, said, post, running, left] = await Promise.all([
    none ? [] : db.select().from(orderLines).where(inArray(orderLines.orderId, ids)),
    none
      ? []
      : db.select().from(orderEvents).where(inArray(orderEvents.orderId, ids)).orderBy(asc(orderEvents.id)),
    none ? [] : db.select().from(payments).where(inArray(payments.orderId, ids)),
    none ? [] : db.select().from(refunds).where(inArray(refunds.orderId, ids)),
    none ? [] : db.select().from(reviews).where(inArray(reviews.orderId, ids)),
    db
      .select()
      .from(letters)
      .where(and(eq(letters.siteId, site.row.id), sql`lower(${letters.to}) = ${email.toLowerCase()}`)),
    db
      .select()
      .from(subscriptions)
      .where(
        and(
          eq(subscriptions.siteId, site.row.id),
          sql`lower(json_extract(${subscriptions.buyer}, '$.email')) = ${email.toLowerCase()}`,
        ),
      ),
    ownCarts(db, site, email),
  ]);
  return {
    shop: site.row.name,
    address: email,
    madeAt: ctx.now().toISOString(),
    orders: own.map((o) => ({
      number: o.number,
      state: o.state,
      orderedAt: o.createdAt,
      paidAt: o.paidAt,
      buyer: o.buyer,
      note: o.note,
      policies: o.policies,
      total: o.total,
      currency: o.currency,
      sum: o.worked.steps,
      parcels: o.parcels,
      refunded: o.refunded,
      lines: lines
        .filter((l) => l.orderId === o.id)
        .map(({ name, particulars, quantity, amount, page }) => ({
          name,
          particulars,
          quantity,
          amount,
          page,
        })),
      timeline: events
        .filter((e) => e.orderId === o.id)
        .map(({ at, what, detail }) => ({ at, what, detail })),
      payments: paid
        .filter((p) => p.orderId === o.id)
        .map(({ state, detail, amount, createdAt }) => ({ state, detail, amount, at: createdAt })),
      refunds: back
        .filter((r) => r.orderId === o.id)
        .map(({ amount, reason, state, createdAt }) => ({ amount, reason, state, at: createdAt })),
      reviews: said
        .filter((r) => r.orderId === o.id)
        .map(({ name, rating, title, text, createdAt }) => ({ name, rating, title, text, at: createdAt })),
    })),
    letters: post.map(({ kind, subject, text, sentAt }) => ({ kind, subject, text, sentAt })),
    subscriptions: running.map(({ line, state, startedAt, nextAt }) => ({
      name: line.name,
      state,
      startedAt,
      nextAt,
    })),
    carts: left.map(({ said: form, codes, createdAt }) => ({ form, codes, createdAt })),
  };
}

/**
 * Takes away what is kept about an address. Paid orders keep name and address, as their invoices do; their notes, letters,
 * telephone and mail address go, and orders that came to nothing lose all of it. Subscriptions stop. @returns how many orders stayed.
 */
export async function erase(ctx: Ctx, site: Site, email: string): Promise<{ kept: number }> {
  const gone = { email: '', name: '', street: '', town: '', postcode: '', country: '' };
  const kept = await ctx.store.write(async (tx) => {
    const own = await ownOrders(tx, site, email);
    for (const o of own) {
      const law = o.paidAt !== null;
      const { phone: _, state, company, ...buyer } = o.buyer;
      await tx
        .update(orders)
        .set({
          note: '',
          buyer: law ? { ...buyer, ...(state && { state }), ...(company && { company }), email: '' } : gone,
        })
        .where(eq(orders.id, o.id));
    }
    const ids = own.map((o) => o.id);
    if (ids.length) {
      await tx.delete(letters).where(inArray(letters.orderId, ids));
      await tx.update(reviews).set({ name: '' }).where(inArray(reviews.orderId, ids));
      await tx.insert(orderEvents).values(
        ids.map((orderId) => ({
          orderId,
          at: ctx.now(),
          what: 'The buyer had their data erased',
          detail: '',
        })),
      );
      await tx
        .update(orderEvents)
        .set({ detail: '' })
        .where(
          and(
            inArray(orderEvents.orderId, ids),
            or(sql`${orderEvents.what} LIKE 'Letter:%'`, sql`${orderEvents.what} LIKE 'Note by%'`),
          ),
        );
    }
    await tx
      .delete(letters)
      .where(and(eq(letters.siteId, site.row.id), sql`lower(${letters.to}) = ${email.toLowerCase()}`));
    const ownSubscriptions = sql`lower(json_extract(${subscriptions.buyer}, '$.email')) = ${email.toLowerCase()}`;
    await tx
      .update(subscriptions)
      .set({ state: 'stopped', reason: 'The buyer had their data erased', buyer: gone })
      .where(and(eq(subscriptions.siteId, site.row.id), ownSubscriptions));
    const left = await ownCarts(tx, site, email);
    if (left.length) {
      await tx.delete(cartLines).where(
        inArray(
          cartLines.cart,
          left.map((c) => c.token),
        ),
      );
      await tx.delete(carts).where(
        inArray(
          carts.token,
          left.map((c) => c.token),
        ),
      );
    }
    const small = email.toLowerCase();
    await tx.delete(shoppers).where(and(eq(shoppers.siteId, site.row.id), eq(shoppers.email, small)));
    await tx
      .delete(shopperLinks)
      .where(and(eq(shopperLinks.siteId, site.row.id), eq(shopperLinks.email, small)));
    await tx
      .delete(shopperSessions)
      .where(and(eq(shopperSessions.siteId, site.row.id), eq(shopperSessions.email, small)));
    return own.filter((o) => o.paidAt !== null).length;
  });
  ctx.changed(site.row.id);
  return { kept };
}
