import { z } from 'zod';
import { type Shape, shapeDeclarations, usualShape } from './shape';
import { type TokenName, tokenNames, tokenOf } from './tokens';
import type { Worn, WornGround } from './wear';

const values = z.record(z.string(), z.string());

/** The look as the shop's pages and widgets need it: tokens by name, what changes on other grounds and for those who want it dark. */
export const look = z.object({
  tokens: values,
  grounds: z.array(z.object({ colour: z.string(), tokens: values })),
  dark: z
    .object({ tokens: values, grounds: z.array(z.object({ colour: z.string(), tokens: values })) })
    .nullable(),
  /** How cards, pictures, badges and the cart's sign are made. */
  shape: values,
  /** The owner's own CSS as it was written. */
  css: z.string(),
  /** What a rem of the site is, in px; 16 where nothing else is set. */
  root: z.number(),
  /** The text's size on the site, in px. */
  size: z.number(),
});
export type Look = z.infer<typeof look>;

/** @param dark what is worn by those who want it dark; undefined where the site has but one look */
export function lookOf(
  worn: Worn,
  { root, size, shape, css: own }: Pick<Look, 'root' | 'size' | 'shape' | 'css'>,
  dark?: Worn,
): Look {
  return {
    tokens: plain(worn),
    grounds: groundsOf(worn),
    dark: dark ? { tokens: plain(dark), grounds: groundsOf(dark) } : null,
    shape,
    css: own,
    root,
    size,
  };
}

const plain = (worn: Worn): Record<string, string> =>
  Object.fromEntries(tokenNames.map((name) => [name, worn.tokens[name].value]));
const groundsOf = (worn: Worn) =>
  worn.grounds.map(({ colour, tokens }: WornGround) => ({
    colour,
    tokens: { ...tokens } as Record<string, string>,
  }));

/** The shape of the shop; what an older look does not say is as usual. */
export const shapeIn = (l: Look): Shape => ({ ...usualShape, ...l.shape });

/** One of the shop's tokens. */
export const valueIn = (l: Look, name: TokenName): string => l.tokens[name] ?? '';

const round = (n: number): number => Math.round(n * 1000) / 1000;

/** Below this a root is a trick to reckon in tens; from it on its owner means larger or smaller text. Chosen by hand. */
const TRICK = 13;
/** A rem of ours, 16 px where nothing else is set, in the site's own. */
export const remOf = ({ root }: Pick<Look, 'root'>): number =>
  root >= 4 && root < TRICK ? round(16 / root) : 1;

/** A length in px in the site's rem, so that it grows with the reader's own text size. */
export const inRem = (px: number, l: Pick<Look, 'root'>): string => {
  if (px === 0) return '0px';
  // Hairlines stay hairlines.
  return Math.abs(px) < 4 ? `${round(px)}px` : `${round(px / l.root)}rem`;
};

/** A token's value as CSS. */
function css(name: TokenName, value: string, l: Pick<Look, 'root'>): string {
  const { kind } = tokenOf(name);
  if (kind === 'length' || kind === 'corner') return inRem(Number(value), l);
  // In a list of shadows "none" may not stand.
  if (kind === 'shadow' && value === 'none') return '0 0 #0000';
  return kind === 'factor' ? `${value}em` : value;
}

const declarations = (own: Readonly<Record<string, string>>, l: Look): string =>
  tokenNames
    .flatMap((name) => (own[name] === undefined ? [] : [`--stall-${name}:${css(name, own[name], l)}`]))
    .join(';');

/** The tokens as custom properties, the way the shop's style sheet wants them. */
export const lookCss = (l: Look): string =>
  [declarations(l.tokens, l), `--stall-rem:${remOf(l)}rem`, shapeDeclarations(l.shape, remOf(l))]
    .filter(Boolean)
    .join(';');

/** What other grounds change, for widgets that look what they stand on: the colour, and declarations. */
export const groundsCss = (l: Look): [string, string][] =>
  [
    ...l.grounds,
    ...(l.dark ? [{ colour: l.dark.tokens.ground ?? '', tokens: l.dark.tokens }, ...l.dark.grounds] : []),
  ].map(({ colour, tokens }) => [colour, declarations(onlyColours(tokens), l)]);

/** The look as rules for pages that run no script of ours. @param at the selector that wears it */
export const lookRules = (l: Look, at: string): string =>
  `${at}{${lookCss(l)}}${l.dark ? `@media(prefers-color-scheme:dark){${at}{${declarations(onlyColours(l.dark.tokens), l)}}}` : ''}`;

const onlyColours = (own: Readonly<Record<string, string>>): Record<string, string> =>
  Object.fromEntries(
    tokenNames.flatMap((n) => (tokenOf(n).kind === 'colour' && own[n] !== undefined ? [[n, own[n]]] : [])),
  );
