import {
  attr,
  bodyOf,
  childrenOf,
  type Element,
  find,
  isElement,
  isText,
  rawText,
  type TextNode,
} from '../html/tree';
import type { ParsedPage } from '../site/read-page';
import type { Regions } from '../site/regions';
import { meaningOf, nameSignOf } from '../site/signs';
import { blocksOf, contains, keptRegions, type Range } from './main-range';
import { OwnContent } from './model-content';

/** What a model page has around its main part that no page of the shop has. */
export interface AroundMain {
  /** None inside another. */
  readonly gone: readonly (Element | TextNode)[];
  /** The heading that says what the page is, where it stands in a band of the site's own: a page of the shop says there what it is. */
  readonly title?: Element;
}

/** A region in which more is the model's own was never one: the pages are not alike, and nothing in it is judged. Chosen by hand. */
const MOST_OWN = 0.75;
/** The same of a menu: its items are the same on all pages, or it is none. */
const MOST_OWN_ITEMS = 0.5;

/**
 * What stands beside the main part and is the model's own: breadcrumbs, comments, related posts, columns of the journal, ways to the page
 * before and the next, wherever they stand. A column that holds the menu is chrome and stays; the menu itself is another matter.
 */
export function aroundMain(
  model: ParsedPage,
  regions: Regions,
  main: Range,
  others: readonly ParsedPage[],
): AroundMain {
  const body = bodyOf(model.doc);
  if (!body) return { gone: [] };
  const walk = new Walk(model, regions, main, new OwnContent(model, others));
  walk.visit(body);
  return { gone: walk.gone, ...(walk.title && { title: walk.title }) };
}

class Walk {
  readonly gone: (Element | TextNode)[] = [];
  title: Element | undefined;
  readonly #menu: readonly Element[];
  readonly #kept: readonly Element[];
  readonly #pageTitle: string;
  #inRegion = false;

  constructor(
    model: ParsedPage,
    private readonly regions: Regions,
    private readonly main: Range,
    private readonly own: OwnContent,
  ) {
    this.#menu = blocksOf(regions, 'menu');
    this.#kept = keptRegions(regions);
    this.#pageTitle = plain(find(model.doc, (el) => el.tagName === 'title'));
  }

  visit(el: Element): void {
    for (const kid of childrenOf(el)) {
      if (isText(kid)) this.#text(kid);
      // What was not written (the body of a table) holds what was.
      else if (isElement(kid) && kid.sourceCodeLocation) this.#element(kid);
      else if (isElement(kid)) this.visit(kid);
    }
  }

  #text(text: TextNode): void {
    const at = text.sourceCodeLocation;
    if (at && !this.#isInMain(at.startOffset) && this.own.shareOf(text) === 1) this.gone.push(text);
  }

  #element(el: Element): void {
    const at = el.sourceCodeLocation;
    if (!at || this.#isInMain(at.startOffset)) return;
    const holdsMain =
      at.startOffset <= this.main[0] && at.endOffset >= this.main[1] && this.main[0] < this.main[1];
    // A wrapper of all is a region of nothing.
    if (holdsMain) this.visit(el);
    else if (this.#kept.includes(el)) this.#region(el);
    else if (this.#kept.some((k) => contains(el, k))) this.visit(el);
    else if (!this.#inRegion && isModels(el, this.regions)) this.gone.push(el);
    else this.#beside(el, this.own.shareOf(el));
  }

  #region(el: Element): void {
    const most = this.#menu.includes(el) ? MOST_OWN_ITEMS : MOST_OWN;
    const isJudged = this.own.isOfOneMake(el) && this.own.shareOfWords(el) <= most;
    if (!isJudged || this.own.shareOf(el) === 0) return;
    const before = this.#inRegion;
    this.#inRegion = true;
    this.visit(el);
    this.#inRegion = before;
  }

  #beside(el: Element, share: number): void {
    if (this.#isTitle(el, share)) this.title = el;
    else if (share === 1 && !this.#holdsTitle(el)) this.gone.push(el);
    else if (share > 0) this.visit(el);
  }

  #isInMain(offset: number): boolean {
    return offset >= this.main[0] && offset < this.main[1];
  }

  /** The first heading before the main part that is the model's own, and the page's title: of second level only where the head says the same. */
  #isTitle(el: Element, share: number): boolean {
    if (this.title || share < 1 || (el.sourceCodeLocation?.startOffset ?? 0) >= this.main[0]) return false;
    const text = plain(el);
    return el.tagName === 'h1'
      ? text !== ''
      : el.tagName === 'h2' && text.length > 2 && this.#pageTitle.includes(text);
  }

  #holdsTitle(el: Element): boolean {
    return find(el, (e) => /^h[12]$/.test(e.tagName) && this.#isTitle(e, this.own.shareOf(e))) !== undefined;
  }
}

const plain = (el: Element | undefined): string => (el ? rawText(el).replace(/\s+/g, '').toLowerCase() : '');

/** By what it is: side columns, breadcrumbs, comments, sharing, whatever the comparison says. */
function isModels(el: Element, regions: Regions): boolean {
  if (el === regions.get('side')?.element || el === regions.get('side-2')?.element) return true;
  if (meaningOf(el) === 'crumbs' || nameSignOf(el) === 'crumbs' || meaningOf(el) === 'side') return true;
  return /(^|[\s_-])(comments?|respond|disqus|related|share|sharing|author-?box|post-?nav\w*|pagination|pager|tags?)([\s_-]|$)/i.test(
    `${attr(el, 'id') ?? ''} ${attr(el, 'class') ?? ''}`,
  );
}
