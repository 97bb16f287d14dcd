import iconv from 'iconv-lite';

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
  readonly encodingFrom: 'bom' | 'meta' | 'content' | 'fallback';
  /** Bytes before the first character (a byte order mark). */
  readonly start: number;
  /** Bytes to one character of `structure`: 1, or 2 for UTF-16. */
  readonly unit: 1 | 2;
  /** What the parser sees. Offset i of it is byte start + i * unit. */
  readonly structure: string;
}

const boms: readonly [readonly number[], string][] = [
  [[0xef, 0xbb, 0xbf], 'utf-8'],
  [[0xff, 0xfe], 'utf-16le'],
  [[0xfe, 0xff], 'utf-16be'],
];

/** Bytes to look at for an encoding declaration: the WHATWG prescan looks at 1024. */
const PRESCAN = 1024;

/** Reads a page's bytes: byte order mark, then `<meta>`, then valid UTF-8, else Windows-1252 (WHATWG's fallback for the West). */
export function readSource(bytes: Uint8Array): PageSource {
  for (const [mark, encoding] of boms) {
    if (mark.every((b, i) => bytes[i] === b)) return build(bytes, encoding, 'bom', mark.length);
  }
  const declared = declaredEncoding(bytes);
  if (declared) return build(bytes, declared, 'meta', 0);
  if (isUtf8(bytes)) return build(bytes, 'utf-8', 'content', 0);
  return build(bytes, 'windows-1252', 'fallback', 0);
}

function build(bytes: Uint8Array, encoding: string, encodingFrom: PageSource['encodingFrom'], start: number): PageSource {
  const unit = encoding.startsWith('utf-16') ? 2 : 1;
  const body = Buffer.from(bytes.buffer, bytes.byteOffset + start, bytes.length - start);
  const structure = unit === 1 ? userDefined(body) : utf16(body, encoding);
  return { bytes, encoding, encodingFrom, start, unit, structure };
}

function utf16(body: Buffer, encoding: string): string {
  const even = body.subarray(0, body.length - (body.length % 2));
  return encoding === 'utf-16le' ? even.toString('utf16le') : Buffer.from(even).swap16().toString('utf16le');
}

function declaredEncoding(bytes: Uint8Array): string | undefined {
  const head = Buffer.from(bytes.subarray(0, PRESCAN)).toString('latin1');
  const label = /<meta[^>]+charset\s*=\s*["']?\s*([\w:.-]+)/i.exec(head)?.[1];
  if (!label) return undefined;
  try {
    const { encoding } = new TextDecoder(label);
    // A page that can be prescanned as ASCII is not UTF-16, whatever it says (WHATWG, "prescan a byte stream").
    return encoding.startsWith('utf-16') ? 'utf-8' : encoding;
  } catch {
    return undefined;
  }
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

const userDefined = (body: Buffer): string =>
  body.toString('latin1').replace(/[\x80-\xff]/g, (c) => String.fromCharCode(c.charCodeAt(0) + 0xf700));

/** Encodings whose second bytes may be ASCII, so that ASCII next to a raw byte belongs to it. */
const multibyte = new Set(['shift_jis', 'gbk', 'gb18030', 'big5', 'euc-jp', 'euc-kr', 'iso-2022-jp']);

/** A piece of `structure` as the text people read. Character references the parser resolved stay as they are. */
export function textOf(source: Pick<PageSource, 'unit' | 'encoding'>, piece: string): string {
  if (source.unit === 2) return piece;
  const runs = multibyte.has(source.encoding) ? /[\0-\x7f\uf780-\uf7ff]+/g : /[\uf780-\uf7ff]+/g;
  return piece.replace(runs, (run) => decode(rawBytes(run), source.encoding));
}

/** Not Node's TextDecoder for the old encodings: it reads windows-1252 as Latin-1, and loses the Euro sign and the quotes. */
const decode = (bytes: Uint8Array, encoding: string): string =>
  encoding !== 'utf-8' && iconv.encodingExists(encoding) ? iconv.decode(Buffer.from(bytes), encoding) : new TextDecoder(encoding).decode(bytes);

const rawBytes = (run: string): Uint8Array => Uint8Array.from(run, (c) => c.charCodeAt(0) & 0xff);

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
