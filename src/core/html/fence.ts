import { applyEdits, type Edit } from './edits';
import { encodeStructure, type PageSource, readSource } from './source';

/**
 * Everything Green Stall writes into a page stands between two comments that name what it belongs to, so that it can
 * be taken out from the files alone: <!--stall 4f2a9c01--> … <!--/stall 4f2a9c01-->
 * Where something of the owner's had to go (a menu item renamed or moved), the opening comment carries it, as its own
 * bytes in base64: <!--stall m0000001 was PGxpPg==--> … <!--/stall m0000001-->
 */
export function fence(
  id: string,
  html: string,
  was?: { readonly source: Pick<PageSource, 'unit' | 'encoding'>; readonly text: string },
): string {
  if (!/^[\w-]{1,40}$/.test(id))
    throw new RangeError(`"${id}" cannot name a fence: letters, digits, - and _ only`);
  const kept = was?.text
    ? ` was ${Buffer.from(encodeStructure(was.source, was.text)).toString('base64')}`
    : '';
  return `<!--stall ${id}${kept}-->${html}<!--/stall ${id}-->`;
}

/** Says that a whole file is Green Stall's: a page built for the shop. */
export const pageMark = (part: string): string => `<!--stall-page ${part}-->`;
const pageMarked = /<!--stall-page [\w-]{1,40}-->/;

/** Whether a page was built by Green Stall, and goes when it leaves. */
export const isBuilt = (structure: string): boolean => pageMarked.test(structure);

const either = /<!--(\/?)stall ([\w-]{1,40})(?: was ([A-Za-z0-9+/=]+))?-->/g;

export interface FenceFault {
  readonly id: string;
  /** Offset into the page's structure, and its line from 1. */
  readonly at: number;
  readonly line: number;
  /** Opened and not closed; closed and not opened; or tangled up with another fence. */
  readonly what: 'unclosed' | 'unopened' | 'crossed';
}

export interface FencedPiece {
  readonly id: string;
  readonly from: number;
  readonly to: number;
  /** Base64 of what stood there before. */
  readonly was: string;
}

/**
 * The fenced pieces of a page, and the fences that somebody half deleted. A fence that is not whole, or that another
 * begins or ends inside, says nothing certain about what stands between: it is reported and left alone.
 */
export function readFences(structure: string): { pieces: FencedPiece[]; faults: FenceFault[] } {
  const pieces: FencedPiece[] = [];
  const faults: FenceFault[] = [];
  const fault = (id: string, at: number, what: FenceFault['what']) =>
    faults.push({ id, at, line: lineAt(structure, at), what });
  let open: FencedPiece | undefined;
  let crossed = false;
  for (const m of structure.matchAll(either)) {
    const [all, slash, id = '', was = ''] = m;
    if (!slash) {
      if (open) fault(open.id, open.from, crossed ? 'crossed' : 'unclosed');
      open = { id, from: m.index, to: 0, was };
      crossed = false;
    } else if (open?.id === id) {
      pieces.push({ ...open, to: m.index + all.length });
      open = undefined;
    } else {
      fault(id, m.index, 'unopened');
      crossed = true;
    }
  }
  if (open) fault(open.id, open.from, 'unclosed');
  return { pieces, faults: faults.sort((a, b) => a.at - b.at) };
}

export const lineAt = (text: string, at: number): number => {
  let line = 1;
  for (let i = text.indexOf('\n'); i >= 0 && i < at; i = text.indexOf('\n', i + 1)) line++;
  return line;
};

/** Edits that take fenced pieces out and put back what stood there; `mine` limits them to some ids. */
export function stripEdits(
  source: PageSource,
  mine: (id: string) => boolean = () => true,
): { edits: Edit[]; faults: FenceFault[] } {
  const { pieces, faults } = readFences(source.structure);
  const edits = pieces
    .filter((p) => mine(p.id))
    .map((p) => ({
      at: p.from,
      removed: source.structure.slice(p.from, p.to),
      inserted: asStructure(source, p.was),
    }));
  return { edits, faults };
}

const asStructure = (source: PageSource, base64: string): string => {
  const bytes = Buffer.from(base64, 'base64');
  if (source.unit === 1) return readRaw(bytes);
  return (source.encoding === 'utf-16be' ? Buffer.from(bytes).swap16() : bytes).toString('utf16le');
};

const readRaw = (bytes: Buffer): string =>
  bytes.toString('latin1').replace(/[\x80-\xff]/g, (c) => String.fromCharCode(c.charCodeAt(0) + 0xf700));

/** A published page with everything of Green Stall (or of `mine`) taken out again. */
export function strip(
  bytes: Uint8Array,
  mine?: (id: string) => boolean,
): { bytes: Uint8Array; faults: FenceFault[] } {
  const source = readSource(bytes);
  const { edits, faults } = stripEdits(source, mine);
  return { bytes: edits.length ? applyEdits(source, edits) : bytes, faults };
}
