import { oldestKey } from '../../core/entries';
import { eq, sql } from 'drizzle-orm';
import { isValidIBAN } from 'ibantools';
import { z } from 'zod';
import type { KeptSetUp } from '../../core/site/set-up';
import { type PayKind, payKindOf } from '../../core/till/pay-kinds';
import { ratesIn } from '../../core/till/rates';
import { ruleFaults, tillRules, type TillRules } from '../../core/till/rules';
import type { Db, Tx } from '../../data/database';
import { keep } from '../../data/kept-queries';
import { liveChanges, sites, tills } from '../../data/schema';
import { setUpLifts } from '../../data/schema/lifts';
import { readVersioned } from '../../data/versioned';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import {
  apply,
  type Change,
  changeBetween,
  invert,
  rebase,
  type Records,
  recordsOf,
} from '../../core/change';
import { sameJson } from '../../core/json';
import { stateCode } from './address';
import { countryName } from './countries';
import type { Site } from '../sites/site';

/** What stands before the owner has set anything: prices as they are, no tax, nothing said of shipping. */
function usualRules(setUp: KeptSetUp | null): TillRules {
  if (!setUp) return tillRules.parse({ tax: { charged: false } });
  return tillRules.parse({
    tax: {
      charged: setUp.taxed ?? false,
      included: setUp.taxIncluded,
      home: { country: setUp.country },
      rates: setUp.taxed ? ratesIn(setUp.country) : [],
    },
    shipping: { unit: setUp.units === 'imperial' ? 'lb' : 'kg' },
    pay: { ways: setUp.takesMoney.map((kind) => wayFor(kind, setUp.account ?? '')) },
  });
}

/** A way to be paid as the set-up names it. An account that is no IBAN is told in words. */
function wayFor(kind: PayKind, account: string): object {
  if (!payKindOf(kind).account || !account) return { id: kind, kind };
  const iban = account.replace(/\s/g, '').toUpperCase();
  return isValidIBAN(iban) ? { id: kind, kind, iban } : { id: kind, kind, words: account };
}

const rowOf = keep({ id: sites.id }, (q, { id }) =>
  q
    .select({
      rules: sql<string | null>`${tills.rules}`,
      setUp: sql<string | null>`${sites.setUp}`,
      name: sites.name,
      locale: sites.locale,
      goodsVersion: sites.goodsVersion,
    })
    .from(sites)
    .leftJoin(tills, eq(tills.siteId, sites.id))
    .where(eq(sites.id, id)),
);

/** What the till asks of a site's own row, with its rules: one question. */
export interface TillFacts {
  readonly name: string;
  readonly locale: string;
  readonly goodsVersion: number;
  /** Frozen, and shared by all who ask. */
  readonly rules: TillRules;
}

export async function readTill(db: Db | Tx, siteId: string): Promise<TillFacts> {
  const [row] = await rowOf(db, { id: siteId });
  const { name, locale, goodsVersion } = row ?? { name: '', locale: 'en', goodsVersion: 0 };
  return { name, locale, goodsVersion, rules: rulesFrom(siteId, row?.rules ?? null, row?.setUp ?? null) };
}

export const readRules = async (db: Db | Tx, siteId: string): Promise<TillRules> =>
  (await readTill(db, siteId)).rules;

/** Rules as they were last read of each site, by the very text they are kept as: checking them takes longer than all the rest of reading them. */
const lastRead = new Map<string, { readonly text: string; readonly rules: TillRules }>();
/** Sites whose rules are remembered. */
const SITES = 200;

function rulesFrom(siteId: string, rules: string | null, setUp: string | null): TillRules {
  const text = rules ?? `usual ${setUp}`;
  const known = lastRead.get(siteId);
  if (known?.text === text) return known.rules;
  // Rules that were kept before a field was known get its usual value.
  const read = frozen(
    rules
      ? withStateCodes(tillRules.parse(JSON.parse(rules)), (_, state) => state)
      : usualRules(setUp ? readVersioned<KeptSetUp>(setUp, setUpLifts) : null),
  );
  lastRead.delete(siteId);
  lastRead.set(siteId, { text, rules: read });
  if (lastRead.size > SITES) lastRead.delete(oldestKey(lastRead) ?? '');
  return read;
}

function frozen<T>(value: T): T {
  if (typeof value === 'object' && value !== null && !Object.isFrozen(value))
    for (const part of Object.values(Object.freeze(value))) frozen(part);
  return value;
}

const parts = [
  'tax',
  'shipping',
  'discounts',
  'zone',
  'pay',
  'seller',
  'checkout',
  'letters',
  'exchange',
] as const;
const change = z.object({ part: z.enum(parts), value: z.unknown(), from: z.unknown() });
/** One part of the till as it is to be, and as it was seen. */
export type RulesChange = z.input<typeof change>;
const partNames: Record<(typeof parts)[number], string> = {
  tax: 'Tax',
  shipping: 'Shipping',
  discounts: 'Discounts',
  zone: 'Time zone',
  pay: 'Ways to pay',
  seller: 'Who sells',
  checkout: 'Checkout',
  letters: 'Letters',
  exchange: 'Other currencies',
};

/** The till as records: one to each part. */
const partsOf = (rules: TillRules): Records<unknown> =>
  recordsOf(parts.map((part) => [part, rules[part]] as const));
const changeOfPart = (part: string, from: unknown, to: unknown): Change<unknown> =>
  changeBetween({ [part]: from }, { [part]: to });

/**
 * Sets one part of the till. Live at once, one line on the slip, one undo.
 * @param asked the part as it is to be, and as the owner saw it: a change from another window is not lost.
 */
export async function saveRules(ctx: Ctx, site: Site, asked: unknown, by: string): Promise<TillRules> {
  const parsed = change.safeParse(asked);
  if (!parsed.success) throw invalid('This part of the till is not known.');
  const { part, value, from } = parsed.data;
  const saved = await ctx.store.write(async (tx) => {
    const before = await readRules(tx, site.row.id);
    const wanted = rebase(changeOfPart(part, from, value), partsOf(before));
    if (!wanted.ok)
      throw conflict(
        'This part of the till was changed in another window. Look at it as it is now, and change it again.',
      );
    const after = parseRules({ ...before, ...apply(partsOf(before), wanted.value) });
    if (sameJson(after[part], before[part])) return before;
    await write(ctx, tx, site.row.id, after);
    await tx.insert(liveChanges).values({
      siteId: site.row.id,
      detail: { act: partNames[part], changes: [], till: changeOfPart(part, before[part], after[part]) },
      by,
      at: ctx.now(),
    });
    return after;
  });
  ctx.changed(site.row.id);
  return saved;
}

/**
 * Rules with their states as the checkout sends them: by their codes, however they were written. A rule for "Georgia" would else hold for
 * nobody. @param unknown is told of states that their country does not have; what it returns stands.
 */
function withStateCodes(rules: TillRules, unknown: (country: string, state: string) => string): TillRules {
  const code = (country: string, state: string) => stateCode(country, state) ?? unknown(country, state);
  const { tax, shipping } = rules;
  return {
    ...rules,
    tax: {
      ...tax,
      home: { ...tax.home, state: code(tax.home.country, tax.home.state) },
      rates: tax.rates.map((r) => ({ ...r, state: code(r.country, r.state) })),
    },
    shipping: {
      ...shipping,
      regions: shipping.regions.map((g) => ({
        ...g,
        areas: g.areas.map((a) => ({ ...a, states: a.states.map((s) => code(a.country, s)) })),
      })),
    },
  };
}

const noSuchState = (country: string, state: string): never => {
  throw invalid(
    `${countryName(country, 'en')} has no state called \u201c${state}\u201d. Choose it from the list, or write its letters.`,
  );
};

function parseRules(value: unknown): TillRules {
  const parsed = tillRules.safeParse(value);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw invalid(issue?.message ?? 'These rules cannot be kept.', { path: issue?.path });
  }
  const wrong = parsed.data.pay.ways.find((w) => w.iban && !isValidIBAN(w.iban));
  if (wrong) throw invalid('That is not an IBAN: its check digits do not fit. Copy it from your bank.');
  const rules = withStateCodes(parsed.data, noSuchState);
  const [fault] = ruleFaults(rules);
  if (fault) throw invalid(fault);
  return rules;
}

async function write(ctx: Ctx, tx: Tx, siteId: string, rules: TillRules): Promise<void> {
  const updatedAt = ctx.now();
  await tx
    .insert(tills)
    .values({ siteId, rules, updatedAt })
    .onConflictDoUpdate({ target: tills.siteId, set: { rules, updatedAt } });
}

/** Takes a change of the till back; what was changed elsewhere in it since stays. @throws Refusal where the same was changed again. */
export async function takeRulesBack(
  ctx: Ctx,
  tx: Tx,
  siteId: string,
  change: Change<unknown>,
): Promise<void> {
  const now = await readRules(tx, siteId);
  const back = rebase(invert(change), partsOf(now));
  if (!back.ok) throw conflict('This part of the till was changed again since. Undo the later change first.');
  await write(ctx, tx, siteId, parseRules({ ...now, ...apply(partsOf(now), back.value) }));
}
