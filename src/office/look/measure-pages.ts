import { findLook, type Found } from '../../core/look/found/found';
import { type SeenPage, seenPage } from '../../core/look/seen';
import type { LookView } from '../../services/sites/look-view';
import { answerFrom, askFrame, hiddenFrame } from '../ui/frames';

/** Widths that pages are looked at, in CSS pixels: a phone, a tablet, a desk. */
const widths = [1280, 820, 390] as const;
const HEIGHT = 800;
/** Frames at work at a time. */
const AT_ONCE = 3;

export interface Measuring {
  readonly draftUrl: string;
  readonly pages: LookView['pages'];
  readonly onProgress: (done: number, all: number, page: string) => void;
  readonly signal: AbortSignal;
}

/**
 * Measures the pages in frames of the draft, at three widths, by day and where the site has it by night. Pages that do not answer are
 * left out and named.
 */
export async function measurePages({ draftUrl, pages, onProgress, signal }: Measuring): Promise<Found> {
  const seen: SeenPage[] = [];
  const missed: string[] = [];
  const queue = [...pages];
  let done = 0;
  const work = async (): Promise<void> => {
    for (let page = queue.shift(); page && !signal.aborted; page = queue.shift()) {
      const found = await measureOne(`${draftUrl}${page.address}?stall=look`, page.path, signal);
      if (found.length) seen.push(...found);
      else missed.push(page.name);
      onProgress(++done, pages.length, page.name);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  signal.throwIfAborted();
  // In the order of the pages, whichever frame was first: the same site is read the same each time.
  const order = new Map(pages.map((p, n) => [p.path, n]));
  seen.sort((a, b) => (order.get(a.page) ?? 0) - (order.get(b.page) ?? 0) || b.width - a.width);
  const found = findLook(seen, 'measured');
  return { ...found, cannot: [...found.cannot, ...missed].slice(0, 20) };
}

async function measureOne(src: string, path: string, signal: AbortSignal): Promise<SeenPage[]> {
  const frame = hiddenFrame(widths[0], HEIGHT);
  const ready = answerFrom(frame, (data) => data.stall === 'ready', signal);
  frame.src = src;
  document.body.append(frame);
  try {
    if (!(await ready)) return [];
    const seen: SeenPage[] = [];
    for (const width of widths) {
      frame.style.width = `${width}px`;
      const one = await ask(frame, path, false, signal);
      if (!one) break;
      seen.push(one);
      if (width === widths[0] && one.hasDark) {
        const night = await ask(frame, path, true, signal);
        if (night) seen.push(night);
      }
    }
    return seen;
  } finally {
    frame.remove();
  }
}

/** One measurement; what a site's own scripts may send in its place is no measurement. */
async function ask(
  frame: HTMLIFrameElement,
  page: string,
  dark: boolean,
  signal: AbortSignal,
): Promise<SeenPage | undefined> {
  const answer = await askFrame(frame, { stall: 'measure', page, dark }, 'measured', signal);
  const read = seenPage.safeParse(answer?.seen);
  return read.success ? { ...read.data, page } : undefined;
}
