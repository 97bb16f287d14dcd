import { existsSync } from 'node:fs';
import { join, posix } from 'node:path';
import { isInvisible } from '../src/core/html/content-model';
import { readSource } from '../src/core/html/source';
import {
  attr,
  bodyOf,
  childrenOf,
  collapse,
  descendants,
  type Document,
  type Element,
  isElement,
  isText,
  type Node,
  parsePage,
} from '../src/core/html/tree';
import { chooseModel } from '../src/core/placement/shop-page';
import { type ParsedPage, parsePageFile } from '../src/core/site/read-page';
import { regionsOf } from '../src/core/site/regions';
import { namesOf } from '../src/core/site/signs';
import { labelledSites, type Marks } from './labels/chrome';
import { strangeSites } from './labels/chrome-strangers';
import { lookSites } from './labels/look';
import { CheckedShop } from './support/checked-shop';
import { type Figure, figure } from './support/figure';
import { blocksOf, elementsOf } from './support/marks';
import { filesOf, topOf } from './support/outside-files';
import { fetchPackage, type OutsidePackage } from './support/outside-sites';

/** Faults of a page of the shop, and of the owner's since there is one, by what a shopper or a search engine would call them. */
const kinds = [
  'chrome lost',
  'leftovers',
  'dead way',
  'dead fragment',
  'head',
  'owner’s words lost',
] as const;
type Kind = (typeof kinds)[number];

/** Words on so large a share of a site's other pages are chrome; on no more than the other, they are some page's own. */
const SHARED = 0.75;
const OWN = 0.2;
/** With fewer pages nobody can tell chrome from content by comparing. */
const FEWEST = 4;
/** Pages that are taken in of one site, and pages whose words are counted, at most. */
const MOST = 300;
const COUNTED = 60;
/** Pages of the owner's that are looked at again with the shop in the menu. */
const AGAIN = 12;

interface Fault {
  readonly kind: Kind;
  readonly what: string;
}

/**
 * Pages of the shop on sites of the registries: whether all that the site's pages share is there, and nothing that only the model says;
 * whether every way leads on; whether the head speaks of the shop. Chrome is told from content by counting words over all pages, not by the
 * engine's regions.
 */
export async function shopPages(): Promise<Figure[]> {
  const sites = distinct();
  const faults = new Map<string, readonly Fault[]>();
  for (const { of, root, marks } of sites) {
    const folder = await fetchPackage(of);
    if (!folder || !existsSync(join(folder, root))) continue;
    const files = firstPages(await filesOf(join(folder, root)));
    const found = await judge(files, marks).catch((e): Fault[] => [{ kind: 'chrome lost', what: String(e) }]);
    faults.set(of.name, found);
    process.stderr.write(`  ${of.name}\n`);
  }
  if (process.env.STALL_BENCH_MISSES)
    for (const [name, all] of faults)
      for (const { kind, what } of all) process.stderr.write(`${name}: ${kind}: ${what}\n`);
  const right = (kind?: Kind) =>
    [...faults.values()].filter((all) => !all.some((f) => kind === undefined || f.kind === kind)).length;
  const share = (n: number) => `${Math.round((n / Math.max(1, faults.size)) * 1000) / 10} %`;
  return [
    figure('sites with nothing wrong', share(right()), `${faults.size} sites`, `${right()}`, '98 %'),
    ...kinds.map((kind) =>
      figure(`sites without: ${kind}`, share(right(kind)), `${faults.size} sites`, `${right(kind)}`, '98 %'),
    ),
  ];
}

interface Site {
  readonly of: OutsidePackage;
  readonly root: string;
  readonly marks?: Marks;
}

/** Each package once, whichever list it stands in. */
function distinct(): Site[] {
  const all: Site[] = [...strangeSites, ...lookSites, ...labelledSites];
  const only = process.env.STALL_BENCH_ONLY ? new RegExp(process.env.STALL_BENCH_ONLY) : /./;
  return all.filter((s, n) => only.test(s.of.name) && all.findIndex((o) => o.of.name === s.of.name) === n);
}

type Files = Readonly<Record<string, string | Uint8Array>>;

/** Of large sets the first pages; without the one folder that all lie in, as a site is taken in. */
function firstPages(files: Files): Files {
  let pages = 0;
  const top = topOf(Object.keys(files));
  return Object.fromEntries(
    Object.entries(files)
      .filter(([path]) => !/\.html?$/i.test(path) || ++pages <= MOST)
      .map(([path, bytes]) => [path.slice(top.length), bytes]),
  );
}

async function judge(files: Files, marks: Marks | undefined): Promise<Fault[]> {
  const shop = await CheckedShop.open(files);
  try {
    return await judgePages(shop, files, marks);
  } finally {
    await shop.end();
  }
}

async function judgePages(shop: CheckedShop, files: Files, marks: Marks | undefined): Promise<Fault[]> {
  const site = await shop.site();
  const model = chooseModel(site.reading.pages);
  if (!model) return [{ kind: 'chrome lost', what: 'no model' }];
  const pageOf = (path: string) => parsed(files[path] ?? new Uint8Array());
  const { pages } = site.reading;
  const written = await shop.shopPages();
  const paths = new Set([...Object.keys(files), ...written.keys()]);
  const step = Math.ceil(pages.length / COUNTED);
  const counted = pages.filter((p, n) => p.path !== model.path && n % step === 0);
  const common = countsOf(counted.map((p) => () => wordsOf(pageOf(p.path))));
  const bytes = files[model.path] ?? '';
  const read = parsePageFile(model.path, Buffer.from(bytes as string), model.regions);
  if ('problem' in read) return [{ kind: 'chrome lost', what: read.problem }];
  const own = read.page.doc;
  const chrome = wordsOf(own, contentOf(read.page, marks));
  const faults = [...written].flatMap(([path, bytes]) => {
    const doc = parsed(bytes);
    const said = new Set(wordsOf(doc));
    return [
      ...(pages.length >= FEWEST
        ? [...chromeFaults(model.path, chrome, said, common), ...leftovers(doc, own, common)]
        : []),
      ...ways(path, doc, paths, waysOf(model.path, own)),
      ...fragments(doc, own),
      ...headFaults(doc, own),
    ];
  });
  faults.push(...(await lostWords(shop, files)));
  // The same fault on each page of the shop is one.
  return faults.filter((f, n) => faults.findIndex((o) => o.kind === f.kind && o.what === f.what) === n);
}

/** What an owner's page said before it sells, it says afterwards: selling adds, and takes nothing away. */
async function lostWords(shop: CheckedShop, files: Files): Promise<Fault[]> {
  const { pages } = (await shop.site()).reading;
  const step = Math.ceil(pages.length / AGAIN);
  const some = pages.filter((p, n) => n % step === 0 && files[p.path] !== undefined).map((p) => p.path);
  const written = await shop.ownPages(some);
  return some.flatMap((path): Fault[] => {
    const now = new Set(wordsOf(parsed(written.get(path) ?? '')));
    const lost = wordsOf(parsed(files[path] ?? '')).find((text) => !now.has(text));
    return lost ? [{ kind: 'owner’s words lost', what: `“${lost.slice(0, 60)}” of ${path}` }] : [];
  });
}

const parsed = (bytes: string | Uint8Array): Document =>
  parsePage(readSource(typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes));

/** Pieces of text that a visitor meets; what stands in our own elements, and in the box around them, is not asked. */
function wordsOf(doc: Document, without: ReadonlySet<Element> = new Set()): string[] {
  const out: string[] = [];
  const visit = (node: Node): void => {
    for (const kid of childrenOf(node)) {
      if (isText(kid)) out.push(collapse(kid.value).toLowerCase());
      else if (isElement(kid) && !isInvisible(kid) && !isOurs(kid) && !without.has(kid)) visit(kid);
    }
  };
  visit(bodyOf(doc) ?? doc);
  return out.filter((text) => /\p{L}{2}/u.test(text));
}

/**
 * Main part and side columns of a model, which a page of the shop has not: as they were marked by hand where they were, else as the engine
 * says.
 */
function contentOf(page: ParsedPage, marks: Marks | undefined): ReadonlySet<Element> {
  const body = bodyOf(page.doc);
  if (!body) return new Set();
  const byHand = [marks?.main, marks?.side].flatMap((mark) => (mark ? marked(body, mark) : []));
  const names = ['side', 'side-2', ...(byHand.length > 0 ? [] : ['main'])];
  const spots = [...regionsOf(page)].filter(([name]) => names.includes(name));
  const ways = [...descendants(body)].filter(isOfOnePage);
  return new Set([...byHand, ...ways, ...spots.flatMap(([, spot]) => blocksOf(spot))]);
}

/** Crumbs, and ways to the page before and the next: they speak of the one page that they are on. */
function isOfOnePage(el: Element): boolean {
  if (/\b(prev|previous|next|up)\b/i.test(attr(el, 'rel') ?? '')) return true;
  if (/^[npu]$/i.test(attr(el, 'accesskey') ?? '')) return true;
  return namesOf(el).some((name) => /^(path|bread-?crumbs?)$/i.test(name));
}

/** What a mark is of; nothing on a page that is made otherwise. */
function marked(body: Element, mark: string): readonly Element[] {
  try {
    return elementsOf(body, mark, '');
  } catch {
    return [];
  }
}

const isOurs = (el: Element): boolean =>
  el.tagName.startsWith('stall-') ||
  childrenOf(el).some((k) => isElement(k) && /^stall-(shop|page|lookup)$/.test(k.tagName));

interface Common {
  readonly share: (text: string) => number;
}

/** @param pages words of each, one after the other: the trees of a whole site would fill the memory */
function countsOf(pages: readonly (() => string[])[]): Common {
  const counts = new Map<string, number>();
  for (const words of pages)
    for (const text of new Set(words())) counts.set(text, (counts.get(text) ?? 0) + 1);
  return { share: (text) => (counts.get(text) ?? 0) / Math.max(1, pages.length) };
}

const chromeFaults = (
  path: string,
  words: readonly string[],
  said: ReadonlySet<string>,
  { share }: Common,
): Fault[] =>
  [...new Set(words)]
    .filter((text) => share(text) >= SHARED && !said.has(text))
    .map((text) => ({ kind: 'chrome lost', what: `“${text.slice(0, 60)}” of ${path}` }));

const leftovers = (doc: Document, model: Document, { share }: Common): Fault[] => {
  const models = new Set(wordsOf(model));
  return [...new Set(wordsOf(doc))]
    .filter((text) => models.has(text) && share(text) <= OWN)
    .map((text) => ({ kind: 'leftovers', what: `“${text.slice(0, 60)}”` }));
};

/** Addresses of a page within its site, as paths; nothing where it names another base. */
function waysOf(path: string, doc: Document): ReadonlySet<string> {
  const all = [...descendants(doc)];
  if (all.some((el) => el.tagName === 'base' && attr(el, 'href'))) return new Set();
  return new Set(
    all
      .flatMap((el) => [attr(el, 'href'), attr(el, 'src'), attr(el, 'poster')])
      .flatMap((address) => targetOf(path, address?.trim())),
  );
}

function targetOf(path: string, address: string | undefined): string[] {
  if (!address || /^([a-z][a-z0-9+.-]*:|\/\/|#|\?)/i.test(address)) return [];
  const [plain = ''] = address.split(/[?#]/);
  try {
    const target = plain.startsWith('/')
      ? decodeURIComponent(plain).slice(1)
      : posix.join(posix.dirname(path), decodeURIComponent(plain));
    // What lies above the site is none of its files, from wherever it is named.
    return [target.replace(/^(\.\.?\/)+|\/$/g, '')];
  } catch {
    return [];
  }
}

/** What leads nowhere from here and was right from the model. */
const ways = (
  path: string,
  doc: Document,
  paths: ReadonlySet<string>,
  before: ReadonlySet<string>,
): Fault[] => {
  const isThere = (to: string) =>
    ['', '.html', '/index.html', '/index.htm'].some((end) => paths.has(to + end)) ||
    to === '' ||
    to === '.' ||
    [...paths].some((p) => p.startsWith(`${to}/`));
  return [...waysOf(path, doc)]
    .filter((to) => !isThere(to) && !before.has(to))
    .map((to) => ({ kind: 'dead way', what: to }));
};

function fragments(doc: Document, model: Document): Fault[] {
  const targets = (of: Document) =>
    new Set([...descendants(of)].flatMap((el) => [attr(el, 'id'), attr(el, 'name')]));
  const [here, there] = [targets(doc), targets(model)];
  return [...descendants(doc)].flatMap((el): Fault[] => {
    const name = el.tagName === 'a' ? /^#(.+)$/.exec(attr(el, 'href')?.trim() ?? '')?.[1] : undefined;
    return name !== undefined && there.has(name) && !here.has(name)
      ? [{ kind: 'dead fragment', what: `#${name}` }]
      : [];
  });
}

/** What a head says that only the model may say. */
function headFaults(doc: Document, model: Document): Fault[] {
  const all = [...descendants(doc)];
  const rels = all.filter((el) => el.tagName === 'link').map((el) => (attr(el, 'rel') ?? '').toLowerCase());
  const title = all.find((el) => el.tagName === 'title');
  const says = title ? collapse(textIn(title)) : '';
  const faults = [
    !/ \u00b7 /.test(says) && `title “${says}”`,
    rels.some((rel) => /\b(prev|next|up|first|last|amphtml|shortlink)\b/.test(rel)) &&
      'a link of the model’s',
    rels.filter((rel) => rel === 'canonical').length > 1 && 'two canonical addresses',
    all.some((el) => attr(el, 'type')?.toLowerCase() === 'application/ld+json') && 'structured data',
    all.some((el) => /^(og|twitter|article):/i.test(attr(el, 'property') ?? attr(el, 'name') ?? '')) &&
      'social tags',
    langOf(model) !== '' && langOf(doc) === '' && 'no language',
  ];
  return faults.flatMap((what): Fault[] => (what ? [{ kind: 'head', what }] : []));
}

const langOf = (doc: Document): string => {
  const root = [...descendants(doc)].find((el) => el.tagName === 'html');
  return (root && attr(root, 'lang')) ?? '';
};

const textIn = (el: Element): string =>
  childrenOf(el)
    .filter(isText)
    .map((t) => t.value)
    .join('');
