import type { SeenFill, SeenPage } from '../../../core/look/seen';
import { boxesIn } from './boxes';
import { canvasColour, differ, hexOf, over, type Rgba, rgba } from './colours';
import { loadBackgrounds, type Layer, paint, type Painting } from './paint';
import { hasDark, turnDark } from './scheme';
import { statesByAttribute } from './states';
import { textsIn } from './texts';
import { type Met, pathOf, px, Tally, walk } from './walk';

/**
 * What is seen of this page as it stands: measured, nothing guessed from style sheets. Ours are left out. The page is as it was when
 * this is done. @param page its path on the site
 */
export async function measure(page: string, dark = false): Promise<SeenPage> {
  const cannot = new Set<string>();
  const isLight = !dark;
  const both = hasDark();
  const lighten = dark ? turnDark() : undefined;
  const restore = statesByAttribute(cannot);
  try {
    const all = walk();
    await loadBackgrounds(all);
    return seen(page, all, { cannot, scheme: isLight ? 'light' : 'dark', hasDark: both });
  } finally {
    restore();
    lighten?.();
  }
}

interface How {
  readonly cannot: Set<string>;
  readonly scheme: SeenPage['scheme'];
  readonly hasDark: boolean;
}

function seen(page: string, all: readonly Met[], { cannot, scheme, hasDark }: How): SeenPage {
  const ground = groundColour();
  const painting = paint(all, ground, cannot);
  const { boxes, rules, buttons } = boxesIn(all, ground);
  const texts = textsIn(all, painting, buttons, ground);
  const { documentElement: root } = document;
  return {
    page,
    width: root.clientWidth,
    height: Math.min(root.scrollHeight, 1_000_000),
    scheme,
    root: px(getComputedStyle(root).fontSize),
    column: columnOf(all),
    gaps: gapsIn(all),
    fills: fillsIn(painting, buttons, ground),
    texts,
    boxes,
    rules,
    hasDark,
    cannot: [...cannot].slice(0, 20),
  };
}

/** What the window shows where nothing lies: the root's ground, else the body's, else the browser's (CSS Backgrounds 3, 2.11.2). */
function groundColour(): Rgba {
  const base = canvasColour();
  for (const el of [document.documentElement, document.body]) {
    const colour = rgba(getComputedStyle(el).backgroundColor);
    if (colour.a > 0.02) return over(colour, base);
  }
  return base;
}

/** A colour of a picture with less of the page than this says nothing of it. Chosen by hand. */
const SPECK = 0.0005;

function fillsIn(painting: Painting, buttons: ReadonlySet<Element>, ground: Rgba): SeenFill[] {
  const areas = painting.areas();
  const tally = new Tally<SeenFill>((known, more) => {
    known.area += more.area;
  });
  for (const [n, layer] of painting.layers.entries()) {
    const area = areas[n] ?? 0;
    if (area === 0) continue;
    const role = roleOf(layer, buttons, ground);
    const region = layer.met?.region ?? 'page';
    const colour = hexOf(layer.colour);
    tally.count(`${role} ${region} ${colour} ${layer.mixed}`, {
      role,
      region,
      colour,
      area,
      mixed: layer.mixed,
      at: layer.met ? [pathOf(layer.met.el)] : ['body'],
    });
  }
  const whole = areas.reduce((sum, area) => sum + area, 0);
  return tally.most(300, (f) => f.area).filter((f) => !f.mixed || f.area >= whole * SPECK);
}

function roleOf(
  { met, colour, mixed }: Layer,
  buttons: ReadonlySet<Element>,
  ground: Rgba,
): SeenFill['role'] {
  if (!met) return 'ground';
  const { el, box } = met;
  if (el.matches('img,video,canvas,svg')) return 'picture';
  if (buttons.has(el)) return 'button';
  if (el.matches('input,textarea,select')) return 'field';
  if (!mixed && !differ(colour, ground)) return 'ground';
  if (box.w >= document.documentElement.clientWidth * 0.85 && box.h >= 24) return 'band';
  return box.w * box.h >= 4000 && box.h >= 24 ? 'card' : 'mark';
}

/**
 * The width that contents keep to: from the left edge that most of them share to the right edge that the wide ones reach. What spans
 * the whole window keeps to nothing.
 */
function columnOf(all: readonly Met[]): number {
  const { clientWidth } = document.documentElement;
  const isContent = ({ el, region, box }: Met): boolean =>
    (region === 'main' || region === 'page') &&
    box.w > 40 &&
    box.x > 4 &&
    box.x + box.w < clientWidth - 4 &&
    el.matches('p,h1,h2,h3,img,li,table,figure,form,article,section,div');
  const content = all.filter(isContent);
  const left = mostCommon(content.filter((m) => m.box.w > clientWidth / 5).map((m) => m.box.x));
  if (left === undefined) return 0;
  // Most contents stand in the middle of the window: there the right edge is known from the left one.
  const rights = content.map((m) => m.box.x + m.box.w).sort((a, b) => a - b);
  const reached = rights[Math.floor(rights.length * 0.97)] ?? 0;
  const mirrored = clientWidth - left;
  return Math.max(
    0,
    Math.round((Math.abs(reached - mirrored) < clientWidth * 0.2 ? mirrored : reached) - left),
  );
}

function mostCommon(values: readonly number[]): number | undefined {
  const counts = new Map<number, number>();
  for (const v of values) counts.set(Math.round(v), (counts.get(Math.round(v)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** Gaps between blocks that follow each other, in the main part. */
function gapsIn(all: readonly Met[]): number[] {
  const gaps: number[] = [];
  const main = all.filter(
    (m) =>
      (m.region === 'main' || m.region === 'page') &&
      m.el.matches('p,h1,h2,h3,h4,ul,ol,div,section,article,figure,li,form,blockquote'),
  );
  const boxes = new Map(main.map((m) => [m.el, m.box]));
  for (const { el, box } of main) {
    const next = el.nextElementSibling;
    const below = next ? boxes.get(next) : undefined;
    const gap = below ? Math.round(below.y - box.y - box.h) : 0;
    if (gap >= 4 && gap <= 160 && gaps.length < 400) gaps.push(gap);
  }
  return gaps;
}
