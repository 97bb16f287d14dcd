import type { StateLook } from '../../../core/look/seen';
import { behind, hexOf, over, type Rgba, rgba } from './colours';

/** The states that a control is looked at in. */
const states = ['hover', 'focus', 'active'] as const;
type State = (typeof states)[number];

const MARK = 'data-stall-at';
/** A style sheet is a stranger's. */
const MOST_RULES = 20_000;

const pseudo: readonly [RegExp, State][] = [
  [/:hover\b/g, 'hover'],
  [/:focus(-visible|-within)?\b/g, 'focus'],
  [/:active\b/g, 'active'],
];

/**
 * Makes states that only a person can cause be ones that an attribute causes: each rule that speaks of one gets a copy beside it,
 * of the same weight, in the same layer and condition. @returns what takes the copies out again.
 */
export function statesByAttribute(cannot: Set<string>): () => void {
  const undo: (() => void)[] = [];
  let left = MOST_RULES;
  const inRules = (holder: CSSStyleSheet | CSSGroupingRule): void => {
    for (let n = holder.cssRules.length - 1; n >= 0 && left > 0; n--, left--) {
      const rule = holder.cssRules[n];
      if (rule instanceof CSSStyleRule) copy(holder, rule, n, undo);
      else if (rule instanceof CSSGroupingRule) inRules(rule);
      else if (rule instanceof CSSImportRule && rule.styleSheet) inSheet(rule.styleSheet);
    }
  };
  const inSheet = (sheet: CSSStyleSheet): void => {
    try {
      inRules(sheet);
    } catch {
      cannot.add('how buttons change under the pointer: style sheets from other addresses may not be read');
    }
  };
  for (const sheet of [...document.styleSheets, ...document.adoptedStyleSheets]) inSheet(sheet);
  const still = new CSSStyleSheet();
  still.replaceSync('*,*::before,*::after{transition:none!important;animation:none!important}');
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, still];
  return () => {
    for (const back of undo.reverse()) back();
    document.adoptedStyleSheets = document.adoptedStyleSheets.filter((s) => s !== still);
  };
}

function copy(
  holder: CSSStyleSheet | CSSGroupingRule,
  rule: CSSStyleRule,
  at: number,
  undo: (() => void)[],
): void {
  let selector = rule.selectorText;
  if (!/:(hover|focus|active)/.test(selector)) return;
  for (const [found, state] of pseudo) selector = selector.replace(found, `[${MARK}~=${state}]`);
  try {
    holder.insertRule(`${selector}{${rule.style.cssText}}`, at + 1);
    const made = holder.cssRules[at + 1];
    undo.push(() => {
      // Taken out in reverse, each stands where it was put, unless the page's own script changed the sheet meanwhile.
      const is = holder.cssRules[at + 1] === made ? at + 1 : [...holder.cssRules].indexOf(made as CSSRule);
      if (is >= 0) holder.deleteRule(is);
    });
  } catch {
    // What cannot be written again stays as it is.
  }
}

type States = Partial<Record<State, StateLook>>;

/** What changes of a control in each state. */
export const statesOf = (el: Element, ground: Rgba): States => statesOfAll([el], ground).get(el) ?? {};

/**
 * What changes of controls in each state. Each change of state takes the whole page to be styled anew, so controls that are
 * neither next to nor in one another change at once: style sheets tell of neighbours at most.
 */
export function statesOfAll(els: readonly Element[], ground: Rgba): ReadonlyMap<Element, States> {
  const rest = new Map(els.map((el) => [el, lookNow(el, ground)]));
  const found = new Map<Element, States>(els.map((el) => [el, {}]));
  for (const group of apart(els))
    for (const state of states) {
      const marked = group.flatMap((el) => mark(el, state));
      for (const el of group) {
        const changed = differing(rest.get(el) ?? {}, lookNow(el, ground));
        if (changed) (found.get(el) ?? {})[state] = changed;
      }
      for (const one of marked) one.removeAttribute(MARK);
    }
  return found;
}

function differing(rest: StateLook, now: Required<StateLook>): StateLook | undefined {
  const changed = Object.entries(now).filter(([key, value]) => rest[key as keyof StateLook] !== value);
  return changed.length ? Object.fromEntries(changed) : undefined;
}

/** Controls in groups: no two of one stand next to each other or in each other. */
function apart(els: readonly Element[]): Element[][] {
  const groups: Element[][] = [];
  for (const el of els) {
    const free = groups.find((group) =>
      group.every(
        (o) =>
          o.nextElementSibling !== el && el.nextElementSibling !== o && !o.contains(el) && !el.contains(o),
      ),
    );
    if (free) free.push(el);
    else groups.push([el]);
  }
  return groups;
}

/** The pointer is over all that holds what it is over; the focus is where it is. */
function mark(el: Element, state: State): Element[] {
  const marked = [el];
  if (state !== 'focus') for (let up = el.parentElement; up; up = up.parentElement) marked.push(up);
  for (const one of marked) one.setAttribute(MARK, state === 'active' ? 'hover active' : state);
  return marked;
}

function lookNow(el: Element, ground: Rgba): Required<StateLook> {
  const style = getComputedStyle(el);
  const on = behind(el, ground);
  const fill = rgba(style.backgroundColor);
  const ink = rgba(style.color);
  const ring = style.outlineStyle === 'none' ? style.borderBottomColor : style.outlineColor;
  return {
    fill: fill.a > 0.05 ? hexOf(over(fill, on)) : '',
    ink: hexOf(over(ink, fill.a > 0.05 ? over(fill, on) : on)),
    edge: hexOf(over(rgba(ring), on)),
    shadow: style.boxShadow === 'none' ? '' : style.boxShadow.slice(0, 300),
    underline: style.textDecorationLine.includes('underline'),
  };
}

/** All rules of the sheets that may be read, those inside others too. */
export function styleRules(): CSSStyleRule[] {
  const found: CSSStyleRule[] = [];
  const look = (holder: CSSStyleSheet | CSSGroupingRule): void => {
    for (const rule of holder.cssRules) {
      if (rule instanceof CSSStyleRule) found.push(rule);
      if (rule instanceof CSSGroupingRule) look(rule);
    }
  };
  for (const sheet of document.styleSheets) {
    try {
      look(sheet);
    } catch {
      // A sheet from elsewhere may not be read.
    }
  }
  return found;
}
