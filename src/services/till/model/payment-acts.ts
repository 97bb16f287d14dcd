import fc from 'fast-check';
import { eq } from 'drizzle-orm';
import { orders } from '../../../data/schema';
import { addToCart } from '../add-to-cart';
import { readCart } from '../cart';
import { setCode, setPlace } from '../cart-changes';
import { reconcile, reconcileSilent } from '../payment';
import { resendRefunds } from '../refunds';
import { releaseExpired } from '../reserve';
import { resendReturns } from '../surplus';
import type { AtProvider } from './provider';
import type { Notice, Stage } from './stage';
import { MINUTE, home, nth, pick, step, who } from './step';
import { codeNames, goPaying, rethrowAllButRefusals } from './shopper-acts';
import { onOrder } from './owner-acts';

/** What happens at the provider; the shop hears of it by notices, when they come. */
export function decide(
  stage: Stage,
  payment: AtProvider | undefined,
  state: 'approved' | 'declined',
  off = 0,
): void {
  if (!payment) return;
  payment.state = state;
  if (state === 'approved') payment.taken = Math.max(1, payment.asked - off);
  stage.notices.push(noticeOf(payment));
}

export const noticeOf = ({ reference, state, asked, taken }: AtProvider): Notice => ({
  id: `${state}-${reference}`,
  type: state === 'approved' ? 'payment.approved' : 'payment.declined',
  reference,
  amount: state === 'approved' ? taken : asked,
});

/** Payment pages by what stands on them; whoever was declined may try another card on the same page. */
export const pagesOf = (stage: Stage, ...states: AtProvider['state'][]): AtProvider[] =>
  [...stage.provider.payments.values()].filter((p) => states.includes(p.state));

export const approve = step(
  'approve',
  fc.record({ nth, off: fc.constantFrom(0, 0, 0, 0, 100) }),
  async (stage, g) => decide(stage, pick(pagesOf(stage, 'open', 'declined'), g.nth), 'approved', g.off),
);

export const decline = step('decline', fc.record({ nth }), async (stage, g) =>
  decide(stage, pick(pagesOf(stage, 'open'), g.nth), 'declined'),
);

/** Whoever left several pages open pays them all, those that were declined with another card. */
export async function payAll(stage: Stage, pages: readonly AtProvider[]): Promise<void> {
  for (const page of pages) {
    page.state = 'approved';
    page.taken = page.asked;
    await stage.deliver(noticeOf(page));
  }
}

export const payEveryPage = step(
  'pay every page',
  fc.constantFrom('as they came', 'the last first'),
  async (stage, order) => {
    const open = pagesOf(stage, 'open', 'declined');
    await payAll(stage, order === 'as they came' ? open : open.reverse());
  },
);

/** Somebody who means ill: one code or voucher, the basket changed from page to page, and all pages paid at the end. */
export const cheat = step(
  'cheat',
  fc.record({ who, nth, pages: fc.integer({ min: 2, max: 3 }) }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    const site = await stage.site();
    const typed = pick(codeNames, g.nth) ?? '';
    await setCode(stage.ctx, site, shopper.cart, typed, 'in');
    for (let n = 0; n < g.pages; n++) {
      await goPaying(stage, shopper, shopper.cart, 'card').catch(rethrowAllButRefusals);
      const input = { goods: 'pattern', quantity: 1, placement: null, page: '/' };
      await addToCart(stage.ctx, site, shopper.cart, input, null);
    }
    await payAll(stage, pagesOf(stage, 'open'));
  },
);

/**
 * A card is declined, and another page of the same order is paid; then the first is paid after all, or its decline is told once more.
 */
export const anotherCard = step(
  'another card',
  fc.record({ who, end: fc.constantFrom('first is paid too', 'decline is told again') }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    await goPaying(stage, shopper, shopper.cart, 'card');
    const [first] = pagesOf(stage, 'open').slice(-1);
    if (!first) return;
    first.state = 'declined';
    const declined = noticeOf(first);
    await stage.deliver(declined);
    await goPaying(stage, shopper, shopper.cart, 'card');
    await payAll(stage, pagesOf(stage, 'open').slice(-1));
    if (g.end === 'first is paid too') await payAll(stage, [first]);
    else await stage.deliver({ ...declined, id: `${declined.id}-again-${stage.clock.ms}` });
  },
);

/** Somebody leaves the card's page open and pays by transfer, which the owner sees come; then the card's page is decided after all. */
export const transferAfterAll = step(
  'transfer after all',
  fc.record({ who, end: fc.constantFrom('approved', 'declined') }),
  async (stage, g) => {
    const shopper = stage.shopper(g.who);
    if (!shopper.cart) return;
    await goPaying(stage, shopper, shopper.cart, 'card');
    const [page] = pagesOf(stage, 'open').slice(-1);
    await goPaying(stage, shopper, shopper.cart, 'bank');
    const placed = await stage.ctx.store.db.select().from(orders).where(eq(orders.state, 'placed'));
    const [order] = placed.slice(-1);
    if (order) await onOrder(stage, order.id, { act: 'mark-paid' });
    if (page?.state !== 'open') return;
    decide(stage, page, g.end);
    await stage.deliver(noticeOf(page));
  },
);

/** Somebody reads the payment page for half an hour, others buy what there is meanwhile, and then the page is paid. */
export const payTooLate = step('pay too late', fc.record({ who, other: who }), async (stage, g) => {
  const [late, quick] = [stage.shopper(g.who), stage.shopper(g.other)];
  if (!late.cart || late === quick) return;
  const site = await stage.site();
  await goPaying(stage, late, late.cart, 'card');
  const [page] = pagesOf(stage, 'open').slice(-1);
  stage.clock.ms += 31 * MINUTE;
  quick.cart = null;
  for (const l of (await readCart(stage.ctx, site, late.cart)).lines) {
    if (l.available === null || l.available < 1) continue;
    const input = { goods: l.slug, quantity: l.available, placement: null, page: '/' };
    quick.cart = (await addToCart(stage.ctx, site, quick.cart, input, null)).token;
  }
  if (quick.cart) {
    await setPlace(stage.ctx, site, quick.cart, home, 'post');
    await goPaying(stage, quick, quick.cart, 'card');
    await payAll(stage, pagesOf(stage, 'open').slice(-1));
  }
  if (page) await payAll(stage, [page]);
});

export const deliver = step(
  'deliver',
  fc.record({ nth, keep: fc.boolean(), asNew: fc.boolean() }),
  async (stage, g) => {
    const notice = pick(stage.notices, g.nth);
    if (!notice) return;
    if (!g.keep) stage.notices.splice(stage.notices.indexOf(notice), 1);
    await stage.deliver(g.asNew ? { ...notice, id: `${notice.id}-${stage.clock.ms}-${g.nth}` } : notice);
  },
);

/** Pays in one go: to the page, approved, told. Most shoppers do just that. */
export const payWhole = step('pay whole', fc.record({ who }), async (stage, g) => {
  const shopper = stage.shopper(g.who);
  if (!shopper.cart) return;
  await goPaying(stage, shopper, shopper.cart, 'card');
  await payAll(stage, pagesOf(stage, 'open').slice(-1));
});

export const comeBack = step('come back', fc.record({ nth }), async (stage, g) => {
  const order = pick(await stage.ctx.store.db.select().from(orders), g.nth);
  if (order) await reconcile(stage.ctx, order.token);
});

/** Time, and what is done in the background. */
export const later = step('later', fc.constantFrom(1, 5, 20, 31, 31, 60, 60 * 25), async (stage, minutes) => {
  stage.clock.ms += minutes * MINUTE;
});

export const sweep = step('sweep', fc.constant(null), async (stage) => {
  await releaseExpired(stage.ctx);
  await reconcileSilent(stage.ctx);
  await resendRefunds(stage.ctx);
  await resendReturns(stage.ctx);
});

export const providerIs = step(
  'provider is',
  fc.record({
    closes: fc.boolean(),
    up: fc.constantFrom(true, true, true, false),
    refundsAre: fc.constantFrom('done', 'done', 'failed', 'open'),
  }),
  async (stage, g) => {
    Object.assign(stage.provider, g);
  },
);
