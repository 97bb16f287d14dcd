import { asksOnCard } from './buying';
import type { CardPart, RowForm } from './views';

/** Measures of cards, in rem: one truth for the style sheet and for the room that is kept before any script has run. */
export const card = {
  least: 9.5,
  gap: 1.2,
  top: 0.7,
  name: 3,
  description: 2.9,
  price: 1.7,
  stock: 1.5,
  options: 3.15,
  button: 3.4,
} as const;

/** Height of a card's text, in rem. */
const textHeight = (parts: readonly CardPart[]): number => {
  const has = (p: CardPart) => parts.includes(p);
  // Price and stock stand beside the button where there is one.
  const textHeight = (has('price') ? card.price : 0) + (has('stock') ? card.stock : 0);
  const above = card.top + (has('name') ? card.name : 0) + (has('description') ? card.description : 0);
  // Where more is asked than a press, price and stock stand above it.
  if (asksOnCard(parts)) return above + textHeight + (has('options') ? card.options : 0) + card.button;
  return above + (has('button') ? Math.max(card.button, textHeight) : textHeight);
};

/**
 * The height a grid of cards will have, as a CSS length in the width of its container (cqw), exact at every width: for
 * each number of columns the height it would have, let through only where that number fits. A step is a difference of
 * lengths made very steep and cut by min and max.
 */
export function gridHeight(count: number, columns: number, parts: readonly CardPart[]): string {
  const terms = Array.from({ length: columns }, (_, i) => {
    const n = i + 1;
    const rows = Math.max(1, Math.ceil(count / n));
    const picture = parts.includes('picture') ? `(100cqw - ${round((n - 1) * card.gap)}rem)/${n}*.75` : '0px';
    const height = `${rows}*(${picture} + ${round(textHeight(parts))}rem) + ${round((rows - 1) * card.gap)}rem`;
    const steps = [
      n > 1 && `(100cqw - ${round(fits(n))}rem)*9999`,
      n < columns && `(${round(fits(n + 1))}rem - 100cqw)*9999`,
    ].filter(Boolean);
    return steps.length ? `min(${height},${steps.join(',')})` : height;
  });
  return `max(0px,${terms.join(',')})`;
}

/** The width from which `n` cards stand side by side, in rem. */
const fits = (n: number): number => n * card.least + (n - 1) * card.gap;
const round = (n: number): number => Math.round(n * 1000) / 1000;

/** A row of products in any of its forms. */
export function rowHeight(form: RowForm, count: number, columns: number, parts: readonly CardPart[]): string {
  if (form === 'list') return `${round(Math.max(1, count) * 5.6)}rem`;
  if (form === 'table') return `${round(3 + Math.max(1, count) * 3.5)}rem`;
  return gridHeight(form === 'grid' ? count : 1, columns, parts);
}
