import type { Goes } from './goes';

/**
 * What becomes of an order, from one piece of knowledge: where it stands in the list, what may be done with it, and whether an
 * act that is asked for is allowed are all read from here.
 */
export interface OrderFacts {
  readonly state: 'waiting' | 'placed' | 'paid' | 'failed' | 'cancelled';
  /** Paid after its pieces had gone to others, or something else the owner has to look into. */
  readonly short: boolean;
  /**
   * Paid, but a voucher or a limited code had less than it was promised: nothing goes out before the owner
   * has decided.
   */
  readonly lacks: boolean;
  readonly goes: Goes;
  /** Money comes when it is handed over: nobody waits for it before packing. */
  readonly payLater: boolean;
  readonly packed: boolean;
  readonly sent: boolean;
  readonly collected: boolean;
  /** What could still be given back, in minor units. */
  readonly refundable: number;
}

export const orderActs = [
  'mark-paid',
  'accept',
  'pack',
  'send',
  'collect',
  'refund',
  'cancel',
  'take-back',
  'note',
] as const;
export type OrderAct = (typeof orderActs)[number];

/** Acts by which money is taken in or goes back: not everybody's who packs. */
export const moneyActs: ReadonlySet<OrderAct> = new Set<OrderAct>([
  'mark-paid',
  'accept',
  'refund',
  'cancel',
]);

const open = (f: OrderFacts): boolean =>
  (f.state === 'paid' && !f.lacks) || (f.state === 'placed' && f.payLater);

/** Whether an act makes sense now. */
export function may(act: OrderAct, f: OrderFacts): boolean {
  switch (act) {
    case 'mark-paid':
      return f.state === 'placed';
    case 'accept':
      return f.state === 'paid' && f.lacks;
    case 'pack':
      return open(f) && f.goes !== null && !f.packed && !f.sent && !f.collected;
    case 'send':
      return open(f) && (f.goes === 'post' || f.goes === 'local') && !f.sent;
    case 'collect':
      return open(f) && f.goes === 'collect' && !f.collected;
    case 'refund':
      // What waits for the owner has no invoice yet that a credit note could be about: it is accepted
      // first, or cancelled.
      return (f.state === 'paid' || f.state === 'cancelled') && !f.lacks && f.refundable > 0;
    case 'cancel':
      return (f.state === 'paid' || f.state === 'placed') && !f.sent && !f.collected;
    case 'take-back':
      return f.state !== 'cancelled' && (f.packed || f.sent || f.collected);
    case 'note':
      return true;
  }
}

/** What to do now, what comes after it, and what could be done instead. */
export function nextActs(f: OrderFacts): {
  readonly now: OrderAct | null;
  readonly later: readonly OrderAct[];
  readonly or: readonly OrderAct[];
} {
  const way: readonly OrderAct[] = f.payLater
    ? ['pack', 'send', 'collect', 'mark-paid']
    : ['mark-paid', 'pack', 'send', 'collect'];
  const allowed = way.filter((act) => may(act, f));
  return {
    now: allowed[0] ?? null,
    later: allowed.slice(1),
    or: (['accept', 'refund', 'cancel', 'take-back'] as const).filter((act) => may(act, f)),
  };
}

export const shelves = [
  'look-into',
  'to-pack',
  'to-send',
  'to-collect',
  'money',
  'paying',
  'done',
  'nothing',
] as const;
/** Where an order stands in the list. */
export type Shelf = (typeof shelves)[number];

/** Whether something is still to come: with the owner, the shopper or a bank. */
export const isWaiting = (shelf: Shelf): boolean => shelf !== 'done' && shelf !== 'nothing';

export function shelfOf(f: OrderFacts): Shelf {
  // Also one that came to nothing: a provider may have taken money for it.
  if (f.short) return 'look-into';
  if (f.state === 'failed' || f.state === 'cancelled') return 'nothing';
  if (f.state === 'waiting') return 'paying';
  if (f.state === 'placed' && !f.payLater) return 'money';
  if (f.goes === null) return f.state === 'paid' ? 'done' : 'money';
  if (f.sent || f.collected) return f.state === 'paid' ? 'done' : 'money';
  if (!f.packed) return 'to-pack';
  return f.goes === 'collect' ? 'to-collect' : 'to-send';
}
