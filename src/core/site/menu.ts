import { isInvisible } from '../html/content-model';
import { type PageSource, textOf } from '../html/source';
import {
  attr,
  childrenOf,
  classesOf,
  collapse,
  descendants,
  type Element,
  elementsIn,
  find,
  isElement,
  isText,
  rawText,
} from '../html/tree';
import { stateName } from './outline';
import { type LinkBase, type PagePath, resolveLink } from './paths';

export interface MenuItem {
  readonly label: string;
  /** The page it leads to, when that is a page of the site. */
  readonly page?: PagePath;
  readonly href: string;
  readonly current: boolean;
  readonly children: readonly MenuItem[];
}

/** A menu item on a parsed page, with the elements it is made of. */
export interface MenuNode extends MenuItem {
  /** What goes when the item goes: `li`, a cell, or the link itself. */
  readonly element: Element;
  readonly link?: Element;
  /** The list its children stand in. */
  readonly list?: Element;
  readonly children: readonly MenuNode[];
}

type Has = (path: string) => boolean | PagePath | undefined;

/** The menu that stands in `root`, as a tree: nested lists where the site has them, else its links in order. */
export const readMenu = (
  root: Element,
  from: PagePath | LinkBase,
  source: PageSource,
  has: Has,
): MenuItem[] => menuNodes(root, from, source, has).map(plain);

const plain = ({ label, page, href, current, children }: MenuNode): MenuItem => ({
  label,
  href,
  current,
  children: children.map(plain),
  ...(page && { page }),
});

export function menuNodes(
  root: Element,
  from: PagePath | LinkBase,
  source: PageSource,
  has: Has,
): MenuNode[] {
  const here = typeof from === 'string' ? from : (from.path as PagePath);
  const list = isList(root) ? root : firstList(root);
  const nodes = list && isWholeMenu(list, root) ? fromList(list) : fromRow(rowOf(root));
  // A word without a link is the current item only where no link leads here; else it is a title over the menu, or the site's name.
  const isHere = nodes.some((n) => n.link && (n.page === here || n.href.startsWith('#')));
  const kept = isHere ? nodes.filter((n) => n.link || n.children.length > 0) : nodes;
  // There is one page one is on: where several words have no link, or one says so, they are titles, or a press opens something below.
  const words = flat(kept).filter((n) => !n.link && n.children.length === 0);
  const isOpener = (n: MenuNode) => words.includes(n) && (words.length > 1 || opensSomething(n.element));
  const marked = (n: MenuNode): MenuNode => ({
    ...(isOpener(n) ? withMarkOnly(n) : n),
    children: n.children.map(marked),
  });
  return kept.map(marked);

  function fromList(el: Element): MenuNode[] {
    const out: MenuNode[] = [];
    for (const kid of elementsIn(el)) {
      // Old pages nest a list beside its item, not in it.
      if (isList(kid) && out.length > 0) out.push(adopt(out.pop() as MenuNode, kid));
      else if (isItem(kid)) out.push(...itemOf(kid, subOf(kid)));
      // Items in columns of a wide list, which HTML does not know but browsers show.
      else if (elementsIn(kid).some(isItem)) out.push(...fromList(kid));
      else out.push(...fromBoxIn(kid));
    }
    return out;
  }

  /** A list in a box in a list: a panel for wide windows often is one. */
  function fromBoxIn(box: Element): MenuNode[] {
    const list = firstList(box);
    return list ? fromList(list) : [];
  }

  /** What an item opens: items of a list, or the links of a panel. */
  function fromSub(el: Element): MenuNode[] {
    if (isList(el)) return fromList(el);
    const list = firstList(el);
    if (list && linksIn(list).length * 2 >= linksIn(el).length) return fromList(list);
    return fromRow(rowOf(el));
  }

  function adopt(parent: MenuNode, list: Element): MenuNode {
    return { ...parent, list, children: [...parent.children, ...fromList(list)] };
  }

  function fromRow(row: Element): MenuNode[] {
    return elementsIn(row)
      .filter((e) => !isInvisible(e) && e.tagName !== 'br')
      .flatMap((e) => {
        if (isList(e)) return fromList(e);
        const sub = isLink(e) ? undefined : subOf(e);
        return !sub && !isLink(e) && linksIn(e).length > 1 ? fromRow(rowOf(e)) : itemOf(e, sub);
      });
  }

  function itemOf(element: Element, sub: Element | undefined): MenuNode[] {
    const children = sub ? fromSub(sub) : [];
    const link = isLink(element) ? element : firstLink(element, sub);
    const list = sub ? { list: sub } : {};
    if (link) return [{ ...linked(element, link), children, element, link, ...list }];
    // Without a link an item is the current one, or a word over the items it nests; what holds no letter is a separator.
    const label = collapse(textOf(source, ownText(element, sub)));
    if (!/[\p{L}\p{N}]/u.test(label)) return children;
    const current = isCurrent(element, undefined) || children.length === 0;
    return [{ label, href: '', current, children, element, ...list }];
  }

  function linked(element: Element, link: Element) {
    const href = textOf(source, attr(link, 'href') ?? '');
    // An empty address is the page it stands on (URL standard).
    const page = href.trim() ? resolveLink(from, href, has) : here;
    const label = collapse(textOf(source, labelText(link))) || href;
    return { label, href, current: isCurrent(element, link) || page === here, ...(page && { page }) };
  }
}

/** Items of all levels, in their order. */
export const flat = (nodes: readonly MenuNode[]): MenuNode[] =>
  nodes.flatMap((n) => [n, ...flat(n.children)]);

/** Current by what says so, not by having no link. */
const withMarkOnly = (n: MenuNode): MenuNode => ({ ...n, current: isCurrent(n.element, undefined) });

/** A disclosure button as people write it: by WAI-ARIA, by element, or by an attribute that a script of toggles reads. */
const opensSomething = (item: Element): boolean =>
  find(
    item,
    (e) =>
      e.tagName === 'button' ||
      e.tagName === 'summary' ||
      e.attrs.some(
        ({ name, value }) =>
          /^aria-(expanded|haspopup|controls)$|^data-.*toggle$/.test(name) ||
          (name === 'role' && value === 'button'),
      ),
  ) !== undefined;

/**
 * Several conventions: aria-current, a class of that meaning on the item or the link. That it has no link is seen by the
 * caller.
 */
const isCurrent = (item: Element, link: Element | undefined): boolean =>
  [item, link].some(
    (e) =>
      e &&
      ((attr(e, 'aria-current') ?? 'false') !== 'false' ||
        classesOf(e).some((c) => stateName.test(c) && currentName.test(c))),
  );
const currentName = /active|current|selected|here/i;

/** Text of a link, or what its picture says. */
const labelText = (link: Element): string => {
  const text = rawText(link);
  const picture = text.trim() ? undefined : find(link, (e) => e.tagName === 'img');
  return picture ? (attr(picture, 'alt') ?? '') : text;
};

function ownText(element: Element, sub: Element | undefined): string {
  if (!sub) return rawText(element);
  return childrenOf(element)
    .filter((n) => n !== sub && !(isElement(n) && find(n, (e) => e === sub)))
    .map((n) => (isText(n) ? n.value : rawText(n)))
    .join(' ');
}

export const isList = (e: Element): boolean =>
  e.tagName === 'ul' ||
  e.tagName === 'ol' ||
  e.tagName === 'menu' ||
  e.tagName === 'dl' ||
  e.tagName === 'dir';
const isItem = (e: Element): boolean => e.tagName === 'li' || e.tagName === 'dd' || e.tagName === 'dt';

function firstList(el: Element): Element | undefined {
  return find(el, isList);
}

/**
 * A list that holds few of the links (a switch of languages, say) is not the menu, nor is one of several that stand beside
 * each other, each in its fold; a second that says the same again is a copy for narrow windows.
 */
function isWholeMenu(list: Element, root: Element): boolean {
  if (list === root) return true;
  if (linksIn(list).length * 2 < linksIn(root).length) return false;
  const says = (l: Element) => linksIn(l).map((a) => collapse(rawText(a)));
  const own = new Set(says(list));
  return ![...descendants(root)].some(
    (e) =>
      isList(e) && e !== list && !contains(list, e) && says(e).filter((label) => !own.has(label)).length > 1,
  );
}

const contains = (outer: Element, inner: Element): boolean => find(outer, (e) => e === inner) !== undefined;

/**
 * The list that an item nests; or, where its maker took something else, the block that holds links beside what the item
 * itself says: its own link, a title, a button that opens it.
 */
function subOf(item: Element): Element | undefined {
  const list = firstList(item);
  const panel = panelIn(item);
  // A list inside a panel is a part of it; one beside it is what the item opens.
  return panel && (!list || contains(panel, list)) && !isAll(panel, item) ? panel : list;
}

/** Down from an item to the first row in which something is said before a block that holds links. */
function panelIn(item: Element): Element | undefined {
  for (let at = item; ; ) {
    const kids = elementsIn(at).filter((e) => !isInvisible(e) && rawText(e).trim() !== '');
    const [first, ...rest] = kids;
    if (!first) return undefined;
    const panel = rest.find((e) => !isLink(e) && linksIn(e).length > 0);
    if (panel && (isLink(first) || linksIn(first).length <= 1))
      return holdsRest(at, first, panel) ? panel : undefined;
    if (kids.length > 1 || isLink(first)) return undefined;
    at = first;
  }
}

/** One of several blocks with links is no panel: they stand under a title. */
const holdsRest = (item: Element, first: Element, panel: Element): boolean =>
  linksIn(panel).length + (isLink(first) ? 1 : linksIn(first).length) >= linksIn(item).length;

/** A list that holds every link of its item is its only content, and no panel. */
const isAll = (panel: Element, item: Element): boolean =>
  isList(panel) && linksIn(item).length === linksIn(panel).length;

function firstLink(item: Element, sub: Element | undefined): Element | undefined {
  for (const e of descendants(item)) {
    if (e === sub) return undefined;
    if (isLink(e)) return e;
  }
  return undefined;
}

const isLink = (e: Element): boolean => e.tagName === 'a' && attr(e, 'href') !== undefined;

const linksIn = (root: Element): Element[] => [...descendants(root)].filter(isLink);

/** The element whose children are the items: down through wrappers that hold all the links in one child. */
function rowOf(root: Element): Element {
  const all = linksIn(root).length;
  for (let at = root; ; ) {
    const [only, ...others] = elementsIn(at).filter((e) => e.tagName !== 'a' && linksIn(e).length === all);
    if (!only || others.length) return at;
    at = only;
  }
}
