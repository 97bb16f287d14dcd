import { applyEdits, type Edit } from '../../html/edits';
import { attr, descendants, type Element } from '../../html/tree';
import type { PagePath } from '../../site/paths';
import { parsePageFile } from '../../site/read-page';
import { readShortcodes } from '../shortcode';

/**
 * A page of a live site without what was pasted into it of ours: elements, frames, the script, shortcodes. The draft puts them where they
 * stand now, and would show them twice. A page that holds nothing of it stays as it is, byte for byte.
 * @param shop the shop's origin: other shops' code is the owner's affair
 */
export function withoutPasted(path: PagePath, bytes: Uint8Array, shop: string): Buffer {
  const whole = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (!whole.includes('stall') && !whole.includes(shop)) return whole;
  const read = parsePageFile(path, bytes);
  if ('problem' in read) return whole;
  const { source, doc } = read.page;
  const edits: Edit[] = [];
  let end = 0;
  const takeOut = (from: number, to: number) => {
    // What lies inside something that goes, goes with it.
    if (from < end) return;
    edits.push({ at: from, removed: source.structure.slice(from, to), inserted: '' });
    end = to;
  };
  const pieces = [...descendants(doc)].flatMap((el) => (isOurs(el, shop) ? [rangeOf(el)] : []));
  const codes = shortcodesIn(source.structure);
  for (const [from, to] of [...pieces.filter((p) => p !== undefined), ...codes].sort((a, b) => a[0] - b[0]))
    takeOut(from, to);
  return edits.length ? Buffer.from(applyEdits(source, edits)) : whole;
}

const rangeOf = (el: Element): readonly [number, number] | undefined => {
  const at = el.sourceCodeLocation;
  return at ? [at.startOffset, at.endOffset] : undefined;
};

function isOurs(el: Element, shop: string): boolean {
  const at = (name: string) => (attr(el, name) ?? '').startsWith(`${shop}/`);
  if (el.tagName === 'script') return at('src') && /\/stall(-more)?\.js/.test(attr(el, 'src') ?? '');
  if (el.tagName === 'iframe') return at('src');
  return /^stall-[a-z-]+$/.test(el.tagName) && (attr(el, 'shop') === undefined || at('shop'));
}

/** Shortcodes as they stand in a page's source; those with character references in them are found by the quotes that they keep. */
const shortcodesIn = (structure: string): (readonly [number, number])[] =>
  readShortcodes(structure).map(({ from, to }) => [from, to] as const);
