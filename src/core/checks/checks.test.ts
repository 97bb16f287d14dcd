import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Placement } from '../placement/placement';
import { rulesDocument } from './document';
import { asFinding, groupKey } from './finding';
import { rules } from './rules';
import { allows } from './rules/widgets/policy';
import { writtenAs } from './rules/goods/price-in-text';
import { compareRuns, findAll } from './run';
import { samePage } from './same-page';
import type { SeenAtWidth } from './seen';
import { subjectWith, writtenPage } from './testing';
import { nearestName } from './ways/nearest-name';
import { leftoversIn } from './written/leftovers';

const found = (title: string) =>
  asFinding(
    { name: 'x', weight: 'untidy' },
    { about: title, place: { on: 'site', name: 's' }, title, meets: '' },
  );

describe('the rules', () => {
  it('are one file and one line each, with names of their own', () => {
    const files = readdirSync('src/core/checks/rules', { recursive: true, encoding: 'utf8' }).filter(
      (f) => f.includes('/') && f.endsWith('.ts'),
    );
    expect(rules.length).toBe(files.length);
    expect(new Set(rules.map((r) => r.name)).size).toBe(rules.length);
    for (const r of rules) expect(r.reads.length, r.name).toBeGreaterThan(0);
  });

  it('are what docs/checks.md says', () => {
    const file = join('docs', 'checks.md');
    expect(existsSync(file)).toBe(true);
    expect(readFileSync(file, 'utf8')).toBe(rulesDocument());
  });

  it('say nothing of a site where nothing is sold', () => {
    expect(findAll(subjectWith([writtenPage('index.html')], { sells: false }))).toEqual([]);
  });
});

describe('what was found', () => {
  it('is new, mended or back, by who it is', () => {
    const [a, b, c] = [found('a'), found('b'), found('c')];
    const known = [
      { key: a.key, gone: false },
      { key: b.key, gone: true },
      { key: 'old', gone: false },
    ];
    const diff = compareRuns(known, [a, b, c]);
    expect(diff.fresh).toEqual([c]);
    expect(diff.back).toEqual([b]);
    expect(diff.mended).toEqual(['old']);
  });

  it('is another when its facts are, and the same when only its place was read anew', () => {
    const one = asFinding(
      { name: 'x', weight: 'sale' },
      { about: 'p', place: { on: 'page', page: 'a', name: 'A', line: 3 }, title: '3 left', meets: '' },
    );
    const moved = asFinding(
      { name: 'x', weight: 'sale' },
      { about: 'p', place: { on: 'page', page: 'a', name: 'A', line: 9 }, title: '3 left', meets: '' },
    );
    const other = asFinding(
      { name: 'x', weight: 'sale' },
      { about: 'p', place: { on: 'page', page: 'a', name: 'A' }, title: '2 left', meets: '' },
    );
    expect([moved.key, moved.state]).toEqual([one.key, one.state]);
    expect(other.key).toBe(one.key);
    expect(other.state).not.toBe(one.state);
    expect(groupKey(one)).toBe(groupKey(moved));
  });

  it('is only asked again of rules that read what changed', () => {
    const page = writtenPage('index.html', {
      leftovers: [{ is: 'placeholder', text: 'Lorem ipsum', region: 'main', block: '', line: 1 }],
    });
    const before = findAll(subjectWith([page]));
    const now = findAll(subjectWith([writtenPage('index.html')]), new Set(['till']), before);
    expect(now.filter((f) => f.rule === 'placeholder-text')).toHaveLength(1);
    expect(
      findAll(subjectWith([writtenPage('index.html')]), new Set(['pages']), before).filter(
        (f) => f.rule === 'placeholder-text',
      ),
    ).toHaveLength(0);
  });
});

describe('what a browser saw', () => {
  const at = (w: Partial<SeenAtWidth['widgets'][number]>, more: Partial<SeenAtWidth> = {}): SeenAtWidth => ({
    width: 390,
    pageWidth: 390,
    menuRows: 1,
    menuRowsBefore: 1,
    menuCut: false,
    menuCutBefore: false,
    menuColours: [],
    widgets: [
      {
        placement: 'p1',
        kind: 'row',
        x: 10,
        y: 10,
        width: 300,
        height: 200,
        column: 370,
        coveredBy: '',
        covers: '',
        spots: [],
        smallTargets: 0,
        grows: 0,
        hides: 0,
        shifted: 0,
        ...w,
      },
    ],
    ...more,
  });
  const inHeader = {
    id: 'p1',
    kind: 'cart',
    settings: {},
    pitch: { region: 'header' },
    reach: { to: 'every', except: [] },
  } as unknown as Placement;
  const titles = (seen: SeenAtWidth) =>
    findAll(
      subjectWith([writtenPage('index.html')], {
        placements: new Map([['p1', inHeader]]),
        seen: new Map([['index.html', { path: 'index.html', version: '', at: [seen], fontsMissing: [] }]]),
      }),
    )
      .filter((f) => f.rule === 'stands-badly' || f.rule === 'menu-fits')
      .map((f) => f.title);

  it('is told with its width', () => {
    expect(titles(at({}))).toEqual([]);
    expect(titles(at({ width: 0 }))).toEqual(['It has no size (at 390 px)']);
    expect(titles(at({ x: -400 }))).toEqual(['It stands outside the page (at 390 px)']);
    expect(titles(at({ coveredBy: '“Accept all”' }))).toEqual(['It is covered by “Accept all” (at 390 px)']);
    expect(titles(at({ covers: '“GitHub”' }))).toEqual(['It covers “GitHub” (at 390 px)']);
    expect(titles(at({ width: 520, column: 370 }))).toEqual([
      'It is 520 px wide in a column of 370 (at 390 px)',
    ]);
    expect(titles(at({ hides: 140 }))).toEqual(['The frame hides 140 px of what is in it (at 390 px)']);
    expect(titles(at({ grows: 40, height: 40, kind: 'cart' }, { width: 1280 }))).toEqual([
      'The cart makes the header 40 px taller (at 1280 px)',
    ]);
    expect(titles(at({ grows: 40, height: 40, kind: 'cart' }))).toEqual([]);
    expect(titles(at({ grows: 25, height: 44, kind: 'cart' }, { width: 1280 }))).toEqual([]);
    expect(titles(at({ smallTargets: 2 }))).toEqual(['2 of its targets are smaller than 24 px (at 390 px)']);
    expect(titles(at({ shifted: 90 }))).toEqual(['It pushes the page by 90 px while it loads (at 390 px)']);
    expect(titles(at({}, { menuRows: 2 }))).toEqual(['The menu needs 2 rows at 390 px, it had 1']);
    expect(titles(at({}, { menuCut: true }))).toEqual(['The menu is cut off at 390 px']);
    expect(titles(at({}, { menuCut: true, menuCutBefore: true }))).toEqual([]);
  });
});

describe('content security policies', () => {
  // Examples after Content Security Policy Level 3, 6.7.2.8 (does url match expression).
  it('let in what they name, and what falls back', () => {
    const shop = 'https://shop.example';
    expect(allows("script-src 'self' https://shop.example", 'script-src', shop)).toBe(true);
    expect(allows("default-src 'self'", 'script-src', shop)).toBe(false);
    expect(allows("img-src 'self'", 'script-src', shop)).toBe(true);
    expect(allows('script-src *.example', 'script-src', shop)).toBe(true);
    expect(allows('script-src http://shop.example', 'script-src', shop)).toBe(true);
    expect(allows('script-src https://shop.example:8443', 'script-src', shop)).toBe(false);
    expect(allows('script-src https:', 'script-src', shop)).toBe(true);
    expect(allows("script-src 'none'", 'script-src', shop)).toBe(false);
  });
});

describe('small judgements', () => {
  it('a page reads the same whatever order its attributes have', () => {
    const bytes = (t: string) => Buffer.from(t);
    expect(
      samePage(
        bytes('<p id=a class="x y">One <b>two</b></p>'),
        bytes('<!-- host -->\r\n<p class="y x" id="a">One\r\n <b>two</b></p>'),
      ),
    ).toBe(true);
    expect(samePage(bytes('<p>One</p>'), bytes('<p>Two</p>'))).toBe(false);
  });
  it('the nearest file of a name', () => {
    expect(nearestName('Kurze.html', ['kurse.html', 'index.html'])).toBe('kurse.html');
    expect(nearestName('old/visit.htm', ['visit/index.html', 'about.html'])).toBe('visit/index.html');
    expect(nearestName('visit', ['a/visit.html', 'b/visit.html'])).toBeUndefined();
  });
  it('an amount is written as it was', () => {
    expect(writtenAs('£39', '£42.00')).toBe('£42');
    expect(writtenAs('£39.50', '£42.00')).toBe('£42.00');
    expect(writtenAs('18 €', '21,50 €')).toBe('21,50 €');
    // Dutch and Belgian price tags write a dash for no cents; common practice.
    expect(writtenAs('€ 45,-', '€ 49,00')).toBe('€ 49,-');
    expect(writtenAs('45,– €', '49,50 €')).toBe('49,50 €');
  });
  it('texts that only hold a place', () => {
    expect(leftoversIn('Lorem ipsum dolor sit amet.')).toMatchObject([{ is: 'placeholder' }]);
    expect(leftoversIn('<stall-buy goods="x">')).toMatchObject([{ is: 'code' }]);
    for (const text of [
      '[uw tekst hier]',
      '[Votre texte ici]',
      'Tu texto aquí',
      'Hier steht Ihr Text',
      'XXX',
    ])
      expect(leftoversIn(`Welcome. ${text}`), text).toMatchObject([{ is: 'placeholder' }]);
    for (const text of [
      'Your text about willows is here to read.',
      'Baskets [inserted by hand] and more text',
      'Mehr davon [hier lesen], und [add to calendar]',
      'A basket of size XXXL',
      'Tekst en uitleg: uw tekst staat hiernaast.',
    ])
      expect(leftoversIn(text), text).toEqual([]);
  });
});
