import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currencies, minorDigits } from './currency';
import { amountText, decimalText, formatMoney, parseMoney } from './format';
import { AmountError, add, allocate, minor, sum, times } from './minor';

const amounts = fc.integer({ min: -1_000_000_000_000, max: 1_000_000_000_000 }).map(minor);

describe('minor units', () => {
  it('refuses fractions and what cannot be held exactly', () => {
    for (const bad of [0.5, Number.NaN, Number.POSITIVE_INFINITY, 2 ** 53, -(2 ** 53)])
      expect(() => minor(bad)).toThrow(AmountError);
    expect(() => add(minor(Number.MAX_SAFE_INTEGER), minor(1))).toThrow(AmountError);
    expect(() => times(minor(Number.MAX_SAFE_INTEGER), 2)).toThrow(AmountError);
    expect(() => times(minor(100), 1.5)).toThrow(AmountError);
  });

  it('shares an amount without losing or making any of it, each share within one of its exact part', () => {
    fc.assert(
      fc.property(
        amounts,
        fc.array(fc.nat(10_000), { minLength: 1, maxLength: 12 }).filter((w) => w.some((x) => x > 0)),
        (total, weights) => {
          const shares = allocate(total, weights);
          const all = weights.reduce((a, b) => a + b, 0);
          expect(sum(shares)).toBe(total);
          for (const [i, s] of shares.entries())
            expect(Math.abs(s - (total * (weights[i] ?? 0)) / all)).toBeLessThan(1);
        },
      ),
    );
  });

  it('gives the remainder to the largest fractions, the earlier of equals first', () => {
    // 100 over 1:1:1 is 34, 33, 33: largest remainder as the handbook of apportionment has it (Hamilton's method).
    expect(allocate(minor(100), [1, 1, 1])).toEqual([34, 33, 33]);
    expect(allocate(minor(5), [3, 3, 1])).toEqual([2, 2, 1]);
    expect(allocate(minor(-100), [1, 1, 1])).toEqual([-34, -33, -33]);
    expect(() => allocate(minor(1), [0, 0])).toThrow(AmountError);
  });
});

describe('currencies', () => {
  it('have the digits of ISO 4217', () => {
    // ISO 4217:2015, table A.1: yen has no minor unit, dinar has three digits; four-digit units exist (CLF).
    expect(['GBP', 'EUR', 'JPY', 'KWD', 'CLF'].map(minorDigits)).toEqual([2, 2, 0, 3, 4]);
    expect(() => minorDigits('XYZ')).toThrow('ISO 4217');
  });

  it('are mostly known to Intl (CLDR) by the same codes; funds and the newest are not', () => {
    const known = new Set(Intl.supportedValuesOf('currency'));
    const ours = currencies().filter((c) => !/^X/.test(c));
    expect(ours.filter((c) => !known.has(c)).length / ours.length).toBeLessThan(0.1);
  });
});

describe('writing and reading amounts', () => {
  it('come back as they went, in every currency', () => {
    fc.assert(
      fc.property(amounts, fc.constantFrom(...currencies()), (amount, currency) => {
        const read = parseMoney(decimalText(amount, currency), currency);
        expect(read).toEqual({ ok: true, value: amount });
      }),
    );
  });

  it('come back as a language writes them into a field', () => {
    const locales = ['en-GB', 'de-DE', 'fr-FR', 'sv-SE', 'de-CH', 'es-ES', 'ar-EG', 'hi-IN'];
    fc.assert(
      fc.property(
        amounts,
        fc.constantFrom(...currencies()),
        fc.constantFrom(...locales),
        (amount, currency, locale) => {
          const read = parseMoney(amountText(amount, currency, locale), currency, locale);
          expect(read).toEqual({ ok: true, value: amount });
        },
      ),
    );
  });

  it('are local in form and exact in figures', () => {
    expect(formatMoney({ amount: minor(6800), currency: 'GBP' }, 'en-GB')).toBe('£68.00');
    expect(formatMoney({ amount: minor(123_456_789), currency: 'EUR' }, 'de-DE')).toBe('1.234.567,89\u00a0€');
    expect(formatMoney({ amount: minor(9_007_199_254_740_991), currency: 'USD' }, 'en-US')).toBe(
      '$90,071,992,547,409.91',
    );
    expect(formatMoney({ amount: minor(500), currency: 'JPY' }, 'ja-JP')).toMatch(/500$/);
    expect(decimalText(minor(5), 'KWD')).toBe('0.005');
  });

  it('understand what people type, and say what is wrong with the rest', () => {
    for (const [typed, pence] of [
      ['68', 6800],
      ['68.5', 6850],
      ['£ 1,200.00', 120_000],
      ['68,50', 6850],
      ['1.234,5', 123_450],
      ['0', 0],
      ['-3.20', -320],
    ] as const) {
      expect(parseMoney(typed, 'GBP'), typed).toEqual({ ok: true, value: pence });
    }
    for (const typed of [
      '',
      'sixty',
      '1.2.3',
      '12..',
      '.',
      ',50',
      '12,34,567',
      '1.2345',
      '99999999999999999',
    ])
      expect(parseMoney(typed, 'GBP').ok, typed).toBe(false);
    expect(parseMoney('10.5', 'JPY').ok).toBe(false);
    // Three figures after a single mark: as the language has it, and never guessed where it has neither.
    expect(parseMoney('10.005', 'GBP').ok).toBe(false);
    expect(parseMoney('10,005', 'GBP')).toEqual({ ok: true, value: 1_000_500 });
    expect(parseMoney('10.005', 'EUR', 'de-DE')).toEqual({ ok: true, value: 1_000_500 });
    expect(parseMoney('10,005', 'EUR', 'de-DE').ok).toBe(false);
    expect(parseMoney('10.005', 'EUR', 'fr-FR').ok).toBe(false);
    expect(parseMoney('10,50', 'EUR', 'de-DE')).toEqual({ ok: true, value: 1050 });
    expect(parseMoney('1.234', 'KWD')).toEqual({ ok: true, value: 1234 });
  });
});
