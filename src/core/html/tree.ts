import { entryAt } from '../entries';
import { type DefaultTreeAdapterMap, defaultTreeAdapter, type Token } from 'parse5';
import { PlacingParser } from './parser';
import type { PageSource } from './source';

export type Node = DefaultTreeAdapterMap['node'];
export type Element = DefaultTreeAdapterMap['element'];
export type TextNode = DefaultTreeAdapterMap['textNode'];
export type Document = DefaultTreeAdapterMap['document'];

/**
 * What a page may be. Browsers themselves stop nesting at 512 levels; beyond these figures a page is an attack or an
 * accident, and the parser's own searches through its open elements would take for ever. Chosen by hand.
 */
export const pageLimits = { bytes: 16 * 1024 * 1024, depth: 1_000, nodes: 600_000 } as const;

export class PageTooBig extends Error {
  override name = 'PageTooBig';
  constructor(
    readonly line: number,
    why: string,
  ) {
    super(why);
  }
}

/**
 * The page's tree, each node with its place in the source. `places: false` leaves the places out, which is half of the
 * parser's work: enough for comparing pages, never for edits. @throws PageTooBig beyond {@link pageLimits}
 */
export function parsePage(source: Pick<PageSource, 'structure'>, { places = true } = {}): Document {
  const { adapter, fault } = boundedAdapter();
  const parser = new PlacingParser({ sourceCodeLocationInfo: places, treeAdapter: adapter });
  try {
    parser.tokenizer.write(source.structure, true);
  } catch (error) {
    if (fault()) throw new PageTooBig(parser.tokenizer.preprocessor.line, fault() ?? '');
    throw error;
  }
  return parser.document;
}

/** parse5's own tree, with a count of what it makes and how deep it nests. */
function boundedAdapter() {
  let depth = 0;
  let nodes = 0;
  let why: string | undefined;
  const stop = (reason: string): never => {
    why = reason;
    throw new Error(reason);
  };
  const count = () => {
    if (++nodes > pageLimits.nodes) stop(`holds more than ${pageLimits.nodes.toLocaleString('en')} elements`);
  };
  const adapter: typeof defaultTreeAdapter = {
    ...defaultTreeAdapter,
    createElement(tag, namespace, attrs) {
      count();
      return defaultTreeAdapter.createElement(tag, namespace, attrs);
    },
    createCommentNode(data) {
      count();
      return defaultTreeAdapter.createCommentNode(data);
    },
    // In place: parse5 makes a new object each time, which is a fifth of all its work.
    updateNodeSourceCodeLocation(node, end) {
      const at = node.sourceCodeLocation as Token.ElementLocation | null | undefined;
      if (!at) return;
      if (end.endLine !== undefined) at.endLine = end.endLine;
      if (end.endCol !== undefined) at.endCol = end.endCol;
      if (end.endOffset !== undefined) at.endOffset = end.endOffset;
      if ('endTag' in end && end.endTag) at.endTag = end.endTag;
    },
    onItemPush() {
      if (++depth > pageLimits.depth)
        stop(`nests more than ${pageLimits.depth.toLocaleString('en')} elements in each other`);
    },
    onItemPop() {
      depth--;
    },
  };
  return { adapter, fault: () => why };
}

export const isElement = (node: Node): node is Element => defaultTreeAdapter.isElementNode(node);
export const isText = (node: Node): node is TextNode => defaultTreeAdapter.isTextNode(node);
export const childrenOf = (node: Node): Node[] => ('childNodes' in node ? node.childNodes : []);
export const elementsIn = (node: Node): Element[] => childrenOf(node).filter(isElement);
export const attr = (el: Element, name: string): string | undefined =>
  el.attrs.find((a) => a.name === name)?.value;
export const classesOf = (el: Element): string[] => (attr(el, 'class') ?? '').split(/\s+/).filter(Boolean);

/** Every element under `node` in document order. Iterative: a page may nest deeper than the call stack. */
export function* descendants(node: Node): Generator<Element> {
  const stack: Node[] = [...childrenOf(node)].reverse();
  for (let next = stack.pop(); next; next = stack.pop()) {
    if (!isElement(next)) continue;
    yield next;
    const kids = next.childNodes;
    for (let i = kids.length - 1; i >= 0; i--) stack.push(entryAt(kids, i));
  }
}

export function find(node: Node, test: (el: Element) => boolean): Element | undefined {
  for (const el of descendants(node)) if (test(el)) return el;
  return undefined;
}

/** Elements that do not end a word: "with<b>y</b>" is one, "cutting week<br>frost" is not. */
const runsOn = new Set([
  'a',
  'abbr',
  'b',
  'bdi',
  'cite',
  'code',
  'em',
  'font',
  'i',
  'mark',
  's',
  'small',
  'span',
  'sub',
  'sup',
  'time',
  'u',
  'wbr',
]);

/** All text under a node, in document order, scripts and styles left out, as the parser gave it. */
export function rawText(node: Node): string {
  let out = '';
  const stack: Node[] = [node];
  for (let next = stack.pop(); next; next = stack.pop()) {
    if (isText(next)) out += next.value;
    else if (isElement(next) && !runsOn.has(next.tagName) && out !== '') out += ' ';
    if (!isElement(next) || !['script', 'style', 'template', 'noscript'].includes(next.tagName)) {
      const kids = childrenOf(next);
      for (let i = kids.length - 1; i >= 0; i--) stack.push(entryAt(kids, i));
    }
  }
  return out;
}

export const collapse = (text: string): string => text.replace(/\s+/g, ' ').trim();

export const bodyOf = (doc: Document): Element | undefined => find(doc, (el) => el.tagName === 'body');

/** Parents of an element from the nearest to the root. */
export function* ancestors(el: Element): Generator<Element> {
  for (let up = el.parentNode; up && isElement(up); up = up.parentNode) yield up;
}

/**
 * Whether two trees are alike when the nodes that `extra` names are left out of the second. Adjacent text is joined, because
 * an inserted element splits a text node in two. `extra` hears of the old node that a new one stands in too. What stands
 * inside `opaque`, nodes of the first tree, is not looked at. This is the tree law: the published page's tree is the old
 * tree plus the inserted nodes, nothing else.
 */
export function sameTreeBut(
  before: Node,
  after: Node,
  extra: (node: Node, parentBefore: Node) => boolean,
  opaque: ReadonlySet<Node> = new Set(),
): boolean {
  // The two of a pair follow each other on the stack: no object is made for each.
  const stack: Node[] = [before, after];
  while (stack.length > 0) {
    const b = stack.pop() as Node;
    const a = stack.pop() as Node;
    if (!isSameNode(a, b)) return false;
    if (!opaque.has(a) && !hasSameContent(a, b, extra, stack)) return false;
  }
  return true;
}

/**
 * Whether what stands in two nodes is the same side by side, but for `extra`: texts by what they say, joined where nothing
 * stands between them. What else there is goes on the stack in pairs.
 */
function hasSameContent(
  a: Node,
  b: Node,
  extra: (node: Node, parentBefore: Node) => boolean,
  stack: Node[],
): boolean {
  const left = contentOf(a);
  let i = 0;
  let textBefore = '';
  let textAfter = '';
  for (const node of contentOf(b)) {
    if (extra(node, a)) continue;
    if (isText(node)) {
      textAfter += node.value;
      continue;
    }
    for (let old = left[i]; old && isText(old); old = left[++i]) textBefore += old.value;
    const old = left[i++];
    if (!old || textBefore !== textAfter) return false;
    textBefore = textAfter = '';
    stack.push(old, node);
  }
  for (let old = left[i]; old && isText(old); old = left[++i]) textBefore += old.value;
  return i >= left.length && textBefore === textAfter;
}

const contentOf = (node: Node): Node[] => ('content' in node ? childrenOf(node.content) : childrenOf(node));

/** Whether two nodes are alike in themselves, whatever stands in them. */
function isSameNode(a: Node, b: Node): boolean {
  if (isElement(a)) return isElement(b) && isSameElement(a, b);
  if ('data' in a) return 'data' in b && a.data === b.data;
  if (a.nodeName !== b.nodeName) return false;
  return a.nodeName !== '#documentType' || (a as { name: string }).name === (b as { name: string }).name;
}

function isSameElement(a: Element, b: Element): boolean {
  if (a.tagName !== b.tagName || a.namespaceURI !== b.namespaceURI || a.attrs.length !== b.attrs.length)
    return false;
  return a.attrs.every((x, i) => x.name === b.attrs[i]?.name && x.value === b.attrs[i]?.value);
}
