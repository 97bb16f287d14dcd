import { applyEdits, type Edit } from './edits';
import { readSource } from './source';

/**
 * Everything Green Stall inserts stands between two comments that name its placement, so that it can be taken out
 * from the files alone: <!--stall 4f2a9c01--> … <!--/stall 4f2a9c01-->
 */
export const fence = (id: string, html: string): string => {
  if (!/^[\w-]{1,40}$/.test(id)) throw new RangeError(`"${id}" cannot name a fence: letters, digits, - and _ only`);
  return `<!--stall ${id}-->${html}<!--/stall ${id}-->`;
};

const opening = /<!--stall ([\w-]{1,40})-->/g;

export interface FenceFault {
  readonly id: string;
  readonly at: number;
  readonly what: 'unclosed';
}

/** Edits that remove every fenced piece, and the fences that somebody half deleted (left alone, reported). */
export function stripEdits(structure: string): { edits: Edit[]; faults: FenceFault[] } {
  const edits: Edit[] = [];
  const faults: FenceFault[] = [];
  opening.lastIndex = 0;
  for (let m = opening.exec(structure); m; m = opening.exec(structure)) {
    const id = m[1] ?? '';
    const closing = `<!--/stall ${id}-->`;
    const end = structure.indexOf(closing, opening.lastIndex);
    if (end < 0) {
      faults.push({ id, at: m.index, what: 'unclosed' });
      continue;
    }
    const stop = end + closing.length;
    edits.push({ at: m.index, removed: structure.slice(m.index, stop), inserted: '' });
    opening.lastIndex = stop;
  }
  return { edits, faults };
}

/** A published page with everything of Green Stall taken out again. */
export function strip(bytes: Uint8Array): { bytes: Uint8Array; faults: FenceFault[] } {
  const source = readSource(bytes);
  const { edits, faults } = stripEdits(source.structure);
  return { bytes: edits.length ? applyEdits(source, edits) : bytes, faults };
}
