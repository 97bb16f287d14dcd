import { differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contrast } from './colour';
import { difference, nearestPassing, needs, remedyFor } from './remedy';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);

describe('the difference of colours', () => {
  // G. Sharma, W. Wu, E. N. Dalal: The CIEDE2000 color-difference formula (2005), table 1; entered from memory.
  const table: readonly (readonly [number, number, number, number, number, number, number])[] = [
    [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
    [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
    [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
    [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
    [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
    [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
    [50, 0, 0, 50, -1, 2, 2.3669],
    [50, -1, 2, 50, 0, 0, 2.3669],
    [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
    [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
    [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
    [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
    [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
    [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
    [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
    [50, 2.5, 0, 50, 0, -2.5, 4.3065],
    [50, 2.5, 0, 73, 25, -18, 27.1492],
    [50, 2.5, 0, 61, -5, 29, 22.8977],
    [50, 2.5, 0, 56, -27, -3, 31.903],
    [50, 2.5, 0, 58, 24, 15, 19.4535],
    [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
    [50, 2.5, 0, 50, 3.2972, 0, 1],
    [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
    [50, 2.5, 0, 50, 3.2592, 0.335, 1],
    [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
    [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
    [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
    [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
    [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
    [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
    [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
    [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
    [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
    [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
  ];

  it('is that of the published table', () => {
    const ciede = differenceCiede2000();
    for (const [l, a, b, l2, a2, b2, wanted] of table)
      expect(ciede({ mode: 'lab65', l, a, b }, { mode: 'lab65', l: l2, a: a2, b: b2 })).toBeCloseTo(
        wanted,
        4,
      );
  });

  it('is nothing between a colour and itself, and the same both ways', () => {
    fc.assert(
      fc.property(hex, hex, (a, b) => {
        expect(difference(a, a)).toBe(0);
        expect(difference(a, b)).toBeCloseTo(difference(b, a), 6);
      }),
    );
  });
});

describe('a pair that does not pass', () => {
  it('is mended by the least that is seen: the text or the fill', () => {
    // White on a blue of 3.98: the blue moves a little, and white stays white.
    const blue = '#3b82f6';
    expect(contrast('#ffffff', blue)).toBeLessThan(4.5);
    const mended = remedyFor('#ffffff', blue, needs.text);
    expect(mended).toMatchObject({ move: 'fill' });
    expect(mended?.by).toBeLessThan(6);
    expect(contrast('#ffffff', mended?.to ?? '')).toBeGreaterThanOrEqual(4.5);
    // Grey on white just fails: it gets a little darker, and white stays white.
    expect(remedyFor('#7a7a7a', '#ffffff', needs.text)).toMatchObject({ move: 'text' });
    expect(remedyFor('#767676', '#ffffff', needs.text)).toBeUndefined();
  });

  it('passes afterwards, whatever the colours; and what moved is the less visible of the two ways', () => {
    fc.assert(
      fc.property(hex, hex, fc.constantFrom(needs.text, needs.edge), (text, fill, ratio) => {
        const mended = remedyFor(text, fill, ratio);
        if (!mended) {
          expect(contrast(text, fill)).toBeGreaterThanOrEqual(ratio);
          return;
        }
        expect(mended.ratio).toBeGreaterThanOrEqual(ratio);
        for (const other of [nearestPassing(text, fill, ratio), nearestPassing(fill, text, ratio)])
          if (other) expect(mended.by).toBeLessThanOrEqual(other.by);
      }),
      { numRuns: 60 },
    );
  });

  it('moves no farther than any grey, or any shade of its own hue by mixing, would have to', () => {
    fc.assert(
      fc.property(hex, hex, (colour, against) => {
        const moved = nearestPassing(colour, against, 4.5);
        if (!moved || moved.by === 0) return;
        const channels = [1, 3, 5].map((n) => Number.parseInt(colour.slice(n, n + 2), 16));
        for (const end of [0, 255])
          for (let share = 0; share <= 1; share += 0.02) {
            const shade = `#${channels
              .map((c) =>
                Math.round(c + (end - c) * share)
                  .toString(16)
                  .padStart(2, '0'),
              )
              .join('')}`;
            if (contrast(shade, against) >= 4.5)
              expect(moved.by).toBeLessThanOrEqual(difference(shade, colour) + 1.5);
          }
      }),
      { numRuns: 40 },
    );
  });
});
