import { type CssNode, generate, parse, walk } from 'css-tree';
import { isPartName } from './parts';

/** What is wrong with the owner's own CSS, and where; lines and columns count from 1. */
export interface CssFault {
  readonly line: number;
  readonly column: number;
  readonly what: string;
}

export interface OwnCss {
  /** For the shadow roots of widgets, and for pages where all of ours stands below `.stall`. */
  readonly inWidgets: string;
  readonly onPages: string;
  readonly faults: readonly CssFault[];
}

/** Longest that is read, in characters. */
export const LONGEST_CSS = 20_000;

/** Rules that group others. What brings something in from elsewhere, or speaks of the whole page, is none of them. */
const GROUPS = new Set(['media', 'container', 'supports']);

/**
 * The owner's own CSS as the shop wears it: rules for `::part(NAME)`, on wish of one widget (`stall-cart::part(link)`). It reaches nothing
 * outside the shop, and fetches nothing. What has a fault is left out, the rest is worn.
 */
export function readOwnCss(text: string): OwnCss {
  const faults: CssFault[] = [];
  const fault = (node: CssNode | undefined, what: string) => {
    const at = node?.loc?.start;
    faults.push({ line: at?.line ?? 1, column: at?.column ?? 1, what });
  };
  if (text.length > LONGEST_CSS) {
    fault(undefined, `At most ${LONGEST_CSS} characters are worn: what stands beyond is left out.`);
  }
  const tree = parse(text.slice(0, LONGEST_CSS), {
    positions: true,
    onParseError: (e) => {
      // The types of css-tree do not tell of them.
      const { line = 1, column = 1, message } = e as Error & { line?: number; column?: number };
      faults.push({ line, column, what: `Not understood: ${message}.` });
    },
  });
  const rules = tree.type === 'StyleSheet' ? tree.children.toArray().flatMap((n) => written(n, fault)) : [];
  const all = (place: Place): string => unended(rules.map((r) => r(place)).join('\n'));
  return {
    inWidgets: all('widgets'),
    onPages: rules.length ? `.stall{${all('pages')}}` : '',
    faults: faults.sort((a, b) => a.line - b.line || a.column - b.column).slice(0, 50),
  };
}

/** In a string of CSS "<\/" is "</", and no parser of HTML takes it for the end of a style. */
const unended = (css: string): string => css.replaceAll('</', '<\\/');

type Place = 'widgets' | 'pages';
type Written = (place: Place) => string;
type Tell = (node: CssNode | undefined, what: string) => void;

function written(node: CssNode, fault: Tell): Written[] {
  if (node.type === 'Rule') return ruleOf(node, fault);
  if (node.type === 'Comment') return [];
  if (node.type !== 'Atrule') return [];
  const name = node.name.toLowerCase();
  if (!GROUPS.has(name) || !node.block) {
    fault(node, `@${name} does not belong here: rules for parts, in @media, @container or @supports, do.`);
    return [];
  }
  const inside = node.block.children.toArray().flatMap((n) => written(n, fault));
  const prelude = node.prelude ? generate(node.prelude) : '';
  return inside.length ? [(place) => `@${name} ${prelude}{${inside.map((r) => r(place)).join('')}}`] : [];
}

function ruleOf(node: Extract<CssNode, { type: 'Rule' }>, fault: Tell): Written[] {
  const selectors =
    node.prelude.type === 'SelectorList'
      ? node.prelude.children.toArray().map((s) => ({ s, to: selectorOf(generate(s)) }))
      : [];
  for (const { s, to } of selectors) if ('what' in to) fault(s, to.what);
  const good = selectors.flatMap(({ to }) => ('what' in to ? [] : [to]));
  const declared = node.block.children.toArray().flatMap((d) => declarationOf(d, fault));
  if (selectors.length === 0) fault(node, 'A rule begins with the part it is for, like ::part(button).');
  if (good.length === 0 || declared.length === 0) return [];
  return [(place) => `${good.map((g) => g[place]).join(',')}{${declared.join(';')}}`];
}

const STATES =
  ':hover|:focus|:focus-visible|:focus-within|:active|:disabled|:first-child|:last-child|:not\\(:hover\\)|::before|::after';
/** stall-cart::part(link):hover, and parts in one another: ::part(card) ::part(button). */
const COMPOUND = new RegExp(
  `^(?:(stall-[a-z]+))?::part\\(\\s*([a-z-]+(?:\\s+[a-z-]+)*)\\s*\\)((?:${STATES})*)$`,
);

type Selector = Readonly<Record<Place, string>>;

/** A selector as it is written inside the shop, or what is wrong with it. */
function selectorOf(text: string): Selector | { readonly what: string } {
  const compounds = text.split(/\s*>\s*|\s+(?=stall-|::part)/).map((c) => c.trim());
  const inside: string[] = [];
  let host = '';
  for (const [n, compound] of compounds.entries()) {
    const found = COMPOUND.exec(compound);
    if (!found)
      return {
        what: `"${text}" is no part of the shop. Write it like ::part(button) or stall-cart::part(link):hover.`,
      };
    const [, element = '', names = '', state = ''] = found;
    const unknown = names.split(/\s+/).find((name) => !isPartName(name));
    if (unknown) return { what: `There is no part "${unknown}". The list of parts names them all.` };
    if (n === 0 && element) host = element;
    else if (element) return { what: 'A widget can be named at the beginning alone.' };
    inside.push(
      `${names
        .split(/\s+/)
        .map((name) => `:is(.stall-${name},[part~=${name}])`)
        .join('')}${state}`,
    );
  }
  const own = inside.join(' ');
  return { widgets: host ? `:host(${host}) ${own}` : own, pages: own };
}

function declarationOf(node: CssNode, fault: Tell): string[] {
  if (node.type !== 'Declaration') {
    if (node.type === 'Rule' || node.type === 'Atrule')
      fault(node, 'Rules do not stand in one another here.');
    return [];
  }
  const property = node.property.toLowerCase();
  const value = generate(node.value);
  const why = whyNot(property, value, node.value);
  if (why) fault(node, why);
  return why ? [] : [`${property}:${value}${node.important ? '!important' : ''}`];
}

/** What would reach outside the shop, or bring something in. */
function whyNot(property: string, value: string, node: CssNode): string | undefined {
  if (property.startsWith('--stall-')) return `${property} is what Look sets. Change it there.`;
  if (/^(behavior|-moz-binding|src)$/.test(property)) return `${property} does not belong here.`;
  if (property === 'position' && /fixed|sticky/i.test(value))
    return 'A part may not leave its place in the page.';
  if (/expression\s*\(|javascript:/i.test(value)) return 'This is no value.';
  let address = '';
  walk(node, (n) => {
    if (n.type === 'Url' && !/^data:image\/(png|jpeg|webp|gif|avif);/i.test(n.value)) address = n.value;
    if (n.type === 'Function' && /^(image-set|-webkit-image-set|src)$/i.test(n.name)) address = n.name;
  });
  return address ? `Nothing is fetched from elsewhere: ${address.slice(0, 60)}` : undefined;
}
