import { measure } from './measure';

/** The office asks a framed page to be measured, as often as it wants; the answer says what was asked. */
export function answerMeasuring(): void {
  addEventListener('message', (e) => {
    const asked = e.data as {
      stall?: unknown;
      id?: unknown;
      page?: unknown;
      dark?: unknown;
      show?: unknown;
    } | null;
    if (e.source !== parent) return;
    if (asked?.stall === 'measure')
      void answer(Number(asked.id), String(asked.page ?? ''), asked.dark === true);
    if (asked?.stall === 'show' && Array.isArray(asked.show)) show(asked.show.map(String));
  });
  parent.postMessage({ stall: 'ready' }, '*');
}

async function answer(id: number, page: string, dark: boolean): Promise<void> {
  const back = { stall: 'measured', id };
  try {
    await Promise.race([document.fonts.ready, new Promise((soon) => setTimeout(soon, 1500))]);
    parent.postMessage({ ...back, seen: await measure(page, dark) }, '*');
  } catch (error) {
    parent.postMessage({ ...back, problem: String(error).slice(0, 300) }, '*');
  }
}

/** Rings around the places that were asked for, the first brought into view. */
function show(paths: readonly string[]): void {
  for (const old of document.querySelectorAll('[data-stall-ring]')) old.remove();
  const found = paths.slice(0, 12).flatMap((path) => {
    try {
      return [...document.querySelectorAll(path)];
    } catch {
      return [];
    }
  });
  for (const el of found) {
    const { left, top, width, height } = el.getBoundingClientRect();
    const ring = document.createElement('div');
    ring.setAttribute('data-stall-ring', '');
    ring.setAttribute(
      'style',
      `position:absolute!important;left:${left + scrollX - 4}px;top:${top + scrollY - 4}px;width:${width + 8}px;height:${height + 8}px;box-sizing:border-box;border:3px solid #a8324a;border-radius:8px;box-shadow:0 0 0 2px #fff;pointer-events:none;z-index:2147483647`,
    );
    document.documentElement.append(ring);
  }
  found[0]?.scrollIntoView({ block: 'center' });
}
