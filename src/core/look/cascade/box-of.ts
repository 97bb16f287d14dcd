import { attr, type Element } from '../../html/tree';
import { calledBy } from '../button-names';
import { colourOver } from '../colour';
import type { SeenBox, SeenRegion, SeenType, StateLook } from '../seen';
import type { Cascade, ComputedStyle } from './computed-style';
import { edgeOf, type Measure, typeOf } from './measures';
import { nameOf, pathOf } from './roles';
import type { ControlState } from './select';

export interface BoxPlace {
  readonly role: SeenBox['role'];
  readonly region: SeenRegion;
  /** What lies behind it. */
  readonly on: string;
  /** Its own ground. */
  readonly fill: string | undefined;
}

/** A box as its style says; heights are reckoned from lines and padding. */
export function boxOf(
  el: Element,
  cascade: Cascade,
  measure: Measure,
  { role, region, on, fill }: BoxPlace,
): SeenBox {
  const style = cascade.styleOf(el);
  const type = typeOf(style, cascade.rem);
  const edge = edgeOf(style, on, measure);
  const isControl = role === 'button' || role === 'field';
  const height = heightOf(style, type, edge.width, measure);
  return {
    role,
    called: role === 'button' ? calledBy(nameOf(el), el.tagName === 'button' || el.tagName === 'input') : '',
    region,
    count: 1,
    fill: fill ?? '',
    ink: colourOver(style.get('color'), fill ?? on) ?? '#000000',
    on,
    edge,
    radius: radiusOf(style, isControl ? height : undefined, measure),
    padX: measure(style, 'padding-left'),
    padY: measure(style, 'padding-top'),
    width: Number(attr(el, 'width')) || 0,
    height: role === 'picture' ? Number(attr(el, 'height')) || 0 : height,
    shadow: shadowOf(style),
    type,
    underline: isUnderlined(style),
    words: '',
    states: isControl ? statesOf(el, cascade, on) : {},
    at: [pathOf(el)],
  };
}

const shadowOf = (style: ComputedStyle): string => {
  const shadow = style.get('box-shadow');
  return shadow === 'none' ? '' : shadow.slice(0, 300);
};
const isUnderlined = (style: ComputedStyle): boolean =>
  style.get('text-decoration-line').includes('underline');

function heightOf(style: ComputedStyle, type: SeenType, edge: number, measure: Measure): number {
  // Faces differ in their own line height; a fifth more than the size is the usual.
  const line = (type.line || 1.2) * type.size;
  const inside = line + measure(style, 'padding-top') + measure(style, 'padding-bottom') + edge * 2;
  return Math.round(Math.max(measure(style, 'height'), measure(style, 'min-height'), inside) * 100) / 100;
}

/** Corners; of controls, whose height is known, never rounder than half of it. */
function radiusOf(style: ComputedStyle, height: number | undefined, measure: Measure): number {
  const value = style.get('border-top-left-radius');
  const own = measure(style, 'border-top-left-radius');
  if (height === undefined) return own;
  return Math.min(height / 2, value.endsWith('%') ? (Number.parseFloat(value) / 50) * height : own);
}

const states = ['hover', 'focus', 'active'] as const satisfies readonly ControlState[];

function statesOf(el: Element, cascade: Cascade, on: string): SeenBox['states'] {
  const rest = lookIn(el, cascade, on);
  const found: SeenBox['states'] = {};
  for (const state of states) {
    const changed = Object.entries(lookIn(el, cascade, on, state)).filter(
      ([key, value]) => rest[key as keyof typeof rest] !== value,
    );
    if (changed.length) found[state] = Object.fromEntries(changed);
  }
  return found;
}

function lookIn(el: Element, cascade: Cascade, on: string, state?: ControlState): Required<StateLook> {
  const style = cascade.styleOf(el, state);
  const fill = colourOver(style.get('background-color'), on, style.get('color')) ?? '';
  return {
    fill,
    ink: colourOver(style.get('color'), fill || on) ?? '#000000',
    edge: ringOf(style, on),
    shadow: shadowOf(style),
    underline: isUnderlined(style),
  };
}

/** The ring around a control, where a sheet draws one, else its edge. */
function ringOf(style: ComputedStyle, on: string): string {
  const own = style.get('color');
  const outlined = !['', 'none', 'hidden'].includes(style.get('outline-style'));
  const colour = outlined ? style.get('outline-color') : style.get('border-bottom-color');
  return colourOver(colour || 'currentcolor', on, own) ?? on;
}
