import { dateFormat } from '../../core/intl';
import { and, eq } from 'drizzle-orm';
import { ICalCalendarMethod, ICalEventStatus, default as ical } from 'ical-generator';
import { isLetterKind, type LetterKind } from '../../core/letters/kinds';
import { type LetterFigures, letterOf, type Written, writeLetter } from '../../core/letters/render';
import { printLook } from '../../core/look/print-look';
import { formatMoney } from '../../core/money/format';
import { fill, type StepWords, stepWordsIn, wordsIn } from '../../core/languages/languages';
import { payName } from '../../core/till/pay-kinds';
import type { TillRules } from '../../core/till/rules';
import { goods, type letters, orders, refunds, user } from '../../data/schema';
import type { Ctx } from '../context';
import { liveLook } from '../sites/look';
import { loadSite, type Site } from '../sites/site';
import { filesHref } from '../storefront/after';
import { backToSite, shopUrl } from '../sites/addresses';
import { nameWith, stepName } from '../storefront/views';
import { addressLines } from '../rules/address';
import { readCart } from '../till/cart';
import { readableCode, vouchersOf } from '../till/codes';
import { instructionOf } from '../till/instruction';
import { readRules } from '../rules/rules';

type Row = typeof letters.$inferSelect;
type Order = typeof orders.$inferSelect;

export interface Composed extends Written {
  readonly to: string;
  readonly fromName: string;
  readonly replyTo: string;
  readonly calendar: string;
}

/** Writes a letter that is due, from the order as it stands now. @returns nothing where the owner wants no such letter, or nothing is left to write about. */
export async function compose(
  ctx: Ctx,
  row: Pick<Row, 'siteId' | 'orderId' | 'kind' | 'key'>,
): Promise<Composed | undefined> {
  const site = await loadSite(ctx, { id: row.siteId });
  const rules = await readRules(ctx.store.db, row.siteId);
  const { kind } = row;
  // A letter of a kind that is gone is not written any more.
  if (!isLetterKind(kind)) return undefined;
  const words = letterOf(kind, rules.letters, site.row.locale);
  if (!words.on) return undefined;
  const written = { fromName: site.row.name, replyTo: rules.seller.email, calendar: '' };
  const look = printLook(await liveLook(ctx, site));
  if (kind === 'left-behind') {
    const cart = await leftBehind(ctx, site, row.key.slice('left-behind '.length));
    return cart && { ...written, ...writeLetter(words, cart.figures, look), to: cart.to };
  }
  const [order] = await ctx.store.db
    .select()
    .from(orders)
    .where(eq(orders.id, row.orderId ?? ''));
  if (!order || order.buyer.email === '') return undefined;
  const to = kind === 'to-owner' ? rules.seller.email || (await ownersAddress(ctx)) : order.buyer.email;
  if (!to) return undefined;
  const about = row.key.split(' ').at(-1) ?? '';
  const special = await figuresOf[kind]?.({ ctx, site, rules, order, about });
  if (special === null) return undefined;
  const { calendar = '', ...more } = special ?? {};
  const figures = await orderFigures(ctx, site, rules, order, more, kind === 'to-owner');
  const letter = writeLetter(words, figures, look);
  return {
    ...written,
    ...letter,
    subject: order.test ? `[${stepWordsIn(site.row.locale).tryingOut}] ${letter.subject}` : letter.subject,
    to,
    calendar,
  };
}

async function ownersAddress(ctx: Ctx): Promise<string> {
  const [first] = await ctx.store.db.select({ email: user.email }).from(user).limit(1);
  return first?.email ?? '';
}

interface About {
  readonly ctx: Ctx;
  readonly site: Site;
  readonly rules: TillRules;
  readonly order: Order;
  /** The last word of the letter's key: a refund, a product. */
  readonly about: string;
}

/** What some letters say beside the order; null where there is nothing to write about. */
const figuresOf: Partial<Record<LetterKind, (a: About) => Promise<Record<string, string> | null>>> = {
  async files({ ctx, site, order }) {
    const files = await filesHref(ctx, site, order, true);
    return files ? { files } : null;
  },
  async sent({ order }) {
    const last = order.parcels.at(-1);
    return order.sentAt && last ? { tracking: [last.carrier, last.number].filter(Boolean).join(', ') } : null;
  },
  async refund({ ctx, site, order, about }) {
    const [refund] = await ctx.store.db
      .select()
      .from(refunds)
      .where(and(eq(refunds.id, about), eq(refunds.orderId, order.id)));
    if (!refund) return null;
    const money = (amount: number) => formatMoney({ amount, currency: order.currency }, site.row.locale);
    const s = stepWordsIn(site.row.locale);
    const inMoney = refund.amount - refund.toVouchers;
    return {
      amount: money(refund.amount),
      reason: refund.reason,
      back: [
        inMoney > 0 && refund.toVouchers > 0 ? fill(s.backInMoney, { x: money(inMoney) }) : '',
        refund.toVouchers > 0 ? fill(s.backOnVoucher, { x: money(refund.toVouchers) }) : '',
      ]
        .filter(Boolean)
        .join(' '),
    };
  },
  async reminder({ ctx, site, rules, order, about }) {
    const [product] = await ctx.store.db.select().from(goods).where(eq(goods.id, about));
    const event = product?.details.event;
    if (order.state !== 'paid' || !product || !event || Date.parse(event.start) < ctx.now().getTime())
      return null;
    const when = dateFormat(site.row.locale, {
      dateStyle: 'full',
      timeStyle: 'short',
      timeZone: rules.zone,
    }).format(new Date(event.start));
    const where = [event.place, event.address].filter(Boolean).join(', ');
    return {
      event: product.name,
      when,
      where,
      calendar: appointment({
        id: `${order.id}-${product.id}`,
        name: product.name,
        start: event.start,
        end: event.end,
        where,
        from: site.row.name,
        now: ctx.now(),
      }),
    };
  },
  async review({ ctx, site, order }) {
    const first = order.worked.lines.find((l) => !l.voucher);
    return order.state === 'paid' && first
      ? { review: `${shopUrl(ctx, site)}/reviews/${order.token}/${first.goodsId}` }
      : null;
  },
};

/** An appointment for any calendar program (RFC 5545). */
export function appointment(of: {
  readonly id: string;
  readonly name: string;
  readonly start: string;
  readonly end: string | null;
  readonly where: string;
  readonly from: string;
  readonly now: Date;
}): string {
  const calendar = ical({
    prodId: { company: of.from, product: 'Shop' },
    method: ICalCalendarMethod.PUBLISH,
  });
  calendar.createEvent({
    id: of.id,
    stamp: of.now,
    start: new Date(of.start),
    end: new Date(of.end ?? Date.parse(of.start) + 3_600_000),
    summary: of.name,
    location: of.where || null,
    status: ICalEventStatus.CONFIRMED,
  });
  return calendar.toString();
}

/** How a buyer pays who has not paid yet. */
function instructionText(rules: TillRules, order: Order, s: StepWords): string {
  const instruction = instructionOf(rules, order, s);
  if (!instruction) return '';
  const rows = instruction.rows.map((r) => `${r.label}: ${r.value}`);
  return [instruction.name, instruction.words, ...rows].filter(Boolean).join('\n');
}

/** The way to pay by which money is waited for. */
function waitsFor(rules: TillRules, order: Order, locale: string): string {
  const way = rules.pay.ways.find((x) => x.id === order.payBy);
  return way ? `${payName(way, stepWordsIn(locale))}: ${wordsIn(locale).waiting}` : '';
}

/** What every letter about an order can say of it. @param more what this one says beside. */
export async function orderFigures(
  ctx: Ctx,
  site: Site,
  rules: TillRules,
  order: Order,
  more: Readonly<Record<string, string>>,
  toOwner: boolean,
): Promise<LetterFigures> {
  const { locale } = site.row;
  const s = stepWordsIn(locale);
  const money = (amount: number) => formatMoney({ amount, currency: order.currency }, locale);
  const paid = order.state === 'paid';
  // The instruction is for whoever pays; the owner is told by which way.
  const unpaid = toOwner ? waitsFor(rules, order, locale) : instructionText(rules, order, s);
  const vouchers = paid ? await vouchersOf(ctx.store.db, order.id) : [];
  const sends = order.worked.lines.some((l) => l.ships);
  const way = order.worked.ways?.find((w) => w.id === order.worked.way);
  return {
    links: ['order', 'files', 'review', 'cart'],
    goods: [
      ...order.worked.lines.map((l) => ({ name: `${l.quantity} × ${nameWith(l)}`, amount: money(l.amount) })),
      ...order.worked.steps
        .filter(
          (x) => x.kind === 'discount' || x.kind === 'shipping' || x.kind === 'tax' || x.kind === 'voucher',
        )
        .map((x) => ({ name: stepName(x, order.worked, s, locale), amount: money(x.amount) })),
    ],
    text: {
      shop: site.row.name,
      buyer: order.buyer.name,
      email: order.buyer.email,
      number: String(order.number ?? ''),
      day: dateFormat(locale, { dateStyle: 'long', timeZone: rules.zone }).format(order.createdAt),
      total: money(order.total),
      order: toOwner
        ? `${ctx.addresses.office}/${site.row.slug}/orders?id=${order.id}`
        : `${shopUrl(ctx, site)}/thanks/${order.token}`,
      pay: paid ? s.paid : unpaid,
      way: sends ? (way?.name ?? '') : '',
      address:
        sends && way?.kind !== 'collect'
          ? addressLines(order.buyer, rules.tax.home.country, locale).join(', ')
          : '',
      note: order.note,
      vouchers: vouchers.map((v) => `${readableCode(v.code)} (${money(v.amount)})`).join(', '),
      files: paid ? await filesHref(ctx, site, order, true) : '',
      ...more,
    },
  };
}

async function leftBehind(
  ctx: Ctx,
  site: Site,
  token: string,
): Promise<{ to: string; figures: LetterFigures } | undefined> {
  const cart = await readCart(ctx, site, token).catch(() => undefined);
  const to = cart?.form.email ?? '';
  if (!cart || cart.lines.length === 0 || !to) return undefined;
  const money = (amount: number) => formatMoney({ amount, currency: site.row.currency }, site.row.locale);
  return {
    to,
    figures: {
      links: ['cart'],
      goods: cart.lines.map((l) => ({ name: `${l.quantity} × ${nameWith(l)}`, amount: money(l.amount) })),
      text: {
        shop: site.row.name,
        buyer: cart.form.name ?? '',
        total: money(cart.total),
        cart: `${shopUrl(ctx, site)}/cart/${token}`,
        site: backToSite(ctx, site),
      },
    },
  };
}
