import { applyEdits, type Edit, insertion } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import { attr, bodyOf, descendants, type Element, find } from '../html/tree';
import { findLandmarks, type Landmarks } from '../site/landmarks';
import type { PageFacts, ParsedPage } from '../site/read-page';

export interface ShopPageContent {
  readonly title: string;
  /** What stands in the main region, as HTML. */
  readonly main: string;
  /** What goes at the end of the head, as HTML. */
  readonly head?: string;
  /** Called for every address in the chrome: links to pages and addresses of files. Returns where it leads from here. */
  readonly link: (address: string, kind: 'page' | 'file') => string;
  /** The published page keeps the site's scripts; the ordinary page on the shop's own origin runs none. */
  readonly scripts: 'keep' | 'drop';
}

/** Attributes that hold an address, by what they lead to. */
const linkAttributes: Readonly<Record<string, 'page' | 'file'>> = { href: 'page', action: 'page', src: 'file', poster: 'file', data: 'file', background: 'file' };

/** Of all pages, the one whose chrome is plainest: header, main and footer, no side column, few levels deep. */
export function chooseModel(pages: readonly PageFacts[]): PageFacts | undefined {
  const worth = (p: PageFacts) =>
    (p.landmarks.includes('header') ? 4 : 0) + (p.landmarks.includes('main') ? 3 : 0) + (p.landmarks.includes('footer') ? 2 : 0) -
    (p.landmarks.includes('side') ? 5 : 0) - (p.forms > 0 ? 1 : 0);
  const depth = (p: PageFacts) => p.path.split('/').length;
  return [...pages].sort((a, b) => worth(b) - worth(a) || Math.abs(depth(a) - 2) - Math.abs(depth(b) - 2) || a.path.localeCompare(b.path, 'en'))[0];
}

/**
 * A page of the shop from a model page of the site: the owner's header, menu and footer, and our content where the
 * model's own stood. Title, description, canonical address, social tags and structured data of the model go; no menu
 * item is marked as the current one.
 */
export function buildShopPage(model: ParsedPage, content: ShopPageContent): Uint8Array {
  const gone: [number, number][] = [];
  const edits: Edit[] = [];
  const cut = (from: number, to: number, inserted = '') => {
    gone.push([from, to]);
    edits.push({ at: from, removed: model.source.structure.slice(from, to), inserted });
  };
  cut(...mainRange(model, findLandmarks(model.doc)), asciiHtml(content.main));
  for (const el of descendants(model.doc)) {
    const at = el.sourceCodeLocation;
    if (!at || inside(gone, at.startOffset)) continue;
    if (el.tagName === 'title' && at.startTag && at.endTag) cut(at.startTag.endOffset, at.endTag.startOffset, asciiHtml(escapeHtml(content.title)));
    else if (ownToModel(el) || (content.scripts === 'drop' && (el.tagName === 'script' || el.tagName === 'base'))) cut(at.startOffset, at.endOffset);
    else edits.push(...attributeEdits(model, el, content));
  }
  const head = find(model.doc, (el) => el.tagName === 'head')?.sourceCodeLocation;
  const headEnd = head?.endTag?.startOffset ?? (head ? head.endOffset : undefined);
  if (content.head && headEnd !== undefined) edits.push(insertion(headEnd, asciiHtml(content.head)));
  return applyEdits(model.source, edits);
}

const inside = (ranges: readonly [number, number][], at: number): boolean => ranges.some(([from, to]) => at >= from && at < to);

/** Things in the head that speak of the model page alone. */
function ownToModel(el: Element): boolean {
  const name = (attr(el, 'name') ?? attr(el, 'property') ?? '').toLowerCase();
  if (el.tagName === 'meta') return /^(description|keywords|robots|og:|twitter:|article:)/.test(name);
  if (el.tagName === 'link') return /\b(canonical|prev|next|alternate|amphtml|shortlink)\b/i.test(attr(el, 'rel') ?? '');
  return el.tagName === 'script' && attr(el, 'type') === 'application/ld+json';
}

/** The inside of the main region; without one, all between header and footer; without those, the whole body. */
function mainRange(model: ParsedPage, marks: Landmarks): [number, number] {
  const main = marks.get('main')?.sourceCodeLocation;
  if (main?.startTag && main.endTag) return [main.startTag.endOffset, main.endTag.startOffset];
  const body = bodyOf(model.doc)?.sourceCodeLocation;
  const length = model.source.structure.length;
  const from = marks.get('header')?.sourceCodeLocation?.endOffset ?? marks.get('menu')?.sourceCodeLocation?.endOffset ?? body?.startTag?.endOffset ?? 0;
  const to = marks.get('footer')?.sourceCodeLocation?.startOffset ?? body?.endTag?.startOffset ?? length;
  return from <= to ? [from, to] : [from, length];
}

function attributeEdits(model: ParsedPage, el: Element, content: ShopPageContent): Edit[] {
  const places = el.sourceCodeLocation?.attrs ?? {};
  const edits: Edit[] = [];
  for (const { name, value } of el.attrs) {
    const place = places[name];
    if (!place) continue;
    const removed = model.source.structure.slice(place.startOffset, place.endOffset);
    if (name === 'aria-current') edits.push({ at: place.startOffset, removed, inserted: '' });
    const moved = movedValue(el, name, value, content.link);
    if (moved !== undefined && moved !== value) edits.push({ at: place.startOffset, removed, inserted: asciiHtml(`${name}="${escapeHtml(moved)}"`) });
  }
  return edits;
}

function movedValue(el: Element, name: string, value: string, link: ShopPageContent['link']): string | undefined {
  const kind = linkAttributes[name];
  if (kind) return link(value, el.tagName === 'link' ? 'file' : kind);
  if (name === 'srcset') return value.replace(/(^|,\s*)([^\s,]+)/g, (_, gap: string, url: string) => gap + link(url, 'file'));
  if (name === 'style') return value.replace(/url\(\s*(["']?)([^"')]+)\1\s*\)/g, (_, quote: string, url: string) => `url(${quote}${link(url, 'file')}${quote})`);
  return undefined;
}
