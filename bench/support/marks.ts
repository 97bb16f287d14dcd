import { descendants, type Element, elementsIn } from '../../src/core/html/tree';
import type { RegionSpot } from '../../src/core/site/regions';
import { namesOf } from '../../src/core/site/signs';

const between = (first: Element, last: Element): Element[] => {
  const kids = elementsIn(first.parentNode as Element);
  return kids.slice(kids.indexOf(first), kids.indexOf(last) + 1);
};

/**
 * The elements that a mark means: "td@2" is the second of its like, "p@-1" (or "last p") the last one; "a > b" is b within a;
 * "a .. b" all from a to the last b beside it, "a .. *" to the last of its row.
 * @throws where the page has none
 */
export function elementsOf(body: Element, mark: string, where: string): Element[] {
  const [from = '', to] = mark.replace(/^last (\S+)/, '$1@-1').split(' .. ');
  let at: Element | undefined = body;
  for (const step of from.split(' > ')) at = at && nthOf([...descendants(at)], step, 1);
  if (!at) throw new Error(`${where}: there is no ${mark}`);
  if (to === undefined) return [at];
  const kids = elementsIn(at.parentNode as Element);
  const row = kids.slice(kids.indexOf(at));
  const last = to === '*' ? row.at(-1) : nthOf(row, to, -1);
  if (!last) throw new Error(`${where}: there is no ${mark}`);
  return row.slice(0, row.indexOf(last) + 1);
}

/**
 * The n-th element that a selector with a number means, counted from 1, or from the end by -1; without a number the `usual`
 * one.
 */
function nthOf(all: readonly Element[], step: string, usual: number): Element | undefined {
  const [selector = '', number] = step.split('@');
  const n = number ? Number(number) : usual;
  return all.filter(matches(selector)).at(n > 0 ? n - 1 : n);
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
