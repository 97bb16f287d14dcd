import { entryAt } from '../entries';
import { applyEdits, type Edit, insertion, sortEdits } from '../html/edits';
import { fence } from '../html/fence';
import { readSource } from '../html/source';
import {
  ancestors,
  bodyOf,
  type Element,
  find,
  isElement,
  type Node,
  PageTooBig,
  parsePage,
  rawText,
  sameTreeBut,
} from '../html/tree';
import { fail, ok, type Result } from '../result';
import { isList, menuNodes, type MenuNode } from '../site/menu';
import { type MenuCopy, menuCopies } from '../site/menu-copies';
import { addressOf, type PagePath, relativeAddress } from '../site/paths';
import type { ParsedPage } from '../site/read-page';
import { elementAt, pathTo, regionsOf } from '../site/regions';
import type { MenuChange, MenuSpot } from './menu-change';
import { currentStyleOf, itemLike, plainest, renamed } from './menu-markup';

/** The menu as it shall be: the owner's items, some with another label or other children, and new ones among them. */
interface Wanted {
  readonly old?: MenuNode;
  label: string;
  readonly to: string;
  children: Wanted[];
}

export interface ChangedMenu {
  readonly edits: readonly Edit[];
  /** The menu's element, and those of its copies on the page: nothing outside them changes. */
  readonly roots: readonly Element[];
}

/** A changed menu that is not proven yet. */
export interface PlannedMenu extends ChangedMenu {
  /** Whether the menu of the edited page reads as it should. */
  readonly reads: (edited: Pick<ParsedPage, 'source' | 'doc'>) => boolean;
}

/**
 * Makes changes in one page's copy of the menu, in that menu's own markup. A list whose items all stay where they are
 * gets its new items between them; one whose items move, nest or go is written anew from the owner's own pieces, and
 * what stood there is kept in the fence. The page outside the menu is proven unchanged, and the new menu is read back.
 */
export function changeMenu(
  page: ParsedPage,
  changes: readonly MenuChange[],
  has: (path: string) => boolean | PagePath | undefined,
): Result<ChangedMenu | undefined> {
  const planned = planMenu(page, changes, has);
  if (!planned.ok || !planned.value) return planned;
  const all = proven(page, planned.value);
  if (all.ok || planned.value.roots.length === 1) return all;
  // A copy that the browser reads otherwise must not keep the menu itself from its change.
  const alone = planMenu(page, changes, has, () => []);
  return alone.ok && alone.value ? proven(page, alone.value) : alone;
}

/** From here on a page's menu is surely one, though it holds other items than those of other pages. Chosen by hand. */
const SURE = 0.8;

/** The same without its proof: whoever writes the page proves all of it at once. */
export function planMenu(
  page: ParsedPage,
  changes: readonly MenuChange[],
  has: (path: string) => boolean | PagePath | undefined,
  copiesOf = menuCopies,
): Result<PlannedMenu | undefined> {
  const root = regionsOf(page).get('menu')?.element;
  if (!root) return fail('no menu was found on this page');
  const nodes = menuNodes(root, page.path, page.source, has);
  if (nodes.length === 0) return fail('the menu of this page holds no link');
  const wanted = nodes.map(asWanted);
  const { by, confidence = 0 } = regionsOf(page).get('menu') ?? {};
  const isSure = by === 'meaning' || by === 'owner' || confidence >= SURE;
  for (const change of changes) {
    const done = apply(wanted, change, isSure);
    if (!done.ok) return done;
  }
  const ids = { count: 0 };
  const edits = new Writer(page, root, nodes, ids).list(nodes, wanted, false);
  if (!edits.ok) return edits;
  if (edits.value.length === 0) return ok(undefined);
  const copies = copiesOf(page, root, nodes, has).flatMap((copy) => changedCopy(page, copy, changes, ids));
  const body = bodyOf(page.doc);
  const reads: PlannedMenu['reads'] = ({ source, doc }) => {
    const again = regionsOf({ path: page.path, source, doc, ...(page.regions && { regions: page.regions }) });
    const says = (el: Element | undefined, items: readonly Labelled[]) =>
      el !== undefined && labels(menuNodes(el, page.path, source, has)) === labels(items);
    const now = bodyOf(doc);
    // Nothing outside the menus moved: a copy stands where it stood.
    const isThere = (c: ChangedCopy) => says(now && elementAt(now, pathTo(body, c.root)), c.wanted);
    return says(again.get('menu')?.element, wanted) && copies.every(isThere);
  };
  return ok({
    edits: sortEdits([...edits.value, ...copies.flatMap((c) => c.edits)]),
    roots: [root, ...copies.map((c) => c.root)],
    reads,
  });
}

interface ChangedCopy {
  readonly root: Element;
  readonly edits: readonly Edit[];
  readonly wanted: readonly Wanted[];
}

/**
 * The same changes in a copy of the menu. It may lack what a change hangs on: a new item then stands at its end, and nothing
 * else is done. A copy that cannot be written stays as it is.
 */
function changedCopy(
  page: ParsedPage,
  { root, nodes }: MenuCopy,
  changes: readonly MenuChange[],
  ids: { count: number },
): ChangedCopy[] {
  let wanted = nodes.map(asWanted);
  for (const change of changes) {
    // Where it lacks what a change hangs on nothing is to be done, not half of it.
    const tried = wanted.map(again);
    if (apply(tried, change, true).ok) wanted = tried;
  }
  const edits = new Writer(page, root, nodes, ids).list(nodes, wanted, false);
  return edits.ok && edits.value.length > 0 ? [{ root, edits: edits.value, wanted }] : [];
}

const asWanted = (node: MenuNode): Wanted => ({
  old: node,
  label: node.label,
  to: '',
  children: node.children.map(asWanted),
});

const again = (w: Wanted): Wanted => ({ ...w, children: w.children.map(again) });

/** @param mayEnd whether a new item whose neighbour is not there stands at the end: this menu was made for other pages */
function apply(menu: Wanted[], change: MenuChange, mayEnd: boolean): Result<true> {
  if (change.do === 'add') {
    if (isThere(menu, change)) return ok(true);
    const item = { label: change.label, to: change.to, children: [] };
    const done = put(menu, item, change.at);
    return done.ok || !mayEnd || change.at.under.length > 0 ? done : put(menu, item, { under: [] });
  }
  const found = locate(menu, change.item);
  if (!found) return fail(`its menu has no item ${change.item.map((l) => `"${l}"`).join(' > ')}`);
  const { list, index } = found;
  const item = entryAt(list, index);
  if (change.do === 'rename') {
    item.label = change.label;
    return ok(true);
  }
  if (change.do === 'move' && change.item.every((l, i) => change.at.under[i] === l))
    return fail(`"${item.label}" cannot stand below itself`);
  list.splice(index, 1);
  return change.do === 'move' ? put(menu, item, change.at) : ok(true);
}

/** The owner has put the very item there: on a site that only they can write, or in a newer version of it. */
function isThere(menu: readonly Wanted[], { label, to }: Extract<MenuChange, { do: 'add' }>): boolean {
  return menu.some(
    (w) =>
      (w.label === label && w.old?.page !== undefined && addressOf(w.old.page) === to) ||
      isThere(w.children, { do: 'add', label, to, at: { under: [] } }),
  );
}

function put(menu: Wanted[], item: Wanted, at: MenuSpot): Result<true> {
  const parent = at.under.length ? locate(menu, at.under) : undefined;
  if (at.under.length && !parent)
    return fail(`its menu has no item ${at.under.map((l) => `"${l}"`).join(' > ')}`);
  const list = parent ? entryAt(parent.list, parent.index).children : menu;
  const neighbour = at.before ?? at.after;
  const n = neighbour === undefined ? list.length : list.findIndex((w) => w.label === neighbour);
  if (n < 0)
    return fail(`its menu has no item "${neighbour}" ${at.under.length ? 'there' : 'at its first level'}`);
  list.splice(at.after === undefined ? n : n + 1, 0, item);
  return ok(true);
}

function locate(menu: Wanted[], path: readonly string[]): { list: Wanted[]; index: number } | undefined {
  let list = menu;
  for (const [depth, label] of path.entries()) {
    const index = list.findIndex((w) => w.label === label);
    if (index < 0) return undefined;
    if (depth === path.length - 1) return { list, index };
    list = entryAt(list, index).children;
  }
  return undefined;
}

/** Writes edits for one page's menu. */
class Writer {
  constructor(
    private readonly page: ParsedPage,
    private readonly root: Element,
    private readonly nodes: readonly MenuNode[],
    /** Fences of a page have names of their own, whichever copy they stand in. */
    private readonly ids: { count: number },
  ) {}

  /** Edits for one list of items and all below it. */
  list(old: readonly MenuNode[], wanted: readonly Wanted[], nested: boolean): Result<Edit[]> {
    const kept = wanted.flatMap((w) => (w.old ? [w.old] : []));
    const inPlace = kept.length === old.length && kept.every((k, i) => k === old[i]);
    if (old.length > 0 && !inPlace) return this.anew(old, wanted, nested);
    const edits: Edit[] = [];
    for (const [i, w] of wanted.entries()) {
      const done = w.old ? this.item(w.old, w) : this.inserted(old, wanted, i, nested);
      if (!done.ok) return done;
      edits.push(...done.value);
    }
    return ok(edits);
  }

  /** Changes inside an item that stays where it is. */
  private item(old: MenuNode, w: Wanted): Result<Edit[]> {
    const edits: Edit[] = [];
    if (w.label !== old.label) {
      const label = renamed(this.page, old, w.label);
      if (!label.ok) return label;
      edits.push({
        at: label.value.at,
        removed: label.value.removed,
        inserted: fence(this.id(), label.value.inserted, {
          source: this.page.source,
          text: label.value.removed,
        }),
      });
    }
    if (old.children.length > 0 || w.children.length === 0) {
      // A list that was not read as items lost none; one that holds more than its items stays with the rest.
      if (w.children.length === 0 && old.children.length > 0 && old.list && holdsOnly(old.list, old.children))
        return this.without(old.list, edits);
      const below = this.list(old.children, w.children, true);
      return below.ok ? ok([...edits, ...below.value]) : below;
    }
    const list = this.firstNested(old, w.children);
    return list.ok ? ok([...edits, list.value]) : list;
  }

  /** A list that lost its last item goes with it. */
  private without(list: Element, edits: Edit[]): Result<Edit[]> {
    const at = list.sourceCodeLocation;
    if (!at) return fail('the source does not show where a list of its menu ends');
    const removed = this.slice(at.startOffset, at.endOffset);
    return ok([
      ...edits,
      {
        at: at.startOffset,
        removed,
        inserted: fence(this.id(), '', { source: this.page.source, text: removed }),
      },
    ]);
  }

  private firstNested(old: MenuNode, children: readonly Wanted[]): Result<Edit> {
    const at = old.element.sourceCodeLocation;
    if (old.element.tagName !== 'li' || !at)
      return fail(`its menu has no form for items below another ("${old.label}")`);
    const html = this.nestedList(children);
    if (!html.ok) return html;
    return ok(insertion(at.endTag?.startOffset ?? at.endOffset, fence(this.id(), html.value)));
  }

  private inserted(
    old: readonly MenuNode[],
    wanted: readonly Wanted[],
    i: number,
    nested: boolean,
  ): Result<Edit[]> {
    const html = this.html(entryAt(wanted, i), old, nested);
    if (!html.ok) return html;
    const before = wanted.slice(0, i).findLast((w) => w.old)?.old;
    const after = wanted.slice(i).find((w) => w.old)?.old;
    if (before)
      return ok([insertion(endOf(before), fence(this.id(), this.between(old, before) + html.value))]);
    const first = after?.element.sourceCodeLocation?.startOffset;
    if (first === undefined || !after) return fail('its menu is empty there');
    return ok([insertion(first, fence(this.id(), html.value + this.between(old, after)))]);
  }

  /** The whole row of items written again. */
  private anew(old: readonly MenuNode[], wanted: readonly Wanted[], nested: boolean): Result<Edit[]> {
    const [first] = old;
    const last = old.at(-1);
    const from = first?.element.sourceCodeLocation?.startOffset;
    if (!first || !last || from === undefined) return fail('the source does not show where its menu begins');
    if (wanted.length === 0 && !nested) return fail('its menu would be left without any item');
    const to = endOf(last);
    const parts: string[] = [];
    for (const w of wanted) {
      const html = this.html(w, old, nested);
      if (!html.ok) return html;
      parts.push(
        (parts.length ? this.between(old, entryAt(old, Math.min(parts.length - 1, old.length - 1))) : '') +
          html.value,
      );
    }
    const removed = this.slice(from, to);
    return ok([
      {
        at: from,
        removed,
        inserted: fence(this.id(), parts.join(''), { source: this.page.source, text: removed }),
      },
    ]);
  }

  /** An item as source: the owner's own with its changes, or a new one made like its neighbours. */
  private html(w: Wanted, siblings: readonly MenuNode[], nested: boolean): Result<string> {
    if (w.old && siblings.includes(w.old)) return this.moved(w.old, w);
    const template = plainest(siblings) ?? this.anyNested(nested) ?? this.nodes.find((s) => s.link);
    if (!template) return fail('its menu has no link that a new item could be like');
    const newTo = /^[a-z][a-z0-9+.-]*:/i.test(w.to) ? w.to : relativeAddress(this.page.path, w.to);
    const to = w.old ? w.old.href : newTo;
    const current = w.old
      ? w.old.current
      : w.to.replace(/index\.html?$/, '') === addressOfPage(this.page.path);
    const bare = itemLike(this.page, template, {
      label: w.label,
      href: to,
      current: current ? (currentStyleOf(this.nodes) ?? this.page.marksCurrent) : undefined,
    });
    if (!bare.ok || w.children.length === 0) return bare;
    const list = this.nestedList(w.children);
    return list.ok ? ok(bare.value.replace(/(<\/li\s*>)?$/i, (end) => list.value + end)) : list;
  }

  /** The owner's own item, its text as it was written, with the changes inside it. */
  private moved(old: MenuNode, w: Wanted): Result<string> {
    const from = old.element.sourceCodeLocation?.startOffset ?? 0;
    const edits = this.item(old, w);
    if (!edits.ok) return edits;
    let text = '';
    let at = from;
    for (const e of [...edits.value].sort((a, b) => a.at - b.at)) {
      // Inside a row that is kept whole in its fence, no second fence is needed.
      text +=
        this.slice(at, e.at) +
        e.inserted.replace(/^<!--stall [^>]*?-->/, '').replace(/<!--\/stall [\w-]+-->$/, '');
      at = e.at + e.removed.length;
    }
    return ok(text + this.slice(at, endOf(old)));
  }

  /** A list like the ones this menu nests already; a plain one where it nests none. */
  private nestedList(children: readonly Wanted[]): Result<string> {
    const like = this.nodes.find((n) => n.list && n.children.length > 0);
    const items: string[] = [];
    for (const child of children) {
      const html = this.html(child, like?.children ?? [], true);
      if (!html.ok) return html;
      items.push(html.value);
    }
    const open = like?.list?.sourceCodeLocation?.startTag;
    const tag = like?.list?.tagName ?? (isList(this.listOfRoot()) ? this.listOfRoot().tagName : 'ul');
    return ok(
      `${open ? this.slice(open.startOffset, open.endOffset).replace(/\sid\s*=\s*("[^"]*"|'[^']*'|[^\s>]+)/i, '') : `<${tag}>`}${items.join('')}</${tag}>`,
    );
  }

  private listOfRoot(): Element {
    const parent = this.nodes[0]?.element.parentNode;
    return parent && isElement(parent) ? parent : this.root;
  }

  private anyNested(nested: boolean): MenuNode | undefined {
    return nested ? this.nodes.flatMap((n) => n.children).find((c) => c.link && !c.current) : undefined;
  }

  /** What stands between an item and the next: line ends, bars, separators of their own. */
  private between(old: readonly MenuNode[], item: MenuNode): string {
    const i = old.indexOf(item);
    const [a, b] = i + 1 < old.length ? [old[i], old[i + 1]] : [old[i - 1], old[i]];
    if (!a || !b) return '';
    return this.slice(endOf(a), b.element.sourceCodeLocation?.startOffset ?? endOf(a));
  }

  private slice(from: number, to: number): string {
    return this.page.source.structure.slice(from, to);
  }

  private id(): string {
    return `menu-${++this.ids.count}`;
  }
}

const endOf = (node: MenuNode): number => node.element.sourceCodeLocation?.endOffset ?? 0;
const addressOfPage = (path: PagePath): string => `/${path.replace(/(^|\/)index\.html?$/i, '$1')}`;

/** Nothing outside the menu moved, and the menu now reads as it should. */
function proven(page: ParsedPage, { edits, roots, reads }: PlannedMenu): Result<ChangedMenu> {
  const broken = fail(
    'the browser would move the menu or the page around it, because of how the page is written there',
  );
  try {
    const source = readSource(applyEdits(page.source, edits));
    const doc = parsePage(source);
    if (!sameTreeBut(page.doc, doc, () => false, new Set<Node>(roots))) return broken;
    return reads({ source, doc }) ? ok({ edits, roots }) : broken;
  } catch (error) {
    if (error instanceof PageTooBig) return broken;
    throw error;
  }
}

interface Labelled {
  readonly label: string;
  readonly children: readonly Labelled[];
}
const labels = (items: readonly Labelled[]): string =>
  JSON.stringify(items.map((i) => [i.label, labels(i.children)]));

/** Whether a list holds its items and nothing else that a visitor meets. */
function holdsOnly(list: Element, items: readonly MenuNode[]): boolean {
  const text = (el: Element) => rawText(el).replace(/\s+/g, '');
  const inItem = (el: Element) => [el, ...ancestors(el)].some((e) => items.some((i) => i.element === e));
  const isMore = (el: Element) =>
    /^(input|select|textarea|button|img|svg|iframe)$/.test(el.tagName) && !inItem(el);
  return text(list) === items.map((i) => text(i.element)).join('') && find(list, isMore) === undefined;
}
