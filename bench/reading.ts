import { fork } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Figure, figure, median } from './support/figure';
import { makeSite } from './support/make-site';

const child = fileURLToPath(new URL('reading-child.js', import.meta.url));

interface Run {
  readonly seconds: number;
  readonly peak: number;
}

const run = (way: string, dir: string): Promise<Run> =>
  new Promise((resolve, reject) => {
    const process = fork(child, [way, dir]);
    process.once('message', (m) => resolve(m as Run));
    process.once('exit', (code) => code && reject(new Error(`reading (${way}) stopped with ${code}`)));
  });

const ROUNDS = 3;

/** Reading whole sites, held against parse5 (with locations) parsing the same files once, in the same run. */
export async function reading(): Promise<Figure[]> {
  const figures: Figure[] = [];
  const perPage: number[] = [];
  for (const pages of [1_000, 10_000]) {
    const dir = await mkdtemp(join(tmpdir(), 'stall-reading-'));
    try {
      let bytes = 0;
      for (const [path, html] of makeSite(pages, 1)) {
        await mkdir(dirname(join(dir, path)), { recursive: true });
        await writeFile(join(dir, path), html);
        bytes += Buffer.byteLength(html);
      }
      const ways: Record<string, Run[]> = { parse: [], one: [], threads: [] };
      for (let n = 0; n < ROUNDS; n++)
        for (const way of Object.keys(ways)) ways[way]?.push(await run(way, dir));
      const time = (way: string) => median((ways[way] ?? []).map((r) => r.seconds));
      const peak = (way: string) => Math.round(median((ways[way] ?? []).map((r) => r.peak)) / 2 ** 20);
      const base = `parse5 with locations: ${time('parse').toFixed(1)} s, ${peak('parse')} MB`;
      const what = `${pages.toLocaleString('en')} pages, ${Math.round(bytes / 1e6)} MB`;
      figures.push(
        figure(
          `reading ${what}, one core`,
          `${time('one').toFixed(1)} s, peak ${peak('one')} MB`,
          base,
          (time('one') / time('parse')).toFixed(2),
          '1.5 or below',
        ),
      );
      figures.push(
        figure(
          `reading ${what}, all cores`,
          `${time('threads').toFixed(1)} s, peak ${peak('threads')} MB`,
          base,
          (time('threads') / time('parse')).toFixed(2),
          'below one core',
        ),
      );
      perPage.push(time('one') / pages);
    } finally {
      await rm(dir, { recursive: true, force: true });
    }
  }
  figures.push(
    figure(
      'time to a page, 10,000 against 1,000 pages',
      `${((perPage[1] ?? 0) * 1000).toFixed(2)} ms`,
      `${((perPage[0] ?? 0) * 1000).toFixed(2)} ms`,
      ((perPage[1] ?? 0) / (perPage[0] ?? 1)).toFixed(2),
      'about 1: linear',
    ),
  );
  return figures;
}
