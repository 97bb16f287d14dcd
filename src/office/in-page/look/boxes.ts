import { calledBy, isNamedButton, isToggle } from '../../../core/look/button-names';
import type { SeenBox, SeenRule } from '../../../core/look/seen';
import { behind, differ, hexOf, over, type Rgba, rgba } from './colours';
import { statesOf, statesOfAll, styleRules } from './states';
import { type Met, pathOf, px, Tally, typeOf } from './walk';

const BUTTONS =
  'button,input[type=submit],input[type=button],input[type=reset],a,[role=button],summary,label';
const FIELDS =
  'textarea,select,input:not([type=hidden],[type=submit],[type=button],[type=reset],[type=image],[type=checkbox],[type=radio],[type=range],[type=color],[type=file])';

type Kind = SeenBox['role'];

/** A colour on what lies behind it; nothing where there is none to speak of. */
const filled = (css: string, on: Rgba): Rgba | undefined => {
  const colour = rgba(css);
  return colour.a > 0.05 ? over(colour, on) : undefined;
};

/** The words of a button, shortest first: what it says. */
const wordsOf = (el: Element): string => {
  const text = el instanceof HTMLInputElement ? el.value : (el.textContent ?? '');
  return text.replace(/\s+/g, ' ').trim();
};

const hasEdge = (s: CSSStyleDeclaration): boolean =>
  ['Top', 'Right', 'Bottom', 'Left'].every(
    (side) =>
      px(s[`border${side}Width` as 'borderTopWidth']) > 0 &&
      s[`border${side}Style` as 'borderTopStyle'] !== 'none' &&
      rgba(s[`border${side}Color` as 'borderTopColor']).a > 0.1,
  );

function isButton(met: Met, on: Rgba): boolean {
  const { el, box } = met;
  if (!el.matches(BUTTONS)) return false;
  const words = wordsOf(el);
  const name = nameOf(el);
  if (words.length < 2 || words.length > 42 || box.h < 18 || box.h > 110 || box.w < 24 || box.w > 640)
    return false;
  if (el.hasAttribute('aria-expanded') || el.hasAttribute('aria-haspopup') || isToggle(name)) return false;
  if (el.matches('label,summary') && !isNamedButton(name)) return false;
  return standsOut(met, on) && (!el.matches('a') || isLinkAsButton(met, name));
}

/** A ground, a gradient or an edge of its own. */
function standsOut({ style }: Met, on: Rgba): boolean {
  const fill = filled(style.backgroundColor, on);
  return (
    (fill !== undefined && differ(fill, on)) || style.backgroundImage.includes('gradient') || hasEdge(style)
  );
}

/** A link is one where it has room around its words, or is called so; in menus only where it is called so. */
function isLinkAsButton({ style, box, region }: Met, name: string): boolean {
  if (isNamedButton(name)) return true;
  const above = px(style.paddingTop) + px(style.paddingBottom) + box.h - px(style.fontSize);
  return region !== 'menu' && style.display !== 'inline' && px(style.paddingLeft) >= 5 && above > 8;
}

const nameOf = (el: Element): string => `${el.getAttribute('class') ?? ''} ${el.id}`;

/** A box with a ground, an edge or a shadow of its own that holds a picture or a heading and words. */
function isCard({ el, style, box, region }: Met, on: Rgba): boolean {
  if (region === 'header' || region === 'menu' || region === 'footer') return false;
  if (box.w < 110 || box.w > document.documentElement.clientWidth * 0.62 || box.h < 80) return false;
  const fill = filled(style.backgroundColor, on);
  if (!(fill && differ(fill, on)) && !hasEdge(style) && style.boxShadow === 'none') return false;
  return el.querySelector('img,h2,h3,h4,svg,picture') !== null && (el.textContent ?? '').trim().length > 8;
}

function kindOf(met: Met, on: Rgba): Kind | undefined {
  const { el, box } = met;
  if (el.matches(FIELDS) && box.h >= 14 && box.w >= 40) return 'field';
  if (isButton(met, on)) return 'button';
  if (el instanceof HTMLImageElement) return box.w >= 60 && box.h >= 40 ? 'picture' : undefined;
  return isCard(met, on) ? 'card' : undefined;
}

function edgeOf(s: CSSStyleDeclaration, on: Rgba): SeenBox['edge'] {
  const bottom = { width: px(s.borderBottomWidth), style: s.borderBottomStyle, colour: s.borderBottomColor };
  const visible = rgba(bottom.colour).a > 0.05 && bottom.style !== 'none' && bottom.style !== 'hidden';
  const style = ['dashed', 'dotted', 'double'].includes(bottom.style) ? bottom.style : 'solid';
  return {
    width: visible ? bottom.width : 0,
    style: (visible && bottom.width ? style : 'none') as SeenBox['edge']['style'],
    colour: hexOf(over(rgba(bottom.colour), on)),
  };
}

/** Corners as they are drawn: never rounder than half the box. */
const radiusOf = (s: CSSStyleDeclaration, { w, h }: Met['box']): number => {
  const value = s.borderTopLeftRadius.split(' ')[0] ?? '0';
  const r = value.endsWith('%') ? (Number.parseFloat(value) / 100) * w : px(value);
  return Math.round(Math.min(r, w / 2, h / 2) * 100) / 100;
};

function seenBox(met: Met, role: Kind, ground: Rgba): SeenBox {
  const { el, style: s, box, region } = met;
  const on = behind(el, ground);
  const fill = filled(s.backgroundColor, on);
  return {
    role,
    called: role === 'button' ? calledBy(nameOf(el), el.matches('button,input')) : '',
    region,
    count: 1,
    fill: fill ? hexOf(fill) : '',
    ink: hexOf(over(rgba(s.color), fill ?? on)),
    on: hexOf(on),
    edge: edgeOf(s, on),
    radius: radiusOf(s, box),
    padX: px(s.paddingLeft),
    padY: px(s.paddingTop),
    width: Math.round(box.w * 100) / 100,
    height: Math.round(box.h * 100) / 100,
    shadow: s.boxShadow === 'none' ? '' : s.boxShadow.slice(0, 300),
    type: typeOf(s),
    underline: s.textDecorationLine.includes('underline'),
    words: role === 'button' ? wordsOf(el).slice(0, 40) : '',
    states: {},
    at: [pathOf(el)],
  };
}

/** What makes two boxes be of one make. */
const makeOf = ({ at: _, words: _w, width: _x, count: _c, states: _s, ...b }: SeenBox): string =>
  JSON.stringify(b.role === 'picture' || b.role === 'card' ? { ...b, height: 0 } : b);

/** States are looked at for this many makes of buttons and fields: each takes the page to be styled anew. */
const MOST_STATES = 14;

/** Buttons, fields, cards and pictures, each make once; and the rules that part things. */
export function boxesIn(
  all: readonly Met[],
  ground: Rgba,
): { boxes: SeenBox[]; rules: SeenRule[]; buttons: ReadonlySet<Element> } {
  const tally = new Tally<SeenBox>((known, more) => {
    known.count += more.count;
  });
  const first = new Map<SeenBox, Element>();
  const buttons = new Set<Element>();
  for (const met of all) {
    if (!met.box.w || !met.box.h) continue;
    const role = kindOf(met, behind(met.el, ground));
    if (!role) continue;
    if (role === 'button') buttons.add(met.el);
    const box = seenBox(met, role, ground);
    first.set(box, met.el);
    tally.count(makeOf(box), box);
  }
  const boxes = tally.most(200, (b) => (b.role === 'button' ? 1000 : 0) + b.count);
  const controls = boxes
    .filter((b) => b.role === 'button' || b.role === 'field')
    .slice(0, MOST_STATES)
    .flatMap((box) => {
      const el = first.get(box);
      return el ? [{ box, el }] : [];
    });
  const states = statesOfAll(
    controls.map((c) => c.el),
    ground,
  );
  for (const { box, el } of controls) box.states = states.get(el) ?? {};
  if (buttons.size === 0) boxes.push(...probedButtons(ground));
  return { boxes, rules: rulesIn(all, ground), buttons };
}

/** Buttons by the classes that style sheets name so, where the page has none: how one would look. */
function probedButtons(ground: Rgba): SeenBox[] {
  const main = document.querySelector('[data-stall-region=main],main,[role=main]') ?? document.body;
  return buttonClasses().flatMap((name) => {
    const el = document.createElement('a');
    el.href = '#';
    el.className = name;
    el.textContent = 'to buy';
    main.append(el);
    const style = getComputedStyle(el);
    const r = el.getBoundingClientRect();
    const met: Met = {
      el,
      style,
      box: { x: 0, y: 0, w: r.width, h: r.height },
      region: 'main',
      clip: { x: 0, y: 0, w: r.width, h: r.height },
      layer: 0,
    };
    const isFilled = filled(style.backgroundColor, behind(el, ground)) !== undefined;
    const box = seenBox(met, 'button', ground);
    const states = isFilled ? statesOf(el, ground) : {};
    el.remove();
    return isFilled ? [{ ...box, states, words: '', at: [] }] : [];
  });
}

function buttonClasses(): string[] {
  const names = styleRules().flatMap((rule) =>
    [...rule.selectorText.matchAll(/(?:^|,)\s*\.([\w-]+)(?=\s*(?:,|$|:))/g)].map(([, name = '']) => name),
  );
  return [...new Set(names.filter((name) => isNamedButton(name) && !isToggle(name)))].slice(0, 12);
}

/** Lines across: `hr`, and boxes with an edge on one side alone. */
function rulesIn(all: readonly Met[], ground: Rgba): SeenRule[] {
  const tally = new Tally<SeenRule>((known, more) => {
    known.length += more.length;
  });
  for (const { el, style, box, region } of all) {
    if (box.w < 60 || el.matches(`${FIELDS},button`) || hasEdge(style)) continue;
    for (const side of ['Top', 'Bottom'] as const) {
      const width = px(style[`border${side}Width`]);
      const colour = rgba(style[`border${side}Color`]);
      if (width < 0.5 || width > 12 || style[`border${side}Style`] === 'none' || colour.a < 0.05) continue;
      const on = behind(el, ground);
      const seen = {
        region,
        colour: hexOf(over(colour, on)),
        on: hexOf(on),
        width,
        length: box.w,
        at: [pathOf(el)],
      };
      tally.count(`${seen.colour} ${seen.on} ${width} ${region}`, seen);
    }
  }
  return tally.most(80, (r) => r.length);
}
