import { applyEdits, type Edit, insertion, sortEdits } from '../html/edits';
import { asciiHtml, escapeHtml } from '../html/escape';
import { pageMark } from '../html/fence';
import { readSource, textOf } from '../html/source';
import {
  attr,
  bodyOf,
  descendants,
  type Document,
  type Element,
  elementsIn,
  find,
  isElement,
  parsePage,
  type TextNode,
} from '../html/tree';
import { menuNodes } from '../site/menu';
import type { PagePath } from '../site/paths';
import { type CurrentStyle, type PageFacts, type ParsedPage, parsePageFile } from '../site/read-page';
import { pathTo, type RegionFact, type Regions, regionsOf } from '../site/regions';
import { readStructure } from '../site/structure';
import { currentStyleOf, unmarkCurrent } from './menu-markup';
import { aroundMain } from './around-main';
import { mainRange } from './main-range';

export interface ShopPageContent {
  /** Which of the shop's pages this is: "cart". Written into the page, so that the files alone tell it from the owner's. */
  readonly part: string;
  readonly title: string;
  readonly description?: string;
  readonly lang?: string;
  /** The whole address the page will have, for `<link rel=canonical>`. */
  readonly canonical?: string;
  /** What the page is called in the band where the site's pages have their title, if they have one; without it, `main` says it. */
  readonly heading?: string;
  /** What stands in the main region, as HTML. @param titled the heading stands elsewhere, in the site's own band */
  readonly main: (titled: boolean) => string;
  /** What goes at the end of the head, as HTML. */
  readonly head?: string;
  /** Called for every address in the chrome: links to pages and addresses of files. Returns where it leads from here. */
  readonly link: (address: string, kind: 'page' | 'file') => string;
  /** The published page keeps the site's scripts; the ordinary page on the shop's own origin runs none. */
  readonly scripts: 'keep' | 'drop';
  /** Other pages of the same chrome: what they do not share is the model's own, and goes. */
  readonly others?: readonly ParsedPage[];
}

/** A page's bytes as they must be at another address: every link and file leads where it led before. */
export function rebasedPage(page: ParsedPage, link: ShopPageContent['link']): Uint8Array {
  const based = namesBase(page);
  const edits = [...descendants(page.doc)].flatMap((el) =>
    el.sourceCodeLocation ? attributeEdits(page, el, link, based) : [],
  );
  return applyEdits(page.source, sortEdits(edits));
}

/** Attributes that hold an address, by what they lead to. */
const linkAttributes: Readonly<Record<string, 'page' | 'file'>> = {
  href: 'page',
  action: 'page',
  src: 'file',
  poster: 'file',
  data: 'file',
  background: 'file',
  longdesc: 'page',
  cite: 'page',
};

/**
 * The page whose chrome is plainest, of the group that most pages are of where that has a header, or else of the front page's own:
 * header, main and footer surely found, no side column, no page of the journal, few levels deep.
 */
export function chooseModel(pages: readonly PageFacts[]): PageFacts | undefined {
  const front = pages.find((p) => p.kind === 'front') ?? pages[0];
  const sure = (p: PageFacts, region: string) => p.regions.find((r) => r.region === region)?.confidence ?? 0;
  const depth = (p: PageFacts) => p.path.split('/').length;
  const usual = usualChrome(pages);
  const hasHeader = pages.some((p) => p.chrome === usual && sure(p, 'header') >= 0.5);
  const wanted = hasHeader ? usual : front?.chrome;
  const worth = (p: PageFacts) =>
    4 * sure(p, 'header') +
    3 * sure(p, 'main') +
    2 * sure(p, 'footer') +
    2 * sure(p, 'menu') -
    (sure(p, 'side') ? 3 : 0) -
    (sure(p, 'side-2') ? 3 : 0) -
    (p.forms > 0 ? 1 : 0) +
    (p.chrome === wanted ? 3 : 0) -
    (unlike[p.kind] ?? 0) -
    (noModel.test(p.path) ? 5 : 0) -
    Math.abs(depth(p) - 2) * 0.3;
  return [...pages].sort((a, b) => worth(b) - worth(a) || (a.path < b.path ? -1 : 1))[0];
}

/** How unlike a plain page the kinds are. */
const unlike: Partial<Record<PageFacts['kind'], number>> = { front: 1, list: 2, post: 2, frames: 20 };

/** Pages that are made by a machine for a machine's purpose. */
const noModel = /(^|\/)(_|(404|50\d|error|not-?found|search|genindex|[\w-]*modindex)\b)/i;

/** So many pages tell what is shared. */
const LIKE = 8;

/**
 * Some other pages of a model's chrome, from all over the site: what most of them do not share with it is its own. Of a model that is the only
 * one of its chrome, any.
 */
export function pagesLike(pages: readonly PageFacts[], model: PageFacts): PageFacts[] {
  const others = pages.filter((p) => p.path !== model.path);
  const same = others.filter((p) => p.chrome === model.chrome);
  const spoken = same.filter((p) => p.lang === model.lang);
  const like = [spoken, same, others].find((some) => some.length > 0) ?? [];
  const step = Math.max(1, like.length / LIKE);
  return like.filter((_, n) => Math.floor(n / step) !== Math.floor((n - 1) / step));
}

/** The chrome that more than half of all pages have. */
function usualChrome(pages: readonly PageFacts[]): number | undefined {
  const counted = new Map<number, number>();
  for (const { chrome } of pages) counted.set(chrome, (counted.get(chrome) ?? 0) + 1);
  return [...counted].find(([, n]) => n * 2 > pages.length)?.[0];
}

/**
 * A page of the shop from a model page of the site: the owner's header, menu and footer, and our content where the
 * model's own stood. Everything that speaks of the model alone goes: title, description, canonical address, social
 * tags, structured data, breadcrumbs, comments, columns of the journal; no menu item is marked as the current one.
 */
export function buildShopPage(model: ParsedPage, content: ShopPageContent): Uint8Array {
  return applyEdits(model.source, shopPageEdits(model, content));
}

/** The model's header, menu, side and footer go on being those of the page that is built from it. */
const inherited = ['header', 'menu', 'footer'] as const;
const MARK = 'data-stall-region-';

/**
 * A shop page, parsed, with the regions that its model has: what was found by comparing the site's pages is not guessed anew from
 * one page alone. And how the menu marks its current item, learned from the model or from a page like it.
 */
export function parsedShopPage(
  path: PagePath,
  model: ParsedPage,
  content: ShopPageContent,
): ParsedPage | { problem: string } {
  // Elements that regions hang on are marked, found again in what was built, and the marks taken out.
  const edits = shopPageEdits(model, content);
  const isCut = (at: number) => edits.some((e) => at > e.at && at < e.at + e.removed.length);
  const marked = sortEdits([...edits, ...regionMarks(model).filter((m) => !isCut(m.at))]);
  const source = readSource(applyEdits(model.source, marked));
  const doc = parsePage(source);
  const found = [
    ...markedRegions(doc, regionsOf(model)),
    ...readStructure(doc).filter((f) => f.region === 'main'),
  ];
  const out = [...source.structure.matchAll(new RegExp(` ${MARK}[\\w-]+=""`, 'g'))].map(
    (m): Edit => ({ at: m.index, removed: m[0], inserted: '' }),
  );
  const read = parsePageFile(path, applyEdits(source, out), found);
  if ('problem' in read) return read;
  return { ...read.page, marksCurrent: currentStyleIn([model, ...(content.others ?? [])]) };
}

function regionMarks(model: ParsedPage): Edit[] {
  const regions = regionsOf(model);
  return inherited.flatMap((name) => {
    const spot = regions.get(name);
    if (!spot) return [];
    const ends = spot.first
      ? ([
          [spot.first, 'from'],
          [spot.last ?? spot.first, 'to'],
        ] as const)
      : ([[spot.element, 'all']] as const);
    return ends.flatMap(([el, end]) => {
      const tag = el.sourceCodeLocation?.startTag;
      return tag ? [insertion(tag.startOffset + 1 + el.tagName.length, ` ${MARK}${name}-${end}=""`)] : [];
    });
  });
}

function markedRegions(doc: Document, before: Regions): RegionFact[] {
  const body = bodyOf(doc);
  const at = (name: string, end: string) =>
    find(doc, (el) => attr(el, `${MARK}${name}-${end}`) !== undefined);
  return inherited.flatMap((region): RegionFact[] => {
    const spot = before.get(region);
    if (!spot) return [];
    const { confidence, by } = spot;
    const whole = at(region, 'all');
    if (whole) return [{ region, path: pathTo(body, whole), confidence, by }];
    const [from, to] = [at(region, 'from'), at(region, 'to')];
    const parent = from?.parentNode;
    if (!from || !to || !parent || !isElement(parent)) return [];
    const kids = elementsIn(parent);
    return [
      { region, path: pathTo(body, parent), from: kids.indexOf(from), to: kids.indexOf(to), confidence, by },
    ];
  });
}

/** Only a page itself is known: its own item is the one that leads to it. */
const isIt =
  (page: ParsedPage) =>
  (path: string): boolean =>
    path === page.path;

/** How the menu of these pages marks its current item, from the first that shows one. */
function currentStyleIn(pages: readonly ParsedPage[]): CurrentStyle | undefined {
  for (const page of pages) {
    const menu = regionsOf(page).get('menu')?.element;
    const style = menu && currentStyleOf(menuNodes(menu, page.path, page.source, isIt(page)));
    if (style) return style;
  }
  return undefined;
}

function shopPageEdits(model: ParsedPage, content: ShopPageContent): Edit[] {
  const cuts = new Cuts(model);
  const regions = regionsOf(model);
  const main = mainRange(model, regions);
  const { gone, title } = aroundMain(model, regions, main, content.others ?? []);
  const titled = title !== undefined && content.heading !== undefined;
  cuts.cut(main[0], main[1], asciiHtml(content.main(titled)));
  if (titled) cuts.cutInside(title, asciiHtml(escapeHtml(content.heading ?? '')));
  else if (title) cuts.cutNode(title);
  for (const node of gone) cuts.cutNode(node);
  const menu = regions.get('menu')?.element;
  const marks = menu ? unmarkCurrent(model, menuNodes(menu, model.path, model.source, isIt(model))) : [];
  cutModels(model, content, cuts);
  cuts.add(
    marks.filter(
      (m) => !cuts.edits.some((e) => m.at < e.at + e.removed.length && e.at < m.at + m.removed.length),
    ),
  );
  // First in the list: where the head ends just where the main part begins, it comes before.
  return [...headEdits(model, content), ...cuts.edits];
}

/** Title and tags that speak of the model go; addresses lead from where the new page is. */
function cutModels(model: ParsedPage, content: ShopPageContent, cuts: Cuts): void {
  const based = content.scripts === 'keep' && namesBase(model);
  const gone = goneTargets(model, cuts);
  // What leads to a spot of the model's own leads to the model: menus of sites of one page do.
  const toModel: ShopPageContent['link'] = (address, kind) =>
    content.link(gone.has(address.trim()) ? `${nameIn(model.path)}${address.trim()}` : address, kind);
  const linkOf = (el: Element) => (el.tagName === 'a' ? toModel : content.link);
  for (const el of descendants(model.doc)) {
    const at = el.sourceCodeLocation;
    if (!at || cuts.holds(at.startOffset)) continue;
    if (isTitle(el) && at.startTag && at.endTag)
      cuts.cut(at.startTag.endOffset, at.endTag.startOffset, asciiHtml(escapeHtml(content.title)));
    else if (ownToModel(el) || (content.scripts === 'drop' && steers(el)))
      cuts.cut(at.startOffset, at.endOffset);
    else cuts.add(attributeEdits(model, el, linkOf(el), based));
  }
}

/** Fragments of spots that went with the model's own content. */
function goneTargets(model: ParsedPage, cuts: Cuts): ReadonlySet<string> {
  const all = [...descendants(model.doc)];
  const named = (el: Element) =>
    [attr(el, 'id'), el.tagName === 'a' ? attr(el, 'name') : undefined].filter((name) => name);
  const isGone = (el: Element) => el.sourceCodeLocation && cuts.holds(el.sourceCodeLocation.startOffset);
  const kept = new Set(all.filter((el) => !isGone(el)).flatMap(named));
  const gone = all
    .filter(isGone)
    .flatMap(named)
    .filter((name) => !kept.has(name));
  return new Set(gone.flatMap((name) => [`#${name}`, `#${encodeURIComponent(name ?? '')}`]));
}

const nameIn = (path: PagePath): string => path.split('/').pop() ?? '';

/** The page's own title; pictures may have one too. */
const isTitle = (el: Element): boolean =>
  el.tagName === 'title' && el.parentNode !== null && el.parentNode.nodeName === 'head';

const steers = (el: Element): boolean => el.tagName === 'script' || el.tagName === 'base';

/** Pieces of the model that go, none inside another. */
class Cuts {
  readonly edits: Edit[] = [];
  readonly #gone: [number, number][] = [];
  constructor(private readonly model: ParsedPage) {}
  cut(from: number, to: number, inserted = ''): void {
    if (this.#gone.some(([a, b]) => from < b && a < to)) return;
    this.#gone.push([from, to]);
    this.edits.push({ at: from, removed: this.model.source.structure.slice(from, to), inserted });
  }
  /** A cell keeps its place in its row, empty. */
  cutNode(node: Element | TextNode): void {
    const at = node.sourceCodeLocation;
    if (isElement(node) && node.tagName === 'td') this.cutInside(node);
    else if (at) this.cut(at.startOffset, at.endOffset);
  }
  cutInside(el: Element, inserted = ''): void {
    const at = el.sourceCodeLocation;
    if (at?.startTag) this.cut(at.startTag.endOffset, at.endTag?.startOffset ?? at.endOffset, inserted);
  }
  holds(at: number): boolean {
    return this.#gone.some(([from, to]) => at >= from && at < to);
  }
  add(edits: readonly Edit[]): void {
    for (const e of edits) if (!this.holds(e.at)) this.edits.push(e);
  }
}

/** Things in the head that speak of the model page alone. */
function ownToModel(el: Element): boolean {
  const name = (attr(el, 'name') ?? attr(el, 'property') ?? attr(el, 'itemprop') ?? '').toLowerCase();
  if (el.tagName === 'meta')
    return (
      /^(description|keywords|robots|date|author|dc\.|dcterms\.|citation_|og:|twitter:|article:|headline|image|datepublished|datemodified)/.test(
        name,
      ) || /^(refresh)$/i.test(attr(el, 'http-equiv') ?? '')
    );
  if (el.tagName === 'link')
    return (
      /\b(canonical|prev|next|up|first|last|contents|index|alternate|amphtml|shortlink|pingback|preload|prefetch|prerender|edituri)\b/i.test(
        attr(el, 'rel') ?? '',
      ) &&
      !(/\bpreload\b/i.test(attr(el, 'rel') ?? '') && /^(font|style|script)$/.test(attr(el, 'as') ?? '')) &&
      !/\bstylesheet\b/i.test(attr(el, 'rel') ?? '')
    );
  return el.tagName === 'script' && /^application\/ld\+json$/i.test(attr(el, 'type') ?? '');
}

function headEdits(model: ParsedPage, content: ShopPageContent): Edit[] {
  const head = find(model.doc, (el) => el.tagName === 'head')?.sourceCodeLocation;
  const end =
    head?.endTag?.startOffset ??
    head?.endOffset ??
    find(model.doc, (el) => el.tagName === 'title')?.sourceCodeLocation?.endOffset;
  const title = find(model.doc, (el) => el.tagName === 'title')
    ? ''
    : `<title>${escapeHtml(content.title)}</title>`;
  const description = content.description
    ? `<meta name="description" content="${escapeHtml(content.description)}">\n`
    : '';
  const canonical = content.canonical
    ? `<link rel="canonical" href="${escapeHtml(content.canonical)}">\n`
    : '';
  const html = `${pageMark(content.part)}\n${title}${description}${canonical}${content.head ?? ''}`;
  return [
    ...(end === undefined
      ? [insertion(bodyStart(model), asciiHtml(html))]
      : [insertion(end, asciiHtml(html))]),
    ...langEdits(model, content.lang),
  ];
}

const bodyStart = (model: ParsedPage): number =>
  bodyOf(model.doc)?.sourceCodeLocation?.startTag?.endOffset ?? 0;

function langEdits(model: ParsedPage, lang: string | undefined): Edit[] {
  const root = lang ? find(model.doc, (el) => el.tagName === 'html') : undefined;
  const at = root?.sourceCodeLocation;
  if (!lang || !at?.startTag || (root && attr(root, 'lang') === lang)) return [];
  const place = at.attrs?.lang;
  const written = `lang="${escapeHtml(lang)}"`;
  return place
    ? [
        {
          at: place.startOffset,
          removed: model.source.structure.slice(place.startOffset, place.endOffset),
          inserted: written,
        },
      ]
    : [insertion(at.startTag.startOffset + 5, ` ${written}`)];
}

/** @param based the page names its own base and keeps it */
function attributeEdits(
  model: ParsedPage,
  el: Element,
  link: ShopPageContent['link'],
  based: boolean,
): Edit[] {
  const places = el.sourceCodeLocation?.attrs ?? {};
  const edits: Edit[] = [];
  for (const { name, value } of el.attrs) {
    const place = places[name];
    if (!place) continue;
    const removed = model.source.structure.slice(place.startOffset, place.endOffset);
    const text = textOf(model.source, value);
    // Where the page names its own base, links are not relative to where it stands: only the base itself moves.
    if (based && el.tagName !== 'base') continue;
    const moved = movedValue(el, name, text, link);
    if (moved !== undefined && moved !== text)
      edits.push({ at: place.startOffset, removed, inserted: asciiHtml(`${name}="${escapeHtml(moved)}"`) });
  }
  return edits;
}

function movedValue(
  el: Element,
  name: string,
  value: string,
  link: ShopPageContent['link'],
): string | undefined {
  const kind = linkAttributes[name];
  if (kind) return link(value, el.tagName === 'link' || el.tagName === 'base' ? 'file' : kind);
  if (name === 'srcset' || name === 'imagesrcset')
    return value.replace(/(^|,\s*)([^\s,]+)/g, (_, gap: string, url: string) => gap + link(url, 'file'));
  if (name === 'style')
    return value.replace(
      /url\(\s*(["']?)([^"')]+)\1\s*\)/g,
      (_, quote: string, url: string) => `url(${quote}${link(url, 'file')}${quote})`,
    );
  return undefined;
}

/** Whether a page names another base for its links. */
const namesBase = (page: ParsedPage): boolean =>
  find(page.doc, (el) => el.tagName === 'base' && attr(el, 'href') !== undefined) !== undefined;
