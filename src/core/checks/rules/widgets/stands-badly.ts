import { betterSpot, DESK, ROW } from '../../cart-spot';
import type { Found, Mend } from '../../finding';
import { onPage, openBench, type Rule } from '../../rule';
import type { SeenAtWidth } from '../../seen';
import type { Subject } from '../../subject';
import type { WrittenPage } from '../../written/facts';

type Seen = SeenAtWidth['widgets'][number];

/** A way in which a widget stands badly in the real page. */
interface Fault {
  readonly is: string;
  /** `inHeader`: it was put into the header, or into the bar beside it. */
  readonly test: (w: Seen, at: SeenAtWidth, inHeader: boolean) => boolean;
  readonly title: (w: Seen, at: SeenAtWidth) => string;
  readonly meets: string;
  readonly weight: 'sale' | 'broken' | 'hard';
  readonly step: string;
}

const faults: readonly Fault[] = [
  {
    is: 'no size',
    test: (w) => w.width < 2 || w.height < 2,
    title: () => 'It has no size',
    meets: 'There is nothing to see and nothing to press.',
    weight: 'sale',
    step: 'What it stands in is hidden or has no width. Place it elsewhere.',
  },
  {
    is: 'out of view',
    test: (w, at) => w.width >= 2 && (w.x + w.width <= 0 || w.x >= at.pageWidth),
    title: () => 'It stands outside the page',
    meets: 'Nobody sees it: it was pushed over the edge.',
    weight: 'sale',
    step: 'Place it elsewhere in the header, or in the corner.',
  },
  {
    is: 'covered',
    test: (w) => w.width >= 2 && w.coveredBy !== '',
    title: (w) => `It is covered by ${w.coveredBy}`,
    meets: 'They see it and cannot press it.',
    weight: 'sale',
    step: 'Place it where nothing lies above it.',
  },
  {
    is: 'covers',
    test: (w) => w.width >= 2 && w.covers !== '',
    title: (w) => `It covers ${w.covers}`,
    meets: 'What lies below it can neither be read nor pressed.',
    weight: 'broken',
    step: 'Place it where nothing else stands.',
  },
  {
    is: 'too wide',
    test: (w, at) => w.x >= 0 && w.width > w.column + 2 && w.x + w.width > at.pageWidth + 1,
    title: (w) => `It is ${Math.round(w.width)} px wide in a column of ${Math.round(w.column)}`,
    meets: 'The page can be pushed to the side.',
    weight: 'broken',
    step: 'Show fewer columns, or place it in a wider part.',
  },
  {
    is: 'own row',
    // On a phone a header is a stack anyway.
    // In the row of the menu it makes a low bar taller, by less than it is high itself.
    test: (w, at, inHeader) =>
      at.width >= DESK && w.kind === 'cart' && inHeader && w.grows > Math.max(ROW, w.height - 4),
    title: (w) => `The cart makes the header ${Math.round(w.grows)} px taller`,
    meets: 'It stands in a row of its own, under the menu, and pushes the page down.',
    weight: 'broken',
    step: 'Place the cart inside the row that the menu stands in.',
  },
  {
    is: 'hides',
    // 2 px are roundings.
    test: (w) => w.hides > 2,
    title: (w) => `The frame hides ${Math.round(w.hides)} px of what is in it`,
    meets: 'The page scrolls, and the shop inside scrolls as well; or its end is cut off.',
    weight: 'broken',
    step: 'Take the height of frames out of your style sheet, or write the widget as an element.',
  },
  {
    is: 'small targets',
    test: (w) => w.smallTargets > 0,
    title: (w) => `${w.smallTargets} of its targets are smaller than 24 px`,
    meets: 'On a phone the finger meets the neighbour (WCAG 2.2, 2.5.8).',
    weight: 'hard',
    step: 'Make the text of the shop larger (Look), or give the widget more room.',
  },
  {
    is: 'shift',
    test: (w) => w.shifted > 8,
    title: (w) => `It pushes the page by ${Math.round(w.shifted)} px while it loads`,
    meets: 'What they were about to press moves away under the finger.',
    weight: 'broken',
    step: 'Place the widget once more: the room that it needs is kept then.',
  },
];

export const standsBadly: Rule = {
  name: 'stands-badly',
  about:
    'A widget that in the real page is out of view, without size, covered, over something else, wider than the page, in a row of its own in the header, a frame that does not show all that is in it, pushes others while loading, or has targets under 24 px. Seen by a browser.',
  weight: 'broken',
  reads: ['pages', 'seen'],
  *find(s) {
    for (const p of s.pages) {
      const seen = s.seen.get(p.path);
      if (seen) yield* onOnePage(s, p, seen.at);
    }
  },
};

/** Faults that a cart has because of where it stands. */
const ofPlace = new Set(['no size', 'out of view', 'covered', 'covers', 'own row']);

/** A cart to where there is room for it, or into the corner where there is none. */
function elsewhere(s: Subject, p: WrittenPage, widths: readonly SeenAtWidth[], placement: string): Mend[] {
  const to = betterSpot(widths, placement);
  // Pages of the shop have the header of one of the owner's.
  if (to === undefined || p.part !== '' || !s.placements.has(placement)) return [];
  const label = to === 'corner' ? 'Let it float in the corner' : 'Move it to where there is room';
  return [{ do: 'spot', label, placement, page: p.path, n: to }];
}

function* onOnePage(s: Subject, p: WrittenPage, widths: readonly SeenAtWidth[]): Generator<Found> {
  const met = new Set<string>();
  for (const w of widths.flatMap((at) => at.widgets))
    for (const fault of faults) {
      const key = `${w.placement || w.kind} ${fault.is}`;
      if (met.has(key)) continue;
      met.add(key);
      const found = faultOf(s, p, widths, w, fault);
      if (found) yield found;
    }
}

/** One fault of one widget, with the widths at which it has it. */
function faultOf(
  s: Subject,
  p: WrittenPage,
  widths: readonly SeenAtWidth[],
  { placement, kind }: Seen,
  fault: Fault,
): Found | undefined {
  const inHeader = s.placements.get(placement)?.pitch.region === 'header';
  const where = widths.flatMap((at) => {
    const w = at.widgets.find((x) => x.placement === placement && fault.test(x, at, inHeader));
    return w ? [{ width: at.width, title: fault.title(w, at) }] : [];
  });
  const [first] = where;
  if (!first) return undefined;
  const all = where.map((o) => o.width);
  return {
    about: `${p.path} ${placement || kind} ${fault.is}`,
    place: onPage(
      p,
      p.widgets.find((x) => x.placement === placement),
    ),
    title: `${first.title} (at ${all.join(', ')} px)`,
    meets: fault.meets,
    weight: fault.weight,
    facts: all,
    mends: [
      ...(ofPlace.has(fault.is) ? elsewhere(s, p, widths, placement) : []),
      openBench(p.path, fault.step),
    ],
  };
}
