import type { LetterKind } from '../../core/letters/kinds';
import type { Tx } from '../../data/database';
import { letters, type orders, type refunds } from '../../data/schema';
import type { Ctx } from '../context';
import { newId } from '../ids';

/**
 * When a letter is due. Only that it is wanted is kept, in the transaction of what it tells about; it is written and sent by a
 * round in the background, so that no mail server is ever waited for, and a rolled back act never sends one.
 */
type Order = typeof orders.$inferSelect;

/** How long an act of the owner's can be taken back before its letter goes out, in milliseconds. */
export const SECOND_THOUGHTS_MS = 20_000;

export async function want(ctx: Ctx, tx: Tx, order: Pick<Order, 'id' | 'siteId'> | { readonly siteId: string }, kind: LetterKind, key: string, wait = 0): Promise<void> {
  const notBefore = new Date(ctx.now().getTime() + wait);
  await tx.insert(letters).values({ id: newId(), siteId: order.siteId, orderId: 'id' in order ? order.id : null, kind, key: `${kind} ${key}`, to: '', subject: '', text: '', notBefore }).onConflictDoNothing();
}

export async function lettersOfPaying(ctx: Ctx, tx: Tx, order: Order, how: 'placed' | 'paid' | 'paid-later'): Promise<void> {
  if (how === 'paid-later') await want(ctx, tx, order, 'paid', order.id, SECOND_THOUGHTS_MS);
  else for (const kind of ['confirmation', 'to-owner'] as const) await want(ctx, tx, order, kind, order.id);
  if (how !== 'placed') await want(ctx, tx, order, 'files', order.id);
}

export const letterOfSending = (ctx: Ctx, tx: Tx, order: Order): Promise<void> => want(ctx, tx, order, 'sent', `${order.id} ${order.parcels.length} ${ctx.now().getTime()}`, SECOND_THOUGHTS_MS);

export const letterOfRefund = (ctx: Ctx, tx: Tx, order: Order, refund: typeof refunds.$inferSelect): Promise<void> => want(ctx, tx, order, 'refund', refund.id);
