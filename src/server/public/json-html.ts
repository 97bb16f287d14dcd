import type { Html } from '../../core/storefront/html';

/** Cards and the like, as they stand inside a JSON string, in bytes. */
const kept = new WeakMap<Html, Buffer>();

/** What RFC 8259, section 7, wants escaped. */
const escapes = /["\\\u0000-\u001f]/;
const inString = (text: string): string => (escapes.test(text) ? JSON.stringify(text).slice(1, -1) : text);

/**
 * HTML as a JSON string (RFC 8259, section 7), in bytes: what stays the same from answer to answer is escaped and encoded once.
 * The same bytes as `JSON.stringify(html.text)`.
 */
export function jsonBytes(html: Html): Buffer[] {
  const out: Buffer[] = [];
  let text = '"';
  const walk = (h: Html) => {
    for (const piece of h.pieces) {
      if (typeof piece === 'string') text += inString(piece);
      else if (!piece.lasting) walk(piece);
      else {
        out.push(Buffer.from(text));
        text = '';
        let bytes = kept.get(piece);
        if (!bytes) {
          bytes = Buffer.from(inString(piece.text));
          kept.set(piece, bytes);
        }
        out.push(bytes);
      }
    }
  };
  walk(html);
  out.push(Buffer.from(`${text}"`));
  return out;
}

/** An object whose last field holds drawn HTML by name, as JSON in bytes. */
export function jsonWithHtml(fields: object, name: string, drawn: Readonly<Record<string, Html>>): Buffer {
  const start = JSON.stringify(fields).slice(0, -1);
  const out: Buffer[] = [Buffer.from(`${start}${start === '{' ? '' : ','}${JSON.stringify(name)}:{`)];
  for (const [n, [key, html]] of Object.entries(drawn).entries())
    out.push(Buffer.from(`${n ? ',' : ''}${JSON.stringify(key)}:`), ...jsonBytes(html));
  out.push(Buffer.from('}}'));
  return Buffer.concat(out);
}
