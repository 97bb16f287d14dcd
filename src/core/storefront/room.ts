import { cardExtra, pictureHeights, type Shape, usualShape } from '../look/shape';
import { asksOnCard } from './buying';
import type { CardPart, RowForm } from './views';

/** Measures of cards, in rem: one truth for the style sheet and for the room that is kept before any script has run. */
export const card = {
  top: 0.7,
  name: 3,
  description: 2.9,
  price: 1.7,
  stock: 1.5,
  options: 3.15,
  button: 3.4,
} as const;

/** Widths of the container, in em of the site's text, from which it counts as a tablet's and as a desk's (storefront.css). */
const TABLET = 30;
const DESK = 52;

/** What of the shop's shape decides how high its cards are. */
export type RoomShape = Pick<
  Shape,
  'cards' | 'phone' | 'tablet' | 'desk' | 'least' | 'gap' | 'picture' | 'tallest'
>;

/** Height of a card's text, in rem. */
const textHeight = (parts: readonly CardPart[], shape: RoomShape): number => {
  const has = (p: CardPart) => parts.includes(p);
  // Price and stock stand beside the button where there is one.
  const words = (has('price') ? card.price : 0) + (has('stock') ? card.stock : 0);
  const extra = cardExtra[shape.cards] ?? 0;
  const above =
    card.top + extra + (has('name') ? card.name : 0) + (has('description') ? card.description : 0);
  // Where more is asked than a press, price and stock stand above it.
  if (asksOnCard(parts)) return above + words + (has('options') ? card.options : 0) + card.button;
  return above + (has('button') ? Math.max(card.button, words) : words);
};

/** Widths at which so many cards stand side by side: from and to, in rem of the shop, and in em where the kind of window decides. */
interface Stretch {
  readonly n: number;
  readonly steps: readonly string[];
}

/**
 * The height a grid of cards will have, as a CSS length in the width of its container (cqw), exact at every width: for
 * each number of columns the height it would have, let through only where that number stands. A step is a difference of
 * lengths made very steep and cut by min and max.
 */
export function gridHeight(
  count: number,
  columns: number,
  parts: readonly CardPart[],
  shape: RoomShape = usualShape,
): string {
  const gap = inRem(shape.gap);
  const text = round(textHeight(parts, shape));
  const tallest = inRem(shape.tallest);
  const terms = stretches(columns, shape).map(({ n, steps }) => {
    const rows = Math.max(1, Math.ceil(count / n));
    // Fine enough that dozens of rows are not a pixel off.
    const ratio = Math.round((pictureHeights[shape.picture] ?? 0.75) * 1e6) / 1e6;
    const drawn = `(100cqw - ${round((n - 1) * gap)}rem)/${n}*${ratio}`;
    const cut = tallest > 0 ? `min(${drawn},${tallest}rem)` : drawn;
    const picture = parts.includes('picture') ? cut : '0px';
    const height = `${rows}*(${picture} + ${text}rem) + ${round((rows - 1) * gap)}rem`;
    return steps.length ? `min(${height},${steps.join(',')})` : height;
  });
  return `max(0px,${terms.join(',')})`;
}

/** Each kind of window has its own greatest number; below it as many stand side by side as there is room for. */
function stretches(columns: number, shape: RoomShape): Stretch[] {
  const caps = [shape.phone, shape.tablet, shape.desk].map((cap) => Math.min(columns, Number(cap)));
  const bounds = [0, TABLET, DESK, Number.POSITIVE_INFINITY];
  // Where all kinds of windows have the same number there is but one.
  if (new Set(caps).size === 1) return within(caps[0] ?? 1, [], shape);
  return caps.flatMap((cap, kind) => {
    const [from = 0, to = 0] = bounds.slice(kind, kind + 2);
    const steps = [from > 0 && `(100cqw - ${from}em)*9999`, Number.isFinite(to) && `(${to}em - 100cqw)*9999`];
    return within(
      cap,
      steps.filter((s): s is string => s !== false),
      shape,
    );
  });
}

const within = (cap: number, outer: readonly string[], shape: RoomShape): Stretch[] =>
  Array.from({ length: cap }, (_, i) => {
    const n = i + 1;
    const steps = [
      n > 1 && `(100cqw - ${round(fits(n, shape))}rem)*9999`,
      n < cap && `(${round(fits(n + 1, shape))}rem - 100cqw)*9999`,
    ];
    return { n, steps: [...outer, ...steps.filter((s): s is string => s !== false)] };
  });

/** The width from which `n` cards stand side by side, in rem. */
const fits = (n: number, shape: RoomShape): number => n * inRem(shape.least) + (n - 1) * inRem(shape.gap);
const inRem = (px: string): number => round(Number(px) / 16);
const round = (n: number): number => Math.round(n * 1000) / 1000;

/** A row of products in any of its forms. */
export function rowHeight(
  form: RowForm,
  count: number,
  columns: number,
  parts: readonly CardPart[],
  shape: RoomShape = usualShape,
): string {
  if (form === 'list') return `${round(Math.max(1, count) * 5.6)}rem`;
  if (form === 'table') return `${round(3 + Math.max(1, count) * 3.5)}rem`;
  return gridHeight(form === 'grid' ? count : 1, columns, parts, shape);
}
