import { type PageSource, textOf } from '../html/source';
import { attr, bodyOf, descendants, type Document, rawText } from '../html/tree';

/**
 * What an old page says of its look in attributes, as the style sheet that browsers make of it (HTML Standard, 15.3.3
 * "The page" and 15.3.4 "Flow content": bgcolor, text and link of body, face of font; from memory). Nothing where it says none.
 */
export function lookOfAttributes(doc: Document, source: PageSource): string {
  const body = bodyOf(doc);
  if (!body) return '';
  const colour = (name: string): string | undefined => {
    const value = textOf(source, attr(body, name) ?? '').trim();
    if (/^[0-9a-f]{6}$/i.test(value) && /\d/.test(value)) return `#${value}`;
    return /^(#[0-9a-f]{3}|#[0-9a-f]{6}|[a-z]+)$/i.test(value) ? value : undefined;
  };
  const rule = (selector: string, property: string, value: string | undefined) =>
    value ? `${selector}{${property}:${value}}` : '';
  return [
    rule('body', 'background-color', colour('bgcolor')),
    rule('body', 'color', colour('text')),
    rule('a', 'color', colour('link')),
    rule('body', 'font-family', mainFace(doc, source)),
  ].join('');
}

/** The face that most of the page's words stand in. */
function mainFace(doc: Document, source: PageSource): string | undefined {
  const letters = new Map<string, number>();
  for (const el of descendants(doc)) {
    const face = el.tagName === 'font' ? textOf(source, attr(el, 'face') ?? '').trim() : '';
    if (/^[\w\s,'-]{1,100}$/.test(face))
      letters.set(face, (letters.get(face) ?? 0) + rawText(el).trim().length);
  }
  return [...letters].sort((a, b) => b[1] - a[1])[0]?.[0];
}
