import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit, EditError, insertion, invertEdits } from './edits';
import { asciiHtml, escapeHtml } from './escape';
import { fence, strip, stripEdits } from './fence';
import { encodeStructure, readSource, textOf, whyNotHtml } from './source';
import { find, parsePage, rawText, sameTreeBut } from './tree';

const anyBytes = fc.uint8Array({ maxLength: 300 }).map((b) => Buffer.from(b));

/** Edits that fit a text of that length: sorted, apart, each removing what stands there. */
const editsFor = (text: string) =>
  fc
    .array(
      fc.tuple(
        fc.nat(text.length),
        fc.nat(6),
        fc.string({ unit: fc.constantFrom('a', '<', '>', ' ', '-'), maxLength: 8 }),
      ),
      { maxLength: 6 },
    )
    .map((raw) => {
      const edits: Edit[] = [];
      let end = 0;
      for (const [at, length, inserted] of raw.sort((a, b) => a[0] - b[0])) {
        if (at < end) continue;
        edits.push({ at, removed: text.slice(at, at + length), inserted });
        end = at + length;
      }
      return edits;
    });

describe('a page as bytes', () => {
  it('is given back whole from its structure, whatever the bytes', () => {
    fc.assert(
      fc.property(anyBytes, (bytes) => {
        const s = readSource(bytes);
        const tail = s.unit === 2 ? (bytes.length - s.start) % 2 : 0;
        expect(Buffer.concat([bytes.subarray(0, s.start), encodeStructure(s, s.structure)])).toEqual(
          bytes.subarray(0, bytes.length - tail),
        );
      }),
    );
  });

  it('says what its encoding is and how it knows', () => {
    // WHATWG Encoding Standard labels; the Euro sign is 0x80 in Windows-1252.
    const latin = Buffer.from('<meta charset=ISO-8859-1><p>Caf\xe9 \x80', 'latin1');
    expect(readSource(latin)).toMatchObject({ encoding: 'windows-1252', encodingFrom: 'meta' });
    const p = find(parsePage(readSource(latin)), (e) => e.tagName === 'p');
    expect(textOf(readSource(latin), p ? rawText(p) : '')).toBe('Café €');
    expect(readSource(Buffer.from('\ufeff<p>é'))).toMatchObject({
      encoding: 'utf-8',
      encodingFrom: 'bom',
      start: 3,
    });
    expect(readSource(Buffer.from('<p>\xe9', 'latin1'))).toMatchObject({
      encoding: 'windows-1252',
      encodingFrom: 'fallback',
    });
    expect(readSource(Buffer.from('\ufeff<p>é</p>', 'utf16le'))).toMatchObject({
      encoding: 'utf-16le',
      unit: 2,
      structure: '<p>é</p>',
    });
  });

  it('keeps characters that were written as references apart from raw bytes', () => {
    const s = readSource(Buffer.from('<p>caf&eacute; café'));
    const p = find(parsePage(s), (e) => e.tagName === 'p');
    expect(textOf(s, p ? rawText(p) : '')).toBe('café café');
  });

  it('tells pages from other files', () => {
    expect(whyNotHtml(readSource(Buffer.from([0x89, 0x50, 0, 0, 1])))).toContain('binary');
    expect(whyNotHtml(readSource(Buffer.from('just words')))).toContain('no HTML tag');
    expect(whyNotHtml(readSource(Buffer.from('<P>old')))).toBeUndefined();
  });
});

describe('edits', () => {
  const pages = anyBytes.chain((bytes) =>
    editsFor(readSource(bytes).structure).map((edits) => ({ bytes, edits })),
  );

  it('applied and inverted are nothing', () => {
    fc.assert(
      fc.property(pages, ({ bytes, edits }) => {
        const source = readSource(bytes);
        const after = applyEdits(source, edits);
        const reread = { ...source, bytes: after, structure: source.structure };
        // The edited page may read as another encoding; offsets are of the first reading.
        const structure = edits.reduceRight(
          (text, e) => text.slice(0, e.at) + e.inserted + text.slice(e.at + e.removed.length),
          source.structure,
        );
        expect(Buffer.from(applyEdits({ ...reread, structure }, invertEdits(edits)))).toEqual(bytes);
      }),
    );
  });

  it('that do not fit are refused', () => {
    const s = readSource(Buffer.from('<p>one</p>'));
    expect(() => applyEdits(s, [{ at: 3, removed: 'two', inserted: '' }])).toThrow(EditError);
    expect(() => applyEdits(s, [{ at: 0, removed: '<p>', inserted: '' }, insertion(1, 'x')])).toThrow(
      EditError,
    );
    expect(() => applyEdits(s, [insertion(0, 'é')])).toThrow(EditError);
    expect(() => applyEdits(s, [insertion(99, 'x')])).toThrow(EditError);
  });
});

describe('fences', () => {
  it('come out again, and nothing else with them', () => {
    const word = fc.string({
      unit: fc.constantFrom('a', 'é', '<b>', '\r\n', '<!--x-->', '[', ' '),
      maxLength: 20,
    });
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 1, maxLength: 6 }),
        fc.array(fc.stringMatching(/^[a-z0-9]{8}$/), { maxLength: 5 }),
        (words, ids) => {
          const plain = Buffer.from(words.join(''));
          const fenced = words
            .map((w, i) => w + (ids[i] ? fence(ids[i], `<stall-buy>${i}</stall-buy>`) : ''))
            .join('');
          expect(Buffer.from(strip(Buffer.from(fenced)).bytes)).toEqual(plain);
        },
      ),
    );
  });

  it('that somebody half deleted are reported and left alone', () => {
    const page = `<p>a</p><!--stall aaaaaaaa--><b>x</b>${fence('bbbbbbbb', 'y')}`;
    const { edits, faults } = stripEdits(readSource(Buffer.from(page)));
    expect(faults).toEqual([{ id: 'aaaaaaaa', at: 8, line: 1, what: 'unclosed' }]);
    expect(edits).toHaveLength(1);
    expect(() => fence('no spaces', '')).toThrow(RangeError);
  });
});

describe('trees and text', () => {
  const tree = (html: string) => parsePage(readSource(Buffer.from(html)));

  it('are alike when only what is ours came in, and not when anything moved', () => {
    const ours = (n: { nodeName: string }) => n.nodeName === 'stall-buy';
    expect(sameTreeBut(tree('<p>ab</p>'), tree('<p>a<stall-buy></stall-buy>b</p>'), ours)).toBe(true);
    expect(
      sameTreeBut(
        tree('<table><tr><td>x</table>'),
        tree('<table><stall-buy></stall-buy><tr><td>x</table>'),
        ours,
      ),
    ).toBe(true);
    expect(sameTreeBut(tree('<p>a</p><p>b'), tree('<p>a<div></div></p><p>b'), ours)).toBe(false);
    expect(sameTreeBut(tree('<p class=a>'), tree('<p class=b>'), ours)).toBe(false);
    expect(sameTreeBut(tree('<ul><li>a'), tree('<ul><li>a<li>b'), ours)).toBe(false);
  });

  it('escape what is not ours to write', () => {
    expect(escapeHtml(`<a href="x">'&`)).toBe('&lt;a href=&quot;x&quot;&gt;&#39;&amp;');
    expect(asciiHtml('£ · 🧺 \uf7e9')).toBe('&#163; &#183; &#129530; \uf7e9');
  });

  it('deeper than the call stack are read all the same', () => {
    const deep = tree('<div>'.repeat(900));
    expect(find(deep, (e) => e.tagName === 'span')).toBeUndefined();
    expect(sameTreeBut(deep, tree('<div>'.repeat(900)), () => false)).toBe(true);
  });
});
