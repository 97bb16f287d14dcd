import { add, type Minor, minor, sum, times, zero } from '../money/minor';
import type { BasketLine } from './basket';
import { shippingKinds } from './goes';
import { measureOf, type MeasureWords, piecesOf } from './measures';
import { type Place, specialOf } from './place';
import type { Region, ShippingRules, ShippingWay } from './rules';

/** A way that is offered for a basket and a place: what it costs, and why. */
export interface Offered {
  readonly way: ShippingWay;
  readonly region: Region;
  /** Before any free line. */
  readonly price: Minor;
  readonly free: boolean;
  /** The band it falls in, by place; nothing where it is flat. */
  readonly band: number | null;
  /** What was measured: grams, minor units or pieces. */
  readonly measure: number;
  readonly rule: string;
  /** What is missing until it costs nothing; null where it never does, or does already. */
  readonly untilFree: Minor | null;
}

export type NoWay = 'no-region' | 'too-much';

/** Lines that have to be brought somewhere. */
export const toSend = (lines: readonly BasketLine[]): BasketLine[] => lines.filter((l) => l.ships);

/**
 * Ways for a place. Of regions that overlap the most special wins, for each kind of way on its own: a postcode for the bicycle
 * does not take the post away. @param goods the value that "free from" looks at.
 */
export function waysTo(
  rules: ShippingRules,
  lines: readonly BasketLine[],
  values: readonly Minor[],
  goods: Minor,
  place: Place,
  w: Pick<MeasureWords, 'money'>,
): Offered[] | NoWay {
  const near = rules.regions
    .flatMap((region, order) => {
      const special = region.areas.flatMap((a) => specialOf(a, place) ?? []);
      return special.length ? [{ region, special: Math.max(...special), order }] : [];
    })
    .sort((a, b) => b.special - a.special || a.order - b.order);
  const offered: Offered[] = [];
  let reached = false;
  for (const kind of shippingKinds) {
    const best = near.find(({ region }) => region.ways.some((x) => x.kind === kind));
    for (const way of best?.region.ways.filter((x) => x.kind === kind) ?? []) {
      reached = true;
      const price =
        best && priceOf(way, best.region, lines, values, goods, { money: w.money, unit: rules.unit });
      if (price) offered.push(price);
    }
  }
  if (offered.length) return offered;
  return reached ? 'too-much' : 'no-region';
}

/** What a way costs; nothing when the basket is beyond its last band. */
function priceOf(
  way: ShippingWay,
  region: Region,
  lines: readonly BasketLine[],
  values: readonly Minor[],
  goods: Minor,
  words: MeasureWords,
): Offered | undefined {
  const { pieces, measure, extra } = measured(way, lines, values);
  const band =
    way.by === 'flat' || pieces === 0 ? -1 : way.bands.findIndex((b) => b.upTo === null || measure <= b.upTo);
  if (way.by !== 'flat' && pieces > 0 && band === -1) return undefined;
  const price = [way.base, way.bands[band]?.price ?? zero, times(way.each, pieces), extra].reduce(add, zero);
  const free = way.freeFrom !== null && goods >= way.freeFrom;
  const parts = ruleWords(way, { band, measure, pieces, extra }, words);
  if (free && way.freeFrom !== null)
    parts.push(`${words.money(price)} \u2192 free, because goods are ${words.money(way.freeFrom)} or more`);
  const untilFree = way.freeFrom === null || free ? null : minor(way.freeFrom - goods);
  return {
    way,
    region,
    price,
    free,
    untilFree,
    band: band < 0 ? null : band,
    measure,
    rule: [region.name, ...parts].join(', '),
  };
}

/** What a way measures of a basket: products with a price of their own count by that alone. */
function measured(way: ShippingWay, lines: readonly BasketLine[], values: readonly Minor[]) {
  const own = new Map(way.own.map((o) => [o.goodsId, o.each]));
  const sent = lines.flatMap((line, n) => (line.ships ? [{ line, value: values[n] ?? zero }] : []));
  const rest = sent.filter(({ line }) => !own.has(line.goodsId));
  const measure = way.by === 'flat' ? 0 : measureOf(way.by).of(rest);
  const extra = sum(sent.map(({ line }) => times(own.get(line.goodsId) ?? zero, line.quantity)));
  return { pieces: piecesOf(rest), measure, extra };
}

interface Measured {
  readonly band: number;
  readonly measure: number;
  readonly pieces: number;
  readonly extra: Minor;
}

/** The parts that a price is made of, each where there is something to say of it. */
function ruleWords(
  way: ShippingWay,
  { band, measure, pieces, extra }: Measured,
  words: MeasureWords,
): string[] {
  const each = way.each && pieces > 0;
  const isOnlyBase = way.by === 'flat' && !each && !extra;
  return [
    way.by === 'flat' ? '' : bandWords(way, band, measure, words),
    way.base && !isOnlyBase ? `base ${words.money(way.base)}` : '',
    each ? `${words.money(way.each)} a piece` : '',
    extra ? `${words.money(extra)} for single products` : '',
  ].filter(Boolean);
}

function bandWords(way: ShippingWay, band: number, measure: number, words: MeasureWords): string {
  if (band < 0 || way.by === 'flat') return '';
  const { text, noun } = measureOf(way.by);
  const say = (n: number) => text(n, words);
  const [from, to] = [way.bands[band - 1]?.upTo ?? 0, way.bands[band]?.upTo ?? null];
  return `${say(measure)} in the band ${to === null ? `above ${say(from)}` : `${say(from)} to ${say(to)}`}${noun && ` ${noun}`}`;
}

const DAY = 86_400_000;
const noon = (day: string): number => Date.parse(`${day}T12:00:00Z`);
const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10);

/**
 * The days something is expected between, counted in days on which parcels go: closing days count for nothing.
 * @param today "2026-11-25". @returns nothing where the way says nothing.
 */
export function expected(
  rules: Pick<ShippingRules, 'closedWeekdays' | 'closedDays'>,
  way: Pick<ShippingWay, 'days'>,
  today: string,
): { readonly from: string; readonly to: string } | undefined {
  if (!way.days || rules.closedWeekdays.length > 6) return undefined;
  const after = (days: number): string => {
    let at = noon(today);
    for (let left = days; left > 0; ) {
      at += DAY;
      if (!rules.closedWeekdays.includes(new Date(at).getUTCDay()) && !rules.closedDays.includes(dayOf(at)))
        left--;
    }
    return dayOf(at);
  };
  return { from: after(way.days.least), to: after(way.days.most) };
}
