import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import { attr, descendants, rawText } from '../../core/html/tree';
import { plainText, richText } from './rich-text';

const pieces = fc
  .array(
    fc.constantFrom(
      '<p>',
      '</p>',
      '<b>x</b>',
      '<script>alert(1)</script>',
      '<img src=x onerror=alert(1)>',
      '<a href="javascript:alert(1)">',
      '<a href="https://a.example/?a=1&b=2">',
      '</a>',
      '<ul><li>',
      '</ul>',
      '<svg onload=alert(1)>',
      '<!--',
      '-->',
      '<style>*{}</style>',
      '<h1>',
      '</h1>',
      '<p style="position:fixed" onclick=x()>',
      '&lt;script&gt;',
      '&amp;',
      ' words ',
      '<',
      '>',
      '"',
      '\u00a0',
      '<br>',
      '<math><mtext></form><form><mglyph><style></math><img src onerror=alert(1)>',
    ),
    { maxLength: 12 },
  )
  .map((list) => list.join(''));
const allowed = new Set([
  'p',
  'br',
  'strong',
  'em',
  'u',
  's',
  'h3',
  'h4',
  'ul',
  'ol',
  'li',
  'a',
  'blockquote',
  'code',
  'sub',
  'sup',
  'table',
  'thead',
  'tbody',
  'tr',
  'th',
  'td',
  'hr',
]);

describe('rich text', () => {
  it('whatever comes in, a browser finds nothing in it but text, structure and safe links', () => {
    fc.assert(
      fc.property(fc.oneof(pieces, fc.string()), (text) => {
        for (const el of descendants(parseFragment(richText(text)))) {
          expect(allowed.has(el.tagName), el.tagName).toBe(true);
          for (const a of el.attrs)
            expect(['href', 'rel', 'scope', 'colspan', 'rowspan', 'start'], a.name).toContain(a.name);
          expect(attr(el, 'href') ?? 'https:').toMatch(/^(https?:|mailto:|tel:|[^:]*$)/i);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('cleaned twice is cleaned once: what is kept is not changed by being read', () => {
    fc.assert(
      fc.property(pieces, (text) => {
        const once = richText(text);
        expect(richText(once)).toBe(once);
      }),
    );
  });

  it('has the same words as a browser would show', () => {
    fc.assert(
      fc.property(
        fc
          .array(
            fc.constantFrom(
              '<p>a &amp; b</p>',
              '<h3>T</h3>',
              '<ul><li>one</li><li>two &lt;3</li></ul>',
              '<p>x<br />y</p>',
              '<p><strong>s</strong>t</p>',
              '<p>&#233;&nbsp;&quot;</p>',
            ),
          )
          .map((l) => l.join('')),
        (html) => {
          const shown = rawText(parseFragment(html.replace(/<(\/p|\/h3|\/li|br \/)>/g, '<$1> ')))
            .replace(/\s+/g, ' ')
            .trim();
          expect(plainText(html).replace(/\s+/g, '')).toBe(shown.replace(/\s+/g, ''));
        },
      ),
    );
    expect(plainText('<p>one</p><p>two</p>')).toBe('one two');
    expect(plainText('<p>x<br />y</p>')).toBe('x y');
  });
});
