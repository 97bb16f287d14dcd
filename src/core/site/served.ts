import { type CssNode, parse, walk } from 'css-tree';
import type { PagePath } from './paths';

/**
 * Which of an owner's files may be handed to others. A folder that is connected as a site holds more than its pages: settings with
 * passwords, sources, copies of databases. So nothing is served because it is there, but only what is of a kind that pages are made of,
 * and never a file or folder whose name begins with a dot.
 */
const dressing = 'css svg png jpg jpeg jpe gif webp avif ico bmp cur woff woff2 ttf otf eot'.split(' ');
const content =
  'html htm xhtml js mjs map json xml txt pdf webmanifest wasm mp4 m4v webm ogv mp3 m4a ogg oga wav vtt srt geojson'.split(
    ' ',
  );

/** Names of files of ordinary kinds that tell how a site is made, and sometimes more. */
const sources =
  /(^|\/)(package(-lock)?|composer|tsconfig|jsconfig|bower|manifest\.webapp|credentials|secrets?|settings|config)\.json$|(^|\/)(web\.config|wp-config[^/]*|readme[^/]*|changelog[^/]*|license[^/]*|todo[^/]*)$/i;

const endingOf = (path: string): string => /\.([a-z0-9]+)$/i.exec(path)?.[1]?.toLowerCase() ?? '';
const hidden = (path: string): boolean => path.split('/').some((part) => part.startsWith('.'));

/** What dresses a page: style sheets, pictures, fonts. */
export const isDressing = (path: string): boolean => !hidden(path) && dressing.includes(endingOf(path));

/** What a site is made of, as visitors may fetch it: pages and what dresses them, scripts, media and data of theirs. */
export const isOfSite = (path: string): boolean =>
  isDressing(path) || (!hidden(path) && content.includes(endingOf(path)) && !sources.test(path));

/** Addresses in a style sheet: of pictures, of fonts, of other sheets; as they are written. Nothing of one that cannot be read. */
export function addressesIn(css: string): string[] {
  const found: string[] = [];
  let tree: CssNode;
  try {
    tree = parse(css, { parseValue: true, parseCustomProperty: false, onParseError: () => {} });
  } catch {
    return found;
  }
  walk(tree, (node: CssNode) => {
    if (node.type === 'Url') found.push(node.value);
    if (
      node.type === 'Atrule' &&
      node.name.toLowerCase() === 'import' &&
      node.prelude?.type === 'AtrulePrelude'
    )
      for (const part of node.prelude.children) if (part.type === 'String') found.push(part.value);
  });
  return found;
}

/**
 * What some files refer to, and what that refers to, through style sheets that bring in others.
 * @param read the text of a style sheet; @param find the file that an address leads to from another.
 */
export async function closureOf(
  from: Iterable<PagePath>,
  read: (sheet: PagePath) => Promise<string>,
  find: (from: PagePath, address: string) => PagePath | undefined,
): Promise<Set<PagePath>> {
  const known = new Set<PagePath>();
  const queue = [...from];
  for (let path = queue.pop(); path !== undefined; path = queue.pop()) {
    if (known.has(path) || !isDressing(path)) continue;
    known.add(path);
    if (endingOf(path) !== 'css') continue;
    for (const address of addressesIn(await read(path))) {
      const to = find(path, address);
      if (to && !known.has(to)) queue.push(to);
    }
  }
  return known;
}
