import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { judge, mutate, mutations, type Verdict } from '../src/core/placement/testing';
import { reanchor as findAgain, type SiteVersion } from '../src/core/placement/reanchor';
import { placement } from '../src/core/placement/placement';
import { listPitches, type Pitch } from '../src/core/site/pitch';
import type { PagePath } from '../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../src/core/site/read-page';
import { readSite } from '../src/core/site/read-site';
import { openSite } from '../src/services/reading/open-site';
import { labelledSites } from './labels/chrome';
import { type Figure, figure } from './support/figure';
import { seeded } from './support/make-site';
import { fetchPackage } from './support/outside-sites';

interface Tally extends Record<Verdict, number> {
  stood: number;
  stoodRight: number;
}
const tally = (): Tally => ({ right: 0, reported: 0, wrong: 0, stood: 0, stoodRight: 0 });

/** Pitches tried on each page, taken evenly, and copies mutated of each. */
const PITCHES = 30;
const COPIES = 4;

/** Pitches found again on mutated copies of real pages: right, reported, or wrong. */
export async function reanchor(): Promise<Figure[]> {
  const pages = await realPages();
  const next = seeded(7);
  const tallies: Record<string, Tally> = {};
  for (const [name, mutation] of Object.entries(mutations)) {
    const t = (tallies[name] = tally());
    for (const page of pages) {
      const all = listPitches(page).filter((p) => name !== 'template changed' || p.region === 'main');
      const tried = spread(all).filter((pitch) => pitch.address.path !== '');
      for (let copy = 0; copy < COPIES; copy++) {
        const after = mutate(page, mutation, next);
        if (!after) continue;
        for (const pitch of tried) tryPitch(t, name, page, pitch, after);
      }
    }
  }
  tallies['pages renamed'] = await renamed();
  const share = (n: number, of: number) => `${of ? Math.round((n / of) * 1000) / 10 : 100} %`;
  const total = Object.values(tallies).reduce((sum, t) => sum + t.wrong, 0);
  return [
    ...Object.entries(tallies).map(([name, t]) =>
      figure(
        `${name}: right / reported / wrong`,
        `${t.right} / ${t.reported} / ${t.wrong}`,
        `neighbours stand: ${t.stoodRight} of ${t.stood} right`,
        share(t.stoodRight, t.stood),
        '98 % where the neighbours stand',
      ),
    ),
    figure(
      'wrong, over all',
      String(total),
      `${Object.values(tallies).reduce((s, t) => s + t.right + t.reported + t.wrong, 0)} pitches on copies of ${pages.length} pages`,
      '',
      '0',
    ),
  ];
}

/** At most about PITCHES of them, taken evenly from first to last. */
function spread(all: readonly Pitch[]): Pitch[] {
  const step = Math.max(1, all.length / PITCHES);
  const taken = Array.from({ length: Math.ceil(all.length / step) }, (_, n) => all[Math.floor(n * step)]);
  return taken.filter((p) => p !== undefined);
}

function tryPitch(
  t: Tally,
  mutation: string,
  page: ParsedPage,
  pitch: Pitch,
  after: NonNullable<ReturnType<typeof mutate>>,
): void {
  const { verdict, stands, got } = judge(page, pitch, after);
  t[verdict]++;
  if (stands) t.stood++;
  if (stands && verdict === 'right') t.stoodRight++;
  if (verdict !== 'wrong' || !process.env.STALL_BENCH_MISSES) return;
  const written = (p: Pitch | undefined) => `${p?.label} ${JSON.stringify(p?.address)}`;
  process.stderr.write(`${mutation} ${page.path}: ${written(pitch)} -> ${written(got)}\n`);
}

async function realPages(): Promise<ParsedPage[]> {
  const pages: ParsedPage[] = [];
  const take = async (root: string, names: readonly string[] | undefined) => {
    const reading = await readSite(await openSite(root));
    for (const facts of reading.pages.filter((p) => !names || names.includes(p.path))) {
      const parsed = parsePageFile(facts.path, await readFile(join(root, facts.path)), facts.regions);
      if ('page' in parsed && parsed.page.source.structure.length < 120_000) pages.push(parsed.page);
    }
  };
  await take('demo/withybed', undefined);
  for (const site of labelledSites) {
    const folder = await fetchPackage(site.of);
    if (folder) await take(join(folder, site.root), Object.keys(site.pages));
  }
  return pages;
}

/** Every page under another name, every placement of one page; found by what the pages say. */
async function renamed(): Promise<Tally> {
  const t = tally();
  const files = await openSite('demo/withybed');
  const before = await version(files.read, files.paths);
  const other = (path: PagePath): PagePath =>
    (path.endsWith('.html') && path !== 'index.html'
      ? `pages/${path.replace(/\/index\.html$/, '').replace(/\//g, '-')}.html`
      : path) as PagePath;
  const back = new Map(files.paths.map((p) => [other(p), p]));
  const after = await version((path) => files.read(back.get(path) ?? path), files.paths.map(other));
  for (const { path } of before.reading.pages) {
    const placements = listPitches(await before.load(path))
      .filter((p) => p.region === 'main')
      .slice(0, 12)
      .map((p, n) =>
        placement.parse({
          id: `renamed0${String(n).padStart(2, '0')}`,
          kind: 'cart',
          settings: {},
          pitch: p.address,
          pitchLabel: p.label,
          reach: { to: 'page', page: path },
          order: n,
        }),
      );
    const done = await findAgain(before, after, placements);
    for (const a of done.anchorings) {
      const original = placements.find((p) => p.id === a.id);
      const same = a.found && a.page === other(path) && a.pitch.address.path === original?.pitch.path;
      const found: Verdict = same ? 'right' : 'wrong';
      const verdict: Verdict = a.found ? found : 'reported';
      t[verdict]++;
      t.stood++;
      if (verdict === 'right') t.stoodRight++;
    }
  }
  return t;
}

async function version(
  read: (path: PagePath) => Promise<Uint8Array>,
  paths: readonly PagePath[],
): Promise<SiteVersion> {
  const reading = await readSite({ paths, read });
  const load = async (path: PagePath): Promise<ParsedPage> => {
    const parsed = parsePageFile(path, await read(path), reading.pages.find((p) => p.path === path)?.regions);
    if ('problem' in parsed) throw new Error(parsed.problem);
    return parsed.page;
  };
  return { reading, load };
}
