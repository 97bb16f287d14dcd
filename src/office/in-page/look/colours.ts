/** A colour as the screen has it: 0 to 255 each, opacity 0 to 1. */
export interface Rgba {
  readonly r: number;
  readonly g: number;
  readonly b: number;
  readonly a: number;
}

const canvas = document.createElement('canvas');
canvas.width = canvas.height = 1;
const context = canvas.getContext('2d', { willReadFrequently: true });
const known = new Map<string, Rgba>();
const none: Rgba = { r: 0, g: 0, b: 0, a: 0 };

/** Any colour that CSS knows, as pixels have it: the browser itself draws it. */
export function rgba(css: string): Rgba {
  const found = known.get(css);
  if (found) return found;
  const made = drawn(css);
  known.set(css, made);
  return made;
}

function drawn(css: string): Rgba {
  const [, r = '0', g = '0', b = '0', a = '1'] =
    /^rgba?\((\d+), (\d+), (\d+)(?:, ([\d.]+))?\)$/.exec(css) ?? [];
  if (css.startsWith('rgb') && /^rgba?\(\d+, \d+, \d+(, [\d.]+)?\)$/.test(css))
    return { r: Number(r), g: Number(g), b: Number(b), a: Number(a) };
  if (!context || !CSS.supports('color', css)) return none;
  context.clearRect(0, 0, 1, 1);
  context.fillStyle = css;
  context.fillRect(0, 0, 1, 1);
  const [red = 0, green = 0, blue = 0, alpha = 0] = context.getImageData(0, 0, 1, 1).data;
  return { r: red, g: green, b: blue, a: alpha / 255 };
}

/** One colour seen through another. */
export const over = (top: Rgba, below: Rgba): Rgba => {
  const mixed = (t: number, b: number) => Math.round(t * top.a + b * (1 - top.a));
  return { r: mixed(top.r, below.r), g: mixed(top.g, below.g), b: mixed(top.b, below.b), a: 1 };
};

export const hexOf = ({ r, g, b }: Rgba): string =>
  `#${((1 << 24) | (r << 16) | (g << 8) | b).toString(16).slice(1)}`;

/** Whether two colours are told apart at a glance: more than a step or two of a channel. */
export const differ = (a: Rgba, b: Rgba): boolean =>
  Math.abs(a.r - b.r) + Math.abs(a.g - b.g) + Math.abs(a.b - b.b) > 10;

/** What lies behind an element: the nearest grounds above it, seen through each other. */
export function behind(el: Element, ground: Rgba): Rgba {
  const seen: Rgba[] = [];
  for (let up = el.parentElement; up; up = up.parentElement) {
    const colour = rgba(getComputedStyle(up).backgroundColor);
    if (colour.a > 0) seen.push(colour);
    if (colour.a >= 0.99) break;
  }
  return seen.reduceRight((below, top) => over(top, below), ground);
}

/** The colour of the window itself, behind everything: what `Canvas` is in the scheme that the page is drawn in. */
export function canvasColour(): Rgba {
  const probe = document.createElement('i');
  probe.setAttribute('style', 'position:absolute!important;background:Canvas!important;width:0;height:0');
  document.documentElement.append(probe);
  const colour = rgba(getComputedStyle(probe).backgroundColor);
  probe.remove();
  return colour.a < 1 ? { r: 255, g: 255, b: 255, a: 1 } : colour;
}
