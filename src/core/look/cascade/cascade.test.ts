import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attr, type Element, find, parsePage } from '../../html/tree';
import { readSource } from '../../html/source';
import { Cascade } from './computed-style';
import { lengthInPx } from './lengths';
import type { Viewing } from './media';
import { readRules } from './rules';
import { compileSelector } from './select';
import { words } from './shorthands';

const desktop: Viewing = { width: 1280, height: 800, scheme: 'light' };

function styled(css: string | readonly string[], html: string, at: Viewing = desktop) {
  const doc = parsePage(readSource(Buffer.from(html)));
  const rules = readRules(typeof css === 'string' ? [css] : css, at);
  const cascade = new Cascade(rules, at);
  const by = (id: string): Element => {
    const el = find(doc, (e) => attr(e, 'id') === id);
    if (!el) throw new Error(`no #${id}`);
    return el;
  };
  return {
    style: (id: string, state?: 'hover' | 'focus' | 'active') => cascade.styleOf(by(id), state),
    rules,
  };
}

describe('selectors', () => {
  it('weigh what the standard says they weigh', () => {
    // Selectors 4, 17: the examples of "Calculating a selector's specificity".
    const examples: readonly [string, number, number, number][] = [
      ['*', 0, 0, 0],
      ['LI', 0, 0, 1],
      ['UL LI', 0, 0, 2],
      ['UL OL+LI', 0, 0, 3],
      ['H1 + *[REL=up]', 0, 1, 1],
      ['UL OL LI.red', 0, 1, 3],
      ['LI.red.level', 0, 2, 1],
      ['#x34y', 1, 0, 0],
      ['#s12:not(FOO)', 1, 0, 1],
      ['.foo :is(.bar, #baz)', 1, 1, 0],
      [':is(em, #foo)', 1, 0, 0],
      ['.qux:where(em, #foo#bar#baz)', 0, 1, 0],
      [':not(em, strong#foo)', 1, 0, 1],
    ];
    for (const [selector, a, b, c] of examples)
      expect(compileSelector(selector)?.specificity, selector).toBe(a * 1_000_000 + b * 1000 + c);
  });

  it('of what is no element of a page at rest match nothing', () => {
    for (const selector of [
      'a::before',
      'a:visited',
      ':target',
      'a:hover::after',
      'b[',
      '::-webkit-thing',
      '',
    ])
      expect(compileSelector(selector)).toBeUndefined();
  });
});

describe('the cascade', () => {
  it('goes by importance, style attribute, layer, specificity, order', () => {
    const { style } = styled(
      '@layer base, over; @layer over{p{color:#111}} @layer base{#p{color:#222}} p{color:#333} p.k{color:#444} .k{color:#555} #q{color:#666!important}' +
        '@layer base{#r{color:#777!important}} @layer over{#r{color:#888!important}}',
      '<p id=p>a<p id=n class=k>b<p id=q style="color:#999">c<p id=s class=k style="color:#abc">d<p id=r>e',
    );
    expect(style('p').get('color')).toBe('#333');
    expect(style('n').get('color')).toBe('#444');
    expect(style('q').get('color')).toBe('#666');
    expect(style('s').get('color')).toBe('#abc');
    // Among important ones the earlier layer wins (Cascading 5, 6.4.2).
    expect(style('r').get('color')).toBe('#777');
  });

  it('hands down what is inherited and nothing else, and takes variables from the nearest', () => {
    const { style } = styled(
      ':root{--ink:#123;--deep:var(--ink);font-size:62.5%} body{color:var(--deep);font:1.6rem/1.5 "A B",serif;border:1px solid red}' +
        ' .dark{--ink:#eee} .dark p{color:var(--ink)} i{color:var(--none,#456)} u{color:var(--none)} b{--a:var(--b);--b:var(--a);color:var(--a)}',
      '<body id=b><p id=p>a</p><div class=dark><p id=d>b<i id=i>c</i><u id=u>d</u><b id=circle>e</b></div>',
    );
    expect(style('p').get('color')).toBe('#123');
    expect(style('p').size).toBe(16);
    expect(style('p').get('font-family')).toBe('"A B",serif');
    expect(style('p').get('border-top-width')).toBe('');
    expect(style('b').get('border-top-width')).toBe('1px');
    expect(style('d').get('color')).toBe('#eee');
    expect(style('i').get('color')).toBe('#456');
    expect(style('u').get('color')).toBe('#eee');
    expect(style('circle').get('color')).toBe('#eee');
  });

  it('holds media queries against where the page is looked at', () => {
    const css =
      '@media(max-width:600px){p{color:#111}} @media (min-width:37.5em) and (max-width:1000px){p{color:#222}} @media(width>=1000px){p{color:#333}} @media print{p{color:#444}} @media not screen{p{color:#555}}' +
      '@media(prefers-color-scheme:dark){p{background:#000}} @media (400px<=width<500px){p{opacity:.5}} @media screen and (orientation:portrait), (min-resolution:9dppx){p{display:flex}}';
    const at = (viewing: Partial<Viewing>) => styled(css, '<p id=p>', { ...desktop, ...viewing }).style('p');
    expect(at({ width: 400 }).get('color')).toBe('#111');
    expect(at({ width: 800 }).get('color')).toBe('#222');
    expect(at({}).get('color')).toBe('#333');
    expect(at({}).get('background-color')).toBe('transparent');
    expect(at({ scheme: 'dark' }).get('background-color')).toBe('#000');
    expect([at({ width: 400 }).get('opacity'), at({ width: 500 }).get('opacity')]).toEqual(['.5', '1']);
    expect([at({ width: 400 }).get('display'), at({}).get('display')]).toEqual(['flex', 'block']);
  });

  it('knows the states of a control, and rules in one another', () => {
    const { style } = styled(
      '.b{background:#111;color:#fff;&:hover{background:#222}&.k{padding:1px 2px 3px}} .b:active{color:#eee} .w{.b{border:2px dashed}} @supports (display:grid){.b{border-radius:4px/2px}} @supports not (display:grid){.b{display:none}}',
      '<div class=w><a class="b k" id=a href=x>a</a></div>',
    );
    expect(style('a').get('background-color')).toBe('#111');
    expect(style('a', 'hover').get('background-color')).toBe('#222');
    expect(style('a', 'active').get('color')).toBe('#eee');
    expect(style('a', 'focus').get('color')).toBe('#fff');
    expect(style('a').get('padding-bottom')).toBe('3px');
    expect(style('a').get('border-left-style')).toBe('dashed');
    expect(style('a').get('border-top-left-radius')).toBe('4px');
    expect(style('a').get('display')).toBe('inline');
  });

  it('says what it cannot judge, and survives what is no style sheet', () => {
    const { rules, style } = styled(
      [
        '@container (min-width:1px){p{color:red}}',
        'p{color:',
        '}}}@media{{',
        '\u0000<!--',
        'p{background:url(data:x;y) no-repeat #abc}',
      ],
      '<p id=p style="color">',
    );
    expect([...rules.leftOut]).toEqual(['@container (min-width:1px)']);
    expect(style('p').get('background-color')).toBe('#abc');
  });

  it('never hangs or throws, whatever stands in a sheet', () => {
    const piece = fc.constantFrom(
      'p{',
      '}',
      'color:',
      'var(--a,',
      '--a:',
      ')',
      '#fff',
      '@media (',
      'a:is(',
      '&',
      ';',
      '!important',
      'font:1px/',
      'calc(1px + ',
      '"',
      '\\',
      '@layer a',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (parts) => {
        const { style } = styled(parts.join(' '), '<p id=p>x');
        expect(typeof style('p').get('color')).toBe('string');
        expect(style('p').size).toBeGreaterThan(0);
      }),
    );
  });
});

describe('lengths', () => {
  it('are CSS pixels', () => {
    const against = { em: 20, rem: 10, whole: 300, viewport: { width: 1000, height: 500 } };
    const examples: readonly [string, number | undefined][] = [
      ['1in', 96],
      ['2.54cm', 96],
      ['72pt', 96],
      ['1.5em', 30],
      ['2rem', 20],
      ['50%', 150],
      ['10vw', 100],
      ['10vmin', 50],
      ['calc(100% - 2 * (1rem + 5px))', 270],
      ['clamp(1rem, 5vw, 3rem)', 30],
      ['min(10px, 1em, 50vw)', 10],
      ['max(1px, calc(2px / 0.5))', 4],
      ['auto', undefined],
      ['calc(1px + fit-content)', undefined],
      ['calc(1px', undefined],
    ];
    for (const [text, px] of examples) {
      if (px === undefined) expect(lengthInPx(text, against), text).toBeUndefined();
      else expect(lengthInPx(text, against), text).toBeCloseTo(px, 6);
    }
    expect(lengthInPx('50%', { em: 1, rem: 1 })).toBeUndefined();
  });

  it('words keep brackets and quotes together', () => {
    expect(words('1px solid rgb(0 0 0 / calc(1 - .5)) "a b"')).toEqual([
      '1px',
      'solid',
      'rgb(0 0 0 / calc(1 - .5))',
      '"a b"',
    ]);
  });
});
