import fc from 'fast-check';
import { expect, it } from 'vitest';
import { zero } from '../../core/money/minor';
import { bandFaults } from '../../core/till/rules';
import { spans } from './ruler';

const bands = (ends: readonly (number | null)[]) => ends.map((upTo) => ({ upTo, price: zero }));

it('bands that rise fill the ruler from end to end, each beginning where the one before ends', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 1e6 }), { minLength: 1, maxLength: 12 }),
      fc.boolean(),
      (ends, open) => {
        const rising = [...ends].sort((a, b) => a - b);
        const drawn = spans(bands(open ? [...rising, null] : rising));
        expect(drawn.reduce((n, s) => n + s.width, 0)).toBeCloseTo(100, 6);
        let at = 0;
        for (const s of drawn) {
          expect(s.from).toBeCloseTo(at, 6);
          expect(s.over).toBe(false);
          at += s.width;
        }
      },
    ),
  );
});

it('a band is drawn as overlapping exactly where its rule is at fault', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1, maxLength: 8 }), (ends) => {
      const faults = new Set(
        bandFaults(bands(ends))
          .filter((f) => f.kind === 'overlap')
          .map((f) => f.at),
      );
      const over = spans(bands(ends)).map((s) => s.over);
      for (const at of faults) expect(over[at]).toBe(true);
      if (faults.size === 0) expect(over.every((o) => !o)).toBe(true);
    }),
  );
});
