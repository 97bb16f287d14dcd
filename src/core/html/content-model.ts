import { childrenOf, type Element, elementsIn, find, isText } from './tree';

/**
 * Where a block may stand, after the content models of the HTML standard (section 4): wherever flow content may, never
 * in a paragraph's text, a heading, a link, a control or anything embedded. Lists, tables and selects take only their
 * own kind of children: what stands in an item or a cell stands in a list or table.
 */
const containers = new Set([
  'body',
  'main',
  'div',
  'section',
  'article',
  'aside',
  'header',
  'footer',
  'blockquote',
  'figure',
  'figcaption',
  'li',
  'dd',
  'td',
  'th',
  'center',
  'fieldset',
  'details',
  'noindex',
  'layer',
  'ilayer',
]);

/** Text-level elements that old pages wrap around whole blocks; containers only when they do. */
const wrappers = new Set(['font', 'span', 'b', 'strong', 'i', 'em', 'small', 'big', 'ins', 'del', 'abbr']);

/** Inside these, nothing of ours stands: text, links, controls, embedded and inert content, menus. */
const closed = new Set([
  'p',
  'a',
  'button',
  'label',
  'nav',
  'menu',
  'dir',
  'select',
  'svg',
  'math',
  'template',
  'noscript',
  'noframes',
  'noembed',
  'pre',
  'listing',
  'xmp',
  'plaintext',
  'dialog',
  'object',
  'applet',
  'embed',
  'video',
  'audio',
  'canvas',
  'iframe',
  'frameset',
  'address',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'hgroup',
  'picture',
  'summary',
  'caption',
  'legend',
  'dt',
  'textarea',
  'marquee',
  'map',
]);

const HTML = 'http://www.w3.org/1999/xhtml';

export const isClosed = (el: Element): boolean =>
  closed.has(el.tagName) || el.namespaceURI !== HTML || (el.tagName === 'form' && !wrapsPage(el));

/** Some makers of pages wrap a whole page in one form: it holds a heading or a menu, and is a container like any other. */
const wrapsPage = (form: Element): boolean =>
  find(form, (e) => e.tagName === 'h1' || e.tagName === 'nav' || e.tagName === 'main') !== undefined;

/** An element of the page's own making ("my-layout"): browsers lay its children out like those of a div. */
const isCustom = (el: Element): boolean => el.tagName.includes('-') && !el.tagName.startsWith('stall-');

/** An element between whose blocks another may stand. */
export function isContainer(el: Element): boolean {
  if (isClosed(el)) return false;
  if (containers.has(el.tagName) || el.tagName === 'form' || isCustom(el)) return true;
  return wrappers.has(el.tagName) && elementsIn(el).some(isBlock);
}

/** Text runs of a container: between two of these, and between such and text, nothing is set apart. */
const phrasing = new Set([
  'a',
  'abbr',
  'acronym',
  'area',
  'b',
  'bdi',
  'bdo',
  'big',
  'blink',
  'br',
  'button',
  'cite',
  'code',
  'data',
  'del',
  'dfn',
  'em',
  'font',
  'i',
  'img',
  'input',
  'ins',
  'kbd',
  'label',
  'mark',
  'meter',
  'nobr',
  'output',
  'picture',
  'progress',
  'q',
  's',
  'samp',
  'select',
  'small',
  'span',
  'strike',
  'strong',
  'sub',
  'sup',
  'textarea',
  'time',
  'tt',
  'u',
  'var',
  'wbr',
]);

/** A block of its own: not part of a line of text. Text-level elements around blocks are blocks. */
export const isBlock = (el: Element): boolean =>
  !phrasing.has(el.tagName) ||
  (wrappers.has(el.tagName) && elementsIn(el).some((k) => !phrasing.has(k.tagName)));

/** Text of its own, or elements of a line of text. */
export const holdsText = (el: Element): boolean =>
  childrenOf(el).some((n) => isText(n) && n.value.trim() !== '');

/** Elements that shoppers never see: no pitch stands beside them alone. */
const invisible = new Set([
  'script',
  'style',
  'link',
  'meta',
  'template',
  'noscript',
  'title',
  'base',
  'area',
  'param',
  'source',
  'track',
  'noframes',
]);
export const isInvisible = (el: Element): boolean => invisible.has(el.tagName);

/** What stands in a container, as a widget's neighbour: an element, a run of text, or the container's edge. */
export type Neighbour = Element | 'text' | 'edge';

/**
 * Whether a block may stand between two neighbours. Beside a block it always may. A line of text is never parted, and
 * a container that holds nothing but one is left whole, but for items and cells: there is nowhere else in their list
 * or table. Pictures, links and buttons in a row may be parted where no text runs between them.
 */
export function canPart(container: Element, left: Neighbour, right: Neighbour): boolean {
  // A field is tied to what follows it (its label, a sibling selector): nothing comes between.
  if (isTag(left, 'input')) return false;
  if (isTag(right, 'summary') || isTag(right, 'legend')) return false;
  if (block(left) || block(right)) return true;
  const edge = left === 'edge' || right === 'edge';
  if (edge && (container.tagName === 'li' || container.tagName === 'td' || container.tagName === 'dd'))
    return true;
  if (holdsText(container)) return edge && elementsIn(container).some(isBlock);
  return container.tagName === 'div' || container.tagName === 'body' || isCustom(container);
}

const isTag = (n: Neighbour, tag: string): boolean => typeof n === 'object' && n.tagName === tag;
const block = (n: Neighbour): boolean => typeof n === 'object' && isBlock(n);
