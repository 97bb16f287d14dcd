import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alignPages, carryPitch, leavesOf } from './align-pages';
import type { PagePath } from './paths';
import { listPitches } from './pitch';
import { type ParsedPage, parsePageFile } from './read-page';

const parse = (body: string): ParsedPage => {
  const parsed = parsePageFile(
    'index.html' as PagePath,
    new TextEncoder().encode(`<!doctype html><title>t</title><body>${body}</body>`),
  );
  if ('problem' in parsed) throw new Error(parsed.problem);
  return parsed.page;
};
const says = (page: ParsedPage, n: number | undefined) =>
  n === undefined || n < 0 ? undefined : leavesOf(page)[n]?.text;

describe('two versions of a page, side by side', () => {
  it('a page beside itself is the same throughout, even where lines repeat', () => {
    const words = fc.constantFrom('read more', 'oak', 'ash', 'elm', 'read more', 'twelve');
    fc.assert(
      fc.property(fc.array(words, { maxLength: 30 }), (lines) => {
        const html = lines.map((l) => `<div><p>${l}</p></div>`).join('');
        const rows = alignPages(parse(html), parse(`<main>${html}</main>`));
        expect([...rows.to]).toEqual(lines.map((_, n) => n));
      }),
    );
  });

  it('what is matched says the same or nearly, and keeps its order', () => {
    const word = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h');
    const row = fc.array(word, { maxLength: 24 });
    fc.assert(
      fc.property(row, row, (a, b) => {
        const [before, after] = [
          parse(a.map((w) => `<p>${w}</p>`).join('')),
          parse(b.map((w) => `<p>${w}</p>`).join('')),
        ];
        const to = [...alignPages(before, after).to].filter((n) => n >= 0);
        expect(to).toEqual([...to].sort((x, y) => x - y));
        alignPages(before, after).to.forEach((n, i) => {
          if (n >= 0) expect(says(after, n)).toBe(says(before, i));
        });
      }),
    );
  });

  it('of two lines that read alike, in a stretch that lost one of them, neither is matched', () => {
    const before = parse('<p>first</p><p>more</p><p>more</p><p>last</p>');
    const after = parse('<p>first</p><p>more</p><p>last</p>');
    expect([...alignPages(before, after).to]).toEqual([0, -1, -1, 2]);
  });
});

describe('a pitch carried from one version to the next', () => {
  const cards = (names: string[]) =>
    names.map((n) => `<div class="card"><h3>${n}</h3><a href="#">Read more</a></div>`).join('');
  const pitchAfter = (page: ParsedPage, text: string) => {
    const at = page.source.structure.indexOf('</div>', page.source.structure.indexOf(text)) + 6;
    return listPitches(page).find((p) => p.offset === at);
  };

  it('stays between the same two cards when others come and go and all of it is wrapped', () => {
    const before = parse(`<main>${cards(['Log', 'Trug', 'Kit', 'Pack'])}</main>`);
    const after = parse(`<div><div id="x">${cards(['New', 'Log', 'Trug', 'Kit'])}</div></div>`);
    const pitch = pitchAfter(before, 'Trug');
    const now = pitch && carryPitch(before, after, pitch);
    expect(
      now && after.source.structure.slice(0, now.offset).endsWith('Trug</h3><a href="#">Read more</a></div>'),
    ).toBe(true);
  });

  it('is not guessed when a neighbour went', () => {
    const before = parse(`<main>${cards(['Log', 'Trug', 'Kit'])}</main>`);
    const after = parse(`<main>${cards(['Log', 'Kit'])}</main>`);
    const pitch = pitchAfter(before, 'Trug');
    expect(pitch && carryPitch(before, after, pitch)).toBeUndefined();
  });
});
