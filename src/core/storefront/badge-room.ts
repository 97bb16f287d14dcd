import type { Shape } from '../look/shape';

/** Edges of a badge by its form, in px: its padding to both sides, its border, and how far it stands from the corner (shape.ts, storefront.css). */
const edges: Readonly<Record<string, number>> = {
  label: 2 * 8.8 + 3 + 2 * 8,
  band: 2 * 14.4 + 3,
  round: 2 * 11.2 + 3 + 2 * 8,
};

/** Room for a badge's words on the narrowest card, in CSS pixels. */
export const badgeRoom = (shape: Pick<Shape, 'badge' | 'least'>): number =>
  Math.max(0, Number(shape.least) - (edges[shape.badge] ?? edges.label ?? 0));

/** How wide a letter of a badge is at 14.4 px and 700, of text as it comes; measured on Latin letters of the fonts that ship with the office. */
const LETTER = 8.1;

/** Letters that surely fit; where there is a font to measure with, {@link badgeRoom} says it exactly. */
export const badgeLetters = (shape: Pick<Shape, 'badge' | 'least'>): number =>
  Math.max(4, Math.floor(badgeRoom(shape) / LETTER));
