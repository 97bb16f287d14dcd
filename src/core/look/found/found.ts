import { z } from 'zod';
import { familyList, shadowList } from '../canonical';
import type { SeenPage } from '../seen';
import { colourUses, type Place, type Use, uses } from './colour-uses';
import { buttonsOf } from './controls';
import { fontUses } from './letters';
import { hueOf, hues } from './naming';
import {
  colourSources,
  ground,
  type Sources,
  type SourceName,
  sourceNames,
  sources,
  groundsOf,
  sourcesOf,
} from './sources';

const hex = z.string().regex(/^#[0-9a-f]{6}$/);
const place = z.object({ page: z.string().max(1000), at: z.string().max(600) });

const foundColour = z.object({
  value: hex,
  hue: z.enum(hues),
  /** Of several of one hue the first is 1. */
  nth: z.number().min(1).max(100),
  uses: z.array(z.enum(uses)).max(uses.length),
  /** Names by which a thread holds it. */
  sources: z.array(z.enum(sourceNames)).max(sourceNames.length),
  /** Share of the painted area, 0 to 1. */
  share: z.number().min(0).max(1),
  places: z.array(place).max(12),
});
export type FoundColour = z.infer<typeof foundColour>;

const foundFont = z.object({
  face: z.string().max(300),
  family: z.string().max(300),
  roles: z.array(z.string().max(20)).max(12),
  share: z.number().min(0).max(1),
  sizes: z.array(z.number()).max(8),
  weights: z.array(z.number()).max(8),
});
export type FoundFont = z.infer<typeof foundFont>;

/** All that was found of a site's look. */
export const found = z.object({
  by: z.enum(['measured', 'computed']),
  pages: z.number().min(0).max(1000),
  widths: z.array(z.number()).max(8),
  colours: z.array(foundColour).max(60),
  fonts: z.array(foundFont).max(20),
  sources,
  grounds: z.array(ground).max(12),
  /** The same for those who want it dark, where the site has that. */
  dark: z.object({ sources, grounds: z.array(ground).max(12) }).nullable(),
  cannot: z.array(z.string().max(200)).max(20),
});
export type Found = z.infer<typeof found>;

/** Colours that cover less, and hold no thread, are not listed. */
const WORTH_LISTING = 0.0015;
const LISTED = 24;

/** What a site's pages say together. Sizes are those of the widest view, colours those of all. */
export function findLook(read: readonly SeenPage[], by: Found['by']): Found {
  const pages = read.map(alike);
  const light = pages.filter((p) => p.scheme === 'light');
  const wide = widest(light);
  const dark = widest(pages.filter((p) => p.scheme === 'dark'));
  const own = sourcesOf(wide);
  return {
    by,
    pages: new Set(pages.map((p) => p.page)).size,
    widths: [...new Set(pages.map((p) => p.width))].sort((a, b) => a - b),
    colours: coloursOf(wide, own),
    fonts: fontUses(wide).slice(0, 12),
    sources: own,
    grounds: groundsOf(wide),
    dark: dark.length > 0 ? { sources: sourcesOf(dark), grounds: groundsOf(dark) } : null,
    cannot: [...new Set(pages.flatMap((p) => p.cannot))].slice(0, 20),
  };
}

/** Both readings write families and shadows in their own way. */
const alike = (page: SeenPage): SeenPage => ({
  ...page,
  texts: page.texts.map((t) => ({ ...t, type: { ...t.type, family: familyList(t.type.family) } })),
  boxes: page.boxes.map((b) => ({
    ...b,
    shadow: shadowList(b.shadow, { em: b.type.size, rem: page.root }),
    type: { ...b.type, family: familyList(b.type.family) },
    states: Object.fromEntries(
      Object.entries(b.states).map(([state, look]) => [
        state,
        look?.shadow
          ? { ...look, shadow: shadowList(look.shadow, { em: b.type.size, rem: page.root }) }
          : look,
      ]),
    ),
  })),
});

function widest(pages: readonly SeenPage[]): SeenPage[] {
  const width = Math.max(0, ...pages.map((p) => p.width));
  return pages.filter((p) => p.width >= width * 0.95);
}

function coloursOf(pages: readonly SeenPage[], own: Sources): FoundColour[] {
  const held = (value: string): SourceName[] => colourSources.filter((name) => own[name] === value);
  const all = colourUses(pages, buttonsOf(pages).second?.fill);
  const listed = withHeld(all, own)
    .map((c) => ({ ...c, sources: held(c.value) }))
    .filter((c) => c.sources.length > 0 || c.share >= WORTH_LISTING)
    .slice(0, LISTED);
  const seen = new Map<string, number>();
  return listed.map(({ value, sources: names, share, uses: own, places }) => {
    const hue = hueOf(value);
    const of = salientFirst(own, names);
    const key = `${hue} ${of[0] ?? ''}`;
    const nth = (seen.get(key) ?? 0) + 1;
    seen.set(key, nth);
    return { value, hue, nth, uses: of, sources: names, share, places };
  });
}

/** A colour is called by what people know it from: that of the buttons, though there be more of it elsewhere. */
function salientFirst(own: readonly Use[], names: readonly SourceName[]): Use[] {
  const [, known] = knownAs.find(([source]) => names.includes(source)) ?? [];
  return known ? [known, ...own.filter((use) => use !== known)] : [...own];
}

const knownAs: readonly (readonly [SourceName, Use])[] = [
  ['ground', 'page'],
  ['text', 'text'],
  ['button', 'button'],
  ['link', 'link'],
  ['heading', 'heading'],
];

/** Colours that a thread may hold are listed, also where they are of a state that nobody sees at rest, or like another. */
function withHeld(all: ReturnType<typeof colourUses>, own: Sources): ReturnType<typeof colourUses> {
  const known = new Set(all.map((c) => c.value));
  const missing = new Set(
    colourSources.flatMap((name) => own[name] ?? []).filter((value) => !known.has(value)),
  );
  return [...all, ...[...missing].map((value) => ({ value, share: 0, uses: [], places: [] as Place[] }))];
}
