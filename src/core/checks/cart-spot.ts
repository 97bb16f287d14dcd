import type { SeenAtWidth } from './seen';

type Seen = SeenAtWidth['widgets'][number];
type Tried = Seen['spots'][number];

/** A window of a desk, in px. */
export const DESK = 1000;

/**
 * What is wrong with a spot at one width, in points; chosen by hand: what nobody sees or what hides something is worse than anything else,
 * then a header that grows or breaks into rows, then a cart in a row of its own.
 */
function costAt(width: number, t: Tried): number {
  const isDesk = width >= DESK;
  // On a phone it stands in the corner then, by itself.
  const leaving = isDesk ? 300 : 40;
  const spilling = isDesk ? 250 : 90;
  const apart = isDesk ? 60 : 15;
  return (
    (t.shows ? 0 : 1000) +
    (t.overlaps ? 600 : 0) +
    (t.leaves ? leaving : 0) +
    Math.min(100, Math.max(0, t.grows - 4)) * (isDesk ? 3 : 0.5) +
    Math.min(8, t.moves) * 15 +
    (t.spills ? spilling : 0) +
    // On a phone a header is a stack anyway.
    (t.apart ? apart : 0)
  );
}

/** Better by less is not worth a move; and what costs more is no place to stand. */
const WORTH = 40;
const UNFIT = 250;

/**
 * The spot where a cart stands best on a page, of those that were tried at every width: its number; `corner` where none will do; nothing
 * where it is best where it is.
 */
export function betterSpot(seen: readonly SeenAtWidth[], placement: string): number | 'corner' | undefined {
  const at = seen.flatMap(({ width, widgets }) =>
    widgets.filter((w) => w.placement === placement && w.spots.length > 0).map((w) => ({ width, w })),
  );
  if (at.length < seen.length || at.length === 0) return undefined;
  const costs = (at[0]?.w.spots ?? []).flatMap(({ n }) => {
    const each = at.flatMap(({ width, w }) => w.spots.filter((t) => t.n === n).map((t) => costAt(width, t)));
    // Of equals the likeliest, which stands first.
    return each.length < at.length ? [] : [{ n, cost: each.reduce((a, b) => a + b, 0) + Math.max(0, n) }];
  });
  const now = costs.find((c) => c.n === -1)?.cost;
  const [best] = costs.filter((c) => c.n >= 0).sort((a, b) => a.cost - b.cost);
  if (now === undefined) return undefined;
  if (best && best.cost < UNFIT && best.cost + WORTH <= now) return best.n;
  return now >= UNFIT && (best?.cost ?? UNFIT) >= UNFIT ? 'corner' : undefined;
}
