import { applyEdits } from '../../src/core/html/edits';
import { readSource } from '../../src/core/html/source';
import { descendants, parsePage } from '../../src/core/html/tree';
import type { Files } from './break-files';

/** The same site as another editor or host writes it: attributes in another order, other white space between blocks, other line ends. */
export function rewritten(files: Files): Files {
  return Object.fromEntries(
    Object.entries(files).map(([path, bytes]) => [
      path,
      /\.html?$/i.test(path) ? rewrittenPage(Buffer.from(bytes)) : bytes,
    ]),
  );
}

function rewrittenPage(bytes: Buffer): Uint8Array {
  const source = readSource(bytes);
  const edits = [...descendants(parsePage(source))].flatMap((el) => {
    const place = el.sourceCodeLocation;
    const start = place?.startTag ?? place;
    if (!start || el.attrs.length < 2) return [];
    const tag = source.structure.slice(start.startOffset, start.endOffset);
    const turned = withTurnedAttributes(tag);
    return turned === tag ? [] : [{ at: start.startOffset, removed: tag, inserted: turned }];
  });
  const turned = Buffer.from(applyEdits(source, edits)).toString('latin1');
  return Buffer.from(
    turned
      .replace(/\r\n?/g, '\n')
      .replace(/>\n\s*</g, '>\n\n <')
      .replace(/\n/g, '\r\n'),
    'latin1',
  );
}

/** A start tag with its attributes the other way round; as it is where it is written in no plain way. */
function withTurnedAttributes(tag: string): string {
  const m = /^(<[a-z][\w-]*)((?:\s+[\w:.-]+(?:="[^"<>]*"|='[^'<>]*')?)+)(\s*\/?>)$/i.exec(tag);
  if (!m) return tag;
  const [, open = '', attributes = '', close = ''] = m;
  const parts = attributes.match(/\s+[\w:.-]+(?:="[^"<>]*"|='[^'<>]*')?/g) ?? [];
  return `${open} ${parts
    .map((p) => p.trim())
    .toReversed()
    .join(' ')}${close}`;
}
