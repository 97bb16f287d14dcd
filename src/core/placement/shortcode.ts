import { entryAt } from '../entries';
/**
 * Shortcodes: a placement written as text, for editors that let nothing else through.
 *
 *   shortcode  = "[" ws* "stall" ws+ kind (ws+ setting)* ws* "]"
 *   kind       = letter (letter | digit | "-")*
 *   setting    = name (ws* "=" ws* value)?          ; a bare name means yes
 *   name       = letter (letter | digit | "-")*
 *   value      = quote any* quote | word            ; no "]" in a word
 *   quote      = " ' “ ” „ ‟ ‘ ’ ‚ ‛ « » ″ ′        ; any of them ends what any of them began, if of the same kind
 *   ws         = space | tab | line end | no-break space
 *
 * Kinds of quote are double (" “ ” „ ‟ « » ″) and single (' ‘ ’ ‚ ‛ ′): editors turn the ones that were typed into the
 * ones they like. A shortcode never spans more than {@link LONGEST} characters. Anything else in brackets is left alone.
 */
export interface Shortcode {
  readonly kind: string;
  readonly attributes: ReadonlyMap<string, string>;
  /** Place in the text that was given. */
  readonly from: number;
  readonly to: number;
}

const LONGEST = 1000;
const doubles = '"\u201c\u201d\u201e\u201f\u00ab\u00bb\u2033';
const singles = "'\u2018\u2019\u201a\u201b\u2032";
const name = /[a-z][a-z0-9-]*/iy;
const space = /[\s\u00a0]+/y;
const start = /\[[\s\u00a0]*stall[\s\u00a0]+/gi;

export function writeShortcode(kind: string, settings: readonly (readonly [string, string])[]): string {
  const parts = settings.map(([key, value]) => (value === 'yes' ? key : `${key}=${quoted(value)}`));
  return `[${['stall', kind, ...parts].join(' ')}]`;
}

/** A value that holds both kinds of quote loses its double ones: a shortcode has no escapes, because editors would eat them. */
function quoted(value: string): string {
  const without = value.replace(/["\u201c\u201d\u201e\u201f\u00ab\u00bb\u2033]/g, '');
  if (without === value) return `"${value}"`;
  return /['\u2018\u2019\u201a\u201b\u2032]/.test(value) ? `"${without}"` : `'${value}'`;
}

/** Every shortcode in a text as people read it (character references resolved). */
export function readShortcodes(text: string): Shortcode[] {
  const found: Shortcode[] = [];
  start.lastIndex = 0;
  for (let m = start.exec(text); m; m = start.exec(text)) {
    const code = readOne(text, m.index, start.lastIndex);
    if (!code) continue;
    found.push(code);
    start.lastIndex = code.to;
  }
  return found;
}

function readOne(text: string, from: number, after: number): Shortcode | undefined {
  const end = Math.min(text.length, from + LONGEST);
  let at = after;
  const take = (pattern: RegExp): string | undefined => {
    pattern.lastIndex = at;
    const hit = pattern.exec(text)?.[0];
    if (hit !== undefined) at += hit.length;
    return hit;
  };
  const kind = take(name)?.toLowerCase();
  if (!kind) return undefined;
  const attributes = new Map<string, string>();
  while (at < end) {
    const gap = take(space);
    if (text[at] === ']') return { kind, attributes, from, to: at + 1 };
    const key = gap && take(name)?.toLowerCase();
    if (!key) return undefined;
    const before = at;
    take(space);
    if (text[at] !== '=') {
      at = before;
      attributes.set(key, 'yes');
      continue;
    }
    at++;
    take(space);
    const value = readValue(text, at, end);
    if (!value) return undefined;
    attributes.set(key, value.text);
    at = value.to;
  }
  return undefined;
}

function readValue(text: string, at: number, end: number): { text: string; to: number } | undefined {
  const open = text[at] ?? '';
  const family = [doubles, singles].find((quotes) => quotes.includes(open));
  if (!family || !open) {
    const word = /^[^\s\u00a0\]"'[]+/.exec(text.slice(at, end))?.[0];
    return word ? { text: word, to: at + word.length } : undefined;
  }
  // An apostrophe inside a word ends nothing: 'it’s' was quoted by ' and holds a curly one.
  for (let i = at + 1; i < end; i++) {
    if (family.includes(entryAt(text, i)) && /[\s\u00a0\]]/.test(text[i + 1] ?? ']'))
      return { text: text.slice(at + 1, i), to: i + 1 };
  }
  return undefined;
}
