import { dateFormat } from '../../core/intl';
import type { AccountView, SubscriptionBrief } from '../../core/storefront/account';
import type { OrderBrief } from '../../core/storefront/order-brief';
import { formatMoney } from '../../core/money/format';
import { fill, stepWordsIn, wordsIn } from '../../core/languages/languages';
import type { orders } from '../../data/schema';
import { LINK_MINUTES, ordersWith } from '../account/account';
import { dataHref } from '../account/data-link';
import { hasPassword } from '../account/password';
import type { Ctx } from '../context';
import { filesHref, reviewHref } from './after';
import { progressOf } from './order-view';
import { nameWith } from './views';
import type { Site } from '../sites/site';
import { subscriptionsOf, type SubscriptionView } from '../till/subscriptions';
import { everyWords } from './product-view';

/** An order as its buyer sees it, in a language. */
export async function briefOf(
  ctx: Ctx,
  order: typeof orders.$inferSelect,
  site: Site,
  lang: string,
): Promise<OrderBrief> {
  const money = (amount: number) => formatMoney({ amount, currency: order.currency }, site.row.locale);
  return {
    number: String(order.number ?? ''),
    day: dateFormat(lang, { dateStyle: 'long' }).format(order.createdAt),
    state: order.state,
    progress: progressOf(site, order),
    total: money(order.total),
    lines: order.worked.lines.map((l) => ({
      name: nameWith(l),
      quantity: l.quantity,
      amount: money(l.amount),
      review: order.state === 'paid' ? reviewHref(ctx, site, order, l.goodsId) : '',
    })),
    files: await filesHref(ctx, site, order, true),
  };
}

export const linkSent = (action: string, email: string): AccountView => ({
  shows: 'sent',
  action,
  email,
  minutes: LINK_MINUTES,
});

export async function ordersView(
  ctx: Ctx,
  site: Site,
  email: string,
  action: string,
  more: { readonly notice?: string; readonly erasing?: boolean; readonly problem?: string } = {},
): Promise<AccountView> {
  const [found, running] = await Promise.all([
    ordersWith(ctx, site.row.id, email),
    subscriptionsOf(ctx, site.row.id, email),
  ]);
  return {
    shows: 'orders',
    action,
    email,
    data: dataHref(ctx, site, email),
    hasPassword: await hasPassword(ctx, site, email),
    ...more,
    subscriptions: running.map((x) => subscriptionBrief(x, site)),
    orders: await Promise.all(found.map((o) => briefOf(ctx, o, site, site.row.locale))),
  };
}

function subscriptionBrief(x: SubscriptionView, site: Site): SubscriptionBrief {
  const { locale } = site.row;
  const s = stepWordsIn(locale);
  const day = dateFormat(locale, { dateStyle: 'long' }).format(new Date(x.nextAt));
  return {
    id: x.id,
    name: x.name,
    running: x.running,
    price: `${formatMoney({ amount: x.amount, currency: x.currency }, locale)} ${everyWords(x.every, wordsIn(locale))}`,
    text: x.running ? fill(s.nextOn, { x: day }) : s.stopped,
  };
}
