import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readOwnCss } from './own-css';
import { partNames, parts } from './parts';

describe('the owner’s own CSS', () => {
  it('is written for parts, and for one widget where it is named', () => {
    const { inWidgets, onPages, faults } = readOwnCss(
      '::part(button){text-transform:uppercase;color:#fff !important}\nstall-cart::part(link):hover{background:#123}\n@media (max-width:600px){::part(card) ::part(name){font-size:1.4em}}',
    );
    expect(faults).toEqual([]);
    expect(inWidgets).toContain(
      ':is(.stall-button,[part~=button]){text-transform:uppercase;color:#fff!important}',
    );
    expect(inWidgets).toContain(':host(stall-cart) :is(.stall-link,[part~=link]):hover{background:#123}');
    expect(inWidgets).toContain(
      '@media (max-width:600px){:is(.stall-card,[part~=card]) :is(.stall-name,[part~=name]){font-size:1.4em}}',
    );
    expect(onPages.startsWith('.stall{')).toBe(true);
    expect(onPages).not.toContain(':host');
  });

  it('says what is wrong with its line, leaves that out, and wears the rest', () => {
    const text = [
      '::part(button){color:red}',
      'body{display:none}',
      '::part(nothing){color:red}',
      '::part(card){background:url(https://elsewhere.example/x.png)}',
      '@import "https://elsewhere.example/x.css";',
      '::part(card){position:fixed;color:green}',
      '::part(card){--stall-accent:red}',
      '::part(price){background:url(data:image/png;base64,AAAA)}',
      ':host{color:red}',
      '@font-face{font-family:x;src:url(x.woff)}',
    ].join('\n');
    const { inWidgets, faults } = readOwnCss(text);
    expect(faults.map((f) => f.line)).toEqual([2, 3, 4, 5, 6, 7, 9, 10]);
    expect(faults[2]?.what).toContain('https://elsewhere.example/x.png');
    expect(inWidgets).not.toMatch(/body|elsewhere|fixed|:host\{|import|font-face|--stall/);
    expect(inWidgets).toContain('color:green');
    expect(inWidgets).toContain('data:image/png');
  });

  it('reaches nothing outside and fetches nothing, whatever is written', () => {
    const piece = fc.constantFrom(
      '::part(button)',
      '::part(card)',
      'body',
      '*',
      '{',
      '}',
      ';',
      'color:red',
      'background:url(http://x/y)',
      '@import url(x);',
      '@media print',
      '</style>',
      '<!--',
      '/*',
      '*/',
      '"',
      '\\',
      'stall-cart',
      ':hover',
      ',',
      '>',
      '@layer a',
      '&',
      'image-set("http://x")',
      'position:fixed',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 24 }), (pieces) => {
        const { inWidgets, onPages } = readOwnCss(pieces.join(' '));
        for (const css of [inWidgets, onPages]) {
          expect(css).not.toMatch(/https?:|url\(x|@import|@layer|position:\s*fixed|<\/style|:host\(?\s*\{/i);
          // As many open as close: what follows it is not swallowed.
          expect(css.split('{').length).toBe(css.split('}').length);
        }
      }),
      { numRuns: 300 },
    );
  });
});

describe('a string in it', () => {
  it('ends no style of the page', () => {
    const { onPages, inWidgets } = readOwnCss(
      '::part(button)::before{content:"</style><script>alert(1)</script>"}',
    );
    expect(onPages).toContain('content:');
    expect(`${onPages}${inWidgets}`).not.toMatch(/<\/(style|script)/i);
  });
});

describe('parts', () => {
  it('are all there: each is a class or a part that the shop really draws', () => {
    const drawn = ['src/core/storefront', 'src/core/placement/kinds', 'src/widgets']
      .flatMap((dir) => readdirSync(dir).map((f) => `${dir}/${f}`))
      .filter((f) => /\.ts$/.test(f) && !/test\.ts$|storefront\/parts\.ts$/.test(f))
      .map((f) => readFileSync(f, 'utf8'))
      .join('\n');
    const isDrawn = (name: string) =>
      new RegExp(`(class="[^"]*|className = '|')stall-${name}(?![a-z-])|part\\.add\\('${name}'\\)`).test(
        drawn,
      );
    expect(partNames.filter((name) => !isDrawn(name))).toEqual([]);
  });

  it('stand in their document as they are', () => {
    const table = Object.entries(parts).map(([name, what]) => `| \`${name}\` | ${what} |`);
    const text = readFileSync('docs/parts.md', 'utf8');
    expect(text.split('\n').filter((l) => l.startsWith('| `'))).toEqual(table);
  });
});
