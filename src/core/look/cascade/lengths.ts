/** What relative lengths are relative to, in CSS pixels. */
export interface Against {
  /** The element's own font size; the parent's where a font size is read. */
  readonly em: number;
  readonly rem: number;
  /** What a percentage is of; without, a percentage is not known. */
  readonly whole?: number;
  readonly viewport?: { readonly width: number; readonly height: number };
}

/** CSS Values 4, 6: absolute units at 96 px to the inch. */
const absolute: Readonly<Record<string, number>> = {
  px: 1,
  in: 96,
  cm: 96 / 2.54,
  mm: 9.6 / 2.54,
  q: 2.4 / 2.54,
  pt: 96 / 72,
  pc: 16,
};

/** A CSS length as pixels; calc(), min(), max() and clamp() too. Undefined for what is no length, or hangs on what is not known. */
export function lengthInPx(text: string, against: Against): number | undefined {
  const value = text.trim().toLowerCase();
  if (/^[+-]?0(\.0*)?$/.test(value)) return 0;
  const plain = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z]+|%)$/.exec(value);
  if (plain) return unitInPx(Number(plain[1]), plain[2] ?? '', against);
  return /^(-webkit-)?(calc|min|max|clamp)\(/.test(value) ? sumOf(value, against) : undefined;
}

function unitInPx(n: number, unit: string, against: Against): number | undefined {
  const { em, rem, whole, viewport } = against;
  const fixed = absolute[unit];
  if (fixed !== undefined) return n * fixed;
  if (unit === 'em') return n * em;
  if (unit === 'rem') return n * rem;
  // Half an em is the usual guess where the face is not known (CSS Values 4, 6.1.1).
  if (unit === 'ex' || unit === 'ch') return (n * em) / 2;
  if (unit === '%') return whole === undefined ? undefined : (n * whole) / 100;
  if (!viewport) return undefined;
  const [, side] = /^[sld]?v(w|h|i|b|min|max)$/.exec(unit) ?? [];
  if (side === undefined) return undefined;
  const { width, height } = viewport;
  const of: Readonly<Record<string, number>> = {
    w: width,
    i: width,
    h: height,
    b: height,
    min: Math.min(width, height),
    max: Math.max(width, height),
  };
  return (n * (of[side] ?? 0)) / 100;
}

/** Nothing deeper than this is reckoned: a style sheet is a stranger's. */
const DEEPEST = 20;

/** A sum of the calc() family. Grammar of CSS Values 4, 10: sums of products of lengths, numbers and functions. */
function sumOf(text: string, against: Against): number | undefined {
  const tokens =
    text.match(/[a-z-]+\(|[()*/,]|[+-](?=\s)|[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?(?:[a-z]+|%)?/g) ?? [];
  if (tokens.join('').replace(/\s/g, '') !== text.replace(/\s/g, '')) return undefined;
  let at = 0;
  let isKnown = true;
  const unknown = (): number => {
    isKnown = false;
    return 0;
  };
  const value = (depth: number): number => {
    const token = tokens[at++] ?? '';
    if (depth > DEEPEST) return unknown();
    if (token === '(' || token.endsWith('(')) return call(token.slice(0, -1), depth + 1);
    if (/^[+-]?[\d.]+(e[+-]?\d+)?$/.test(token)) return Number(token);
    return lengthInPx(token, against) ?? unknown();
  };
  const product = (depth: number): number => {
    let n = value(depth);
    while (tokens[at] === '*' || tokens[at] === '/')
      n = tokens[at++] === '*' ? n * value(depth) : n / value(depth);
    return n;
  };
  const sum = (depth: number): number => {
    let n = product(depth);
    while (tokens[at] === '+' || tokens[at] === '-')
      n = tokens[at++] === '+' ? n + product(depth) : n - product(depth);
    return n;
  };
  const call = (name: string, depth: number): number => {
    const given = [sum(depth)];
    while (tokens[at] === ',') {
      at++;
      given.push(sum(depth));
    }
    if (tokens[at++] !== ')') return unknown();
    const [first = 0, second = first, third = second] = given;
    if (name === 'min') return Math.min(...given);
    if (name === 'max') return Math.max(...given);
    return name === 'clamp' ? Math.max(first, Math.min(second, third)) : first;
  };
  const result = value(0);
  return isKnown && at === tokens.length && Number.isFinite(result) ? result : undefined;
}
