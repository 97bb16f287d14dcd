import type { SeenAtWidth } from './seen';

type Seen = SeenAtWidth['widgets'][number];
type Tried = Seen['spots'][number];

/** A window of a desk, in px. */
export const DESK = 1000;

/** What a header grows by when something makes a row of its own in it, in px. Chosen by hand. */
export const ROW = 24;

/**
 * Whether a cart cannot stand in a spot: nobody sees it there, it lies over something or something over it; at a desk also where it runs over
 * an edge, or makes a row of its own. On a phone a header is a stack anyway, and what has no room stands in the corner by itself.
 */
const isUnfit = (width: number, t: Tried): boolean =>
  !t.shows || t.overlaps || (width >= DESK && (t.leaves || t.spills || (t.apart && t.grows > ROW)));

/** Of spots that fit: how much a header changes for it, in points chosen by hand; the phone counts less. */
const costAt = (width: number, t: Tried): number =>
  (Math.max(0, t.grows) + Math.min(8, t.moves) * 15 + (t.apart ? 60 : 0) + (t.spills || t.leaves ? 60 : 0)) *
  (width >= DESK ? 2 : 0.5);

/**
 * Where a cart goes that cannot stand where it does, of the spots that were tried at every width: the number of the one that changes the
 * header least, `corner` where none will do. Nothing where it can stay: what is well placed is not moved to be placed a little better.
 */
export function betterSpot(seen: readonly SeenAtWidth[], placement: string): number | 'corner' | undefined {
  const at = seen.flatMap(({ width, widgets }) =>
    widgets.filter((w) => w.placement === placement && w.spots.length > 0).map((w) => ({ width, w })),
  );
  if (at.length < seen.length || at.length === 0) return undefined;
  const weighed = (at[0]?.w.spots ?? []).flatMap(({ n }) => {
    const each = at.flatMap(({ width, w }) => w.spots.filter((t) => t.n === n).map((t) => ({ width, t })));
    if (each.length < at.length) return [];
    // Of equals the likeliest, which stands first.
    const cost = each.reduce((sum, { width, t }) => sum + costAt(width, t), n);
    return [{ n, cost, fits: !each.some(({ width, t }) => isUnfit(width, t)) }];
  });
  const now = weighed.find((s) => s.n === -1);
  if (!now || now.fits) return undefined;
  const [best] = weighed.filter((s) => s.n >= 0 && s.fits).sort((a, b) => a.cost - b.cost);
  return best?.n ?? 'corner';
}
