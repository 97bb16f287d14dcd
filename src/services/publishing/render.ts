import { computePage, type ComputedPage } from '../../core/placement/compute-page';
import { priceWords } from '../../core/placement/kinds/price';
import { type PlaceContext, scriptTag } from '../../core/placement/place';
import { reachesShopPages, reachIn } from '../../core/placement/reach';
import { type PagePath, relativeAddress } from '../../core/site/paths';
import type { Ctx } from '../context';
import { buildSitePage, homePage, movedPage } from '../sites/shop-pages';
import { fileFinder, type FindFile } from '../sites/find-file';
import { partAddress } from '../sites/addresses';
import { type ShopPage, type ShopPart, shopPagesOf } from '../sites/shop-places';
import { type Catalogue, catalogueOf } from '../goods/catalogue';
import { fromSiteRem } from '../../core/look/rem';
import { sellsIn, type SiteState } from '../sites/state';
import { inRem, type Look, remOf, shapeIn, valueIn } from '../../core/look/look';
import { dressedIn } from '../sites/look';
import { loadPage, type Site } from '../sites/site';
import { parsePageFile, type ParsedPage } from '../../core/site/read-page';

/** Everything needed to write pages of one state of a site. */
export interface Rendering extends Omit<SiteState, 'look'> {
  readonly site: Site;
  /** Built as soon as anything sells; none otherwise, so that an empty stall leaves no page behind. */
  readonly shopPages: readonly ShopPage[];
  readonly goods: Catalogue;
  readonly names: ReadonlyMap<string, string>;
  readonly look: Look;
  readonly reaches: ReturnType<typeof reachIn>;
  readonly find: FindFile;
}

export async function rendering(ctx: Ctx, site: Site, state: SiteState): Promise<Rendering> {
  const goods = await catalogueOf(ctx, site.row.id);
  return {
    ...state,
    site,
    find: fileFinder(site),
    shopPages: sellsIn(state) ? shopPagesOf(site, state.shop) : [],
    goods,
    names: new Map([...goods.bySlug].map(([slug, p]) => [slug, p.name])),
    look: (await dressedIn(ctx, site, state.look)).look,
    reaches: reachIn(site.reading),
  };
}

/** One page as this state has it: the owner's with its placements, or a page of the shop with those that reach every page. */
export async function renderPage(
  ctx: Ctx,
  r: Rendering,
  path: string,
): Promise<ComputedPage & { page: ParsedPage }> {
  const shopPage = r.shopPages.find((p) => p.path === path);
  if (shopPage?.part === 'moved') return bare(path as PagePath, movedPage(r.site, r.shop, shopPage));
  if (shopPage?.part === 'home') return homeOf(ctx, r, shopPage);
  const page = shopPage ? await buildSitePage(ctx, r, shopPage) : await loadPage(ctx, r.site, path);
  const here = r.placements.filter((p) =>
    shopPage ? reachesShopPages(p.reach, p.pitch.region) : r.reaches(p.reach, path),
  );
  return {
    ...computePage(
      page,
      { placements: here, menu: r.menu, repairs: r.repairs },
      placeContext(ctx, r, path as PagePath),
      r.find,
    ),
    page,
  };
}

function parsed(path: PagePath, bytes: Uint8Array): ParsedPage {
  const read = parsePageFile(path, bytes);
  if ('problem' in read) throw new Error(read.problem);
  return read.page;
}

/** A page that nothing is placed on. */
const bare = (path: PagePath, bytes: Uint8Array): ComputedPage & { page: ParsedPage } => ({
  bytes,
  edits: [],
  placed: [],
  lost: [],
  page: parsed(path, bytes),
});

/** The owner's front page with all that stands on it, at its second address. */
async function homeOf(ctx: Ctx, r: Rendering, home: ShopPage): Promise<ComputedPage & { page: ParsedPage }> {
  const front = r.site.reading.pages[0]?.path as PagePath;
  const here = r.placements.filter((p) => r.reaches(p.reach, front));
  const placed = computePage(
    await loadPage(ctx, r.site, front),
    { placements: here, menu: r.menu, repairs: r.repairs },
    placeContext(ctx, r, front),
    r.find,
  );
  return { ...bare(home.path, homePage(parsed(front, placed.bytes), home.path)), lost: placed.lost };
}

/** What a product costs now, in the words of the shop. */
function priceIn(ctx: Ctx, r: Rendering, slug: string, choice: string): string | undefined {
  const product = r.goods.bySlug.get(slug);
  const { locale, currency } = r.site.row;
  return product && priceWords(product, choice, { at: ctx.now().getTime(), locale, currency });
}

/** Parts that shoppers walk through; not the addresses that only lead on. */
const isStep = (part: ShopPage['part']): part is ShopPart => part !== 'moved' && part !== 'home';

/** What a placement's HTML on a page depends on. */
export function placeContext(
  ctx: Ctx,
  r: Rendering,
  path: PagePath,
  way: 'on the page' | 'anywhere' = 'on the page',
): PlaceContext {
  // A site that turns pages by script keeps its header while the address changes: a relative address would lead elsewhere then.
  const { liveUrl } = r.site.row;
  const rooted =
    r.site.reading.moves.how === 'switches' &&
    (!liveUrl.startsWith('http') || new URL(liveUrl).pathname === '/');
  const isPasted = r.site.row.delivery.to === 'paste';
  const href = (part: ShopPage['part'], none: string) => {
    const to = r.shopPages.find((p) => p.part === part);
    if (!to) return none;
    // Code that is handed out may be pasted into any page of any host: its ways are whole addresses.
    const handed = way === 'anywhere' && isStep(part) ? partAddress(r.site, part, 'named') : undefined;
    if (handed !== undefined) return handed;
    // On a site that only its owner can write no page is built: the shop's plain pages stand in for it.
    if (way === 'anywhere' && isPasted) return none;
    return rooted ? to.address : relativeAddress(path, to.address);
  };
  const names = r.names;
  const rem = remOf(r.look);
  return {
    shopUrl: `${ctx.addresses.shop}/${r.site.row.slug}`,
    scriptUrl: `${ctx.addresses.shop}/stall.js`,
    scriptTag: scriptTag({
      script: `${ctx.addresses.shop}/stall.js`,
      shop: `${ctx.addresses.shop}/${r.site.row.slug}`,
      cart: href('cart', ''),
      checkout: href('checkout', ''),
      page: href('shop', ''),
      account: href('account', ''),
      steps: way === 'anywhere' && isPasted,
    }),
    cartHref: href('cart', '#'),
    checkoutHref: href('checkout', ''),
    shopHref: href('shop', ''),
    accountHref: href('account', ''),
    productName: (slug) => names.get(slug),
    lang: r.site.row.locale,
    priceNow: (slug, choice) => priceIn(ctx, r, slug, choice),
    contentWidth: fromSiteRem(inRem(Number(valueIn(r.look, 'width')), r.look), rem),
    rem,
    anywhere: way === 'anywhere',
    absolute: (address) =>
      liveUrl.startsWith('http') ? new URL(address, new URL(path, liveUrl)).href : address,
    shape: shapeIn(r.look),
    goodsNow: {
      shown: r.goods.shown,
      bySlug: r.goods.bySlug,
      pathNow: r.goods.pathNow,
      at: ctx.now().getTime(),
    },
  };
}
