import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { bodyOf, type Element, rawText } from '../src/core/html/tree';
import type { PagePath } from '../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../src/core/site/read-page';
import { readSite } from '../src/core/site/read-site';
import { regionsOf } from '../src/core/site/regions';
import { namesOf } from '../src/core/site/signs';
import { openSite } from '../src/services/reading/open-site';
import { labelledSites, type LabelledSite, type Marks } from './labels/chrome';
import { type Figure, figure } from './support/figure';
import { blocksOf, elementsOf } from './support/marks';
import { fetchPackage } from './support/outside-sites';

const regions = ['header', 'menu', 'main', 'side', 'footer'] as const;
type Region = (typeof regions)[number];

/** Share of letters that found and marked region must have in common (Jaccard) to be the same. */
const SAME = 0.75;

interface Tally {
  right: number;
  found: number;
  marked: number;
}

/** Chrome and menu as the engine finds them, against marks made by hand: precision and recall by region. */
export async function chrome(): Promise<Figure[]> {
  const tally = Object.fromEntries(regions.map((r) => [r, { right: 0, found: 0, marked: 0 }])) as Record<
    Region,
    Tally
  >;
  const misses: string[] = [];
  let pages = 0;
  let sites = 0;
  for (const site of labelledSites) {
    const folder = await fetchPackage(site.of);
    if (!folder) continue;
    sites++;
    pages += await compare(join(folder, site.root), site, tally, misses);
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${misses.join('\n')}\n`);
  const of = `${pages} pages of ${sites} sites, marked by hand`;
  return regions.map((r) => {
    const t = tally[r];
    const share = (n: number, all: number) => (all ? `${Math.round((n / all) * 1000) / 10} %` : 'none');
    return figure(
      `${r}: precision / recall`,
      `${share(t.right, t.found)} / ${share(t.right, t.marked)}`,
      of,
      `${t.right} right, ${t.found} found, ${t.marked} marked`,
      '',
    );
  });
}

async function compare(
  root: string,
  site: LabelledSite,
  tally: Record<Region, Tally>,
  misses: string[],
): Promise<number> {
  const files = await openSite(root);
  const reading = await readSite(files);
  const names = Object.keys(site.pages);
  for (const name of names) {
    const facts = reading.pages.find((p) => p.path === name);
    if (!facts) throw new Error(`${site.of.name} has no page ${name}: look at the marks again`);
    const parsed = parsePageFile(name as PagePath, await readFile(join(root, name)), facts.regions);
    if ('problem' in parsed) throw new Error(parsed.problem);
    misses.push(
      ...comparePage(parsed.page, { ...site.marks, ...site.pages[name] }, tally, `${site.of.name} ${name}`),
    );
  }
  return names.length;
}

/** Counts the regions of one page; those that were missed, each with what was found in its place. */
function comparePage(page: ParsedPage, marks: Marks, tally: Record<Region, Tally>, where: string): string[] {
  const found = regionsOf(page);
  const body = bodyOf(page.doc) as Element;
  return regions.flatMap((region) => {
    const mark = marks[region as keyof Marks];
    const marked = mark ? elementsOf(body, mark, where) : [];
    const spot = found.get(region);
    const miss = count(tally[region], spot ? blocksOf(spot) : [], marked);
    if (miss === undefined) return [];
    const how = spot ? ` (${spot.by} ${spot.confidence})` : '';
    return `${where} ${region}: marked ${mark ?? 'none'}, ${miss}${how}`;
  });
}

/** Counts one region of one page; what was found in its place where it is not what was marked. */
function count(t: Tally, found: readonly Element[], marked: readonly Element[]): string | undefined {
  if (found.length) t.found++;
  if (marked.length) t.marked++;
  const same = found.length && marked.length ? overlap(found, marked) : 0;
  if (same >= SAME) t.right++;
  if (same >= SAME || (found.length === 0 && marked.length === 0)) return undefined;
  return `found ${found.map(nameOf).join(' + ') || 'none'} ${same.toFixed(2)}`;
}

const nameOf = (el: Element): string => [el.tagName, ...namesOf(el)].join('.');

/** Letters of the source in common, of all that either holds. Menus of pictures are told by their markup. */
function overlap(a: readonly Element[], b: readonly Element[]): number {
  const [fromA, toA] = rangeOf(a);
  const [fromB, toB] = rangeOf(b);
  const both = Math.max(0, Math.min(toA, toB) - Math.max(fromA, fromB));
  const letters = (els: readonly Element[]) =>
    els.reduce((n, e) => n + rawText(e).replace(/\s+/g, '').length, 0);
  if (both === 0) return 0;
  const [small, large] = [Math.min(letters(a), letters(b)), Math.max(letters(a), letters(b))];
  return large === 0 ? both / (Math.max(toA, toB) - Math.min(fromA, fromB)) : small / large;
}

function rangeOf(els: readonly Element[]): [number, number] {
  const places = els.flatMap((e) => (e.sourceCodeLocation ? [e.sourceCodeLocation] : []));
  return [Math.min(...places.map((p) => p.startOffset)), Math.max(...places.map((p) => p.endOffset))];
}
