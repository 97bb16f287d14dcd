import fc from 'fast-check';
import { expect, it } from 'vitest';
import { convert, exchangeRules, inOther } from './exchange';
import { minor } from './minor';

it('amounts go over by the rate and the digits of both currencies (ISO 4217: yen have none, dinars three)', () => {
  expect(convert(minor(10_000), 'GBP', 'EUR', '1.1734')).toBe(11_734);
  expect(convert(minor(100), 'EUR', 'JPY', '163.25')).toBe(163);
  expect(convert(minor(1000), 'JPY', 'EUR', '0.006125')).toBe(613);
  expect(convert(minor(100), 'EUR', 'KWD', '0.3325')).toBe(333);
  expect(convert(minor(-150), 'EUR', 'JPY', '1')).toBe(-2);
});

it('at a rate of one, in currencies of as many digits, nothing changes; more is never less; and it is exact beyond floats', () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e12, max: 1e12 }), (n) => {
      expect(convert(minor(n), 'GBP', 'EUR', '1')).toBe(minor(n));
    }),
  );
  fc.assert(
    fc.property(fc.nat(1e9), fc.nat(1e9), fc.integer({ min: 1, max: 9_999_999 }), (a, b, r) => {
      const rate = `${Math.floor(r / 1000)}.${String(r % 1000).padStart(3, '0')}`;
      if (Number(rate) === 0) return;
      expect(
        Math.sign(
          convert(minor(Math.max(a, b)), 'GBP', 'USD', rate) -
            convert(minor(Math.min(a, b)), 'GBP', 'USD', rate),
        ),
      ).toBeGreaterThanOrEqual(0);
    }),
  );
  expect(convert(minor(9_007_199_254_740_991), 'GBP', 'EUR', '0.1')).toBe(900_719_925_474_099);
});

it('is told only where the table has it', () => {
  const rules = exchangeRules.parse({ date: '2026-11-20', rates: [{ currency: 'EUR', rate: '1.14' }] });
  expect(inOther(rules, minor(4200), 'GBP', 'EUR', 'en-GB')).toBe('€47.88');
  expect(inOther(rules, minor(4200), 'GBP', 'USD', 'en-GB')).toBe('');
  expect(exchangeRules.safeParse({ rates: [{ currency: 'XXY', rate: '1' }] }).success).toBe(false);
  expect(exchangeRules.safeParse({ rates: [{ currency: 'EUR', rate: '0.0' }] }).success).toBe(false);
});
