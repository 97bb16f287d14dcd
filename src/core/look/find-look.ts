import { type CssNode, generate, parse, walk } from 'css-tree';
import { contrast, faintest, mix, readable, toHex } from './colour';
import type { Look } from './look';
import { inSiteRem, remFor } from './rem';
import { nearestPassing, needs, remedyFor } from './remedy';

const { text: TEXT, edge: EDGE } = needs;

interface Rule {
  readonly selectors: readonly string[];
  readonly values: ReadonlyMap<string, string>;
}

/**
 * The shop's look as the site's own style sheets say it: what stands on `body`, headings, links and the thing that
 * looks like a button. Media queries and states (`:hover`) are left out: the look is that of a page at rest. Every
 * pair is made to pass WCAG AA. Not found is filled from what was found, so the look always holds together.
 */
export function findLook(styleSheets: readonly string[]): Look {
  const rules = styleSheets.flatMap(readRules);
  const resolve = resolver(rules);
  const of = (test: (selector: string) => boolean, ...props: string[]): string | undefined => {
    for (const prop of props) {
      const found = rules
        .filter((r) => r.selectors.some(test) && r.values.has(prop))
        .at(-1)
        ?.values.get(prop);
      if (found !== undefined) return resolve(found);
    }
    return undefined;
  };
  const colour = (value: string | undefined): string | undefined => (value ? colourIn(value) : undefined);

  const isBody = (s: string) => /^(body|html|:root)$/.test(s);
  const isRoot = (s: string) => s === 'html' || s === ':root';
  const rem = remFor(of(isRoot, 'font-size') ?? sizeOf(of(isRoot, 'font')));
  const isBare = (s: string) => s === 'body';
  const backgrounds = ['background-color', 'background'] as const;
  const ground = colour(of(isBare, ...backgrounds) ?? of(isBody, ...backgrounds)) ?? '#ffffff';
  const ink = asNear(colour(of(isBody, 'color')), ground, TEXT) ?? readable(ground, TEXT, '#1a1a1a');
  const button = buttonRule(rules);
  const linkColour = colour(of((s) => /^a(:link)?$/.test(s), 'color'));
  const { accent, accentInk } = legible(
    buttonColour(button, resolve, ...backgrounds) ?? linkColour ?? ink,
    buttonColour(button, resolve, 'color'),
    ground,
  );
  return {
    ground,
    ink,
    accent,
    accentInk,
    muted: faintest(ink, ground, TEXT + 1.5),
    line: mix(ground, ink, 0.18),
    fieldLine: faintest(ink, ground, EDGE + 0.5),
    field: mix(ground, contrast(ground, '#ffffff') < 8 ? '#ffffff' : '#000000', 0.75),
    surface: mix(ground, contrast(ground, '#ffffff') < 8 ? '#ffffff' : '#000000', 0.5),
    link: asNear(linkColour, ground, TEXT) ?? readable(ground, TEXT, accent, ink),
    danger: readable(ground, TEXT, '#a3243b', '#ff9aa8'),
    font: family(of(isBody, 'font-family') ?? fontOf(of(isBody, 'font'))) ?? 'inherit',
    headingFont: family(of(isHeading, 'font-family') ?? fontOf(of(isHeading, 'font'))) ?? 'inherit',
    headingWeight: weight(of(isHeading, 'font-weight')) ?? '700',
    radius: length(button && pick(button, resolve, 'border-radius')) ?? '0px',
    width: contentWidth(rules, resolve, rem),
    rem: `${rem}rem`,
  };
}

/** A colour of the site's as near as it can be read on the ground; nothing where it says none. */
const asNear = (own: string | undefined, ground: string, ratio: number): string | undefined =>
  own && nearestPassing(own, ground, ratio)?.colour;

const buttonColour = (
  button: Rule | undefined,
  resolve: (value: string) => string,
  ...props: string[]
): string | undefined => {
  const value = button && pick(button, resolve, ...props);
  return value ? colourIn(value) : undefined;
};

/** The site's own button, made to be read by the least that is seen; where it says no text, the ground's colour is its text. */
function legible(
  fill: string,
  text: string | undefined,
  ground: string,
): { readonly accent: string; readonly accentInk: string } {
  if (!text) return { accent: fill, accentInk: readable(fill, TEXT, ground) };
  const remedy = remedyFor(text, fill, TEXT);
  return {
    accent: remedy?.move === 'fill' ? remedy.to : fill,
    accentInk: remedy?.move === 'text' ? remedy.to : text,
  };
}

const isHeading = (s: string) => /^h[12]$/.test(s);

/** Plain rules of a sheet, outside media queries. A sheet that cannot be parsed gives what could be read of it. */
function readRules(css: string): Rule[] {
  const rules: Rule[] = [];
  const tree = parse(css, { parseValue: false, parseCustomProperty: false, onParseError: () => {} });
  walk(tree, {
    visit: 'Rule',
    enter(this: { atrule: CssNode | null }, node) {
      if (this.atrule || node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return;
      const values = new Map<string, string>();
      node.block.children.forEach((d) => {
        if (d.type === 'Declaration') values.set(d.property.toLowerCase(), generate(d.value).trim());
      });
      rules.push({ selectors: node.prelude.children.toArray().map((s) => generate(s).trim()), values });
    },
  });
  return rules;
}

/** Replaces var(--x, fallback) by what the sheets set, a few levels deep (a circle ends there). */
function resolver(rules: readonly Rule[]): (value: string) => string {
  const set = new Map<string, string>();
  for (const r of rules)
    for (const [name, value] of r.values) if (name.startsWith('--') && !set.has(name)) set.set(name, value);
  return (value) => {
    let out = value;
    for (let depth = 0; depth < 8 && out.includes('var('); depth++) {
      out = out.replace(
        /var\(\s*(--[\w-]+)\s*(?:,\s*([^()]*))?\)/g,
        (_, name: string, other?: string) => set.get(name) ?? other ?? '',
      );
    }
    return out;
  };
}

const pick = (rule: Rule, resolve: (v: string) => string, ...props: string[]): string | undefined => {
  const value = props.map((p) => rule.values.get(p)).find((v) => v !== undefined);
  return value === undefined ? undefined : resolve(value);
};

/** The rule that makes a button: named like one and filled; a class beats the bare element. Common practice in naming. */
function buttonRule(rules: readonly Rule[]): Rule | undefined {
  const named = rules.filter((r) =>
    r.selectors.some(
      (s) =>
        !s.includes(':') && /(^|[\s>.#[])(button|btn|cta)([-_]?(primary|main))?\b|type=["']?submit/i.test(s),
    ),
  );
  const filled = named.filter((r) => r.values.has('background') || r.values.has('background-color'));
  const worth = (r: Rule) => r.values.size + (r.selectors.some((s) => /[.#]/.test(s)) ? 3 : 0);
  return [...filled].sort((a, b) => worth(b) - worth(a))[0];
}

function colourIn(value: string): string | undefined {
  const whole = toHex(value);
  if (whole) return whole;
  for (const part of value.match(
    /#[0-9a-f]{3,8}\b|(?:rgb|hsl|oklch|oklab|lab|lch)a?\([^)]*\)|\b[a-z]+\b/gi,
  ) ?? []) {
    const found = toHex(part);
    if (found) return found;
  }
  return undefined;
}

/** The family list at the end of a `font` shorthand: all after the size. */
const fontOf = (font: string | undefined): string | undefined =>
  font ? /(?:^|\s)[\d.]+(?:[a-z]+|%)(?:\/\S+)?\s+(.+)$/i.exec(font)?.[1] : undefined;

/** The size in a `font` shorthand. */
const sizeOf = (font: string | undefined): string | undefined =>
  font ? /(?:^|\s)([\d.]+(?:[a-z]+|%))(?:\/|\s)/i.exec(font)?.[1] : undefined;

/** Only characters a family list needs: the value comes from a stranger's style sheet. */
const family = (value: string | undefined): string | undefined =>
  value && /^[\w\s"',-]{1,200}$/.test(value) ? value.replace(/"/g, "'") : undefined;
const weight = (value: string | undefined): string | undefined =>
  value && /^(\d{3}|bold|normal)$/.test(value) ? value : undefined;
const length = (value: string | undefined): string | undefined =>
  value && /^[\d.]+(px|rem|em)?$/.test(value) ? value : undefined;

/**
 * The site's content width: the max-width named most often between 55 and 90 rem of 16 px. @param own what
 * such a rem is on the site.
 */
function contentWidth(rules: readonly Rule[], resolve: (v: string) => string, own: number): string {
  const counts = new Map<string, number>();
  const unitsToRem: Readonly<Record<string, number>> = { px: 16, em: 1 };
  for (const r of rules) {
    for (const value of r.values.values()) {
      for (const [, n = '', unit = ''] of resolve(value).matchAll(/\b(\d+(?:\.\d+)?)(px|rem|em)\b/g)) {
        const rem = Number(n) / (unitsToRem[unit] ?? own);
        if (rem >= 55 && rem <= 90) counts.set(`${n}${unit}`, (counts.get(`${n}${unit}`) ?? 0) + 1);
      }
    }
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? inSiteRem('68rem', own);
}
