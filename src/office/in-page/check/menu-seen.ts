import { isCut, isStacked, itemsOf, rowsIn } from '../menu';
import { canvasColour, hexOf, over, type Rgba, rgba } from '../look/colours';

/** How the menu stands: rows, whether it is cut, and the colours of its letters and of what they stand on. */
export function seeMenu() {
  const menu = document.querySelector('[data-stall-nav]');
  const items = menu ? itemsOf(menu) : [];
  const pairs = new Map<string, { ink: string; ground: string }>();
  for (const { el } of items) {
    const pair = colours(el);
    if (pair) pairs.set(`${pair.ink} ${pair.ground}`, pair);
  }
  return {
    // A list that is as long as it has items does not wrap.
    menuRows: isStacked(items) ? 0 : rowsIn(items),
    menuRowsBefore: 0,
    menuCut: isCut(items, document.documentElement.clientWidth, menu),
    menuCutBefore: false,
    menuColours: [...pairs.values()].slice(0, 12),
  };
}

/** The letters of a link and what lies behind them, wherever it hangs in the page; nothing where a picture lies there. */
function colours(link: HTMLElement): { ink: string; ground: string } | undefined {
  const { left, top, width, height } = link.getBoundingClientRect();
  const below = document.elementsFromPoint(left + width / 2, top + height / 2);
  const from = below.findIndex((el) => el === link || link.contains(el));
  if (from < 0) return undefined;
  const seen: Rgba[] = [];
  for (const el of below.slice(from)) {
    const { backgroundColor, backgroundImage, opacity } = getComputedStyle(el);
    if (backgroundImage !== 'none' || Number(opacity) < 1 || pictures.has(el.localName)) return undefined;
    const colour = rgba(backgroundColor);
    if (colour.a > 0) seen.push(colour);
    if (colour.a >= 0.99) break;
  }
  const ground = seen.reduceRight((under, layer) => over(layer, under), canvasColour());
  return { ink: hexOf(over(rgba(getComputedStyle(link).color), ground)), ground: hexOf(ground) };
}

const pictures = new Set(['img', 'video', 'canvas', 'iframe', 'picture', 'svg']);
