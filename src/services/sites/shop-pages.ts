import type { Look } from '../../core/look/look';
import { buildShopPage, chooseModel } from '../../core/placement/shop-page';
import { shopPageMain } from '../../core/placement/shop-page-main';
import { addressOf, type PagePath, parsePath, rebaseLink } from '../../core/site/paths';
import type { PageFacts } from '../../core/site/read-page';
import type { SiteReading } from '../../core/site/read-site';
import type { Ctx } from '../context';
import { conflict } from '../errors';
import { loadPage, type Site, siteLook } from './site';

export type ShopPart = 'cart' | 'checkout' | 'thanks' | 'failed';

interface ShopPageKind {
  readonly part: ShopPart;
  readonly name: string;
  readonly title: string;
  readonly file: string;
}

/** The pages a shop cannot do without, in the order a shopper meets them. */
export const shopPageKinds: readonly ShopPageKind[] = [
  { part: 'cart', name: 'Cart', title: 'Your cart', file: 'cart' },
  { part: 'checkout', name: 'Checkout', title: 'Checkout', file: 'checkout' },
  { part: 'thanks', name: 'Thank you', title: 'Thank you', file: 'thank-you' },
  { part: 'failed', name: 'Payment failed', title: 'The payment did not go through', file: 'payment-failed' },
];

export interface ShopPage extends ShopPageKind {
  readonly path: PagePath;
  readonly address: string;
}

/** Where the shop's pages stand: in the site's own manner (folders or .html), never over a page the owner has. */
export function shopPagesOf(site: Pick<Site, 'manifest' | 'reading'>): ShopPage[] {
  const folders = usesFolders(site.reading);
  return shopPageKinds.map((kind) => {
    const at = (name: string) => (folders ? `${name}/index.html` : `${name}.html`);
    const name = [kind.file, `shop-${kind.file}`, `green-stall-${kind.file}`].find((n) => site.manifest[at(n)] === undefined);
    const path = name === undefined ? undefined : parsePath(at(name));
    if (!path?.ok) throw conflict(`The site has pages at every address that could be the shop's ${kind.name} page.`);
    return { ...kind, path: path.value, address: addressOf(path.value) };
  });
}

function usesFolders(reading: SiteReading): boolean {
  const deep = reading.pages.filter((p) => p.path.includes('/'));
  const index = deep.filter((p) => /\/index\.html?$/i.test(p.path));
  return index.length * 2 > reading.pages.length - 1 && index.length > 0;
}

/** The box that keeps a shop page's content in the width the site uses. */
export const pageBox = (look: Look): string =>
  `box-sizing:border-box;max-width:calc(${look.width} + 3rem);margin:0 auto;padding:clamp(1.5rem,4vw,3.25rem) 1.5rem clamp(2.5rem,6vw,4.5rem)`;

/** A few other pages of the model's chrome: what they do not share with it is its own. */
const likePages = (ctx: Ctx, site: Site, model: PageFacts) =>
  Promise.all(site.reading.pages.filter((p) => p.chrome === model.chrome && p.path !== model.path).slice(0, 4).map((p) => loadPage(ctx, site, p.path)));

/** The bytes of one shop page as it is published into the site. */
export async function buildSitePage(ctx: Ctx, site: Site, part: ShopPart): Promise<{ page: ShopPage; bytes: Uint8Array }> {
  const pages = shopPagesOf(site);
  const page = pages.find((p) => p.part === part);
  const modelFacts = chooseModel(site.reading.pages);
  if (!page || !modelFacts) throw conflict('The site has no page to take header and footer from.');
  const model = await loadPage(ctx, site, modelFacts.path);
  const look = await siteLook(ctx, site);
  const hrefs = Object.fromEntries(pages.map((p) => [p.part, rebaseLink(p.address.slice(1) || './', 'index.html' as PagePath, page.path)])) as Record<ShopPart, string>;
  const bytes = buildShopPage(model, {
    part,
    title: `${page.title} \u00b7 ${site.row.name}`,
    others: await likePages(ctx, site, modelFacts),
    head: page.part === 'cart' ? '' : '<meta name="robots" content="noindex">\n',
    main: shopPageMain({ part, title: page.title, shopUrl: `${ctx.addresses.shop}/${site.row.slug}`, scriptUrl: `${ctx.addresses.shop}/stall.js`, hrefs, boxStyle: pageBox(look) }),
    link: (href) => rebaseLink(href, modelFacts.path, page.path),
    scripts: 'keep',
  });
  return { page, bytes };
}

/** Wraps content in the site's chrome for the shop's own origin, where it runs no script of anybody's. */
export async function buildOrdinaryPage(ctx: Ctx, site: Site, title: string, main: string, head: string): Promise<Uint8Array> {
  const modelFacts = chooseModel(site.reading.pages);
  if (!modelFacts) throw conflict('The site has no page to take header and footer from.');
  const model = await loadPage(ctx, site, modelFacts.path);
  const look = await siteLook(ctx, site);
  const base = site.row.liveUrl;
  const from = new URL(modelFacts.path, 'http://site.invalid/');
  const link = (href: string, kind: 'page' | 'file'): string => {
    if (/^(#|[a-z][a-z0-9+.-]*:|\/\/)/i.test(href.trim()) || !href.trim()) return href;
    const target = new URL(href, from);
    if (kind === 'file') return `${ctx.addresses.shop}/${site.row.slug}/site${target.pathname}${target.search}`;
    const live = base.startsWith('http') ? new URL(target.pathname.slice(1), base) : new URL(target.pathname, ctx.addresses.shop);
    return `${live.href}${target.search}${target.hash}`;
  };
  return buildShopPage(model, { part: 'ordinary', others: await likePages(ctx, site, modelFacts), title: `${title} · ${site.row.name}`, main: `\n<div style="${pageBox(look)}">${main}</div>\n`, head, link, scripts: 'drop' });
}
