import type { SeenRegion, SeenType } from '../../../core/look/seen';

/** A box on the page, from its top left corner. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** An element that is seen, with what its ancestors say about it. */
export interface Met {
  readonly el: Element;
  readonly style: CSSStyleDeclaration;
  readonly box: Box;
  readonly region: SeenRegion;
  /** What of it is not cut off by boxes around it. */
  readonly clip: Box;
  /** Later ones are painted over earlier ones. */
  readonly layer: number;
}

/** Elements beyond this are not looked at. Chosen by hand; a page of a small site has one or two thousand. */
const MOST = 8000;
const skipped = new Set(['SCRIPT', 'STYLE', 'TEMPLATE', 'NOSCRIPT', 'HEAD', 'IFRAME', 'OBJECT', 'DIALOG']);

const isOurs = (el: Element): boolean =>
  el.localName.startsWith('stall-') || el.hasAttribute('data-stall-fragment');

export const boxOf = (el: Element): Box => {
  const r = el.getBoundingClientRect();
  return { x: r.left + scrollX, y: r.top + scrollY, w: r.width, h: r.height };
};

export const overlap = (a: Box, b: Box): Box => {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  return {
    x,
    y,
    w: Math.max(0, Math.min(a.x + a.w, b.x + b.w) - x),
    h: Math.max(0, Math.min(a.y + a.h, b.y + b.h) - y),
  };
};

interface Turn {
  readonly el: Element;
  readonly region: SeenRegion;
  readonly clip: Box;
  readonly layer: number;
}

/** Every element of the page that is seen, in the order of the page; ours are left out. */
export function walk(): Met[] {
  const { documentElement: root } = document;
  const whole: Box = { x: 0, y: 0, w: root.scrollWidth, h: root.scrollHeight };
  const found: Met[] = [];
  const stack: Turn[] = [{ el: root, region: 'page', clip: whole, layer: 0 }];
  for (let turn = stack.pop(); turn && found.length < MOST; turn = stack.pop()) {
    const { el } = turn;
    if (skipped.has(el.tagName) || isOurs(el)) continue;
    const style = getComputedStyle(el);
    if (style.display === 'none' || Number(style.opacity) < 0.1) continue;
    const met = meet(turn, style);
    if (style.visibility === 'visible') found.push(met);
    const { region, layer } = met;
    const clip = cutsOff(el, style) ? met.clip : turn.clip;
    for (const kid of insideOf(el).reverse()) stack.push({ el: kid, region, clip, layer });
  }
  return found;
}

const insideOf = (el: Element): Element[] => (el instanceof SVGElement ? [] : [...el.children]);

/** Whether a box cuts off what is larger than it. What the root and the body cut off is the window's. */
const cutsOff = (el: Element, style: CSSStyleDeclaration): boolean =>
  /hidden|clip|auto|scroll/.test(style.overflowX + style.overflowY) &&
  el !== document.documentElement &&
  el !== document.body;

function meet({ el, region, clip, layer }: Turn, style: CSSStyleDeclaration): Met {
  const box = boxOf(el);
  const z = Number.parseInt(style.zIndex, 10);
  const lifted = style.position === 'static' ? 0 : 0.5;
  return {
    el,
    style,
    box,
    region: regionOf(el) ?? region,
    clip: overlap(box, clip),
    layer: Math.max(-1, Math.min(layer + (Number.isNaN(z) ? lifted : z + lifted), 1e6)),
  };
}

const byTag: Readonly<Record<string, SeenRegion>> = {
  HEADER: 'header',
  NAV: 'menu',
  MAIN: 'main',
  ASIDE: 'side',
  FOOTER: 'footer',
};
const byRole: Readonly<Record<string, SeenRegion>> = {
  banner: 'header',
  navigation: 'menu',
  main: 'main',
  complementary: 'side',
  contentinfo: 'footer',
};

/** The region that begins with an element: as the site's reading marked it, else as the page itself says. */
function regionOf(el: Element): SeenRegion | undefined {
  const marked = el.getAttribute('data-stall-region') as SeenRegion | null;
  if (marked) return marked;
  if (document.querySelector('[data-stall-region]')) return undefined;
  const isSection = el.parentElement?.closest('main,article,section') !== null;
  const meant = byRole[el.getAttribute('role') ?? ''] ?? byTag[el.tagName];
  return isSection && (meant === 'header' || meant === 'footer') ? undefined : meant;
}

/** The way to an element from the body, as a CSS path. */
export function pathOf(el: Element): string {
  const steps: string[] = [];
  for (
    let at: Element | null = el;
    at && at !== document.body && at !== document.documentElement;
    at = at.parentElement
  ) {
    const own = at;
    const like = [...(own.parentElement?.children ?? [])].filter((k) => k.tagName === own.tagName);
    steps.unshift(like.length > 1 ? `${own.localName}:nth-of-type(${like.indexOf(own) + 1})` : own.localName);
  }
  return ['body', ...steps].join('>');
}

export const px = (value: string): number => Math.round((Number.parseFloat(value) || 0) * 100) / 100;

/** How an element's letters look. */
export function typeOf(style: CSSStyleDeclaration): SeenType {
  const size = px(style.fontSize);
  const transform = style.textTransform;
  return {
    family: style.fontFamily.slice(0, 300),
    size,
    weight: Number(style.fontWeight) || 400,
    italic: style.fontStyle !== 'normal',
    transform:
      transform === 'uppercase' || transform === 'lowercase' || transform === 'capitalize'
        ? transform
        : 'none',
    spacing: size ? Math.round((px(style.letterSpacing) / size) * 1000) / 1000 : 0,
    line: size && style.lineHeight !== 'normal' ? Math.round((px(style.lineHeight) / size) * 100) / 100 : 0,
  };
}

/** Like things told once: what they have in common, how much of them there is, where the first few stand. */
export class Tally<T extends { readonly at: string[] }> {
  readonly #by = new Map<string, T>();

  constructor(private readonly add: (known: T, more: T) => void) {}

  count(key: string, one: T): void {
    const known = this.#by.get(key);
    if (!known) return void this.#by.set(key, one);
    this.add(known, one);
    if (known.at.length < 4) known.at.push(...one.at);
  }

  /** The most of them first. */
  most(limit: number, worth: (t: T) => number): T[] {
    return [...this.#by.values()].sort((a, b) => worth(b) - worth(a)).slice(0, limit);
  }
}
