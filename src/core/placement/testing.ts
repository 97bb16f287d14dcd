import { isBlock, isClosed, isInvisible } from '../html/content-model';
import { applyEdits, type Edit, insertion, sortEdits } from '../html/edits';
import {
  ancestors,
  bodyOf,
  childrenOf,
  descendants,
  type Element,
  isText,
  type TextNode,
} from '../html/tree';
import { type ParsedPage, parsePageFile } from '../site/read-page';
import type { Pitch } from '../site/pitch';
import { resolveFrom } from '../site/resolve-pitch';
import { regionsOf } from '../site/regions';

/** What an owner does to a page between two versions of it, as edits; for tests and benchmarks of finding pitches again. */
export type Next = (below: number) => number;

export interface Mutated {
  readonly page: ParsedPage;
  readonly edits: readonly Edit[];
  /** Blocks that were cut out and put in elsewhere: where they came from, and their place in the new text. */
  readonly moves: readonly { readonly from: number; readonly length: number; readonly to: number }[];
}

type Mutation = (
  page: ParsedPage,
  next: Next,
) => { edits: Edit[]; moved?: { from: number; length: number; at: number }[] } | undefined;

const source = (el: Element, page: ParsedPage): string =>
  page.source.structure.slice(el.sourceCodeLocation?.startOffset ?? 0, el.sourceCodeLocation?.endOffset ?? 0);

/** Closed to widgets, but owners move them all the same. */
const movable = new Set([
  'p',
  'div',
  'section',
  'article',
  'ul',
  'h2',
  'h3',
  'figure',
  'blockquote',
  'pre',
  'table',
  'dl',
]);

/** Blocks that stand whole in the source, and none of which holds most of the page. */
function blocksOf(page: ParsedPage): Element[] {
  const body = bodyOf(page.doc);
  if (!body) return [];
  return [...descendants(body)].filter((el) => {
    const at = el.sourceCodeLocation;
    return (
      at?.startTag &&
      at.endTag &&
      isBlock(el) &&
      ![...ancestors(el)].some(isClosed) &&
      !isInvisible(el) &&
      movable.has(el.tagName) &&
      at.endOffset - at.startOffset < page.source.structure.length / 4
    );
  });
}

/** Some blocks, none inside another. */
function pick(page: ParsedPage, next: Next, howMany: number): Element[] {
  const all = blocksOf(page);
  const picked: Element[] = [];
  for (let tries = 0; tries < howMany * 6 && picked.length < howMany && all.length; tries++) {
    const el = all[next(all.length)] as Element;
    const at = el.sourceCodeLocation;
    if (
      at &&
      picked.every(
        (p) =>
          (p.sourceCodeLocation?.endOffset ?? 0) <= at.startOffset ||
          (p.sourceCodeLocation?.startOffset ?? 0) >= at.endOffset,
      )
    )
      picked.push(el);
  }
  return picked;
}

function textsOf(page: ParsedPage): TextNode[] {
  const body = bodyOf(page.doc);
  const seen = [...(body ? descendants(body) : [])].filter((el) => !isInvisible(el));
  return seen.flatMap((el) => childrenOf(el).filter(isText));
}

/** Where a block may come in: before a block whose parent holds blocks. */
const fresh = (next: Next): string =>
  `<p>A new paragraph number ${next(100_000)} about lanterns, ladders and lime.</p>`;

export const mutations: Readonly<Record<string, Mutation>> = {
  'text edited'(page, next) {
    const edits: Edit[] = [];
    for (const node of textsOf(page)) {
      const at = node.sourceCodeLocation;
      if (!at || node.value.trim().length < 20 || next(3) > 0) continue;
      const raw = page.source.structure.slice(at.startOffset, at.endOffset);
      for (const m of raw.matchAll(/[a-z]{4,}/g))
        if (next(5) === 0) edits.push({ at: at.startOffset + m.index, removed: m[0], inserted: 'altered' });
    }
    return { edits };
  },
  'blocks inserted': (page, next) => ({
    edits: pick(page, next, 4).map((el) => insertion(el.sourceCodeLocation?.startOffset ?? 0, fresh(next))),
  }),
  'blocks removed': (page, next) => ({
    edits: pick(page, next, 2).map((el) => ({
      at: el.sourceCodeLocation?.startOffset ?? 0,
      removed: source(el, page),
      inserted: '',
    })),
  }),
  'blocks moved'(page, next) {
    const [what, where] = pick(page, next, 2);
    const from = what?.sourceCodeLocation?.startOffset;
    const at = where?.sourceCodeLocation?.startOffset;
    if (!what || from === undefined || at === undefined) return undefined;
    const text = source(what, page);
    return {
      edits: [{ at: from, removed: text, inserted: '' }, insertion(at, text)],
      moved: [{ from, length: text.length, at }],
    };
  },
  'blocks wrapped': (page, next) => ({
    edits: pick(page, next, 3).flatMap((el) => [
      insertion(el.sourceCodeLocation?.startOffset ?? 0, '<div class="frame"><div>'),
      insertion(el.sourceCodeLocation?.endOffset ?? 0, '</div></div>'),
    ]),
  }),
  'classes renamed': (page) => ({
    edits: attributes(page)
      .filter((a) => a.name === 'class')
      .map((a) => ({
        at: a.at,
        removed: a.text,
        inserted: a.text.replace(/[\w-]{2,}(?=["'\s]|$)/g, (c) => `x${c.length}${c.slice(0, 1)}`),
      })),
  }),
  'attributes reordered': (page) => ({
    edits: startTags(page).flatMap(({ at, attrs }) => reorder(page, at, attrs)),
  }),
  'template changed'(page, next) {
    const main = regionsOf(page).get('main');
    const first =
      main?.first?.sourceCodeLocation?.startOffset ?? main?.element.sourceCodeLocation?.startTag?.endOffset;
    const last =
      (main?.last ?? main?.first)?.sourceCodeLocation?.endOffset ??
      main?.element.sourceCodeLocation?.endTag?.startOffset;
    const body = bodyOf(page.doc)?.sourceCodeLocation;
    if (
      !main ||
      first === undefined ||
      last === undefined ||
      !body?.startTag ||
      !body.endTag ||
      isClosed(main.element)
    )
      return undefined;
    const { structure } = page.source;
    const open = `<div id="all"><div class="bar"><b>New look ${next(90)}</b> <a href="/">Start</a> <a href="/a">Wares</a> <a href="/b">Words</a></div><table><tr><td class="mid"><div class="col">`;
    return {
      edits: [
        {
          at: body.startTag.endOffset,
          removed: structure.slice(body.startTag.endOffset, first),
          inserted: open,
        },
        {
          at: last,
          removed: structure.slice(last, body.endTag.startOffset),
          inserted: '</div></td></tr></table><div class="end">Ours since then</div></div>',
        },
      ],
    };
  },
};

function startTags(
  page: ParsedPage,
): { at: number; attrs: Record<string, { startOffset: number; endOffset: number }> }[] {
  const body = bodyOf(page.doc);
  return body
    ? [...descendants(body)].flatMap((el) =>
        el.sourceCodeLocation?.attrs
          ? [{ at: el.sourceCodeLocation.startOffset, attrs: el.sourceCodeLocation.attrs }]
          : [],
      )
    : [];
}

const attributes = (page: ParsedPage) =>
  startTags(page).flatMap(({ attrs }) =>
    Object.entries(attrs).map(([name, p]) => ({
      name,
      at: p.startOffset,
      text: page.source.structure.slice(p.startOffset, p.endOffset),
    })),
  );

/** The last attribute first. */
function reorder(
  page: ParsedPage,
  _: number,
  attrs: Record<string, { startOffset: number; endOffset: number }>,
): Edit[] {
  const places = Object.values(attrs).sort((a, b) => a.startOffset - b.startOffset);
  const [first] = places;
  const last = places.at(-1);
  if (!first || !last || first === last) return [];
  const texts = places.map((p) => page.source.structure.slice(p.startOffset, p.endOffset));
  const removed = page.source.structure.slice(first.startOffset, last.endOffset);
  return texts.every((t) => /=\s*["']/.test(t))
    ? [{ at: first.startOffset, removed, inserted: [...texts].reverse().join(' ') }]
    : [];
}

/** One or several mutations, one after the other, of a page. */
export function mutate(page: ParsedPage, mutation: Mutation, next: Next): Mutated | undefined {
  const made = mutation(page, next);
  if (!made || made.edits.length === 0) return undefined;
  const edits = sortEdits(made.edits);
  const parsed = parsePageFile(page.path, applyEdits(page.source, edits));
  if ('problem' in parsed) return undefined;
  const moves = (made.moved ?? []).map((m) => ({
    from: m.from,
    length: m.length,
    to: mapped(edits, m.at)[0] ?? 0,
  }));
  return { page: parsed.page, edits, moves };
}

/** Where an offset of the old text is in the new: before and after whatever came in right there. */
export function mapped(edits: readonly Edit[], offset: number): number[] {
  let shift = 0;
  let here = 0;
  for (const e of edits) {
    if (e.at > offset || (e.at === offset && e.removed !== '')) break;
    if (e.at + e.removed.length > offset) return [e.at + shift, e.at + shift + e.inserted.length];
    if (e.at === offset) here += e.inserted.length;
    shift += e.inserted.length - e.removed.length;
  }
  return [offset + shift - here, offset + shift];
}

export type Verdict = 'right' | 'reported' | 'wrong';

/**
 * What became of a pitch. Right is any spot with nothing to see between it and where the pitch was: the same
 * neighbours, whatever wraps them. Where a neighbour was moved, beside it at its new place is right as well.
 */
export function judge(
  before: ParsedPage,
  pitch: Pitch,
  after: Mutated,
): { verdict: Verdict; stands: boolean; got?: Pitch } {
  const found = resolveFrom(before, after.page, pitch.address);
  const truths = mapped(after.edits, pitch.offset);
  for (const m of after.moves) {
    if (pitch.offset > m.from && pitch.offset < m.from + m.length) truths.push(m.to + pitch.offset - m.from);
    if (m.from + m.length === pitch.offset || touches(before, m.from + m.length, pitch.offset))
      truths.push(m.to + m.length);
    if (m.from === pitch.offset || touches(before, m.from, pitch.offset)) truths.push(m.to);
  }
  const { structure } = after.page.source;
  const stands = neighboursStand(before, pitch, after);
  if (!found.found) return { verdict: 'reported', stands };
  // What came in is no neighbour: on either side of it is right.
  const came = after.edits
    .map((e) => e.inserted)
    .filter((text) => text.length > 8)
    .sort((a, b) => b.length - a.length);
  const right = truths.some((t) => nothingBetween(structure, t, found.pitch.offset, came));
  if (!right && process.env.STALL_BENCH_MISSES)
    process.stderr.write(
      `  apart: ${JSON.stringify(truths.map((t) => structure.slice(Math.min(t, found.pitch.offset), Math.max(t, found.pitch.offset)).slice(0, 300)))}\n`,
    );
  return { verdict: right ? 'right' : 'wrong', stands, got: found.pitch };
}

const touches = (page: ParsedPage, a: number, b: number): boolean =>
  nothingBetween(page.source.structure, a, b);

function nothingBetween(structure: string, a: number, b: number, came: readonly string[] = []): boolean {
  const piece = came.reduce(
    (text, one) => text.replaceAll(one, ''),
    structure.slice(Math.min(a, b), Math.max(a, b)),
  );
  return (
    !/<(img|input|iframe|video|hr|svg)\b/i.test(piece) &&
    piece.replace(/<!--[\s\S]*?-->|<(script|style)\b[\s\S]*?<\/\1\s*>|<[^>]*>/gi, '').trim() === ''
  );
}

/** Whether the neighbours still stand: the last words before the pitch and the first after it, with a new block between at most. */
function neighboursStand(before: ParsedPage, pitch: Pitch, after: Mutated): boolean {
  const [far, near] = [
    lettersBefore(before.source.structure, pitch.offset),
    lettersAfter(before.source.structure, pitch.offset),
  ];
  const now = letters(after.page.source.structure);
  for (let i = now.indexOf(far); i >= 0; i = now.indexOf(far, i + 1))
    if (now.slice(i + far.length, i + far.length + near.length + 90).includes(near)) return true;
  return false;
}

const letters = (html: string): string =>
  html.replace(/<!--[\s\S]*?-->|<(script|style)\b[\s\S]*?<\/\1\s*>|<[^>]*>|\s+/gi, '');
const lettersBefore = (structure: string, at: number): string => letters(structure.slice(0, at)).slice(-24);
const lettersAfter = (structure: string, at: number): string => letters(structure.slice(at)).slice(0, 24);
