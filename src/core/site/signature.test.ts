import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Element, find, parsePage } from '../html/tree';
import { buildOutline } from './outline';
import { FileIndex, type PagePath } from './paths';
import { parsePageFile } from './read-page';
import { lookalikesOf, signatureOf, similarity } from './signature';
import { meaningOf, nameSignOf } from './signs';

const block = (html: string, tag: string): { signature: string; element: Element } => {
  const parsed = parsePageFile('index.html' as PagePath, Buffer.from(`<body><main>${html}</main></body>`));
  if ('problem' in parsed) throw new Error(parsed.problem);
  const element = find(parsed.page.doc, (e) => e.tagName === tag) as Element;
  return { signature: signatureOf(parsed.page, element, element), element };
};
const words = 'cut bundled and dried on the loft over the barn until the spring winds come through';

describe('signatures of blocks', () => {
  it('are the same whatever happens to classes, blanks and tags inside, and nearly so when words are edited', () => {
    const { signature } = block(`<p>${words}</p>`, 'p');
    expect(
      similarity(
        signature,
        block(`<p class="x">\n ${words.replace('the loft', '<b>the</b> loft')} </p>`, 'p').signature,
      ),
    ).toBe(1);
    expect(similarity(signature, block(`<div>${words}</div>`, 'div').signature)).toBe(0.9);
    expect(
      similarity(signature, block(`<p>${words.replace('barn', 'shed')}</p>`, 'p').signature),
    ).toBeGreaterThan(0.5);
    expect(
      similarity(signature, block('<p>Open on Fridays from ten to four, and by letter</p>', 'p').signature),
    ).toBe(0);
  });

  it('are known by their heading when the rest is new, and told apart by it when the rest is alike', () => {
    const one = block(`<section><h2>Trugs</h2><p>${words}</p></section>`, 'section').signature;
    expect(
      similarity(
        one,
        block('<section><h2>Trugs</h2><p>All of it was written again today.</p></section>', 'section')
          .signature,
      ),
    ).toBe(0.75);
    expect(
      similarity(one, block(`<section><h2>Hurdles</h2><p>${words}</p></section>`, 'section').signature),
    ).toBe(0);
  });

  it('are alike both ways, and most alike to themselves', () => {
    const text = fc
      .array(fc.constantFrom(...words.split(' '), 'oak', 'ash'), { minLength: 1, maxLength: 12 })
      .map((w) => block(`<p>${w.join(' ')}</p>`, 'p').signature);
    fc.assert(
      fc.property(text, text, (a, b) => {
        expect(similarity(a, b)).toBe(similarity(b, a));
        expect(similarity(a, a)).toBeGreaterThanOrEqual(similarity(a, b));
      }),
    );
  });

  it('of cards are lookalikes; a block and what holds it are not', () => {
    const card = (day: string) =>
      block(`<p>Kelly wrote on ${day} March in six minutes of reading time about willow</p>`, 'p').signature;
    expect(
      lookalikesOf([
        { signature: card('12'), from: 0, to: 9 },
        { signature: card('23'), from: 10, to: 19 },
      ]).size,
    ).toBe(2);
    expect(
      lookalikesOf([
        { signature: card('12'), from: 0, to: 99 },
        { signature: card('23'), from: 10, to: 19 },
      ]).size,
    ).toBe(0);
  });
});

describe('what elements say of themselves', () => {
  it('by meaning (HTML-AAM 1.0) and by the names their makers give', () => {
    const of = (html: string, tag: string) => block(html, tag).element;
    expect(meaningOf(of('<div role="contentinfo">x</div>', 'div'))).toBe('footer');
    expect(meaningOf(of('<article><header>x</header></article>', 'header'))).toBeUndefined();
    expect(meaningOf(of('<nav aria-label="Breadcrumb">x</nav>', 'nav'))).toBe('crumbs');
    for (const [name, sign] of [
      ['id="siteHeader"', 'header'],
      ['class="main-nav"', 'menu'],
      ['id="leftcol"', 'side'],
      ['class="page_footer"', 'footer'],
      ['class="breadcrumbs"', 'crumbs'],
      ['id="inhalt"', 'main'],
      ['class="card"', undefined],
    ] as const) {
      expect(nameSignOf(of(`<div ${name}>x</div>`, 'div')), name).toBe(sign);
    }
  });
});

describe('an outline', () => {
  it('holds the same for pages that differ in blanks and in the mark of the current item', () => {
    const outline = (nav: string) =>
      buildOutline(
        find(
          parsePage({ structure: `<body><ul>${nav}</ul><div><p>${words}</p></div></body>` }),
          (e) => e.tagName === 'body',
        ) as Element,
      );
    const [a, b] = [
      outline('<li class="item"><a href="a">Home</a></li>'),
      outline('<li class="item active">\n<strong>Home</strong></li>'),
    ];
    expect(a.content(0)).toBe(b.content(0));
    expect(a.key(2)).toBe(b.key(2));
    expect([a.links(0), b.links(0)]).toEqual([1, 0]);
  });

  it('tells what a block holds by the same number however much of it stands in blocks of its own', () => {
    const contentOf = (html: string) =>
      buildOutline(
        find(parsePage({ structure: `<body>${html}</body>` }), (e) => e.tagName === 'body') as Element,
      ).content(0);
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{1,8}$/), { minLength: 1, maxLength: 12 }), (said) => {
        const flat = contentOf(said.map((t) => `<b>${t}</b> `).join(''));
        expect(contentOf(`<div>${said.map((t) => `<p><i>${t}</i></p>`).join('')}</div>`)).toBe(flat);
        expect(contentOf(said.map((t) => `<ul><li>${t}</li></ul>`).join(''))).toBe(flat);
        expect(contentOf(`${said.map((t) => `<b>${t}</b> `).join('')}<b>and more</b>`)).not.toBe(flat);
      }),
    );
  });
});

it('files are found by a name in other letters only where there is just one', () => {
  const index = new FileIndex(['Photos/A.html', 'b.html', 'B.html'] as PagePath[]);
  expect([index.find('photos/a.html'), index.find('b.html'), index.find('B.html')]).toEqual([
    'Photos/A.html',
    'b.html',
    'B.html',
  ]);
  expect(new FileIndex(['b.html', 'B.html'] as PagePath[]).find('B.HTML')).toBeUndefined();
  expect(index.twins).toEqual([['b.html', 'B.html']]);
});
