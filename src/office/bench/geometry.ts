import type { Pitch } from '../../core/site/pitch';
import type { Layout as PageLayout } from '../ui/page-says';

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}
export type Layout = Pick<PageLayout, 'height' | 'anchors' | 'widgets'>;

/** A pitch as it lies on the drawn page: a line across, or upright between things that stand side by side. */
export interface PitchLine extends Box {
  readonly index: number;
  readonly upright: boolean;
  /** Stands between the largest blocks of its region: shown without being asked for. */
  readonly main: boolean;
}

/** Where pitches lie, from what the page told of its elements. Pitches of hidden elements have no line. */
export function pitchLines(pitches: readonly Pitch[], layout: Layout): PitchLine[] {
  const boxes = new Map(layout.anchors.map((a) => [a.n, a]));
  const mates = neighbours(pitches, boxes);
  const shallow = shallowest(pitches);
  return pitches.flatMap((pitch, index) => {
    const box = boxes.get(pitch.anchorAt);
    if (!box || box.w < 2 || box.h < 1) return [];
    const upright = (mates.get(box) ?? []).some((m) => overlap(m, box) > Math.min(m.h, box.h) / 2);
    const { side } = pitch.address;
    const late = side === 'after' || side === 'end';
    const line = upright
      ? { x: late ? box.x + box.w : box.x, y: box.y, w: 0, h: box.h }
      : { x: box.x, y: late ? box.y + box.h : box.y, w: box.w, h: 0 };
    return [{ index, upright, main: !upright && shallow.has(pitch), ...line }];
  });
}

/** What stands next to each box in its container, to either side; containers hold thousands. */
function neighbours(pitches: readonly Pitch[], boxes: ReadonlyMap<number, Box>): Map<Box, Box[]> {
  const rows = new Map<number, Box[]>();
  for (const p of pitches) {
    const box = boxes.get(p.anchorAt);
    if (!box || box.w <= 2) continue;
    const row = rows.get(p.containerAt);
    if (!row) rows.set(p.containerAt, [box]);
    else if (row.at(-1) !== box) row.push(box);
  }
  const out = new Map<Box, Box[]>();
  for (const row of rows.values())
    for (const [i, box] of row.entries())
      out.set(
        box,
        [row[i - 1], row[i + 1]].filter((b): b is Box => b !== undefined && b !== box),
      );
  return out;
}

const overlap = (a: Box, b: Box): number => Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y);

function shallowest(pitches: readonly Pitch[]): Set<Pitch> {
  const depth = (p: Pitch) => p.address.path.split('/').length;
  const main = pitches.filter((p) => p.region === 'main' && p.address.path !== '');
  const least = Math.min(...main.map(depth));
  return new Set(main.filter((p) => depth(p) === least));
}

/** The pitch nearest to a point of the page; deeper ones win when as near, so that a column can be reached. */
export function nearest(lines: readonly PitchLine[], x: number, y: number): PitchLine | undefined {
  const away = (l: PitchLine) =>
    Math.hypot(Math.max(l.x - x, 0, x - l.x - l.w), Math.max(l.y - y, 0, y - l.y - l.h)) + l.w / 100_000;
  return [...lines].sort((a, b) => away(a) - away(b))[0];
}
