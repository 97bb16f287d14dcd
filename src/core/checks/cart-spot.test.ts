import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { betterSpot } from './cart-spot';
import type { SeenAtWidth } from './seen';

type Tried = SeenAtWidth['widgets'][number]['spots'][number];

const fine = { shows: true, leaves: false, overlaps: false, grows: 0, moves: 0, spills: false, apart: false };
const tried = (n: number, faults: Partial<Tried> = {}): Tried => ({ n, ...fine, ...faults });

/** The same spots at each width. */
const seenWith = (...at: readonly (readonly Tried[])[]): SeenAtWidth[] =>
  at.map((spots, i) => ({
    width: [1280, 820, 390][i] ?? 320,
    widgets: [{ placement: 'cart', kind: 'cart', spots }],
  })) as unknown as SeenAtWidth[];
const everywhere = (...spots: readonly Tried[]) => betterSpot(seenWith(spots, spots, spots), 'cart');

describe('where a cart stands best', () => {
  it('is where it stands, as long as nothing is wrong there', () => {
    expect(everywhere(tried(-1), tried(0), tried(1))).toBeUndefined();
    // A header that is a little taller is nobody's concern; nor is a row more on a phone.
    expect(everywhere(tried(-1, { grows: 20 }), tried(0))).toBeUndefined();
    const stacked = [tried(-1, { grows: 44, apart: true, leaves: true }), tried(0)];
    expect(betterSpot(seenWith([tried(-1), tried(0)], stacked, stacked), 'cart')).toBeUndefined();
  });

  it('is elsewhere where it makes a row of its own, hides something or is not seen', () => {
    expect(everywhere(tried(-1, { grows: 44, apart: true }), tried(0, { overlaps: true }), tried(1))).toBe(1);
    expect(everywhere(tried(-1, { overlaps: true }), tried(0))).toBe(0);
    expect(everywhere(tried(-1, { shows: false }), tried(0, { grows: 20 }), tried(1))).toBe(1);
  });

  it('is only where it is seen at every width', () => {
    const desk = [tried(-1, { overlaps: true }), tried(0), tried(1)];
    const phone = [tried(-1), tried(0, { shows: false }), tried(1)];
    expect(betterSpot(seenWith(desk, phone, phone), 'cart')).toBe(1);
    expect(betterSpot(seenWith(desk, [tried(-1), tried(0)], [tried(-1), tried(0)]), 'cart')).toBe(0);
  });

  it('is the corner where no spot will do, and unknown where nothing was tried', () => {
    expect(everywhere(tried(-1, { overlaps: true }), tried(0, { shows: false }))).toBe('corner');
    expect(everywhere(tried(-1, { overlaps: true }))).toBe('corner');
    expect(betterSpot(seenWith([], [], []), 'cart')).toBeUndefined();
    expect(betterSpot([], 'cart')).toBeUndefined();
  });

  const anyTried = fc.record({
    shows: fc.boolean(),
    leaves: fc.boolean(),
    overlaps: fc.boolean(),
    grows: fc.nat(200),
    moves: fc.nat(10),
    spills: fc.boolean(),
    apart: fc.boolean(),
  });
  it('is never a spot that is worse in everything, and found again it stays', () =>
    fc.assert(
      fc.property(
        fc.array(fc.array(anyTried, { minLength: 2, maxLength: 2 }), { minLength: 3, maxLength: 3 }),
        (at) => {
          const seen = at.map(([now, other]) => [tried(-1, now), tried(0, other)]);
          if (betterSpot(seenWith(...seen), 'cart') !== 0) return;
          // Standing there, with the old spot to go to: it does not go back.
          const moved = at.map(([now, other]) => [tried(-1, other), tried(0, now)]);
          expect(betterSpot(seenWith(...moved), 'cart')).not.toBe(0);
        },
      ),
    ));
});
