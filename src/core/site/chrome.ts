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
/** Letters of its own that a block counts with at most: a long text that two pages share is content more than chrome. */
const LONG = 300;

/**
 * What of a page is compared: blocks that other pages hold as well, in document order, those that hold others before what they hold. So
 * pages whose outlines go down to different depths are compared where they meet.
 */
interface Signature {
  readonly contents: readonly number[];
  readonly weights: readonly number[];
  /** Index of the first block that is not inside. */
  readonly ends: readonly number[];
  readonly has: ReadonlySet<number>;
  readonly total: number;
}

export function groupByChrome(outlines: readonly Outline[]): ChromeGroup[] {
  const nothing = outlines.map((): readonly number[] => []);
  // What two pages alone share may be a teaser as well as chrome: where there are more pages, it is not trusted yet.
  const counts = commonBlocks(outlines, nothing);
  const trusted = (core: ReadonlySet<number>) =>
    outlines.length < 4 ? core : new Set([...core].filter((content) => (counts.get(content) ?? 0) > 2));
  const mains = [...nothing];
  for (const group of groupBy(outlines, nothing, counts)) {
    const core = trusted(group.core);
    for (const n of group.pages) mains[n] = mainBlocks(entryAt(outlines, n), core);
  }
  return groupBy(outlines, mains, commonBlocks(outlines, mains));
}

function groupBy(
  outlines: readonly Outline[],
  mains: readonly (readonly number[])[],
  common: ReadonlyMap<number, number>,
): ChromeGroup[] {
  // What few pages share (the titles of the pages before and after) weighs less than what many do.
  const full = Math.min(6, Math.max(2, outlines.length * 0.2));
  const share = (content: number): number => Math.min(1, ((common.get(content) ?? 0) / full) ** 2);
  const signatures = outlines.map((o, n) => signatureOf(o, entryAt(mains, n), share));
  const clusters = merge(cluster(signatures), signatures);
  return clusters
    .map((pages) => ({ pages, core: coreOf(pages, signatures) }))
    .sort((a, b) => b.pages.length - a.pages.length);
}

/** Blocks that at least two pages of the sample hold outside their main parts, and one page in fifty; with the number of those. */
function commonBlocks(
  outlines: readonly Outline[],
  mains: readonly (readonly number[])[],
): ReadonlyMap<number, number> {
  const step = Math.max(1, outlines.length / SAMPLE);
  const counts = new Map<number, number>();
  let sampled = 0;
  for (let at = 0; at < outlines.length; at += step, sampled++) {
    const n = Math.floor(at);
    for (const content of contentsOf(entryAt(outlines, n), entryAt(mains, n)))
      counts.set(content, (counts.get(content) ?? 0) + 1);
  }
  const least = Math.max(2, sampled * 0.02);
  return new Map([...counts].filter(([, n]) => n >= least));
}

function contentsOf(o: Outline, main: readonly number[]): ReadonlySet<number> {
  const compared = comparedBlocks(o, main);
  const out = new Set<number>();
  for (let i = 1; i < o.count; i++) if (compared[i]) out.add(o.content(i));
  return out;
}

/** Blocks that say something and are neither in the main part nor around it: a 1 for each. */
function comparedBlocks(o: Outline, main: readonly number[]): Uint8Array {
  const out = new Uint8Array(o.count).fill(1);
  for (const b of main) {
    out.fill(0, b, o.end(b));
    for (let up = b; up > 0; up = o.parent(up)) out[up] = 0;
  }
  out[0] = 0;
  for (let i = 1; i < o.count; i++) if (o.weight(i) < LIGHT) out[i] = 0;
  return out;
}

/** Weights by what the block says itself, at most {@link LONG} letters, and by what it holds; less for what few pages share. */
function signatureOf(o: Outline, main: readonly number[], share: (content: number) => number): Signature {
  const compared = comparedBlocks(o, main);
  // What a block says itself, what it says with all it holds, and how much of that counts.
  const own = Array.from({ length: o.count }, (_, i) => o.weight(i));
  for (let i = o.count - 1; i > 0; i--) own[o.parent(i)] = entryAt(own, o.parent(i)) - o.weight(i);
  const whole = own.map((w) => Math.min(w, LONG));
  const counted = new Float64Array(o.count);
  const kept: number[] = [];
  for (let i = o.count - 1; i > 0; i--) {
    const part = compared[i] ? share(o.content(i)) : 0;
    if (part > 0) kept.push(i);
    counted[i] = Math.max(entryAt(counted, i), part * entryAt(whole, i));
    whole[o.parent(i)] = entryAt(whole, o.parent(i)) + entryAt(whole, i);
    counted[o.parent(i)] = entryAt(counted, o.parent(i)) + entryAt(counted, i);
  }
  kept.reverse();
  return makeSignature(
    kept.map((i) => o.content(i)),
    kept.map((i) => entryAt(counted, i)),
    endsAmong(kept, (i) => o.end(i)),
  );
}

/** Ends of blocks as places in a row of some of them. */
function endsAmong(kept: readonly number[], end: (i: number) => number): number[] {
  const ends: number[] = new Array(kept.length);
  const open: number[] = [];
  for (let n = 0; n <= kept.length; n++) {
    for (let top = open.at(-1); top !== undefined; top = open.at(-1)) {
      if (n < kept.length && entryAt(kept, n) < end(entryAt(kept, top))) break;
      ends[top] = n;
      open.pop();
    }
    open.push(n);
  }
  return ends;
}

function makeSignature(
  contents: readonly number[],
  weights: readonly number[],
  ends: readonly number[],
): Signature {
  const has = new Set(contents);
  const bare = { contents, weights, ends, has, total: 0 };
  return { ...bare, total: heldIn(bare, has) };
}

/** The part of a signature that stands among `contents`: of each block the whole, or what it holds. */
function heldIn(s: Signature, contents: ReadonlySet<number>): number {
  let held = 0;
  for (let n = 0; n < s.contents.length; ) {
    const isHeld = contents.has(entryAt(s.contents, n));
    if (isHeld) held += entryAt(s.weights, n);
    n = isHeld ? entryAt(s.ends, n) : n + 1;
  }
  return held;
}

/** A signature without the blocks that are not among `contents`. */
function within(s: Signature, contents: ReadonlySet<number>): Signature {
  const kept = s.contents.flatMap((content, n) => (contents.has(content) ? [n] : []));
  return makeSignature(
    kept.map((n) => entryAt(s.contents, n)),
    kept.map((n) => entryAt(s.weights, n)),
    endsAmong(kept, (n) => entryAt(s.ends, n)),
  );
}

/** Weighted Jaccard similarity of what two signatures hold. */
function alike(a: Signature, b: Signature): number {
  const sum = a.total + b.total;
  // All of the lighter one in common would not be enough: most pairs end here.
  if (sum === 0 || Math.min(a.total, b.total) < ALIKE * Math.max(a.total, b.total)) return 0;
  const dice = (heldIn(a, b.has) + heldIn(b, a.has)) / sum;
  return dice / (2 - dice);
}

/** Each page joins the first group whose first page it is like. */
function cluster(signatures: readonly Signature[]): number[][] {
  const clusters: number[][] = [];
  // Pages that hold the same shared blocks are many, and need no comparing.
  const same = new Map<string, number[]>();
  for (const [page, signature] of signatures.entries()) {
    const key = [...signature.has].sort((a, b) => a - b).join();
    const isLike = ([first = 0]: readonly number[]) => alike(entryAt(signatures, first), signature) >= ALIKE;
    const likeOne = () => (signature.total > 0 ? clusters.slice(0, CLUSTERS).find(isLike) : undefined);
    const known = same.get(key) ?? likeOne();
    const home = known ?? [];
    if (!known) clusters.push(home);
    home.push(page);
    if (signature.total > 0) same.set(key, home);
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
  const cores = order.map((pages) => coreOf(pages, signatures));
  const ofGroups = cores.filter((_, n) => (order[n]?.length ?? 0) > 1);
  const inCores = new Set(ofGroups.flatMap((core) => [...core]));
  for (const [n, pages] of order.entries()) {
    const contents = entryAt(cores, n);
    const core = fullest(
      pages
        .slice(0, SAMPLE)
        .map((page) => within(entryAt(signatures, page), pages.length > 1 ? contents : inCores)),
    );
    const home = merged.find((m) => alike(m.core, core) >= ALIKE) ?? heldBy(pages, core, merged);
    if (home) home.pages.push(...pages);
    else merged.push({ pages: [...pages], core });
  }
  return merged.map((m) => m.pages.sort((a, b) => a - b));
}

/** A core as the page holds it that holds most of it. */
const fullest = (cores: readonly Signature[]): Signature =>
  cores.reduce((best, core) => (core.total > best.total ? core : best));

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
  const isHeld = (core: Signature) => core.total > 0 && heldIn(core, page.has) >= HELD * core.total;
  return groups
    .filter((g) => g.pages.length >= 3 && isHeld(g.core))
    .reduce<G | undefined>((best, g) => (best && best.core.total >= g.core.total ? best : g), undefined);
}

/** Contents that most pages of a group hold. */
function coreOf(pages: readonly number[], signatures: readonly Signature[]): ReadonlySet<number> {
  const counts = new Map<number, number>();
  for (const page of pages)
    for (const content of entryAt(signatures, page).has) counts.set(content, (counts.get(content) ?? 0) + 1);
  const least = Math.max(pages.length > 1 ? 2 : 1, pages.length * CORE);
  return new Set([...counts].filter(([, n]) => n >= least).map(([content]) => content));
}
