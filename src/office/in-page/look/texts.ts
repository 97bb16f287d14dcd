import type { SeenText } from '../../../core/look/seen';
import { behind, hexOf, over, type Rgba, rgba } from './colours';
import type { Painting } from './paint';
import { type Box, type Met, pathOf, Tally, typeOf } from './walk';

/** All letters of the page, by how they look, what they are, and what lies behind them. */
export function textsIn(
  all: readonly Met[],
  painting: Painting,
  buttons: ReadonlySet<Element>,
  ground: Rgba,
): SeenText[] {
  const tally = new Tally<SeenText>((known, more) => {
    known.letters += more.letters;
  });
  const bodySize = Number.parseFloat(getComputedStyle(document.body).fontSize) || 16;
  for (const met of all) {
    const seen = textOf(met, painting, buttons, bodySize);
    if (!seen) continue;
    const { at: _, letters: _n, ...make } = seen;
    tally.count(JSON.stringify(make), seen);
  }
  return [...tally.most(300, (t) => t.letters), ...probedLink(ground)];
}

/** How a link would look that the owner wrote into the main part: for sites whose only links stand in menus. */
function probedLink(ground: Rgba): SeenText[] {
  const main = document.querySelector('[data-stall-region=main],main,[role=main]') ?? document.body;
  const holder = main.querySelector('p')?.parentElement ?? main;
  const [line, link] = [document.createElement('p'), document.createElement('a')];
  link.href = '#';
  link.textContent = 'a link';
  line.append(link);
  holder.append(line);
  const style = getComputedStyle(link);
  const on = behind(link, ground);
  const seen: SeenText = {
    role: 'link',
    region: 'main',
    colour: hexOf(over(rgba(style.color), on)),
    on: hexOf(on),
    overPicture: false,
    letters: 0,
    type: typeOf(style),
    underline: style.textDecorationLine.includes('underline'),
    at: [],
  };
  line.remove();
  return [seen];
}

function textOf(
  met: Met,
  painting: Painting,
  buttons: ReadonlySet<Element>,
  bodySize: number,
): SeenText | undefined {
  const { el, style, region } = met;
  if (!met.clip.w || !met.clip.h) return undefined;
  const own = ownText(el);
  if (!own) return undefined;
  const { letters, line } = own;
  const layer = painting.under(line);
  const role = roleOf(el, region, buttons, Number.parseFloat(style.fontSize) / bodySize);
  return {
    role,
    region,
    colour: hexOf(over(rgba(style.color), layer.colour)),
    on: hexOf(layer.colour),
    overPicture: layer.mixed,
    letters,
    type: typeOf(style),
    underline: isUnderlined(el, style),
    at: [pathOf(el)],
  };
}

/** The letters that stand in an element itself, and where the first line of them is. */
function ownText(el: Element): { letters: number; line: Box } | undefined {
  let letters = 0;
  let line: Box | undefined;
  for (const node of el.childNodes) {
    if (node.nodeType !== Node.TEXT_NODE) continue;
    const text = (node.nodeValue ?? '').replace(/\s+/g, '');
    if (!text) continue;
    letters += text.length;
    line ??= lineOf(node);
  }
  return letters && line ? { letters, line } : undefined;
}

function lineOf(node: Node): Box | undefined {
  const range = document.createRange();
  range.selectNodeContents(node);
  const rect = [...range.getClientRects()].find((r) => r.width > 1 && r.height > 1);
  return rect && { x: rect.left + scrollX, y: rect.top + scrollY, w: rect.width, h: rect.height };
}

const isUnderlined = (el: Element, style: CSSStyleDeclaration): boolean =>
  style.textDecorationLine.includes('underline') ||
  (el.closest('a') !== null &&
    getComputedStyle(el.closest('a') as Element).textDecorationLine.includes('underline'));

function roleOf(
  el: Element,
  region: Met['region'],
  buttons: ReadonlySet<Element>,
  scale: number,
): SeenText['role'] {
  for (let up: Element | null = el; up; up = up.parentElement) if (buttons.has(up)) return 'button';
  if (el.closest('input,textarea,select,option')) return 'field';
  const heading = /^H([1-6])$/.exec(el.closest('h1,h2,h3,h4,h5,h6')?.tagName ?? '')?.[1];
  if (heading) return `heading-${Math.min(3, Number(heading)) as 1 | 2 | 3}`;
  const isLink = el.closest('a[href]') !== null;
  if (isLink) return region === 'menu' || el.closest('nav,[role=navigation]') ? 'menu' : 'link';
  return scale < 0.87 || el.closest('small') ? 'small' : 'text';
}
