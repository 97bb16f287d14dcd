import { entryAt } from '../entries';
import { applyEdits, type Edit, insertion, sortEdits } from '../html/edits';
import { fence } from '../html/fence';
import { readSource } from '../html/source';
import { type Element, isElement, isText, type Node, PageTooBig, parsePage, sameTreeBut } from '../html/tree';
import { containerOfPitch, type Pitch } from '../site/pitch';
import type { ParsedPage } from '../site/read-page';
import { listSpots } from '../site/spot';

/** An insertion and the element of the owner's page that it must come to stand in. */
export interface Landing {
  readonly edit: Edit;
  readonly container?: Element;
}

/** What else changes on the page, inside one element that nobody looks into here. */
export interface ChangedWithin {
  readonly edits: readonly Edit[];
  readonly roots: readonly Element[];
  /** Whether what stands in them is right. */
  readonly reads: (edited: Pick<ParsedPage, 'source' | 'doc'>) => boolean;
}

/**
 * The tree of the edited page is the old tree plus nodes whose source lies inside an insertion, each in the element it
 * was meant for: nothing moved, nothing else came. Comments (fences, includes) may stand anywhere, nobody sees them.
 * @param within a menu that is written anew at the same time: one parsing proves both. No landing may lie inside it.
 */
export function holdsTreeLaw(
  page: ParsedPage,
  landings: readonly Landing[],
  within?: ChangedWithin,
): boolean {
  const edits = sortEdits([...landings.map((l) => l.edit), ...(within?.edits ?? [])]);
  const homes = new Map(landings.map((l) => [l.edit, l.container]));
  const ranges: { from: number; to: number; home: Element | undefined }[] = [];
  let shift = 0;
  for (const e of edits) {
    ranges.push({ from: e.at + shift, to: e.at + shift + e.inserted.length, home: homes.get(e) });
    shift += e.inserted.length - e.removed.length;
  }
  const after = reparse(page, edits);
  return (
    after !== undefined &&
    sameTreeBut(
      page.doc,
      after.doc,
      (node, parent) => isOurs(node, parent, ranges),
      new Set<Node>(within?.roots),
    ) &&
    (within?.reads(after) ?? true)
  );
}

function reparse(page: ParsedPage, edits: readonly Edit[]): Pick<ParsedPage, 'source' | 'doc'> | undefined {
  try {
    const source = readSource(applyEdits(page.source, edits));
    return { source, doc: parsePage(source) };
  } catch (error) {
    if (error instanceof PageTooBig) return undefined;
    throw error;
  }
}

function isOurs(
  node: Node,
  parent: Node,
  ranges: readonly { from: number; to: number; home: Element | undefined }[],
): boolean {
  const at = node.sourceCodeLocation;
  if (!at) return false;
  const range = rangeAt(ranges, at.startOffset);
  // A text node is ours only when all of it is: else it is the owner's, joined to what was put before it.
  if (!range || (isText(node) && at.endOffset > range.to)) return false;
  return !isElement(node) && !isText(node) ? true : range.home === undefined || range.home === parent;
}

/** The range an offset lies in; ranges are sorted and apart. */
function rangeAt<R extends { from: number; to: number }>(ranges: readonly R[], at: number): R | undefined {
  let low = 0;
  let high = ranges.length - 1;
  while (low <= high) {
    const mid = (low + high) >> 1;
    const r = entryAt(ranges, mid);
    if (at < r.from) high = mid - 1;
    else if (at >= r.to) low = mid + 1;
    else return r;
  }
  return undefined;
}

/** What stands in for a widget when a spot is tried out: an element, and the script that the first one carries. */
const probe = fence('probe', '<stall-buy><a href="#">x</a></stall-buy><script async src="#"></script>');

/**
 * Of these pitches, those where a widget really may stand: all are tried at once in one parsing, and halves of them
 * where that breaks the law.
 */
export function provenPitches(page: ParsedPage, pitches: readonly Pitch[]): Pitch[] {
  const homes = new Map(listSpots(page).map((s) => [`${s.offset} ${s.prefix}`, s.container]));
  const landing = (p: Pitch): Landing => {
    const container = homes.get(`${p.offset} ${p.prefix}`) ?? containerOfPitch(page, p);
    return { edit: insertion(p.offset, p.prefix + probe), ...(container && { container }) };
  };
  const proven = (some: readonly Pitch[]): readonly Pitch[] => {
    if (some.length === 0 || holdsTreeLaw(page, some.map(landing))) return some;
    if (some.length === 1) return [];
    const half = some.length >> 1;
    return [...proven(some.slice(0, half)), ...proven(some.slice(half))];
  };
  return [...proven(pitches)];
}
