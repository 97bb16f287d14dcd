import { contrast } from '../../../look/colour';
import { needs } from '../../../look/remedy';
import { go, onPage, ownPages, type Rule } from '../../rule';
import type { SeenAtWidth } from '../../seen';
import type { Subject } from '../../subject';

/** Least contrast of the menu's letters at one width; nothing where no letters were seen, or a picture lies behind them. */
function least({ menuColours }: SeenAtWidth): number | undefined {
  return menuColours.length
    ? Math.min(...menuColours.map(({ ink, ground }) => contrast(ink, ground)))
    : undefined;
}

/** Widths at which the menu is as faint on the owner's own pages: that is how they made it. */
const ownFaint = (s: Subject): ReadonlySet<number> =>
  new Set(
    ownPages(s).flatMap((p) =>
      (s.seen.get(p.path)?.at ?? []).filter((at) => (least(at) ?? 21) < needs.large).map((at) => at.width),
    ),
  );

export const menuUnreadable: Rule = {
  name: 'menu-unreadable',
  about:
    "On the shop's pages the menu can hardly be read, though it can on the others: what it lay on belongs to a page's content. Seen by a browser.",
  weight: 'hard',
  reads: ['pages', 'seen'],
  *find(s) {
    const usual = ownFaint(s);
    for (const p of s.pages) {
      if (p.part === '') continue;
      const bad = (s.seen.get(p.path)?.at ?? []).filter(
        (at) => !usual.has(at.width) && (least(at) ?? 21) < needs.large,
      );
      const [first] = bad;
      if (!first) continue;
      yield {
        about: p.path,
        place: onPage(p),
        title: `The menu can hardly be read: ${(least(first) ?? 1).toFixed(1)} to 1 (at ${bad.map((at) => at.width).join(', ')} px)`,
        meets: 'The menu seems to be gone on the way to the checkout.',
        facts: bad.map((at) => at.width),
        mends: [
          go(
            'Open the pages',
            'site',
            {},
            'Mark the band that the menu lies on as the header (the page, Regions): then the pages of the shop have it, too.',
          ),
        ],
      };
    }
  },
};
