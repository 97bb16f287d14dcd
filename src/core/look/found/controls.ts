import { converter } from 'culori';
import { contrast } from '../colour';
import { difference } from '../remedy';
import type { SeenBox, SeenPage } from '../seen';
import { median, Weights } from './tally';

const oklch = converter('oklch');

/** Boxes of one make, over all pages. */
interface Make {
  readonly box: SeenBox;
  readonly count: number;
  readonly pages: number;
}

/** What makes buttons of one kind, whatever they say and however wide they are. */
const makeOf = (b: SeenBox): string =>
  JSON.stringify([
    b.role,
    b.fill,
    b.ink,
    b.edge.width > 0 ? b.edge.colour : '',
    Math.round(b.radius),
    b.type.weight,
    b.type.transform,
  ]);

function makes(pages: readonly SeenPage[], role: SeenBox['role']): Make[] {
  const found = new Map<string, { boxes: SeenBox[]; count: number; pages: Set<string> }>();
  for (const page of pages)
    for (const box of page.boxes.filter((b) => b.role === role)) {
      const key = makeOf(box);
      const known = found.get(key) ?? { boxes: [], count: 0, pages: new Set<string>() };
      known.boxes.push(box);
      known.count += box.count;
      known.pages.add(page.page);
      found.set(key, known);
    }
  return [...found.values()].map((m) => ({ box: usual(m.boxes), count: m.count, pages: m.pages.size }));
}

/** Of boxes of one make the one whose height is the most common, with states where any of them tells some. */
function usual(boxes: readonly SeenBox[]): SeenBox {
  const heights = new Weights<SeenBox>();
  for (const b of boxes) heights.add(`${Math.round(b.height)} ${b.padX} ${b.type.size}`, b, b.count);
  const box = heights.heaviest ?? (boxes[0] as SeenBox);
  const states = boxes.find((b) => Object.keys(b.states).length > 0)?.states ?? {};
  return { ...box, states };
}

/** How far a button stands out from what lies behind it. */
function prominence({ box, count, pages }: Make): number {
  const isFilled = box.fill !== '' && difference(box.fill, box.on) > 6;
  const chroma = isFilled ? (oklch(box.fill)?.c ?? 0) : 0;
  return (
    (isFilled ? 3 : 0) +
    { primary: 2.5, button: 1, second: -1.5, '': 0 }[box.called] +
    (box.region === 'main' || box.region === 'page' ? 1 : 0) +
    Math.min(1.5, chroma * 10) +
    (isFilled ? Math.min(1, contrast(box.fill, box.on) / 8) : 0) +
    Math.log2(1 + count) * 0.35 +
    Math.log2(1 + pages) * 0.35
  );
}

/** The site's main button, and the one that steps back from it. */
export function buttonsOf(pages: readonly SeenPage[]): {
  readonly primary?: SeenBox;
  readonly second?: SeenBox;
} {
  const all = makes(pages, 'button');
  // What stands nowhere is only what a button would look like: it counts where there is none.
  const real = all.filter(({ box }) => box.at.length > 0);
  const ranked = (real.length ? real : all)
    .map((make) => ({ make, worth: prominence(make) }))
    .sort((a, b) => b.worth - a.worth)
    .map(({ make }) => make.box);
  const [primary] = ranked;
  if (!primary) return {};
  const differs = (b: SeenBox): boolean =>
    (b.fill === '') !== (primary.fill === '') ||
    (b.fill !== '' && difference(b.fill, primary.fill || b.on) > 4);
  const second = ranked.slice(1).find(differs);
  return { primary, ...(second && { second }) };
}

/** The field that most look like; those of searches in headers only where there is no other. */
export function fieldOf(pages: readonly SeenPage[]): SeenBox | undefined {
  const all = makes(pages, 'field');
  const inside = all.filter(({ box }) => box.region === 'main' || box.region === 'page');
  return (inside.length ? inside : all).sort((a, b) => b.count - a.count)[0]?.box;
}

export const cardOf = (pages: readonly SeenPage[]): SeenBox | undefined =>
  makes(pages, 'card')
    .filter((m) => m.count > 1)
    .sort((a, b) => b.count - a.count)[0]?.box;

export interface PictureUse {
  /** Corners in px, as most pictures have them. */
  readonly radius: number;
  /** Width over height of most of them; undefined where they are of all shapes. */
  readonly ratio: number | undefined;
}

/** Shapes within a twentieth of each other are one. */
const LIKE = 0.05;

export function picturesOf(pages: readonly SeenPage[]): PictureUse | undefined {
  const own = pages.flatMap((p) =>
    p.boxes.filter((b) => b.role === 'picture' && b.region !== 'header' && b.region !== 'menu'),
  );
  if (own.length === 0) return undefined;
  const radius = new Weights<number>();
  for (const b of own) radius.add(String(Math.round(b.radius)), b.radius, b.count);
  const ratios = own.map((b) => [b.width / Math.max(1, b.height), b.count] as const);
  const middle = median(ratios) ?? 1;
  const alike = ratios.filter(([r]) => Math.abs(r / middle - 1) < LIKE).reduce((sum, [, n]) => sum + n, 0);
  const all = ratios.reduce((sum, [, n]) => sum + n, 0);
  return {
    radius: radius.heaviest ?? 0,
    ratio: alike >= all * 0.6 ? Math.round(middle * 100) / 100 : undefined,
  };
}
