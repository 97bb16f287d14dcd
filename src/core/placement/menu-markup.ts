import { type Edit, sortEdits } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import {
  childrenOf,
  classesOf,
  descendants,
  type Element,
  isElement,
  isText,
  type Node,
  rawText,
  type TextNode,
} from '../html/tree';
import { fail, ok, type Result } from '../result';
import type { MenuNode } from '../site/menu';
import { stateName } from '../site/outline';
import type { CurrentStyle, ParsedPage } from '../site/read-page';

const flat = (nodes: readonly MenuNode[]): MenuNode[] => nodes.flatMap((n) => [n, ...flat(n.children)]);

/** Learned from the current item as against all the others. */
export function currentStyleOf(nodes: readonly MenuNode[]): CurrentStyle | undefined {
  const all = flat(nodes);
  const current = all.find((n) => n.current && n.link);
  if (!current) return undefined;
  const others = new Set(
    all
      .filter((n) => !n.current)
      .flatMap((n) => [...classesOf(n.element), ...(n.link ? classesOf(n.link) : [])]),
  );
  const own = (el: Element | undefined) =>
    el ? classesOf(el).filter((c) => !others.has(c) && stateName.test(c)) : [];
  const aria = [current.link, current.element]
    .map((e) => e?.attrs.find((a) => a.name === 'aria-current')?.value)
    .find((v) => v !== undefined);
  return {
    item: current.element === current.link ? [] : own(current.element),
    link: own(current.link),
    aria,
  };
}

/** An edit that gives an item another label: the longest text of its link, or of itself when it has none. */
export function renamed(page: ParsedPage, node: MenuNode, label: string): Result<Edit> {
  const text = longestText(node.link ?? node.element, node.list);
  if (!text?.sourceCodeLocation)
    return fail(`the item "${node.label}" is a picture: it cannot be renamed in text`);
  const { startOffset, endOffset } = text.sourceCodeLocation;
  return ok(replaceText(page.source.structure, startOffset, endOffset, label));
}

/** Blanks and line ends around a label stay. */
function replaceText(structure: string, from: number, to: number, label: string): Edit {
  const whole = structure.slice(from, to);
  const lead = /^\s*/.exec(whole)?.[0].length ?? 0;
  const tail = /\s*$/.exec(whole.slice(lead))?.[0].length ?? 0;
  return {
    at: from + lead,
    removed: structure.slice(from + lead, to - tail),
    inserted: asciiHtml(escapeHtml(label)),
  };
}

function longestText(root: Element, except: Element | undefined): TextNode | undefined {
  let best: TextNode | undefined;
  const stack: Node[] = [root];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (node === except) continue;
    if (isText(node)) {
      if (node.value.trim().length > (best?.value.trim().length ?? 0)) best = node;
    } else stack.push(...childrenOf(node));
  }
  return best;
}

/**
 * The item that a new one is made like: one that simply leads to a page, in the looks that most of them have. What opens something, leads
 * elsewhere, is a button or stands out by classes of its own is taken only where there is nothing else.
 */
export function plainest(items: readonly MenuNode[]): MenuNode | undefined {
  const looks = (n: MenuNode) =>
    `${classesOf(n.element).join(' ')} / ${n.link ? classesOf(n.link).join(' ') : ''}`;
  const common = (n: MenuNode) => items.filter((o) => looks(o) === looks(n)).length;
  const against = (n: MenuNode): number =>
    (n.children.length > 0 ? 16 : 0) +
    (n.current ? 8 : 0) +
    (/^#?$|^[a-z][a-z\d+.-]*:|^\/\//i.test(n.href) ? 4 : 0) +
    (n.link && [...descendants(n.link)].some((e) => e.tagName !== 'span') ? 2 : 0) +
    (/^h\d$/.test(n.element.tagName) ? 2 : 0) -
    common(n) / (items.length + 1) +
    (n.link && classesOf(n.link).some((c) => /^(btn|button|cta)/i.test(c)) ? 3 : 0);
  return items
    .filter((n) => n.link)
    .reduce<MenuNode | undefined>((best, n) => (best && against(best) <= against(n) ? best : n), undefined);
}

/**
 * A new item made like another: its markup with label and address replaced; names that must be single (id), marks of
 * the current item, lists it nests, pictures and second texts (a count, a description) left out.
 */
export function itemLike(page: ParsedPage, like: MenuNode, item: NewItem): Result<string> {
  const { structure } = page.source;
  const at = like.element.sourceCodeLocation;
  if (!at || !like.link) return fail('the source does not show how an item of its menu is written');
  const label = longestText(like.link, like.list);
  const edits: Edit[] = [];
  const stack: Node[] = [like.element];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (isElement(node) && !isLeftOut(node, like, label)) {
      edits.push(...elementEdits(page, node, like, item, label));
      stack.push(...childrenOf(node));
    } else edits.push(...nodeEdits(structure, node, label, item.label));
  }
  return ok(slice(structure, at.startOffset, at.endOffset, edits));
}

interface NewItem {
  readonly label: string;
  readonly href: string;
  readonly current: CurrentStyle | undefined;
}

/** Lists that are nested, and pictures beside a label; a menu of pictures gets its new item in words. */
const isLeftOut = (el: Element, like: MenuNode, label: TextNode | undefined): boolean =>
  el === like.list || el.tagName === 'img' || (label !== undefined && (el.tagName === 'svg' || isSign(el)));

/** A sign drawn by a font: an element for text in another voice that holds none. */
const isSign = (el: Element): boolean => el.tagName === 'i' && rawText(el).trim() === '';

/** An element that stays, with its own names and states left out; words of its own where its menu has only pictures. */
function elementEdits(
  page: ParsedPage,
  el: Element,
  like: MenuNode,
  item: NewItem,
  label: TextNode | undefined,
): Edit[] {
  const isLink = el === like.link;
  const state = stateFor(el, like, item.current);
  const inLink = el !== like.element && !isLink;
  const hidden = inLink ? classesOf(el).filter((c) => hidesText.test(c)) : [];
  const edits = attributeEdits(page, el, isLink ? item.href : undefined, state, hidden);
  const open = el.sourceCodeLocation?.startTag;
  if (isLink && !label && open)
    edits.push({ at: open.endOffset, removed: '', inserted: asciiHtml(escapeHtml(item.label)) });
  return edits;
}

/**
 * Classes that hide a word where its sign is to be seen, on wide screens or on all: the new item has no sign. As makers of
 * style sheets call them; common practice.
 */
const hidesText =
  /^(d-(\w\w-)?none|hidden(-\w\w)?|(\w\w:)?hidden|visible-(xs|sm)|show-for-small(-only)?|sr-only|visually-hidden|screen-reader-text|(mobile|phone)-?only|only-(mobile|phone))$/i;

/** What is no element, or one that is left out: the label is written anew, other words go, blanks stay. */
function nodeEdits(structure: string, node: Node, label: TextNode | undefined, text: string): Edit[] {
  const place = node.sourceCodeLocation;
  if (!place) return [];
  const { startOffset, endOffset } = place;
  if (node === label) return [replaceText(structure, startOffset, endOffset, text)];
  if (isText(node) && !/[\p{L}\p{N}]/u.test(node.value)) return [];
  return [{ at: startOffset, removed: structure.slice(startOffset, endOffset), inserted: '' }];
}

function stateFor(el: Element, like: MenuNode, current: CurrentStyle | undefined): ItemState {
  if (!current) return { classes: [], aria: undefined };
  if (el === like.link) return { classes: current.link, aria: current.aria };
  return { classes: el === like.element ? current.item : [], aria: undefined };
}

/** Attributes that name or describe the item they were copied from. */
const ownAttributes = new Set([
  'id',
  'name',
  'title',
  'accesskey',
  'aria-current',
  'aria-label',
  'aria-describedby',
  'target',
  'rel',
  'onmouseover',
  'onmouseout',
  'onclick',
  'data-id',
  'role',
  'tabindex',
]);

/** What a script or a reader of screens takes for more than a link: a press would open something, and not lead to the page. */
const scriptAttribute =
  /^on|^aria-(expanded|haspopup|controls|owns|labelledby)$|^data-.*(toggle|target|dismiss|parent|trigger|placement|title|count|badge)/;

interface ItemState {
  readonly classes: readonly string[];
  readonly aria: string | undefined;
}

function attributeEdits(
  page: ParsedPage,
  el: Element,
  href: string | undefined,
  state: ItemState,
  drop: readonly string[] = [],
): Edit[] {
  const { structure } = page.source;
  const own = el.attrs.flatMap(({ name }) => {
    if (name === 'href' && href !== undefined) return attributeEdit(structure, el, name, href);
    return ownAttributes.has(name) || scriptAttribute.test(name)
      ? attributeEdit(structure, el, name, undefined)
      : [];
  });
  const classes = classesOf(el);
  const kept = [...classes.filter((c) => !drop.includes(c) && !tellsState(c)), ...state.classes].join(' ');
  const hasClass = el.sourceCodeLocation?.attrs?.class !== undefined;
  const changed =
    hasClass && kept !== classes.join(' ') ? attributeEdit(structure, el, 'class', kept || undefined) : [];
  const extra = [
    !hasClass && kept ? ` class="${kept}"` : '',
    state.aria !== undefined ? ` aria-current="${escapeHtml(state.aria)}"` : '',
  ].join('');
  return [...own, ...changed, ...addedToTag(el, extra)];
}

const tellsState = (name: string): boolean =>
  /active|current|selected|here/i.test(name) && stateName.test(name);

/** An attribute with another value, or without it: then with the blank before it, so that nothing is left of it. */
function attributeEdit(structure: string, el: Element, name: string, value: string | undefined): Edit[] {
  const place = el.sourceCodeLocation?.attrs?.[name];
  if (!place) return [];
  const at = value === undefined ? place.startOffset - 1 : place.startOffset;
  const written = structure.slice(place.startOffset, place.startOffset + name.length);
  const inserted = value === undefined ? '' : `${written}="${asciiHtml(escapeHtml(value))}"`;
  return [{ at, removed: structure.slice(at, place.endOffset), inserted }];
}

function addedToTag(el: Element, attributes: string): Edit[] {
  const open = el.sourceCodeLocation?.startTag;
  if (!attributes || !open) return [];
  return [{ at: open.startOffset + 1 + el.tagName.length, removed: '', inserted: attributes }];
}

/** A piece of source with edits inside it. */
export function slice(structure: string, from: number, to: number, edits: readonly Edit[]): string {
  let out = '';
  let at = from;
  for (const e of sortEdits(edits)) {
    if (e.at < at) continue;
    out += structure.slice(at, e.at) + e.inserted;
    at = e.at + e.removed.length;
  }
  return out + structure.slice(at, to);
}

/** Edits that take the mark of the current item off a page's menu: for pages that are in no menu yet. */
export function unmarkCurrent(page: ParsedPage, nodes: readonly MenuNode[]): Edit[] {
  const style = currentStyleOf(nodes);
  const drop = style ? [...style.item, ...style.link] : [];
  return flat(nodes)
    .filter((n) => n.current)
    .flatMap((n) =>
      [n.element, ...(n.link && n.link !== n.element ? [n.link] : [])].flatMap((el) =>
        attributeEdits(page, el, undefined, { classes: [], aria: undefined }, drop).filter((e) => isState(e)),
      ),
    );
}
const isState = (e: Edit): boolean => /^\s*(class|aria-current)/i.test(e.removed);
