import type { TokenName } from './tokens';
import type { Need } from './remedy';

/** Two tokens that have to be told apart by their contrast, and what for. */
export interface Pair {
  readonly of: TokenName;
  /** All that it comes to lie on. */
  readonly on: readonly TokenName[];
  readonly need: Need;
  /** Where it fails: whether what it lies on may move in its place. */
  readonly fillMayMove?: true;
}

/** Every pair that matters (WCAG 2.2, 1.4.3 and 1.4.11), in the order in which they are made to pass. */
export const pairs = {
  text: { of: 'ink', on: ['ground', 'surface'], need: 'text' },
  heading: { of: 'heading-ink', on: ['ground', 'surface'], need: 'text' },
  second: { of: 'muted', on: ['ground', 'surface'], need: 'text' },
  link: { of: 'link', on: ['ground', 'surface'], need: 'text' },
  price: { of: 'price', on: ['ground', 'surface'], need: 'text' },
  was: { of: 'was', on: ['ground', 'surface'], need: 'text' },
  stock: { of: 'stock', on: ['ground', 'surface'], need: 'text' },
  low: { of: 'low', on: ['ground', 'surface'], need: 'text' },
  error: { of: 'danger', on: ['ground', 'surface'], need: 'text' },
  button: { of: 'accent-ink', on: ['accent'], need: 'text', fillMayMove: true },
  'button-over': { of: 'over-ink', on: ['over'], need: 'text', fillMayMove: true },
  'button-pressed': { of: 'pressed-ink', on: ['pressed'], need: 'text', fillMayMove: true },
  'second-button': { of: 'second-ink', on: ['second'], need: 'text', fillMayMove: true },
  'second-over': { of: 'second-over-ink', on: ['second-over'], need: 'text', fillMayMove: true },
  badge: { of: 'badge-ink', on: ['badge'], need: 'text' },
  field: { of: 'field-ink', on: ['field'], need: 'text' },
  'field-edge': { of: 'field-line', on: ['ground'], need: 'edge' },
  focus: { of: 'focus', on: ['ground', 'surface'], need: 'edge' },
} as const satisfies Readonly<Record<string, Pair>>;

export type PairName = keyof typeof pairs;
export const pairNames = Object.keys(pairs) as PairName[];
export const pairOf = (name: PairName): Pair => pairs[name];
export const isPair = (name: string): name is PairName => Object.hasOwn(pairs, name);

/** Neighbours that are to be told apart at a glance, by how far they are from each other (CIEDE2000). */
export const neighbours: readonly (readonly [TokenName, TokenName])[] = [
  ['surface', 'ground'],
  ['accent', 'ground'],
  ['second', 'accent'],
  ['badge', 'accent'],
];
