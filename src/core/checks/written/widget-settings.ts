import { kindOf } from '../../placement/kinds';

/** A widget as it is written somewhere: what it is, and its attributes. */
export interface AsWritten {
  readonly kind: string;
  readonly placement: string;
  readonly attributes: ReadonlyMap<string, string>;
}

/** Settings of what was placed, by placement: its element writes them in a manner of its own. */
export type Placed = (
  id: string,
) => { readonly kind: string; readonly settings: Readonly<Record<string, unknown>> } | undefined;

/** Settings that a widget has as it is written, or what is wrong with them. */
export function settingsOf(w: AsWritten, placed: Placed | undefined) {
  const own = w.placement ? placed?.(w.placement) : undefined;
  const kind = kindOf(w.kind);
  const read =
    own?.kind === w.kind
      ? kind?.checkSettings(own.settings)
      : kind?.fromAttributes(new Map([...w.attributes].filter(([name]) => !isOwnMark(w.kind, name))));
  return { problem: problemOf(w.kind, read), ...(read?.ok && { settings: read.value }) };
}

function problemOf(kind: string, read: { ok: boolean; error?: string } | undefined): string {
  if (!read) return `There is no widget called "${kind}".`;
  return read.ok ? '' : (read.error ?? 'These settings do not fit.');
}

/** Attributes that every element of ours may carry, whatever its kind; no settings of it. */
export const common: readonly string[] = [
  'main',
  'placement',
  'shop',
  'cart',
  'checkout',
  'page',
  'account',
  'style',
  'class',
  'id',
  'hidden',
  'hide-empty',
  'slot',
  'title',
  'role',
  'data-draft',
];

/** Attributes that an element of this kind writes in a manner of its own: the cart's basket and the buy button's text. */
const ownMarks: Readonly<Record<string, readonly string[]>> = {
  cart: ['form', 'opens'],
  buy: ['price'],
};
const isOwnMark = (kind: string, name: string): boolean =>
  name.startsWith('data-') ||
  name.startsWith('aria-') ||
  (ownMarks[kind]?.includes(name) ?? false) ||
  name === 'tabindex';
