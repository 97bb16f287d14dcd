import { entryAt } from '../src/core/entries';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { strip } from '../src/core/html/fence';
import { holdsTreeLaw, type PlaceContext, placeOnPage } from '../src/core/placement/place';
import { type Placement, placement } from '../src/core/placement/placement';
import { spellingNames } from '../src/core/placement/spelling';
import { listPitches } from '../src/core/site/pitch';
import { isPagePath, pagePath, type PagePath } from '../src/core/site/paths';
import { parsePageFile } from '../src/core/site/read-page';
import { openSite } from '../src/services/reading/open-site';
import { labelledSites } from './labels/chrome';
import { type Figure, figure } from './support/figure';
import { seeded } from './support/make-site';
import { fetchPackage } from './support/outside-sites';

const context: PlaceContext = {
  shopUrl: 'https://shop.example/w',
  scriptUrl: 'https://shop.example/stall.js',
  cartHref: 'cart/',
  productName: () => 'K\u00f6rbchen & "Rod"',
};

interface Tally {
  pages: number;
  bytes: number;
  set: number;
  reported: number;
  broken: string[];
}

/** Placing and taking out again, on every page of every site that can be had, and on the inputs of html5lib's parser tests. */
export async function identity(): Promise<Figure[]> {
  const next = seeded(11);
  const sites: Tally = { pages: 0, bytes: 0, set: 0, reported: 0, broken: [] };
  for (const root of [
    'demo/withybed',
    ...(await Promise.all(labelledSites.map(async (s) => (await fetchPackage(s.of)) ?? ''))),
  ].filter(Boolean)) {
    const files = await openSite(root);
    for (const path of files.paths.filter(isPagePath)) tryPage(path, await files.read(path), next, sites);
  }
  const cases: Tally = { pages: 0, bytes: 0, set: 0, reported: 0, broken: [] };
  const dir = 'node_modules/html5/test/data/tree-construction';
  for (const name of (await readdir(dir)).filter((f) => f.endsWith('.dat'))) {
    const text = await readFile(join(dir, name), 'latin1');
    for (const [n, data] of [...text.matchAll(/(?:^|\n)#data\n([\s\S]*?)\n#errors/g)].entries())
      tryPage(pagePath(`${name}-${n}.html`), Buffer.from(data[1] ?? '', 'latin1'), next, cases);
  }
  return [
    row('every page of the sites', sites),
    row('inputs of html5lib tree construction (html5 1.0.5)', cases),
  ];
}

const row = (what: string, t: Tally): Figure =>
  figure(
    `place and strip is identity: ${what}`,
    t.broken.length ? `broken on ${t.broken.length}: ${t.broken.slice(0, 3).join(', ')}` : 'on all',
    `${t.pages} pages, ${(t.bytes / 1e6).toFixed(1)} MB`,
    `${t.set} set, ${t.reported} told`,
    'on all',
  );

function tryPage(path: PagePath, bytes: Uint8Array, next: (below: number) => number, t: Tally): void {
  const parsed = parsePageFile(path, bytes);
  if ('problem' in parsed) return;
  const { page } = parsed;
  const pitches = listPitches(page);
  const placements: Placement[] = Array.from({ length: Math.min(4, pitches.length) }, (_, n) => {
    const pitch = entryAt(pitches, next(pitches.length));
    return placement.parse({
      id: `ident00${n}`,
      kind: n % 2 ? 'cart' : 'buy',
      settings: n % 2 ? {} : { goods: 'rod' },
      spelling: spellingNames[next(spellingNames.length)],
      pitch: pitch.address,
      pitchLabel: pitch.label,
      reach: { to: 'every' },
      order: n,
    });
  });
  const out = placeOnPage(page, placements, context);
  t.pages++;
  t.bytes += bytes.length;
  t.set += out.placed.length;
  t.reported += out.lost.length;
  const whole =
    Buffer.from(strip(out.bytes).bytes).equals(bytes) &&
    holdsTreeLaw(
      page,
      out.edits.map((edit) => ({ edit })),
    );
  if (!whole) t.broken.push(path);
}
