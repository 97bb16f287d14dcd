import { textOf } from '../html/source';
import { attr, collapse, type Element, find, rawText } from '../html/tree';
import type { ParsedPage } from './read-page';
import type { Landmark, Regions } from './regions';
import type { Side } from './spot';

/** Words for the edge of a region: "at the end of the header", "after the footer". */
export const labelOfEdge = (region: Landmark, side: Side): string =>
  `${sideWords(side)} ${regionNames[region]}`;

/** Words for a side of an element: "after “Baskets grown and woven here”". */
export function labelFor(page: ParsedPage, regions: Regions, el: Element, side: Side): string {
  return `${sideWords(side)} ${nameOf(page, regions, el)}`;
}

const sideWords = (side: Side): string => (side === 'start' || side === 'end' ? `at the ${side} of` : side);

const regionNames: Readonly<Record<Landmark, string>> = {
  header: 'the header',
  footer: 'the footer',
  main: 'the main part',
  side: 'the side column',
  'side-2': 'the second side column',
  menu: 'the menu',
};
const tagNames: Readonly<Record<string, string>> = {
  ul: 'the list',
  ol: 'the list',
  dl: 'the list',
  li: 'the item',
  form: 'the form',
  table: 'the table',
  td: 'the cell',
  p: 'the paragraph',
  hr: 'the line',
  nav: 'the menu',
  img: 'the picture',
  label: 'the label',
  input: 'the field',
  iframe: 'the frame',
  br: 'the line break',
};

function nameOf(page: ParsedPage, regions: Regions, el: Element): string {
  for (const [name, root] of regions) if (root.element === el && !root.first) return regionNames[name];
  const heading = /^h[1-6]$/.test(el.tagName) ? el : find(el, (e) => /^h[1-6]$/.test(e.tagName));
  const quoted = (text: string) => `“${text.length > 34 ? `${text.slice(0, 32).trimEnd()}…` : text}”`;
  const say = (e: Element) => collapse(textOf(page.source, rawText(e)));
  if (heading && say(heading)) return quoted(say(heading));
  const tag = tagNames[el.tagName];
  if (tag && el.tagName !== 'p' && el.tagName !== 'td' && el.tagName !== 'li') {
    const alt = attr(el, 'alt');
    return alt ? `${tag} ${quoted(textOf(page.source, alt))}` : tag;
  }
  if (say(el)) return quoted(say(el));
  const picture = find(el, (e) => e.tagName === 'img' && Boolean(attr(e, 'alt')));
  return picture
    ? `the picture ${quoted(textOf(page.source, attr(picture, 'alt') ?? ''))}`
    : (tag ?? 'the block');
}
