import { descendants, type Element, elementsIn, find } from '../../src/core/html/tree';
import type { RegionSpot } from '../../src/core/site/regions';
import { namesOf } from '../../src/core/site/signs';

const between = (first: Element, last: Element): Element[] => {
  const kids = elementsIn(first.parentNode as Element);
  return kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
};

/** The elements that a mark means (labels/chrome.ts). @throws where the page has none */
export function elementsOf(body: Element, mark: string, where: string): Element[] {
  if (mark.startsWith('last ')) {
    const last = [...descendants(body)].findLast(matches(mark.slice(5)));
    if (!last) throw new Error(`${where}: there is no ${mark}`);
    return [last];
  }
  const [from = '', to] = mark.split(' .. ');
  let at: Element | undefined = body;
  for (const step of from.split(' > ')) at = at && find(at, matches(step));
  if (!at) throw new Error(`${where}: there is no ${mark}`);
  if (to === undefined) return [at];
  const kids = elementsIn(at.parentNode as Element);
  const last = to === '*' ? kids.at(-1) : kids.findLast(matches(to));
  return kids.slice(kids.indexOf(at), kids.indexOf(last as Element) + 1);
}

const matches = (selector: string) => {
  const [, tag = '', rest = ''] = /^([a-z0-9]*)(.*)$/.exec(selector) ?? [];
  const wanted = rest.split(/(?=[#.])/).filter(Boolean);
  return (el: Element): boolean =>
    (!tag || el.tagName === tag) && wanted.every((w) => namesOf(el).includes(w.slice(1)));
};

/** The elements of a region that was found. */
export const blocksOf = ({ element, first, last }: RegionSpot): Element[] =>
  first ? between(first, last ?? first) : [element];
