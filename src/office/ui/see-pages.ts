import { type SeenPage, seenPage } from '../../core/checks/seen';
import type { ChecksView } from '../../services/checks/checks';
import { answerFrom, askFrame, hiddenFrame } from './frames';

/** Widths that pages are looked at, in CSS pixels: a desk, a tablet, a phone. */
const widths = [1280, 820, 390] as const;
const HEIGHT = 800;

type ToSee = ChecksView['toSee'][number];

/** Looks at pages of the draft as shoppers meet them, one after the other, at three widths each. */
export async function* seePages(
  draftUrl: string,
  pages: readonly ToSee[],
  signal: AbortSignal,
): AsyncGenerator<SeenPage> {
  for (const page of pages) {
    if (signal.aborted) return;
    const seen = await seeOne(draftUrl, page, signal);
    if (seen) yield seen;
  }
}

async function seeOne(draftUrl: string, page: ToSee, signal: AbortSignal): Promise<SeenPage | undefined> {
  const src = (view: string) => `${draftUrl}/${encodeURI(page.path)}?stall=${view}`;
  const now = await seeAt(src('check'), signal);
  // The menu as it stands on the owner's own page; the shop's pages have none of their own.
  const before = page.built ? [] : await seeAt(src('look'), signal);
  if (now.length < widths.length) return undefined;
  const read = seenPage.safeParse({
    path: page.path,
    version: page.version,
    at: now.map(({ seen }, n) => ({
      ...seen,
      menuRowsBefore: rowsOf(before[n]?.seen),
      menuCutBefore: isCutIn(before[n]?.seen),
    })),
    fontsMissing: now[0]?.fonts ?? [],
  });
  return read.success ? read.data : undefined;
}

const rowsOf = (seen: object | undefined): number =>
  seen && 'menuRows' in seen && typeof seen.menuRows === 'number' ? seen.menuRows : 0;

const isCutIn = (seen: object | undefined): boolean =>
  seen !== undefined && 'menuCut' in seen && seen.menuCut === true;

/** One page in a frame that is made narrower. What a site's own scripts may send in its place is read as strictly. */
async function seeAt(src: string, signal: AbortSignal): Promise<{ seen: object; fonts: unknown }[]> {
  const frame = hiddenFrame(widths[0], HEIGHT);
  const ready = answerFrom(frame, (data) => data.stall === 'ready', signal);
  frame.src = src;
  document.body.append(frame);
  try {
    if (!(await ready)) return [];
    const out: { seen: object; fonts: unknown }[] = [];
    for (const width of widths) {
      frame.style.width = `${width}px`;
      const answer = await askFrame(frame, { stall: 'see' }, 'seen', signal);
      if (typeof answer?.seen !== 'object' || answer.seen === null) break;
      out.push({ seen: answer.seen, fonts: answer.fonts });
    }
    return out;
  } finally {
    frame.remove();
  }
}
