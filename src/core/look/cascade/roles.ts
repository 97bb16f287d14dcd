import { attr, type Element, isElement, isText } from '../../html/tree';
import { isNamedButton, isToggle } from '../button-names';
import type { SeenBox, SeenRegion, SeenText } from '../seen';
import type { ComputedStyle } from './computed-style';

export const sides = ['top', 'right', 'bottom', 'left'] as const;

export const parentOf = (el: Element): Element | undefined =>
  el.parentNode && isElement(el.parentNode) ? el.parentNode : undefined;

/** An element and all that it stands in, from the inside. */
export function* upwards(el: Element): Generator<Element> {
  for (let up: Element | undefined = el; up; up = parentOf(up)) yield up;
}

export const lettersIn = (el: Element): number =>
  el.childNodes.reduce((sum, node) => sum + (isText(node) ? node.value.replace(/\s+/g, '').length : 0), 0);

export const nameOf = (el: Element): string => `${attr(el, 'class') ?? ''} ${attr(el, 'id') ?? ''}`;

export const hasSide = (style: ComputedStyle, side: string): boolean =>
  !['', 'none', 'hidden'].includes(style.get(`border-${side}-style`));
const hasEdge = (style: ComputedStyle): boolean => sides.every((side) => hasSide(style, side));

const inputType = (el: Element): string => (attr(el, 'type') ?? 'text').toLowerCase();
const isPressed = (el: Element): boolean =>
  el.tagName === 'button' || (el.tagName === 'input' && /^(submit|button|reset)$/.test(inputType(el)));
const isField = (el: Element): boolean =>
  el.tagName === 'textarea' ||
  el.tagName === 'select' ||
  (el.tagName === 'input' && /^(text|email|search|tel|url|password|number|date)$/.test(inputType(el)));

/** What kind of box an element is, if any. @param isFilled whether it has a ground of its own */
export function boxRole(el: Element, style: ComputedStyle, isFilled: boolean): SeenBox['role'] | undefined {
  if (el.tagName === 'img') return 'picture';
  if (isField(el)) return 'field';
  const stands = isFilled || hasEdge(style);
  if (stands && isButton(el, style)) return 'button';
  const isBoxy =
    /^(div|article|li|section|a)$/.test(el.tagName) && (stands || style.get('box-shadow') !== 'none');
  return isBoxy && /card|tile|box|panel|item/i.test(nameOf(el)) ? 'card' : undefined;
}

function isButton(el: Element, style: ComputedStyle): boolean {
  const isLink = el.tagName === 'a';
  if (!isPressed(el) && !isLink && attr(el, 'role') !== 'button') return false;
  if (isToggle(nameOf(el)) || attr(el, 'aria-expanded') !== undefined) return false;
  return !isLink || isNamedButton(nameOf(el)) || style.get('display') !== 'inline';
}

/** What letters are. @param inButton whether they stand in a button */
export function textRole(el: Element, region: SeenRegion, inButton: boolean): SeenText['role'] {
  if (inButton) return 'button';
  const around = [...upwards(el)];
  const level = around.flatMap((up) => /^h([1-6])$/.exec(up.tagName)?.[1] ?? [])[0];
  if (level) return `heading-${Math.min(3, Number(level)) as 1 | 2 | 3}`;
  if (around.some((up) => /^(input|textarea|select|option)$/.test(up.tagName))) return 'field';
  if (around.some((up) => up.tagName === 'a' && attr(up, 'href') !== undefined))
    return region === 'menu' || around.some((up) => up.tagName === 'nav') ? 'menu' : 'link';
  return el.tagName === 'small' ? 'small' : 'text';
}

/** The way to an element from the body, as a CSS path. */
export function pathOf(el: Element): string {
  const steps: string[] = [];
  for (const at of upwards(el)) {
    if (at.tagName === 'body' || at.tagName === 'html') break;
    const like =
      parentOf(at)?.childNodes.filter((k): k is Element => isElement(k) && k.tagName === at.tagName) ?? [];
    steps.unshift(like.length > 1 ? `${at.tagName}:nth-of-type(${like.indexOf(at) + 1})` : at.tagName);
  }
  return ['body', ...steps].join('>').slice(0, 600);
}
