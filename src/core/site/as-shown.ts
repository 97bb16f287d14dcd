import { attr, bodyOf, type Document, type Element } from '../html/tree';
import { Cascade, type ComputedStyle } from '../look/cascade/computed-style';
import { lengthInPx } from '../look/cascade/lengths';
import type { Viewing } from '../look/cascade/media';
import type { RuleSet } from '../look/cascade/rules';
import { words } from '../look/cascade/shorthands';
import type { Outline } from './outline';
import { elementAt } from './regions';

/**
 * How a block stands on a wide screen, as far as style sheets alone tell: not at all, over the top of the page, or in a column
 * beside.
 */
export type Shown = 'hidden' | 'top' | 'aside';

/**
 * How blocks of one make stand, by their key in outlines: tag, id and classes are the same on all its pages. What stands in the
 * flow, and what has neither id nor class, is not in it.
 */
export type ShownBlocks = ReadonlyMap<number, Shown>;

/** The window that pages are read in. */
export const desktop: Viewing = { width: 1280, height: 800, scheme: 'light' };

/** As near as this to an edge of the window is at the edge, in px. Chosen by hand. */
const NEAR = 24;
/** A column takes no more than this share of the width. Chosen by hand. */
const COLUMN = 0.4;

/** How the blocks of a page stand by the rules it has. */
export function shownBlocks(doc: Document, outline: Outline, rules: RuleSet): ShownBlocks {
  const body = bodyOf(doc);
  const all = new Map<number, Set<Shown | undefined>>();
  if (!body || rules.rules.length === 0) return new Map();
  const cascade = new Cascade(rules, desktop);
  for (let i = 1; i < outline.count; i++) {
    const el = elementAt(body, outline.path(i));
    if (!el || !isNamed(el)) continue;
    const key = outline.key(i);
    all.set(key, (all.get(key) ?? new Set()).add(shownAs(cascade.styleOf(el), cascade.rem)));
  }
  // Blocks of one name that stand in several ways tell nothing.
  return new Map(
    [...all].flatMap(([key, ways]): [number, Shown][] => {
      const [only, ...others] = ways;
      return only && others.length === 0 ? [[key, only]] : [];
    }),
  );
}

/** Named by its maker, or one of the few that a page has. */
const isNamed = (el: Element): boolean =>
  Boolean(attr(el, 'id') ?? attr(el, 'class')) || /^(nav|aside|header|footer)$/.test(el.tagName);

function shownAs(style: ComputedStyle, rem: number): Shown | undefined {
  const px = (property: string) => lengthOf(style, property, rem);
  if (style.get('display') === 'none' || style.get('visibility') === 'hidden') return 'hidden';
  const width = px('width');
  const isNarrow = width !== undefined && width > 0 && width <= desktop.width * COLUMN;
  if (/^(fixed|absolute)$/.test(style.get('position')))
    return isOutOfSight(px('left'), width) ? 'hidden' : overFlow(px, width, isNarrow);
  return isNarrow && /^(left|right)$/.test(style.get('float')) ? 'aside' : undefined;
}

/** Put far out of the window, or made the size of a dot: words for readers of screens. */
const isOutOfSight = (left = 0, width?: number): boolean =>
  left <= -desktop.width || (width !== undefined && width <= 1);

/** What is taken out of the flow: a column at an edge, or a bar over the top. */
function overFlow(
  px: (property: string) => number | undefined,
  width: number | undefined,
  isNarrow: boolean,
): Shown | undefined {
  const [top, right, bottom, left] = ['top', 'right', 'bottom', 'left'].map((side) => isAtEdge(px(side)));
  if (isNarrow) return left || right ? 'aside' : undefined;
  const isWide = (left && right) || (width !== undefined && width >= desktop.width * (1 - COLUMN));
  return top && !bottom && isWide ? 'top' : undefined;
}

const isAtEdge = (there: number | undefined): boolean => there !== undefined && Math.abs(there) <= NEAR;

/** A length in px; undefined where there is none, or it hangs on what stands around. */
function lengthOf(style: ComputedStyle, property: string, rem: number): number | undefined {
  const whole = property === 'top' || property === 'bottom' ? desktop.height : desktop.width;
  const value = style.get(property) || (property === 'width' ? '' : inset(style, property));
  return value ? lengthInPx(value, { em: style.size, rem, whole, viewport: desktop }) : undefined;
}

/** `inset` names all four sides, as `margin` does (CSS Position 3). */
function inset(style: ComputedStyle, side: string): string {
  const [top = '', right = top, bottom = top, left = right] = words(style.get('inset'));
  return { top, right, bottom, left }[side] ?? '';
}
