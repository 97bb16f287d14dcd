import { entryAt } from '../entries';
import { type DefaultTreeAdapterMap, defaultTreeAdapter, Parser, type Token } from 'parse5';
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
  const parser = new Parser({ sourceCodeLocationInfo: places, treeAdapter: adapter });
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
 * Whether two trees are alike when the nodes that `extra` names are left out of the second. Adjacent text is joined,
 * because an inserted element splits a text node in two. `extra` hears of the old node that a new one stands in too.
 * What stands inside `opaque`, a node of the first tree, is not looked at. This is the tree law: the published page's tree is the old
 * tree plus the inserted nodes, nothing else.
 */
export function sameTreeBut(
  before: Node,
  after: Node,
  extra: (node: Node, parentBefore: Node) => boolean,
  opaque?: Node,
): boolean {
  const stack: [Node, Node][] = [[before, after]];
  for (let pair = stack.pop(); pair; pair = stack.pop()) {
    const [a, b] = pair;
    if (label(a) !== label(b)) return false;
    if (a === opaque) continue;
    const pairs = pairsOf(
      joined(contentOf(a), () => false),
      joined(contentOf(b), (node) => extra(node, a)),
    );
    if (!pairs) return false;
    for (const next of pairs) stack.push(next);
  }
  return true;
}

/** The nodes of two rows side by side; undefined where their texts or numbers differ. */
function pairsOf(left: (Node | string)[], right: (Node | string)[]): [Node, Node][] | undefined {
  if (left.length !== right.length) return undefined;
  const pairs: [Node, Node][] = [];
  for (const [i, x] of left.entries()) {
    const y = right[i];
    if (typeof x !== 'string' && y !== undefined && typeof y !== 'string') pairs.push([x, y]);
    else if (x !== y) return undefined;
  }
  return pairs;
}

const contentOf = (node: Node): Node[] => ('content' in node ? childrenOf(node.content) : childrenOf(node));

function label(node: Node): string {
  if (isElement(node))
    return `${node.namespaceURI} ${node.tagName} ${node.attrs.map((a) => `${a.name}=${a.value}`).join('\u0001')}`;
  if ('data' in node) return `#${node.data}`;
  if (node.nodeName === '#documentType') return `!${(node as { name: string }).name}`;
  return node.nodeName;
}

function joined(nodes: Node[], extra: (node: Node) => boolean): (Node | string)[] {
  const out: (Node | string)[] = [];
  for (const node of nodes) {
    if (extra(node)) continue;
    const last = out[out.length - 1];
    if (isText(node)) {
      if (typeof last === 'string') out[out.length - 1] = last + node.value;
      else out.push(node.value);
    } else out.push(node);
  }
  return out;
}
