import { converter } from 'culori';

const oklch = converter('oklch');

/** What people call a colour, in one word. */
export const hues = [
  ...['white', 'cream', 'grey', 'charcoal', 'black', 'brown', 'red', 'pink', 'orange', 'sand', 'yellow'],
  ...['olive', 'green', 'teal', 'sky', 'blue', 'navy', 'violet'],
] as const;
export type Hue = (typeof hues)[number];

/** Hue angles of OKLCH from which a name holds, the next one's angle ends it. Chosen by hand, looking at them. */
const wheel: readonly (readonly [from: number, hue: Hue])[] = [
  [0, 'pink'],
  [12, 'red'],
  [40, 'orange'],
  [85, 'yellow'],
  [118, 'green'],
  [168, 'teal'],
  [215, 'sky'],
  [240, 'blue'],
  [292, 'violet'],
  [330, 'pink'],
];

/** The name of a colour (sRGB hex). Light and dark ones of a hue have names of their own where people have them. */
export function hueOf(hex: string): Hue {
  const { l, c, h = 0 } = oklch(hex) ?? { l: 0, c: 0, h: 0 };
  const isWarm = h >= 40 && h < 118;
  if (l > 0.93 && c < 0.05) return isWarm && c > 0.008 ? 'cream' : 'white';
  if (l < 0.2 && c < 0.05) return 'black';
  if (c < 0.022) return greyOf(l);
  return isWarm ? warm(l, c, h) : cold(l, c, h);
}

/** All other hues by the wheel; very dark and very pale ones have names of their own. */
function cold(l: number, c: number, h: number): Hue {
  const named = wheel.findLast(([from]) => h >= from)?.[1] ?? 'red';
  if (named === 'blue' && l < 0.36) return 'navy';
  if (named === 'red' && l > 0.75) return 'pink';
  return l < 0.34 && c < 0.045 ? 'charcoal' : named;
}

const greyOf = (l: number): Hue => {
  if (l > 0.93) return 'white';
  if (l < 0.2) return 'black';
  return l < 0.4 ? 'charcoal' : 'grey';
};

/** Orange and yellow: brown when they are dark, sand when they are pale, olive when yellow is dark. */
function warm(l: number, c: number, h: number): Hue {
  if (l < 0.3 && c < 0.05) return h > 95 ? 'olive' : 'brown';
  if (l > 0.78 && c < 0.1) return 'sand';
  if (l < 0.62) return h > 95 ? 'olive' : 'brown';
  return h < 72 ? 'orange' : 'yellow';
}
