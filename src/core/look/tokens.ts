import { contrast, faintest, mix, readable } from './colour';
import type { SourceName, Sources } from './found/sources';
import { needs } from './remedy';

/** What a token holds. Lengths are px of the site at the browser's usual size, factors plain numbers, all as text. */
export type TokenKind =
  | 'colour'
  | 'face'
  | 'corner'
  | 'length'
  | 'factor'
  | 'weight'
  | 'case'
  | 'line'
  | 'shadow';

export const groups = [
  'surfaces',
  'words',
  'lines',
  'button',
  'second',
  'badge',
  'letters',
  'shape',
] as const;
export type TokenGroup = (typeof groups)[number];

/** What tokens before this one came to. */
export type Earlier = (name: string) => string;

interface Token {
  readonly group: TokenGroup;
  readonly kind: TokenKind;
  /** What it is tied to as long as the owner says nothing: the first that the site has. */
  readonly takes: readonly SourceName[];
  /** What it is where the site has none of them. Only tokens that stand before it are asked. */
  readonly make: (of: Earlier, site: Sources) => string;
}

const token = (
  group: TokenGroup,
  kind: TokenKind,
  takes: readonly SourceName[],
  make: string | ((of: Earlier, site: Sources) => string),
): Token => ({ group, kind, takes, make: typeof make === 'string' ? () => make : make });

/** Towards white on light grounds, towards black on dark ones. */
const away = (ground: string): string => (contrast(ground, '#ffffff') < 8 ? '#ffffff' : '#000000');

/**
 * The shop's design tokens, in the order in which they are worked out. Each is a custom property `--stall-NAME` of the widgets. A new one
 * is a line here; its words for the owner stand in the office's catalogue.
 */
export const tokens = {
  ground: token('surfaces', 'colour', ['ground'], '#ffffff'),
  ink: token('words', 'colour', ['text'], (of) => readable(of('ground'), needs.text, '#1a1a1a')),
  surface: token('surfaces', 'colour', ['card'], (of) => mix(of('ground'), away(of('ground')), 0.5)),
  field: token('surfaces', 'colour', ['field'], (of) => mix(of('ground'), away(of('ground')), 0.75)),
  'field-ink': token('words', 'colour', ['field-text'], (of) => of('ink')),
  accent: token('button', 'colour', ['button', 'link', 'text'], (of) => of('ink')),
  'accent-ink': token('button', 'colour', ['button-text'], (of) =>
    readable(of('accent'), needs.text, of('ground')),
  ),
  'button-line': token('button', 'colour', ['button-edge'], (of) => of('accent')),
  over: token('button', 'colour', ['button-over'], (of) => mix(of('accent'), '#000000', 0.13)),
  'over-ink': token('button', 'colour', ['button-over-text', 'button-text'], (of) => of('accent-ink')),
  pressed: token('button', 'colour', ['button-pressed'], (of) => of('over')),
  'pressed-ink': token('button', 'colour', ['button-pressed-text'], (of) => of('over-ink')),
  link: token('words', 'colour', ['link'], (of) =>
    readable(of('ground'), needs.text, of('accent'), of('ink')),
  ),
  'heading-ink': token('words', 'colour', ['heading'], (of) => of('ink')),
  muted: token('words', 'colour', ['second-text'], (of) =>
    faintest(of('ink'), of('ground'), needs.text + 1.5),
  ),
  price: token('words', 'colour', ['text'], (of) => of('ink')),
  was: token('words', 'colour', ['second-text'], (of) => of('muted')),
  stock: token('words', 'colour', ['text'], (of) => of('ink')),
  low: token('words', 'colour', ['text'], (of) => of('ink')),
  danger: token('words', 'colour', [], (of) => readable(of('ground'), needs.text, '#a3243b', '#ff9aa8')),
  line: token('lines', 'colour', ['rule'], (of) => mix(of('ground'), of('ink'), 0.18)),
  'field-line': token('lines', 'colour', ['field-edge'], (of) =>
    faintest(of('ink'), of('ground'), needs.edge + 0.5),
  ),
  focus: token('lines', 'colour', ['focus'], (of) => of('link')),
  second: token('second', 'colour', ['second-button'], (of) => of('ground')),
  'second-ink': token('second', 'colour', ['second-button-text'], (of) => of('ink')),
  'second-line': token('second', 'colour', ['second-button-edge', 'second-button'], (of) => of('field-line')),
  'second-over': token('second', 'colour', ['second-button-over'], (of) =>
    mix(of('second'), of('second-ink'), 0.1),
  ),
  'second-over-ink': token('second', 'colour', ['second-button-over-text', 'second-button-text'], (of) =>
    of('second-ink'),
  ),
  badge: token('badge', 'colour', ['card', 'ground'], (of) => of('ground')),
  'badge-ink': token('badge', 'colour', ['mark', 'link'], (of) => of('link')),
  'badge-line': token('badge', 'colour', [], (of) => of('badge-ink')),

  font: token('letters', 'face', ['text-face'], 'inherit'),
  'heading-font': token('letters', 'face', ['heading-face'], (of) => of('font')),
  'button-font': token('letters', 'face', ['button-face'], 'inherit'),
  'heading-weight': token('letters', 'weight', ['heading-weight'], '700'),
  'heading-case': token('letters', 'case', ['heading-case'], 'none'),
  'heading-spacing': token('letters', 'factor', ['heading-spacing'], '0'),
  'heading-scale': token('letters', 'factor', ['heading-scale'], '1.5'),
  'button-weight': token('letters', 'weight', ['button-weight'], '500'),
  'button-case': token('letters', 'case', ['button-case'], 'none'),
  'button-spacing': token('letters', 'factor', ['button-spacing'], '0'),
  'button-size': token('letters', 'factor', [], (_, s) => ratio(s['button-size'], s['text-size'])),
  'link-line': token('letters', 'line', ['link-line'], 'underline'),

  radius: token('shape', 'corner', ['button-corner'], '0'),
  'pad-x': token('shape', 'length', ['button-pad-x'], '24'),
  'pad-y': token('shape', 'length', ['button-pad-y'], '13'),
  'button-height': token('shape', 'length', ['button-height'], '44'),
  'button-width': token('shape', 'length', ['button-edge-width'], '0'),
  'button-shadow': token('shape', 'shadow', ['button-shadow'], 'none'),
  'over-shadow': token('shape', 'shadow', ['button-over-shadow'], (of) => of('button-shadow')),
  'second-width': token('shape', 'length', ['second-button-edge-width'], '1.5'),
  'second-radius': token('shape', 'corner', ['second-button-corner'], (of) => of('radius')),
  'field-radius': token('shape', 'corner', ['field-corner'], (of) =>
    String(Math.min(12, Number(of('radius')))),
  ),
  'field-width': token('shape', 'length', ['field-edge-width'], '1.5'),
  'card-radius': token('shape', 'corner', ['card-corner'], (of) =>
    String(Math.min(12, Number(of('radius')))),
  ),
  'card-width': token('shape', 'length', ['card-edge-width'], '0'),
  'card-shadow': token('shape', 'shadow', ['card-shadow'], 'none'),
  'picture-radius': token('shape', 'corner', ['picture-corner'], (of) =>
    String(Math.min(12, Number(of('radius')))),
  ),
  space: token('shape', 'length', ['space'], '20'),
  width: token('shape', 'length', ['width'], '1088'),
} as const satisfies Readonly<Record<string, Token>>;

export type TokenName = keyof typeof tokens;
export const tokenNames = Object.keys(tokens) as TokenName[];
export const isToken = (name: string): name is TokenName => Object.hasOwn(tokens, name);
export const tokenOf = (name: TokenName): Token => tokens[name];

/** A size as a factor of another. */
const ratio = (size: string | undefined, of: string | undefined): string => {
  const found = Number(size) / Number(of);
  return Number.isFinite(found) && found > 0 ? String(Math.round(found * 1000) / 1000) : '1';
};

const FAMILY = /^[\p{L}\p{N}\s"',._-]{1,300}$/u;
const SHADOW = /^(none|[\d\s.,%a-z()#/-]{1,300})$/i;

/** A value as a token of a kind may have it: what comes from a stranger's style sheet goes into one of ours. */
export function cleanValue(kind: TokenKind, value: string): string | undefined {
  const text = value.trim();
  const clean = cleaners[kind];
  return clean(text);
}

const matching =
  (form: RegExp) =>
  (text: string): string | undefined =>
    form.test(text) ? text : undefined;

const numbered = (text: string): string | undefined => {
  const n = Number(text);
  return text !== '' && Number.isFinite(n) && Math.abs(n) <= 5000
    ? String(Math.round(n * 1000) / 1000)
    : undefined;
};

const cleaners: Readonly<Record<TokenKind, (text: string) => string | undefined>> = {
  colour: matching(/^#[0-9a-f]{6}$/),
  face: (text) => matching(FAMILY)(text)?.replace(/"/g, "'"),
  weight: matching(/^[1-9]\d{0,2}$|^1000$/),
  case: matching(/^(none|uppercase|lowercase|capitalize)$/),
  line: matching(/^(none|underline)$/),
  // Nothing is fetched, and nothing is reckoned with what others set.
  shadow: (text) => (/url|expression|var|attr/i.test(text) ? undefined : matching(SHADOW)(text)),
  corner: numbered,
  length: numbered,
  factor: numbered,
};
