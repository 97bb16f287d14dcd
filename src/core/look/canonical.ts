import { lengthInPx } from './cascade/lengths';
import { words } from './cascade/shorthands';
import { toHex } from './colour';

/** One way of writing a list of families, whoever wrote it: names with spaces in quotes, one space after a comma. */
export const familyList = (list: string): string =>
  list
    .split(',')
    .map((name) => name.trim().replace(/^["']|["']$/g, ''))
    .filter(Boolean)
    .map((name) => (/[^\w-]/.test(name) ? `'${name.replace(/'/g, '')}'` : name))
    .join(', ');

/** One way of writing shadows: each as four lengths in px and its colour; '' for none, and for what is not understood. */
export function shadowList(value: string, against = { em: 16, rem: 16 }): string {
  if (value === '' || value === 'none') return '';
  const shadows = value.split(/,(?![^(]*\))/).map((one) => shadow(one.trim(), against));
  return shadows.every((s): s is string => s !== undefined) ? shadows.join(', ') : '';
}

function shadow(one: string, against: { em: number; rem: number }): string | undefined {
  const all = words(one);
  const inset = all.includes('inset') ? 'inset ' : '';
  const lengths = all.flatMap((w) => lengthInPx(w, against) ?? []);
  const colour = all.find((w) => w !== 'inset' && lengthInPx(w, against) === undefined) ?? 'currentcolor';
  if (lengths.length < 2) return undefined;
  const px = [0, 1, 2, 3].map((n) => `${Math.round((lengths[n] ?? 0) * 100) / 100}px`);
  return `${inset}${px.join(' ')} ${plainColour(colour)}`;
}

/** Opaque ones as hex; of others the spaces alone are made alike. */
function plainColour(colour: string): string {
  const isOpaque = !/[a-z]+a\(|\/|transparent/i.test(colour);
  const hex = isOpaque ? toHex(colour) : undefined;
  return (
    hex ??
    colour
      .toLowerCase()
      .replace(/\s*,\s*/g, ', ')
      .replace(/(^|[\s,(])\./g, '$10.')
  );
}
