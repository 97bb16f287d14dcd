import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { defaultTreeAdapter, parse } from 'parse5';
import { describe, expect, it } from 'vitest';
import { readSource } from './source';
import { type Node, parsePage } from './tree';

/** A tree without its ways up, which would make it endless: all else is compared, places too. */
const bare = (node: Node): unknown => ({
  ...Object.fromEntries(Object.entries(node).filter(([key]) => key !== 'parentNode' && key !== 'childNodes')),
  ...('content' in node && { content: bare(node.content) }),
  ...('childNodes' in node && { childNodes: node.childNodes.map(bare) }),
});

/** Against parse5 itself, as it is published. */
function agrees(html: string): void {
  for (const places of [true, false]) {
    const theirs = parse(html, { sourceCodeLocationInfo: places, treeAdapter: defaultTreeAdapter });
    expect(bare(parsePage({ structure: html }, { places }))).toEqual(bare(theirs));
  }
}

describe('our parser', () => {
  it('gives the tree and the places that parse5 gives, of pages as they are', () => {
    for (const dir of ['demo/withybed', 'e2e/sites'])
      for (const file of safeList(dir)) agrees(readSource(readFileSync(join(dir, file))).structure);
  });

  it.each([
    ['text before the head', ' a b <title> c  d </title> e f'],
    ['a line break that begins a pre', '<pre>\n\n a  b\n</pre><textarea>\n x y</textarea><pre>\nz z'],
    ['table text that is fostered', '<table> a b <tr> c d <td> e f <caption> g h </table> i j'],
    ['captions and cells', '<table><caption> a b </caption><tr><td> c <b> d e </td><th> f g</table>'],
    [
      'foreign content',
      '<p>a b<svg><text> c d </text><desc> e f </desc></svg> g h<math><mi> x y </mi></math>',
    ],
    ['formatting that is adopted', '<p><b>1 2<i>3 4</b>5 6</i>7 8</p><a>x y<div>z <a>w v</a></div>'],
    ['NUL, carriage returns, form feeds', '<p>a \0 b\r\nc \r d \f e'],
    ['character references', '<p>a &amp; b &nbsp; c&#32;d &notit; e&#13; f'],
    ['frames and what comes after the body', '<frameset> <frame> </frameset> <noframes> a b </noframes> x y'],
    ['after the body', '<body>a b</body> c d </html> e f <!-- g h --> i j'],
    ['templates', '<template> a b <tr><td> c d </td></tr></template> e f'],
    ['selects', '<select> a b <option> c d <optgroup> e f </select> g h'],
    ['scripts and styles', '<script> a  b </script><style> c  d </style><noscript> e f </noscript> g h'],
    ['a title never closed', '<title> a b <p> c d'],
    ['end tags of nothing', 'a b </p> c d </br> e f </div> g h <li> i <li> j <dd> k <dt> l'],
    ['surrogates', '<p>🧺 a 🧺 b <b title="🧺 c d">🧺</b>'],
  ])('and of %s', (_, html) => agrees(html));

  it('and of anything', () => {
    const tags = [
      'p',
      'b',
      'a',
      'div',
      'table',
      'tr',
      'td',
      'caption',
      'li',
      'pre',
      'select',
      'option',
      'svg',
      'title',
      'template',
      'body',
      'script',
      'textarea',
      'form',
      'h1',
      'button',
      'frameset',
    ];
    const piece = fc.oneof(
      fc.constantFrom(...tags).map((t) => `<${t}>`),
      fc.constantFrom(...tags).map((t) => `</${t}>`),
      fc.constantFrom(...tags).map((t) => `<${t} class="x  y" id=z>`),
      fc.constantFrom(
        ' ',
        '\n',
        '\t',
        ' a',
        'a b',
        'b ',
        '\r\n',
        '\f',
        '\0',
        '&amp;',
        '&#32;',
        '<!-- c d -->',
        '<![CDATA[ e f ]]>',
        '<',
        'é',
      ),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => agrees(pieces.join(''))),
      { numRuns: 800 },
    );
  });
});

function safeList(dir: string): string[] {
  try {
    return (readdirSync(dir, { recursive: true }) as string[]).filter((f) => /\.html?$/.test(f));
  } catch {
    return [];
  }
}
