import { mkdir, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import { chromiumLaunch } from '../e2e/support/chromium';
import { type Figure, figure } from './support/figure';
import { demoOwner, addSelling, startDemo } from './support/installation';
import { makeSite, seeded, sentence } from './support/make-site';

const PAGES = 3_000;
const LONG = 2_000_000;

/** The office over a site of 3,000 pages with one page of 2 MB among them: first answers, and whether hands are followed. */
export async function office(): Promise<Figure[]> {
  const demo = await startDemo(4860);
  // Folders are connected below named roots alone; the demo names this one.
  const dir = join(demo.dir, 'live', 'stall-office');
  await writeSite(dir);
  const browser = await chromium.launch({
    ...chromiumLaunch,
  });
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    page.setDefaultTimeout(120_000);
    const home = `http://localhost:${demo.port}`;
    await signIn(page, home);
    await page.goto(`${home}/connect`);
    await page.waitForSelector('[data-ready]');
    await page.getByLabel('A folder').check();
    await page.getByLabel("The folder's whole path").fill(dir);
    const connected = await timed(async () => {
      await page.getByRole('button', { name: 'Read the site' }).click();
      await page.waitForURL(/osier\/site/);
    });
    const small = await timed(() => shown(page, `${home}/withybed/site`, '.pg'));
    const lens = await timed(() => shown(page, `${home}/osier/site`, '.pg'));
    const scrolled = await frames(page, () =>
      page.evaluate(async () => {
        const main = document.querySelector('#main') ?? document.scrollingElement;
        for (let n = 0; n < 40; n++) {
          main?.scrollBy(0, 160);
          await new Promise(requestAnimationFrame);
        }
      }),
    );
    const plain = await timed(() => shown(page, `${home}/withybed/bench?page=index.html`, '.shelf li'));
    const first = await timed(() => shown(page, `${home}/osier/bench?page=long.html`, '.shelf li'));
    const pitches = await timed(() => page.waitForSelector('.plus'));
    await page.waitForTimeout(1500);
    const dragged = await frames(page, async () => {
      for (let n = 0; n < 60; n++) await page.mouse.move(420 + (n % 8) * 40, 160 + n * 8);
    });
    await addSelling(demo.port, 'osier', false);
    const coverage = () => timed(() => shown(page, `${home}/osier/site?lens=coverage`, '.lens tbody tr'));
    const [covered, again] = [await coverage(), await coverage()];
    return [
      figure(
        `connecting ${PAGES.toLocaleString('en')} pages and one of 2 MB, to the Pages lens`,
        `${(connected / 1000).toFixed(1)} s`,
      ),
      figure(
        'Pages lens, 3,000 pages: first cards',
        `${lens} ms`,
        `the demo's 9 pages: ${small} ms`,
        (lens / small).toFixed(2),
        '',
      ),
      figure(
        'Pages lens, 3,000 pages: frame while scrolling, 95th of 100',
        `${scrolled.p95.toFixed(0)} ms`,
        `median ${scrolled.median.toFixed(0)} ms`,
        '',
        'no more than 50 ms',
      ),
      figure(
        'bench, 2 MB page of a 3,000-page site: first answer',
        `${first} ms`,
        `the demo's home page: ${plain} ms`,
        (first / plain).toFixed(2),
        'under 1000 ms',
      ),
      figure(
        'Coverage lens, 3,000 pages with a shop: first, every page as it is written',
        `${(covered / 1000).toFixed(1)} s`,
        `again: ${(again / 1000).toFixed(1)} s`,
      ),
      figure('bench, 2 MB page: every pitch proven, after that', `${pitches} ms`),
      figure(
        'bench, 2 MB page: frame while the pointer looks for a pitch, 95th of 100',
        `${dragged.p95.toFixed(0)} ms`,
        `median ${dragged.median.toFixed(0)} ms`,
        '',
        'no more than 50 ms',
      ),
    ];
  } finally {
    await browser.close();
    await demo.end();
    await rm(dir, { recursive: true, force: true });
  }
}

async function writeSite(dir: string): Promise<void> {
  let model = '';
  for (const [path, html] of makeSite(PAGES, 3)) {
    model ||= html;
    await mkdir(dirname(join(dir, path)), { recursive: true });
    await writeFile(join(dir, path), html);
  }
  const next = seeded(5);
  const paragraphs: string[] = [];
  for (let size = 0; size < LONG; size += paragraphs.at(-1)?.length ?? 1)
    paragraphs.push(
      `<div class="note"><h2>${sentence(next, 4)}</h2><p>${sentence(next, 60)} ${sentence(next, 50)}</p></div>\n`,
    );
  await writeFile(
    join(dir, 'long.html'),
    model.replace('</h1>', () => `</h1>${paragraphs.join('')}`),
  );
}

async function signIn(page: Page, home: string): Promise<void> {
  await page.goto(`${home}/sign-in`);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('E-mail').fill(demoOwner.email);
  await page.getByLabel('Password').fill(demoOwner.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(/\/site/);
}

const shown = async (page: Page, url: string, selector: string) => {
  await page.goto(url, { waitUntil: 'commit' });
  await page.waitForSelector(selector);
};

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return Math.round(performance.now() - began);
}

/** Times between frames of the page while something goes on in it. */
async function frames(page: Page, work: () => Promise<unknown>): Promise<{ median: number; p95: number }> {
  await page.evaluate(() => {
    const w = { gaps: [] as number[], stop: false };
    window.benchFrames = w;
    let last = performance.now();
    const tick = (now: number) => {
      w.gaps.push(now - last);
      last = now;
      if (!w.stop) requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await work();
  const gaps = await page.evaluate(() => {
    const w = window.benchFrames;
    if (w) w.stop = true;
    return w?.gaps ?? [];
  });
  const sorted = gaps.slice(1).sort((a, b) => a - b);
  return {
    median: sorted[Math.floor(sorted.length / 2)] ?? 0,
    p95: sorted[Math.floor(sorted.length * 0.95)] ?? 0,
  };
}
