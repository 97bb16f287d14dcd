import { detect } from 'chardet';
import sniff from 'html-encoding-sniffer';

/**
 * Where the encoding of a page is known from: its byte order mark, its own declaration, the pattern of its bytes
 * (UTF-16 without a mark, valid UTF-8), a guess from the letters, or nothing at all.
 */
export type EncodingFrom = 'bom' | 'meta' | 'content' | 'guess' | 'fallback';

export interface PageEncoding {
  /** WHATWG name in lower case. */
  readonly encoding: string;
  readonly encodingFrom: EncodingFrom;
  /** Bytes before the first character. */
  readonly start: number;
}

const boms: readonly [readonly number[], string][] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0xfe, 0xff], 'utf-16be'],
];

/** Stands for "nothing declared" in answers of the sniffer; any real label would do that no page can name. */
const none = 'x-nothing-declared';

/**
 * The order browsers go by (HTML standard, "determining the character encoding"): byte order mark, then the declaration
 * in the first 1024 bytes; where there is none, valid UTF-8, and else what the letters look like.
 */
export function encodingOf(bytes: Uint8Array): PageEncoding {
  for (const [mark, encoding] of boms) {
    if (mark.every((b, i) => bytes[i] === b)) return { encoding, encodingFrom: 'bom', start: mark.length };
  }
  const bare = (encoding: string, encodingFrom: EncodingFrom) => ({ encoding, encodingFrom, start: 0 });
  const wide = utf16Pattern(bytes);
  if (wide) return bare(wide, 'content');
  const declared = sniff(bytes, { defaultEncoding: none }).toLowerCase();
  if (declared !== none) return bare(declared, 'meta');
  const late = lateDeclaration(bytes);
  if (late) return bare(late, 'meta');
  if (isUtf8(bytes)) return bare('utf-8', 'content');
  const guessed = guess(bytes);
  return guessed ? bare(guessed, 'guess') : bare('windows-1252', 'fallback');
}

/** Markup is ASCII: in UTF-16 every other of its bytes is NUL. A file with NULs on both sides is no text at all. */
function utf16Pattern(bytes: Uint8Array): string | undefined {
  const end = Math.min(bytes.length & ~1, 512);
  if (end < 8) return undefined;
  let even = 0;
  let odd = 0;
  for (let i = 0; i < end; i += 2) {
    if (bytes[i] === 0) even++;
    if (bytes[i + 1] === 0) odd++;
  }
  const many = end / 4;
  if (even === 0 && odd > many) return 'utf-16le';
  return odd === 0 && even > many ? 'utf-16be' : undefined;
}

/** How far a declaration is looked for that comes after the first 1024 bytes. */
const LATE = 262_144;

/** A browser that meets a declaration later on starts again with it (HTML standard, "changing the encoding while parsing"). */
function lateDeclaration(bytes: Uint8Array): string | undefined {
  if (bytes.length <= 1024) return undefined;
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, LATE)).toString('latin1');
  if (!/<meta\b/i.test(head)) return undefined;
  const plain = head.replace(/<!--[\s\S]*?-->|<(script|style|title|textarea)\b[\s\S]*?<\/\1\s*>/gi, '');
  for (const [tag] of plain.matchAll(/<meta\b[^>]*charset[^>]*>/gi)) {
    const found = sniff(Buffer.from(tag, 'latin1'), { defaultEncoding: none }).toLowerCase();
    if (found !== none) return found;
  }
  return undefined;
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** What the detector sees of a page: enough text to be sure, and no markup, which looks like English everywhere. */
const LETTERS = 16_384;
/** Letters beyond ASCII that a guess needs: fewer say nothing, and the West is the likelier. Chosen by hand. */
const ENOUGH = 16;

function guess(bytes: Uint8Array): string | undefined {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.length, LETTERS * 8))
    .toString('latin1')
    .replace(/<(script|style)\b[\s\S]*?<\/\1\s*>|<!--[\s\S]*?-->|<[^>]*>|&#?\w+;|[ -@]+/gi, ' ')
    .slice(0, LETTERS);
  if ((text.match(/[\x80-\xff]/g)?.length ?? 0) < ENOUGH) return undefined;
  const found = detect(Buffer.from(text, 'latin1'));
  try {
    const label = found && new TextDecoder(found).encoding;
    return label && !label.startsWith('utf') ? label : undefined;
  } catch {
    return undefined;
  }
}
