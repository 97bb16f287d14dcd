/**
 * How the site's menu fits where it stands. Whether there is room is found out by trying: a spacer is put at the end of
 * the menu, as wide as it may be before anything breaks, and taken out again before the page is drawn.
 */
export interface Item {
  text: string;
  x: number;
  w: number;
  top: number;
  el: HTMLElement;
}

/** Two lines of text are told apart by this many pixels. */
const LINE = 8;
const WIDEST = 900;
/** By less, a menu runs out of its own box in many a site, and nobody sees it. */
const OVER = 12;

/** Items of a menu's first level, as they stand. */
export function itemsOf(menu: Element): Item[] {
  const level = firstLevel(menu);
  return [...menu.querySelectorAll<HTMLElement>('a')]
    .filter((a) => depth(a, menu) === level && isShown(a))
    .map((a) => {
      const r = a.getBoundingClientRect();
      // Its words stand in the row: a link may be stretched to the height of a bar that has grown.
      const words = wordsOf(a);
      const line = words.width > 0 && words.height > 0 ? words : r;
      return {
        text: (a.textContent ?? '').replace(/\s+/g, ' ').trim(),
        x: r.left + scrollX,
        w: r.width,
        top: line.top + line.height / 2,
        el: a,
      };
    });
}

/** Drawn, and to be seen: what opens by a press may lie there meanwhile without any colour. */
export const isShown = (a: Element): boolean =>
  a.getClientRects().length > 0 &&
  (a.checkVisibility?.({ opacityProperty: true, visibilityProperty: true }) ?? true) &&
  getComputedStyle(a).visibility === 'visible' &&
  a.getBoundingClientRect().width > 1 &&
  !isInClosedFold(a);

/**
 * In a box that hides what runs out of it and has no height of its own: folded away, whatever stands where its items would
 * be.
 */
function isInClosedFold(a: Element): boolean {
  for (let up = a.parentElement; up && up !== document.body; up = up.parentElement)
    if (/^(hidden|clip)$/.test(getComputedStyle(up).overflowY) && up.getBoundingClientRect().height < 2)
      return true;
  return false;
}

/** Where the words of a link are. */
function wordsOf(a: HTMLElement): DOMRect {
  const range = document.createRange();
  range.selectNodeContents(a);
  return range.getBoundingClientRect();
}

/** Its words begin in the menu and run out of it, over what stands beside it. */
function runsOut(a: HTMLElement, menu: Element): boolean {
  const box = menu.getBoundingClientRect();
  const { left, right } = wordsOf(a);
  return left >= box.left - 1 && left < box.right && right > box.right + OVER;
}

/**
 * Its words begin where they are seen and end where they are not: beyond the window, or beyond what hides or scrolls what
 * runs out of it.
 */
function isClipped(a: HTMLElement): boolean {
  const { left, right, width } = wordsOf(a);
  if (width === 0) return false;
  let [from, to] = [0, document.documentElement.clientWidth];
  for (let up: HTMLElement | null = a; up && up !== document.body; up = up.parentElement) {
    if (getComputedStyle(up).overflowX === 'visible') continue;
    const box = up.getBoundingClientRect();
    [from, to] = [Math.max(from, box.left), Math.min(to, box.right)];
  }
  return left >= from - 1 && left < to - 1 && right > to + 1;
}

/**
 * Of nested lists only the first level stands in the row. In a bar the site's name may stand beside the list: where lists
 * hold half of the links, seen or folded away, only what is in them is the menu, as core/site/menu.ts reads it.
 */
function firstLevel(menu: Element): number {
  const depths = [...menu.querySelectorAll('a')].map((a) => depth(a, menu));
  const inLists = depths.filter((d) => d > 0);
  const isBar = !isList(menu) && inLists.length > 0 && inLists.length * 2 >= depths.length;
  return Math.min(...(isBar ? inLists : depths));
}

const isList = (el: Element): boolean => /^(UL|OL)$/.test(el.tagName);

const depth = (el: Element, root: Element): number => {
  let n = 0;
  for (let at = el.parentElement; at && at !== root; at = at.parentElement) if (isList(at)) n++;
  return n;
};

/** Rows that items stand in. */
export const rowsIn = (items: readonly Item[]): number => {
  const tops = items.map((i) => i.top).sort((a, b) => a - b);
  return tops.filter((t, n) => n === 0 || t - (tops[n - 1] ?? 0) > LINE).length;
};

/** The widest spacer after the last item that leaves the row as it is. */
function roomAfter(menu: Element, items: readonly Item[]): number {
  const last = items.at(-1)?.el;
  const holder = last?.closest('li') ?? last;
  if (!holder?.parentElement) return 0;
  const spacer = document.createElement(holder.tagName === 'LI' ? 'li' : 'span');
  spacer.setAttribute(
    'style',
    'display:inline-block!important;flex:none!important;height:1px!important;padding:0!important;margin:0!important;border:0!important;list-style:none!important',
  );
  const still = () =>
    [
      rowsIn(itemsOf(menu)),
      Math.round(menu.getBoundingClientRect().height),
      document.documentElement.scrollWidth,
    ].join();
  const before = still();
  holder.after(spacer);
  let [low, high] = [0, WIDEST];
  // The gap that a further item brings is in the figure already where the spacer of no width changes nothing.
  while (high - low > 1) {
    const mid = (low + high) / 2;
    spacer.style.setProperty('width', `${mid}px`, 'important');
    if (still() === before) low = mid;
    else high = mid;
  }
  spacer.remove();
  return Math.floor(low);
}

/** The cart alone, as narrow screens have it: 2.75 rem. */
const CART = 44;

/** Whether a cart at the end of the header stays inside the window; nothing where there is no header. */
function cartFits(): boolean | undefined {
  const head = document.querySelector('[data-stall-head]');
  if (!head) return undefined;
  const there = head.querySelector<HTMLElement>('stall-cart');
  if (there) return !there.hasAttribute('aside');
  const box = document.createElement('span');
  box.setAttribute(
    'style',
    `display:inline-block!important;width:${CART}px!important;height:${CART}px!important`,
  );
  head.append(box);
  const { left, right } = box.getBoundingClientRect();
  box.remove();
  return left >= -1 && right <= document.documentElement.clientWidth + 1;
}

/** One below the other, as on a phone. */
export function isStacked(items: readonly Item[]): boolean {
  const lefts = new Set(items.map((i) => Math.round(i.x)));
  return items.length > 1 && rowsIn(items) === items.length && lefts.size <= 2;
}

/**
 * Some of it stands in the window, and some of the same row beyond its edge; or the words of one item in a column are cut,
 * and those of others are not, or run out of the menu. What lies beyond the window as a whole is a drawer.
 */
export function isCut(items: readonly Item[], windowWidth: number, menu?: Element | null): boolean {
  const clipped = items.filter((i) => isClipped(i.el) || (menu && runsOut(i.el, menu))).length;
  if (clipped > 0 && clipped < items.length) return true;
  const ends = (i: Item) => i.x + i.w > windowWidth + 1 || i.x < -1;
  return items.some((i) => ends(i) && items.some((o) => !ends(o) && Math.abs(o.top - i.top) <= LINE));
}

export function tellMenu(menu: Element): void {
  const items = itemsOf(menu);
  const rows = rowsIn(items);
  const stacked = isStacked(items);
  const inRows = rows > 1 ? 'wraps' : 'line';
  const seen = stacked ? 'stacked' : inRows;
  const shape = items.length === 0 ? 'folded' : seen;
  const [first] = items;
  const style = first ? getComputedStyle(first.el) : undefined;
  const pad = style
    ? ['paddingLeft', 'paddingRight', 'borderLeftWidth', 'borderRightWidth'].reduce(
        (n, k) => n + Number.parseFloat(style[k as 'paddingLeft']) || n,
        0,
      )
    : 0;
  const gap = gapWithin(items);
  const needs = items.reduce((n, i) => n + i.w, 0) + gap * Math.max(0, items.length - 1);
  const box = menu.getBoundingClientRect();
  const head = menu.closest('header,[role=banner]') ?? menu;
  parent.postMessage(
    {
      stall: 'menu',
      shape,
      rows,
      height: box.height,
      gap,
      pad,
      bottom:
        Math.max(head.getBoundingClientRect().bottom, shape === 'stacked' ? box.bottom : 0) + scrollY + 4,
      items: items.map(({ text, x, w }) => ({ text, x, w })),
      free: shape === 'line' ? roomAfter(menu, items) : 0,
      over: shape === 'wraps' ? Math.max(1, needs - box.width) : 0,
      font: style ? `${style.fontStyle} ${style.fontWeight} ${style.fontSize} ${style.fontFamily}` : '',
      cartFits: cartFits(),
      letterSpacing: Number.parseFloat(style?.letterSpacing ?? '') || 0,
    },
    '*',
  );
}

/**
 * Between two items of a menu is no more than this, in px: what is more is the bar's own space, from the site's name to its
 * links.
 */
const WIDE = 64;
/** Where no two stand beside each other. */
const USUAL = 16;

/** What an item needs between itself and the one before it: the least that there is between two in a row. */
export function gapWithin(items: readonly Item[]): number {
  const gaps = items.slice(1).flatMap((b, n) => {
    const a = items[n];
    return a && Math.abs(a.top - b.top) < LINE ? [b.x - a.x - a.w] : [];
  });
  return gaps.length ? Math.max(0, Math.min(WIDE, ...gaps)) : USUAL;
}
