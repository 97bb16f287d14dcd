import type { SeenFill, SeenPage, SeenText, SeenType } from '../seen';
import { contrast } from '../colour';
import { difference } from '../remedy';
import { median, Weights } from './tally';

/** A face as it is used on a site. */
export interface FontUse {
  /** The first family of its list: what the owner calls it. */
  readonly face: string;
  readonly family: string;
  readonly roles: SeenText['role'][];
  /** Share of the site's letters. */
  readonly share: number;
  /** Sizes in px and weights, the most used first. */
  readonly sizes: number[];
  readonly weights: number[];
}

/** Letters of one role, as most of them are. */
export interface Lettering {
  readonly colour: string;
  readonly on: string;
  readonly type: SeenType;
  readonly underline: boolean;
}

export const faceOf = (family: string): string =>
  (/^\s*(?:"([^"]*)"|'([^']*)'|([^,]*))/.exec(family)?.slice(1).find(Boolean) ?? '').trim();

/** Code stands in a face of its own on pages about code: it is no face of the site's. */
const isCode = (t: SeenText): boolean =>
  /\b(mono|monospace|courier|consolas|menlo|code)\b/i.test(t.type.family.split(',')[0] ?? '');

export function fontUses(pages: readonly SeenPage[]): FontUse[] {
  const texts = pages.flatMap((p) => p.texts);
  const whole = texts.reduce((sum, t) => sum + t.letters, 0) || 1;
  const byFace = new Map<string, SeenText[]>();
  for (const t of texts) {
    const face = faceOf(t.type.family);
    byFace.set(face, [...(byFace.get(face) ?? []), t]);
  }
  const ranked = <T>(own: readonly SeenText[], of: (t: SeenText) => T): T[] => {
    const weights = new Weights<T>();
    for (const t of own) weights.add(String(of(t)), of(t), t.letters);
    return weights.ranked().map((w) => w.one);
  };
  return [...byFace]
    .map(([face, own]) => ({
      face,
      family: ranked(own, (t) => t.type.family)[0] ?? face,
      roles: ranked(own, (t) => t.role),
      share: own.reduce((sum, t) => sum + t.letters, 0) / whole,
      sizes: ranked(own, (t) => Math.round(t.type.size * 10) / 10).slice(0, 6),
      weights: ranked(own, (t) => t.type.weight).slice(0, 5),
    }))
    .sort((a, b) => b.share - a.share);
}

/** Where the site's own content is read first; other regions only where it is nowhere else. */
const order: readonly (readonly SeenText['region'][])[] = [
  ['main'],
  ['page'],
  ['side'],
  ['footer', 'header', 'menu'],
];

/** Letters of a role as most of them look: in the main part, else where there are any. */
export const lettering = (
  pages: readonly SeenPage[],
  ...roles: readonly SeenText['role'][]
): Lettering | undefined =>
  letteringOf(pages.flatMap((p) => p.texts.filter((t) => roles.includes(t.role) && !isCode(t))));

/** Below this two grounds are one (CIEDE2000); chosen by hand. */
const SAME_GROUND = 1.6;

/**
 * The site's own text: on the ground that has most of its letters and of its area together, as most letters there look. A
 * dark band with the longest paragraph of a site is not what the site stands on.
 */
export function bodyText(pages: readonly SeenPage[]): Lettering | undefined {
  const texts = inOwnRegion(pages.flatMap((p) => p.texts.filter((t) => isBody(t) && !isCode(t))));
  const grounds: { colour: string; letters: number; area: number }[] = [];
  for (const t of texts) {
    const known = grounds.find((g) => difference(g.colour, t.on) < SAME_GROUND);
    if (known) known.letters += t.letters;
    else grounds.push({ colour: t.on, letters: t.letters, area: 0 });
  }
  for (const [p, f] of pages.flatMap((page) => page.fills.map((fill) => [page, fill] as const))) {
    if (!isGround(f)) continue;
    const known = grounds.find((g) => difference(g.colour, f.colour) < SAME_GROUND);
    if (known) known.area += f.area / Math.max(1, p.width * p.height) / pages.length;
  }
  const letters = grounds.reduce((sum, g) => sum + g.letters, 0) || 1;
  const [best] = grounds.toSorted((a, b) => b.letters / letters + b.area - (a.letters / letters + a.area));
  return best && most(texts.filter((t) => difference(t.on, best.colour) < SAME_GROUND));
}

const isGround = (f: SeenFill): boolean => f.role === 'ground' || f.role === 'band' || f.role === 'card';
const isBody = (t: SeenText): boolean => t.role === 'text' || t.role === 'small';

/** Letters of a role on one ground. Those on other grounds say nothing of it: white links of a dark header. */
export function letteringOn(
  pages: readonly SeenPage[],
  ground: string,
  role: SeenText['role'],
): Lettering | undefined {
  const own = pages.flatMap((p) =>
    p.texts.filter((t) => t.role === role && t.on === ground && t.region !== 'header'),
  );
  // Else how one would look that were written there.
  return (
    letteringOf(own) ??
    letteringOf(pages.flatMap((p) => p.texts.filter((t) => t.role === role && t.at.length === 0)))
  );
}

/** Links that no style sheet speaks of, as browsers draw them (HTML, 15.3.4: LinkText). */
const UNSTYLED = '#0000ee';

/**
 * Links in text on the site's ground. Where no page has any and the browser's own blue is all that is left, the links that
 * the site does have there, in its menu, say more of it; else those that stand elsewhere; else, where those are light on a dark
 * bar, the bar.
 */
export function linksOn(pages: readonly SeenPage[], ground: string): Lettering | undefined {
  const link = letteringOn(pages, ground, 'link');
  const there = pages.flatMap((p) => p.texts.filter((t) => t.on === ground && t.at.length > 0));
  const isSeen = there.some((t) => t.role === 'link' && t.region !== 'header');
  if (isSeen || link?.colour !== UNSTYLED) return link;
  const isLink = (t: SeenText) => t.role === 'menu' || t.role === 'link';
  // Those of a column with a ground of its own, where they could be read here as well.
  const elsewhere = pages.flatMap((p) => p.texts.filter((t) => isLink(t) && isReadable(t.colour, ground)));
  const menu = letteringOf(there.filter(isLink)) ?? letteringOf(elsewhere.filter((t) => t.at.length > 0));
  const bar = letteringOf(
    pages.flatMap((p) => p.texts.filter((t) => isLink(t) && t.at.length > 0 && isReadable(t.on, ground))),
  );
  const colour = menu?.colour ?? bar?.on;
  return colour === undefined ? link : { ...link, colour };
}

/** By WCAG 2.2, 1.4.3. */
const isReadable = (colour: string, ground: string): boolean => contrast(colour, ground) >= 4.5;

const letteringOf = (all: readonly SeenText[]): Lettering | undefined => most(inOwnRegion(all));

/** Those of the main part, else of the next regions that have any. */
function inOwnRegion(all: readonly SeenText[]): readonly SeenText[] {
  // What stands over a picture says little of the ground that the site has elsewhere.
  const plain = all.filter((t) => !t.overPicture);
  const own = plain.length ? plain : all;
  // A page may name its main part wrongly, or have a few letters there alone: a tenth is enough to be believed.
  const whole = own.reduce((sum, t) => sum + t.letters, 0);
  for (const regions of order) {
    const here = own.filter((t) => regions.includes(t.region));
    const letters = here.reduce((sum, t) => sum + t.letters, 0);
    if (here.length > 0 && letters >= whole / 10) return here;
  }
  return own;
}

function most(texts: readonly SeenText[]): Lettering | undefined {
  if (texts.length === 0) return undefined;
  // Colour and face first, by themselves: sizes differ more than they do.
  const looks = new Weights<SeenText>();
  for (const t of texts) looks.add(`${t.colour} ${t.on} ${faceOf(t.type.family)}`, t, t.letters);
  const key = looks.heaviest;
  if (!key) return undefined;
  const like = texts.filter(
    (t) => t.colour === key.colour && t.on === key.on && faceOf(t.type.family) === faceOf(key.type.family),
  );
  const exact = new Weights<SeenText>();
  for (const t of like) exact.add(JSON.stringify([t.type, t.underline]), t, t.letters);
  const { colour, on, type, underline } = exact.heaviest ?? key;
  return { colour, on, type, underline };
}

/** Text beside the main one: another colour on the same ground, with some of the letters. */
export function secondColour(pages: readonly SeenPage[], text: Lettering): string | undefined {
  const weights = new Weights<string>();
  for (const t of pages.flatMap((p) => p.texts))
    if (t.on === text.on && (t.role === 'text' || t.role === 'small'))
      weights.add(t.colour, t.colour, t.letters);
  const second = weights.ranked().find((w) => w.one !== text.colour);
  return second && second.weight >= weights.total * 0.015 ? second.one : undefined;
}

/** Sizes of headings as multiples of the text's; undefined where there are none of a level. */
export function scaleOf(
  pages: readonly SeenPage[],
  text: SeenType,
): Readonly<Record<1 | 2 | 3, number | undefined>> {
  const sizeOf = (level: 1 | 2 | 3): number | undefined => {
    const own = pages.flatMap((p) => p.texts.filter((t) => t.role === `heading-${level}`));
    const size = median(own.map((t) => [t.type.size, t.letters] as const));
    return size && text.size ? Math.round((size / text.size) * 1000) / 1000 : undefined;
  };
  return { 1: sizeOf(1), 2: sizeOf(2), 3: sizeOf(3) };
}
