import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Painting, placedAs } from './paint';
import type { Met } from './walk';

const style = (of: Partial<CSSStyleDeclaration>) => of as CSSStyleDeclaration;
const picture = { naturalWidth: 200, naturalHeight: 100 } as HTMLImageElement;

describe('a background picture', () => {
  it('lies as its own layer says, among several: a veil named first does not decide for the picture below it', () => {
    const own = style({
      backgroundSize: 'auto, cover',
      backgroundPosition: '0% 0%, 50% 100%',
      backgroundRepeat: 'repeat, no-repeat',
    });
    // 100 x 200 px are covered by a picture of 200 x 100 when it is twice as large: 400 x 200, 150 px of it left of the box.
    expect(placedAs(own, 1, picture, { w: 100, h: 200 })).toEqual({ x: -150, y: 0, w: 400, h: 200 });
  });

  it('has the values of the first layers again, where it is named none (CSS Backgrounds 3, 2.3)', () => {
    const own = style({
      backgroundSize: 'contain',
      backgroundPosition: '50% 50%',
      backgroundRepeat: 'no-repeat',
    });
    expect(placedAs(own, 3, picture, { w: 100, h: 200 })).toEqual({ x: 0, y: 75, w: 100, h: 50 });
  });
});

describe('a painting', () => {
  const root = document.documentElement;
  beforeEach(() => {
    for (const side of ['scrollWidth', 'scrollHeight'])
      Object.defineProperty(root, side, { value: 40, configurable: true });
  });
  afterEach(() => {
    for (const side of ['scrollWidth', 'scrollHeight']) Reflect.deleteProperty(root, side);
  });

  it('has few colours of a gradient, each the mean of those that are nearly like it', () => {
    const painting = new Painting({ r: 255, g: 255, b: 255, a: 1 });
    const met = {} as Met;
    painting.addPixels(met, { x: 0, y: 0, w: 40, h: 40 }, (x) => ({ r: x < 20 ? 0 : 6, g: 0, b: 0, a: 1 }));
    const { colour, mixed } = painting.under({ x: 0, y: 0, w: 40, h: 40 });
    expect([colour, mixed]).toEqual([{ r: 3, g: 0, b: 0, a: 1 }, true]);
    expect([...painting.areas()].filter(Boolean)).toEqual([1600]);
  });

  it('is seen through where a colour is half there', () => {
    const painting = new Painting({ r: 200, g: 200, b: 200, a: 1 });
    painting.addPixels({} as Met, { x: 0, y: 0, w: 40, h: 40 }, () => ({ r: 0, g: 0, b: 0, a: 0.5 }));
    expect(painting.under({ x: 0, y: 0, w: 8, h: 8 }).colour).toMatchObject({ r: 100, g: 100, b: 100 });
  });
});
