import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Finding } from '../src/core/checks/finding';
import { lookAtLive } from '../src/services/checks/live';
import { mend } from '../src/services/checks/mend';
import { readAgain } from '../src/services/sites/newer';
import { CheckedShop } from './support/checked-shop';
import { type Figure, figure } from './support/figure';
import { makeSite, seeded, sentence } from './support/make-site';

const PUBLISHINGS = 50;
const EDITS = 4;
const PAGES = 12;
const DAY_MS = 86_400_000;

/** What somebody does to the files of a live site, and what the checks are to say of it then; nothing where it does no harm. */
interface Edit {
  readonly name: string;
  readonly rule?: string;
  readonly make: (page: string, next: (below: number) => number, n: number) => string;
}

/** Puts a block before the end of a page's main part. */
const block = (html: string) => (page: string) =>
  page.replace(/<\/div>(?=\s*(?:<div class="column"|<\/div>\s*<div id="foot"))/, `${html}</div>`);

const edits: readonly Edit[] = [
  { name: 'words', make: (page, next) => page.replace(/<h2>[^<]*<\/h2>/, `<h2>${sentence(next, 4)}</h2>`) },
  { name: 'a new block', make: (page, next) => block(`<p>${sentence(next, 12)}</p>`)(page) },
  {
    name: 'a price',
    rule: 'price-in-text',
    make: (page, next, n) =>
      block(`<p>Note ${n}: the saltmarsh creel is &pound;${10 + next(40)} now.</p>`)(page),
  },
  {
    name: 'a link',
    rule: 'dead-link',
    make: (page, _, n) => block(`<p>See <a href="gone-${n}.html">the ledger ${n}</a>.</p>`)(page),
  },
  {
    name: 'a template text',
    rule: 'placeholder-text',
    make: (page, next, n) => block(`<p>${sentence(next, 5)} [Your text here ${n}]</p>`)(page),
  },
  { name: 'a blank line', make: (page) => page.replace(/<\/h1>/, '</h1>\n\n') },
];

/** A year of an owner who edits the live files by other means: after each publishing what was broken is found, and nothing else. */
export async function year(): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'stall-year-'));
  for (const [path, text] of makeSite(PAGES, 21)) {
    await mkdir(dirname(join(folder, path)), { recursive: true });
    await writeFile(join(folder, path), text);
  }
  await writeFile(join(folder, 'site.css'), 'body{font:16px Georgia;color:#222}');
  const server = createServer((req, res) => {
    const path = new URL(req.url ?? '/', 'http://x').pathname.replace(/\/$/, '/index.html');
    // The shop answers, too.
    if (path.endsWith('/goods')) return void res.end('goods');
    readFile(join(folder, decodeURIComponent(path))).then(
      (bytes) => res.end(bytes),
      () => res.writeHead(404).end(),
    );
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.address() as AddressInfo;
  const shop = await CheckedShop.inFolder(folder, `http://127.0.0.1:${port}`);
  const tally = { seeded: 0, found: 0, told: 0, changed: 0, seen: 0, misses: [] as string[] };
  try {
    await shop.publish();
    for (let n = 0; n < PUBLISHINGS; n++) await oneMonth(shop, folder, n, tally);
  } finally {
    server.close();
    await shop.end();
    await rm(folder, { recursive: true, force: true });
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(`${tally.misses.join('\n')}\n`);
  const of = `${PUBLISHINGS * EDITS} edits elsewhere, ${PUBLISHINGS} publishings`;
  return [
    figure(
      'a year: live pages that were changed elsewhere, told',
      `${tally.seen} of ${tally.changed}`,
      of,
      '',
      'all',
    ),
    figure(
      'a year: faults that came with the edits, found',
      `${tally.found} of ${tally.seeded}`,
      of,
      '',
      'all',
    ),
    figure('a year: told beside them', String(tally.told), of, '', '0'),
  ];
}

interface Tally {
  seeded: number;
  found: number;
  told: number;
  changed: number;
  seen: number;
  readonly misses: string[];
}

async function oneMonth(shop: CheckedShop, folder: string, month: number, tally: Tally): Promise<void> {
  const { ctx, clock } = shop.world;
  const next = seeded(1_000 + month);
  clock.ms += 7 * DAY_MS;
  const before = new Set((await shop.check()).findings.map((f) => f.key));
  const pages = (await shop.site()).reading.pages.map((p) => p.path);
  const wanted: { rule: string; page: string }[] = [];
  const harmed = new Set<string>();
  let touched = false;
  for (let e = 0; e < EDITS; e++) {
    const edit = edits[next(edits.length)];
    const page = pages[next(pages.length)] ?? 'index.html';
    const file = join(folder, page);
    const was = await readFile(file, 'utf8');
    const now = edit?.make(was, next, month * 10 + e) ?? was;
    if (now === was) continue;
    await writeFile(file, now);
    touched = true;
    if (edit?.name !== 'a blank line') harmed.add(page);
    if (edit?.rule) wanted.push({ rule: edit.rule, page });
  }
  const live = new Set((await lookAtLive(ctx, await shop.site()))?.pages.map((p) => p.path));
  tally.changed += harmed.size;
  tally.seen += [...harmed].filter((p) => live.has(p)).length;
  const beside = [...live].filter((p) => !harmed.has(p));
  tally.told += beside.length;
  tally.misses.push(...beside.map((p) => `month ${month}: ${p} is told to differ`));
  // Before anything is published the site is read again, as the office asks for.
  if (touched) await readAgain(ctx, await shop.site());
  const fresh = (await shop.check()).findings.filter(
    (f) => !before.has(f.key) && !f.rule.startsWith('live-'),
  );
  judge(month, wanted, fresh, tally);
  await mendFresh(shop, fresh);
  clock.ms += DAY_MS / 24;
  await shop.publish();
  await lookAtLive(ctx, await shop.site());
}

function judge(
  month: number,
  wanted: readonly { rule: string; page: string }[],
  fresh: readonly Finding[],
  tally: Tally,
): void {
  const left = [...fresh];
  for (const w of wanted) {
    tally.seeded++;
    const at = left.findIndex((f) => f.rule === w.rule && f.place.on === 'page' && f.place.page === w.page);
    if (at >= 0) {
      tally.found++;
      left.splice(at, 1);
    } else tally.misses.push(`month ${month}: ${w.rule} on ${w.page} was not found`);
  }
  tally.told += left.length;
  tally.misses.push(
    ...left.map((f) => `month ${month}: told beside: ${f.rule} ${f.title} (${f.place.name})`),
  );
}

/** The owner presses what there is to press. */
async function mendFresh(shop: CheckedShop, fresh: readonly Finding[]): Promise<void> {
  for (const f of fresh) {
    const n = f.mends.findIndex((m) => m.do !== 'go');
    if (n >= 0)
      await mend(shop.world.ctx, await shop.site(), [{ key: f.key, n }], 'bench').catch(() => undefined);
  }
}
