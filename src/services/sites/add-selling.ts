import { and, eq, max } from 'drizzle-orm';
import { type MenuChange, withoutAdded } from '../../core/placement/menu-change';
import type { Placement } from '../../core/placement/placement';
import {
  type Guess,
  type SetUp,
  setUp as setUpSchema,
  localeIn,
  shopAddress,
  type ShopAddress,
} from '../../core/site/set-up';
import { payKinds, viaProvider } from '../../core/till/pay-kinds';
import { wordsIn } from '../../core/languages/languages';
import { knowsRates, startingRates } from '../../core/till/rates';
import { placements, sites, tills } from '../../data/schema';
import type { Ctx } from '../context';
import { conflict, invalid } from '../errors';
import { newId } from '../ids';
import { mayChangeCurrency, pricedAndSold } from './currency';
import { placeOf } from './guess-place';
import { pageName } from './names';
import { type PlannedPage, planSelling } from './plan-selling';
import { followShop, isFree, shopPagesOf } from './shop-places';
import type { SiteState } from './state';
import { loadPage, loadSite, type Site } from './site';

export interface SellingGuess {
  readonly guess: Guess;
  /** What the shop is called in the menu, in the site's language. */
  readonly shopName: string;
  readonly setUp: SetUp;
  /** Pages that are built; those that may be left out are named as such. */
  readonly pages: readonly PlannedPage[];
  /** Ways to be paid that this server knows. */
  readonly takes: readonly SetUp['takesMoney'][number][];
  /** The till was set already: what it holds is not asked again, because the answer would change nothing. */
  readonly tillIsSet: boolean;
  /** Countries whose tax rates are known here. */
  readonly ratesOf: readonly string[];
  /** What will be made, and what could not be, in words. */
  readonly will: readonly string[];
  readonly cannot: readonly string[];
  /** Address of a page with the menu that is added to, to see how it fits; nothing where no page has one. */
  readonly tries: string | undefined;
  /** Whether the shop goes into the menu. */
  readonly inMenu: boolean;
}

/** What the short set-up would be, read from the site; and what "Add selling" would do. */
export async function guessSelling(ctx: Ctx, site: Site): Promise<SellingGuess> {
  const shopName = wordsIn(site.reading.lang).shopWay;
  const { guess, texts } = await placeOf(site.reading, site.row.liveUrl, (path) => loadPage(ctx, site, path));
  const words = texts.join(' ').toLowerCase();
  const sells: SetUp['sells'] = [
    ...(/\b(workshop|course|class|event|ticket|kurs|atelier)/.test(words) ? ['events' as const] : []),
    ...(/\b(pattern|pdf|download|e-?book|printable)/.test(words) ? ['downloads' as const] : []),
  ];
  const plan = await planSelling(ctx, site, shopAddress.parse({ name: shopName }));
  return {
    guess,
    shopName,
    pages: plan.pages,
    tillIsSet: (await ctx.store.db.$count(tills, eq(tills.siteId, site.row.id))) > 0,
    // A card service can still be connected; of other providers those that are.
    takes: payKinds.filter((k) => k === 'card' || !viaProvider(k) || ctx.providers[k] !== undefined),
    ratesOf: [...new Set(startingRates().map((r) => r.country))],
    will: plan.will,
    tries: plan.tries,
    inMenu: plan.menu !== undefined,
    cannot: plan.cannot,
    setUp: setUpSchema.parse(
      site.row.setUp ?? {
        country: guess.country,
        // Connecting offers the currency of the browser's language: where nothing is priced yet, the site
        // itself says more.
        currency: (await pricedAndSold(ctx, site)).priced > 0 ? site.row.currency : guess.currency,
        units: guess.country === 'US' ? 'imperial' : 'metric',
        sells: ['ships', ...sells],
        taxed: knowsRates(guess.country),
        taxIncluded: !['US', 'CA'].includes(guess.country),
      },
    ),
  };
}

export interface Added {
  readonly cannot: readonly string[];
  /** The cart in the header, and a few pages on which it stands, each of another make: to see whether there is room. */
  readonly cart?: { readonly placement: string; readonly pages: readonly string[] };
}

/** Adds selling in one step: the shop pages, the shop in the menu, a cart in every header. All of it waits on the slip. */
export async function addSelling(
  ctx: Ctx,
  site: Site,
  asked: { setUp: unknown; shop?: unknown },
): Promise<Added> {
  if (site.row.shop) throw conflict('Selling is added already. The slip has the undo.');
  const answers = setUpSchema.safeParse(asked.setUp);
  if (!answers.success)
    throw invalid(answers.error.issues[0]?.message ?? 'Some answers are missing.', {
      field: answers.error.issues[0]?.path[0],
    });
  const wanted = shopAddress.safeParse(asked.shop ?? {});
  if (!wanted.success)
    throw invalid(wanted.error.issues[0]?.message ?? 'The shop needs a name and an address.', {
      field: wanted.error.issues[0]?.path[0],
    });
  await mayChangeCurrency(ctx, site, answers.data.currency);
  const plan = await planSelling(ctx, site, wanted.data);
  const [id, lineId] = [newId(), newId()];
  await ctx.store.write(async (tx) => {
    const [last] = await tx
      .select({ order: max(placements.order) })
      .from(placements)
      .where(eq(placements.siteId, site.row.id));
    if (plan.line)
      await tx.insert(placements).values({
        id: lineId,
        kind: 'categories',
        settings: { form: 'across', heading: plan.shop.name },
        spelling: 'link',
        pitch: plan.line.pitch.address,
        pitchLabel: plan.line.pitch.label,
        reach: !plan.menu ? { to: 'every', except: [] } : { to: 'pages', pages: [...plan.line.pages] },
        order: (last?.order ?? 0) + 2,
        siteId: site.row.id,
      });
    if (plan.cart) {
      const { pitch } = plan.cart;
      const cart: Placement = {
        id,
        kind: 'cart',
        settings: { text: wordsIn(site.reading.lang).cart, ...(plan.cart.floats && { floats: true }) },
        spelling: 'element',
        pitch: pitch.address,
        pitchLabel: pitch.label,
        reach: { to: 'every', except: [] },
        order: (last?.order ?? 0) + 1,
      };
      await tx.insert(placements).values({ ...cart, siteId: site.row.id });
    }
    await tx
      .update(sites)
      .set({
        setUp: answers.data,
        currency: answers.data.currency,
        locale: localeIn(site.reading.lang, answers.data.country),
        shop: {
          ...plan.shop,
          made: {
            cart: plan.cart ? id : null,
            carts: [],
            line: plan.line ? lineId : null,
            menu: !!plan.menu,
          },
        },
        ...(plan.menu && { menu: [...site.row.menu, plan.menu] }),
      })
      .where(eq(sites.id, site.row.id));
  });
  ctx.changed(site.row.id);
  return {
    cannot: plan.cannot,
    ...(plan.cart && !plan.cart.floats && { cart: { placement: id, pages: plan.cart.models.slice(0, 4) } }),
  };
}

/** Takes the shop's own page back to what is published; what was added with it goes with it. */
export async function undoShop(ctx: Ctx, site: Site, published: SiteState): Promise<void> {
  const { shop } = site.row;
  const { made } = shop ?? { made: undefined };
  const address = shop ? shopPagesOf(site, shop).find((p) => p.part === 'shop')?.address : undefined;
  await ctx.store.write(async (tx) => {
    if (!published.shop && made) {
      for (const id of [made.cart, made.line, ...made.carts])
        if (id && !published.placements.some((p) => p.id === id))
          await tx.delete(placements).where(and(eq(placements.id, id), eq(placements.siteId, site.row.id)));
      const menu = made.menu ? withoutAdded(site.row.menu, (add) => add.to === address) : site.row.menu;
      await tx.update(sites).set({ shop: null, menu }).where(eq(sites.id, site.row.id));
    } else
      await tx
        .update(sites)
        .set({ shop: published.shop, menu: withShopAt(site, published.shop) })
        .where(eq(sites.id, site.row.id));
  });
  ctx.changed(site.row.id);
}

const withShopAt = (site: Site, shop: ShopAddress | null): MenuChange[] =>
  followShop(site.row.menu, shopPagesOf(site, site.row.shop), shopPagesOf(site, shop));

/**
 * While the shop is the front page, the menu item of the owner's own front page leads to where that page is
 * now; a menu without one gets
 * one. Afterwards the menu is as it was.
 */
function withHomeItem(site: Site, menu: readonly MenuChange[], shop: ShopAddress): MenuChange[] {
  const front = site.reading.pages[0]?.path;
  const home = shopPagesOf(site, { ...shop, front: true }).find((p) => p.part === 'home')?.address;
  if (!front || !home) return [...menu];
  const items = site.reading.menu;
  const n = items.findIndex((m) => m.page === front && m.children.length === 0);
  const own = items[n]?.label;
  const had = menu.some((c) => c.do === 'add' && c.to === home);
  const rest = had
    ? withoutAdded(menu, (add) => add.to === home).filter(
        (c) => !(c.do === 'remove' && own !== undefined && c.item.length === 1 && c.item[0] === own),
      )
    : [...menu];
  if (!shop.front) return rest;
  const next = items[n + 1]?.label;
  const untouched = next !== undefined && !rest.some((c) => 'item' in c && c.item.includes(next));
  const at = { under: [], ...(untouched && { before: next }) };
  return [
    ...rest,
    ...(own === undefined ? [] : [{ do: 'remove' as const, item: [own] }]),
    { do: 'add', label: own ?? pageName(site, front), to: home, at },
  ];
}

/** Moves the shop's page, renames it, or makes it the front page. The address it had leads on to the new one. */
export async function setShop(
  ctx: Ctx,
  site: Site,
  to: { slug?: unknown; name?: unknown; front?: unknown },
): Promise<Site> {
  const { shop } = site.row;
  if (!shop) throw conflict('There is no shop page yet. Add selling first.');
  const parsed = shopAddress.safeParse({ ...shop, ...to });
  if (!parsed.success)
    throw invalid(parsed.error.issues[0]?.message ?? 'This is no address.', {
      field: parsed.error.issues[0]?.path[0],
    });
  const next = parsed.data;
  if (next.slug !== shop.slug && !isFree(site, next.slug))
    throw conflict(`Your site has a page at /${next.slug} already. Choose another address.`, {
      field: 'slug',
    });
  const old = [
    ...shop.old.filter((s) => s !== next.slug),
    ...(next.slug !== shop.slug ? [shop.slug] : []),
  ].slice(-20);
  const placed: ShopAddress = { ...next, old };
  const menu = withHomeItem(site, withShopAt(site, placed), placed);
  await ctx.store.write((tx) =>
    tx.update(sites).set({ shop: placed, menu }).where(eq(sites.id, site.row.id)),
  );
  ctx.changed(site.row.id);
  return loadSite(ctx, { id: site.row.id });
}
