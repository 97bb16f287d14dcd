import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits } from './edits';
import { fence, isBuilt, pageMark, readFences, strip } from './fence';
import { readSource } from './source';
import { type PageTooBig, pageLimits, parsePage } from './tree';

describe('fences', () => {
  it('carry what stood there before, in any encoding, and give it back', () => {
    const texts = fc.tuple(
      fc.constantFrom('utf8', 'utf16le', 'latin1'),
      fc.string({ unit: fc.constantFrom('a', '\u00e9', '<', '-', ' ', '>'), minLength: 1, maxLength: 12 }),
    );
    fc.assert(
      fc.property(texts, ([how, was]) => {
        const bom = how === 'utf16le' ? '\ufeff' : '';
        const bytes = Buffer.from(`${bom}<p>${was}</p><b>end</b>`, how as BufferEncoding);
        const source = readSource(bytes);
        const at = 3;
        const removed = source.structure.slice(at, source.structure.indexOf('</p><b>'));
        const after = applyEdits(source, [
          { at, removed, inserted: fence('menu-1', 'new', { source, text: removed }) },
        ]);
        expect(Buffer.from(strip(after).bytes)).toEqual(bytes);
      }),
    );
  });

  it('that are half deleted, doubled or tangled are named with their line and left alone', () => {
    const page = [
      '<p>a</p>',
      '<!--stall aaaa1111--><b>x</b>',
      fence('bbbb2222', 'y'),
      'z<!--/stall cccc3333-->',
      '<!--stall dddd4444-->1<!--/stall eeee5555-->2<!--/stall dddd4444-->',
    ].join('\n');
    const { pieces, faults } = readFences(page);
    expect(pieces.map((p) => p.id)).toEqual(['bbbb2222', 'dddd4444']);
    expect(faults.map((f) => [f.id, f.line, f.what])).toEqual([
      ['aaaa1111', 2, 'unclosed'],
      ['cccc3333', 4, 'unopened'],
      ['eeee5555', 5, 'unopened'],
    ]);
    expect(strip(Buffer.from(page)).bytes.toString()).toContain('<!--stall aaaa1111--><b>x</b>');
  });

  it('of one plan come out, those of another stay', () => {
    const page = `${fence('mine0001', '1')}<p>x</p>${fence('yours001', '2')}`;
    expect(Buffer.from(strip(Buffer.from(page), (id) => id === 'mine0001').bytes).toString()).toBe(
      `<p>x</p>${fence('yours001', '2')}`,
    );
  });

  it('tell a page that was built from one of the owner', () => {
    expect(isBuilt(`<head>${pageMark('cart')}</head>`)).toBe(true);
    expect(isBuilt('<p>a stall-page of my own</p>')).toBe(false);
  });
});

describe('pages beyond measure', () => {
  it('are stopped with the line, not read for ever', () => {
    const stopped = (html: string) => {
      try {
        parsePage(readSource(Buffer.from(html)));
        return undefined;
      } catch (error) {
        return error as PageTooBig;
      }
    };
    expect(stopped(`<p>\n\n${'<div>'.repeat(1_000_000)}`)).toMatchObject({
      name: 'PageTooBig',
      line: 3,
      message: 'nests more than 1,000 elements in each other',
    });
    expect(stopped('<!---->'.repeat(pageLimits.nodes + 1))?.message).toContain('more than 600,000 elements');
    expect(stopped('<div>'.repeat(900))).toBeUndefined();
  });
});
