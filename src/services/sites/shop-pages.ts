import { fileFinder } from './find-file';
import { randomBytes } from 'node:crypto';
import { inRem, type Look, remOf, valueIn } from '../../core/look/look';
import { inSiteRem } from '../../core/look/rem';
import { applyEdits, sortEdits } from '../../core/html/edits';
import { readSource, textOf } from '../../core/html/source';
import { closureOf } from '../../core/site/served';
import { asciiHtml, escapeHtml } from '../../core/html/escape';
import { pageMark } from '../../core/html/fence';
import { type ContentWrap, contentWrap } from '../../core/placement/content-wrap';
import { changeMenu } from '../../core/placement/change-menu';
import {
  buildShopPage,
  chooseModel,
  pagesLike,
  parsedShopPage,
  rebasedPage,
} from '../../core/placement/shop-page';
import { robotsFor, shopPageMain } from '../../core/placement/shop-page-main';
import { pagePath, type PagePath, parsePath, rebaseLink } from '../../core/site/paths';
import { type PageFacts, type ParsedPage, parsePageFile } from '../../core/site/read-page';
import type { ShopAddress } from '../../core/site/set-up';
import { Recent } from '../cache';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { liveUrlOf } from './addresses';
import { type ShopPage, shopPagesOf } from './shop-places';
import { liveLook } from './look';
import { currentPublication, loadPage, type Site } from './site';

/** The box that keeps a shop page's content in the width the site uses. */
export const pageBox = (look: Look): string => {
  const rem = remOf(look);
  return `box-sizing:border-box;max-width:calc(${inRem(Number(valueIn(look, 'width')), look)} + ${inSiteRem('3rem', rem)});${inSiteRem('margin:0 auto;padding:clamp(1.5rem,4vw,3.25rem) 1.5rem clamp(2.5rem,6vw,4.5rem)', rem)}`;
};

/**
 * In the site's own elements for text nothing is to be kept but some air below. It asks for all the width there is: boxes that are as
 * wide as what is in them would else be as narrow as a shop that has not come yet. It asks as a column of a grid does: a width would be
 * the least that boxes around it take, and push them out of the window where they have margins of their own. A cell of a table would
 * grow with it, and has its width.
 */
const boxIn = (wrap: ContentWrap | undefined, look: Look): string =>
  wrap
    ? `box-sizing:border-box;${wrap.inCell ? '' : 'display:grid;grid-template-columns:minmax(0,100vw);'}max-width:100%;${inSiteRem('padding-bottom:clamp(1.5rem,4vw,3rem)', remOf(look))}`
    : pageBox(look);

const inWrap = (wrap: ContentWrap | undefined, html: string): string =>
  wrap ? `\n${wrap.open}${html}${wrap.close}\n` : html;

const likePages = (ctx: Ctx, site: Site, model: PageFacts): Promise<ParsedPage[]> =>
  Promise.all(pagesLike(site.reading.pages, model).map((p) => loadPage(ctx, site, p.path)));

/**
 * The way to the shop, opened with the page, and the second script that would else be found only when the first has come. It may wait
 * for the site's own style sheet and fonts: what the owner made is seen first.
 */
function announced(ctx: Ctx): string {
  const shop = escapeHtml(ctx.addresses.shop);
  return `<link rel="preconnect" href="${shop}" crossorigin><link rel="modulepreload" fetchpriority="low" href="${shop}/stall-more.js">\n`;
}

/** One shop page as it stands in the site, before anything is placed on it. */
export async function buildSitePage(
  ctx: Ctx,
  { site, shop, look }: { readonly site: Site; readonly shop: ShopAddress | null; readonly look: Look },
  page: ShopPage,
): Promise<ParsedPage> {
  const pages = shopPagesOf(site, shop);
  const { part } = page;
  const modelFacts = modelOf(site);
  const model = await loadPage(ctx, site, modelFacts.path);
  const wrap = contentWrap(model);
  const hrefs = Object.fromEntries(
    pages
      .filter((p) => p.part !== 'moved')
      .map((p) => [p.part, rebaseLink(p.address.slice(1) || './', pagePath('index.html'), page.path)]),
  );
  const built = parsedShopPage(page.path, model, {
    part,
    title: `${page.title} \u00b7 ${site.row.name}`,
    others: await likePages(ctx, site, modelFacts),
    lang: site.reading.lang,
    description: `${page.title}: ${site.row.name}`,
    ...(part === 'shop' &&
      site.row.liveUrl.startsWith('http') && {
        canonical: new URL(page.address.slice(1), site.row.liveUrl).href,
      }),
    head: `${announced(ctx)}${robotsFor(part)}`,
    heading: page.title,
    main: (titled) =>
      inWrap(
        wrap,
        shopPageMain({
          part,
          lang: site.reading.lang,
          title: page.title,
          titled,
          shopUrl: `${ctx.addresses.shop}/${site.row.slug}`,
          scriptUrl: `${ctx.addresses.shop}/stall.js`,
          hrefs,
          boxStyle: boxIn(wrap, look),
        }),
      ),
    link: (href) => rebaseLink(href, modelFacts.path, page.path),
    scripts: 'keep',
  });
  if ('problem' in built) throw conflict(built.problem);
  return built;
}

/** An address that the shop had before: it leads on at once, for people and for search engines. */
export function movedPage(
  site: Pick<Site, 'manifest' | 'reading'>,
  shop: ShopAddress | null,
  page: ShopPage,
): Uint8Array {
  const to = shopPagesOf(site, shop).find((p) => p.part === 'shop') ?? page;
  const way = rebaseLink(to.address.slice(1) || './', pagePath('index.html'), page.path);
  const href = escapeHtml(way);
  // The script keeps what was asked for, a product say. Where a policy forbids it, the page leads on without, a moment later.
  const leadOn = `location.replace(${JSON.stringify(way).replace(/</g, '\\u003c')}+location.search+location.hash)`;
  return new TextEncoder().encode(
    asciiHtml(
      `<!doctype html>\n<meta charset="utf-8">${pageMark('moved')}<title>${escapeHtml(page.title)}</title>\n<link rel="canonical" href="${href}"><script>${leadOn}</script><meta http-equiv="refresh" content="1;url=${href}">\n<p><a href="${href}">${escapeHtml(page.title)}</a></p>\n`,
    ),
  );
}

/** The owner's front page as it stands at its second address. */
export function homePage(page: ParsedPage, to: PagePath): Uint8Array {
  return rebasedPage(page, (href) => rebaseLink(href, page.path, to));
}

/** What a plain page of the shop says of itself, and what stands in it. */
interface OrdinaryPage {
  readonly title: string;
  readonly main: string;
  readonly head: string;
}

/** The page that plain pages take their chrome from. */
function modelOf(site: Site): PageFacts {
  const model = chooseModel(site.reading.pages);
  if (!model) throw conflict('The site has no page to take header and footer from.');
  return model;
}

const OUTSIDE = /^(#|[a-z][a-z0-9+.-]*:|\/\/)/i;

/** Words that stand nowhere in a page, in the places of what is put into it; letters alone, so that nothing changes them. */
const places = ['Title', 'Main', 'Head'].map(
  (name) => `stallPlaceOf${name}${randomBytes(12).toString('hex')}`,
);
const [titlePlace = '', mainPlace = '', headPlace = ''] = places;

/** A page of the site's chrome cut where title, content and head go in. */
type Shell = readonly (Buffer | 'title' | 'main' | 'head')[];

/** @returns nothing where a place is not there just once: a page in an encoding of its own, a title that is written twice. */
function cutShell(page: Buffer): Shell | undefined {
  const found = [
    [titlePlace, 'title'],
    [mainPlace, 'main'],
    [headPlace, 'head'],
  ] as const;
  const spots = found.map(([place, name]) => ({ name, length: place.length, at: page.indexOf(place) }));
  const twice = spots.some((s, n) => page.indexOf(places[n] ?? '', s.at + 1) !== -1);
  if (twice || spots.some((s) => s.at === -1)) return undefined;
  const parts: (Buffer | 'title' | 'main' | 'head')[] = [];
  let from = 0;
  for (const { name, at, length } of spots.sort((a, b) => a.at - b.at)) {
    parts.push(page.subarray(from, at), name);
    from = at + length;
  }
  return [...parts, page.subarray(from)];
}

/**
 * A plain page: content in the site's chrome for the shop's own origin, where it runs no script of anybody's. The chrome is built
 * once and remembered as long as the site stays as it is.
 */
export async function plainPage(ctx: Ctx, site: Site, page: OrdinaryPage): Promise<Uint8Array> {
  const shellOf = async () => {
    const places = { title: titlePlace, main: mainPlace, head: headPlace };
    return cutShell(Buffer.from(await buildOrdinaryPage(ctx, site, places)));
  };
  const shell = await ctx.memo?.get(site.row.id, 'plain shell', shellOf);
  if (!shell) return buildOrdinaryPage(ctx, site, page);
  const text = {
    title: asciiHtml(escapeHtml(page.title)),
    main: asciiHtml(page.main),
    head: asciiHtml(page.head),
  };
  return Buffer.concat(shell.map((part) => (typeof part === 'string' ? Buffer.from(text[part]) : part)));
}

/** Wraps content in the site's chrome for the shop's own origin, where it runs no script of anybody's. */
export async function buildOrdinaryPage(ctx: Ctx, site: Site, page: OrdinaryPage): Promise<Uint8Array> {
  const modelFacts = modelOf(site);
  const base = site.row.liveUrl;
  const from = new URL(modelFacts.path, 'http://site.invalid/');
  const link = (href: string, kind: 'page' | 'file'): string => {
    if (OUTSIDE.test(href.trim()) || !href.trim()) return href;
    const target = new URL(href, from);
    if (kind === 'file')
      return `${ctx.addresses.shop}/${site.row.slug}/site${target.pathname}${target.search}`;
    const live = base.startsWith('http')
      ? liveUrlOf(site, target.pathname)
      : new URL(target.pathname, ctx.addresses.shop).href;
    return `${live}${target.search}${target.hash}`;
  };
  return ordinaryPageOf(ctx, site, modelFacts, { ...page, link });
}

async function ordinaryPageOf(
  ctx: Ctx,
  site: Site,
  modelFacts: PageFacts,
  { title, main, head, link }: OrdinaryPage & { link: (href: string, kind: 'page' | 'file') => string },
): Promise<Uint8Array> {
  const look = await liveLook(ctx, site);
  const model = await withLiveMenu(ctx, site, modelFacts);
  const wrap = contentWrap(model);
  return buildShopPage(model, {
    part: 'ordinary',
    others: await likePages(ctx, site, modelFacts),
    title: `${title} · ${site.row.name}`,
    main: () => inWrap(wrap, `\n<div style="${boxIn(wrap, look)}">${main}</div>\n`),
    head,
    link,
    scripts: 'drop',
  });
}

const menus = new Recent<string, ParsedPage>(20);

/** The model page with the menu as it is live: the shop stands in it, and what the owner renamed is called so here too. */
async function withLiveMenu(ctx: Ctx, site: Site, modelFacts: PageFacts): Promise<ParsedPage> {
  const model = await loadPage(ctx, site, modelFacts.path);
  const live = await currentPublication(ctx, site.row);
  if (!live?.menu.length) return model;
  return menus.get(`${site.row.snapshotId} ${live.id}`, async () => {
    const changed = changeMenu(model, live.menu, fileFinder(site));
    if (!changed.ok || !changed.value) return model;
    const bytes = applyEdits(model.source, sortEdits([...changed.value.edits]));
    // Only the inside of the menu differs: its regions stand where they stood.
    const read = parsePageFile(model.path, bytes, model.regions ? [...model.regions] : undefined);
    return 'problem' in read ? model : read.page;
  });
}

const dressings = new Recent<string, ReadonlySet<string>>(20);

/**
 * Files of the owner's that the shop's origin serves: those that the chrome of its plain pages refers to, and what their style sheets
 * bring in. Nothing else of what lies in the owner's folder.
 */
export function dressingOf(ctx: Ctx, site: Site): Promise<ReadonlySet<string>> {
  return dressings.get(site.row.snapshotId, async () => {
    const modelFacts = modelOf(site);
    const find = (from: PagePath, address: string): PagePath | undefined => {
      if (OUTSIDE.test(address.trim())) return undefined;
      const path = pathOf(new URL(address, new URL(from, 'http://site.invalid/')).pathname);
      return path && site.manifest[path] !== undefined ? path : undefined;
    };
    const asked = new Set<PagePath>();
    await ordinaryPageOf(ctx, site, modelFacts, {
      title: '',
      main: '',
      head: '',
      link: (href, kind) => {
        const to = kind === 'file' ? find(modelFacts.path, href) : undefined;
        if (to) asked.add(to);
        return href;
      },
    });
    const read = async (sheet: PagePath) => {
      const source = readSource(await ctx.blobs.get(site.manifest[sheet] ?? ''));
      return textOf(source, source.structure);
    };
    // Fonts of the site are worn in frames and in the office too, whichever page brings them.
    for (const font of site.reading.fonts) if (font.file) asked.add(font.file as PagePath);
    return closureOf(asked, read, find);
  });
}

function pathOf(pathname: string): PagePath | undefined {
  try {
    const path = parsePath(decodeURIComponent(pathname.slice(1)));
    return path.ok ? path.value : undefined;
  } catch {
    return undefined;
  }
}
