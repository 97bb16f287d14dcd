import { z } from 'zod';

/**
 * What was seen of one page at one width: the shape in which both readings, the measured one in a browser and the one from style sheets
 * alone, tell it. Like things are told once, with how much there is of them. Colours are opaque sRGB hex, lengths CSS pixels,
 * areas square pixels.
 */

const hex = z.string().regex(/^#[0-9a-f]{6}$/);
const px = z.number().min(-10_000).max(1_000_000);
const area = z.number().min(0).max(1e9);
const name = z.string().max(300);
/** Where on the page: CSS paths from the body, a few of them. */
const places = z.array(z.string().max(600)).max(6);

export const regions = ['header', 'menu', 'main', 'side', 'footer', 'page'] as const;
const region = z.enum(regions);
export type SeenRegion = z.infer<typeof region>;

/** How letters look. */
const type = z.object({
  family: name,
  size: px,
  weight: z.number().min(1).max(1000),
  italic: z.boolean(),
  transform: z.enum(['none', 'uppercase', 'lowercase', 'capitalize']),
  /** Space between letters, in em. */
  spacing: z.number().min(-5).max(5),
  /** Line height as a multiple of the size; 0 where the page leaves it to the face. */
  line: z.number().min(0).max(20),
});
export type SeenType = z.infer<typeof type>;

const fill = z.object({
  /** The ground of the page; a band across it; the surface of a card; other areas. */
  role: z.enum(['ground', 'band', 'card', 'button', 'field', 'picture', 'mark']),
  region,
  colour: hex,
  area,
  /** A picture or a gradient lies there: the colour is one of several. */
  mixed: z.boolean(),
  at: places,
});

const text = z.object({
  role: z.enum(['text', 'small', 'heading-1', 'heading-2', 'heading-3', 'link', 'menu', 'button', 'field']),
  region,
  colour: hex,
  /** What lies behind it; over a picture the colour that most of it has. */
  on: hex,
  overPicture: z.boolean(),
  letters: z.number().min(0).max(10_000_000),
  type,
  underline: z.boolean(),
  at: places,
});

const edge = z.object({
  width: px,
  style: z.enum(['none', 'solid', 'dashed', 'dotted', 'double']),
  colour: hex,
});

/** What changes when the pointer is over a control, it has the focus, or it is pressed; '' for a fill that is none. */
const stateLook = z
  .object({ fill: hex.or(z.literal('')), ink: hex, edge: hex, shadow: name, underline: z.boolean() })
  .partial();

const box = z.object({
  role: z.enum(['button', 'field', 'card', 'picture']),
  /** What its maker calls it, by its class names. */
  called: z.enum(['primary', 'second', 'button', '']),
  region,
  count: z.number().min(1).max(100_000),
  fill: hex.or(z.literal('')),
  ink: hex,
  on: hex,
  edge,
  radius: px,
  padX: px,
  padY: px,
  width: px,
  height: px,
  shadow: name,
  type,
  underline: z.boolean(),
  /** Its first words. */
  words: z.string().max(60),
  states: z.object({ hover: stateLook, focus: stateLook, active: stateLook }).partial(),
  at: places,
});

const rule = z.object({ region, colour: hex, on: hex, width: px, length: px, at: places });

export const seenPage = z.object({
  page: z.string().max(1000),
  width: px,
  height: px,
  scheme: z.enum(['light', 'dark']),
  /** What a rem is. */
  root: px,
  /** Width of the main column of text and pictures; 0 where it is not known. */
  column: px,
  /** Gaps between blocks that follow each other, as often as they were met. */
  gaps: z.array(px).max(400),
  fills: z.array(fill).max(400),
  texts: z.array(text).max(600),
  boxes: z.array(box).max(400),
  rules: z.array(rule).max(200),
  /** Whether the page has another look for those who want it dark. */
  hasDark: z.boolean(),
  /** What could not be seen, in the owner's words. */
  cannot: z.array(z.string().max(200)).max(20),
});
export type SeenPage = z.infer<typeof seenPage>;
export type SeenFill = z.infer<typeof fill>;
export type SeenText = z.infer<typeof text>;
export type SeenBox = z.infer<typeof box>;
export type SeenRule = z.infer<typeof rule>;
export type StateLook = z.infer<typeof stateLook>;
