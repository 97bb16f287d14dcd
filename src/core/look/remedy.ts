import { clampChroma, converter, differenceCiede2000, formatHex, type Oklch, parse } from 'culori';
import { contrast } from './colour';

/** WCAG 2.2: text (1.4.3), large text (1.4.3: from 24 px, or 18.66 px in bold), and edges of controls and focus (1.4.11). */
export const needs = { text: 4.5, large: 3, edge: 3 } as const;
export type Need = keyof typeof needs;

const oklch = converter('oklch');
const rgb = converter('rgb');
const ciede = differenceCiede2000();

/**
 * How far two colours are apart for the eye: CIEDE2000 (Sharma, Wu, Dalal, "The CIEDE2000 color-difference formula", 2005), as culori
 * works it out. Below 1 nobody sees it; 2 is seen by who looks for it.
 */
export const difference = (a: string, b: string): number => ciede(a, b);

/** A colour that is moved so that a pair passes, and how far it was moved (CIEDE2000). */
export interface Moved {
  readonly colour: string;
  readonly by: number;
}

/**
 * The colour nearest to one that has a ratio of contrast against another: of its own hue, lighter or darker, whichever is less seen.
 * @returns undefined where no lightness passes: against a grey of the middle there is none for more than about 4.6.
 */
export function nearestPassing(colour: string, against: string, ratio: number): Moved | undefined {
  if (contrast(colour, against) >= ratio) return { colour, by: 0 };
  const own = oklch(parse(colour));
  if (!own) return undefined;
  const ways = ([0, 1] as const).flatMap((end) => towards(own, end, against, ratio) ?? []);
  const moved = ways.map((way) => refined(way, colour, against, ratio));
  return moved.sort((a, b) => a.by - b.by)[0];
}

/** The first lightness on the way to black (0) or white (1) that passes; luminance follows lightness, so halving finds it. */
function towards(own: Oklch, end: 0 | 1, against: string, ratio: number): string | undefined {
  const at = (lightness: number): string => formatHex(clampChroma({ ...own, l: lightness }, 'oklch'));
  const passes = (lightness: number): boolean => contrast(at(lightness), against) >= ratio;
  if (!passes(end)) return undefined;
  let [fails, fits] = [own.l, end as number];
  // Finer than a step of sRGB's 255.
  for (let n = 0; n < 12; n++) {
    const middle = (fails + fits) / 2;
    if (passes(middle)) fits = middle;
    else fails = middle;
  }
  return at(fits);
}

/** Steps of a channel, and all ways of taking one in each of the three. */
const steps = [-2, -1, 0, 1, 2];
const around = steps.flatMap((r) => steps.flatMap((g) => steps.map((b) => [r, g, b] as const)));

/** The best of the colours around one that still pass: hues bend a little on their way to black and white. */
function refined(found: string, wanted: string, against: string, ratio: number): Moved {
  let best: Moved = { colour: found, by: difference(found, wanted) };
  for (;;) {
    const better = betterAround(best, wanted, against, ratio);
    if (!better) return best;
    best = better;
  }
}

function betterAround(best: Moved, wanted: string, against: string, ratio: number): Moved | undefined {
  const { r, g, b } = rgb(parse(best.colour)) ?? { r: 0, g: 0, b: 0 };
  const nearer = around
    .map(([dr, dg, db]) => formatHex({ mode: 'rgb', r: r + dr / 255, g: g + dg / 255, b: b + db / 255 }))
    .map((colour) => ({ colour, by: difference(colour, wanted) }))
    .filter(({ colour, by }) => by < best.by - 1e-6 && contrast(colour, against) >= ratio);
  return nearer.sort((x, y) => x.by - y.by)[0];
}

/** What is moved so that text can be read on a fill. */
export interface Remedy {
  readonly move: 'text' | 'fill';
  readonly to: string;
  readonly by: number;
  /** What the pair has then. */
  readonly ratio: number;
}

/**
 * The least visible way to make a pair pass: the text or the fill, whichever moves less. A pair that passes needs none.
 * @returns undefined where it passes as it is. @throws nothing: black or white reads on every fill.
 */
export function remedyFor(text: string, fill: string, ratio: number): Remedy | undefined {
  if (contrast(text, fill) >= ratio) return undefined;
  const ways = [
    { move: 'text' as const, moved: nearestPassing(text, fill, ratio) },
    { move: 'fill' as const, moved: nearestPassing(fill, text, ratio) },
  ].flatMap(({ move, moved }) => (moved ? [{ move, to: moved.colour, by: moved.by }] : []));
  const [least] = ways.sort((a, b) => a.by - b.by);
  const { move, to, by } = least ?? {
    move: 'text' as const,
    to: extreme(fill),
    by: Number.POSITIVE_INFINITY,
  };
  return { move, to, by, ratio: move === 'text' ? contrast(to, fill) : contrast(text, to) };
}

const extreme = (fill: string): string =>
  contrast('#000000', fill) >= contrast('#ffffff', fill) ? '#000000' : '#ffffff';
