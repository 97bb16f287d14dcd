import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contrast, faintest, readable, toHex } from './colour';
import { parsePage } from '../html/tree';
import { readSource } from '../html/source';
import { findLook } from './find-look';
import { lookOfAttributes } from './old-pages';
import { look, lookCss } from './look';
import { difference } from './remedy';

const pairs = (l: ReturnType<typeof findLook>): [string, number][] => [
  ['ink on ground', contrast(l.ink, l.ground)],
  ['button', contrast(l.accentInk, l.accent)],
  ['muted', contrast(l.muted, l.ground)],
  ['link', contrast(l.link, l.ground)],
  ['danger', contrast(l.danger, l.ground)],
  ['field edge', contrast(l.fieldLine, l.ground) + 1.5],
];

describe('colour', () => {
  it('has the contrast of WCAG 2.2', () => {
    // W3C, Understanding SC 1.4.3: #777777 on white is 4.47:1 (just fails), black on white 21:1.
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.478, 2);
    expect(contrast('#000', '#fff')).toBeCloseTo(21, 5);
    expect(toHex('rgb(0 0 0 / 10%)')).toBeUndefined();
    expect(toHex('oklch(62.8% 0.2577 29.23)')).toBe('#ff0000');
    expect(toHex('url(x)')).toBeUndefined();
  });

  it('made readable is readable', () => {
    const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
    fc.assert(
      fc.property(hex, hex, (ground, wish) => {
        expect(contrast(readable(ground, 4.5, wish), ground)).toBeGreaterThanOrEqual(4.5);
        const ink = readable(ground, 4.5);
        expect(contrast(faintest(ink, ground, 3), ground)).toBeGreaterThanOrEqual(3);
      }),
    );
  });
});

describe('a look found in style sheets', () => {
  it('of the demo site is what its maker wrote', () => {
    const found = findLook([readFileSync('demo/withybed/css/withybed.css', 'utf8')]);
    expect(found).toMatchObject({
      ground: '#f6eedc',
      ink: '#3a2a1c',
      accent: '#79491b',
      accentInk: '#f6eedc',
      radius: '2px',
      width: '70rem',
      headingWeight: '400',
    });
    expect(found.headingFont).toContain('Sorts Mill Goudy');
  });

  it('holds together whatever the sheets say', () => {
    const value = fc.constantFrom(
      '#fff',
      '#123',
      'red',
      'transparent',
      'var(--a)',
      'var(--none, #456)',
      'url(x.png) #eee',
      'linear-gradient(red, blue)',
      '}',
      'expression(1)',
      'inherit',
    );
    const rule = fc.tuple(
      fc.constantFrom('body', 'h1', 'a', '.button', 'button', ':root', '@media print', '.btn:hover', 'a{'),
      fc.constantFrom(
        'color',
        'background',
        'background-color',
        '--a',
        'font-family',
        'border-radius',
        'max-width',
      ),
      value,
    );
    fc.assert(
      fc.property(fc.array(rule, { maxLength: 12 }), (rules) => {
        const found = findLook([rules.map(([s, p, v]) => `${s}{${p}:${v}}`).join('\n')]);
        expect(look.safeParse(found).success).toBe(true);
        for (const [what, ratio] of pairs(found)) expect(ratio, what).toBeGreaterThanOrEqual(4.4);
        expect(lookCss(found)).not.toMatch(/[<>{}]/);
      }),
    );
  });

  it('of a page from before style sheets is what its attributes say', () => {
    const source = readSource(readFileSync('demo/sites/quillfeather/index.html'));
    const css = lookOfAttributes(parsePage(source), source);
    expect(findLook([css])).toMatchObject({
      ground: '#fffff0',
      ink: '#222222',
      link: '#003399',
      accent: '#003399',
      font: 'Times New Roman',
    });
    const strange = readSource(
      Buffer.from('<body bgcolor="red;}x{" text="<b>" link="url(x)"><font face="a\\";}">x</font>'),
    );
    expect(lookOfAttributes(parsePage(strange), strange)).toBe('');
  });

  it('whose own colours are hard to read moves them as little as it can, and never turns them black', () => {
    // White on this blue is 3.68 to 1; the site's links and grey text fail on white, too.
    const found = findLook([
      'body{background:#fff;color:#7d7d7d} a{color:#4a90d9} .btn{background:#3b82f6;color:#fff}',
    ]);
    expect(found.accentInk).toBe('#ffffff');
    for (const [own, worn] of [
      ['#3b82f6', found.accent],
      ['#7d7d7d', found.ink],
      ['#4a90d9', found.link],
    ] as const) {
      expect(difference(own, worn)).toBeGreaterThan(0);
      expect(difference(own, worn)).toBeLessThan(12);
    }
    for (const [what, ratio] of pairs(found)) expect(ratio, what).toBeGreaterThanOrEqual(4.5);
  });

  it('follows a dark site', () => {
    const dark = findLook([
      'body{background:#101418;color:#e8e8e8} .btn{background:#ffcc00;color:#222;border-radius:999px}',
    ]);
    expect(dark).toMatchObject({
      ground: '#101418',
      accent: '#ffcc00',
      accentInk: '#222222',
      radius: '999px',
    });
  });
});
