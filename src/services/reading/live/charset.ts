import iconv from 'iconv-lite';
import { readSource } from '../../../core/html/source';

const BOM = Buffer.from([0xef, 0xbb, 0xbf]);

/**
 * A page as its server means it: the charset that an answer's head names goes before what the page says of itself (HTML, 13.2.3.2), and a
 * file has no head. Where they differ the text is written in UTF-8, with its mark in front, which goes before all.
 */
export function asUtf8(bytes: Buffer, charset: string): Buffer {
  if (!charset || !iconv.encodingExists(charset) || bytes.subarray(0, 3).equals(BOM)) return bytes;
  const said = charset.toLowerCase();
  if (said === readSource(bytes).encoding.toLowerCase()) return bytes;
  return Buffer.concat([BOM, Buffer.from(iconv.decode(bytes, said), 'utf8')]);
}
