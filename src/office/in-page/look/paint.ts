import { over, type Rgba, rgba } from './colours';
import type { Box, Met } from './walk';

/** Side of a square of the page that is told apart, in px; taller pages are looked at as far as this. Chosen by hand. */
const CELL = 4;
const TALLEST = 16_000;

/** What lies on a part of the page. */
export interface Layer {
  readonly met: Met | undefined;
  readonly colour: Rgba;
  /** A picture or a gradient: the colour is one of several. */
  readonly mixed: boolean;
}

/** The mean of colours that are nearly the same, and the layer that they are painted as. */
class Mean {
  #r = 0;
  #g = 0;
  #b = 0;
  #n = 0;

  constructor(readonly layer: number) {}

  add({ r, g, b }: Rgba): void {
    this.#r += r;
    this.#g += g;
    this.#b += b;
    this.#n++;
  }

  get colour(): Rgba {
    const n = Math.max(1, this.#n);
    return { r: Math.round(this.#r / n), g: Math.round(this.#g / n), b: Math.round(this.#b / n), a: 1 };
  }
}

/**
 * The page as it is painted, in small squares: grounds, pictures and gradients over each other in the order of their layers.
 * Letters are not painted: they are counted by their own size.
 */
export class Painting {
  readonly columns: number;
  readonly rows: number;
  readonly layers: Layer[] = [];
  readonly #cells: Uint16Array;

  constructor(ground: Rgba) {
    const { scrollWidth, scrollHeight } = document.documentElement;
    this.columns = Math.ceil(scrollWidth / CELL);
    this.rows = Math.ceil(Math.min(scrollHeight, TALLEST) / CELL);
    this.#cells = new Uint16Array(this.columns * this.rows);
    this.layers.push({ met: undefined, colour: ground, mixed: false });
  }

  /** @returns false when there are too many layers to be told apart. */
  add(met: Met, box: Box, colour: Rgba, mixed = false): boolean {
    if (this.layers.length >= 65_000) return false;
    this.#fill(box, this.layers.push({ met, colour, mixed }) - 1);
    return true;
  }

  /** Each square of a box by its own colour: what a picture or a gradient shows there; few colours, each the mean of its like. */
  addPixels(met: Met, box: Box, at: (x: number, y: number) => Rgba): void {
    const layers = new Map<number, Mean>();
    // Dots of a picture are larger than squares: the same one is asked for often.
    const known = new Map<Rgba, Mean>();
    this.#each(box, (cell, x, y) => {
      const own = at(x, y);
      const colour = own.a >= 0.99 ? own : over(own, this.colourOf(cell));
      const mean = known.get(own) ?? this.#meanFor(colour, met, layers);
      if (own.a >= 0.99) known.set(own, mean);
      mean.add(colour);
      this.#cells[cell] = mean.layer;
    });
    for (const mean of layers.values()) this.layers[mean.layer] = { met, colour: mean.colour, mixed: true };
  }

  #meanFor(colour: Rgba, met: Met, layers: Map<number, Mean>): Mean {
    const key = ((colour.r >> 3) << 10) | ((colour.g >> 3) << 5) | (colour.b >> 3);
    const known = layers.get(key);
    if (known) return known;
    // Beyond what can be told apart, pictures stand for each other.
    if (this.layers.length >= 65_000) return new Mean(this.layers.length - 1);
    const made = new Mean(this.layers.push({ met, colour, mixed: true }) - 1);
    layers.set(key, made);
    return made;
  }

  /** A ground that is seen through: what lies below decides, square by square. */
  addThrough(met: Met, box: Box, colour: Rgba): void {
    const layers = new Map<number, number>();
    this.#each(box, (cell) => {
      const below = this.#cells[cell] ?? 0;
      let layer = layers.get(below);
      if (layer === undefined) {
        if (this.layers.length >= 65_000) return;
        const under = this.layers[below];
        layer =
          this.layers.push({
            met,
            colour: over(colour, under?.colour ?? colour),
            mixed: under?.mixed ?? false,
          }) - 1;
        layers.set(below, layer);
      }
      this.#cells[cell] = layer;
    });
  }

  private colourOf(cell: number): Rgba {
    return this.layers[this.#cells[cell] ?? 0]?.colour ?? { r: 255, g: 255, b: 255, a: 1 };
  }

  /** What most of a box shows, and whether it shows more than one thing. */
  under(box: Box): Layer {
    const counts = new Map<number, number>();
    this.#each(box, (cell) => {
      const layer = this.#cells[cell] ?? 0;
      counts.set(layer, (counts.get(layer) ?? 0) + 1);
    });
    const [most = 0] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
    return this.layers[most] ?? { met: undefined, colour: { r: 255, g: 255, b: 255, a: 1 }, mixed: false };
  }

  /** Squares of each layer, in px². */
  areas(): Float64Array {
    const out = new Float64Array(this.layers.length);
    for (const layer of this.#cells) out[layer] = (out[layer] ?? 0) + CELL * CELL;
    return out;
  }

  #fill(box: Box, layer: number): void {
    this.#each(box, (cell) => {
      this.#cells[cell] = layer;
    });
  }

  #each({ x, y, w, h }: Box, at: (cell: number, x: number, y: number) => void): void {
    const [left, top] = [Math.max(0, Math.round(x / CELL)), Math.max(0, Math.round(y / CELL))];
    const right = Math.min(this.columns, Math.round((x + w) / CELL));
    const bottom = Math.min(this.rows, Math.round((y + h) / CELL));
    for (let row = top; row < bottom; row++)
      for (let column = left; column < right; column++)
        at(row * this.columns + column, column * CELL + CELL / 2 - x, row * CELL + CELL / 2 - y);
  }
}

/** Paints all that was met, the lowest layers first. */
export function paint(all: readonly Met[], ground: Rgba, cannot: Set<string>): Painting {
  const painting = new Painting(ground);
  for (const met of [...all].sort((a, b) => a.layer - b.layer)) {
    const colour = rgba(met.style.backgroundColor);
    const box = met.el === document.documentElement || met.el === document.body ? wholePage() : met.clip;
    if (colour.a >= 0.99) painting.add(met, box, colour);
    else if (colour.a > 0.02) painting.addThrough(met, box, colour);
    if (met.style.backgroundImage !== 'none') paintImage(painting, met, box, cannot);
    if (met.el instanceof HTMLImageElement) paintPicture(painting, met, met.el, cannot);
    else if (met.el instanceof HTMLVideoElement || met.el instanceof HTMLCanvasElement)
      paintMoving(painting, met, met.el, cannot);
    paintEdges(painting, met);
    paintVeil(painting, met);
  }
  return painting;
}

const wholePage = (): Box => ({
  x: 0,
  y: 0,
  w: document.documentElement.scrollWidth,
  h: document.documentElement.scrollHeight,
});

/** Edges wide enough to be told apart are areas of their own. */
function paintEdges(painting: Painting, met: Met): void {
  const { x, y, w, h } = met.box;
  const s = met.style;
  const edges: readonly [string, string, string, (n: number) => Box][] = [
    [s.borderTopWidth, s.borderTopStyle, s.borderTopColor, (n) => ({ x, y, w, h: n })],
    [s.borderBottomWidth, s.borderBottomStyle, s.borderBottomColor, (n) => ({ x, y: y + h - n, w, h: n })],
    [s.borderLeftWidth, s.borderLeftStyle, s.borderLeftColor, (n) => ({ x, y, w: n, h })],
    [s.borderRightWidth, s.borderRightStyle, s.borderRightColor, (n) => ({ x: x + w - n, y, w: n, h })],
  ];
  for (const [width, style, colour, box] of edges) {
    const n = Number.parseFloat(width);
    if (n >= CELL / 2 && style !== 'none' && style !== 'hidden' && rgba(colour).a > 0.5)
      painting.add(met, box(n), rgba(colour));
  }
}

/** A picture as its own pixels, where it may be read. */
function paintPicture(painting: Painting, met: Met, img: HTMLImageElement, cannot: Set<string>): void {
  if (met.clip.w < 2 || met.clip.h < 2) return;
  const { w, h } = met.box;
  const pixels = img.complete && img.naturalWidth ? pixelsOf(img, w, h, { x: 0, y: 0, w, h }) : undefined;
  if (pixels) painting.addPixels(met, met.clip, pixels);
  else {
    if (img.naturalWidth) cannot.add('pictures from other addresses');
    painting.add(met, met.clip, { r: 128, g: 128, b: 128, a: 1 }, true);
  }
}

/** A film or a drawing as it stands at this moment; a film that has not come shows what lies behind it. */
function paintMoving(
  painting: Painting,
  met: Met,
  el: HTMLVideoElement | HTMLCanvasElement,
  cannot: Set<string>,
): void {
  if (el instanceof HTMLVideoElement && el.readyState < HTMLMediaElement.HAVE_CURRENT_DATA) return;
  const { w, h } = met.box;
  const pixels = pixelsOf(el, w, h, { x: 0, y: 0, w, h });
  if (pixels) painting.addPixels(met, met.clip, pixels);
  else {
    cannot.add('pictures from other addresses');
    painting.add(met, met.clip, { r: 128, g: 128, b: 128, a: 1 }, true);
  }
}

/** Pictures are read at this many dots to a side: enough for their colours. */
const FINE = 48;

function pixelsOf(
  img: CanvasImageSource,
  w: number,
  h: number,
  box: Box,
): ((x: number, y: number) => Rgba) | undefined {
  const canvas = document.createElement('canvas');
  const [columns, rows] = [
    Math.max(1, Math.min(FINE, Math.round(w / CELL))),
    Math.max(1, Math.min(FINE, Math.round(h / CELL))),
  ];
  canvas.width = columns;
  canvas.height = rows;
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context || w < 1 || h < 1) return undefined;
  const [sx, sy] = [columns / w, rows / h];
  try {
    context.drawImage(img, box.x * sx, box.y * sy, box.w * sx, box.h * sy);
    const dots = dotsOf(context.getImageData(0, 0, columns, rows).data);
    const nothing: Rgba = { r: 0, g: 0, b: 0, a: 0 };
    return (x, y) => {
      const column = Math.min(columns - 1, Math.max(0, Math.floor(x * sx)));
      return dots[Math.min(rows - 1, Math.max(0, Math.floor(y * sy))) * columns + column] ?? nothing;
    };
  } catch {
    return undefined;
  }
}

function dotsOf(data: Uint8ClampedArray): Rgba[] {
  const dots: Rgba[] = [];
  for (let n = 0; n < data.length; n += 4)
    dots.push({ r: data[n] ?? 0, g: data[n + 1] ?? 0, b: data[n + 2] ?? 0, a: (data[n + 3] ?? 0) / 255 });
  return dots;
}

/**
 * A background picture that has not come by then is left out, in milliseconds: large ones take a second to decode on a slow
 * machine.
 */
const LOADING_MS = 4_000;

const loaded = new Map<string, HTMLImageElement>();

/** Background pictures that the page has, loaded so that they can be read. */
export async function loadBackgrounds(all: readonly Met[]): Promise<void> {
  const addresses = new Set(
    all.flatMap(
      ({ style }) =>
        style.backgroundImage.match(/url\("(?:[^"\\]|\\.)*"\)/g)?.flatMap((u) => urlIn(u) ?? []) ?? [],
    ),
  );
  await Promise.all(
    [...addresses].slice(0, 40).map(async (address) => {
      if (loaded.has(address)) return;
      const img = new Image();
      img.src = address;
      const ready = img.decode().catch(() => {});
      await Promise.race([ready, new Promise((soon) => setTimeout(soon, LOADING_MS))]);
      loaded.set(address, img);
    }),
  );
}

const urlIn = (value: string): string | undefined => /url\("((?:[^"\\]|\\.)*)"\)/.exec(value)?.[1];

/** The layers of a ground, the lowest first (CSS Backgrounds 3, 2.3: the first that is named lies on top). */
function paintImage(painting: Painting, met: Met, box: Box, cannot: Set<string>): void {
  const layers =
    met.style.backgroundImage.match(/(?:[^,()]|\((?:[^()]|\((?:[^()]|\([^()]*\))*\))*\))+/g) ?? [];
  // What is clipped to the letters is their colour, and no ground.
  const clips = listed(met.style.backgroundClip);
  for (const [n, image] of [...layers.entries()].reverse())
    if (of(clips, n) !== 'text') paintLayer(painting, met, box, { image: image.trim(), n }, cannot);
}

/** A property of layers has a value for each; where there are fewer, they are repeated (CSS Backgrounds 3, 2.3). */
const listed = (value: string): string[] => value.split(/,\s*/);
const of = (values: readonly string[], n: number): string => values[n % values.length] ?? '';

function paintLayer(
  painting: Painting,
  met: Met,
  box: Box,
  { image, n }: { readonly image: string; readonly n: number },
  cannot: Set<string>,
): void {
  const gradient = gradientOf(image, met.box);
  if (gradient) painting.addPixels(met, box, gradient);
  const img = gradient ? undefined : loaded.get(urlIn(image) ?? '');
  if (!img?.naturalWidth) return;
  const { w, h } = met.box;
  const pixels = pixelsOf(img, w, h, placedAs(met.style, n, img, { w, h }));
  if (pixels) painting.addPixels(met, box, pixels);
  else cannot.add('pictures from other addresses');
}

/** Smaller boxes than this share of a window have no veils worth looking for. */
const VEILED = 0.05;

/** A veil over a box, drawn by a pseudo-element that lies on all of it: heroes darken their pictures so. */
function paintVeil(painting: Painting, met: Met): void {
  if (met.box.w * met.box.h < VEILED * innerWidth * innerHeight) return;
  for (const pseudo of ['::before', '::after'] as const) {
    const style = getComputedStyle(met.el, pseudo);
    if (
      style.content === 'none' ||
      style.position !== 'absolute' ||
      Number.parseFloat(style.width) < met.box.w * 0.9
    )
      continue;
    const colour = rgba(style.backgroundColor);
    const a = colour.a * Number(style.opacity);
    if (a > 0.02 && Number.parseFloat(style.height) >= met.box.h * 0.9)
      painting.addThrough(met, met.clip, { ...colour, a });
  }
}

/** Where a background picture lies: covering, contained, or in its own size; one that is repeated counts as covering. */
export function placedAs(
  style: CSSStyleDeclaration,
  n: number,
  img: HTMLImageElement,
  { w, h }: Pick<Box, 'w' | 'h'>,
): Box {
  const [iw, ih] = [img.naturalWidth, img.naturalHeight];
  const size = of(listed(style.backgroundSize), n);
  if (size === 'auto' && of(listed(style.backgroundRepeat), n) !== 'no-repeat') return { x: 0, y: 0, w, h };
  let scale = 1;
  if (size === 'cover') scale = Math.max(w / iw, h / ih);
  else if (size === 'contain') scale = Math.min(w / iw, h / ih);
  else if (/^[\d.]+px/.test(size)) scale = Number.parseFloat(size) / iw;
  else if (/^[\d.]+%/.test(size)) scale = ((Number.parseFloat(size) / 100) * w) / iw;
  const part = (value: string | undefined, room: number): number =>
    value?.endsWith('%') ? (room * Number.parseFloat(value)) / 100 : Number.parseFloat(value ?? '0') || 0;
  const [px, py] = of(listed(style.backgroundPosition), n).split(' ');
  return { x: part(px, w - iw * scale), y: part(py, h - ih * scale), w: iw * scale, h: ih * scale };
}

/** The colours of a linear or radial gradient at a place; of several on each other the topmost. */
function gradientOf(image: string, { w, h }: Box): ((x: number, y: number) => Rgba) | undefined {
  const found = /^(?:repeating-)?(linear|radial|conic)-gradient\((.*)\)/.exec(image);
  if (!found) return undefined;
  const [, kind, inside = ''] = found;
  const parts = inside.match(/(?:[^,()]|\([^()]*(?:\([^()]*\)[^()]*)*\))+/g)?.map((p) => p.trim()) ?? [];
  const stops = stopsOf(parts.filter((p) => /^(rgb|#|color|oklch|oklab|lab|hsl|transparent)/.test(p)));
  if (stops.length === 0) return undefined;
  const angle = angleOf(parts[0] ?? '');
  const along = (x: number, y: number): number => {
    if (kind !== 'linear')
      return Math.min(1, Math.hypot(x - w / 2, y - h / 2) / Math.max(1, Math.hypot(w / 2, h / 2)));
    // CSS Images 3, 3.1: the line runs through the middle, and is as long as it takes to reach the corners.
    const [dx, dy] = [Math.sin(angle), -Math.cos(angle)];
    const length = Math.abs(w * dx) + Math.abs(h * dy) || 1;
    return ((x - w / 2) * dx + (y - h / 2) * dy) / length + 0.5;
  };
  return (x, y) => colourAt(stops, along(x, y));
}

interface Stop {
  readonly colour: Rgba;
  readonly at: number;
}

function stopsOf(parts: readonly string[]): Stop[] {
  return parts.map((part, n) => {
    const place = /([\d.]+)%\s*$/.exec(part)?.[1];
    const colour = rgba(part.replace(/\s+[\d.]+(%|px)(\s+[\d.]+(%|px))?$/, ''));
    return { colour, at: place ? Number(place) / 100 : n / Math.max(1, parts.length - 1) };
  });
}

/** To corners as if the box were square: near enough for colours. */
const corners: Readonly<Record<string, number>> = {
  'to top right': 45,
  'to bottom right': 135,
  'to bottom left': 225,
  'to top left': 315,
};

function angleOf(first: string): number {
  const degrees = /^(-?[\d.]+)deg/.exec(first)?.[1];
  if (degrees) return (Number(degrees) * Math.PI) / 180;
  const named: Readonly<Record<string, number>> = {
    'to top': 0,
    'to right': 90,
    'to bottom': 180,
    'to left': 270,
  };
  const corner = corners[/^to (top|bottom) (left|right)/.exec(first)?.[0] ?? ''];
  if (corner !== undefined) return (corner * Math.PI) / 180;
  return ((named[first] ?? 180) * Math.PI) / 180;
}

function colourAt(stops: readonly Stop[], t: number): Rgba {
  const next = stops.findIndex((s) => s.at >= t);
  const [first, last] = [stops[0], stops.at(-1)];
  if (next <= 0) return (next === 0 ? first : last)?.colour ?? { r: 0, g: 0, b: 0, a: 0 };
  const [a, b] = [stops[next - 1], stops[next]];
  if (!a || !b) return { r: 0, g: 0, b: 0, a: 0 };
  const share = b.at > a.at ? (t - a.at) / (b.at - a.at) : 1;
  const mixed = (x: number, y: number) => x + (y - x) * share;
  return {
    r: Math.round(mixed(a.colour.r, b.colour.r)),
    g: Math.round(mixed(a.colour.g, b.colour.g)),
    b: Math.round(mixed(a.colour.b, b.colour.b)),
    a: mixed(a.colour.a, b.colour.a),
  };
}
