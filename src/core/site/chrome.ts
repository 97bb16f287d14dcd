import { entryAt } from '../entries';
import { mainBlocks } from './find-regions';
import type { Outline } from './outline';

/**
 * Which pages share their chrome, and what of a page is chrome: blocks that come again on the pages of its group.
 *
 * Pages are first compared by the blocks that several of them hold; pages whose shared blocks are mostly the same form
 * a group (a journal with its side column, another language, a landing page stand apart). The core of a group is what
 * at least {@link CORE} of its pages hold. Done once, this shows where each page's main part is; done again without
 * what stands there, teasers that pages share no longer count.
 */
export interface ChromeGroup {
  /** Indexes of its pages, in the order given. */
  readonly pages: readonly number[];
  /** Content hashes of blocks that are chrome there. Empty where a page has nothing to be compared with. */
  readonly core: ReadonlySet<number>;
}

/** Share of a group's pages that hold a block of its core; chosen by hand. */
const CORE = 0.6;
/** Weighted Jaccard similarity above which two pages, or two cores, are one group; chosen by hand. */
const ALIKE = 0.72;
/** Share of a group's chrome that a page alone holds if it is one of them; chosen by hand. */
const HELD = 0.9;
/** Groups a page is compared with before it starts one of its own; those of a large site come early. Groups are merged afterwards. */
const CLUSTERS = 24;
/** Pages that the blocks in common are looked for on; taken evenly over the site. */
const SAMPLE = 400;
/** Blocks lighter than this (a separator, a "top" link) say nothing. */
const LIGHT = 3;

type Signature = ReadonlyMap<number, number>;

export function groupByChrome(outlines: readonly Outline[]): ChromeGroup[] {
  const leaves = outlines.map((o) => leavesOf(o, []));
  // What two pages alone share may be a teaser as well as chrome: where there are more pages, it is not trusted yet.
  const counts = commonBlocks(leaves);
  const trusted = (core: ReadonlySet<number>) =>
    outlines.length < 4 ? core : new Set([...core].filter((content) => (counts.get(content) ?? 0) > 2));
  const mains = outlines.map((): readonly number[] => []);
  for (const group of groupBy(leaves)) {
    const core = trusted(group.core);
    for (const n of group.pages) mains[n] = mainBlocks(entryAt(outlines, n), core);
  }
  return groupBy(outlines.map((o, n) => leavesOf(o, mains[n] ?? [])));
}

function groupBy(leaves: readonly Signature[]): ChromeGroup[] {
  const common = commonBlocks(leaves);
  // What few pages share (the titles of the pages before and after) weighs less than what many do.
  const full = Math.min(6, Math.max(2, leaves.length * 0.2));
  const signatures = leaves.map(
    (l): Signature =>
      new Map(
        [...l].flatMap(([content, weight]) => {
          const n = common.get(content);
          return n === undefined ? [] : [[content, weight * Math.min(1, (n / full) ** 2)] as const];
        }),
      ),
  );
  const clusters = merge(cluster(signatures), signatures);
  return clusters
    .map((pages) => ({ pages, core: coreOf(pages, signatures) }))
    .sort((a, b) => b.pages.length - a.pages.length);
}

/** Blocks that at least two pages of the sample hold, and one page in fifty; with the number of those. */
function commonBlocks(leaves: readonly Signature[]): ReadonlyMap<number, number> {
  const step = Math.max(1, leaves.length / SAMPLE);
  const counts = new Map<number, number>();
  let sampled = 0;
  for (let n = 0; n < leaves.length; n += step, sampled++) {
    for (const content of entryAt(leaves, Math.floor(n)).keys())
      counts.set(content, (counts.get(content) ?? 0) + 1);
  }
  const least = Math.max(2, sampled * 0.02);
  return new Map([...counts].filter(([, n]) => n >= least));
}

/** Content of the blocks outside the main part that hold letters or pictures themselves, with their weight; long ones count no more than 300 letters. */
function leavesOf(o: Outline, main: readonly number[]): Signature {
  const leaves = new Map<number, number>();
  const inMain = new Uint8Array(o.count);
  for (const b of main) inMain.fill(1, b, o.end(b));
  for (let i = 0; i < o.count; i++) {
    if (!inMain[i] && o.isLeaf(i) && o.weight(i) >= LIGHT)
      leaves.set(o.content(i), Math.min(o.weight(i), 300));
  }
  return leaves;
}

const totals = new WeakMap<Signature, number>();

function totalOf(s: Signature): number {
  const known = totals.get(s);
  if (known !== undefined) return known;
  let total = 0;
  for (const weight of s.values()) total += weight;
  totals.set(s, total);
  return total;
}

/** Weighted Jaccard similarity. Weights of one block are the same in all signatures. */
function alike(a: Signature, b: Signature): number {
  const [small, large] = a.size < b.size ? [a, b] : [b, a];
  const sum = totalOf(a) + totalOf(b);
  // All of the lighter one in common would not be enough: most pairs end here.
  if (Math.min(totalOf(a), totalOf(b)) < ALIKE * Math.max(totalOf(a), totalOf(b))) return 0;
  let both = 0;
  for (const [content, weight] of small) if (large.has(content)) both += weight;
  return sum === both ? 0 : both / (sum - both);
}

/** Each page joins the first group whose first page it is like. */
function cluster(signatures: readonly Signature[]): number[][] {
  const clusters: number[][] = [];
  // Pages that hold the same shared blocks are many, and need no comparing.
  const same = new Map<string, number[]>();
  for (const [page, signature] of signatures.entries()) {
    const key = [...signature.keys()].sort((a, b) => a - b).join();
    const isLike = ([first = 0]: readonly number[]) =>
      alike(signatures[first] as Signature, signature) >= ALIKE;
    const likeOne = () => (signature.size ? clusters.slice(0, CLUSTERS).find(isLike) : undefined);
    const known = same.get(key) ?? likeOne();
    const home = known ?? [];
    if (!known) clusters.push(home);
    home.push(page);
    if (signature.size) same.set(key, home);
  }
  return clusters;
}

/**
 * Teasers on a front page are shared blocks too, and keep it apart from pages it shares all chrome with. So groups are
 * compared again by their cores alone: what a group holds that is in the core of no larger group is its own content.
 */
function merge(clusters: readonly number[][], signatures: readonly Signature[]): number[][] {
  const order = [...clusters].sort((a, b) => b.length - a.length);
  const merged: { pages: number[]; core: Signature }[] = [];
  const cores = order.map((pages) => weighted(coreOf(pages, signatures), pages, signatures));
  const ofGroups = cores.filter((_, n) => (order[n]?.length ?? 0) > 1);
  const inCores = new Set(ofGroups.flatMap((core) => [...core.keys()]));
  for (const [n, pages] of order.entries()) {
    const own = entryAt(cores, n);
    const core: Signature =
      pages.length > 1 ? own : new Map([...own].filter(([content]) => inCores.has(content)));
    const home = merged.find((m) => alike(m.core, core) >= ALIKE) ?? heldBy(pages, core, merged);
    if (home) home.pages.push(...pages);
    else merged.push({ pages: [...pages], core });
  }
  return merged.map((m) => m.pages.sort((a, b) => a - b));
}

/**
 * A page alone that holds all the chrome of a group belongs there, however much of its content other pages hold as well: a book on one page
 * beside its chapters.
 */
function heldBy<G extends { readonly pages: readonly number[]; readonly core: Signature }>(
  pages: readonly number[],
  page: Signature,
  groups: readonly G[],
): G | undefined {
  if (pages.length > 1) return undefined;
  const isHeld = (core: Signature) => {
    let held = 0;
    for (const [content, weight] of core) if (page.has(content)) held += weight;
    return held > 0 && held >= HELD * totalOf(core);
  };
  return groups
    .filter((g) => g.pages.length >= 3 && isHeld(g.core))
    .reduce<G | undefined>(
      (best, g) => (best && totalOf(best.core) >= totalOf(g.core) ? best : g),
      undefined,
    );
}

function coreOf(pages: readonly number[], signatures: readonly Signature[]): Set<number> {
  const counts = new Map<number, number>();
  for (const page of pages)
    for (const content of entryAt(signatures, page).keys())
      counts.set(content, (counts.get(content) ?? 0) + 1);
  const least = Math.max(pages.length > 1 ? 2 : 1, pages.length * CORE);
  return new Set([...counts].filter(([, n]) => n >= least).map(([content]) => content));
}

function weighted(
  core: ReadonlySet<number>,
  pages: readonly number[],
  signatures: readonly Signature[],
): Signature {
  const weights = new Map<number, number>();
  for (const page of pages)
    for (const [content, weight] of entryAt(signatures, page))
      if (core.has(content)) weights.set(content, weight);
  return weights;
}
