import type { LookPlan } from './plan';
import { inSiteRem } from './rem';

/**
 * The shape of the shop: how cards, pictures, badges and the cart's sign are made, whatever they are coloured. Each is a custom property
 * or two of the widgets (`shapeVars`); a new way of one is a line here and its words in `shapeLabels`.
 */
interface Choice {
  readonly usual: string;
  readonly of: readonly string[];
}
interface Measure {
  readonly usual: string;
  readonly least: number;
  readonly most: number;
}

export const cardLooks = ['plain', 'tray', 'ticket', 'shelf', 'caption'] as const;
export type CardLookName = (typeof cardLooks)[number];
export const hovers = ['none', 'lift', 'nearer', 'second', 'quiet'] as const;
export const pictureShapes = ['4-3', '1-1', '3-4', '3-2', '16-9', 'own'] as const;
export const badgeForms = ['label', 'band', 'round'] as const;
export const corners = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const;
export const signs = ['basket', 'bag', 'crate', 'barrow'] as const;
export const signCounts = ['beside', 'on', 'in'] as const;

export const shapes = {
  cards: { usual: 'plain', of: cardLooks },
  hover: { usual: 'none', of: hovers },
  dividers: { usual: 'no', of: ['no', 'yes'] },
  /** Most cards side by side in each kind of window; six is as many as there is room for. */
  phone: { usual: '6', least: 1, most: 6 },
  tablet: { usual: '6', least: 1, most: 6 },
  desk: { usual: '6', least: 1, most: 6 },
  /** The least width of a card, and the gap between two, in px. */
  least: { usual: '152', least: 90, most: 600 },
  gap: { usual: '19.2', least: 0, most: 80 },
  picture: { usual: '4-3', of: pictureShapes },
  fit: { usual: 'fill', of: ['fill', 'whole'] },
  /** Greatest height of a picture on a card, in px; 0 for none. */
  tallest: { usual: '0', least: 0, most: 900 },
  badge: { usual: 'label', of: badgeForms },
  'badge-corner': { usual: 'top-left', of: corners },
  product: { usual: 'two', of: ['two', 'one'] },
  gallery: { usual: 'below', of: ['below', 'beside'] },
  glance: { usual: 'yes', of: ['yes', 'no'] },
  sign: { usual: 'basket', of: signs },
  'sign-count': { usual: 'beside', of: signCounts },
  'sign-size': { usual: '22', least: 16, most: 40 },
  'sign-fill': { usual: 'filled', of: ['filled', 'bare'] },
  'sign-colour': { usual: 'text', of: ['text', 'button'] },
} as const satisfies Readonly<Record<string, Choice | Measure>>;

export type ShapeName = keyof typeof shapes;
export const shapeNames = Object.keys(shapes) as ShapeName[];
export const isShape = (name: string): name is ShapeName => Object.hasOwn(shapes, name);
export type Shape = Readonly<Record<ShapeName, string>>;

export const shapeOptions = (name: ShapeName): readonly string[] | undefined => {
  const it: Choice | Measure = shapes[name];
  return 'of' in it ? it.of : undefined;
};
export const shapeRange = (name: ShapeName): Measure | undefined => {
  const it: Choice | Measure = shapes[name];
  return 'least' in it ? it : undefined;
};

/** A value as a shape may have it; undefined for what it may not. */
export function cleanShape(name: ShapeName, value: unknown): string | undefined {
  const it: Choice | Measure = shapes[name];
  if (typeof value !== 'string') return undefined;
  if ('of' in it) return it.of.includes(value) ? value : undefined;
  const n = Math.round(Number(value));
  return value.trim() !== '' && n >= it.least && n <= it.most ? String(n) : undefined;
}

export const shapeKey = (name: ShapeName) => `shape:${name}` as const;

/** The shape that was decided; what was not is as usual. */
export const shapeOf = (plan: LookPlan): Shape =>
  Object.fromEntries(
    shapeNames.map((name) => [name, cleanShape(name, plan[shapeKey(name)]) ?? shapes[name].usual]),
  ) as Record<ShapeName, string>;

export const usualShape: Shape = shapeOf({});

/** Height of a picture as a factor of its width. */
export const pictureHeights: Readonly<Record<string, number>> = {
  '4-3': 0.75,
  '1-1': 1,
  '3-4': 4 / 3,
  '3-2': 2 / 3,
  '16-9': 9 / 16,
  own: 0.75,
};

/** What a card look takes below its text, in rem of the shop: the room that is kept knows of it. */
export const cardExtra: Readonly<Record<string, number>> = {
  plain: 0,
  tray: 0.9,
  ticket: 0.9,
  shelf: 0.5,
  caption: 0.9,
};

/** What each look of cards sets; what it does not is as the style sheet has it. Edges are shadows: they take no room. */
const cardVars: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  plain: {},
  tray: {
    'card-ground': 'var(--stall-surface)',
    'card-edge': 'inset 0 0 0 max(1px,var(--stall-card-width)) var(--stall-line),var(--stall-card-shadow)',
    'card-clip': 'var(--stall-card-radius)',
    'text-pad': '.7rem .9rem .9rem',
    'text-extra': '.9rem',
    'in-radius': '0',
  },
  ticket: {
    'card-ground': 'var(--stall-surface)',
    'ticket-edge': '1.5px dashed var(--stall-field-line)',
    'text-pad': '.7rem .9rem .9rem',
    'text-extra': '.9rem',
    'foot-edge': '1.5px dashed var(--stall-field-line)',
    'in-radius': '0',
  },
  shelf: {
    'text-pad': '.7rem .2rem .5rem',
    'text-extra': '.5rem',
    'text-align': 'center',
    'foot-justify': 'center',
    'form-margin': '0 auto',
    'picture-edge': '0 3px 0 0 var(--stall-line)',
    'picture-ground': 'none',
    'picture-fit': 'contain',
    'picture-at': '50% 100%',
  },
  caption: {
    'text-ground': 'var(--stall-ink)',
    'text-ink': 'var(--stall-ground)',
    'text-pad': '.7rem .9rem .9rem',
    'text-extra': '.9rem',
    'card-clip': 'var(--stall-picture-radius)',
    'in-radius': '0',
  },
};

const hoverVars: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  none: {},
  lift: { lift: '-4px', 'lift-shadow': '0 10px 22px rgb(0 0 0/.16)' },
  nearer: { nearer: '1.06' },
  second: { 'first-over': '0', 'second-over': '1' },
  quiet: { quiet: '.78' },
};

const badgeVars: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  label: {},
  band: { 'badge-radius': '0', 'badge-pad': '.25rem .9rem' },
  round: { 'badge-radius': '99rem', 'badge-pad': '.1rem .7rem' },
};

/** Where a badge stands: the offsets from the top, the right, the bottom and the left. A band stands in the very corner. */
function badgeInset(all: Shape): string {
  const off = all.badge === 'band' ? '0' : '.5rem';
  const [side, edge] = all['badge-corner'].split('-');
  const at = (here: boolean): string => (here ? off : 'auto');
  return [at(side === 'top'), at(edge === 'right'), at(side === 'bottom'), at(edge === 'left')].join(' ');
}

const ratios: Readonly<Record<string, string>> = {
  '4-3': '4/3',
  '1-1': '1',
  '3-4': '3/4',
  '3-2': '3/2',
  '16-9': '16/9',
  own: '4/3',
};

const rem = (px: string): string => `${Math.round((Number(px) / 16) * 1000) / 1000}rem`;

type Vars = Readonly<Record<string, string>>;

/** What each part of the shape sets, given the whole of it; what is as usual sets nothing. */
const varsOf: Readonly<Record<ShapeName, (value: string, all: Shape) => Vars>> = {
  cards: (value) => cardVars[value] ?? {},
  hover: (value) => hoverVars[value] ?? {},
  dividers: (value): Vars => (value === 'yes' ? { divider: '1px solid var(--stall-line)' } : {}),
  phone: (phone) => ({ phone }),
  tablet: (tablet) => ({ tablet }),
  desk: (desk) => ({ desk }),
  least: (value) => ({ least: rem(value) }),
  gap: (value) => ({ gap: rem(value) }),
  picture: (value) => ({
    'picture-ratio': ratios[value] ?? '4/3',
    ...(value === 'own' && { 'picture-fit': 'contain', 'picture-ground': 'none' }),
  }),
  fit: (value): Vars => (value === 'whole' ? { 'picture-fit': 'contain' } : {}),
  tallest: (value) => ({ 'picture-tallest': rem(value) }),
  badge: (value, all) => ({ ...badgeVars[value], 'badge-inset': badgeInset(all) }),
  'badge-corner': (_, all) => ({ 'badge-inset': badgeInset(all) }),
  product: () => ({ 'product-columns': '1fr' }),
  gallery: () => ({ 'gallery-columns': '1fr 5.4rem', 'thumbs-flow': 'column' }),
  glance: () => ({ glance: 'none' }),
  sign: () => ({}),
  'sign-count': () => ({}),
  'sign-size': (value) => ({ 'sign-size': `${value}px` }),
  'sign-fill': (_, all) => signVars(all),
  'sign-colour': (_, all) => signVars(all),
};

/** The ground of the cart's sign and what is drawn on it; a bare one has the colour alone. */
function signVars(all: Shape): Vars {
  const isButton = all['sign-colour'] === 'button';
  if (all['sign-fill'] === 'bare')
    return { 'sign-ground': 'none', 'sign-ink': isButton ? 'var(--stall-accent)' : 'currentColor' };
  return isButton ? { 'sign-ground': 'var(--stall-accent)', 'sign-ink': 'var(--stall-accent-ink)' } : {};
}

/** A shape as custom properties, without `--stall-`; what is as usual is left out. Lengths are in the shop's rem. */
export function shapeVars(shape: Partial<Shape>): Record<string, string> {
  const all: Shape = { ...usualShape, ...shape };
  const changed = shapeNames.filter((name) => all[name] !== usualShape[name]);
  return Object.assign({}, ...changed.map((name) => varsOf[name](all[name], all)));
}

/** A shape as declarations, lengths in the site's own rem. */
export const shapeDeclarations = (shape: Partial<Shape>, siteRem: number): string =>
  written(shapeVars(shape), siteRem);

/** What a widget that departs from the shop's shape sets, and what it takes back of it. */
export function departure(shop: Partial<Shape>, own: Partial<Shape>, siteRem: number): string {
  const [before, after] = [shapeVars(shop), shapeVars({ ...shop, ...own })];
  const gone = Object.keys(before).filter((name) => !(name in after));
  return written({ ...after, ...Object.fromEntries(gone.map((name) => [name, 'initial'])) }, siteRem);
}

const written = (vars: Readonly<Record<string, string>>, siteRem: number): string =>
  Object.entries(vars)
    .map(([name, value]) => `--stall-${name}:${inSiteRem(value, siteRem)}`)
    .join(';');

/** What a widget may have of its own. */
export const widgetShapes = ['cards', 'hover', 'picture'] as const satisfies readonly ShapeName[];
export type WidgetShape = (typeof widgetShapes)[number];
