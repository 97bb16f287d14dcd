import { contrast, faintest, mix, readable } from './colour';
import type { Ground, SourceName, Sources } from './found/sources';
import { neighbours, type Pair, type PairName, pairNames, pairOf } from './pairs';
import { heldSources, isAsSite, type LookPlan, type Tie, tieOf } from './plan';
import { difference, nearestPassing, needs, remedyFor } from './remedy';
import { cleanValue, type TokenName, tokenNames, tokenOf } from './tokens';

/** A token as the shop wears it. */
export interface WornToken {
  readonly value: string;
  /** What it would be if nothing had to be read on anything. */
  readonly wanted: string;
  readonly by: 'thread' | 'free' | 'made';
  /** Whose thread it hangs on. */
  readonly source?: SourceName;
  /** The thread was tied to something that the site no longer has. */
  readonly loose?: SourceName;
}

/** How a pair stands. */
export interface Proof {
  readonly pair: PairName;
  readonly of: TokenName;
  /** Of all that it lies on the one that it is hardest to read on. */
  readonly on: TokenName;
  readonly need: number;
  /** Contrast as it is worn, and as the site has it. */
  readonly ratio: number;
  readonly asFound: number;
  readonly passes: boolean;
  /** What is moved so that it passes, and how far (CIEDE2000); undefined where it passes as it is. */
  readonly remedy?: {
    readonly token: TokenName;
    readonly from: string;
    readonly to: string;
    readonly by: number;
    readonly ratio: number;
  };
  /** The owner leaves it as the site has it. */
  readonly asSite: boolean;
}

export interface Apart {
  readonly one: TokenName;
  readonly other: TokenName;
  readonly by: number;
}

/** What is worn on a ground that is not the page's: a band, a dark footer. */
export interface WornGround {
  readonly colour: string;
  readonly tokens: Readonly<Partial<Record<TokenName, string>>>;
}

export interface Worn {
  readonly tokens: Readonly<Record<TokenName, WornToken>>;
  readonly proofs: readonly Proof[];
  readonly apart: readonly Apart[];
  readonly grounds: readonly WornGround[];
}

/** What is known of a site in one scheme. */
export interface Wardrobe {
  readonly sources: Sources;
  readonly grounds: readonly Ground[];
}

/**
 * The shop's look: each token by its thread or its own value, and every pair made such that it can be read, by the least that is seen,
 * unless the owner leaves it as the site has it.
 */
export function wear({ sources, grounds }: Wardrobe, plan: LookPlan): Worn {
  const site = heldSources(sources, plan);
  const worn = new Map<TokenName, WornToken>();
  const proofs = new Map<PairName, Proof>();
  // Tokens come before what is made of them: what was moved is what the later ones are made of.
  for (const name of tokenNames) {
    worn.set(name, wornBy(name, site, plan, worn));
    for (const pair of pairNames)
      if (!proofs.has(pair) && isWhole(pairOf(pair), worn)) proofs.set(pair, prove(pair, plan, worn));
  }
  const values = Object.fromEntries(worn) as Record<TokenName, WornToken>;
  const value = (name: TokenName): string => values[name].value;
  return {
    tokens: values,
    proofs: pairNames.flatMap((pair) => proofs.get(pair) ?? []),
    apart: neighbours.map(([one, other]) => ({ one, other, by: difference(value(one), value(other)) })),
    grounds: grounds
      .filter((g) => difference(g.colour, value('ground')) > 1.5)
      .map((g) => onGround(g, value)),
  };
}

const isWhole = (pair: Pair, worn: ReadonlyMap<TokenName, WornToken>): boolean =>
  worn.has(pair.of) && pair.on.every((name) => worn.has(name));

function wornBy(
  name: TokenName,
  site: Sources,
  plan: LookPlan,
  worn: ReadonlyMap<TokenName, WornToken>,
): WornToken {
  const { kind, takes, make } = tokenOf(name);
  const tie = tieOf(plan, name);
  const free = tie && 'free' in tie ? cleanValue(kind, tie.free) : undefined;
  if (free !== undefined) return { value: free, wanted: free, by: 'free' };
  const source = sourceFor(tie, isOfOwnButton(name, worn) ? takes : [], site);
  const own = source && cleanValue(kind, site[source] ?? '');
  const lost = tie && 'to' in tie && tie.to !== source ? { loose: tie.to } : {};
  if (source && own !== undefined) return { value: own, wanted: own, by: 'thread', source, ...lost };
  const made = make((other) => worn.get(other as TokenName)?.value ?? '', site);
  return { value: made, wanted: made, by: 'made', ...lost };
}

/** What goes with a button of the site, and with no other fill: how it looks under the pointer, and its edge. */
const ofButtons: Readonly<Partial<Record<TokenName, readonly [TokenName, SourceName]>>> = {
  over: ['accent', 'button'],
  'over-ink': ['accent', 'button'],
  pressed: ['accent', 'button'],
  'pressed-ink': ['accent', 'button'],
  'button-line': ['accent', 'button'],
  'second-over': ['second', 'second-button'],
  'second-over-ink': ['second', 'second-button'],
};

/** A button that the owner filled otherwise is not to turn the site's colour under the pointer. */
function isOfOwnButton(name: TokenName, worn: ReadonlyMap<TokenName, WornToken>): boolean {
  const [fill, source] = ofButtons[name] ?? [];
  return fill === undefined || worn.get(fill)?.source === source;
}

/** The owner's own thread where the site still has what it was tied to, else the usual ones. */
function sourceFor(
  tie: Tie | undefined,
  takes: readonly SourceName[],
  site: Sources,
): SourceName | undefined {
  const wanted = tie && 'to' in tie ? [tie.to, ...takes] : takes;
  return wanted.find((name) => site[name] !== undefined);
}

function prove(name: PairName, plan: LookPlan, worn: Map<TokenName, WornToken>): Proof {
  const pair = pairOf(name);
  const need = needs[pair.need];
  const value = (token: TokenName): string => worn.get(token)?.value ?? '';
  const hardest = (of: string): TokenName =>
    [...pair.on].sort((a, b) => contrast(of, value(a)) - contrast(of, value(b)))[0] ?? pair.of;
  const on = hardest(value(pair.of));
  const asFound = contrast(value(pair.of), value(on));
  const common = { pair: name, of: pair.of, on, need, asFound };
  if (asFound >= need) return { ...common, ratio: asFound, passes: true, asSite: false };
  const remedy = remedyOf(pair, need, value);
  if (isAsSite(plan, name))
    return { ...common, ratio: asFound, passes: false, asSite: true, ...(remedy && { remedy }) };
  if (!remedy) return { ...common, ratio: asFound, passes: false, asSite: false };
  const moved = worn.get(remedy.token);
  if (moved) worn.set(remedy.token, { ...moved, value: remedy.to });
  const last = hardest(value(pair.of));
  const ratio = contrast(value(pair.of), value(last));
  return { ...common, on: last, ratio, passes: ratio >= need, asSite: false, remedy };
}

/** The least visible move that makes a pair pass. @returns undefined where nothing would. */
function remedyOf(pair: Pair, need: number, value: (name: TokenName) => string): Proof['remedy'] {
  const of = value(pair.of);
  const [only] = pair.on;
  if (pair.fillMayMove && only) {
    const found = remedyFor(of, value(only), need);
    if (!found) return undefined;
    const token = found.move === 'text' ? pair.of : only;
    return { token, from: value(token), to: found.to, by: found.by, ratio: found.ratio };
  }
  const to = readableOnAll(of, pair.on.map(value), need);
  if (to === undefined) return undefined;
  const ratio = Math.min(...pair.on.map((g) => contrast(to, value(g))));
  return { token: pair.of, from: of, to, by: difference(of, to), ratio };
}

/** The colour nearest to one that can be read on several grounds. */
function readableOnAll(colour: string, grounds: readonly string[], need: number): string | undefined {
  let best = colour;
  // Each ground may push it a little further; on grounds that are alike this ends at once.
  for (let n = 0; n < 6; n++) {
    const hard = grounds.find((g) => contrast(best, g) < need);
    if (hard === undefined) return best;
    const moved = nearestPassing(best, hard, need);
    if (!moved) break;
    best = moved.colour;
  }
  return ['#000000', '#ffffff'].find((c) => grounds.every((g) => contrast(c, g) >= need));
}

/** What a widget wears that stands on a band: the site's own text and links there, all else made of them. */
function onGround({ colour, text, link }: Ground, value: (name: TokenName) => string): WornGround {
  const near = (wish: string | undefined, need: number = needs.text): string | undefined =>
    wish === undefined ? undefined : nearestPassing(wish, colour, need)?.colour;
  // A bar that holds a menu alone has no text: ink that would have to be moved there goes after what its items look like.
  const own = contrast(value('ink'), colour) >= needs.text ? value('ink') : undefined;
  const ink =
    near(text) ?? own ?? near(link) ?? near(value('ink')) ?? readable(colour, needs.text, value('ground'));
  const links = near(link) ?? near(value('link')) ?? ink;
  const muted = faintest(ink, colour, needs.text + 1);
  const isLost = difference(value('accent'), colour) < 12;
  const turned = {
    accent: ink,
    'accent-ink': colour,
    over: links,
    'over-ink': colour,
    pressed: links,
    'pressed-ink': colour,
    'button-line': ink,
  } as const;
  return {
    colour,
    tokens: {
      ground: colour,
      ink,
      'heading-ink': ink,
      link: links,
      muted,
      price: ink,
      was: muted,
      stock: ink,
      low: ink,
      danger: near(value('danger')) ?? ink,
      line: mix(colour, ink, 0.25),
      'field-line': faintest(ink, colour, needs.edge + 0.5),
      focus: near(value('focus'), needs.edge) ?? ink,
      surface: mix(colour, ink, 0.06),
      ...(isLost && turned),
    },
  };
}
