import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readWeight, toGrams, inUnit, weightText, weightUnits } from './weight';

it('pounds and ounces are those of 1959: a pound is 453.59237 g, sixteen ounces', () => {
  expect([toGrams(1, 'lb'), toGrams(16, 'oz'), toGrams(100, 'lb'), toGrams(1.5, 'kg')]).toEqual([
    454, 454, 45_359, 1500,
  ]);
  expect(weightText(3650, 'kg')).toBe('3.65 kg');
  expect(weightText(907, 'lb')).toBe('2 lb');
});

it('what is typed comes back as it was typed, in every unit', () => {
  fc.assert(
    fc.property(fc.constantFrom(...weightUnits), fc.integer({ min: 1, max: 20_000 }), (unit, n) => {
      const typed = n / { g: 1, kg: 1000, lb: 100, oz: 10 }[unit];
      expect(inUnit(toGrams(typed, unit), unit)).toBe(Number(typed.toFixed(3)));
    }),
  );
});

it('is read with its unit or without, and nothing else is taken for a weight', () => {
  expect([
    readWeight('350'),
    readWeight('1,2 kg'),
    readWeight('12 oz'),
    readWeight('2LB'),
    readWeight('2 lbs'),
    readWeight('5', 'lb'),
  ]).toEqual([350, 1200, 340, 907, 907, 2268]);
  for (const wrong of ['', 'kg', '-1', '1e3', '2 stone', '1.2.3', 'NaN'])
    expect(readWeight(wrong), wrong).toBeUndefined();
});
