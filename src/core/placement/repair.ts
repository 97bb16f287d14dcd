import { parseFragment } from 'parse5';
import { z } from 'zod';
import { applyEdits, type Edit } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import { fence } from '../html/fence';
import { readSource, textOf } from '../html/source';
import {
  ancestors,
  attr,
  bodyOf,
  childrenOf,
  collapse,
  type Element,
  find,
  isElement,
  isText,
  PageTooBig,
  parsePage,
  sameTreeBut,
  type TextNode,
} from '../html/tree';
import { fail, ok, type Result } from '../result';
import type { ParsedPage } from '../site/read-page';
import { elementAt } from '../site/regions';

const attribute = z.string().regex(/^[a-z][a-z-]{0,30}$/);

/** What is done at a spot of the owner's page. */
const repairDo = z.discriminatedUnion('do', [
  /** Other words in place of a piece of text; none takes it off. */
  z.object({ do: z.literal('text'), text: z.string().max(500) }),
  /** A product's price that never gets old, in place of one that was written by hand. */
  z.object({
    do: z.literal('price'),
    goods: z.string().min(1).max(80),
    choice: z.string().max(200).default(''),
  }),
  /** An attribute of an element with another value. */
  z.object({ do: z.literal('attribute'), name: attribute, value: z.string().max(2_000) }),
  /** An element goes, with all that is in it. */
  z.object({ do: z.literal('out') }),
]);

/**
 * A small change of the owner's own page, made anew at each publishing and kept in a fence with what stood there. The spot is known by its
 * source, which of those that are alike it is, and what stands around it.
 */
export const repair = z.object({
  id: z.string().regex(/^mend-[a-z0-9]{8,16}$/),
  page: z.string().min(1),
  source: z.string().min(1).max(4_000),
  nth: z.number().int().min(0),
  of: z.number().int().min(1),
  around: z.tuple([z.string().max(80), z.string().max(80)]).readonly(),
  act: repairDo,
  /** What it is, in words: "£39 is the price of the Berry trug". */
  words: z.string().max(200),
});
export type Repair = z.infer<typeof repair>;
export type RepairAct = z.infer<typeof repairDo>;

/** A repair as a check asks for it: the spot by block and text, or by block and an element's source. */
export interface RepairAsked {
  readonly page: string;
  readonly block: string;
  /** Text that people read, and which of those in the block; or the source of an element's start tag. */
  readonly text?: string;
  readonly nth?: number;
  readonly source?: string;
  readonly act: RepairAct;
  readonly words: string;
}

const AROUND = 40;
/** Text in these is not markup's: nothing can stand in it. */
const closed = new Set([
  'title',
  'textarea',
  'option',
  'select',
  'script',
  'style',
  'svg',
  'math',
  'template',
  'noscript',
  'button',
]);

/** Finds the spot that is asked for, and names it so that it is found again. */
export function spotOf(page: ParsedPage, asked: RepairAsked, id: string): Result<Repair> {
  const spots = asked.text === undefined ? elementSpots(page, asked) : textSpots(page, asked);
  const spot = spots[asked.nth ?? 0] ?? spots[0];
  if (!spot)
    return fail(
      'What was found there is no longer there, or is written in several pieces. Mend it in your own file.',
    );
  const source = page.source.structure.slice(spot[0], spot[1]);
  const alike = placesOf(page.source.structure, source);
  return ok({
    id,
    page: asked.page,
    source,
    nth: alike.indexOf(spot[0]),
    of: alike.length,
    around: aroundOf(page.source.structure, spot),
    act: asked.act,
    words: asked.words,
  });
}

type Spot = readonly [from: number, to: number];

function placesOf(text: string, piece: string): number[] {
  const out: number[] = [];
  for (let at = text.indexOf(piece); at >= 0; at = text.indexOf(piece, at + 1)) out.push(at);
  return out;
}

const aroundOf = (text: string, [from, to]: Spot): [string, string] => [
  collapse(text.slice(Math.max(0, from - AROUND), from)),
  collapse(text.slice(to, to + AROUND)),
];

function textSpots(page: ParsedPage, { block, text = '' }: RepairAsked): Spot[] {
  const body = bodyOf(page.doc);
  const root = body && elementAt(body, block);
  if (!root) return [];
  return [...textsIn(root)].flatMap((node) => spotsInText(page, node, text));
}

function* textsIn(root: Element): Generator<TextNode> {
  const stack = [...childrenOf(root)].reverse();
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (isText(node)) yield node;
    else if (isElement(node) && !closed.has(node.tagName)) stack.push(...[...childrenOf(node)].reverse());
  }
}

/** Where a text stands in the source of one node: letter by letter, references as what they mean, white space as one. */
function spotsInText(page: ParsedPage, node: TextNode, wanted: string): Spot[] {
  const place = node.sourceCodeLocation;
  if (!place) return [];
  const units = unitsOf(page, place.startOffset, place.endOffset);
  const text = units.map((u) => u.text).join('');
  const needle = fold(wanted);
  const spots: Spot[] = [];
  for (let at = fold(text).indexOf(needle); at >= 0; at = fold(text).indexOf(needle, at + needle.length)) {
    const first = unitAt(units, at);
    const last = unitAt(units, at + needle.length - 1);
    if (first && last) spots.push([first.from, last.to]);
  }
  return spots;
}

/** White space of any kind and no-break spaces are one blank each: letters keep their places. */
const fold = (text: string): string => text.replace(/[\s\u00a0\u202f]/g, ' ');

interface Unit {
  readonly text: string;
  readonly from: number;
  readonly to: number;
}

/** Source of a text in units: a character reference, or a run of raw bytes that are one character, is one. */
function unitsOf(page: ParsedPage, from: number, to: number): Unit[] {
  const source = page.source.structure.slice(from, to);
  const units: Unit[] = [];
  for (const m of source.matchAll(/&(?:#\d+|#x[\da-f]+|[a-z][a-z\d]*);?|[\uf700-\uf7ff]+|\s+|[\s\S]/gi)) {
    const at = from + m.index;
    const piece = m[0];
    if (piece.startsWith('&') && piece.length > 1)
      units.push({ text: referenced(piece), from: at, to: at + piece.length });
    else if (/^[\uf700-\uf7ff]/.test(piece)) units.push(...rawUnits(page, piece, at));
    else units.push({ text: /^\s/.test(piece) ? ' ' : piece, from: at, to: at + piece.length });
  }
  return units;
}

/** Raw bytes as the characters that they are: grown byte by byte until they are one. */
function rawUnits(page: ParsedPage, piece: string, at: number): Unit[] {
  const units: Unit[] = [];
  let from = 0;
  for (let to = 1; to <= piece.length; to++) {
    const text = textOf(page.source, piece.slice(from, to));
    if (text.includes('\ufffd') && to < piece.length && to - from < 4) continue;
    units.push({ text, from: at + from, to: at + to });
    from = to;
  }
  return units;
}

const referenced = (reference: string): string => {
  const [node] = parseFragment(reference).childNodes;
  return node && 'value' in node ? String(node.value) : reference;
};

function unitAt(units: readonly Unit[], at: number): Unit | undefined {
  let seen = 0;
  for (const u of units) {
    if (at < seen + u.text.length) return u;
    seen += u.text.length;
  }
  return undefined;
}

/** Elements that are written just so, in a block or anywhere. */
function elementSpots(page: ParsedPage, { source = '', act }: RepairAsked): Spot[] {
  if (!source) return [];
  const { structure } = page.source;
  return placesOf(structure, source).flatMap((at): Spot[] => {
    const el = elementFrom(page, at);
    const place = el?.sourceCodeLocation;
    if (!place) return [];
    return [[at, act.do === 'out' ? place.endOffset : (place.startTag?.endOffset ?? place.endOffset)]];
  });
}

const elementFrom = (page: ParsedPage, at: number): Element | undefined =>
  find(page.doc, (el) => el.sourceCodeLocation?.startOffset === at);

/** What a repair needs to be written. */
export interface RepairContext {
  /** A product's price as an element that never gets old. */
  readonly price: (goods: string, choice: string, id: string) => string;
}

/**
 * The edit of one repair on its page, proven: beside what was replaced the page's tree is the owner's. @returns why not, where the spot is no
 * longer there or a browser would read the page around it otherwise.
 */
export function repairEdit(page: ParsedPage, r: Repair, context: RepairContext): Result<Edit> {
  const { structure } = page.source;
  const at = findAgain(structure, r);
  if (at === undefined) return fail(`what it mends (${r.words}) is no longer on this page`);
  const inserted = writtenRepair(page, r, at, context);
  if (!inserted.ok) return inserted;
  const edit: Edit = {
    at,
    removed: r.source,
    inserted: fence(r.id, inserted.value, { source: page.source, text: r.source }),
  };
  return holds(page, edit, r) ? ok(edit) : fail(`a browser would read the page otherwise (${r.words})`);
}

/** The nearest letters to both sides: what stands farther off may change, and the spot is the same. Chosen by hand. */
const NEAR = 14;

/** The same source with the same surroundings, near ones at least; else the same one of as many. */
function findAgain(structure: string, r: Repair): number | undefined {
  const alike = placesOf(structure, r.source);
  const around = alike.map((at) => ({ at, sides: aroundOf(structure, [at, at + r.source.length]) }));
  const exact = around.filter(({ sides }) => sides[0] === r.around[0] && sides[1] === r.around[1]);
  const near = around.filter(({ sides }) => isNear(sides, r.around));
  for (const same of [exact, near]) {
    if (same.length === 1) return same[0]?.at;
    if (same.length > 1) return alike.length === r.of ? alike[r.nth] : undefined;
  }
  // With other surroundings only what is there once, as it was before, is surely the same.
  return alike.length === 1 && r.of === 1 && r.source.length > 6 ? alike[0] : undefined;
}

const isNear = (now: readonly [string, string], was: readonly [string, string]): boolean =>
  now[0].slice(-NEAR) === was[0].slice(-NEAR) && now[1].slice(0, NEAR) === was[1].slice(0, NEAR);

function writtenRepair(page: ParsedPage, r: Repair, at: number, context: RepairContext): Result<string> {
  const { act } = r;
  if (act.do === 'text') return ok(asciiHtml(escapeHtml(act.text)));
  if (act.do === 'price') return ok(asciiHtml(context.price(act.goods, act.choice, r.id)));
  if (act.do === 'out') return ok('');
  const el = elementFrom(page, at);
  return el ? ok(withAttribute(r.source, act.name, act.value)) : fail('the element it mends is gone');
}

/** A start tag with an attribute of another value, everything else as it is written. */
export function withAttribute(tag: string, name: string, value: string): string {
  const written = `${name}="${asciiHtml(escapeHtml(value))}"`;
  const own = new RegExp(`(\\s)${name}(?:\\s*=\\s*(?:"[^"]*"|'[^']*'|[^\\s>]*))?(?=[\\s/>])`, 'i');
  if (own.test(tag)) return tag.replace(own, (_, blank: string) => blank + written);
  return tag.replace(/^<[^\s/>]+/, (opening) => `${opening} ${written}`);
}

/**
 * The tree law of a repair: the page without the piece (of other words: with them, and no fence), and the page with what stands there
 * now, differ by that alone.
 */
function holds(page: ParsedPage, edit: Edit, r: Repair): boolean {
  try {
    const after = readSource(applyEdits(page.source, [edit]));
    if (r.act.do === 'attribute') return sameButAttribute(page, parsePage(after), edit, r);
    const bare = r.act.do === 'text' ? asciiHtml(escapeHtml(r.act.text)) : '';
    const without = readSource(applyEdits(page.source, [{ ...edit, inserted: bare }]));
    const to = edit.at + edit.inserted.length;
    return sameTreeBut(parsePage(without), parsePage(after), (node) => {
      const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : undefined;
      return !!place && !isText(node) && place.startOffset >= edit.at && place.endOffset <= to;
    });
  } catch (error) {
    if (error instanceof PageTooBig) return false;
    throw error;
  }
}

/** The element is there with its new value, and stands where it stood. */
function sameButAttribute(
  page: ParsedPage,
  after: ReturnType<typeof parsePage>,
  edit: Edit,
  r: Repair,
): boolean {
  if (r.act.do !== 'attribute') return false;
  const { name, value } = r.act;
  const start = edit.at + edit.inserted.indexOf('-->') + 3;
  const now = find(after, (el) => el.sourceCodeLocation?.startOffset === start);
  const was = elementFrom(page, edit.at);
  if (!now || !was || now.tagName !== was.tagName) return false;
  const depth = (el: Element) => [...ancestors(el)].length;
  return attr(now, name) === value && depth(now) === depth(was);
}
