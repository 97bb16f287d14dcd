import { readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { chromium } from 'playwright-core';
import { figure, median, type Measurement } from './support/figure';
import { startDemo } from './support/installation';

const RUNS = 7;

/** Layout shift and largest paint of the demo's home page, as its owner made it and with widgets, in turns in one browser. */
export const shift: Measurement = async () => {
  const demo = await startDemo(4840);
  const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'] });
  try {
    const keys = JSON.parse(await readFile(join(demo.dir, 'standins.json'), 'utf8')) as { host: string };
    await fetch(`http://127.0.0.1:${demo.port + 3}/sites/plain`, { method: 'PUT', headers: { authorization: `Bearer ${keys.host}`, 'content-type': 'application/json' }, body: JSON.stringify({ folder: resolve('demo/withybed') }) });
    const seen = { plain: [] as [number, number][], withybed: [] as [number, number][] };
    for (let i = 0; i < RUNS; i++) {
      for (const name of ['plain', 'withybed'] as const) {
        const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
        const page = await context.newPage();
        await page.addInitScript(() => {
          const w = window as unknown as { cls: number; lcp: number };
          w.cls = 0;
          new PerformanceObserver((l) => {
            for (const e of l.getEntries()) w.cls += (e as unknown as { value: number }).value;
          }).observe({ type: 'layout-shift', buffered: true });
          new PerformanceObserver((l) => {
            for (const e of l.getEntries()) w.lcp = e.startTime;
          }).observe({ type: 'largest-contentful-paint', buffered: true });
        });
        await page.goto(`http://${name}.localhost:${demo.port + 3}/`);
        await page.waitForTimeout(1200);
        seen[name].push(await page.evaluate(() => [(window as unknown as { cls: number }).cls, (window as unknown as { lcp: number }).lcp]));
        await context.close();
      }
    }
    const mid = (name: keyof typeof seen, i: 0 | 1) => median(seen[name].map((s) => s[i]));
    return [
      figure('layout shift of the home page with widgets', mid('withybed', 1) ? mid('withybed', 0).toFixed(4) : 'not painted', `without: ${mid('plain', 0).toFixed(4)}`, '', 'no more than without'),
      figure('largest paint with widgets', `${mid('withybed', 1).toFixed(0)} ms`, `without: ${mid('plain', 1).toFixed(0)} ms`, (mid('withybed', 1) / mid('plain', 1)).toFixed(2), 'about 1'),
    ];
  } finally {
    await browser.close();
    await demo.end();
  }
};
