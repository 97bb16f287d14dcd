import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gridHeight } from '../storefront/room';
import { shapeLabels, shapeValueLabel } from './labels';
import { readDecision } from './plan';
import {
  cleanShape,
  departure,
  shapeDeclarations,
  shapeKey,
  shapeNames,
  shapeOf,
  shapeOptions,
  shapes,
  shapeVars,
  usualShape,
} from './shape';

describe('the shape of the shop', () => {
  it('as usual sets nothing: the style sheet has it', () => {
    expect(shapeVars({})).toEqual({});
    expect(shapeDeclarations(usualShape, 1)).toBe('');
    expect(shapeOf({ 'shape:cards': 'nonsense', 'shape:phone': '99' })).toEqual(usualShape);
  });

  it('changes something with every way of every part: no setting is for show', () => {
    // How the sign is drawn and where its count stands is told to the cart itself (server/public/read.ts).
    const drawn = new Set(['sign', 'sign-count']);
    for (const name of shapeNames) {
      const others = (shapeOptions(name) ?? ['3']).filter((v) => v !== shapes[name].usual);
      for (const value of others)
        if (!drawn.has(name)) expect(shapeVars({ [name]: value }), `${name} ${value}`).not.toEqual({});
      expect(shapeLabels[name]).not.toBe('');
      for (const value of others) expect(shapeValueLabel(name, value)).not.toBe('');
    }
  });

  it('of a widget takes back what the shop sets and it does not', () => {
    const own = departure({ ...usualShape, cards: 'tray' }, { cards: 'plain' }, 1);
    expect(own).toContain('--stall-card-ground:initial');
    expect(departure({ ...usualShape, cards: 'tray' }, { cards: 'ticket' }, 1)).toContain(
      '--stall-ticket-edge:',
    );
    expect(shapeDeclarations({ cards: 'tray' }, 1.6)).toContain('--stall-text-extra:1.44rem');
  });

  it('takes no value that is none of its own', () => {
    for (const name of shapeNames)
      for (const value of ['', 'x;}', '-1', '1e9', null, 3])
        expect(cleanShape(name, value), name).toBeUndefined();
    expect(readDecision(shapeKey('phone'), '2')).toBe('2');
    expect(readDecision('shape:toString', '2')).toBeUndefined();
  });
});

/** What a height formula comes to: `min`, `max` and units as the browser has them, at a width and a size of text. */
function heightAt(formula: string, width: number, text = 16): number {
  const js = formula
    .replace(/100cqw/g, String(width))
    .replace(/(\d*\.?\d+)rem/g, (_, n: string) => String(Number(n) * 16))
    .replace(/(\d*\.?\d+)em/g, (_, n: string) => String(Number(n) * text))
    .replace(/(\d*\.?\d+)px/g, '$1')
    .replace(/\b(min|max)\(/g, 'Math.$1(');
  return Number(new Function(`return ${js}`)());
}

/** The same, worked out as the style sheet lays cards out: by columns. */
function laidOut(count: number, width: number, most: number, shape: typeof usualShape): number {
  const [gap, least] = [Number(shape.gap), Number(shape.least)];
  const kind = [shape.phone, shape.tablet, shape.desk][(width >= 480 ? 1 : 0) + (width >= 832 ? 1 : 0)];
  const cap = Math.min(most, Number(kind));
  const n = Math.max(1, Math.min(cap, Math.floor((width + gap) / (least + gap))));
  const rows = Math.ceil(count / n);
  const ratio =
    { '4-3': 0.75, '1-1': 1, '3-4': 4 / 3, '3-2': 2 / 3, '16-9': 9 / 16, own: 0.75 }[shape.picture] ?? 0.75;
  const drawn = ((width - (n - 1) * gap) / n) * ratio;
  const picture = Number(shape.tallest) > 0 ? Math.min(drawn, Number(shape.tallest)) : drawn;
  const extra = { plain: 0, tray: 0.9, ticket: 0.9, shelf: 0.5, caption: 0.9 }[shape.cards] ?? 0;
  return rows * (picture + (0.7 + extra + 3 + 3.4) * 16) + (rows - 1) * gap;
}

describe('the room for cards', () => {
  it('is what they take, whatever their shape, at every width', () => {
    const shape = fc.record({
      cards: fc.constantFrom('plain', 'tray', 'shelf'),
      phone: fc.constantFrom('1', '2', '6'),
      tablet: fc.constantFrom('2', '3', '6'),
      desk: fc.constantFrom('3', '4', '6'),
      least: fc.constantFrom('120', '152', '240'),
      gap: fc.constantFrom('0', '16', '32'),
      picture: fc.constantFrom('4-3', '1-1', '16-9'),
      tallest: fc.constantFrom('0', '160'),
    });
    fc.assert(
      fc.property(
        shape,
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 200, max: 1400 }),
        (own, count, most, width) => {
          const all = { ...usualShape, ...own };
          // At the very edges of a step a hundredth of a pixel decides: nobody's window stands there.
          const near = [
            480,
            832,
            ...[1, 2, 3, 4, 5, 6].map((n) => n * Number(own.least) + (n - 1) * Number(own.gap)),
          ];
          fc.pre(near.every((edge) => Math.abs(edge - width) > 2));
          const kept = heightAt(gridHeight(count, most, ['picture', 'name', 'price', 'button'], all), width);
          expect(Math.abs(kept - laidOut(count, width, most, all))).toBeLessThan(1.5);
        },
      ),
      { numRuns: 400 },
    );
  });
});
