import { type CssNode, generate } from 'css-tree';
import { lengthInPx } from './lengths';

/** Where a page is looked at. Widths are CSS pixels. */
export interface Viewing {
  readonly width: number;
  readonly height: number;
  readonly scheme: 'light' | 'dark';
}

/**
 * Whether a media query list holds (Media Queries 4). What is not known of (a feature of a device) does not hold; `not` turns
 * that round only for what is known.
 */
export function mediaHolds(prelude: CssNode | null, at: Viewing): boolean {
  if (!prelude) return true;
  if (prelude.type === 'AtrulePrelude' || prelude.type === 'MediaQueryList') {
    const parts = prelude.children.toArray();
    const lists = parts.filter((p) => p.type === 'MediaQueryList');
    if (lists.length) return lists.every((list) => mediaHolds(list, at));
    return parts.length === 0 || parts.some((query) => queryHolds(query, at));
  }
  return queryHolds(prelude, at);
}

function queryHolds(node: CssNode, at: Viewing): boolean {
  // What css-tree could not read comes as raw text: no browser at hand would know it either.
  if (node.type !== 'MediaQuery') return false;
  const query = node as CssNode & {
    modifier: string | null;
    mediaType: string | null;
    condition: CssNode | null;
  };
  const type = query.mediaType?.toLowerCase() ?? 'all';
  const holds =
    (type === 'all' || type === 'screen') && (!query.condition || conditionHolds(query.condition, at));
  return query.modifier?.toLowerCase() === 'not' ? !holds : holds;
}

function conditionHolds(node: CssNode, at: Viewing): boolean {
  if (node.type !== 'Condition') return featureHolds(node, at);
  const parts = (node as CssNode & { children: { toArray(): CssNode[] } }).children.toArray();
  let holds: boolean | undefined;
  let joined = 'and';
  let negated = false;
  for (const part of parts) {
    if (part.type === 'Identifier') {
      const word = part.name.toLowerCase();
      if (word === 'not') negated = true;
      else joined = word;
      continue;
    }
    const own = conditionHolds(part, at) !== negated;
    negated = false;
    if (holds === undefined) holds = own;
    else holds = joined === 'or' ? holds || own : holds && own;
  }
  return holds ?? true;
}

interface Feature {
  readonly type: 'Feature';
  readonly name: string;
  readonly value: CssNode | null;
}
interface Range {
  readonly type: 'FeatureRange';
  readonly left: CssNode;
  readonly leftComparison: string;
  readonly middle: CssNode;
  readonly rightComparison: string | null;
  readonly right: CssNode | null;
}

function featureHolds(node: CssNode, at: Viewing): boolean {
  // The types of css-tree lag behind its parser.
  const it = node as unknown as Feature | Range;
  if (it.type === 'FeatureRange') return rangeHolds(it, at);
  if (it.type !== 'Feature') return false;
  const name = it.name.toLowerCase();
  const value = it.value ? generate(it.value).trim().toLowerCase() : undefined;
  const [, bound, plain = name] = /^(min|max)-(.+)$/.exec(name) ?? [];
  const measured = measures(at)[plain];
  if (measured !== undefined) {
    if (value === undefined) return measured > 0;
    const wanted = plain === 'aspect-ratio' ? ratioIn(value) : lengthInPx(value, { em: 16, rem: 16 });
    if (wanted === undefined) return false;
    if (bound === 'min') return measured >= wanted;
    return bound === 'max' ? measured <= wanted : measured === wanted;
  }
  return keywordHolds(name, value, at);
}

/** What a person with a mouse, who asked for nothing special, has. */
function keywordHolds(name: string, value: string | undefined, at: Viewing): boolean {
  const known: Readonly<Record<string, string>> = {
    'prefers-color-scheme': at.scheme,
    orientation: at.width > at.height ? 'landscape' : 'portrait',
    'prefers-reduced-motion': 'no-preference',
    'prefers-contrast': 'no-preference',
    'forced-colors': 'none',
    hover: 'hover',
    'any-hover': 'hover',
    pointer: 'fine',
    'any-pointer': 'fine',
    scripting: 'enabled',
    update: 'fast',
    'display-mode': 'browser',
    'color-gamut': 'srgb',
  };
  const is = known[name];
  if (is === undefined) return name === 'color';
  return value === undefined ? !['none', 'no-preference'].includes(is) : is === value;
}

const measures = (at: Viewing): Readonly<Record<string, number | undefined>> => ({
  width: at.width,
  height: at.height,
  'device-width': at.width,
  'device-height': at.height,
  'aspect-ratio': at.width / at.height,
});

const ratioIn = (value: string): number | undefined => {
  const [, a, b = '1'] = /^(\d+(?:\.\d+)?)(?:\s*\/\s*(\d+(?:\.\d+)?))?$/.exec(value) ?? [];
  return a === undefined ? undefined : Number(a) / Number(b);
};

const comparisons: Readonly<Record<string, (a: number, b: number) => boolean>> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
};

/** (400px <= width < 900px): each side is a length or the name of what is measured. */
function rangeHolds(range: Range, at: Viewing): boolean {
  const value = (node: CssNode): number | undefined => {
    const text = generate(node).trim().toLowerCase();
    return measures(at)[text] ?? lengthInPx(text, { em: 16, rem: 16 }) ?? ratioIn(text);
  };
  const compare = (left: CssNode, sign: string, right: CssNode): boolean => {
    const [a, b] = [value(left), value(right)];
    return a !== undefined && b !== undefined && (comparisons[sign]?.(a, b) ?? false);
  };
  return (
    compare(range.left, range.leftComparison, range.middle) &&
    (!range.right || !range.rightComparison || compare(range.middle, range.rightComparison, range.right))
  );
}
