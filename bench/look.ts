import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type Browser, chromium, type Page } from 'playwright-core';
import sharp from 'sharp';
import { colourOver } from '../src/core/look/colour';
import { changedSources } from '../src/core/look/drift';
import { colourUses } from '../src/core/look/found/colour-uses';
import { findLook, type Found } from '../src/core/look/found/found';
import { lookCss } from '../src/core/look/look';
import { difference } from '../src/core/look/remedy';
import type { SeenPage } from '../src/core/look/seen';
import { tokenNames, tokenOf } from '../src/core/look/tokens';
import { dress, wardrobeOf } from '../src/core/look/wardrobe';
import type { PagePath } from '../src/core/site/paths';
import { type ParsedPage, parsePageFile } from '../src/core/site/read-page';
import { readSite } from '../src/core/site/read-site';
import { openSite } from '../src/services/reading/open-site';
import { readLook } from '../src/services/sites/read-look';
import { chromiumLaunch } from '../e2e/support/chromium';
import { type LookSite, lookSites } from './labels/look';
import { figure, type Measurement } from './support/figure';
import { openPage, serveFolder } from './support/look-pages';
import { fetchPackage } from './support/outside-sites';

/** How often something was right, of how many. */
class Share {
  right = 0;
  all = 0;
  readonly misses: string[] = [];
  count(isRight: boolean, what: string): void {
    this.all++;
    if (isRight) this.right++;
    else this.misses.push(what);
  }
  get words(): string {
    return `${this.right} of ${this.all} (${this.all ? Math.round((this.right / this.all) * 1000) / 10 : 0} %)`;
  }
}

const tallies = [
  'face',
  'heading',
  'ground',
  'text',
  'link',
  'button',
  'beside',
  'pairs',
  'shares',
  'agree',
] as const;
type Tallies = Readonly<Record<(typeof tallies)[number], Share>>;

/**
 * The look of sites that nobody here made, measured by the office's own script in Chromium and held against what is there: computed
 * styles asked for by simpler means, pixels of a picture of the page, a button of the shop beside the site's own.
 */
export const look: Measurement = async () => {
  const browser = await chromium.launch({
    ...chromiumLaunch,
  });
  const tally = Object.fromEntries(tallies.map((t) => [t, new Share()])) as Record<
    (typeof tallies)[number],
    Share
  >;
  const times: number[] = [];
  let sites = 0;
  try {
    for (const site of lookSites) {
      if (!site.of.name.includes(process.env.STALL_BENCH_ONLY ?? '')) continue;
      const folder = await fetchPackage(site.of);
      if (!folder || !existsSync(join(folder, site.root, site.pages[0] ?? ''))) continue;
      sites++;
      times.push(...(await measureSite(browser, join(folder, site.root), site, tally)));
    }
  } finally {
    await browser.close();
  }
  if (process.env.STALL_BENCH_MISSES)
    process.stderr.write(
      `${Object.entries(tally)
        .map(([t, s]) => `${t}\n  ${s.misses.join('\n  ')}`)
        .join('\n')}\n`,
    );
  const drift = await drifts();
  const of = `${sites} sites of registries`;
  return [
    figure('face of the text', tally.face.words, of, '', 'all'),
    figure('face of the headings', tally.heading.words, of, '', 'all'),
    figure('ground, within CIEDE2000 of 2', tally.ground.words, `${of}, pixels of a picture`, '', '95 %'),
    figure('text colour, within 2', tally.text.words, of, '', '95 %'),
    figure('link colour, within 2', tally.link.words, of, '', '95 %'),
    figure('main button', tally.button.words, 'marked by hand', '', '90 %'),
    figure(
      'the shop’s button beside it: fill, corners, height, padding within 1 px',
      tally.beside.words,
      'in the same page',
      '',
      '',
    ),
    figure('pairs that pass or are told', tally.pairs.words, of, '', 'all'),
    figure('shares within 5 points', tally.shares.words, 'counted pixels', '', 'all'),
    figure('tokens alike without a browser', tally.agree.words, 'measured ones', '', '90 %'),
    figure('changes of a site that are told', drift.told.words, '300 seeded', '', 'all'),
    figure('re-readings that tell nothing', drift.silent.words, '100 untouched', '', 'all'),
    figure(
      'measuring one page at one width',
      `${Math.round(times.reduce((a, b) => a + b, 0) / times.length)} ms`,
      of,
      '',
      '12 pages at three widths: 6 s',
    ),
  ];
};

async function measureSite(
  browser: Browser,
  root: string,
  site: LookSite,
  tally: Tallies,
): Promise<number[]> {
  const served = await serveFolder(root);
  const seen: SeenPage[] = [];
  const times: number[] = [];
  try {
    for (const path of site.pages) {
      const page = await openPage(browser, served.origin, path, 1280);
      const began = performance.now();
      const one = await measureIn(page, path);
      times.push(performance.now() - began);
      seen.push(one);
      await sharesOf(page, one, tally.shares, `${site.of.name} ${path}`);
      await page.close();
    }
    const found = findLook(seen, 'measured');
    await held(browser, served.origin, site, { found, seen }, tally);
    await agreeWithout(root, site, found, tally.agree);
  } finally {
    served.close();
  }
  return times;
}

const measureIn = (page: Page, path: string): Promise<SeenPage> =>
  page.evaluate(
    (p) =>
      (
        globalThis as unknown as { lookMeasure: { measure: (p: string) => Promise<SeenPage> } }
      ).lookMeasure.measure(p),
    path,
  );

type Weighed = readonly (readonly [string, number])[];

/** What a page says by simple means: values with their letters, and where the longest text of each colour stands. */
interface PageTruth {
  readonly faces: Weighed;
  readonly headings: Weighed;
  readonly colours: Weighed;
  readonly links: Weighed;
  readonly longest: readonly { readonly colour: string; readonly letters: number; readonly box: Box }[];
}
interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Values by the letters that have them, the most first. */
function ranked(list: Weighed): string[] {
  const sum = new Map<string, number>();
  for (const [key, n] of list) sum.set(key, (sum.get(key) ?? 0) + n);
  return [...sum].sort((a, b) => b[1] - a[1]).map(([key]) => key);
}

/** By the letters of paragraphs alone: simpler than the reading, and written apart from it. */
const truthOf = (page: Page): Promise<PageTruth> =>
  page.evaluate(() => {
    const inChrome = 'header,nav,footer,aside,[class*=footer],[class*=navbar],[class*=sidebar]';
    const seen = (el: Element) =>
      el.getClientRects().length > 0 && getComputedStyle(el).visibility === 'visible';
    const own = (el: Element) =>
      [...el.childNodes]
        .filter((n) => n.nodeType === 3)
        .reduce((sum, n) => sum + (n.nodeValue ?? '').replace(/\s+/g, '').length, 0);
    const body = [...document.querySelectorAll('p,li,td,dd,div,span')].filter(
      (el) =>
        seen(el) &&
        !el.closest(inChrome) &&
        !el.closest('a,button,h1,h2,h3,h4,h5,h6,pre,code') &&
        own(el) > 0,
    );
    const texts = body.length
      ? body
      : [...document.querySelectorAll('p,li,div,span')].filter((el) => seen(el) && own(el) > 0);
    const of = (el: Element) => getComputedStyle(el);
    const heads = [...document.querySelectorAll('h2')].filter((el) => seen(el) && !el.closest(inChrome));
    const h = heads.length
      ? heads
      : [...document.querySelectorAll('h1,h3')].filter((el) => seen(el) && !el.closest(inChrome));
    const links = [...document.querySelectorAll('p a[href],li a[href],td a[href]')].filter(
      (el) =>
        seen(el) &&
        !el.closest(inChrome) &&
        // A row of tabs is no text.
        !el.closest('ul.nav,[role=tablist]') &&
        !/btn|button|badge|page-link/.test(el.className) &&
        getComputedStyle(el).backgroundColor === 'rgba(0, 0, 0, 0)',
    );
    const longest = new Map<string, Element>();
    for (const el of texts) {
      const known = longest.get(of(el).color);
      if (!known || own(el) > own(known)) longest.set(of(el).color, el);
    }
    return {
      faces: texts.map((el) => [of(el).fontFamily, own(el)] as const),
      headings: h.map((el) => [of(el).fontFamily, (el.textContent ?? '').length] as const),
      colours: texts.map((el) => [of(el).color, own(el)] as const),
      links: links.map((el) => [of(el).color, (el.textContent ?? '').length] as const),
      longest: [...longest].map(([colour, el]) => {
        const r = el.getBoundingClientRect();
        return {
          colour,
          letters: own(el),
          box: { x: r.left + scrollX, y: r.top + scrollY, width: r.width, height: r.height },
        };
      }),
    };
  });

interface SiteTruth {
  readonly face: string | undefined;
  readonly heading: string | undefined;
  readonly colour: string | undefined;
  readonly link: string | undefined;
  readonly ground: string;
}

/** What a site says, over all of its pages: in the colour that most letters have, on the ground that was marked where one was. */
async function truthOver(browser: Browser, origin: string, site: LookSite): Promise<SiteTruth> {
  const all: { path: string; truth: PageTruth }[] = [];
  for (const path of site.pages) {
    const page = await openPage(browser, origin, path, 1280);
    all.push({ path, truth: await truthOf(page) });
    await page.close();
  }
  const over = (pick: (t: PageTruth) => Weighed) => ranked(all.flatMap(({ truth }) => pick(truth)));
  const colours = over((t) => t.colours);
  const groundOf = async (colour: string | undefined): Promise<string> => {
    const [stands] = all
      .flatMap(({ path, truth }) => truth.longest.map((l) => ({ ...l, path })))
      .filter((l) => l.colour === colour)
      .sort((a, b) => b.letters - a.letters);
    const page = await openPage(browser, origin, stands?.path ?? site.pages[0] ?? '', 1280);
    const ground = await groundUnder(page, stands?.box ?? { x: 0, y: 0, width: 1, height: 1 });
    await page.close();
    return ground;
  };
  let [colour] = colours;
  let ground = await groundOf(colour);
  for (const next of site.ground ? colours : []) {
    if (difference(ground, site.ground ?? '') <= 2) break;
    [colour, ground] = [next, await groundOf(next)];
  }
  return {
    face: over((t) => t.faces)[0],
    heading: over((t) => t.headings)[0],
    colour,
    link: over((t) => t.links)[0],
    ground,
  };
}

async function held(
  browser: Browser,
  origin: string,
  site: LookSite,
  { found, seen }: { readonly found: Found; readonly seen: readonly SeenPage[] },
  tally: Tallies,
): Promise<void> {
  const { name } = site.of;
  const truth = await truthOver(browser, origin, site);
  const { ground } = truth;
  const page = await openPage(browser, origin, site.pages[0] ?? '', 1280);
  const { sources } = found;
  const faceName = (family: string | undefined) => (family ?? '').split(',')[0]?.replace(/["']/g, '').trim();
  tally.face.count(
    faceName(sources['text-face']) === faceName(truth.face),
    `${name}: ${sources['text-face']} / ${truth.face}`,
  );
  if (truth.heading)
    tally.heading.count(
      faceName(sources['heading-face']) === faceName(truth.heading),
      `${name}: ${sources['heading-face']} / ${truth.heading}`,
    );
  const near = (a: string | undefined, b: string | undefined) =>
    a !== undefined && b !== undefined && difference(a, b) <= 2;
  tally.ground.count(near(sources.ground, ground), `${name}: ${sources.ground} / ${ground}`);
  const on = (css: string) => colourOver(css, ground);
  tally.text.count(near(sources.text, on(truth.colour ?? '')), `${name}: ${sources.text} / ${truth.colour}`);
  if (truth.link)
    tally.link.count(near(sources.link, on(truth.link)), `${name}: ${sources.link} / ${truth.link}`);
  if (site.button)
    tally.button.count(near(sources.button, site.button), `${name}: ${sources.button} / ${site.button}`);
  const dressed = dress(wardrobeOf(found), {});
  tally.pairs.count(
    dressed.light.proofs.every((p) => p.passes || p.remedy !== undefined || p.asFound < p.need),
    name,
  );
  if (site.button && near(sources.button, site.button))
    tally.beside.count(...(await besideOf(page, found, seen, name)));
  await page.close();
}

/** The colour that most of a box shows in a picture of the page. */
async function groundUnder(page: Page, box: Box): Promise<string> {
  const picture = await page.screenshot({ fullPage: true });
  const { width = 1, height = 1 } = await sharp(picture).metadata();
  const left = Math.max(0, Math.min(width - 2, Math.round(box.x)));
  const top = Math.max(0, Math.min(height - 2, Math.round(box.y)));
  const area = {
    left,
    top,
    width: Math.max(1, Math.min(width - left, Math.round(box.width))),
    height: Math.max(1, Math.min(height - top, Math.round(box.height))),
  };
  const { data, info } = await sharp(picture)
    .extract(area)
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return mostShown(histogram(data, info.channels));
}

/** The colour that most pixels have, give or take what nobody sees: over a film or a gradient no two are quite the same. */
function mostShown(counts: ReadonlyMap<string, number>): string {
  const common = [...counts].sort((a, b) => b[1] - a[1]).slice(0, 60);
  const near = (colour: string) =>
    common.reduce((sum, [other, n]) => (difference(colour, other) <= 2 ? sum + n : sum), 0);
  // Of those that have most about them the one that is most common itself: an even ground is itself.
  const most = Math.max(...common.map(([colour]) => near(colour)));
  return common.find(([colour]) => near(colour) >= most * 0.9)?.[0] ?? '#ffffff';
}

function histogram(data: Buffer, channels: number): Map<string, number> {
  const counts = new Map<number, number>();
  for (let n = 0; n + 2 < data.length; n += channels) {
    const key = ((data[n] ?? 0) << 16) | ((data[n + 1] ?? 0) << 8) | (data[n + 2] ?? 0);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return new Map([...counts].map(([key, n]) => [`#${key.toString(16).padStart(6, '0')}`, n]));
}

/** Shares of the page's colours as they were found, against counted pixels of a picture of it. */
async function sharesOf(page: Page, seen: SeenPage, share: Share, where: string): Promise<void> {
  const picture = await page.screenshot({ fullPage: true });
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const pixels = [...histogram(data, info.channels)];
  const whole = pixels.reduce((sum, [, n]) => sum + n, 0);
  const all = colourUses([seen]);
  const counts = new Map<string, number>();
  for (const [colour, n] of pixels) {
    if (n <= whole * 2e-6) continue;
    const near = all
      .map((c) => ({ value: c.value, by: difference(colour, c.value) }))
      .sort((a, b) => a.by - b.by)[0];
    if (near && near.by < 1.6) counts.set(near.value, (counts.get(near.value) ?? 0) + n);
  }
  for (const c of all.filter((u) => u.share >= 0.02)) {
    const counted = (counts.get(c.value) ?? 0) / whole;
    share.count(
      Math.abs(counted - c.share) <= 0.05,
      `${where}: ${c.value} ${c.uses.join()} found ${(c.share * 100).toFixed(1)} counted ${(counted * 100).toFixed(1)}`,
    );
  }
}

/** A button of the shop, in the look that was found, beside the site's own in the same page. */
async function besideOf(
  page: Page,
  found: Found,
  seen: readonly SeenPage[],
  name: string,
): Promise<[boolean, string]> {
  const { look: worn } = dress(wardrobeOf(found), { 'as:button': 'site' });
  const css = await readFile('src/core/storefront/storefront.css', 'utf8');
  const style = `:host{${lookCss(worn)};all:initial;font-family:var(--stall-font);font-size:${worn.size}px}${css.replace(/(\d*\.?\d+)rem\b/g, 'calc($1*var(--stall-rem))')}`;
  const { button, 'button-height': high } = found.sources;
  const own = seen[0]?.boxes.find(
    (b) => b.role === 'button' && b.fill === button && Math.abs(b.height - Number(high)) < 0.6,
  );
  const at = own?.at[0] ?? '';
  const both = await page.evaluate(
    ([sheet = '', path = '']) => {
      const own = path ? document.querySelector(path) : null;
      if (!own) return null;
      const host = document.createElement('span');
      own.after(host);
      const root = host.attachShadow({ mode: 'open' });
      root.innerHTML = `<style>${sheet}</style><a class="stall-button" href="#">${own.textContent ?? ''}</a>`;
      const read = (el: Element) => {
        const s = getComputedStyle(el);
        const r = el.getBoundingClientRect();
        return {
          fill: s.backgroundColor,
          radius: Math.min(Number.parseFloat(s.borderTopLeftRadius), r.height / 2),
          height: r.height,
          x: Number.parseFloat(s.paddingLeft),
          y: Number.parseFloat(s.paddingTop),
        };
      };
      return { own: read(own), ours: read(root.querySelector('a') as Element) };
    },
    [style, at],
  );
  if (!both) return [false, `${name}: no button at ${at}`];
  const { own: theirs, ours } = both;
  const [a, b] = [colourOver(theirs.fill, '#ffffff'), colourOver(ours.fill, '#ffffff')];
  const isNear = a !== undefined && b !== undefined && difference(a, b) <= 2;
  const inPx = (['radius', 'height', 'x', 'y'] as const).every((k) => Math.abs(theirs[k] - ours[k]) <= 1);
  return [isNear && inPx, `${name}: ${JSON.stringify(theirs)} / ${JSON.stringify(ours)}`];
}

/** The reading without a browser, token by token, against the measured one. */
async function agreeWithout(root: string, site: LookSite, measured: Found, share: Share): Promise<void> {
  const files = await openSite(root);
  const wanted = {
    ...files,
    paths: files.paths.filter((p) => !/\.html?$/.test(p) || site.pages.includes(p)),
  };
  const reading = await readSite(wanted);
  const load = async (path: PagePath): Promise<ParsedPage> => {
    const read = parsePageFile(
      path,
      await files.read(path),
      reading.pages.find((p) => p.path === path)?.regions,
    );
    if ('problem' in read) throw new Error(read.problem);
    return read.page;
  };
  const computed = await readLook({ pages: reading.pages, paths: files.paths, load, read: files.read });
  const [a, b] = [dress(wardrobeOf(measured), {}).light.tokens, dress(wardrobeOf(computed), {}).light.tokens];
  for (const name of tokenNames) {
    const [x, y] = [a[name].value, b[name].value];
    const { kind } = tokenOf(name);
    const isSame =
      kind === 'colour'
        ? difference(x, y) <= 2
        : x === y || Math.abs(Number(x) - Number(y)) <= Math.max(1, Number(x) * 0.05);
    share.count(isSame, `${site.of.name} ${name}: ${x} / ${y}`);
  }
}

/** Values of a site that are changed one by one in its style sheet; and the same site read again, with other words on it. */
async function drifts(): Promise<{ told: Share; silent: Share }> {
  const { foundOn, PAGE } = await import('../src/core/look/testing');
  const { changes, sheetOf } = await import('./support/look-changes');
  const [told, silent] = [new Share(), new Share()];
  const readings = (worn: Found, now: Found) => ({ worn, now, computed: { worn, now } });
  for (let seed = 0; seed < 300; seed++) {
    const { before, after, source } = changes(seed);
    const names = changedSources(readings(foundOn(sheetOf(before), PAGE), foundOn(sheetOf(after), PAGE)));
    told.count(names.includes(source), `${seed} ${source}: ${names.join()}`);
  }
  for (let seed = 0; seed < 100; seed++) {
    const { before } = changes(seed);
    const words = PAGE.replace('all year round', `all year round, for ${seed} years and more`);
    const names = changedSources(readings(foundOn(sheetOf(before), PAGE), foundOn(sheetOf(before), words)));
    silent.count(names.length === 0, `${seed}: ${names.join()}`);
  }
  return { told, silent };
}
