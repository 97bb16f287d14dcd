import { type Color, converter, formatHex, interpolate, parse as parseColour, wcagContrast } from 'culori';

const rgb = converter('rgb');

/** What is no colour is undefined, also where the library stumbles over it ("rgb(0 0 0 /"). */
function parse(text: string): Color | undefined {
  try {
    return parseColour(text);
  } catch {
    return undefined;
  }
}

/** A CSS colour as opaque sRGB hex; nothing for transparent, keywords like currentColor and what is not a colour. */
export function toHex(css: string): string | undefined {
  const parsed = parse(css.trim());
  if (!parsed || (parsed.alpha ?? 1) < 0.5) return undefined;
  return formatHex(rgb(parsed));
}

/** WCAG 2.2 contrast ratio (relative luminance formula of the standard, as culori computes it). */
export const contrast = (a: string, b: string): number => wcagContrast(a, b);

export const mix = (from: string, to: string, share: number): string =>
  formatHex(interpolate([from, to], 'oklab')(share)) ?? from;

/** Of the candidates the first with at least `ratio` against `ground`, else black or white, whichever reads better. */
export function readable(ground: string, ratio: number, ...candidates: (string | undefined)[]): string {
  const fits = candidates.find((c) => c !== undefined && contrast(c, ground) >= ratio);
  return fits ?? (contrast('#000000', ground) >= contrast('#ffffff', ground) ? '#000000' : '#ffffff');
}

/** The faintest mix of ink into the ground that still has `ratio`; steps of one in a hundred. */
export function faintest(ink: string, ground: string, ratio: number): string {
  for (let share = 0.05; share < 1; share += 0.01) {
    const c = mix(ground, ink, share);
    if (contrast(c, ground) >= ratio) return c;
  }
  return ink;
}

/**
 * A CSS colour as it is seen on a ground, as sRGB hex. `currentcolor` is `ink`. Undefined for what is (nearly) seen through, and for
 * what is no colour.
 */
export function colourOver(css: string, ground: string, ink = ''): string | undefined {
  const text = /^currentcolor$/i.test(css.trim()) ? ink : css.trim();
  const top = rgb(parse(text));
  const below = rgb(parse(ground));
  if (!top || !below) return undefined;
  const alpha = top.alpha ?? 1;
  if (alpha < 0.05) return undefined;
  if (alpha >= 0.995) return formatHex(top);
  const mixed = (t: number, b: number) => t * alpha + b * (1 - alpha);
  return formatHex({
    mode: 'rgb',
    r: mixed(top.r, below.r),
    g: mixed(top.g, below.g),
    b: mixed(top.b, below.b),
  });
}
