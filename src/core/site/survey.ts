import { entryAt } from '../entries';
import { lineAt, readFences } from '../html/fence';
import { type PageSource, textOf } from '../html/source';
import {
  attr,
  bodyOf,
  collapse,
  childrenOf,
  type Document,
  type Element,
  isElement,
  isText,
  type Node,
  rawText,
} from '../html/tree';
import { buildOutline, Outline } from './outline';
import { type LinkBase, type PagePath, pathOf, resolveLink } from './paths';
import type { ParsedPage } from './read-page';

/** A picture as a page uses it: the file, or the address when it is not one of the site's. */
export interface PictureUse {
  readonly path?: PagePath;
  readonly src: string;
  readonly alt: string | null;
}

/** What a page's scripts, forms and text say about what kind of page it is, and how the site moves. */
export interface PageHints {
  /** Letters of visible text in the body. */
  readonly letters: number;
  readonly pictures: number;
  /** Visible fields that take text, and whether one of them takes several lines. */
  readonly fields: number;
  readonly message: boolean;
  /** Addresses to write or call: mailto:, tel:. */
  readonly reach: number;
  readonly articles: number;
  readonly times: number;
  readonly type: string;
  /** An empty shell that a script fills. */
  readonly shell: boolean;
  readonly switches: boolean;
}

/** Everything one walk over a page finds, before it is compared with others. */
export interface Survey {
  readonly path: PagePath;
  readonly encoding: string;
  readonly encodingFrom: PageSource['encodingFrom'];
  readonly lineEnds: LineEnds;
  readonly title: string;
  readonly heading: string;
  readonly description: string;
  readonly lang: string;
  readonly base: LinkBase;
  readonly links: readonly PagePath[];
  /** Links to addresses of the site where no file is. */
  readonly dead: readonly string[];
  readonly frames: readonly PagePath[];
  readonly styleSheets: readonly PagePath[];
  readonly missingSheets: readonly string[];
  readonly inlineStyles: boolean;
  readonly scripts: readonly string[];
  readonly inlineScripts: number;
  readonly forms: readonly { readonly action: string; readonly method: string; readonly fields: number }[];
  readonly pictures: readonly PictureUse[];
  readonly hints: PageHints;
  /** Fences that stand in the owner's own bytes: those of another Green Stall, or left from one. */
  readonly fences: readonly { readonly id: string; readonly line: number; readonly whole: boolean }[];
  readonly outline: { readonly rows: Int32Array; readonly tags: readonly string[] };
}

type Has = (path: string) => PagePath | boolean | undefined;

/** Reads one page in one walk over its tree, and its outline. */
export function surveyPage({ path, source, doc }: ParsedPage, has: Has): Survey {
  const seen = gather(doc);
  const text = (el: Element | undefined) => (el ? collapse(textOf(source, rawText(el))) : '');
  const value = (el: Element, name: string) => textOf(source, attr(el, name) ?? '');
  const base = baseOf(path, seen, value);
  const cache = new Map<string, PagePath | undefined>();
  const resolve = (href: string): PagePath | undefined => {
    if (!cache.has(href)) cache.set(href, resolveLink(base, href, has));
    return cache.get(href);
  };
  const hrefs = seen.anchors.map((a) => value(a, 'href'));
  const sheets = seen.links
    .filter((l) => /\bstylesheet\b/i.test(attr(l, 'rel') ?? ''))
    .map((l) => value(l, 'href'));
  const meta = (name: string) =>
    seen.metas.find((m) => (attr(m, 'name') ?? attr(m, 'property') ?? '').toLowerCase() === name);
  const description = meta('description');
  const body = bodyOf(doc);
  const outline = body ? buildOutline(body) : new Outline(new Int32Array(0), []);
  return {
    path,
    encoding: source.encoding,
    encodingFrom: source.encodingFrom,
    lineEnds: lineEndsOf(source.structure),
    title: text(seen.title),
    heading: text(seen.heading),
    description: description ? value(description, 'content') : '',
    lang: langOf(seen),
    base,
    links: unique(hrefs.map(resolve)),
    dead: [...new Set(hrefs.filter((h) => resolve(h) === undefined && isPlainDead(base, h)))].slice(0, 50),
    frames: unique(seen.frames.map((f) => resolve(value(f, 'src')))),
    styleSheets: unique(sheets.map(resolve)),
    missingSheets: sheets.filter((s) => resolve(s) === undefined && pathOf(base, s) !== undefined),
    inlineStyles: seen.styles > 0,
    scripts: seen.scripts.filter((s) => attr(s, 'src') !== undefined).map((s) => value(s, 'src')),
    inlineScripts: seen.scripts.filter((s) => attr(s, 'src') === undefined).length,
    forms: seen.forms.map((f) => ({
      action: value(f, 'action'),
      method: (attr(f, 'method') ?? 'get').toLowerCase(),
      fields: fieldsIn(f),
    })),
    pictures: seen.images.map((img) => {
      const src = value(img, 'src');
      const file = resolve(src);
      return {
        src,
        alt: attr(img, 'alt') === undefined ? null : value(img, 'alt'),
        ...(file && { path: file }),
      };
    }),
    hints: hintsOf(seen, outline, source),
    fences: fencesIn(source.structure),
    outline: { rows: outline.rows, tags: outline.tags },
  };
}

function fencesIn(structure: string): Survey['fences'] {
  if (!structure.includes('<!--stall ') && !structure.includes('<!--/stall ')) return [];
  const { pieces, faults } = readFences(structure);
  return [
    ...pieces.map((p) => ({ id: p.id, line: lineAt(structure, p.from), whole: true })),
    ...faults.map((f) => ({ id: f.id, line: f.line, whole: false })),
  ];
}

export type LineEnds = 'lf' | 'crlf' | 'cr' | 'mixed' | 'none';

export function lineEndsOf(structure: string): LineEnds {
  const crlf = structure.includes('\r\n');
  const cr = /\r(?!\n)/.test(structure);
  const lf = structure.includes('\n') && (!crlf || /(^|[^\r])\n/.test(structure));
  const found = Object.entries({ crlf, cr, lf }).flatMap(([name, there]) => (there ? [name] : []));
  return found.length > 1 ? 'mixed' : ((found[0] ?? 'none') as LineEnds);
}

interface Seen {
  title?: Element;
  heading?: Element;
  html?: Element;
  base?: Element;
  anchors: Element[];
  links: Element[];
  metas: Element[];
  frames: Element[];
  scripts: Element[];
  forms: Element[];
  images: Element[];
  fields: Element[];
  styles: number;
  articles: number;
  times: number;
}

/** Which list an element of that name goes into. */
const lists: Readonly<
  Record<string, 'anchors' | 'links' | 'metas' | 'frames' | 'scripts' | 'forms' | 'images' | 'fields'>
> = {
  a: 'anchors',
  area: 'anchors',
  link: 'links',
  meta: 'metas',
  frame: 'frames',
  iframe: 'frames',
  script: 'scripts',
  form: 'forms',
  img: 'images',
  input: 'fields',
  textarea: 'fields',
  select: 'fields',
};

function gather(doc: Document): Seen {
  const seen: Seen = {
    anchors: [],
    links: [],
    metas: [],
    frames: [],
    scripts: [],
    forms: [],
    images: [],
    fields: [],
    styles: 0,
    articles: 0,
    times: 0,
  };
  const stack: Node[] = [doc];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (isElement(node)) note(seen, node);
    const kids = childrenOf(node);
    for (let i = kids.length - 1; i >= 0; i--) if (!isText(entryAt(kids, i))) stack.push(entryAt(kids, i));
  }
  return seen;
}

function note(seen: Seen, el: Element): void {
  const list = lists[el.tagName];
  if (list) seen[list].push(el);
  else if (el.tagName === 'h1') seen.heading ??= el;
  else if (el.tagName === 'title' && el.namespaceURI.endsWith('xhtml')) seen.title ??= el;
  else if (el.tagName === 'html') seen.html ??= el;
  else if (el.tagName === 'base' && attr(el, 'href') !== undefined) seen.base ??= el;
  else if (el.tagName === 'style') seen.styles++;
  else if (el.tagName === 'article') seen.articles++;
  else if (el.tagName === 'time') seen.times++;
}

/** `<base href>`, and the hosts that the page itself says are its own: of the base, the canonical and the social address. */
function baseOf(path: PagePath, seen: Seen, value: (el: Element, name: string) => string): LinkBase {
  const canonical = seen.links.find((l) => /\bcanonical\b/i.test(attr(l, 'rel') ?? ''));
  const social = seen.metas.find((m) => attr(m, 'property') === 'og:url');
  const base = seen.base ? value(seen.base, 'href') : '';
  const hosts = new Set(
    [base, canonical ? value(canonical, 'href') : '', social ? value(social, 'content') : ''].flatMap(
      (a) =>
        /^(?:https?:)?\/\/([^/?#]+)/i
          .exec(a.trim())?.[1]
          ?.toLowerCase()
          .replace(/^www\./, '') ?? [],
    ),
  );
  const from = base && (pathOf({ path, hosts }, base) ?? path);
  return { path: from || path, ...(hosts.size > 0 && { hosts }) };
}

function langOf(seen: Seen): string {
  const declared = (seen.html && (attr(seen.html, 'lang') ?? attr(seen.html, 'xml:lang'))) ?? '';
  if (declared) return declared;
  const meta = seen.metas.find((m) => (attr(m, 'http-equiv') ?? '').toLowerCase() === 'content-language');
  return meta ? ((attr(meta, 'content') ?? '').split(',')[0]?.trim() ?? '') : '';
}

/** A link into the site that leads to no file: pages and folders only, not what a server may make up. */
const isPlainDead = (base: LinkBase, href: string): boolean => {
  const path = pathOf(base, href);
  return (
    path !== undefined &&
    !/[?]|^\s*(?:https?:)?\/\//i.test(href) &&
    !/\.(php|asp|aspx|cgi|pl|jsp)$/i.test(path)
  );
};

const typed = (el: Element): boolean =>
  el.tagName !== 'input' ||
  !/^(hidden|submit|button|image|reset|checkbox|radio)$/i.test(attr(el, 'type') ?? '');

function fieldsIn(form: Element): number {
  let n = 0;
  const stack: Node[] = [form];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (isElement(node) && lists[node.tagName] === 'fields' && typed(node)) n++;
    stack.push(...childrenOf(node));
  }
  return n;
}

function hintsOf(seen: Seen, outline: Outline, source: PageSource): PageHints {
  const letters = outline.count ? outline.weight(0) : 0;
  const type = seen.metas.find((m) => attr(m, 'property') === 'og:type');
  const inline = seen.scripts
    .map((s) =>
      childrenOf(s)
        .map((t) => (isText(t) ? t.value : ''))
        .join(''),
    )
    .join('\n');
  return {
    letters,
    pictures: seen.images.length,
    fields: seen.fields.filter(typed).length,
    message: seen.fields.some((f) => f.tagName === 'textarea'),
    reach: seen.anchors.filter((a) => /^\s*(mailto|tel):/i.test(attr(a, 'href') ?? '')).length,
    articles: seen.articles,
    times: seen.times,
    type: type ? textOf(source, attr(type, 'content') ?? '') : '',
    shell: letters < 40 && seen.scripts.length > 0 && seen.images.length === 0 && seen.anchors.length === 0,
    switches:
      switchesPages(inline) || seen.anchors.filter((a) => /^#!?\//.test(attr(a, 'href') ?? '')).length > 2,
  };
}

/**
 * Whether a script moves between pages without reloading: it writes the address bar's history and fetches or imports
 * what it then shows, or takes over navigation as a whole (HTML standard, History and Navigation interfaces).
 */
export const switchesPages = (script: string): boolean =>
  /\bnavigation\s*\.\s*addEventListener\s*\(\s*["'`]navigate/.test(script) ||
  (/\bhistory\s*\.\s*(pushState|replaceState)\s*\(/.test(script) &&
    /\b(fetch\s*\(|XMLHttpRequest|import\s*\(|innerHTML|replaceWith|replaceChildren)/.test(script));

const unique = (paths: readonly (PagePath | undefined)[]): PagePath[] => [
  ...new Set(paths.filter((p) => p !== undefined)),
];
