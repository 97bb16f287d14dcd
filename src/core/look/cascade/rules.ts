import { type CssNode, generate, parse } from 'css-tree';
import { mediaHolds, type Viewing } from './media';
import { type Compiled, compileSelector } from './select';
import { isShorthand, longhands } from './shorthands';

export interface Declared {
  readonly property: string;
  /** As written: variables in it are not known yet. */
  readonly value: string;
  readonly important: boolean;
}

/** A selector with what it sets, and where it stands in the cascade. */
export interface StyleRule {
  readonly selector: Compiled;
  readonly declared: readonly Declared[];
  /** Of which layer, counted in the order they were named; those in no layer come last (Cascade 5, 6.4.2). */
  readonly layer: number;
  readonly order: number;
}

/** All rules of a site's sheets that hold where it is looked at, and what was left out. */
export interface RuleSet {
  readonly rules: readonly StyleRule[];
  /** Conditions that cannot be judged without laying the page out. */
  readonly leftOut: ReadonlySet<string>;
}

/** Sheets longer than this, all together, are cut: pages that bring more are not hand-made. Chosen by hand. */
const LONGEST = 6_000_000;
const IN_NO_LAYER = Number.MAX_SAFE_INTEGER;

interface Reading {
  readonly at: Viewing;
  readonly rules: StyleRule[];
  readonly layers: Map<string, number>;
  readonly leftOut: Set<string>;
}

/** Reads style sheets in the order of the page. A sheet that cannot be parsed gives what could be read of it. */
export function readRules(sheets: readonly string[], at: Viewing): RuleSet {
  const reading: Reading = { at, rules: [], layers: new Map(), leftOut: new Set() };
  let left = LONGEST;
  for (const sheet of sheets) {
    const text = sheet.slice(0, left);
    left -= text.length;
    const tree = parse(text, { parseValue: false, parseCustomProperty: false, onParseError: () => {} });
    if (tree.type === 'StyleSheet') readList(tree.children.toArray(), reading, [], IN_NO_LAYER);
  }
  return { rules: reading.rules, leftOut: reading.leftOut };
}

/** @param around selectors of the rules that these are nested in. */
function readList(
  nodes: readonly CssNode[],
  reading: Reading,
  around: readonly string[],
  layer: number,
): void {
  for (const node of nodes) {
    if (node.type === 'Rule') readRule(node, reading, around, layer);
    else if (node.type === 'Atrule') readAtRule(node, reading, around, layer);
  }
}

function readRule(
  node: Extract<CssNode, { type: 'Rule' }>,
  reading: Reading,
  around: readonly string[],
  layer: number,
): void {
  if (node.prelude.type !== 'SelectorList') return;
  const written = node.prelude.children.toArray().map((s) => generate(s).trim());
  const selectors = around.length ? written.flatMap((s) => nested(s, around)) : written;
  const inside = node.block.children.toArray().flatMap(reread);
  addRules(inside, selectors, reading, layer);
  const within = inside.filter((n) => n.type === 'Rule' || n.type === 'Atrule');
  if (within.length) readList(within, reading, selectors, layer);
}

/** Rules nested without `&` come as raw text: they are read as a sheet of their own. */
function reread(node: CssNode): CssNode[] {
  if (node.type !== 'Raw' || !node.value.includes('{')) return [node];
  const tree = parse(node.value, { parseValue: false, parseCustomProperty: false, onParseError: () => {} });
  return tree.type === 'StyleSheet' ? tree.children.toArray() : [];
}

/** A nested selector with what it is nested in (CSS Nesting 1): for `&` the outer one, else a descendant of it. */
function nested(selector: string, around: readonly string[]): string[] {
  const outer = around.length === 1 ? (around[0] ?? '') : `:is(${around.join(',')})`;
  if (selector.includes('&')) return [selector.replaceAll('&', outer)];
  return [/^[>+~]/.test(selector) ? `${outer}${selector}` : `${outer} ${selector}`];
}

function addRules(
  block: readonly CssNode[],
  selectors: readonly string[],
  reading: Reading,
  layer: number,
): void {
  const declared = block.flatMap((d) => (d.type === 'Declaration' ? declarationsIn(d) : []));
  if (declared.length === 0) return;
  for (const text of selectors) {
    const selector = compileSelector(text);
    if (selector) reading.rules.push({ selector, declared, layer, order: reading.rules.length });
  }
}

function declarationsIn(node: Extract<CssNode, { type: 'Declaration' }>): Declared[] {
  const own = node.property.startsWith('--');
  const property = own ? node.property : node.property.toLowerCase();
  const value = generate(node.value).trim();
  const important = Boolean(node.important);
  if (own || !isShorthand(property) || value.includes('var(')) return [{ property, value, important }];
  return longhands(property, value).map(([name, v]) => ({ property: name, value: v, important }));
}

function readAtRule(
  node: Extract<CssNode, { type: 'Atrule' }>,
  reading: Reading,
  around: readonly string[],
  layer: number,
): void {
  const name = node.name.toLowerCase();
  const prelude = node.prelude ? generate(node.prelude).trim() : '';
  if (name === 'layer') readLayer(node, prelude, reading, around);
  if (!node.block || name === 'layer') return;
  const inside = node.block.children.toArray();
  if (name === 'media' && !mediaHolds(node.prelude, reading.at)) return;
  if (name === 'container') return void reading.leftOut.add(`@container ${prelude}`);
  // What a browser of today supports is nearly all that sites ask for.
  if (name === 'supports' && /^\s*not\b/i.test(prelude)) return;
  if (!['media', 'supports', 'scope', 'starting-style', 'document'].includes(name)) return;
  if (name === 'starting-style') return;
  if (around.length) addRules(inside, around, reading, layer);
  readList(inside, reading, around, layer);
}

function readLayer(
  node: Extract<CssNode, { type: 'Atrule' }>,
  prelude: string,
  reading: Reading,
  around: readonly string[],
): void {
  const names = prelude ? prelude.split(',').map((n) => n.trim()) : [`of its own ${reading.layers.size}`];
  for (const n of names) if (!reading.layers.has(n)) reading.layers.set(n, reading.layers.size);
  if (node.block)
    readList(node.block.children.toArray(), reading, around, reading.layers.get(names[0] ?? '') ?? 0);
}
