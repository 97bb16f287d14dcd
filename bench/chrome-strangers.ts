import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { isInvisible } from '../src/core/html/content-model';
import {
  attr,
  bodyOf,
  childrenOf,
  collapse,
  descendants,
  type Element,
  isElement,
  isText,
  type Node,
  rawText,
} from '../src/core/html/tree';
import { menuNodes, type MenuNode } from '../src/core/site/menu';
import type { PagePath } from '../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../src/core/site/read-page';
import { readSite } from '../src/core/site/read-site';
import { regionsOf } from '../src/core/site/regions';
import { namesOf } from '../src/core/site/signs';
import { openSite } from '../src/services/reading/open-site';
import type { Marks } from './labels/chrome';
import { type StrangeSite, strangeSites } from './labels/chrome-strangers';
import { moreStrangeSites } from './labels/chrome-strangers-more';
import { type Figure, figure } from './support/figure';
import { blocksOf, elementsOf } from './support/marks';
import { fetchPackage } from './support/outside-sites';

const regions = ['header', 'menu', 'side', 'main', 'footer'] as const;
const scored = [...regions, 'menu items'] as const;
type Scored = (typeof scored)[number];

/** F1 of single pages, and of how sure the reading said it was of what it found. */
interface Half {
  readonly f1: Record<Scored, number[]>;
  readonly sure: { readonly confidence: number; readonly right: boolean }[];
  pages: number;
}
const half = (): Half => ({
  f1: { header: [], menu: [], side: [], main: [], footer: [], 'menu items': [] },
  sure: [],
  pages: 0,
});

/** Letters in common from which a region counts as right for the calibration. */
const RIGHT = 0.75;

/** Regions and menu items on sites the reading was never made for: F1 by visible letters, each half by itself. */
export async function chromeStrangers(): Promise<Figure[]> {
  const halves = { looked: half(), kept: half() };
  const misses: string[] = [];
  for (const site of [...strangeSites, ...moreStrangeSites].filter(isWanted)) {
    const folder = await fetchPackage(site.of);
    if (folder)
      misses.push(...(await score(join(folder, site.root), site, halves[site.kept ? 'kept' : 'looked'])));
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${misses.join('\n')}\n`);
  return scored
    .flatMap((what) => [
      figure(
        `${what}: F1`,
        mean(halves.kept.f1[what]).toFixed(3),
        `${halves.kept.pages} pages kept aside`,
        `${mean(halves.looked.f1[what]).toFixed(3)} on the ${halves.looked.pages} pages looked at`,
        '0.95',
      ),
    ])
    .concat(calibration([...halves.kept.sure, ...halves.looked.sure]));
}

/** While a rule is worked on, only what this is like: STALL_BENCH_ONLY='^looked'. */
const only = new RegExp(process.env.STALL_BENCH_ONLY ?? '');
const isWanted = (site: StrangeSite) => only.test(`${site.kept ? 'kept' : 'looked'} ${site.of.name}`);

const mean = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0) / Math.max(1, all.length);

/** Of what is said with a confidence, how much is right. */
function calibration(all: Half['sure']): Figure[] {
  const bands = [
    [0.9, 1.01],
    [0.75, 0.9],
    [0.6, 0.75],
    [0, 0.6],
  ] as const;
  return bands.map(([from, to]) => {
    const some = all.filter((s) => s.confidence >= from && s.confidence < to);
    const right = some.filter((s) => s.right).length;
    return figure(
      `right of what is said with ${from === 0 ? 'less than 0.6' : `${from} and more`}`,
      some.length ? `${Math.round((right / some.length) * 100)} %` : 'none',
      `${some.length} regions`,
      '',
      from === 0.9 ? '90 %' : '',
    );
  });
}

async function score(root: string, site: StrangeSite, to: Half): Promise<string[]> {
  const reading = await readSite(await openSite(root));
  const misses: string[] = [];
  for (const [name, own] of Object.entries(site.pages)) {
    const facts = reading.pages.find((p) => p.path === name);
    if (!facts) throw new Error(`${site.of.name} has no page ${name}: look at the marks again`);
    const parsed = parsePageFile(name as PagePath, await readFile(join(root, name)), facts.regions);
    if ('problem' in parsed) throw new Error(parsed.problem);
    to.pages++;
    misses.push(
      ...scorePage(
        parsed.page,
        { ...site.marks, ...own },
        to,
        `${site.kept ? 'kept ' : ''}${site.of.name} ${name}`,
      ),
    );
  }
  return misses;
}

function scorePage(page: ParsedPage, marks: Marks, to: Half, where: string): string[] {
  const body = bodyOf(page.doc) as Element;
  return [
    ...regions.flatMap((region) =>
      scoreRegion(page, region, elementsFor(body, marks[region], where), to, where),
    ),
    ...scoreItems(page, elementsFor(body, marks.menu, where), to, where),
  ];
}

const elementsFor = (body: Element, mark: string | null, where: string): readonly Element[] =>
  mark ? elementsOf(body, mark, where) : [];

function scoreRegion(
  page: ParsedPage,
  region: (typeof regions)[number],
  marked: readonly Element[],
  to: Half,
  where: string,
): string[] {
  const spot = regionsOf(page).get(region);
  const found = spot ? blocksOf(spot) : [];
  const f1 = f1OfElements(found, marked);
  if (spot) to.sure.push({ confidence: spot.confidence, right: (f1 ?? 0) >= RIGHT });
  if (f1 === undefined) return [];
  to.f1[region].push(f1);
  if (f1 >= 0.9) return [];
  const names = (els: readonly Element[]) => els.map(nameOf).slice(0, 3).join(' + ') || 'none';
  const how = spot ? ` (${spot.by} ${spot.confidence})` : '';
  return [`${where} ${region} ${f1.toFixed(2)}: marked ${names(marked)}, found ${names(found)}${how}`];
}

function scoreItems(page: ParsedPage, marked: readonly Element[], to: Half, where: string): string[] {
  const menu = regionsOf(page).get('menu')?.element;
  const read = menu ? flat(menuNodes(menu, page.path, page.source, () => false)) : [];
  const items = linksOf(marked);
  const f1 = f1OfSets(new Set(read), new Set(items));
  if (f1 === undefined) return [];
  to.f1['menu items'].push(f1);
  return f1 < 0.9 ? [`${where} items ${f1.toFixed(2)}: ${read.length} read, ${items.length} there`] : [];
}

const nameOf = (el: Element): string => [el.tagName, ...namesOf(el)].slice(0, 3).join('.');

/** Items by what they say and where they lead. */
const flat = (nodes: readonly MenuNode[]): string[] =>
  nodes.flatMap((n) => [...(n.link ? [keyOf(n.link)] : []), ...flat(n.children)]);
const keyOf = (link: Element): string => `${collapse(rawText(link))} ${attr(link, 'href')}`;
const linksOf = (els: readonly Element[]): string[] =>
  els.flatMap((e) =>
    [e, ...descendants(e)].filter((a) => a.tagName === 'a' && attr(a, 'href') !== undefined).map(keyOf),
  );

function f1OfSets(found: ReadonlySet<string>, marked: ReadonlySet<string>): number | undefined {
  if (found.size === 0 && marked.size === 0) return undefined;
  const both = [...found].filter((k) => marked.has(k)).length;
  return (2 * both) / (found.size + marked.size);
}

/** A picture counts as much as 24 letters, as in the reading: bars of pictures have weight. */
const PICTURE = 24;

/** Nothing where neither has any letter. */
function f1OfElements(found: readonly Element[], marked: readonly Element[]): number | undefined {
  const [a, b] = [lettersIn(found), lettersIn(marked)];
  const sum = (m: ReadonlyMap<Node, number>) => [...m.values()].reduce((x, y) => x + y, 0);
  if (found.length === 0 && marked.length === 0) return undefined;
  const both = sum(new Map([...a].filter(([node]) => b.has(node))));
  const all = sum(a) + sum(b);
  return all === 0 ? undefined : (2 * both) / all;
}

function lettersIn(roots: readonly Element[]): ReadonlyMap<Node, number> {
  const out = new Map<Node, number>();
  const stack: Node[] = [...roots];
  for (let node = stack.pop(); node; node = stack.pop()) {
    if (isText(node)) out.set(node, node.value.replace(/\s+/g, '').length);
    else if (isElement(node) && !isInvisible(node)) {
      if (node.tagName === 'img') out.set(node, PICTURE);
      stack.push(...childrenOf(node));
    }
  }
  return out;
}
