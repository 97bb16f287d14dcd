import { z } from 'zod';
import { contrast } from '../colour';
import { difference } from '../remedy';
import type { SeenBox, SeenPage, SeenText, StateLook } from '../seen';
import { buttonsOf, cardOf, fieldOf, picturesOf } from './controls';
import { inkOf } from './colour-uses';
import { faceOf, type Lettering, bodyText, lettering, linksOn, scaleOf, secondColour } from './letters';
import { median, Weights } from './tally';

/**
 * What the shop's look can be tied to, each by a name that stays while the site changes: "button" is the fill of the site's
 * main button, whatever colour that has. Colours are sRGB hex, lengths px, factors numbers; all as text.
 */
export const colourSources = [
  ...['ground', 'band', 'deep', 'card', 'field'],
  ...['text', 'second-text', 'heading', 'link'],
  ...['button', 'button-text', 'button-edge', 'button-over', 'button-over-text'],
  ...['button-pressed', 'button-pressed-text'],
  ...[
    'second-button',
    'second-button-text',
    'second-button-edge',
    'second-button-over',
    'second-button-over-text',
  ],
  ...['field-text', 'field-edge', 'rule', 'mark', 'focus'],
] as const;
export type ColourSource = (typeof colourSources)[number];
const otherSources = [
  ...['text-face', 'heading-face', 'button-face', 'text-size', 'text-line'],
  ...['heading-weight', 'heading-case', 'heading-spacing', 'heading-line', 'heading-scale'],
  ...[
    'button-weight',
    'button-case',
    'button-spacing',
    'button-size',
    'button-corner',
    'button-pad-x',
    'button-pad-y',
  ],
  ...['button-height', 'button-edge-width', 'button-shadow', 'button-over-shadow', 'button-over-underline'],
  ...['second-button-edge-width', 'second-button-corner'],
  ...['field-corner', 'field-edge-width', 'field-height', 'card-corner', 'card-edge-width', 'card-shadow'],
  ...['picture-corner', 'picture-shape', 'space', 'width', 'root', 'link-line'],
] as const;
export const sourceNames = [...colourSources, ...otherSources] as const;
export type SourceName = (typeof sourceNames)[number];
export const isSource = (name: string): name is SourceName =>
  (sourceNames as readonly string[]).includes(name);

export const sources = z.partialRecord(z.enum(sourceNames), z.string().max(300));
export type Sources = z.infer<typeof sources>;

/** A ground that text of the site stands on, and what stands on it. */
export const ground = z.object({
  colour: z.string(),
  text: z.string().optional(),
  link: z.string().optional(),
  share: z.number(),
});
export type Ground = z.infer<typeof ground>;

/** What is tied to by name, from pages of one scheme. Narrow pages say nothing of sizes: only the widest are asked. */
export function sourcesOf(pages: readonly SeenPage[]): Sources {
  const text = bodyText(pages) ?? lettering(pages, 'link', 'menu');
  if (!text) return defined({ root: number(pages[0]?.root) });
  const heading = lettering(pages, 'heading-2') ?? lettering(pages, 'heading-1', 'heading-3');
  const link = linksOn(pages, text.on);
  const { primary, second } = buttonsOf(pages);
  const field = fieldOf(pages);
  const card = cardOf(pages);
  const pictures = picturesOf(pages);
  return defined({
    ...groundSources(pages, text, card),
    text: text.colour,
    'second-text': secondColour(pages, text),
    heading: heading?.colour,
    link: link?.colour,
    'link-line': link && (link.underline ? 'underline' : 'none'),
    'text-face': text.type.family,
    'text-size': number(text.type.size),
    'text-line': number(text.type.line || undefined),
    ...headingSources(pages, text, heading),
    ...(primary && buttonSources(primary, 'button', text)),
    ...(second && buttonSources(second, 'second-button', text)),
    ...(field && fieldSources(field)),
    'card-corner': number(card?.radius),
    'card-edge-width': number(card?.edge.width),
    'card-shadow': card?.shadow || undefined,
    'picture-corner': number(pictures?.radius),
    'picture-shape': number(pictures?.ratio),
    rule: ruleOf(pages),
    mark: markOf(pages, [text.colour, text.on, heading?.colour, link?.colour, primary?.fill]),
    space: number(spaceOf(pages)),
    width: number(widthOf(pages)),
    root: number(pages[0]?.root),
  });
}

const number = (n: number | undefined): string | undefined =>
  n === undefined || !Number.isFinite(n) ? undefined : String(Math.round(n * 1000) / 1000);

const defined = (all: Partial<Record<SourceName, string | undefined>>): Sources =>
  Object.fromEntries(Object.entries(all).filter(([, v]) => v !== undefined && v !== ''));

function headingSources(pages: readonly SeenPage[], text: Lettering, heading: Lettering | undefined) {
  const scale = scaleOf(pages, text.type);
  if (!heading) return {};
  const { family, weight, transform, spacing, line } = heading.type;
  return {
    'heading-face': family,
    'heading-weight': String(weight),
    'heading-case': transform,
    'heading-spacing': number(spacing),
    'heading-line': number(line || undefined),
    'heading-scale': number(scale[2] ?? scale[1] ?? scale[3]),
  } as const;
}

/** What a state changes; what it leaves is as it is at rest. */
const changed = (state: StateLook | undefined, key: 'fill' | 'ink'): string | undefined =>
  state?.[key] || undefined;

function buttonSources(
  b: SeenBox,
  name: 'button' | 'second-button',
  text: Lettering,
): Partial<Record<SourceName, string | undefined>> {
  const over = b.states.hover;
  const colours = {
    [name]: b.fill || undefined,
    [`${name}-text`]: b.ink,
    [`${name}-edge`]: b.edge.width > 0 ? b.edge.colour : undefined,
    [`${name}-over`]: changed(over, 'fill'),
    [`${name}-over-text`]: changed(over, 'ink'),
    [`${name}-edge-width`]: number(b.edge.width),
    [`${name}-corner`]: number(cornerOf(b)),
  };
  if (name === 'second-button') return colours;
  return {
    ...colours,
    'button-pressed': changed(b.states.active, 'fill'),
    'button-pressed-text': changed(b.states.active, 'ink'),
    focus: b.states.focus?.edge,
    'button-face': faceOf(b.type.family) === faceOf(text.type.family) ? undefined : b.type.family,
    'button-weight': String(b.type.weight),
    'button-case': b.type.transform,
    'button-spacing': number(b.type.spacing),
    'button-size': number(b.type.size),
    'button-pad-x': number(b.padX),
    'button-pad-y': number(b.padY),
    'button-height': number(b.height),
    'button-shadow': b.shadow || undefined,
    'button-over-shadow': over?.shadow || undefined,
    'button-over-underline': over?.underline ? 'underline' : undefined,
  };
}

/** A pill stays one, however high it is. */
const cornerOf = ({ radius, height }: SeenBox): number =>
  height > 0 && radius >= height / 2 - 1 ? 999 : radius;

const fieldSources = (f: SeenBox): Partial<Record<SourceName, string | undefined>> => ({
  field: f.fill || undefined,
  'field-text': f.ink,
  'field-edge': f.edge.width > 0 ? f.edge.colour : undefined,
  'field-edge-width': number(f.edge.width),
  'field-corner': number(cornerOf(f)),
  'field-height': number(f.height),
});

/** What the text stands on, the next ground of its kind, and one the other way round: dark where the page is light. */
function groundSources(pages: readonly SeenPage[], text: Lettering, card: SeenBox | undefined) {
  const others = groundsOf(pages).filter((g) => g.colour !== text.on);
  const isTurned = (g: Ground) => contrast(g.colour, text.on) >= 4.5;
  return {
    ground: text.on,
    band: others.find((g) => !isTurned(g) && difference(g.colour, text.on) > 1.6)?.colour,
    deep: others.find(isTurned)?.colour,
    card: card?.fill || undefined,
  };
}

/** A ground has to have this share of the letters or of the area to be one that a widget may come to stand on. */
const ENOUGH = 0.008;
const MOST_GROUNDS = 6;

/** All grounds that text of the site stands on, the largest first. */
export function groundsOf(pages: readonly SeenPage[]): Ground[] {
  const letters = pages.flatMap((p) => p.texts.filter((t) => t.role !== 'button' && t.role !== 'field'));
  const whole = letters.reduce((sum, t) => sum + inkOf(t), 0) || 1;
  const byGround = new Map<string, SeenText[]>();
  for (const t of letters) {
    const like = [...byGround.keys()].find((known) => difference(known, t.on) < 1.6) ?? t.on;
    byGround.set(like, [...(byGround.get(like) ?? []), t]);
  }
  return [...byGround]
    .map(([colour, own]) => ({
      colour,
      ...most('text', own, ['text', 'small', 'heading-1', 'heading-2', 'heading-3']),
      ...most('link', own, ['link', 'menu']),
      share: own.reduce((sum, t) => sum + inkOf(t), 0) / whole,
    }))
    .filter((g) => g.share >= ENOUGH)
    .sort((a, b) => b.share - a.share)
    .slice(0, MOST_GROUNDS);
}

function most(key: 'text' | 'link', texts: readonly SeenText[], roles: readonly SeenText['role'][]) {
  const weights = new Weights<string>();
  for (const t of texts) if (roles.includes(t.role)) weights.add(t.colour, t.colour, t.letters);
  const found = weights.heaviest;
  return found ? { [key]: found } : {};
}

function ruleOf(pages: readonly SeenPage[]): string | undefined {
  const weights = new Weights<string>();
  for (const r of pages.flatMap((p) => p.rules))
    weights.add(r.colour, r.colour, r.length * (r.region === 'main' ? 2 : 1));
  return weights.heaviest;
}

/** A colour that stands out and is none of the others: of rules, small fills, letters here and there. */
function markOf(pages: readonly SeenPage[], others: readonly (string | undefined)[]): string | undefined {
  const weights = new Weights<string>();
  for (const p of pages) {
    for (const f of p.fills) if (f.role === 'mark' && !f.mixed) weights.add(f.colour, f.colour, f.area);
    for (const r of p.rules) weights.add(r.colour, r.colour, r.length * r.width);
    for (const t of p.texts)
      if (t.role === 'small' || t.role === 'text') weights.add(t.colour, t.colour, inkOf(t) / 4);
  }
  const known = others.flatMap((c) => c ?? []);
  return weights.ranked().find(({ one }) => known.every((c) => difference(c, one) > 12) && isLively(one))
    ?.one;
}

/** Neither white, black nor grey. */
const isLively = (hex: string): boolean => {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((n) => Number.parseInt(hex.slice(n, n + 2), 16));
  return Math.max(r, g, b) - Math.min(r, g, b) > 40;
};

/** The gap that most blocks keep from each other: of what is met often the largest, within the usual measure. */
function spaceOf(pages: readonly SeenPage[]): number | undefined {
  return median(pages.flatMap((p) => p.gaps.filter((g) => g >= 8 && g <= 64).map((g) => [g, 1] as const)));
}

/** The width that contents keep to; of pages that differ the widest that a third of them have. */
function widthOf(pages: readonly SeenPage[]): number | undefined {
  const widths = pages
    .map((p) => p.column)
    .filter((w) => w > 200)
    .sort((a, b) => b - a);
  return widths[Math.floor(widths.length / 3)];
}
