import { fingerprint } from '../hash';
import { isInvisible } from '../html/content-model';
import {
  ancestors,
  attr,
  bodyOf,
  childrenOf,
  classesOf,
  type Element,
  isElement,
  isText,
  type Node,
  type TextNode,
} from '../html/tree';
import { pathOf } from '../site/paths';
import type { ParsedPage } from '../site/read-page';
import { regionsOf } from '../site/regions';
import { blocksOf, keptRegions } from './main-range';

/**
 * Which pieces of a model page are its own: few of the pages of its chrome have them too. A link is the same where it says
 * the same and leads to the same: "next" is on every page of a book, and leads from each to another. Nothing is known to be
 * its own while there is nothing to compare it with.
 */
export class OwnContent {
  /**
   * On how many other pages a mark stands; and outside of their menus: the titles of pages, and their crumbs, are in each
   * menu too.
   */
  readonly #anywhere = new Map<string, number>();
  readonly #outside = new Map<string, number>();
  readonly #makes = new Map<string, number>();
  readonly #least: number;

  constructor(
    private readonly model: ParsedPage,
    others: readonly ParsedPage[],
  ) {
    const rest = others.filter((o) => o.path !== model.path);
    this.#least = rest.length / 2;
    for (const page of rest) {
      const body = bodyOf(page.doc);
      const pieces = body ? piecesOf(page, body) : [];
      countEach(this.#makes, keptRegions(regionsOf(page)).map(makeOf));
      countMarks(this.#anywhere, pieces);
      countMarks(
        this.#outside,
        pieces.filter((piece) => !piece.inMenu),
      );
    }
  }

  /**
   * Whether a header, menu or footer is of the same make on most of the pages, and on two at least: what differs in it says
   * something then.
   */
  isOfOneMake(region: Element): boolean {
    return (this.#makes.get(makeOf(region)) ?? 0) >= Math.max(2, this.#least);
  }

  /** How much of what a visitor meets in an element or a text is the model's own: 0 to 1; 0 for what holds nothing, too. */
  shareOf(node: Node): number {
    return this.#ownShare(node, ({ inMenu, isWay, says, leads }) => (inMenu && !isWay ? [says] : leads));
  }

  /** The same by the words alone, wherever links lead. */
  shareOfWords(node: Node): number {
    return this.#ownShare(node, ({ says }) => [says]);
  }

  #ownShare(node: Node, marksOf: (piece: Piece) => readonly string[]): number {
    if (this.#least === 0) return 0;
    const pieces = piecesOf(this.model, node);
    const own = pieces.filter((piece) => {
      const counts = piece.inMenu ? this.#anywhere : this.#outside;
      return !marksOf(piece).some((mark) => (counts.get(mark) ?? 0) >= this.#least);
    });
    return own.length / Math.max(1, pieces.length);
  }
}

/** Each mark once for a page. */
const countMarks = (counts: Map<string, number>, pieces: readonly Piece[]): void =>
  countEach(
    counts,
    pieces.flatMap(({ says, leads }) => [says, ...leads]),
  );

function countEach(counts: Map<string, number>, marks: readonly string[]): void {
  for (const mark of new Set(marks)) counts.set(mark, (counts.get(mark) ?? 0) + 1);
}

/** By the names that its maker gave it; further classes often say which page one is on. */
const makeOf = (el: Element): string => `${el.tagName}#${attr(el, 'id') ?? ''}.${classesOf(el)[0] ?? ''}`;

interface Piece {
  readonly inMenu: boolean;
  /**
   * The page before, the next, the one above, as the page itself says. A menu's other items are the same wherever they lead:
   * many lead wrong.
   */
  readonly isWay: boolean;
  readonly says: string;
  /** The same with where it leads: as a path, and as it is written, which many copy from page to page. */
  readonly leads: readonly string[];
}

/** What a visitor meets in an element: runs of text and pictures, each with where it leads. */
function piecesOf(page: ParsedPage, root: Node): Piece[] {
  const out: Piece[] = [];
  const menu = blocksOf(regionsOf(page), 'menu');
  const visit = (node: Node, leading: Leading, inMenu: boolean): void => {
    const says = isText(node) ? textMark(node) : isElement(node) && pictureMark(node);
    if (says)
      out.push({
        says,
        inMenu,
        isWay: leading.isWay,
        leads: leading.targets.map((target) => `${says}${target}`),
      });
    if (!isElement(node) || isInvisible(node)) return;
    const leads = node.tagName === 'a' ? leadingOf(page, node) : leading;
    for (const kid of childrenOf(node)) visit(kid, leads, inMenu || menu.includes(node));
  };
  const around = aroundOf(root);
  const link = around.find((el) => el.tagName === 'a');
  const isInMenu = around.some((el) => menu.includes(el));
  visit(root, leadingOf(page, link), isInMenu);
  return out;
}

/** Dividers between links say nothing by themselves. */
function textMark(node: TextNode): string {
  const text = node.value.replace(/\s+/g, '').toLowerCase();
  return /[\p{L}\p{N}]/u.test(text) ? fingerprint(text) : '';
}

const pictureMark = (el: Element): string => (el.tagName === 'img' ? `<img ${nameOf(attr(el, 'src'))}` : '');

/** What something stands in, from the inside. */
function aroundOf(node: Node): readonly Element[] {
  if (!('parentNode' in node) || !node.parentNode || !isElement(node.parentNode)) return [];
  return [node.parentNode, ...ancestors(node.parentNode)];
}

interface Leading {
  readonly isWay: boolean;
  readonly targets: readonly string[];
}

/** By the link types of HTML, or by the keys that makers of manuals give such links (common practice). */
function leadingOf(page: ParsedPage, link: Element | undefined): Leading {
  // What leads nowhere is the same as what does on other pages, where it leads here: the item of the page itself.
  if (!link) return { isWay: false, targets: [' > nowhere', to(page.path)] };
  const isWay =
    /\b(prev|previous|next|up)\b/i.test(attr(link, 'rel') ?? '') ||
    /^[npu]$/i.test(attr(link, 'accesskey') ?? '');
  return { isWay, targets: targetsOf(page, link) };
}

/** Where a link leads in the site; the way to the page in another language is the same on all. */
function targetsOf(page: ParsedPage, link: Element): readonly string[] {
  if (attr(link, 'hreflang') !== undefined || attr(link, 'lang') !== undefined)
    return [' in another language'];
  const href = attr(link, 'href')?.trim() ?? '';
  const path = /^(#.*)?$/.test(href) ? page.path : pathOf({ path: page.path }, href);
  return [...(path === undefined ? [] : [to(path)]), ` = ${href}`];
}

const to = (path: string): string => ` > ${path.replace(/(^|\/)(index\.\w+)?$/, '')}`;

const nameOf = (src: string | undefined): string => src?.split('/').pop() ?? '';
