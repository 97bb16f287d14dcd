import { difference } from '../remedy';
import type { SeenBox, SeenFill, SeenPage, SeenRule, SeenText } from '../seen';

/** What a colour is used for on a site. The order is that in which a colour is named by one of several. */
export const uses = [
  ...[
    'page',
    'button',
    'second-button',
    'link',
    'heading',
    'text',
    'second-text',
    'band',
    'footer',
    'header',
    'card',
  ],
  ...['field', 'rule', 'menu', 'mark', 'picture'],
] as const;
export type Use = (typeof uses)[number];

export interface Place {
  readonly page: string;
  readonly at: string;
}

/** A colour with how much of the site it covers, what for, and where. */
export interface ColourUse {
  readonly value: string;
  /** Share of the painted area, 0 to 1. */
  readonly share: number;
  /** What it is used for, most of it first, with its share of the area that this colour covers. */
  readonly uses: Use[];
  readonly places: Place[];
}

interface Drop {
  readonly value: string;
  readonly area: number;
  readonly use: Use;
  readonly page: string;
  readonly at: readonly string[];
}

/**
 * How much of the square of its size a letter covers with ink, and how much more its soft edges take of the ground without being of either
 * colour. By hand, from pixel counts of text pages in faces of several makes; bold ones have about a third more.
 */
const INK = 0.08;
const WITH_EDGES = 1.8;
export const inkOf = ({ letters, type: { size, weight } }: SeenText): number =>
  letters * size * size * INK * (weight >= 600 ? 1.35 : 1);

/** Below this nobody tells two colours apart (CIEDE2000, common practice): they are one. */
const SAME = 1;

/**
 * Colours of a site by the area that they cover: grounds, letters, lines, edges. Pages count alike, however long they are. Colours
 * that only pictures show are left out of the list, their area counts to the whole.
 */
export function colourUses(pages: readonly SeenPage[], secondButton?: string): ColourUse[] {
  const drops = pages.flatMap((page) => dropsOf(page, secondButton));
  const groups: { value: string; drops: Drop[]; area: number }[] = [];
  const byValue = new Map<string, Drop[]>();
  for (const drop of drops) byValue.set(drop.value, [...(byValue.get(drop.value) ?? []), drop]);
  const areaOf = (list: readonly Drop[]) => list.reduce((sum, d) => sum + d.area, 0);
  const ranked = [...byValue].map(([value, list]) => ({ value, drops: list, area: areaOf(list) }));
  for (const one of ranked.sort((a, b) => b.area - a.area)) {
    const like = groups.find((g) => difference(g.value, one.value) < SAME);
    if (!like) groups.push(one);
    else {
      like.drops.push(...one.drops);
      like.area += one.area;
    }
  }
  // Each page is a whole of one; soft edges of letters are of no colour of the site.
  const whole = Math.max(1, pages.length);
  return groups
    .map(({ value, drops: own, area }) => ({
      value,
      share: Math.min(1, area / whole),
      uses: usesOf(own),
      places: placesOf(own),
    }))
    .filter((c) => c.uses.some((use) => use !== 'picture'))
    .sort((a, b) => b.share - a.share);
}

function usesOf(drops: readonly Drop[]): Use[] {
  const areas = new Map<Use, number>();
  for (const d of drops) areas.set(d.use, (areas.get(d.use) ?? 0) + d.area);
  return [...areas].sort((a, b) => b[1] - a[1]).map(([use]) => use);
}

const PLACES = 8;
const placesOf = (drops: readonly Drop[]): Place[] =>
  [...drops]
    .filter((d) => d.use !== 'picture')
    .sort((a, b) => b.area - a.area)
    .flatMap(({ page, at }) => at.map((path) => ({ page, at: path })))
    .slice(0, PLACES);

function dropsOf(page: SeenPage, secondButton: string | undefined): Drop[] {
  const per = 1 / Math.max(1, page.width * page.height);
  const drop = (value: string, area: number, use: Use, at: readonly string[]): Drop => ({
    value,
    area: area * per,
    use,
    page: page.page,
    at,
  });
  const ink = new Map<string, number>();
  for (const t of page.texts) ink.set(t.on, (ink.get(t.on) ?? 0) + inkOf(t) * WITH_EDGES);
  return [
    ...page.fills.map((f) => {
      // Letters cover what they stand on; taken off once, from the first fill of that colour.
      const covered = ink.get(f.colour) ?? 0;
      ink.delete(f.colour);
      return drop(f.colour, Math.max(0, f.area - covered), useOfFill(f, page, secondButton), f.at);
    }),
    ...page.texts.map((t) => drop(t.colour, inkOf(t), useOfText(t), t.at)),
    ...page.rules.map((r: SeenRule) => drop(r.colour, r.width * r.length, 'rule', r.at)),
    ...page.boxes
      .filter((b) => b.edge.width > 0)
      .map((b) => drop(b.edge.colour, edgeArea(b), useOfEdge(b), b.at)),
  ];
}

const edgeArea = (b: SeenBox): number => b.edge.width * 2 * (b.width + b.height) * b.count;
const useOfEdge = (b: SeenBox): Use => {
  if (b.role === 'field') return 'field';
  return b.role === 'button' ? 'button' : 'rule';
};

function useOfFill(f: SeenFill, page: SeenPage, secondButton: string | undefined): Use {
  if (f.role === 'picture' || f.mixed) return 'picture';
  if (f.role === 'button') return f.colour === secondButton ? 'second-button' : 'button';
  if (f.role === 'card' && f.region === 'footer') return 'footer';
  if (f.role === 'field' || f.role === 'card' || f.role === 'mark') return f.role;
  if (f.role === 'ground') return 'page';
  if (f.region === 'footer') return 'footer';
  if (f.region === 'header' || f.region === 'menu') return 'header';
  // What covers more than half of a page is its ground, whatever element it is of.
  return f.area > (page.width * page.height) / 2 ? 'page' : 'band';
}

const useOfText = (t: SeenText): Use => {
  if (t.role.startsWith('heading')) return 'heading';
  const known: Partial<Record<SeenText['role'], Use>> = {
    link: 'link',
    menu: 'menu',
    button: 'button',
    field: 'field',
    small: 'second-text',
  };
  return known[t.role] ?? 'text';
};
