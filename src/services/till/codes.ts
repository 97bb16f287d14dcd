import { randomInt } from 'node:crypto';
import { and, eq, gt, ne, or, type SQL, sql } from 'drizzle-orm';
import { minor } from '../../core/money/minor';
import type { Voucher } from '../../core/till/basket';
import type { TillRules } from '../../core/till/rules';
import type { WorkedSum } from '../../core/till/worked-sum';
import type { Db, Tx } from '../../data/database';
import { keep, many } from '../../data/kept-queries';
import { discountUses, type orders, vouchers, voucherUses } from '../../data/schema';
import type { Lacks } from '../../data/schema/till';
import { newId } from '../ids';

/** Uses that count: those that are paid for, and those whose buyer is paying now. */
const counts = (table: typeof discountUses | typeof voucherUses, now: Date | SQL) =>
  or(eq(table.state, 'used'), and(eq(table.state, 'held'), gt(table.expiresAt, now)));

const usesOfRules = keep(
  {
    siteId: discountUses.siteId,
    limited: many(discountUses.ruleId),
    email: discountUses.email,
    butOrder: discountUses.orderId,
    now: discountUses.expiresAt,
  },
  (q, { siteId, limited, email, butOrder, now }) =>
    q
      .select({
        ruleId: discountUses.ruleId,
        all: sql<number>`count(*)`,
        own: sql<number>`sum(lower(${discountUses.email}) = ${email})`,
      })
      .from(discountUses)
      .where(
        and(
          eq(discountUses.siteId, siteId),
          sql`${discountUses.ruleId} in ${limited}`,
          ne(discountUses.orderId, butOrder),
          counts(discountUses, now),
        ),
      )
      .groupBy(discountUses.ruleId),
);

/** How often rules with a limit were used, in all and with a mail address. @param butOrder an order whose own use does not count. */
export async function usesOf(
  db: Db | Tx,
  siteId: string,
  rules: TillRules,
  email: string,
  now: Date,
  butOrder: string,
): Promise<Record<string, { all: number; own: number }>> {
  const limited = rules.discounts
    .filter((d) => d.active && (d.limit !== null || d.limitEach !== null))
    .map((d) => d.id);
  if (limited.length === 0) return {};
  const rows = await usesOfRules(db, { siteId, limited, butOrder, now, email: email.toLowerCase() });
  return Object.fromEntries(rows.map((r) => [r.ruleId, { all: r.all, own: email ? r.own : 0 }]));
}

/** "abcd-efgh 1234" as it is kept. Letters that are taken for one another are one. */
export const bareCode = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

const vouchersByCode = keep({ siteId: vouchers.siteId, bare: many(vouchers.code) }, (q, { siteId, bare }) =>
  q
    .select()
    .from(vouchers)
    .where(and(eq(vouchers.siteId, siteId), sql`${vouchers.code} in ${bare}`)),
);
const spentOnVouchers = keep(
  { ids: many(voucherUses.voucherId), butOrder: voucherUses.orderId, now: voucherUses.expiresAt },
  (q, { ids, butOrder, now }) =>
    q
      .select({ id: voucherUses.voucherId, sum: sql<number>`sum(${voucherUses.amount})` })
      .from(voucherUses)
      .where(
        and(
          sql`${voucherUses.voucherId} in ${ids}`,
          ne(voucherUses.orderId, butOrder),
          counts(voucherUses, now),
        ),
      )
      .groupBy(voucherUses.voucherId),
);

/** What is left on the vouchers among some codes, those with nothing on them left out. */
export async function vouchersIn(
  db: Db | Tx,
  siteId: string,
  codes: readonly string[],
  now: Date,
  butOrder: string,
): Promise<Voucher[]> {
  if (codes.length === 0) return [];
  const found = await vouchersByCode(db, { siteId, bare: codes.map(bareCode) });
  const good = found.filter((v) => v.expiresAt === null || v.expiresAt > now);
  if (good.length === 0) return [];
  const spent = await spentOnVouchers(db, { ids: good.map((v) => v.id), butOrder, now });
  const sums = new Map(spent.map((s) => [s.id, s.sum]));
  return codes.flatMap((code) => {
    const v = good.find((x) => x.code === bareCode(code));
    const balance = v ? v.amount - (sums.get(v.id) ?? 0) : 0;
    return balance > 0 ? [{ code, balance: minor(balance) }] : [];
  });
}

/** Keeps discounts and vouchers for an order while its buyer pays. Within the transaction that worked them out. */
export async function holdUses(
  tx: Tx,
  siteId: string,
  orderId: string,
  email: string,
  worked: WorkedSum,
  expiresAt: Date,
): Promise<void> {
  for (const step of worked.steps) {
    if (step.kind === 'discount' && step.id)
      await tx
        .insert(discountUses)
        .values({ siteId, ruleId: step.id, orderId, email, state: 'held', expiresAt });
    if (step.kind !== 'voucher' || !step.id) continue;
    const [v] = await tx
      .select({ id: vouchers.id })
      .from(vouchers)
      .where(and(eq(vouchers.siteId, siteId), eq(vouchers.code, bareCode(step.id))));
    if (v)
      await tx
        .insert(voucherUses)
        .values({ voucherId: v.id, orderId, amount: -step.amount, state: 'held', expiresAt });
  }
}

const letDiscountsGo = keep({ orderId: discountUses.orderId }, (q, { orderId }) =>
  q
    .update(discountUses)
    .set({ state: 'released' })
    .where(and(eq(discountUses.orderId, orderId), eq(discountUses.state, 'held'))),
);
const letVouchersGo = keep({ orderId: voucherUses.orderId }, (q, { orderId }) =>
  q
    .update(voucherUses)
    .set({ state: 'released' })
    .where(and(eq(voucherUses.orderId, orderId), eq(voucherUses.state, 'held'))),
);

export async function releaseUses(tx: Tx, orderId: string): Promise<void> {
  await letDiscountsGo(tx, { orderId });
  await letVouchersGo(tx, { orderId });
}

/** What an order was promised and is not there any more. */
export interface Missed {
  /** Minor units, by the code of the voucher that no longer had them. */
  readonly vouchers: ReadonlyMap<string, number>;
  readonly over: Lacks['over'];
}

/**
 * What an order used is used for good: uses of codes, and money on vouchers, but never more than is there.
 * A hold that had run out, or was
 * given up for another basket, is taken again as far as others have left it. @returns what is missing.
 */
export async function spendUses(
  tx: Tx,
  order: typeof orders.$inferSelect,
  rules: TillRules,
  now: Date,
): Promise<Missed> {
  const orderId = order.id;
  const steps = order.worked.steps.filter((s) => s.kind === 'discount' || s.kind === 'voucher');
  const vouchers = new Map<string, number>();
  if (steps.length === 0) return { vouchers, over: [] };
  const codes = steps.flatMap((s) => (s.kind === 'voucher' && s.id ? [s.id] : []));
  const [found, uses] = [
    await vouchersIn(tx, order.siteId, codes, now, orderId),
    await usesOf(tx, order.siteId, rules, order.buyer.email, now, orderId),
  ];
  const left = new Map<string, number>(found.map((v) => [v.code, v.balance]));
  const over = steps.flatMap((s) => {
    const rule = s.kind === 'discount' ? rules.discounts.find((d) => d.id === s.id) : undefined;
    const used = rule && uses[rule.id];
    const full =
      used &&
      ((rule.limit !== null && used.all >= rule.limit) ||
        (rule.limitEach !== null && used.own >= rule.limitEach));
    return full ? [{ id: rule.id, name: rule.name, amount: -s.amount as number }] : [];
  });
  const there = order.worked.steps.map((s) => {
    if (s.kind !== 'voucher' || !s.id) return s;
    const taken = Math.min(-s.amount, left.get(s.id) ?? 0);
    if (taken < -s.amount) vouchers.set(s.id, -s.amount - taken);
    return { ...s, amount: minor(-taken) };
  });
  await releaseUses(tx, orderId);
  // What was beyond its limit counts for nobody: whoever holds the last use has it.
  const beyond = new Set(over.map((o) => o.id));
  const spent = {
    ...order.worked,
    steps: there.filter((s) => (s.kind === 'voucher' ? s.amount < 0 : !beyond.has(s.id ?? ''))),
  };
  await holdUses(tx, order.siteId, orderId, order.buyer.email, spent, now);
  await tx
    .update(discountUses)
    .set({ state: 'used' })
    .where(and(eq(discountUses.orderId, orderId), eq(discountUses.state, 'held')));
  await tx
    .update(voucherUses)
    .set({ state: 'used' })
    .where(and(eq(voucherUses.orderId, orderId), eq(voucherUses.state, 'held')));
  return { vouchers, over: over.map(({ name, amount }) => ({ name, amount })) };
}

/** Letters and digits that nobody takes for one another when they are read out or copied by hand. */
const ALPHABET = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const newCode = (): string => Array.from({ length: 12 }, () => ALPHABET[randomInt(ALPHABET.length)]).join('');

/** "ABCDEFGH2345" for people: in groups of four. */
export const readableCode = (code: string): string => code.replace(/(.{4})(?=.)/g, '$1-');

/** Makes the gift vouchers that an order bought, one to each piece. */
export async function issueVouchers(tx: Tx, order: typeof orders.$inferSelect, now: Date): Promise<void> {
  for (const line of order.worked.lines) {
    if (!line.voucher) continue;
    const { months } = line.voucher;
    const expiresAt =
      months === null
        ? null
        : new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + months, now.getUTCDate() + 1));
    for (let n = 0; n < line.quantity; n++)
      await tx.insert(vouchers).values({
        id: newId(),
        siteId: order.siteId,
        code: newCode(),
        amount: line.unit,
        currency: order.currency,
        expiresAt,
        orderId: order.id,
        createdAt: now,
      });
  }
}

export const vouchersOf = (db: Db | Tx, orderId: string) =>
  db.select().from(vouchers).where(eq(vouchers.orderId, orderId));
