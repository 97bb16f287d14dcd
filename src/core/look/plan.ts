import { z } from 'zod';
import { limits } from '../limits';
import { isPair, type PairName } from './pairs';
import { isSource, type SourceName, type Sources } from './found/sources';
import { cleanShape, isShape } from './shape';
import { cleanValue, isToken, type TokenName, tokenOf } from './tokens';

/** What a token is tied to: something of the site by its name, or a value of its own. */
export type Tie = { readonly to: SourceName } | { readonly free: string };

/**
 * What the owner decided about the look, one record to each decision, by name: what a token is tied to ("tie:accent"), how cards are made
 * ("shape:cards"), that a pair stays as
 * the site has it ("as:button"), that a value of the site is kept although the site has another by now ("pin:button"). A change of the
 * look is a change of such records: shown on the slip, undone, published and gone back from one by one.
 */
export type LookPlan = Readonly<Record<string, Decision>>;
export type Decision = Tie | 'site' | string;

/** The decision that holds the owner's own CSS. */
export const OWN_CSS = 'css';

/** The owner's own CSS as it was written; '' for none. */
export function ownCssOf(plan: LookPlan): string {
  const found = plan[OWN_CSS];
  return typeof found === 'string' ? found : '';
}

const tie = z.union([z.object({ to: z.string().refine(isSource) }), z.object({ free: z.string().max(300) })]);

/** A decision from outside, by its name; undefined for what is none. Values are made such that they may stand in a style sheet. */
export function readDecision(name: string, value: unknown): Decision | undefined {
  const [kind = '', of = ''] = name.split(/:(.*)/s);
  return Object.hasOwn(readers, kind) ? readers[kind as Kind](of, value) : undefined;
}

/** Each kind of decision with how it is read. */
const readers = {
  tie: (of: string, value: unknown) => (isToken(of) ? readTie(of, value) : undefined),
  as: (of: string, value: unknown) => (isPair(of) && value === 'site' ? ('site' as const) : undefined),
  shape: (of: string, value: unknown) => (isShape(of) ? cleanShape(of, value) : undefined),
  pin: (of: string, value: unknown) => (isSource(of) ? shortText(value, LONGEST_VALUE) : undefined),
  css: (of: string, value: unknown) => (of === '' ? shortText(value, limits.ownCss.most) : undefined),
} satisfies Readonly<Record<string, (of: string, value: unknown) => Decision | undefined>>;
type Kind = keyof typeof readers;

/** Longest value of a style sheet that is held, in characters. */
const LONGEST_VALUE = 300;
const shortText = (value: unknown, most: number): string | undefined =>
  typeof value === 'string' && value.length <= most ? value : undefined;

function readTie(of: TokenName, value: unknown): Tie | undefined {
  const found = tie.safeParse(value);
  if (!found.success) return undefined;
  const given = found.data;
  if ('to' in given) return { to: given.to as SourceName };
  const free = cleanValue(tokenOf(of).kind, given.free);
  return free === undefined ? undefined : { free };
}

const named = <T extends string>(kind: string, name: T) => `${kind}:${name}` as const;
export const tieName = (token: TokenName) => named('tie', token);
export const asName = (pair: PairName) => named('as', pair);
export const pinName = (source: SourceName) => named('pin', source);

export function tieOf(plan: LookPlan, token: TokenName): Tie | undefined {
  const found = plan[tieName(token)];
  return typeof found === 'object' ? found : undefined;
}

export const isAsSite = (plan: LookPlan, pair: PairName): boolean => plan[asName(pair)] === 'site';

/** What the site's values are for the shop: those that were found, but what is kept as it was. */
export function heldSources(found: Sources, plan: LookPlan): Sources {
  const pins = Object.entries(plan).flatMap(([name, value]) =>
    name.startsWith('pin:') && typeof value === 'string' ? [[name.slice(4), value] as const] : [],
  );
  const held = Object.entries({ ...found, ...Object.fromEntries(pins) });
  // Held as it was where the site had none.
  return Object.fromEntries(held.filter(([, value]) => value !== ''));
}
