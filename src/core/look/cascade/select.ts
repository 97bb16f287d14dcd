import { compile } from 'css-select';
import { type Selector, parse } from 'css-what';
import { childrenOf, type Element, elementsIn, isElement, isText, type Node } from '../../html/tree';

/** A state of a control that a style sheet may speak of. */
export const states = ['hover', 'focus', 'active'] as const;
export type ControlState = (typeof states)[number];

/** One selector of a rule, ready to be asked. */
export interface Compiled {
  /** Specificity as one number: ids, then classes, attributes and pseudo-classes, then types (Selectors 4, 17). */
  readonly specificity: number;
  /** What the element has to have, as the fastest thing to look up: "#id", ".class", "tag" or "*". */
  readonly key: string;
  /** In which state of a control it holds; undefined for a page at rest. */
  readonly state: ControlState | undefined;
  readonly matches: (element: Element) => boolean;
}

const stateNames: Readonly<Record<string, ControlState>> = {
  hover: 'hover',
  focus: 'focus',
  'focus-visible': 'focus',
  'focus-within': 'focus',
  active: 'active',
};
/** What is never so on a page that was just opened and that nobody touched. */
const never = new Set([
  ...[
    'visited',
    'target',
    'target-within',
    'user-invalid',
    'user-valid',
    'popover-open',
    'modal',
    'fullscreen',
  ],
  ...['invalid', 'out-of-range', 'autofill', '-webkit-autofill', 'host', 'defined', 'playing', 'paused'],
]);

/** One selector without a comma. Nothing for what styles no element (`::before`) or is not understood: browsers leave such rules out, too. */
export function compileSelector(text: string): Compiled | undefined {
  try {
    const [tokens, ...others] = parse(text);
    if (!tokens || others.length) return undefined;
    if (tokens.some((t) => t.type === 'pseudo-element')) return undefined;
    const state = tokens.flatMap((t) => (t.type === 'pseudo' ? (stateNames[t.name] ?? []) : []))[0];
    if (tokens.some((t) => t.type === 'pseudo' && never.has(t.name))) return undefined;
    const atRest = withSubject(tokens.filter((t) => !(t.type === 'pseudo' && t.name in stateNames)));
    const matches = compile<Node, Element>([atRest], { adapter, xmlMode: false });
    return { specificity: specificityOf(tokens), key: keyOf(atRest), state, matches };
  } catch {
    return undefined;
  }
}

const combinators = new Set(['descendant', 'child', 'adjacent', 'sibling', 'parent', 'column-combinator']);

/** A compound that lost its only part (`:hover > a`) is any element. */
function withSubject(tokens: readonly Selector[]): Selector[] {
  const any: Selector = { type: 'universal', namespace: null } as Selector;
  const whole = tokens.flatMap((token, n) => {
    const before = tokens[n - 1];
    const isOpen = combinators.has(token.type) && (!before || combinators.has(before.type));
    return isOpen ? [any, token] : [token];
  });
  const last = whole.at(-1);
  return !last || combinators.has(last.type) ? [...whole, any] : whole;
}

/** Selectors 4, 17: a specificity of three counts, here in one number of base 1000. */
function specificityOf(tokens: readonly Selector[]): number {
  return tokens.reduce((sum, token) => sum + weightOf(token), 0);
}

function weightOf(token: Selector): number {
  if (token.type === 'attribute') return token.name === 'id' && token.action === 'equals' ? 1_000_000 : 1000;
  if (token.type === 'tag' || token.type === 'pseudo-element') return 1;
  if (token.type !== 'pseudo') return 0;
  if (token.name === 'where') return 0;
  if (!Array.isArray(token.data)) return 1000;
  const inside = Math.max(0, ...token.data.map(specificityOf));
  return /^(is|not|has|matches|-webkit-any|-moz-any)$/.test(token.name) ? inside : 1000 + inside;
}

/** Of the last compound the part that fewest elements have. */
function keyOf(tokens: readonly Selector[]): string {
  const last = tokens.slice(tokens.findLastIndex((t) => combinators.has(t.type)) + 1);
  const named = (name: string, action: string) =>
    last.find(
      (t) => t.type === 'attribute' && t.name === name && t.action === action && t.ignoreCase !== true,
    );
  const id = named('id', 'equals');
  if (id?.type === 'attribute') return `#${id.value}`;
  const own = named('class', 'element');
  if (own?.type === 'attribute') return `.${own.value}`;
  const tag = last.find((t) => t.type === 'tag');
  return tag?.type === 'tag' ? tag.name.toLowerCase() : '*';
}

const adapter = {
  isTag: (node: Node): node is Element => isElement(node),
  getAttributeValue: (el: Element, name: string) => el.attrs.find((a) => a.name === name)?.value,
  getChildren: childrenOf,
  getName: (el: Element) => el.tagName,
  getParent: (el: Element): Node | null => el.parentNode,
  getSiblings: (node: Node): Node[] =>
    'parentNode' in node && node.parentNode ? childrenOf(node.parentNode) : [node],
  getText: (node: Node): string =>
    isText(node) ? node.value : childrenOf(node).map(adapter.getText).join(''),
  hasAttrib: (el: Element, name: string) => el.attrs.some((a) => a.name === name),
  prevElementSibling: (node: Node): Element | null => {
    if (!('parentNode' in node) || !node.parentNode) return null;
    const all = elementsIn(node.parentNode);
    return all[all.indexOf(node as Element) - 1] ?? null;
  },
  removeSubsets: (nodes: Node[]) => [...new Set(nodes)],
};
