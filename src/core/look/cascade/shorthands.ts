import { toHex } from '../colour';

const sides = ['top', 'right', 'bottom', 'left'] as const;

/** A value cut at its spaces, those in brackets and quotes aside. */
export function words(value: string): string[] {
  return value.match(/(?:[^\s()"']+|"[^"]*"|'[^']*'|\((?:[^()]|\((?:[^()]|\([^()]*\))*\))*\))+/g) ?? [];
}

const styles = new Set([
  'none',
  'hidden',
  'solid',
  'dashed',
  'dotted',
  'double',
  'groove',
  'ridge',
  'inset',
  'outset',
]);
const widths = /^(thin|medium|thick|0|[\d.]+(px|em|rem|pt|vw)|calc\(.*)$/i;

/** Whether a word names a colour; variables do, as far as one can tell before they are known. */
const isColour = (word: string): boolean =>
  toHex(word) !== undefined ||
  /^(currentcolor|transparent|rgb|hsl|hwb|lab|lch|oklab|oklch|color|color-mix|light-dark)\b/i.test(word);

/** One declaration as the longhands it sets; what is not a shorthand of ours is itself. Values keep their `var()`. */
export function longhands(property: string, value: string): [string, string][] {
  const expand = shorthands[property];
  // A shorthand with a variable in it can be cut only when the variable is known.
  return expand ? expand(value) : [[property, value]];
}

export const isShorthand = (property: string): boolean => property in shorthands;

const each = (names: readonly string[], value: string): [string, string][] => names.map((n) => [n, value]);

/** One to four values, from the top round. */
function boxed(value: string, name: (side: string) => string): [string, string][] {
  const [top = '', right = top, bottom = top, left = right] = words(value);
  const values = { top, right, bottom, left };
  return sides.map((side) => [name(side), values[side]]);
}

function border(value: string, names: readonly string[]): [string, string][] {
  const all = words(value);
  const style = all.find((w) => styles.has(w.toLowerCase())) ?? 'none';
  const width = all.find((w) => widths.test(w)) ?? 'medium';
  const colour = all.find((w) => w !== style && w !== width && isColour(w)) ?? 'currentcolor';
  return names.flatMap((side): [string, string][] => [
    [`border-${side}-width`, width],
    [`border-${side}-style`, style],
    [`border-${side}-color`, colour],
  ]);
}

const shorthands: Readonly<Record<string, (value: string) => [string, string][]>> = {
  background: (value) => {
    if (/^(inherit|initial|unset|revert)$/i.test(value))
      return each(['background-color', 'background-image'], value);
    const all = words(value);
    return [
      ['background-color', all.findLast(isColour) ?? 'transparent'],
      ['background-image', all.find((w) => /^(url|.*gradient|image-set)\(/i.test(w)) ?? 'none'],
    ];
  },
  font: (value) => {
    const found =
      /^(.*?)(?:^|\s)((?:[\d.]+(?:[a-z]+|%)|(?:xx?-)?(?:small|large)|medium|smaller|larger|calc\([^)]*\)|clamp\([^)]*\)))(?:\s*\/\s*(\S+))?\s+(.+)$/i.exec(
        value,
      );
    if (!found) return [];
    const [, before = '', size = '', line = 'normal', family = ''] = found;
    return [
      ['font-style', /\b(italic|oblique)\b/i.exec(before)?.[1] ?? 'normal'],
      ['font-weight', /\b(bold|bolder|lighter|[1-9]\d{1,2}0?)\b/i.exec(before)?.[1] ?? 'normal'],
      ['font-size', size],
      ['line-height', line],
      ['font-family', family],
    ];
  },
  margin: (value) => boxed(value, (side) => `margin-${side}`),
  padding: (value) => boxed(value, (side) => `padding-${side}`),
  'padding-inline': (value) => {
    const [start = '', end = start] = words(value);
    return [
      ['padding-left', start],
      ['padding-right', end],
    ];
  },
  'padding-block': (value) => {
    const [start = '', end = start] = words(value);
    return [
      ['padding-top', start],
      ['padding-bottom', end],
    ];
  },
  'border-width': (value) => boxed(value, (side) => `border-${side}-width`),
  'border-style': (value) => boxed(value, (side) => `border-${side}-style`),
  'border-color': (value) => boxed(value, (side) => `border-${side}-color`),
  border: (value) => border(value, sides),
  ...Object.fromEntries(sides.map((side) => [`border-${side}`, (value: string) => border(value, [side])])),
  outline: (value) =>
    border(value, ['outline']).map(([name, v]): [string, string] => [
      name.replace('border-outline', 'outline'),
      v,
    ]),
  'border-radius': (value) => [['border-top-left-radius', words(value.split('/')[0] ?? '')[0] ?? '']],
  'text-decoration': (value) => [
    ['text-decoration-line', /\b(underline|line-through|overline)\b/i.exec(value)?.[1] ?? 'none'],
  ],
};
