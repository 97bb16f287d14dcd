import { and, eq } from 'drizzle-orm';
import { keep } from '../../data/kept-queries';
import { cartLines } from '../../data/schema';
import type { Line } from './basket';

/** More pieces of one thing than a shopper means to buy; refuses typing errors and nonsense. */
export const MAX_PIECES = 999;

export const setPieces = keep(
  { id: cartLines.id, cart: cartLines.cart, quantity: cartLines.quantity },
  (q, { id, cart, quantity }) =>
    q
      .update(cartLines)
      .set({ quantity })
      .where(and(eq(cartLines.id, id), eq(cartLines.cart, cart))),
);

type LineWish = Pick<Line, 'variantId' | 'placementId' | 'named' | 'linkPrice' | 'texts'>;
/** Whether two lines are the same wish: the same choice, from the same placement, at the same price, with the same words. */
export const isSameLine = (a: LineWish, b: LineWish): boolean =>
  a.variantId === b.variantId &&
  a.placementId === b.placementId &&
  a.named === b.named &&
  a.linkPrice === b.linkPrice &&
  a.texts.join('\n') === b.texts.join('\n');
