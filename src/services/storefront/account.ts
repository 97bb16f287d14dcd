import type { AccountView } from '../../core/storefront/account';
import type { OrderBrief } from '../../core/storefront/order-brief';
import { formatMoney } from '../../core/money/format';
import type { Minor } from '../../core/money/minor';
import type { orders } from '../../data/schema';
import { LINK_MINUTES, ordersWith } from '../account/account';
import type { Ctx } from '../context';
import { nameWith } from './views';
import type { Site } from '../sites/site';

/** An order as its buyer sees it, in a language. */
export function briefOf(order: typeof orders.$inferSelect, site: Site, lang: string): OrderBrief {
  const money = (amount: number) => formatMoney({ amount: amount as Minor, currency: order.currency }, site.row.locale);
  return {
    number: String(order.number ?? ''), day: new Intl.DateTimeFormat(lang, { dateStyle: 'long' }).format(order.createdAt), state: order.state, total: money(order.total),
    lines: order.worked.lines.map((l) => ({ name: nameWith(l), quantity: l.quantity, amount: money(l.amount) })),
  };
}

export const linkSent = (action: string, email: string): AccountView => ({ shows: 'sent', action, email, minutes: LINK_MINUTES });

export async function ordersView(ctx: Ctx, site: Site, email: string, action: string): Promise<AccountView> {
  const found = await ordersWith(ctx, site.row.id, email);
  return { shows: 'orders', action, email, orders: found.map((o) => briefOf(o, site, site.row.locale)) };
}
