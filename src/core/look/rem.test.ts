import { describe, expect, it } from 'vitest';
import { inRem, remOf } from './look';
import { fromSiteRem, inPixels, inSiteRem } from './rem';

describe('a rem of the shop', () => {
  it('is 16 px where the root is set to reckon in tens, and the site’s own where its owner means a size of text', () => {
    for (const [root, rem] of [
      [10, 1.6],
      [8, 2],
      [16, 1],
      [18, 1],
      [20, 1],
      [15, 1],
    ] as const)
      expect(remOf({ root })).toBe(rem);
  });

  it('tells lengths of the site in the site’s own, so that they are the very same and grow with the reader’s text', () => {
    expect(inRem(24, { root: 16 })).toBe('1.5rem');
    expect(inRem(24, { root: 10 })).toBe('2.4rem');
    expect(inRem(27, { root: 18 })).toBe('1.5rem');
    expect(inRem(1.5, { root: 10 })).toBe('1.5px');
    expect(inRem(0, { root: 10 })).toBe('0px');
  });

  it('is written into pages as the site’s own', () => {
    expect(inSiteRem('min-height:calc(2.5rem + 1px);gap:.5rem', 1.6)).toBe(
      'min-height:calc(4rem + 1px);gap:0.8rem',
    );
    expect(inSiteRem('min-height:2.5rem', 1)).toBe('min-height:2.5rem');
    // What the site says itself comes back as it said it.
    expect(inSiteRem(`max-width:calc(${fromSiteRem('110rem', 1.6)} + 3rem)`, 1.6)).toBe(
      'max-width:calc(110rem + 4.8rem)',
    );
  });

  it('is written in pixels for pages elsewhere', () => {
    expect(inPixels('min-width:clamp(2.75rem,14vw,7.5rem);height:.5rem')).toBe(
      'min-width:clamp(44px,14vw,120px);height:8px',
    );
  });
});
