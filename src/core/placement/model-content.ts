import { bodyOf, type Element, elementsIn, rawText } from '../html/tree';
import { fingerprint } from '../hash';
import type { ParsedPage } from '../site/read-page';

/**
 * Which blocks of a model page are its own: their words stand on none of the other pages of its chrome. Nothing is
 * known to be its own while there is nothing to compare it with.
 */
export interface OwnContent {
  readonly shared: ReadonlySet<string> | undefined;
}

export function ownContentOf(model: ParsedPage, others: readonly ParsedPage[]): OwnContent {
  const rest = others.filter((o) => o.path !== model.path);
  return { shared: rest.length ? new Set(rest.flatMap((o) => blocksOf(bodyOf(o.doc)))) : undefined };
}

/** Whether none of a block's words are found elsewhere; a block without words is chrome, as far as anybody can tell. */
export function isOwnContent({ shared }: OwnContent, el: Element): boolean {
  if (!shared) return false;
  const marks = leafMarks(el);
  return marks.length > 0 && !marks.some((m) => shared.has(m));
}

const markOf = (el: Element): string => {
  const text = rawText(el).replace(/\s+/g, '').toLowerCase();
  return text ? fingerprint(text) : '';
};

const blocksOf = (body: Element | undefined): string[] => (body ? leafMarks(body) : []);

/** Fingerprints of the innermost elements that hold text. */
export function leafMarks(root: Element): string[] {
  const out: string[] = [];
  const stack: Element[] = [root];
  for (let el = stack.pop(); el; el = stack.pop()) {
    const kids = elementsIn(el);
    const mark = kids.length === 0 ? markOf(el) : '';
    if (mark) out.push(mark);
    stack.push(...kids);
  }
  return out;
}
