/**
 * Faults that the till once had, or nearly had, put back one at a time: the model has to find each. A text that is no longer in its
 * file stops the measurement, so that no fault is left out unseen.
 */
export interface Fault {
  readonly what: string;
  readonly file: string;
  readonly from: string;
  readonly to: string;
}

export const faults: readonly Fault[] = [
  {
    what: 'vouchers spent as promised, whatever is left on them',
    file: 'src/services/till/codes.ts',
    from: 'const taken = Math.min(-s.amount, left.get(s.id) ?? 0);',
    to: 'const taken = -s.amount;',
  },
  {
    what: 'a limited code used beyond its limit, silently',
    file: 'src/services/till/codes.ts',
    from: 'return full ? [',
    to: 'return full && Date.now() < 0 ? [',
  },
  {
    what: 'what lacks something is handed out all the same',
    file: 'src/services/till/settle.ts',
    from: 'if (!lacks) return handOut(',
    to: 'if (lacks || !lacks) return handOut(',
  },
  {
    what: 'the invoice counts money that did not come',
    file: 'src/services/till/settle.ts',
    from: '.set({ lacks, worked: withoutMissed(order.worked, missed) })',
    to: '.set({ lacks })',
  },
  {
    what: 'a cart does not know what its own open order holds',
    file: 'src/services/till/cart.ts',
    from: "const open = row?.open ?? '';\n  const { lines, pictures }",
    to: "const open = '';\n  const { lines, pictures }",
  },
  {
    what: 'a gift voucher refunded by amount stays whole',
    file: 'src/services/till/refund-state.ts',
    from: 'await shrinkVouchers(tx, order, now);',
    to: '',
  },
  {
    what: 'a gift voucher refunded by line stays good',
    file: 'src/services/till/refund-state.ts',
    from: 'await stopVouchers(tx, order, refund.lines, now);\n  await shrinkVouchers(tx, order, now);',
    to: '',
  },
  {
    what: 'a second payment counts as the order\u2019s own',
    file: 'src/services/till/payment.ts',
    from: "const unwanted = order.state === 'paid' || order.state === 'cancelled';",
    to: 'const unwanted = false;',
  },
  {
    what: 'another amount pays for an order',
    file: 'src/services/till/payment.ts',
    from: 'if (unwanted || payment.amount !== data.amount) return',
    to: 'if (unwanted) return',
  },
  {
    what: 'money that came without a notice is taken for what was asked',
    file: 'src/services/till/payment.ts',
    from: 'const { amount = payment.amount, currency = payment.currency } = parsed.data;',
    to: 'const { amount, currency } = payment;',
  },
  {
    what: 'money that nobody wanted is not flagged',
    file: 'src/services/till/surplus.ts',
    from: 'await tx.update(orders).set({ short: true }).where(eq(orders.id, order.id));\n  const money',
    to: 'const money',
  },
  {
    what: 'the owner\u2019s word about a transfer counts for an open card page',
    file: 'src/services/till/fulfil.ts',
    from: "eq(payments.provider, ''), eq(payments.state, 'started')));\n    await settle(",
    to: "eq(payments.state, 'started')));\n    await settle(",
  },
  {
    what: 'a key used again answers with somebody else\u2019s cart',
    file: 'src/services/till/add-to-cart.ts',
    from: 'if (before?.asked !== asked)',
    to: 'if (!before)',
  },
  {
    what: 'a code that makes it dearer is applied',
    file: 'src/core/till/worked-sum.ts',
    from: 'const kind = mayHarm(together) ? withoutHarm(together, weigh) : together;',
    to: 'const kind = together;',
  },
  {
    what: 'per cents of offers by floating point',
    file: 'src/core/goods/price.ts',
    from: "return percentOf(full, 100 - offer.value, 'half-up');",
    to: 'return Math.round(full * (1 - offer.value / 100)) as Minor;',
  },
  {
    what: 'a payment whose name was not kept cannot be refunded',
    file: 'src/services/till/payment.ts',
    from: 'if (!payment.providerRef && data.id) await nameIfNone(tx, { id: payment.id, ref: data.id });',
    to: '',
  },
  {
    what: 'an order that is paid forgets money that it did not want',
    file: 'src/services/till/settle.ts',
    from: 'const short = gone || order.short;\n  const lacks',
    to: 'const short = gone;\n  const lacks',
  },
  {
    what: 'a notice that comes twice settles twice',
    file: 'src/services/till/payment.ts',
    from: "if (payment.state !== 'started' && payment.state !== 'declined') return undefined;",
    to: '',
  },
  {
    what: 'a hold that ran out sells pieces that others have',
    file: 'src/services/till/reserve.ts',
    from: 'if (!valid(h) && left !== null && left < h.quantity) {',
    to: 'if (left !== null && left < -1_000) {',
  },
  {
    what: 'pieces of others are not looked at when going to pay',
    file: 'src/services/till/go-to-pay.ts',
    from: "await checkStock(shop, worked, pieces, open?.id ?? '', w);",
    to: '',
  },
  {
    what: 'a refund that is under way does not count',
    file: 'src/services/till/refunds.ts',
    from: "(r) => r.state !== 'failed',",
    to: "(r) => r.state === 'done',",
  },
  {
    what: 'pieces come back on the shelf that were never taken',
    file: 'src/services/till/refund-state.ts',
    from: 'const quantity = Math.min(asked, taken.get(piece.variantId) ?? 0);',
    to: 'const quantity = asked;',
  },
  {
    what: 'a declined payment fails an order that another one paid',
    file: 'src/services/till/settle.ts',
    from: ".where(and(eq(orders.id, orderId), eq(orders.state, 'waiting')))\n    .returning(",
    to: '.where(eq(orders.id, orderId))\n    .returning(',
  },
  {
    what: 'invoice numbers skip one',
    file: 'src/services/till/documents.ts',
    from: 'return { number: (last?.n ?? 0) + 1, known: last?.known === 1 };',
    to: 'return { number: (last?.n ?? 0) + (last?.n === 2 ? 2 : 1), known: last?.known === 1 };',
  },
];
