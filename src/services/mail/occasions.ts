import type { LetterKind } from '../../core/letters/kinds';
import type { Tx } from '../../data/database';
import { keepInsert } from '../../data/kept-queries';
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

const insertLetters = keepInsert(letters, 'is left');

type About = Pick<Order, 'id' | 'siteId'> | { readonly siteId: string };
const wanted = (
  ctx: Ctx,
  order: About,
  kind: LetterKind,
  key: string,
  wait = 0,
): typeof letters.$inferInsert => ({
  id: newId(),
  siteId: order.siteId,
  orderId: 'id' in order ? order.id : null,
  kind,
  key: `${kind} ${key}`,
  to: '',
  subject: '',
  text: '',
  notBefore: new Date(ctx.now().getTime() + wait),
});

export const want = (
  ctx: Ctx,
  tx: Tx,
  order: About,
  kind: LetterKind,
  key: string,
  wait = 0,
): Promise<void> => insertLetters(tx, wanted(ctx, order, kind, key, wait));

export async function lettersOfPaying(
  ctx: Ctx,
  tx: Tx,
  order: Order,
  how: 'placed' | 'paid' | 'paid-later',
): Promise<void> {
  const first =
    how === 'paid-later'
      ? [wanted(ctx, order, 'paid', order.id, SECOND_THOUGHTS_MS)]
      : (['confirmation', 'to-owner'] as const).map((kind) => wanted(ctx, order, kind, order.id));
  await insertLetters(tx, ...first, ...(how === 'placed' ? [] : [wanted(ctx, order, 'files', order.id)]));
}

/** An order that waits for the owner: its buyer hears of it when it is decided. */
export const letterToOwner = (ctx: Ctx, tx: Tx, order: Order): Promise<void> =>
  want(ctx, tx, order, 'to-owner', order.id);

export const letterOfSending = (ctx: Ctx, tx: Tx, order: Order): Promise<void> =>
  want(
    ctx,
    tx,
    order,
    'sent',
    `${order.id} ${order.parcels.length} ${ctx.now().getTime()}`,
    SECOND_THOUGHTS_MS,
  );

export const letterOfRefund = (
  ctx: Ctx,
  tx: Tx,
  order: Order,
  refund: typeof refunds.$inferSelect,
): Promise<void> => want(ctx, tx, order, 'refund', refund.id);
