import { generate, parse } from 'css-tree';
import { attr, type Element } from '../../html/tree';
import { parentOf } from './roles';
import { lengthInPx } from './lengths';
import type { Viewing } from './media';
import type { Declared, RuleSet, StyleRule } from './rules';
import type { ControlState } from './select';
import { isShorthand, longhands } from './shorthands';
import { usualStyle } from './usual-style';

/** Values of the properties that a look is made of, by name; font sizes are in px, colours and lengths as written. */
export interface ComputedStyle {
  readonly get: (property: string) => string;
  /** Font size in px. */
  readonly size: number;
  readonly own: ReadonlyMap<string, string>;
  readonly variables: ReadonlyMap<string, string>;
}

const inherited = new Set([
  ...['color', 'font-family', 'font-size', 'font-style', 'font-weight', 'line-height', 'letter-spacing'],
  ...['text-transform', 'visibility', 'text-align', 'color-scheme'],
]);
const initial: Readonly<Record<string, string>> = {
  color: '#000000',
  'font-family': 'serif',
  'font-size': '16px',
  'font-style': 'normal',
  'font-weight': '400',
  'line-height': 'normal',
  'letter-spacing': 'normal',
  'text-transform': 'none',
  visibility: 'visible',
  display: 'inline',
  'background-color': 'transparent',
  'background-image': 'none',
  'text-decoration-line': 'none',
  'box-shadow': 'none',
  opacity: '1',
  'border-top-left-radius': '0px',
  'max-width': 'none',
  width: 'auto',
  height: 'auto',
  'min-height': 'auto',
  position: 'static',
  'color-scheme': 'normal',
};

/** What a property comes to: its own value, its parent's, the browser's, or the initial one (Cascading 5, 7). */
function comesTo(
  property: string,
  el: Element,
  value: string | undefined,
  parent: ComputedStyle | undefined,
): string {
  const first = initial[property] ?? '';
  const handedDown = parent?.get(property) ?? first;
  const unset = inherited.has(property) ? handedDown : first;
  if (value === undefined || value === 'unset') return unset;
  if (value === 'inherit') return handedDown;
  if (value === 'initial') return first;
  return value.startsWith('revert') ? (usualStyle(el)[property] ?? unset) : value;
}

type Winner = Declared & { readonly rank: readonly [number, number, number, number] };

/** The cascade of one page: which declaration wins for each element, and what it comes to (CSS Cascading 5; Variables 1). */
export class Cascade {
  readonly #buckets = new Map<string, StyleRule[]>();
  readonly #known = new Map<ControlState | '', WeakMap<Element, ComputedStyle>>();

  constructor(
    { rules }: RuleSet,
    private readonly at: Viewing,
  ) {
    for (const rule of rules) {
      const bucket = this.#buckets.get(rule.selector.key);
      if (bucket) bucket.push(rule);
      else this.#buckets.set(rule.selector.key, [rule]);
    }
  }

  /** Classes that rules are written for. */
  get classes(): string[] {
    return [...this.#buckets.keys()].flatMap((key) => (key.startsWith('.') ? [key.slice(1)] : []));
  }

  /** The style of an element, at rest or in a state of its own. */
  styleOf(el: Element, state?: ControlState): ComputedStyle {
    const known = this.#known.get(state ?? '') ?? new WeakMap<Element, ComputedStyle>();
    this.#known.set(state ?? '', known);
    const found = known.get(el);
    if (found) return found;
    const chain: Element[] = [];
    for (let up: Element | undefined = el; up && !this.#atRest(up, state, el); up = parentOf(up))
      chain.unshift(up);
    // From the outermost inwards: pages nest deeper than a call stack.
    for (const one of chain) this.#keep(one, one === el ? state : undefined);
    return this.#atRest(el, state, el) ?? this.#keep(el, state);
  }

  #atRest(el: Element, state: ControlState | undefined, asked: Element): ComputedStyle | undefined {
    return this.#known.get(el === asked ? (state ?? '') : '')?.get(el);
  }

  #keep(el: Element, state: ControlState | undefined): ComputedStyle {
    const up = parentOf(el);
    const parent = up && this.#known.get('')?.get(up);
    const made = this.#compute(el, parent, state);
    const known = this.#known.get(state ?? '') ?? new WeakMap<Element, ComputedStyle>();
    this.#known.set(state ?? '', known);
    known.set(el, made);
    return made;
  }

  #compute(el: Element, parent: ComputedStyle | undefined, state: ControlState | undefined): ComputedStyle {
    const won = this.#winners(el, state);
    const variables = variablesOf(won, parent?.variables);
    const own = new Map<string, string>(Object.entries(usualStyle(el)));
    for (const d of inOrder(won)) setResolved(own, d, variables);
    const size = fontSize(own.get('font-size'), parent?.size ?? 16, this.rootSize(el, parent), this.at);
    const get = (property: string): string => comesTo(property, el, own.get(property), parent);
    return { get, size, own, variables };
  }

  #root = 16;
  /** What a rem is: the root element's font size. */
  get rem(): number {
    return this.#root;
  }

  private rootSize(el: Element, parent: ComputedStyle | undefined): number {
    if (parent || el.tagName !== 'html') return this.#root;
    const size = this.#winners(el, undefined).get('font-size')?.value;
    this.#root = size ? fontSize(size, 16, 16, this.at) : 16;
    return this.#root;
  }

  /** Of each property the declaration that wins (Cascading 5, 6.1): importance, style attribute, layer, specificity, order. */
  #winners(el: Element, state: ControlState | undefined): Map<string, Winner> {
    const won = new Map<string, Winner>();
    const applying = [...this.#candidates(el)].filter(
      ({ selector }) => appliesIn(selector.state, state) && selector.matches(el),
    );
    for (const { selector, declared, layer, order } of applying)
      for (const d of declared)
        offer(won, d, [d.important ? 2 : 0, d.important ? -layer : layer, selector.specificity, order]);
    for (const d of inlineStyle(attr(el, 'style'))) offer(won, d, [d.important ? 3 : 1, 0, 0, 0]);
    return won;
  }

  *#candidates(el: Element): Generator<StyleRule> {
    const keys = ['*', el.tagName.toLowerCase()];
    const id = attr(el, 'id');
    if (id) keys.push(`#${id}`);
    for (const name of new Set((attr(el, 'class') ?? '').split(/\s+/))) if (name) keys.push(`.${name}`);
    for (const key of keys) yield* this.#buckets.get(key) ?? [];
  }
}

/** A declaration takes the place of one that stands lower. */
function offer(won: Map<string, Winner>, d: Declared, rank: Winner['rank']): void {
  for (const one of isShorthand(d.property) && !d.value.includes('var(') ? expand(d) : [d]) {
    const best = won.get(one.property);
    if (!best || compare(rank, best.rank) >= 0) won.set(one.property, { ...one, rank });
  }
}

/** What holds at rest holds always; whoever presses something has the pointer over it. */
const appliesIn = (rule: ControlState | undefined, state: ControlState | undefined): boolean =>
  rule === undefined || rule === state || (rule === 'hover' && state === 'active');

const compare = (a: Winner['rank'], b: Winner['rank']): number => {
  for (const [n, value] of a.entries()) if (value !== b[n]) return value - (b[n] ?? 0);
  return 0;
};

/** Later ones last, so that a shorthand with a variable in it and its longhands come in their order. */
const inOrder = (won: ReadonlyMap<string, Winner>): Winner[] =>
  [...won.values()].sort((a, b) => compare(a.rank, b.rank));

const expand = (d: Declared): Declared[] =>
  longhands(d.property, d.value).map(([property, value]) => ({ ...d, property, value }));

const inline = new Map<string, Declared[]>();
const INLINE_KEPT = 2000;

function inlineStyle(text: string | undefined): Declared[] {
  if (!text) return [];
  const known = inline.get(text);
  if (known) return known;
  const tree = parse(text, {
    context: 'declarationList',
    parseValue: false,
    parseCustomProperty: false,
    onParseError: () => {},
  });
  const found: Declared[] = [];
  if (tree.type === 'DeclarationList')
    tree.children.forEach((d) => {
      if (d.type !== 'Declaration') return;
      const property = d.property.startsWith('--') ? d.property : d.property.toLowerCase();
      found.push({ property, value: generate(d.value).trim(), important: Boolean(d.important) });
    });
  if (inline.size > INLINE_KEPT) inline.clear();
  inline.set(text, found);
  return found;
}

function variablesOf(
  won: ReadonlyMap<string, Winner>,
  above: ReadonlyMap<string, string> | undefined,
): ReadonlyMap<string, string> {
  const own = [...won.values()].filter((d) => d.property.startsWith('--'));
  if (own.length === 0) return above ?? new Map();
  const all = new Map(above);
  for (const d of own) all.set(d.property, d.value);
  return all;
}

function setResolved(own: Map<string, string>, d: Declared, variables: ReadonlyMap<string, string>): void {
  if (d.property.startsWith('--')) return;
  const value = resolveVariables(d.value, variables);
  // A variable that is not there makes the declaration as good as `unset` (Variables 1, 3.1).
  if (value === undefined) return void own.set(d.property, 'unset');
  for (const [property, v] of longhands(d.property, value)) own.set(property, normal(v));
}

const normal = (value: string): string =>
  /^(inherit|initial|unset|revert|revert-layer)$/i.test(value) ? value.toLowerCase() : value;

/** Longest text that a value may grow to, and how deep variables may lead: a style sheet is a stranger's. */
const LONGEST = 4000;
const DEEPEST = 12;

/** A value with its variables put in; undefined where one is missing, or leads in a circle. */
export function resolveVariables(
  value: string,
  variables: ReadonlyMap<string, string>,
  depth = 0,
): string | undefined {
  const at = value.indexOf('var(');
  if (at === -1) return value;
  if (depth > DEEPEST || value.length > LONGEST) return undefined;
  const end = closing(value, at + 3);
  const inside = value.slice(at + 4, end);
  const comma = inside.indexOf(',');
  const name = (comma === -1 ? inside : inside.slice(0, comma)).trim();
  const known = variables.get(name);
  const put =
    known === undefined || known === 'initial' ? undefined : resolveVariables(known, variables, depth + 1);
  const other =
    comma === -1 ? undefined : resolveVariables(inside.slice(comma + 1).trim(), variables, depth + 1);
  const found = put ?? other;
  if (found === undefined) return undefined;
  return resolveVariables(`${value.slice(0, at)}${found}${value.slice(end + 1)}`, variables, depth + 1);
}

function closing(text: string, open: number): number {
  let depth = 0;
  for (let n = open; n < text.length; n++) {
    if (text[n] === '(') depth++;
    else if (text[n] === ')' && --depth === 0) return n;
  }
  return text.length;
}

/** CSS Fonts 4, 2.5: keywords by the scale that browsers have for 16 px. */
const keywords: Readonly<Record<string, number>> = {
  'xx-small': 9,
  'x-small': 10,
  small: 13,
  medium: 16,
  large: 18,
  'x-large': 24,
  'xx-large': 32,
  'xxx-large': 48,
};

function fontSize(value: string | undefined, parent: number, rem: number, at: Viewing): number {
  if (!value || value === 'inherit' || value === 'unset') return parent;
  const word = value.toLowerCase();
  const named = keywords[word];
  if (named !== undefined) return named;
  if (word === 'smaller') return parent / 1.2;
  if (word === 'larger') return parent * 1.2;
  return lengthInPx(value, { em: parent, rem, whole: parent, viewport: at }) ?? parent;
}
