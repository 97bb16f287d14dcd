import type { OrderFacts } from '../../core/till/order-life';
import { paysLater } from '../../core/till/pay-kinds';
import type { PayRules } from '../../core/till/paying';
import type { orders } from '../../data/schema';

type Order = typeof orders.$inferSelect;

/** How what is sent goes out; null where nothing is sent. Asked once, when it is ordered, and kept with the order. */
export function goesBy(order: Pick<Order, 'worked'>): OrderFacts['goes'] {
  const { worked } = order;
  if (!worked.lines.some((l) => l.ships)) return null;
  return worked.ways?.find((w) => w.id === worked.way)?.kind ?? 'post';
}

/** An order as the rules of its life see it. */
export function factsOf(order: Order, pay: PayRules): OrderFacts {
  const kind = pay.ways.find((w) => w.id === order.payBy)?.kind ?? 'card';
  return {
    state: order.state,
    short: order.short,
    lacks: order.lacks !== null,
    goes: order.goes || null,
    payLater: paysLater(kind),
    packed: order.packedAt !== null,
    sent: order.sentAt !== null,
    collected: order.collectedAt !== null,
    refundable:
      order.paidAt === null
        ? 0
        : Math.max(0, order.total + (order.worked.totals?.paid ?? 0) - order.refunded),
  };
}
