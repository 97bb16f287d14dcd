import { encodeStructure, type PageSource } from './source';

/**
 * One splice: at character offset `at` of a page's structure, `removed` goes and `inserted` comes. Inserted text is
 * structure text: ASCII, or the owner's own raw bytes being put back. A list of edits all speak of the same, unedited
 * page; edits at one offset apply in list order.
 */
export interface Edit {
  readonly at: number;
  readonly removed: string;
  readonly inserted: string;
}

export class EditError extends Error {
  override name = 'EditError';
}

export const insertion = (at: number, inserted: string): Edit => ({ at, removed: '', inserted });

/** Stable order by place; edits at one place keep the order they were given in. */
export function sortEdits(edits: readonly Edit[]): Edit[] {
  return [...edits].sort((a, b) => a.at - b.at);
}

/**
 * Checks that edits fit the text: each removed piece stands where it is said to, none overlap, inserted text can be written in the page's encoding.
 * @throws EditError naming the first edit that does not fit.
 */
function check(
  { structure: text, unit }: Pick<PageSource, 'structure' | 'unit'>,
  edits: readonly Edit[],
): void {
  let end = 0;
  for (const e of edits) {
    if (e.at < end || e.at > text.length)
      throw new EditError(`edit at ${e.at} overlaps the one before it or lies outside the page`);
    if (text.slice(e.at, e.at + e.removed.length) !== e.removed)
      throw new EditError(`the text at ${e.at} is not what the edit removes`);
    if (unit === 1 && /[^\0-\x7f\uf700-\uf7ff]/.test(e.inserted))
      throw new EditError(`edit at ${e.at} inserts text beyond ASCII`);
    end = e.at + e.removed.length;
  }
}

/** The edited bytes: the owner's own, but for the splices. @throws EditError */
export function applyEdits(source: PageSource, edits: readonly Edit[]): Uint8Array {
  const sorted = sortEdits(edits);
  check(source, sorted);
  const pieces: Uint8Array[] = [];
  let from = 0;
  for (const e of sorted) {
    const at = source.start + e.at * source.unit;
    pieces.push(source.bytes.subarray(from, at), encodeStructure(source, e.inserted));
    from = at + e.removed.length * source.unit;
  }
  pieces.push(source.bytes.subarray(from));
  return Buffer.concat(pieces);
}

/**
 * The edits that take the edited page back to this one.
 */
export function invertEdits(edits: readonly Edit[]): Edit[] {
  let shift = 0;
  return sortEdits(edits).map((e) => {
    const inverse = { at: e.at + shift, removed: e.inserted, inserted: e.removed };
    shift += e.inserted.length - e.removed.length;
    return inverse;
  });
}
