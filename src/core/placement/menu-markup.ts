import { type Edit, sortEdits } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import {
  childrenOf,
  classesOf,
  type Element,
  isElement,
  isText,
  type Node,
  type TextNode,
} from '../html/tree';
import { fail, ok, type Result } from '../result';
import type { MenuNode } from '../site/menu';
import { stateName } from '../site/outline';
import type { CurrentStyle, ParsedPage } from '../site/read-page';

const flat = (nodes: readonly MenuNode[]): MenuNode[] => nodes.flatMap((n) => [n, ...flat(n.children)]);

/** Learned from the current item as against all the others. */
export function currentStyleOf(nodes: readonly MenuNode[]): CurrentStyle | undefined {
  const all = flat(nodes);
  const current = all.find((n) => n.current && n.link);
  if (!current) return undefined;
  const others = new Set(
    all
      .filter((n) => !n.current)
      .flatMap((n) => [...classesOf(n.element), ...(n.link ? classesOf(n.link) : [])]),
  );
  const own = (el: Element | undefined) =>
    el ? classesOf(el).filter((c) => !others.has(c) && stateName.test(c)) : [];
  const aria = [current.link, current.element]
    .map((e) => e?.attrs.find((a) => a.name === 'aria-current')?.value)
    .find((v) => v !== undefined);
  return {
    item: current.element === current.link ? [] : own(current.element),
    link: own(current.link),
    aria,
  };
}

/** An edit that gives an item another label: the longest text of its link, or of itself when it has none. */
export function renamed(page: ParsedPage, node: MenuNode, label: string): Result<Edit> {
  const text = longestText(node.link ?? node.element, node.list);
  if (!text?.sourceCodeLocation)
    return fail(`the item "${node.label}" is a picture: it cannot be renamed in text`);
  const { startOffset, endOffset } = text.sourceCodeLocation;
  return ok(replaceText(page.source.structure, startOffset, endOffset, label));
}

/** Blanks and line ends around a label stay. */
function replaceText(structure: string, from: number, to: number, label: string): Edit {
  const whole = structure.slice(from, to);
  const lead = /^\s*/.exec(whole)?.[0].length ?? 0;
  const tail = /\s*$/.exec(whole.slice(lead))?.[0].length ?? 0;
  return {
    at: from + lead,
    removed: structure.slice(from + lead, to - tail),
    inserted: asciiHtml(escapeHtml(label)),
  };
}

function longestText(root: Element, except: Element | undefined): TextNode | undefined {
  let best: TextNode | undefined;
  const stack: Node[] = [root];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (node === except) continue;
    if (isText(node)) {
      if (node.value.trim().length > (best?.value.trim().length ?? 0)) best = node;
    } else stack.push(...childrenOf(node));
  }
  return best;
}

/**
 * A new item made like another: its markup with label and address replaced; names that must be single (id), marks of
 * the current item, lists it nests, pictures and second texts (a count, a description) left out.
 */
export function itemLike(
  page: ParsedPage,
  like: MenuNode,
  item: { label: string; href: string; current: CurrentStyle | undefined },
): Result<string> {
  const { structure } = page.source;
  const at = like.element.sourceCodeLocation;
  const label = like.link && longestText(like.link, like.list);
  if (!at || !like.link) return fail('the source does not show how an item of its menu is written');
  const edits: Edit[] = [];
  const cut = (from: number, to: number, inserted = '') =>
    edits.push({ at: from, removed: structure.slice(from, to), inserted });
  const stack: Node[] = [like.element];
  for (let node = stack.pop(); node; node = stack.pop()) {
    const place = node.sourceCodeLocation;
    if (!place) continue;
    if (isText(node)) {
      if (node === label) edits.push(replaceText(structure, place.startOffset, place.endOffset, item.label));
      else if (/[\p{L}\p{N}]/u.test(node.value)) cut(place.startOffset, place.endOffset);
    } else if (isElement(node)) {
      if (node === like.list || ((node.tagName === 'img' || node.tagName === 'svg') && label))
        cut(place.startOffset, place.endOffset);
      else {
        edits.push(
          ...attributeEdits(
            page,
            node,
            node === like.link ? item.href : undefined,
            stateFor(node, like, item.current),
          ),
        );
        stack.push(...childrenOf(node));
        // A menu of pictures gets its new item in words.
        const open = node.sourceCodeLocation?.startTag;
        if (!label && node === like.link && open)
          edits.push({ at: open.endOffset, removed: '', inserted: asciiHtml(escapeHtml(item.label)) });
        if (!label && node.tagName === 'img') cut(place.startOffset, place.endOffset);
      }
    } else if (node.nodeName === '#comment') cut(place.startOffset, place.endOffset);
  }
  return ok(slice(structure, at.startOffset, at.endOffset, edits));
}

function stateFor(
  el: Element,
  like: MenuNode,
  current: CurrentStyle | undefined,
): { classes: readonly string[]; aria: string | undefined } {
  if (!current) return { classes: [], aria: undefined };
  if (el === like.link) return { classes: current.link, aria: current.aria };
  return { classes: el === like.element ? current.item : [], aria: undefined };
}

/** Attributes that name or describe the item they were copied from. */
const ownAttributes = new Set([
  'id',
  'name',
  'title',
  'accesskey',
  'aria-current',
  'aria-label',
  'aria-describedby',
  'target',
  'rel',
  'onmouseover',
  'onmouseout',
  'onclick',
  'data-id',
]);

function attributeEdits(
  page: ParsedPage,
  el: Element,
  href: string | undefined,
  state: { classes: readonly string[]; aria: string | undefined },
  drop: readonly string[] = [],
): Edit[] {
  const { structure } = page.source;
  const places = el.sourceCodeLocation?.attrs ?? {};
  const edits: Edit[] = [];
  const replace = (name: string, value: string | undefined) => {
    const place = places[name];
    if (!place) return;
    const removed = structure.slice(place.startOffset, place.endOffset);
    // With its blank before it, so that nothing is left of an attribute that goes.
    if (value === undefined)
      edits.push({
        at: place.startOffset - 1,
        removed: structure.slice(place.startOffset - 1, place.endOffset),
        inserted: '',
      });
    else
      edits.push({
        at: place.startOffset,
        removed,
        inserted: `${structure.slice(place.startOffset, place.startOffset + name.length)}="${asciiHtml(escapeHtml(value))}"`,
      });
  };
  for (const { name } of el.attrs) {
    if (name === 'href' && href !== undefined) replace(name, href);
    else if (ownAttributes.has(name)) replace(name, undefined);
  }
  const classes = classesOf(el);
  const kept = [
    ...classes
      .filter((c) => !drop.includes(c))
      .filter((c) => !/active|current|selected|here/i.test(c) || !stateName.test(c)),
    ...state.classes,
  ];
  if (places.class && kept.join(' ') !== classes.join(' '))
    replace('class', kept.length ? kept.join(' ') : undefined);
  const extra = [
    !places.class && kept.length ? ` class="${kept.join(' ')}"` : '',
    state.aria !== undefined ? ` aria-current="${escapeHtml(state.aria)}"` : '',
  ].join('');
  const open = el.sourceCodeLocation?.startTag;
  if (extra && open)
    edits.push({ at: open.startOffset + 1 + el.tagName.length, removed: '', inserted: extra });
  return edits;
}

/** A piece of source with edits inside it. */
export function slice(structure: string, from: number, to: number, edits: readonly Edit[]): string {
  let out = '';
  let at = from;
  for (const e of sortEdits(edits)) {
    if (e.at < at) continue;
    out += structure.slice(at, e.at) + e.inserted;
    at = e.at + e.removed.length;
  }
  return out + structure.slice(at, to);
}

/** Edits that take the mark of the current item off a page's menu: for pages that are in no menu yet. */
export function unmarkCurrent(page: ParsedPage, nodes: readonly MenuNode[]): Edit[] {
  const style = currentStyleOf(nodes);
  const drop = style ? [...style.item, ...style.link] : [];
  return flat(nodes)
    .filter((n) => n.current)
    .flatMap((n) =>
      [n.element, ...(n.link && n.link !== n.element ? [n.link] : [])].flatMap((el) =>
        attributeEdits(page, el, undefined, { classes: [], aria: undefined }, drop).filter((e) => isState(e)),
      ),
    );
}
const isState = (e: Edit): boolean => /^\s*(class|aria-current)/i.test(e.removed);
