import type { Subject } from '../subject';
import type { WrittenPage } from '../written/facts';
import { sellsHere } from './has';

/** One press. */
export interface Step {
  /** What is pressed, in the words that stand there. */
  readonly press: string;
  /** Where one is afterwards. */
  readonly to: string;
}

/** A shopper's shortest ways from one page. Nothing where there is none. */
export interface WaysFrom {
  readonly path: string;
  readonly name: string;
  /** To a page that something can be bought on: 0 for here. */
  readonly product: number | undefined;
  /** To the cart. */
  readonly cart: number | undefined;
  /** To paid, with an empty cart at the start; on cart and checkout with something in it. */
  readonly paid: number | undefined;
}

type Mood = 'empty' | 'filled';
/** Where a shopper is, and whether there is something in the cart. */
type State = `${Mood} ${string}`;
const stateOf = (mood: Mood, path: string): State => `${mood} ${path}`;
const PAID: State = 'filled  paid';

interface Edge {
  readonly to: State;
  readonly press: string;
}

/**
 * Shortest ways over the written pages: links, menus, widgets, and what a press on a widget does. A press is a link, a button, or what is
 * pressed in the answer; fields of the checkout are not counted, because everybody has to fill in the same.
 */
export interface Ways {
  readonly from: (path: string) => WaysFrom | undefined;
  readonly all: readonly WaysFrom[];
  readonly toProduct: (path: string) => number | undefined;
  /** The presses of one of the ways. */
  readonly steps: (path: string, goal: 'product' | 'cart' | 'paid') => readonly Step[];
}

/** Written pages, to be found by their path. */
export function walkable(pages: readonly WrittenPage[]): Walkable {
  const byPath = new Map<string, WrittenPage>(pages.map((p) => [p.path, p]));
  return { pages, page: (path) => byPath.get(path) };
}

const known = new WeakMap<Subject, Ways>();
export function waysIn(s: Subject): Ways {
  const before = known.get(s);
  if (before) return before;
  const made = computeWays(s);
  known.set(s, made);
  return made;
}

/** Pages of the shop by what they are; the plain ones stand for those that the site does not have. */
interface Parts {
  readonly cart: string | undefined;
  readonly checkout: string | undefined;
  readonly shop: string | undefined;
}

/** All that ways are counted from. */
export type Walkable = Pick<Subject, 'pages' | 'page'>;

export function computeWays(s: Walkable): Ways {
  const parts: Parts = { cart: partOf(s, 'cart'), checkout: partOf(s, 'checkout'), shop: partOf(s, 'shop') };
  const edges = new Map<State, Edge[]>();
  for (const p of s.pages)
    for (const mood of ['empty', 'filled'] as const)
      edges.set(stateOf(mood, p.path), edgesOf(p, mood, parts));
  const product = backwards(
    edges,
    s.pages.filter(sellsHere).map((p) => stateOf('empty', p.path)),
  );
  const cart =
    parts.cart === undefined
      ? undefined
      : backwards(edges, [stateOf('empty', parts.cart), stateOf('filled', parts.cart)]);
  const paid = backwards(edges, [PAID]);
  const startOf = (p: WrittenPage): State =>
    stateOf(p.part === 'cart' || p.part === 'checkout' ? 'filled' : 'empty', p.path);
  const all = s.pages.map((p): WaysFrom => {
    const empty = stateOf('empty', p.path);
    return {
      path: p.path,
      name: p.name,
      product: product.get(empty)?.far,
      cart: cart?.get(empty)?.far,
      paid: paid.get(startOf(p))?.far,
    };
  });
  const byPath = new Map(all.map((w) => [w.path, w]));
  return {
    all,
    from: (path) => byPath.get(path),
    toProduct: (path) => byPath.get(path)?.product,
    steps(path, goal) {
      const page = s.page(path);
      if (!page) return [];
      const far = { product, cart, paid }[goal];
      return far ? walk(goal === 'paid' ? startOf(page) : stateOf('empty', path), far, s) : [];
    },
  };
}

const partOf = (s: Pick<Walkable, 'pages'>, part: string): string | undefined =>
  s.pages.find((p) => p.part === part)?.path;

/** What can be pressed on a page, and where one is then. */
function edgesOf(p: WrittenPage, mood: Mood, parts: Parts): Edge[] {
  const links = p.links.flatMap((l): Edge[] =>
    l.to === undefined || l.to === p.path ? [] : [{ to: stateOf(mood, l.to), press: l.text || l.href }],
  );
  const widgets = p.widgets.flatMap((w) =>
    w.problem ? [] : (pressed[w.kind]?.({ settings: w.settings ?? {}, path: p.path, mood, parts }) ?? []),
  );
  return [...links, ...widgets, ...onShopPage(p, mood, parts)];
}

/** What pages of the shop themselves offer, and the answer to what was put into the cart. */
function onShopPage(p: WrittenPage, mood: Mood, { cart, checkout }: Parts): Edge[] {
  const adds: Edge[] = p.part === 'shop' ? [{ to: stateOf('filled', p.path), press: 'Add to cart' }] : [];
  if (mood === 'empty') return adds;
  const answer = sellsHere(p) ? to('filled', cart, 'See the cart') : [];
  const goOn = p.part === 'cart' ? to('filled', checkout, 'Go to checkout') : [];
  const pay: Edge[] = p.part === 'checkout' ? [{ to: PAID, press: 'Pay' }] : [];
  return [...adds, ...answer, ...goOn, ...pay];
}

const to = (mood: Mood, path: string | undefined, press: string): Edge[] =>
  path === undefined ? [] : [{ to: stateOf(mood, path), press }];

interface Pressed {
  readonly settings: Readonly<Record<string, unknown>>;
  readonly path: string;
  readonly mood: Mood;
  readonly parts: Parts;
}

/** Puts something into the cart and stays: what is pressed next stands in the answer. */
const adds = ({ path, mood }: Pressed): Edge[] => (mood === 'empty' ? to('filled', path, 'Add to cart') : []);

/** A way to the shop's own page, from any other. */
const toShop =
  (press: string) =>
  ({ path, mood, parts }: Pressed): Edge[] =>
    parts.shop === path ? [] : to(mood, parts.shop, press);

/** What a press on a widget does, by its kind. */
const pressed: Readonly<Record<string, (p: Pressed) => Edge[]>> = {
  cart: ({ settings, mood, parts }) => [
    ...to(mood, parts.cart, 'Cart'),
    // A summary shows the way to the checkout beside what is in it.
    ...(settings.form === 'summary' && mood === 'filled'
      ? to('filled', parts.checkout, 'Go to checkout')
      : []),
  ],
  buy: (p) => {
    const after = { cart: p.parts.cart, checkout: p.parts.checkout }[String(p.settings.after)];
    return after === undefined ? adds(p).map((e) => ({ ...e, press: 'Buy' })) : to('filled', after, 'Buy');
  },
  card: adds,
  row: adds,
  shop: adds,
  search: toShop('Search'),
  categories: toShop('A category'),
};

interface Far {
  readonly far: number;
  /** The next press, and the state after it. */
  readonly edge: Edge | undefined;
}

/** How far every state is from the nearest of some goals: breadth first, from the goals backwards. */
function backwards(edges: ReadonlyMap<State, readonly Edge[]>, goals: readonly State[]): Map<State, Far> {
  const into = new Map<State, [State, Edge][]>();
  for (const [from, list] of edges)
    for (const edge of list) {
      const known = into.get(edge.to);
      if (known) known.push([from, edge]);
      else into.set(edge.to, [[from, edge]]);
    }
  // A map is walked in the order in which it grew: that is the queue.
  const far = new Map<State, Far>(goals.map((g) => [g, { far: 0, edge: undefined }]));
  for (const [state, { far: n }] of far)
    for (const [from, edge] of into.get(state) ?? []) if (!far.has(from)) far.set(from, { far: n + 1, edge });
  return far;
}

function walk(start: State, far: ReadonlyMap<State, Far>, s: Pick<Walkable, 'page'>): Step[] {
  const steps: Step[] = [];
  let at = far.get(start);
  while (at?.edge) {
    const { to, press } = at.edge;
    const path = to.slice(to.indexOf(' ') + 1);
    steps.push({ press, to: to === PAID ? 'Paid' : (s.page(path)?.name ?? path) });
    at = far.get(to);
  }
  return steps;
}
