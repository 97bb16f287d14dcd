/** What the look changes on a ground: the colour of the ground (hex), and declarations. */
export type Grounds = readonly (readonly [colour: string, declarations: string])[];

/** Channels may differ by this much in all: what is seen through, and profiles of screens. Chosen by hand. */
const LIKE = 18;

/**
 * What an element's look changes where it stands: bands and footers are dark where the page is light, and a page may turn dark. The
 * nearest ground above it decides; over a picture nothing is known, and nothing is changed.
 */
export function onGround(el: Element, grounds: Grounds): string {
  if (grounds.length === 0) return '';
  for (let up = above(el); up; up = above(up)) {
    const { backgroundColor, backgroundImage } = getComputedStyle(up);
    const [r, g, b, a = 1] = (backgroundColor.match(/[\d.]+/g) ?? []).map(Number);
    if (b !== undefined && a > 0.9) return near([r ?? 0, g ?? 0, b], grounds);
    if (backgroundImage !== 'none') return '';
  }
  return '';
}

/** Out of shadow roots, too. */
const above = (el: Element): Element | null => {
  const root = el.getRootNode();
  return el.parentElement ?? (root instanceof ShadowRoot ? root.host : null);
};

function near(seen: readonly number[], grounds: Grounds): string {
  const apart = (hex: string) =>
    [1, 3, 5].reduce(
      (sum, at, n) => sum + Math.abs(Number.parseInt(hex.slice(at, at + 2), 16) - (seen[n] ?? 0)),
      0,
    );
  const [nearest] = [...grounds].sort((x, y) => apart(x[0]) - apart(y[0]));
  return nearest && apart(nearest[0]) <= LIKE ? nearest[1] : '';
}
