import type { TillRules } from './rules';
import type { BasketLine } from './basket';

/** Which parts of an address a checkout has to ask for. What nobody needs is not asked. */
export interface AddressAsked {
  /** Street and town too: something is sent. */
  readonly whole: boolean;
  readonly country: boolean;
  readonly state: boolean;
  readonly postcode: boolean;
}

export const wholeAddress: AddressAsked = { whole: true, country: true, state: true, postcode: true };

type AskedLine = Pick<BasketLine, 'ships' | 'digital'>;

/**
 * What a basket needs to know of where its buyer is. Whatever is sent needs all of it. For the rest the country is asked where a
 * tax rate or a way to pay depends on it, and the state where the rates of that country do; street, town and postcode never.
 * @param country that was said so far, ISO 3166-1 alpha-2.
 */
export function addressAsked(rules: TillRules, lines: readonly AskedLine[], country: string): AddressAsked {
  if (lines.some((l) => l.ships)) return wholeAddress;
  const byTax = rules.tax.charged && lines.some((l) => taxedAtBuyer(rules, l));
  const byPay = rules.pay.ways.some((w) => w.active && w.countries.length > 0);
  const state = byTax && rules.tax.rates.some((r) => r.country === country && r.state !== '');
  return { whole: false, country: byTax || byPay, state, postcode: false };
}

const taxedAtBuyer = ({ tax }: TillRules, line: AskedLine): boolean =>
  (line.digital ? tax.digitalBy : tax.goodsBy) === 'buyer';

/** Countries that something can be sent to; `all` where a region is the whole world. */
export function servedCountries(rules: TillRules): {
  readonly all: boolean;
  readonly codes: ReadonlySet<string>;
} {
  const areas = rules.shipping.regions.filter((r) => r.ways.length > 0).flatMap((r) => r.areas);
  return {
    all: areas.some((a) => a.country === '*'),
    codes: new Set(areas.map((a) => a.country).filter((c) => c !== '*')),
  };
}
