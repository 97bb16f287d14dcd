import { describe, expect, it } from 'vitest';
import { findLook } from './find-look';
import { lookCss } from './look';
import { fromSiteRem, inPixels, inSiteRem, remFor } from './rem';

describe('a rem of the shop', () => {
  it('is 16 px whatever the root is set to', () => {
    for (const [size, rem] of [
      ['62.5%', 1.6],
      ['10px', 1.6],
      ['.625em', 1.6],
      ['7.5pt', 1.6],
      ['8px', 2],
    ] as const)
      expect(remFor(size)).toBe(rem);
  });

  it('is the site’s own where its owner means a size of text, or it cannot be known', () => {
    for (const size of [
      '16px',
      '100%',
      '112.5%',
      '20px',
      '15px',
      'clamp(1rem,2vw,2rem)',
      '1vw',
      '',
      undefined,
    ])
      expect(remFor(size)).toBe(1);
  });

  it('is found in style sheets, by the name of the element or as root, and worn', () => {
    expect(findLook(['html{font-size:62.5%}body{font-size:1.6rem}']).rem).toBe('1.6rem');
    expect(findLook([':root{--base:10px;font-size:var(--base)}']).rem).toBe('1.6rem');
    expect(findLook(['html{font:10px/1.4 serif}']).rem).toBe('1.6rem');
    expect(findLook(['body{font-size:10px}']).rem).toBe('1rem');
    expect(lookCss(findLook(['html{font-size:62.5%}']))).toContain('--stall-rem:1.6rem');
  });

  it('measures the content in what the site means by a rem', () => {
    expect(findLook(['html{font-size:10px}.wrap{max-width:110rem}']).width).toBe('110rem');
    expect(findLook(['.wrap{max-width:70rem}']).width).toBe('70rem');
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
