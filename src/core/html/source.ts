import iconv from 'iconv-lite';
import { type EncodingFrom, encodingOf } from './encoding';

/**
 * A page as its owner's bytes.
 *
 * parse5 works on strings, edits work on bytes. For every encoding in which ASCII bytes mean ASCII (UTF-8, the Windows
 * and ISO 8859 pages) the bytes are read one to one as WHATWG's x-user-defined does it: ASCII as itself, 0x80 to 0xFF
 * as U+F780 to U+F7FF. Markup is ASCII, so the tree is the same, every offset parse5 reports *is* a byte offset, and a
 * raw byte can never be mistaken for a character reference that the parser resolved. UTF-16 is read two bytes to a
 * character. Text for people is decoded on demand with {@link textOf}.
 */
export interface PageSource {
  readonly bytes: Uint8Array;
  /** WHATWG encoding label of the page's text. */
  readonly encoding: string;
  readonly encodingFrom: EncodingFrom;
  /** Bytes before the first character (a byte order mark). */
  readonly start: number;
  /** Bytes to one character of `structure`: 1, or 2 for UTF-16. */
  readonly unit: 1 | 2;
  /** What the parser sees. Offset i of it is byte start + i * unit. */
  readonly structure: string;
}

/** Reads a page's bytes in the encoding that {@link encodingOf} finds. */
export function readSource(bytes: Uint8Array): PageSource {
  const { encoding, encodingFrom, start } = encodingOf(bytes);
  const unit = encoding.startsWith('utf-16') ? 2 : 1;
  const body = Buffer.from(bytes.buffer, bytes.byteOffset + start, bytes.length - start);
  return {
    bytes,
    encoding,
    encodingFrom,
    start,
    unit,
    structure: structureOf(body, encoding),
  };
}

function structureOf(body: Buffer, encoding: string): string {
  if (encoding.startsWith('utf-16')) return utf16(body, encoding);
  return encoding === 'iso-2022-jp' ? escaped(body) : userDefined(body);
}

function utf16(body: Buffer, encoding: string): string {
  const even = body.subarray(0, body.length - (body.length % 2));
  return encoding === 'utf-16le' ? even.toString('utf16le') : Buffer.from(even).swap16().toString('utf16le');
}

/** Runs of ASCII are the rule: they are copied as they are, the rest byte by byte. */
const userDefined = (body: Buffer): string => body.toString('latin1').replace(/[\x80-\xff]+/g, lifted);

const lifted = (run: string): string => {
  let out = '';
  for (let i = 0; i < run.length; i++) out += String.fromCharCode(run.charCodeAt(i) + RAW);
  return out;
};

/**
 * ISO-2022-JP writes Japanese in bytes that look like ASCII, between escapes. Those bytes are lifted out of the
 * parser's sight too, as U+F700 + byte; the escapes themselves with them, so that a run decodes by itself.
 */
const escaped = (body: Buffer): string =>
  userDefined(body).replace(/\x1b\$[@B][\s\S]*?(?:\x1b\([BJ]|$)/g, (run) => lifted(run));

/** Added to a byte that is not markup: U+F780 to U+F7FF are WHATWG's x-user-defined, the lower half is our own. */
const RAW = 0xf700;

/** Encodings whose second bytes may be ASCII, so that ASCII next to a raw byte belongs to it. */
const multibyte = new Set(['shift_jis', 'gbk', 'gb18030', 'big5', 'euc-jp', 'euc-kr', 'iso-2022-jp']);

/** A piece of `structure` as the text people read. Character references the parser resolved stay as they are. */
export function textOf(source: Pick<PageSource, 'unit' | 'encoding'>, piece: string): string {
  if (source.unit === 2) return piece;
  const runs = multibyte.has(source.encoding) ? /[\0-\x7f\uf700-\uf7ff]+/g : /[\uf700-\uf7ff]+/g;
  return piece.replace(runs, (run) => decode(rawBytes(run), source.encoding));
}

/** Not Node's TextDecoder for the old encodings: it reads windows-1252 as Latin-1, and loses the Euro sign and the quotes. */
const decode = (bytes: Uint8Array, encoding: string): string =>
  encoding !== 'utf-8' && iconv.encodingExists(encoding)
    ? iconv.decode(Buffer.from(bytes), encoding)
    : new TextDecoder(encoding).decode(bytes);

/** The low byte of each character. */
const rawBytes = (run: string): Uint8Array => Buffer.from(run, 'latin1');

/** Structure text (ASCII, or raw bytes as U+F780 to U+F7FF) as bytes of the page. The inverse of reading. */
export function encodeStructure(source: Pick<PageSource, 'unit' | 'encoding'>, text: string): Uint8Array {
  if (source.unit === 1) return rawBytes(text);
  const le = Buffer.from(text, 'utf16le');
  return source.encoding === 'utf-16be' ? le.swap16() : le;
}

/** Not a page: NUL bytes in something that is not UTF-16. Says why, in words for the owner, or nothing. */
export function whyNotHtml(source: PageSource): string | undefined {
  const probe = source.structure.slice(0, 4096);
  if (source.unit === 1 && probe.includes('\0')) return 'holds binary data, not text';
  if (!/<\s*[!a-z/?]/i.test(source.structure)) return 'holds no HTML tag';
  return undefined;
}
