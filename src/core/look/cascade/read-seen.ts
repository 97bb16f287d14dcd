import { attr, bodyOf, descendants, type Document, type Element } from '../../html/tree';
import { isNamedButton, isToggle } from '../button-names';
import { colourOver } from '../colour';
import { difference } from '../remedy';
import type { SeenBox, SeenFill, SeenPage, SeenRegion, SeenRule, SeenText } from '../seen';
import { boxOf } from './box-of';
import { Cascade, type ComputedStyle } from './computed-style';
import { type Measure, measureIn, typeOf } from './measures';
import type { Viewing } from './media';
import { boxRole, hasSide, lettersIn, parentOf, pathOf, sides, textRole, upwards } from './roles';
import { readRules } from './rules';
import { words } from './shorthands';

/** A page with what is known of it from its site. */
export interface PageToSee {
  readonly page: string;
  readonly doc: Document;
  /** Style sheets in the order of the page, imported ones where they are imported. */
  readonly sheets: readonly string[];
  readonly regionOf: (el: Element) => SeenRegion;
}

/**
 * What a page would show, from its style sheets and its tree alone. Nothing is laid out: areas are estimated by the words and pictures
 * inside, heights by lines and padding. @param rules those of the sheets, where they were read before
 */
export function readSeen(
  { page, doc, sheets, regionOf }: PageToSee,
  at: Viewing,
  rules = readRules(sheets, at),
): SeenPage {
  const reading = new Reading(new Cascade(rules, at), at, regionOf);
  const body = bodyOf(doc);
  if (body) reading.read(doc, body);
  if (body) reading.probe(doc, body);
  const area = reading.fills.reduce((sum, f) => sum + f.area, 0);
  return {
    page,
    width: at.width,
    height: Math.round(area / at.width) || at.height,
    scheme: at.scheme,
    root: reading.rem,
    column: reading.column,
    gaps: reading.gaps.slice(0, 400),
    fills: reading.fills.sort((a, b) => b.area - a.area).slice(0, 400),
    texts: reading.texts.slice(0, 600),
    boxes: reading.boxes.slice(0, 400),
    rules: reading.rules.slice(0, 200),
    hasDark: sheets.some((s) => /prefers-color-scheme\s*:\s*dark/.test(s)),
    cannot: [...rules.leftOut].slice(0, 5),
  };
}

/** A letter with the room around it, as a share of the square of its size; and how much of a page is empty beside its text. By hand. */
const LETTER = 0.75;
const EMPTY = 2.2;
/** A picture that does not say how large it is. */
const PICTURE = 400 * 300;

/** What lies behind what stands in an element, and the area that counts for it. */
interface Ground {
  readonly colour: string;
  readonly fill: SeenFill;
}

class Reading {
  readonly fills: SeenFill[] = [];
  readonly texts: SeenText[] = [];
  readonly boxes: SeenBox[] = [];
  readonly rules: SeenRule[] = [];
  /** Without a layout the gaps that blocks ask for themselves. */
  readonly gaps: number[] = [];
  column = 0;
  readonly #grounds = new Map<Element, Ground>();
  readonly #hidden = new Set<Element>();
  readonly #buttons = new Set<Element>();
  readonly #textBy = new Map<string, SeenText>();
  readonly #boxBy = new Map<string, SeenBox>();
  readonly #measure: Measure;
  #base: Ground = groundOf('#ffffff', 'ground', 'page', false, 'body');

  constructor(
    private readonly cascade: Cascade,
    private readonly at: Viewing,
    private readonly regionOf: (el: Element) => SeenRegion,
  ) {
    this.#measure = measureIn(() => cascade.rem, at);
  }

  get rem(): number {
    return this.cascade.rem;
  }

  read(doc: Document, body: Element): void {
    const root = parentOf(body) ?? body;
    this.#base = groundOf(this.#canvas(root, body), 'ground', 'page', false, 'body');
    this.fills.push(this.#base.fill);
    for (const el of [root, body]) this.#grounds.set(el, this.#base);
    for (const el of descendants(doc)) {
      const style = this.cascade.styleOf(el);
      const up = parentOf(el);
      if (style.get('display') === 'none' || (up && this.#hidden.has(up))) this.#hidden.add(el);
      else if (style.get('visibility') === 'visible') this.#element(el, style);
    }
  }

  /** What the window shows where nothing lies (CSS Backgrounds 3, 2.11.2). A dark window is Chromium's. */
  #canvas(root: Element, body: Element): string {
    const isDark =
      /\bdark\b/.test(this.cascade.styleOf(root).get('color-scheme')) && this.at.scheme === 'dark';
    const window = isDark ? '#121212' : '#ffffff';
    const own = [root, body].flatMap((el) => ownGround(this.cascade.styleOf(el), window) ?? []);
    return own[0]?.colour ?? window;
  }

  #element(el: Element, style: ComputedStyle): void {
    const up = parentOf(el);
    const above = (up && this.#grounds.get(up)) ?? this.#base;
    const region = this.regionOf(el);
    const isPage = this.#grounds.has(el);
    const own = isPage ? undefined : ownGround(style, above.colour);
    const role = boxRole(el, style, own !== undefined && difference(own.colour, above.colour) > 2);
    const ground = own ? this.#fill(el, own, region, role) : above;
    this.#grounds.set(el, ground);
    if (role) this.#box(el, { role, region, on: above.colour, fill: own?.colour });
    this.#text(el, style, ground, region);
    if (!role) this.#rule(el, style, above.colour, region);
    this.#width(style, region);
    if (region === 'main' && /^(p|ul|ol|h[1-4]|figure)$/.test(el.tagName)) this.#gap(style);
    ground.fill.area += roomOf(el, style);
  }

  #fill(
    el: Element,
    own: { colour: string; mixed: boolean },
    region: SeenRegion,
    role: SeenBox['role'] | undefined,
  ): Ground {
    const ground = groundOf(own.colour, this.#fillRole(el, own.colour, role), region, own.mixed, pathOf(el));
    this.fills.push(ground.fill);
    return ground;
  }

  #fillRole(el: Element, colour: string, role: SeenBox['role'] | undefined): SeenFill['role'] {
    if (role && role !== 'picture') return role;
    if (difference(colour, this.#base.colour) < 1) return 'ground';
    return /^(section|header|footer|main|nav|aside)$/.test(el.tagName) ? 'band' : 'card';
  }

  #text(el: Element, style: ComputedStyle, ground: Ground, region: SeenRegion): void {
    const on = ground.colour;
    const letters = lettersIn(el);
    const colour = colourOver(style.get('color'), on);
    if (!letters || !colour) return;
    const around = [...upwards(el)];
    const make = {
      role: textRole(
        el,
        region,
        around.some((up) => this.#buttons.has(up)),
      ),
      region,
      colour,
      on,
      overPicture: ground.fill.mixed,
      type: typeOf(style, this.rem),
      underline: this.#isUnderlined(around),
    };
    const key = JSON.stringify(make);
    const known = this.#textBy.get(key);
    if (known) known.letters += letters;
    else {
      const seen: SeenText = { ...make, letters, at: [pathOf(el)] };
      this.#textBy.set(key, seen);
      this.texts.push(seen);
    }
  }

  /** Lines below letters are drawn by what holds them, as far as the link that they stand in. */
  #isUnderlined(around: readonly Element[]): boolean {
    const link = around.findIndex((up) => up.tagName === 'a');
    return around
      .slice(0, link === -1 ? 1 : link + 1)
      .some((up) => this.cascade.styleOf(up).get('text-decoration-line').includes('underline'));
  }

  #box(el: Element, place: Parameters<typeof boxOf>[3]): void {
    if (place.role === 'button') this.#buttons.add(el);
    const box = boxOf(el, this.cascade, this.#measure, place);
    const { at: _, count: _c, states: _s, ...make } = box;
    const key = JSON.stringify(make);
    const known = this.#boxBy.get(key);
    if (known) known.count++;
    else {
      this.#boxBy.set(key, box);
      this.boxes.push(box);
    }
  }

  /** A line across: an edge above or below, and not all around. Without a layout it counts as long as a short column. */
  #rule(el: Element, style: ComputedStyle, on: string, region: SeenRegion): void {
    const seen = sides.filter(
      (side) => hasSide(style, side) && this.#measure(style, `border-${side}-width`) > 0,
    );
    const side = seen[0];
    if (seen.length === 4 || (side !== 'top' && side !== 'bottom')) return;
    const colour = colourOver(style.get(`border-${side}-color`) || 'currentcolor', on, style.get('color'));
    const width = this.#measure(style, `border-${side}-width`);
    if (colour) this.rules.push({ region, colour, on, width, length: 300, at: [pathOf(el)] });
  }

  #gap(style: ComputedStyle): void {
    const gap = Math.round(this.#measure(style, 'margin-bottom'));
    if (gap >= 4 && gap <= 160) this.gaps.push(gap);
  }

  /** The widest measure that content is kept to: by a greatest width, by one that hangs on the window, or by wide paddings. */
  #width(style: ComputedStyle, region: SeenRegion): void {
    if (region !== 'main' && region !== 'page') return;
    const padding = this.#measure(style, 'padding-left');
    const kept = /min\(|clamp\(/.test(style.get('width')) ? this.#measure(style, 'width') : 0;
    const within = style.get('box-sizing') === 'border-box' ? padding * 2 : 0;
    const inside = Math.max(this.#measure(style, 'max-width'), kept) - within;
    const left = padding > 60 && inside <= 0 ? this.at.width - padding * 2 : inside;
    if (left > 200 && left < this.at.width) this.column = Math.max(this.column, left);
  }

  /** How a link and a button would look that the owner wrote into the main part: for pages that have none. */
  probe(doc: Document, body: Element): void {
    const main =
      [...descendants(doc)].find((el) => this.regionOf(el) === 'main' && !this.#hidden.has(el)) ?? body;
    const ground = this.#grounds.get(main) ?? this.#base;
    const link = made('a', main, [['href', '#']]);
    const colour = colourOver(this.cascade.styleOf(link).get('color'), ground.colour);
    const type = typeOf(this.cascade.styleOf(link), this.rem);
    const underline = this.#isUnderlined([link]);
    if (colour)
      this.texts.push({
        role: 'link',
        region: 'main',
        colour,
        on: ground.colour,
        letters: 0,
        overPicture: false,
        type,
        underline,
        at: [],
      });
    for (const name of this.#buttonClasses()) {
      const button = made('a', main, [
        ['href', '#'],
        ['class', name],
      ]);
      const own = ownGround(this.cascade.styleOf(button), ground.colour);
      if (!own) continue;
      const box = boxOf(button, this.cascade, this.#measure, {
        role: 'button',
        region: 'main',
        on: ground.colour,
        fill: own.colour,
      });
      this.boxes.push({ ...box, at: [] });
    }
  }

  #buttonClasses(): string[] {
    const names = this.cascade.classes.filter((name) => isNamedButton(name) && !isToggle(name));
    return [...new Set(names)].slice(0, 12);
  }
}

/** An element that is on no page. */
const made = (
  tagName: string,
  parentNode: Element,
  attrs: readonly (readonly [string, string])[],
): Element => ({
  nodeName: tagName,
  tagName,
  attrs: attrs.map(([name, value]) => ({ name, value })),
  namespaceURI: parentNode.namespaceURI,
  childNodes: [],
  parentNode,
});

const groundOf = (
  colour: string,
  role: SeenFill['role'],
  region: SeenRegion,
  mixed: boolean,
  at: string,
): Ground => ({
  colour,
  fill: { role, region, colour, area: 0, mixed, at: [at] },
});

/** An element's own ground; of a gradient its first colour. */
function ownGround(style: ComputedStyle, on: string): { colour: string; mixed: boolean } | undefined {
  const image = style.get('background-image');
  const stops = image.includes('gradient(')
    ? words(image.replace(/^[^(]*\(|\)$/g, '').replaceAll(',', ' '))
    : [];
  const first = stops.flatMap((s) => colourOver(s, on) ?? [])[0];
  if (first) return { colour: first, mixed: true };
  const colour = colourOver(style.get('background-color'), on, style.get('color'));
  return colour === undefined ? undefined : { colour, mixed: image.includes('url(') };
}

/** The area that an element's own words or picture take, empty space beside them included. */
function roomOf(el: Element, style: ComputedStyle): number {
  if (el.tagName !== 'img') return lettersIn(el) * style.size * style.size * LETTER * EMPTY;
  const [w, h] = [Number(attr(el, 'width')), Number(attr(el, 'height'))];
  return w > 0 && h > 0 ? w * h : PICTURE;
}
