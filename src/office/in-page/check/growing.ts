/** How much each widget changed its height while the page loaded: by that much it pushes what stands below it. */
const heights = new WeakMap<Element, { least: number; most: number }>();
let isWatching = true;

/** Looks at each widget in each frame that the browser draws, from the first on. @param widgets those that are there by now */
export function watchGrowing(widgets: () => readonly HTMLElement[]): void {
  const look = () => {
    if (!isWatching) return;
    for (const el of widgets()) {
      const { top, height } = el.getBoundingClientRect();
      // What happens below the window nobody sees.
      if (top > innerHeight) continue;
      const known = heights.get(el);
      heights.set(el, {
        least: Math.min(known?.least ?? height, height),
        most: Math.max(known?.most ?? height, height),
      });
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}

/** At another width all is laid out anew, because the window was made narrower: only loading counts. */
export function endWatching(): void {
  isWatching = false;
}

/** Pixels that a widget pushed what is below it; none where it takes no room in the page. */
export function pushed(el: HTMLElement): number {
  const { least = 0, most = 0 } = heights.get(el) ?? {};
  return isInFlow(el) ? most - least : 0;
}

function isInFlow(el: HTMLElement): boolean {
  const { position, float } = getComputedStyle(el);
  return float === 'none' && position !== 'absolute' && position !== 'fixed';
}
