import { type PageSource, readSource, textOf, whyNotHtml } from '../html/source';
import { attr, bodyOf, collapse, descendants, type Document, type Element, find, parsePage, rawText } from '../html/tree';
import { findLandmarks } from './landmarks';
import { type MenuItem, readMenu } from './menu';
import { addressOf, type PagePath, resolveLink } from './paths';

/** What is known of one page; plain data that is stored with the snapshot. */
export interface PageFacts {
  readonly path: PagePath;
  readonly address: string;
  readonly title: string;
  readonly heading: string;
  readonly lang: string;
  readonly encoding: string;
  readonly landmarks: readonly string[];
  readonly menu: readonly MenuItem[];
  readonly links: readonly PagePath[];
  readonly styleSheets: readonly PagePath[];
  readonly scripts: number;
  readonly forms: number;
  readonly images: number;
}

export interface ParsedPage {
  readonly path: PagePath;
  readonly source: PageSource;
  readonly doc: Document;
}

/** Parses one file; says in words why it cannot be read as a page. */
export function parsePageFile(path: PagePath, bytes: Uint8Array): { page: ParsedPage } | { problem: string } {
  const source = readSource(bytes);
  const why = whyNotHtml(source);
  if (why) return { problem: `${path} is named like a page but ${why}. It is kept as a plain file.` };
  return { page: { path, source, doc: parsePage(source) } };
}

export function readPage({ path, source, doc }: ParsedPage, has: (path: string) => boolean): PageFacts {
  const text = (el: Element | undefined) => (el ? collapse(textOf(source, rawText(el))) : '');
  const landmarks = findLandmarks(doc);
  const menuRoot = landmarks.get('menu') ?? landmarks.get('header');
  const seen = collect(bodyOf(doc) ?? doc);
  const href = (el: Element, name: string) => resolveLink(path, textOf(source, attr(el, name) ?? ''), has);
  const sheets = [...descendants(doc)].filter((e) => e.tagName === 'link' && /\bstylesheet\b/i.test(attr(e, 'rel') ?? ''));
  const root = find(doc, (e) => e.tagName === 'html');
  return {
    path,
    address: addressOf(path),
    title: text(find(doc, (e) => e.tagName === 'title')),
    heading: text(find(doc, (e) => e.tagName === 'h1')),
    lang: (root && attr(root, 'lang')) ?? '',
    encoding: source.encoding,
    landmarks: [...landmarks.keys()],
    menu: menuRoot ? readMenu(menuRoot, path, source, has) : [],
    links: unique(seen.anchors.map((a) => href(a, 'href'))),
    styleSheets: unique(sheets.map((s) => href(s, 'href'))),
    scripts: seen.scripts,
    forms: seen.forms,
    images: seen.images,
  };
}

function collect(root: Document | Element) {
  const seen = { anchors: [] as Element[], scripts: 0, forms: 0, images: 0 };
  for (const el of descendants(root)) {
    if (el.tagName === 'a') seen.anchors.push(el);
    else if (el.tagName === 'script') seen.scripts++;
    else if (el.tagName === 'form') seen.forms++;
    else if (el.tagName === 'img') seen.images++;
  }
  return seen;
}

const unique = (paths: (PagePath | undefined)[]): PagePath[] => [...new Set(paths.filter((p) => p !== undefined))];
