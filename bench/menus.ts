import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { type Browser, chromium, type Page } from 'playwright-core';
import { chromiumLaunch } from '../e2e/support/chromium';
import { readSource } from '../src/core/html/source';
import { attr, bodyOf, descendants, type Element, parsePage } from '../src/core/html/tree';
import type { PagePath } from '../src/core/site/paths';
import { labelledSites, type LabelledSite } from './labels/chrome';
import { strangeSites } from './labels/chrome-strangers';
import { moreStrangeSites } from './labels/chrome-strangers-more';
import { type Figure, figure } from './support/figure';
import { elementsOf } from './support/marks';
import { type ItemSeen, openMenu, pressItem } from './support/menu-item';
import { filesOf, topOf } from './support/outside-files';
import { fetchPackage } from './support/outside-sites';
import { SeenShop } from './support/seen-shop';

/** Pages that are taken in of one site beside those with marks, at most. */
const MOST = 120;
const widths = [
  ['wide', { width: 1280, height: 800 }],
  ['phone', { width: 390, height: 844 }],
] as const;

/** What must hold of the shop's item on a page. */
const asks = [
  'in the menu that was marked',
  'seen where its neighbours are, wide',
  'seen where its neighbours are, phone',
  'leads to the shop when pressed, wide',
  'leads to the shop when pressed, phone',
  'looks like its neighbours, wide',
  'looks like its neighbours, phone',
] as const;
type Ask = (typeof asks)[number];

/** Answers by what was asked; nothing where it does not apply. */
type Answers = Partial<Record<Ask, string>>;
const YES = '';

/**
 * The shop's item in menus of the registries' sites, once selling was added: where it stands by the marks of people, and how it looks and
 * works in a browser at two widths. Pages that have no menu by the marks are not asked.
 */
export async function menus(): Promise<Figure[]> {
  const browser = await chromium.launch(chromiumLaunch);
  const all: Asked[] = [];
  try {
    for (const site of distinct()) {
      const kept = 'kept' in site && site.kept === true;
      const pages = await ofSite(browser, site).catch((e: unknown) => failed(site, e));
      all.push(...pages.map((p) => ({ ...p, kept, page: `${site.of.name} ${p.page}` })));
      process.stderr.write(`  ${site.of.name}\n`);
    }
  } finally {
    await browser.close();
  }
  if (process.env.STALL_BENCH_MISSES) process.stderr.write(missesOf(all.filter((a) => !a.kept)).join(''));
  const [aside, looked] = [all.filter((a) => a.kept), all.filter((a) => !a.kept)];
  return asks.map((ask) =>
    figure(ask, share(aside, ask), 'pages kept aside', `${share(looked, ask)} of others`, '98 %'),
  );
}

interface Asked {
  readonly page: string;
  readonly answers: Answers;
  readonly kept: boolean;
}

const missesOf = (all: readonly Asked[]): string[] =>
  all.flatMap(({ page, answers }) =>
    Object.entries(answers).flatMap(([ask, wrong]) =>
      wrong === YES ? [] : [`${page}: not ${ask}: ${wrong}\n`],
    ),
  );

function share(of: readonly { readonly answers: Answers }[], ask: Ask): string {
  const asked = of.filter((a) => a.answers[ask] !== undefined);
  const right = asked.filter((a) => a.answers[ask] === YES).length;
  return `${((right / Math.max(1, asked.length)) * 100).toFixed(1)} % (${right} of ${asked.length})`;
}

/** A site that cannot be sold from is a miss of each of its pages. */
const failed = (site: LabelledSite, e: unknown): { page: string; answers: Answers }[] =>
  Object.keys(site.pages).map((page) => ({ page, answers: { [asks[0]]: String(e).slice(0, 200) } }));

const only = new RegExp(process.env.STALL_BENCH_ONLY ?? '');
/** Each package once, whichever list it stands in, where any of its pages has a menu. */
function distinct(): LabelledSite[] {
  const all: LabelledSite[] = [...strangeSites, ...moreStrangeSites, ...labelledSites];
  const isWanted = (s: LabelledSite, n: number) =>
    only.test(`${'kept' in s && s.kept === true ? 'kept' : 'looked'} ${s.of.name}`) &&
    all.findIndex((o) => o.of.name === s.of.name) === n;
  return all.filter(isWanted).filter((s) => marked(s).length > 0);
}

/** Pages with a menu, and its mark. */
const marked = (site: LabelledSite): [PagePath, string][] =>
  Object.entries(site.pages).flatMap(([page, own]): [PagePath, string][] => {
    const mark = { ...site.marks, ...own }.menu;
    return mark === null ? [] : [[page as PagePath, mark]];
  });

async function ofSite(browser: Browser, site: LabelledSite): Promise<{ page: string; answers: Answers }[]> {
  const folder = await fetchPackage(site.of);
  if (!folder || !existsSync(join(folder, site.root))) return [];
  const must = new Set(marked(site).map(([page]) => page));
  const all = await filesOf(join(folder, site.root), { whole: true, most: MOST, must });
  const top = topOf(Object.keys(all));
  const files = Object.fromEntries(
    Object.entries(all).map(([path, bytes]) => [path.slice(top.length), bytes]),
  );
  const pages = marked(site).map(([page, mark]) => [page.slice(top.length) as PagePath, mark] as const);
  const seen = await SeenShop.open(files, browser);
  try {
    const live = await seen.goLive();
    const shop = [...(await seen.shop.shopPages()).keys()].find((path) =>
      /(^|\/)(shop|laden|boutique)[/.]/i.test(path),
    );
    if (shop === undefined) return pages.map(([page]) => ({ page, answers: { [asks[0]]: 'no shop page' } }));
    const href = new URL(shop, live).href.replace(/index\.html$/, '');
    const written = await seen.shop.ownPages(pages.map(([page]) => page));
    const out: { page: string; answers: Answers }[] = [];
    for (const [page, mark] of pages) {
      const answers: Answers = {
        'in the menu that was marked': isInMark(
          written.get(page) ?? new Uint8Array(),
          mark,
          page,
          href,
          live,
        ),
      };
      for (const [name, viewport] of widths)
        Object.assign(answers, await atWidth(browser, name, viewport, new URL(page, live).href, href));
      out.push({ page, answers });
    }
    return out;
  } finally {
    await seen.end();
  }
}

function isInMark(bytes: Uint8Array, mark: string, page: string, href: string, live: string): string {
  const body = bodyOf(parsePage(readSource(bytes))) as Element;
  const leads = (el: Element) => {
    const to = el.tagName === 'a' ? attr(el, 'href') : undefined;
    return (
      to !== undefined &&
      URL.canParse(to, new URL(page, live)) &&
      new URL(to, new URL(page, live)).href.replace(/index\.html$/, '') === href
    );
  };
  const blocks = elementsOf(body, mark, page);
  if (blocks.some((b) => [...descendants(b)].some(leads))) return YES;
  return [...descendants(body)].some(leads) ? 'elsewhere' : 'nowhere';
}

/** How the item of a page looks and works at one width. */
async function atWidth(
  browser: Browser,
  name: 'wide' | 'phone',
  viewport: { width: number; height: number },
  url: string,
  href: string,
): Promise<Answers> {
  const page = await browser.newPage({ viewport });
  try {
    await page.route(
      (to) => !/(^|\.)localhost$/.test(to.hostname),
      (route) => route.abort(),
    );
    await page.goto(url, { waitUntil: 'load', timeout: 20_000 });
    await page.waitForTimeout(300);
    return await answersOf(name, await openMenu(page, href), page, href);
  } finally {
    await page.close();
  }
}

async function answersOf(name: 'wide' | 'phone', item: ItemSeen, page: Page, href: string): Promise<Answers> {
  if (item.isMissing) return {};
  // Nobody sees the menu at this width, whatever is pressed.
  if (!item.isShown && !item.othersShown) return {};
  if (!item.isShown) return { [`seen where its neighbours are, ${name}`]: 'hidden' };
  const wrong = [...item.differs, ...(item.isWrapped ? ['stands below them'] : [])].join('; ');
  return {
    [`seen where its neighbours are, ${name}`]: YES,
    ...(item.othersShown && { [`looks like its neighbours, ${name}`]: wrong || YES }),
    [`leads to the shop when pressed, ${name}`]: (await pressItem(page, href)) ? YES : failure(item),
  };
}

const failure = ({ under }: ItemSeen): string => (under ? `under ${under}` : 'nothing happens');
