import { ancestors, attr, bodyOf, classesOf, descendants, type Document, type Element } from '../html/tree';

/** The regions of a page that selling cares about. */
export type Landmark = 'header' | 'menu' | 'main' | 'side' | 'footer';

interface Rule {
  readonly landmark: Landmark;
  /** By element or ARIA role (HTML-AAM: header and footer are landmarks only outside sectioning content). */
  readonly byElement: (el: Element) => boolean;
  /** By the id or class names that hand-made sites use; common practice. */
  readonly byName: RegExp;
}

const sectioning = new Set(['article', 'aside', 'main', 'nav', 'section']);
const outsideSections = (el: Element): boolean => ![...ancestors(el)].some((a) => sectioning.has(a.tagName));
const role = (name: string) => (el: Element) => attr(el, 'role') === name;

const rules: readonly Rule[] = [
  {
    landmark: 'header',
    byElement: (el) => (el.tagName === 'header' && outsideSections(el)) || role('banner')(el),
    byName: /^(site-?)?(header|masthead|banner|top)$/i,
  },
  {
    landmark: 'footer',
    byElement: (el) => (el.tagName === 'footer' && outsideSections(el)) || role('contentinfo')(el),
    byName: /^(site-?)?(footer|foot|bottom)$/i,
  },
  {
    landmark: 'main',
    byElement: (el) => el.tagName === 'main' || role('main')(el),
    byName: /^(main|content|main-?content|page-?content)$/i,
  },
  {
    landmark: 'side',
    byElement: (el) => el.tagName === 'aside' || role('complementary')(el),
    byName: /^(side(bar)?|side-?column)$/i,
  },
  {
    landmark: 'menu',
    byElement: (el) => el.tagName === 'nav' || role('navigation')(el),
    byName: /^(nav|menu|main-?(nav|menu)|navigation|navbar)$/i,
  },
];

export type Landmarks = ReadonlyMap<Landmark, Element>;

/** The first element of each region: by meaning where the page says it, else by name. */
export function findLandmarks(doc: Document): Landmarks {
  const body = bodyOf(doc);
  const found = new Map<Landmark, Element>();
  if (!body) return found;
  const all = [...descendants(body)];
  for (const rule of rules) {
    const el =
      all.find(rule.byElement) ??
      all.find((e) => [attr(e, 'id') ?? '', ...classesOf(e)].some((n) => rule.byName.test(n)));
    if (el) found.set(rule.landmark, el);
  }
  return found;
}
