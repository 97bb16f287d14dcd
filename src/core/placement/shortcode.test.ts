import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PagePath } from '../site/paths';
import { parsePageFile } from '../site/read-page';
import { findShortcodes } from './find-shortcodes';
import { readShortcodes, writeShortcode } from './shortcode';

const read = (text: string) => readShortcodes(text).map((s) => [s.kind, Object.fromEntries(s.attributes)]);
const find = (html: string) => {
  const parsed = parsePageFile('index.html' as PagePath, Buffer.from(html));
  if ('problem' in parsed) throw new Error(parsed.problem);
  return findShortcodes(parsed.page);
};

describe('shortcodes', () => {
  it('are read back as they were written, wherever they stand', () => {
    const name = fc.stringMatching(/^[a-z][a-z-]{0,8}$/);
    const value = fc
      .string({
        unit: fc.constantFrom('a', 'B', '7', ' ', '-', '\u00e9', "'", '[', '='),
        minLength: 1,
        maxLength: 12,
      })
      .filter((v) => !/['\u2019]\s|'$/.test(v) && v !== 'yes');
    const around = fc.string({ unit: fc.constantFrom('x', ' ', '.', '\n', '[', '[note]'), maxLength: 6 });
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(name, value), { selector: ([k]) => k, maxLength: 4 }),
        around,
        around,
        (settings, before, after) => {
          const found = readShortcodes(`${before}${writeShortcode('buy', settings)}${after}`);
          expect(found.map((f) => [f.kind, [...f.attributes]])).toEqual([['buy', settings]]);
        },
      ),
    );
  });

  it('survive what editors do: curly quotes, guillemets, blanks that do not break, capitals', () => {
    const wanted = [['buy', { goods: 'Round basket', price: 'yes' }]];
    for (const text of [
      '[stall buy goods="Round basket" price]',
      '[stall buy goods=\u201cRound basket\u201d price]',
      '[stall buy goods=\u201eRound basket\u201c price]',
      '[stall buy goods=\u00abRound basket\u00bb price]',
      '[stall\u00a0buy goods = \u201dRound basket\u2033 price ]',
      "[stall buy goods='Round basket' price=yes]",
      '[ Stall Buy Goods=\u2018Round basket\u2019 price]',
    ])
      expect(read(text), text).toEqual(wanted);
    expect(read('[stall buy text=\u2018It\u2019s ours\u2019]')).toEqual([
      ['buy', { text: 'It\u2019s ours' }],
    ]);
  });

  it('are nothing else in brackets', () => {
    for (const text of [
      '[note]',
      '[stallion run]',
      '[stall]',
      '[1] see [stall buy',
      '[stall buy goods="x]',
      'array[stall] = 1',
      '[install buy]',
      '[stall 9x]',
      `[stall buy ${'a '.repeat(600)}]`,
    ])
      expect(read(text), text).toEqual([]);
  });
});

describe('shortcodes on a page', () => {
  it('are found in text and attributes, through references, line breaks and emphasis', () => {
    const page = `<p>One:
      [stall buy goods=&quot;rod&quot;]</p><p>&#91;stall buy goods=&ldquo;red&nbsp;rod&rdquo;&#93;</p><p>[stall <b>buy</b><br>goods="x"]</p><div title='[stall cart]'></div>`;
    expect(find(page)).toMatchObject([
      { kind: 'buy', settings: { goods: 'rod' }, where: 'text', line: 2 },
      { kind: 'buy', settings: { goods: 'red\u00a0rod' }, line: 2 },
      { kind: 'buy', settings: { goods: 'x' } },
      { kind: 'cart', where: { attribute: 'title' } },
    ]);
  });

  it('are left alone in code, scripts and fields, and never join over two paragraphs', () => {
    expect(
      find(
        '<pre>[stall cart]</pre><script>"[stall cart]"</script><textarea>[stall cart]</textarea><p>[stall</p><p>cart]</p>',
      ),
    ).toEqual([]);
  });

  it('say what is wrong with them', () => {
    expect(
      find('<p>[stall buy][stall teapot][stall buy goods=x colour=red][stall questions]').map(
        (f) => f.problem,
      ),
    ).toEqual([
      expect.stringContaining('Choose the product'),
      expect.stringContaining('no widget called "teapot"'),
      expect.stringContaining('no setting "colour"'),
      expect.stringContaining('not built yet'),
    ]);
  });
});
