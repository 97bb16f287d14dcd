import { fingerprint } from '../hash';
import { canonical } from '../json';
import type { MenuChange } from '../placement/menu-change';
import type { RepairAsked } from '../placement/repair';

/** How much a finding weighs, the heaviest first. */
export const weights = ['sale', 'two', 'broken', 'hard', 'away', 'untidy'] as const;
export type Weight = (typeof weights)[number];

/** What an owner reads of a weight. */
export const weightWords: Readonly<Record<Weight, string>> = {
  sale: 'Loses the sale',
  two: 'Says two things',
  broken: 'Looks broken',
  hard: 'Hard to read',
  away: 'Turns some away',
  untidy: 'Untidy',
};

/** What is to be mended before publishing, and what can wait. */
export const isHeavy = (w: Weight): boolean => w === 'sale' || w === 'two' || w === 'hard' || w === 'broken';

/** Where a finding is: on a page down to the block, at a product, or in the till. */
export type Place =
  | {
      readonly on: 'page';
      readonly page: string;
      readonly name: string;
      readonly block?: string;
      readonly line?: number;
      /** The placement it is about: what is ringed then. */
      readonly widget?: string;
    }
  | { readonly on: 'goods'; readonly id: string; readonly name: string }
  | { readonly on: 'till'; readonly name: string }
  | { readonly on: 'site'; readonly name: string };

/** A place of the office that can be led to. */
export interface Way {
  readonly place: 'site' | 'bench' | 'goods' | 'look' | 'till' | 'orders';
  readonly query?: Readonly<Record<string, string>>;
}

/**
 * How a finding is mended. All but `go` are ordinary changes, with their line on the slip and their undo; `go` leads to where only the
 * owner can, and says what to do there.
 */
export type Mend = {
  readonly label: string;
  /** What is pressed to mend several whose labels differ. */
  readonly labelOfMany?: string;
} & (
  | { readonly do: 'cart'; readonly pages: readonly string[] }
  | { readonly do: 'menu'; readonly changes: readonly MenuChange[] }
  | { readonly do: 'take-away'; readonly placement: string }
  | {
      readonly do: 'settings';
      readonly placement: string;
      readonly settings: Readonly<Record<string, unknown>>;
    }
  /** A cart goes to one of the spots that `page` has for it (core/site/cart-spots.ts), or floats in the corner. */
  | { readonly do: 'spot'; readonly placement: string; readonly page: string; readonly n: number | 'corner' }
  | { readonly do: 'best-pitch'; readonly placement: string; readonly page: string }
  | { readonly do: 'repair'; readonly repair: RepairAsked }
  | { readonly do: 'goods'; readonly id: string; readonly set: Readonly<Record<string, unknown>> }
  | { readonly do: 'look'; readonly forget: readonly string[] }
  | { readonly do: 'follow' }
  | { readonly do: 'take-over' }
  | { readonly do: 'put-back' }
  | { readonly do: 'go'; readonly to: Way; readonly step: string }
);

/** What a rule finds. */
export interface Found {
  /** What it is about, within the rule: the same after the site was read again. */
  readonly about: string;
  readonly place: Place;
  /** What is the matter, in a few words with its figures. */
  readonly title: string;
  /** How a shopper meets it. */
  readonly meets: string;
  /** Where it is heavier or lighter than the rule is as a rule. */
  readonly weight?: Weight;
  readonly mends?: readonly Mend[];
  /** What "leave it so" hangs on, beside the title. */
  readonly facts?: unknown;
}

export interface Finding extends Found {
  readonly rule: string;
  /** What several of its rule are called, after their number. */
  readonly many?: string;
  /** Rule and what it is about: who a finding is. */
  readonly key: string;
  readonly weight: Weight;
  /** Changes when the facts do. */
  readonly state: string;
  readonly mends: readonly Mend[];
}

/** A finding with its identity. */
export function asFinding(
  rule: { readonly name: string; readonly weight: Weight; readonly many?: string },
  found: Found,
): Finding {
  return {
    ...found,
    rule: rule.name,
    ...(rule.many !== undefined && { many: rule.many }),
    key: `${rule.name} ${fingerprint(found.about)}`,
    weight: found.weight ?? rule.weight,
    state: fingerprint(canonical([found.title, found.facts ?? null])),
    mends: found.mends ?? [],
  };
}

/** The heaviest first; within a weight as the site has them. */
export const byWeight = (a: Finding, b: Finding): number =>
  weights.indexOf(a.weight) - weights.indexOf(b.weight);

/** What is told as one: of the same rule, in the same words, mended in the same way. */
export const groupKey = (f: Finding): string =>
  f.many === undefined
    ? `${f.rule} ${f.weight} ${f.title} ${f.mends[0]?.label ?? ''}`
    : `${f.rule} ${f.weight} ${f.mends[0]?.do ?? ''}`;
