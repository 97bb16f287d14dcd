import fc from 'fast-check';
import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { applyEdits } from '../html/edits';
import { strip } from '../html/fence';
import { pagePath } from '../site/paths';
import { type ParsedPage, parsePageFile } from '../site/read-page';
import { type Repair, repairEdit, spotOf, withAttribute } from './repair';

const read = (bytes: Uint8Array): ParsedPage => {
  const parsed = parsePageFile(pagePath('index.html'), bytes);
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
};
const pageOf = (body: string) => read(Buffer.from(`<!doctype html><html><body>${body}</body></html>`));
const price = () => '<stall-price goods="trug">&#163;42</stall-price>';

function repaired(page: ParsedPage, r: Repair): { text: string; back: Uint8Array } {
  const edit = repairEdit(page, r, { price });
  if (!edit.ok) throw new Error(edit.error);
  const bytes = applyEdits(page.source, [edit.value]);
  return { text: Buffer.from(bytes).toString('latin1'), back: strip(bytes).bytes };
}
const asked = (body: string, text: string, act: Repair['act'], nth = 0) => {
  const page = pageOf(body);
  const spot = spotOf(
    page,
    { page: 'index.html', block: 'p:0', text, nth, act, words: 'x' },
    'mend-abcdefgh',
  );
  return { page, spot };
};

describe('a small change of the owner’s own page', () => {
  it('writes other words in place of a piece of text, and gives it back byte for byte', () => {
    const { page, spot } = asked('<p>A trug is &pound;39 today.</p>', '£39', { do: 'text', text: '£42' });
    if (!spot.ok) throw new Error(spot.error);
    const { text, back } = repaired(page, spot.value);
    expect(text).toMatch(
      /is <!--stall mend-abcdefgh was [\w+/=]+-->&#163;42<!--\/stall mend-abcdefgh--> today/,
    );
    expect(Buffer.from(back)).toEqual(Buffer.from(page.source.bytes));
  });

  it('puts a price there that never gets old', () => {
    const { page, spot } = asked('<p>A trug is £39.</p>', '£39', { do: 'price', goods: 'trug', choice: '' });
    if (!spot.ok) throw new Error(spot.error);
    expect(repaired(page, spot.value).text).toContain('<stall-price goods="trug">');
  });

  it('finds the second of two, and the right one again after others came before it', () => {
    const { spot } = asked('<p>A pot is £9, a lid is £9 as well.</p>', '£9', { do: 'text', text: '£8' }, 1);
    if (!spot.ok) throw new Error(spot.error);
    const later = pageOf('<p>New: a cup, £9!</p><p>A pot is £9, a lid is £9 as well.</p>');
    expect(repaired(later, spot.value).text).toMatch(/a lid is <!--stall/);
  });

  it('says so when the spot is gone, and guesses nothing', () => {
    const { spot } = asked('<p>A pot is £9.</p>', '£9', { do: 'text', text: '£8' });
    if (!spot.ok) throw new Error(spot.error);
    const edit = repairEdit(pageOf('<p>A pot is ten pounds.</p>'), spot.value, { price });
    expect(edit).toEqual({ ok: false, error: 'what it mends (x) is no longer on this page' });
  });

  it('reads old encodings letter by letter', () => {
    const page = read(
      iconv.encode(
        '<html><head><meta charset="windows-1252"></head><body><p>Für 18 € – schön.</p></body></html>',
        'win1252',
      ),
    );
    const spot = spotOf(
      page,
      { page: 'index.html', block: 'p:0', text: '18 €', act: { do: 'text', text: '21 €' }, words: 'x' },
      'mend-abcdefgh',
    );
    if (!spot.ok) throw new Error(spot.error);
    const { text, back } = repaired(page, spot.value);
    expect(text).toContain('21 &#8364;');
    expect(Buffer.from(back)).toEqual(Buffer.from(page.source.bytes));
  });

  it('changes an attribute and leaves the rest of the tag as it is written', () => {
    expect(withAttribute("<img  SRC='a.png' alt=x data-y>", 'alt', 'A "pot"')).toBe(
      '<img  SRC=\'a.png\' alt="A &quot;pot&quot;" data-y>',
    );
    expect(withAttribute('<img src=a.png>', 'alt', 'pot')).toBe('<img alt="pot" src=a.png>');
  });

  it('law: whatever the text, what stands there afterwards is it, and taking it out is identity', () => {
    const word = fc
      .stringMatching(/^[\p{L}\d &<>"'é€–]{1,12}$/u)
      .filter((w) => w.trim() === w && !/\s\s/.test(w));
    fc.assert(
      fc.property(word, word, (was, now) => {
        const escaped = was.replace(/&/g, '&amp;').replace(/</g, '&lt;');
        const page = pageOf(`<p>before ${escaped} after</p>`);
        const spot = spotOf(
          page,
          { page: 'index.html', block: 'p:0', text: was, act: { do: 'text', text: now }, words: 'x' },
          'mend-abcdefgh',
        );
        if (!spot.ok) throw new Error(spot.error);
        const edit = repairEdit(page, spot.value, { price });
        if (!edit.ok) throw new Error(edit.error);
        const bytes = applyEdits(page.source, [edit.value]);
        expect(Buffer.from(strip(bytes).bytes)).toEqual(Buffer.from(page.source.bytes));
      }),
      { numRuns: 120 },
    );
  });
});
