/**
 * How widgets stand in the real page: where, how large, covered by what, with targets how small, and what they push while they load. And how
 * the menu stands, in as many rows as it takes.
 */
import { coversOf, nameOf, type SpotTried, trySpots } from './cart-spots';
import { endWatching, pushed, watchGrowing } from './growing';
import { seeMenu } from './menu-seen';

/** Least side of a target: WCAG 2.2, 2.5.8. */
const TARGET = 24;
/** Until nothing moves any more, and at most, in milliseconds. */
const STILL_MS = 350;
const MOST_MS = 2_500;
/** Until the page is loaded, at most. All waiting together stays below the office's patience (ui/frames.ts), or nothing is seen at all. */
const LOAD_MS = 3_500;
const FONTS_MS = 1_000;
const FRAMES_MS = 800;

/** What frames of ours said how tall they are inside. */
const tall = new Map<MessageEventSource, number>();

/** The office asks; the answer says what was asked. */
export function answerChecking(): void {
  watchGrowing(widgetsHere);
  addEventListener('message', (e) => {
    const asked = e.data as { stall?: unknown; id?: unknown; stallHeight?: unknown } | null;
    if (e.source && Number(asked?.stallHeight) > 0) tall.set(e.source, Number(asked?.stallHeight));
    if (e.source === parent && asked?.stall === 'see') void answer(Number(asked.id));
  });
}

/** The page and what it holds, but no longer than a page may take. */
const loaded = (): Promise<unknown> =>
  document.readyState === 'complete'
    ? Promise.resolve()
    : Promise.race([
        new Promise((there) => addEventListener('load', there, { once: true })),
        new Promise((soon) => setTimeout(soon, LOAD_MS)),
      ]);

/**
 * Frames of ours far down a long page come when a shopper scrolls there: here they come at once, and are waited for until they have said how
 * tall they are.
 */
async function framesThere(): Promise<void> {
  const frames = widgetsHere().filter(isFrame);
  for (const frame of frames) frame.loading = 'eager';
  await loaded();
  const isSilent = (f: HTMLIFrameElement) => f.contentWindow && !tall.has(f.contentWindow);
  const end = performance.now() + FRAMES_MS;
  for (
    let silent = frames.find(isSilent);
    silent && performance.now() < end;
    silent = frames.find(isSilent)
  ) {
    // Browsers let frames sleep that are out of sight.
    silent.scrollIntoView({ block: 'center', behavior: 'instant' });
    await new Promise((soon) => setTimeout(soon, 60));
  }
  scrollTo(0, 0);
}

async function answer(id: number): Promise<void> {
  await framesThere();
  await Promise.race([document.fonts.ready, new Promise((soon) => setTimeout(soon, FONTS_MS))]);
  await still();
  await settled();
  parent.postMessage({ stall: 'seen', id, seen: seeAll(), fonts: missingFonts() }, '*');
  endWatching();
}

/** Waits until the page keeps its height for a while. */
async function still(): Promise<void> {
  const end = performance.now() + MOST_MS;
  for (let since = performance.now(), was = -1; performance.now() < end; ) {
    const now = document.documentElement.scrollHeight;
    if (now !== was) [was, since] = [now, performance.now()];
    if (performance.now() - since > STILL_MS) return;
    await new Promise((soon) => setTimeout(soon, 60));
  }
}

/**
 * What the site's own styles move comes to its end at once: a drawer that slides out as the window narrows lies over nothing then. What goes
 * round for ever goes on.
 */
async function settled(): Promise<void> {
  for (const a of document.getAnimations())
    try {
      a.finish();
    } catch {
      // One without an end, or that stands still, goes on as it is.
    }
  await new Promise((soon) => setTimeout(soon, 60));
}

const missingFonts = (): string[] => [
  ...new Set([...document.fonts].filter((f) => f.status === 'error').map((f) => f.family.replace(/"/g, ''))),
];

/** Widgets of the page: elements, and frames that stand by themselves. */
const widgetsHere = (): HTMLElement[] =>
  [...document.querySelectorAll<HTMLElement>('[placement],iframe[src*="via="]')].filter(
    (el) => !el.hidden && (el.localName.startsWith('stall-') || isFrame(el)),
  );

const isFrame = (el: Element): el is HTMLIFrameElement => el.localName === 'iframe';

/** The widget's placement and kind; a frame says both in its address. */
function widgetOf(el: HTMLElement): { placement: string; kind: string } {
  if (!isFrame(el))
    return { placement: el.getAttribute('placement') ?? '', kind: el.localName.slice('stall-'.length) };
  const { pathname, searchParams } = new URL(el.src, location.href);
  return { placement: searchParams.get('via') ?? '', kind: /\/frame\/([a-z-]+)/.exec(pathname)?.[1] ?? '' };
}

function seeAll() {
  const there = widgetsHere();
  const widgets = there.map(see);
  const menu = seeMenu();
  // Last, because it moves what was looked at.
  there.forEach((el, n) => {
    const seen = widgets[n];
    if (seen && el.localName === 'stall-cart') seen.spots = trySpots(el);
  });
  scrollTo(0, 0);
  return {
    width: innerWidth,
    pageWidth: document.documentElement.clientWidth,
    widgets,
    ...menu,
  };
}

function see(el: HTMLElement) {
  const shown = shownOf(el);
  const { left, top, width, height } = shown.getBoundingClientRect();
  const y = top + scrollY;
  const grows = growsBy(el);
  return {
    ...widgetOf(el),
    x: left + scrollX,
    y,
    width,
    height,
    column: el.parentElement?.clientWidth ?? 0,
    coveredBy: width > 1 && height > 1 ? coverOf(el, shown) : '',
    covers: el.localName === 'stall-cart' ? coversOf(el, shown) : '',
    spots: [] as SpotTried[],
    smallTargets: smallTargets(el),
    grows,
    hides: hiddenIn(el),
    // In a row that is as tall without it, it pushes nothing.
    shifted: Math.min(pushed(el), grows),
  };
}

/** How much taller what it stands in is with it than without it. */
function growsBy(el: HTMLElement): number {
  const around = el.parentElement;
  if (!around) return 0;
  const { display } = el.style;
  const before = around.getBoundingClientRect().height;
  el.style.setProperty('display', 'none', 'important');
  const without = around.getBoundingClientRect().height;
  el.style.display = display;
  return Math.max(0, before - without);
}

/** How much of a frame's inside lies below its edge: it has a scroll bar of its own, or is cut. */
const hiddenIn = (el: HTMLElement): number => {
  const inside = isFrame(el) && el.contentWindow ? (tall.get(el.contentWindow) ?? 0) : 0;
  return Math.max(0, inside - el.clientHeight);
};

/** What of a widget is seen: of a button and a basket the thing itself, and not the room that is kept for it. */
const shownOf = (el: HTMLElement): Element =>
  (el.localName === 'stall-buy' || el.localName === 'stall-cart'
    ? el.shadowRoot?.querySelector('[part~=button],[part~=link]')
    : undefined) ?? el;

/** What lies over its middle: as the page opens, and when it is scrolled to. */
function coverOf(el: HTMLElement, shown: Element): string {
  scrollTo(0, 0);
  const first = shown.getBoundingClientRect();
  const above = first.bottom <= innerHeight ? topAt(el, first) : '';
  if (above) return above;
  el.scrollIntoView({ block: 'center', behavior: 'instant' });
  return topAt(el, shown.getBoundingClientRect());
}

function topAt(el: HTMLElement, { left, top, width, height }: DOMRect): string {
  const [x, y] = [left + width / 2, top + Math.min(height, innerHeight) / 2];
  if (x < 0 || y < 0 || x >= innerWidth || y >= innerHeight) return '';
  const there = document.elementFromPoint(x, y);
  if (!there || there === el || el.contains(there) || there.contains(el)) return '';
  return nameOf(there);
}

/** Things to press that are smaller than they may be. Links in the middle of text are let off, as the rule has it. */
function smallTargets(el: HTMLElement): number {
  const all =
    el.shadowRoot?.querySelectorAll<HTMLElement>('button,select,input:not([type=hidden]),a[href]') ?? [];
  return [...all].filter((t) => {
    const { width, height } = t.getBoundingClientRect();
    const isSeen = width > 1 && height > 1 && getComputedStyle(t).visibility === 'visible';
    const isInText = t.localName === 'a' && getComputedStyle(t).display === 'inline';
    return isSeen && !isInText && (width < TARGET - 0.5 || height < TARGET - 0.5);
  }).length;
}
