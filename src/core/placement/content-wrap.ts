import { escapeHtml } from '../html/escape';
import { textOf } from '../html/source';
import { ancestors, attr, classesOf, type Element, elementsIn, isElement, rawText } from '../html/tree';
import type { ParsedPage } from '../site/read-page';
import { regionsOf } from '../site/regions';

/** The elements that hold a page's running text, as start and end tags: content between them stands where the text stands. */
export interface ContentWrap {
  readonly open: string;
  readonly close: string;
  /** It stands in a cell of a table, which grows with what is in it. */
  readonly inCell: boolean;
}

/** Running text: what stands as wide as the site's text does. */
const TEXT = new Set(['p', 'h1', 'h2', 'h3', 'ul', 'ol', 'blockquote', 'dl']);
/** Names of things that are wider, higher or elsewhere than text. */
const SHOWY =
  /hero|banner|jumbo|slider|carousel|cover|masthead|crumb|intro-?image|card|teaser|grid|column|\bcols?\b|\brow\b/i;

/**
 * Where the text of a page stands within its main part: the way of elements from the main part down to the one that holds the most
 * text of its own. Content of ours in the same elements has the site's own left edge and width, whatever its style sheets are like.
 * Undefined where no element surely holds running text.
 */
export function contentWrap(page: ParsedPage): ContentWrap | undefined {
  const main = regionsOf(page).get('main');
  if (!main) return undefined;
  const tops = main.first ? runOf(main.element, main.first, main.last ?? main.first) : [main.element];
  // A main part that is a run of texts is held by what they stand in.
  const around = main.first && !isShowy(main.element) ? holding(main.element, tops, page) : [];
  const best = [...around, ...tops.flatMap((top) => holders(top, page))]
    .sort((a, b) => b.weight - a.weight)
    .at(0);
  if (!best) return undefined;
  const way: Element[] = [];
  for (let at: Element | undefined = best.element; at && at !== main.element; at = parentOf(at))
    way.unshift(at);
  const cell = [best.element, ...ancestors(best.element)].some((el) => el.tagName === 'td');
  return {
    inCell: cell,
    open: way.map((el) => startTag(page, el)).join(''),
    close: way
      .map((el) => `</${el.tagName}>`)
      .reverse()
      .join(''),
  };
}

const parentOf = (el: Element): Element | undefined =>
  el.parentNode && isElement(el.parentNode) ? el.parentNode : undefined;

const runOf = (parent: Element, first: Element, last: Element): Element[] => {
  const kids = elementsIn(parent);
  return kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
};

/** An element that holds texts itself, with how much of it. */
function holding(element: Element, kids: readonly Element[], page: ParsedPage, least = 2) {
  const own = kids.filter((k) => TEXT.has(k.tagName));
  const weight = own.reduce((n, k) => n + textOf(page.source, rawText(k)).trim().length, 0);
  return own.length >= least ? [{ element, weight }] : [];
}

/** Elements that hold blocks of text themselves, down to the lowest. */
function holders(top: Element, page: ParsedPage): { element: Element; weight: number }[] {
  if (isShowy(top)) return [];
  const kids = elementsIn(top);
  const below = kids
    .filter((k) => ['div', 'section', 'article', 'main', 'td', 'center'].includes(k.tagName))
    .flatMap((k) => holders(k, page));
  return [...holding(top, kids, page, below.length === 0 ? 1 : 2), ...below];
}

const isShowy = (el: Element): boolean =>
  [...classesOf(el), attr(el, 'id') ?? ''].some((name) => SHOWY.test(name)) ||
  sideBySide(attr(el, 'style') ?? '');

/** Pictures behind, or what it holds stands side by side; a column of one thing under another is how text stands. */
const sideBySide = (style: string): boolean =>
  /background-image|display:\s*(inline-)?grid/i.test(style) ||
  (/display:\s*(inline-)?flex/i.test(style) && !/flex-direction:\s*column/i.test(style));

/** What styles an element: its classes, its own style, what old pages say in attributes. Never its id, which a page has once. */
const styling = ['class', 'style', 'align', 'width'];

const startTag = (page: ParsedPage, el: Element): string =>
  `<${el.tagName}${styling
    .map((name) => {
      const value = attr(el, name);
      return value === undefined ? '' : ` ${name}="${escapeHtml(textOf(page.source, value))}"`;
    })
    .join('')}>`;
