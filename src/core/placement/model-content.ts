import { fingerprint } from '../hash';
import { isInvisible } from '../html/content-model';
import {
  ancestors,
  attr,
  bodyOf,
  childrenOf,
  type Element,
  isElement,
  isText,
  type Node,
  type TextNode,
} from '../html/tree';
import { pathOf } from '../site/paths';
import type { ParsedPage } from '../site/read-page';

/**
 * Which pieces of a model page are its own: few of the pages of its chrome have them too. A link is the same where it says the same and leads
 * to the same: "next" is on every page of a book, and leads from each to another. Nothing is known to be its own while there is nothing to
 * compare it with.
 */
export class OwnContent {
  readonly #counts = new Map<string, number>();
  readonly #least: number;

  constructor(
    private readonly model: ParsedPage,
    others: readonly ParsedPage[],
  ) {
    const rest = others.filter((o) => o.path !== model.path);
    this.#least = rest.length / 2;
    for (const page of rest) {
      const body = bodyOf(page.doc);
      const marks = new Set(body ? piecesOf(page, body).flatMap(({ says, leads }) => [says, ...leads]) : []);
      for (const mark of marks) this.#counts.set(mark, (this.#counts.get(mark) ?? 0) + 1);
    }
  }

  /** How much of what a visitor meets in an element or a text is the model's own: 0 to 1; 0 for what holds nothing, too. */
  shareOf(node: Node): number {
    return this.#share(node, ({ leads }) => !leads.some((mark) => this.#isShared(mark)));
  }

  /** The same by the words alone, wherever links lead. */
  shareOfWords(node: Node): number {
    return this.#share(node, ({ says }) => !this.#isShared(says));
  }

  #isShared(mark: string): boolean {
    return (this.#counts.get(mark) ?? 0) >= this.#least;
  }

  #share(node: Node, isOwn: (piece: Piece) => boolean): number {
    if (this.#least === 0) return 0;
    const pieces = piecesOf(this.model, node);
    return pieces.filter(isOwn).length / Math.max(1, pieces.length);
  }
}

interface Piece {
  readonly says: string;
  /** The same with where it leads: as a path, and as it is written, which many copy from page to page. */
  readonly leads: readonly string[];
}

/** What a visitor meets in an element: runs of text and pictures, each with where it leads. */
function piecesOf(page: ParsedPage, root: Node): Piece[] {
  const out: Piece[] = [];
  const visit = (node: Node, to: readonly string[]): void => {
    const says = isText(node) ? textMark(node) : isElement(node) && pictureMark(node);
    if (says) out.push({ says, leads: to.map((target) => says + target) });
    if (!isElement(node) || isInvisible(node)) return;
    const leads = node.tagName === 'a' ? targetsOf(page, node) : to;
    for (const kid of childrenOf(node)) visit(kid, leads);
  };
  visit(root, linkAround(page, root));
  return out;
}

/** Dividers between links say nothing by themselves. */
function textMark(node: TextNode): string {
  const text = node.value.replace(/\s+/g, '').toLowerCase();
  return /[\p{L}\p{N}]/u.test(text) ? fingerprint(text) : '';
}

const pictureMark = (el: Element): string => (el.tagName === 'img' ? `<img ${nameOf(attr(el, 'src'))}` : '');

/** Where the link leads that something stands in. */
function linkAround(page: ParsedPage, node: Node): readonly string[] {
  if (!('parentNode' in node) || !node.parentNode || !isElement(node.parentNode)) return [''];
  const link = [node.parentNode, ...ancestors(node.parentNode)].find((el) => el.tagName === 'a');
  return link ? targetsOf(page, link) : [''];
}

/** Where a link leads in the site; the way to the page in another language is the same on all. */
function targetsOf(page: ParsedPage, link: Element): readonly string[] {
  if (attr(link, 'hreflang') !== undefined || attr(link, 'lang') !== undefined) return [''];
  const href = attr(link, 'href')?.trim() ?? '';
  // The current page's own item often leads nowhere: the others' lead to it.
  const path = /^(#.*)?$/.test(href) ? page.path : pathOf({ path: page.path }, href);
  const target = path === undefined ? [] : [` > ${path.replace(/(^|\/)(index\.\w+)?$/, '')}`];
  return [...target, ` = ${href}`];
}

const nameOf = (src: string | undefined): string => src?.split('/').pop() ?? '';
