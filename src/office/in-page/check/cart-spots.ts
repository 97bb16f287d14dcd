import { isShown } from '../menu';

/** How a cart would stand in one of the spots that are tried; -1 is where it stands. See core/checks/cart-spot.ts. */
export interface SpotTried {
  readonly n: number;
  readonly shows: boolean;
  readonly leaves: boolean;
  readonly overlaps: boolean;
  readonly grows: number;
  readonly moves: number;
  readonly spills: boolean;
  readonly apart: boolean;
}

/** How far down a page is looked at, in pixels: headers are no taller. */
const HEAD = 500;
/** Least side of a target, for a cart that has no size where it stands. */
const LEAST = 44;
/** Pictures that are larger are no things of a header, but what it stands on. */
const GROUND = { width: 400, height: 120 } as const;
/** What moves by more stands in another row. */
const ROW = 8;

/**
 * Tries a cart in each spot that the draft marked by a comment: a box of its size is put there, looked at, and taken out again before
 * anything is drawn. The page is as it was afterwards.
 */
export function trySpots(cart: HTMLElement): SpotTried[] {
  const marks = markedSpots();
  // What floats stands nowhere.
  if (getComputedStyle(cart).position === 'fixed' && !cart.hasAttribute('aside')) return [];
  const probe = roomOf(cart);
  const home = document.createComment('');
  cart.replaceWith(home);
  scrollTo(0, 0);
  const before = headOf();
  const all = [[-1, home] as const, ...marks].map(([n, mark]) => {
    const boxes = boxesAround(mark, before);
    mark.after(probe);
    const tried = { n, ...standing(probe, before, boxes) };
    probe.remove();
    return tried;
  });
  home.replaceWith(cart);
  return all;
}

/** A box as large as the cart, with the styles that it keeps its room by. */
function roomOf(cart: HTMLElement): HTMLElement {
  const { width, height } = cart.getBoundingClientRect();
  const { display } = getComputedStyle(cart);
  const room = document.createElement('stall-cart-room');
  room.setAttribute('style', cart.getAttribute('style') ?? '');
  const set = (name: string, value: string) => room.style.setProperty(name, value, 'important');
  set('display', display === 'none' || display === 'inline' ? 'inline-block' : display);
  set('width', `${Math.max(width, LEAST)}px`);
  set('height', `${Math.max(height, LEAST)}px`);
  return room;
}

function markedSpots(): [number, Comment][] {
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_COMMENT);
  const all: [number, Comment][] = [];
  for (let at = walk.nextNode(); at; at = walk.nextNode()) {
    const n = /^stall-spot (\d+)$/.exec((at as Comment).data)?.[1];
    if (n !== undefined) all.push([Number(n), at as Comment]);
  }
  return all;
}

interface Head {
  readonly things: readonly { readonly el: Element; readonly box: DOMRect }[];
  readonly height: number;
}

/** What is seen at the top of the page: words, pictures, things to press. */
function headOf(): Head {
  const things: { el: Element; box: DOMRect }[] = [];
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_ELEMENT);
  for (let at = walk.nextNode(); at && things.length < 400; at = walk.nextNode()) {
    const el = at instanceof Element ? at : at.parentElement;
    const isThing = at instanceof Element ? replaced.has(at.localName) : (at.textContent ?? '').trim() !== '';
    if (!isThing || !(el instanceof HTMLElement || el instanceof SVGElement)) continue;
    const box = boxOf(at);
    if (box.width > 1 && box.height > 1 && box.top < HEAD && isShown(el)) things.push({ el, box });
  }
  return {
    things,
    height: document.documentElement.scrollHeight,
  };
}

const replaced = new Set(['img', 'svg', 'input', 'button', 'select', 'video', 'picture', 'canvas']);

/** Where the words of a text are, and not the box they are spread in. */
function boxOf(node: Node): DOMRect {
  if (node instanceof Element) return node.getBoundingClientRect();
  const range = document.createRange();
  range.selectNodeContents(node);
  return range.getBoundingClientRect();
}

interface Around {
  readonly el: Element;
  readonly height: number;
  /** Things in it run over its edge already. */
  readonly spills: boolean;
}

/** What something stands in, from the inside, as far as it is of a header. */
function boxesAround(node: Node, { things }: Head): Around[] {
  const all: Around[] = [];
  for (let el = node.parentElement; el && el !== document.body; el = el.parentElement)
    all.push({ el, height: el.getBoundingClientRect().height, spills: isOver(el, things) });
  return all.filter(({ height }) => height < HEAD);
}

/** How many come to stand in another row: not all of a bar that is a little taller, and centres what it holds. */
function movedRows(shifts: readonly number[]): number {
  const middle = shifts.toSorted((a, b) => a - b)[shifts.length >> 1] ?? 0;
  return shifts.filter((shift) => Math.abs(shift - middle) > ROW).length;
}

/** Whether something in a box runs over its edge at a side. */
function isOver(el: Element, things: Head['things']): boolean {
  const { left, right, width } = el.getBoundingClientRect();
  return (
    width > 1 && things.some((t) => el.contains(t.el) && (t.box.right > right + 2 || t.box.left < left - 2))
  );
}

function standing(probe: HTMLElement, before: Head, around: readonly Around[]): Omit<SpotTried, 'n'> {
  const box = probe.getBoundingClientRect();
  const now = headOf();
  const was = new Map(before.things.map(({ el, box: at }) => [el, at]));
  const head = around.at(-1)?.el ?? probe;
  const inHead = (el: Element) => head.contains(el);
  const room = document.documentElement.clientWidth;
  const middle = box.top + box.height / 2;
  const leaves = box.left < -1 || box.right > room + 1;
  return {
    // What leaves the window goes to its corner by itself (widgets/stall-cart.ts), and is seen there.
    shows: isShown(probe) && box.height > 1 && box.top > -1 && middle < HEAD,
    leaves,
    overlaps: now.things.some((t) => !isGround(t) && meet(box, t.box)) || isCovered(probe, box),
    grows: Math.max(
      0,
      document.documentElement.scrollHeight - before.height,
      ...around.map(({ el, height }) => el.getBoundingClientRect().height - height),
    ),
    moves: movedRows(
      now.things.filter((t) => inHead(t.el)).map((t) => t.box.top - (was.get(t.el)?.top ?? t.box.top)),
    ),
    spills: around.some(({ el, spills }) => !spills && isOver(el, [...now.things, { el: probe, box }])),
    apart: !now.things.some(({ el, box: b }) => inHead(el) && b.top < middle && b.bottom > middle),
  };
}

/** A picture that headers are laid over. */
const isGround = ({ el, box }: { el: Element; box: DOMRect }): boolean =>
  replaced.has(el.localName) && box.width > GROUND.width && box.height > GROUND.height;

const meet = (a: DOMRect, b: DOMRect): boolean =>
  Math.min(a.right, b.right) - Math.max(a.left, b.left) > 3 &&
  Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 3;

/** What a cart lies over: a few words of it; '' for nothing. What was covered before does not count. */
export function coversOf(cart: HTMLElement, shown: Element): string {
  scrollTo(0, 0);
  const box = shown.getBoundingClientRect();
  const below = headOf().things.filter((t) => !isGround(t) && !cart.contains(t.el) && meet(box, t.box));
  if (below.length === 0) return '';
  const { visibility } = cart.style;
  cart.style.setProperty('visibility', 'hidden', 'important');
  const covered = below.find(({ el, box: b }) => {
    const there = document.elementFromPoint(
      (Math.max(box.left, b.left) + Math.min(box.right, b.right)) / 2,
      (Math.max(box.top, b.top) + Math.min(box.bottom, b.bottom)) / 2,
    );
    // The ground between two lines of a text is no thing that could be covered.
    return there !== null && el.contains(there);
  });
  cart.style.setProperty('visibility', visibility);
  return covered ? nameOf(covered.el) : '';
}

/** A few words that say which element is meant. */
export function nameOf(el: Element): string {
  const text = (el.textContent ?? '').replace(/\s+/g, ' ').trim().slice(0, 40);
  return text ? `“${text}”` : `<${el.localName}${el.id ? ` id="${el.id.slice(0, 30)}"` : ''}>`;
}

function isCovered(el: Element, { left, top, width, height }: DOMRect): boolean {
  const there = document.elementFromPoint(left + width / 2, top + height / 2);
  return there !== null && there !== el && !there.contains(el);
}
