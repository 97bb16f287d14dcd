import { PAGE_MAY } from './page-says';

/** Pages of the draft in frames that nobody sees, asked one thing after the other. */

/** How long one answer is waited for, in milliseconds. */
const PATIENCE = 8000;

export type Answer = Readonly<Record<string, unknown>>;

/** A frame behind everything, in the window: browsers would not lay it out elsewhere. */
export function hiddenFrame(width: number, height: number): HTMLIFrameElement {
  const frame = document.createElement('iframe');
  frame.setAttribute('aria-hidden', 'true');
  frame.setAttribute('sandbox', PAGE_MAY);
  frame.tabIndex = -1;
  frame.style.cssText = `position:fixed;left:0;top:0;width:${width}px;height:${height}px;border:0;opacity:0;pointer-events:none;z-index:-1`;
  return frame;
}

/** The first message of a frame that is the one which is waited for; nothing where none comes. */
export function answerFrom(
  frame: HTMLIFrameElement,
  isIt: (data: Answer) => boolean,
  signal: AbortSignal,
): Promise<Answer | undefined> {
  return new Promise((resolve) => {
    const end = (data?: Answer) => {
      removeEventListener('message', hear);
      clearTimeout(timer);
      resolve(data);
    };
    const hear = (e: MessageEvent<unknown>) => {
      if (e.source !== frame.contentWindow || typeof e.data !== 'object' || e.data === null) return;
      const data = e.data as Answer;
      if (isIt(data)) end(data);
    };
    const timer = setTimeout(end, PATIENCE);
    addEventListener('message', hear);
    signal.addEventListener('abort', () => end(), { once: true });
  });
}

let asked = 0;

/** Asks a frame, and waits for the answer to this very question. */
export async function askFrame(
  frame: HTMLIFrameElement,
  question: { readonly stall: string } & Answer,
  answers: string,
  signal: AbortSignal,
): Promise<Answer | undefined> {
  const id = ++asked;
  const answer = answerFrom(frame, (data) => data.stall === answers && data.id === id, signal);
  frame.contentWindow?.postMessage({ ...question, id }, '*');
  return answer;
}
