import { colourOver } from '../colour';
import type { SeenBox, SeenType } from '../seen';
import type { ComputedStyle } from './computed-style';
import { lengthInPx } from './lengths';
import type { Viewing } from './media';

/** Reads lengths of a style. `rem` and the window are those of the page. */
export type Measure = (style: ComputedStyle, property: string) => number;

const thick: Readonly<Record<string, number>> = { thin: 1, medium: 3, thick: 5 };

/** @param rem asked each time: it is known only when the root has been read. */
export const measureIn =
  (rem: () => number, viewport: Viewing): Measure =>
  (style, property) => {
    const value = style.get(property);
    return thick[value] ?? lengthInPx(value, { em: style.size, rem: rem(), viewport }) ?? 0;
  };

const weights: Readonly<Record<string, number>> = { normal: 400, bold: 700, bolder: 700, lighter: 300 };
const round = (n: number, to: number): number => Math.round(n * to) / to;

/** How letters of a style look. */
export function typeOf(style: ComputedStyle, rem: number): SeenType {
  const weight = style.get('font-weight');
  const transform = style.get('text-transform');
  const line = style.get('line-height');
  const size = style.size || 16;
  const linePx = lengthInPx(line, { em: size, rem, whole: size });
  const own = linePx ? round(linePx / size, 100) : 0;
  const spacing = lengthInPx(style.get('letter-spacing'), { em: size, rem }) ?? 0;
  return {
    family: style.get('font-family').slice(0, 300),
    size: round(style.size, 100),
    weight: weights[weight] ?? (Number(weight) || 400),
    italic: style.get('font-style') !== 'normal',
    transform:
      transform === 'uppercase' || transform === 'lowercase' || transform === 'capitalize'
        ? transform
        : 'none',
    spacing: round(spacing / size, 1000),
    line: /^[\d.]+$/.test(line) ? Number(line) : own,
  };
}

export function edgeOf(style: ComputedStyle, on: string, measure: Measure): SeenBox['edge'] {
  const kind = style.get('border-bottom-style');
  const width = measure(style, 'border-bottom-width');
  const colour = colourOver(style.get('border-bottom-color') || 'currentcolor', on, style.get('color'));
  const none = !colour || !width || ['', 'none', 'hidden'].includes(kind);
  if (none) return { width: 0, style: 'none', colour: on };
  return {
    width,
    style: kind === 'dashed' || kind === 'dotted' || kind === 'double' ? kind : 'solid',
    colour,
  };
}
