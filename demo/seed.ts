import { reachOf } from '../src/services/outside/reach';
import { cp, mkdir, readFile, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { edgePitch, listPitches } from '../src/core/site/pitch';
import { folderBlobs } from '../src/data/blobs';
import { openStore } from '../src/data/database';
import { readSettings } from '../src/server/settings';
import { Recent } from '../src/services/cache';
import type { Ctx } from '../src/services/context';
import * as goods from '../src/services/goods/goods';
import { takeFile } from '../src/services/goods/files';
import { takePicture } from '../src/services/goods/pictures';
import { decideReview, listReviews, ownReview, writeReview } from '../src/services/goods/reviews';
import { bringIn, firstSite } from '../src/services/sites/bring-in';
import { place } from '../src/services/sites/placing';
import { publish } from '../src/services/publishing/publish';
import { loadPage, loadSite, type Site } from '../src/services/sites/site';
import { addToCart } from '../src/services/till/add-to-cart';
import { setPlace } from '../src/services/till/cart-changes';
import { letters } from '../src/data/schema';
import { actOnOrder } from '../src/services/till/fulfil';
import { orderByToken } from '../src/services/till/orders';
import { policiesOf } from '../src/services/till/policies';
import { goToPay } from '../src/services/till/go-to-pay';
import { reconcile } from '../src/services/till/payment';
import { readRules, saveRules } from '../src/services/rules/rules';
import { post } from '../standins/local-request';
import { testCards } from '../standins/card-provider/cards';
import { buyers, laterBuyers, catalogue, others, reviews, till } from './catalogue';

/**
 * Fills an empty data folder with Withybed Weavers, through the same use cases as the office and the shop: the site
 * connected as a folder, goods, two placements published, four orders paid at the stand-in provider, and a few changes
 * that wait on the slip. Does nothing when a site is there already.
 */
const BY = 'Marnie';
const HOUR = 3_600_000;
const repo = fileURLToPath(new URL('../..', import.meta.url));

async function main(): Promise<void> {
  const settings = await readSettings(process.env);
  let offset = 0;
  const ctx: Ctx = {
    store: await openStore(settings.database, join(repo, 'dist/migrations')),
    log: pino({ level: 'warn' }),
    blobs: folderBlobs(join(settings.data, 'blobs')),
    folders: { roots: settings.folders, own: [settings.data] },
    journals: join(settings.data, 'journals'),
    addresses: settings,
    providers: settings.providers,
    signing: settings.signing,
    reach: reachOf(() => false),
    host: settings.host,
    mail: undefined,
    pictures: new Recent(10),
    now: () => new Date(Date.now() - offset),
    changed: () => {},
  };
  if (!(await firstSite(ctx)))
    await fill(ctx, settings.data, (ms) => {
      offset = ms;
    });
  ctx.store.close();
}

/** @param back sets the shop's clock so many milliseconds back. */
async function fill(ctx: Ctx, data: string, back: (ms: number) => void): Promise<void> {
  back(9 * 86_400_000);
  const folder = resolve(data, 'live/withybed');
  if (!(await stat(folder).catch(() => undefined))) {
    await mkdir(folder, { recursive: true });
    await cp(join(repo, 'demo/withybed'), folder, { recursive: true });
  }
  const { id } = await bringIn(ctx, { how: 'folder', folder }, { currency: 'GBP', liveUrl: '' });
  const site = () => loadSite(ctx, { id });
  await addGoods(ctx, await site());
  // Before the first invoice: its number has the prefix.
  await saveRules(
    ctx,
    await site(),
    { part: 'seller', value: till.seller, from: (await readRules(ctx.store.db, id)).seller },
    BY,
  );
  const placements = await placeFirst(ctx, await site());
  await publish(ctx, await site(), BY);
  const tokens: string[] = [];
  for (const b of buyers) {
    back(b.hoursAgo * HOUR);
    tokens.push(await buy(ctx, await site(), b, placements));
  }
  for (const s of reviews) {
    back(((buyers[s.buyer]?.hoursAgo ?? 1) - 1) * HOUR);
    await review(ctx, await site(), tokens[s.buyer] ?? '', s);
  }
  // Set after the first orders, which were before there was a till.
  for (const part of ['tax', 'shipping', 'discounts', 'pay', 'checkout', 'letters', 'exchange'] as const)
    await saveRules(
      ctx,
      await site(),
      { part, value: till[part], from: (await readRules(ctx.store.db, id))[part] },
      BY,
    );
  for (const b of laterBuyers) {
    back(b.hoursAgo * HOUR);
    const token = await buyByTill(ctx, await site(), b);
    back((b.hoursAgo - 2) * HOUR);
    await work(ctx, await site(), token, b.done);
  }
  back(20 * HOUR);
  await work(ctx, await site(), tokens[1] ?? '', ['pack', 'send']);
  await work(ctx, await site(), tokens[2] ?? '', ['pack']);
  // Letters of the demo's own past are not sent: nobody wants eight of them on coming in.
  await ctx.store.write((tx) => tx.delete(letters));
  back(40 * 60_000);
  await leaveChanges(ctx, await site());
  for (const other of others) await bringOther(ctx, data, other);
}

async function addGoods(ctx: Ctx, site: Site): Promise<void> {
  const made = new Map<string, { goodsId: string; variantId: string }>();
  for (const { files = [], parts = [], sheets = [], ...input } of catalogue) {
    const pictures = await Promise.all(
      files.map(async ({ file, alt, y }) => ({
        hash: await takePicture(ctx, await readFile(join(repo, `demo/goods/${file}.svg`))),
        alt,
        ...(y !== undefined && { y }),
      })),
    );
    const releases = await Promise.all(
      sheets.map(async ({ files: own, ...r }) => ({
        ...r,
        files: await Promise.all(own.map((f) => keepFile(ctx, f))),
      })),
    );
    const bundle = parts.flatMap(({ name, quantity }) =>
      made.has(name) ? [{ ...(made.get(name) as { goodsId: string; variantId: string }), quantity }] : [],
    );
    const product = await goods.addProduct(
      ctx,
      site,
      { ...input, pictures, bundle, ...(releases.length && { downloads: { releases } }) },
      BY,
    );
    made.set(product.name, { goodsId: product.id, variantId: product.variants[0]?.id ?? '' });
  }
}

async function keepFile(
  ctx: Ctx,
  f: { readonly name: string; readonly drawing?: string; readonly text?: string },
) {
  const bytes = f.drawing
    ? await readFile(join(repo, `demo/goods/${f.drawing}.svg`))
    : Buffer.from(f.text ?? '');
  return takeFile(ctx, Readable.from([bytes]), f.name);
}

async function placeFirst(ctx: Ctx, site: Site) {
  const home = await loadPage(ctx, site, 'index.html');
  const header = edgePitch(home, 'header', 'end');
  const hero = listPitches(home).find((p) => p.label.startsWith('after “Forty-one kinds'));
  if (!header || !hero) throw new Error('the demo site has lost its header or hero');
  const cart = await place(ctx, site, {
    kind: 'cart',
    settings: {},
    pitch: header.address,
    pitchLabel: header.label,
    reach: { to: 'every', except: [] },
  });
  const button = await place(ctx, site, {
    kind: 'buy',
    settings: { goods: 'round-log-basket', choice: 'M, natural', text: 'Buy the log basket' },
    pitch: hero.address,
    pitchLabel: hero.label,
    reach: { to: 'page', page: 'index.html' },
  });
  return { cart: cart.id, button: button.id };
}

async function buy(
  ctx: Ctx,
  site: Site,
  b: (typeof buyers)[number],
  placements: { button: string },
): Promise<string> {
  let token: string | null = null;
  let total = 0;
  for (const [slug, quantity] of b.lines) {
    const through = slug === 'round-log-basket';
    const cart = await addToCart(
      ctx,
      site,
      token,
      {
        goods: slug,
        quantity,
        placement: through ? placements.button : null,
        page: through ? '/' : `/goods/${slug}`,
        ...(through && { options: ['M', 'natural'] }),
      },
      null,
    );
    token = cart.token;
    total = cart.total;
  }
  const { name, street, town, postcode } = b;
  const email = `${name.split(' ')[0]?.toLowerCase()}@${town.toLowerCase().replace(/\W/g, '')}.example`;
  const { url, order } = await goToPay(
    ctx,
    site,
    token ?? '',
    { name, street, town, postcode, email, country: 'GB', total },
    'site',
  );
  await post(
    url,
    { 'content-type': 'application/x-www-form-urlencoded' },
    new URLSearchParams({ number: testCards[0]?.number ?? '' }).toString(),
  );
  await reconcile(ctx, order);
  return order;
}

/** By the till's rules: a way of shipping, a way to pay, the terms agreed to. */
async function buyByTill(ctx: Ctx, site: Site, b: (typeof laterBuyers)[number]): Promise<string> {
  let token: string | null = null;
  for (const [slug, quantity] of b.lines) {
    const options = slug === 'round-log-basket' ? { options: ['M', 'natural'] } : {};
    token = (
      await addToCart(
        ctx,
        site,
        token,
        {
          goods: slug,
          quantity,
          placement: null,
          page: slug === 'berry-trug' ? '/our-baskets/' : '/',
          ...options,
        },
        null,
      )
    ).token;
  }
  const { name, street, town, postcode, way, payBy, note } = b;
  const { total } = await setPlace(ctx, site, token ?? '', { country: 'GB', state: '', postcode }, way);
  const agreed = Object.fromEntries(
    policiesOf(ctx, site, await readRules(ctx.store.db, site.row.id)).map((p) => [p.id, p.version]),
  );
  const { url, order } = await goToPay(
    ctx,
    site,
    token ?? '',
    {
      name,
      street,
      town,
      postcode,
      email: `${name.split(' ')[0]?.toLowerCase()}@${town.toLowerCase().replace(/\W/g, '')}.example`,
      country: 'GB',
      total,
      way,
      payBy,
      note,
      agreed,
    },
    'site',
  );
  if (payBy === 'card' || payBy === 'wallet') {
    await post(
      url,
      { 'content-type': 'application/x-www-form-urlencoded' },
      new URLSearchParams(
        payBy === 'card' ? { number: testCards[0]?.number ?? '' } : { scenario: 'never' },
      ).toString(),
    );
    await reconcile(ctx, order);
  }
  return order;
}

async function work(ctx: Ctx, site: Site, token: string, done: readonly ('pack' | 'send')[]): Promise<void> {
  const { id } = await orderByToken(ctx, site.row.id, token);
  for (const act of done)
    await actOnOrder(
      ctx,
      site,
      id,
      { act, ...(act === 'send' && { carrier: 'Parcel post', tracking: 'RA473124829GB' }) },
      BY,
    );
}

async function review(
  ctx: Ctx,
  site: Site,
  order: string,
  { goods: slug, shown, answer, rating, title, text }: (typeof reviews)[number],
): Promise<void> {
  const product = (await goods.listGoods(ctx, site.row.id)).find((g) => g.slug === slug);
  if (!product) throw new Error(`the demo has no ${slug}`);
  const { name } = await ownReview(ctx, site, order, product.id);
  await writeReview(ctx, site, order, product.id, { rating, title, text, name });
  const written = (await listReviews(ctx, site)).find(
    (r) => r.state === 'waiting' && r.goodsId === product.id,
  );
  if (shown && written) await decideReview(ctx, site, written.id, { state: 'shown', answer });
}

/** Sites of other kinds, with goods and nothing placed yet: one that turns pages by script, one long page, one of tables. */
async function bringOther(
  ctx: Ctx,
  data: string,
  { folder, currency, goods: sold }: (typeof others)[number],
): Promise<void> {
  const to = resolve(data, 'live', folder);
  await cp(join(repo, 'demo/sites', folder), to, { recursive: true });
  const { id } = await bringIn(ctx, { how: 'folder', folder: to }, { currency, liveUrl: '' });
  for (const product of sold) await goods.addProduct(ctx, await loadSite(ctx, { id }), product, BY);
}

/** What the owner was at when you came in. */
async function leaveChanges(ctx: Ctx, site: Site): Promise<void> {
  const page = await loadPage(ctx, site, 'our-baskets/index.html');
  const pitch = listPitches(page).find((p) => p.label.startsWith('after “Oval, shallow and light'));
  if (pitch)
    await place(ctx, site, {
      kind: 'buy',
      settings: { goods: 'berry-trug' },
      pitch: pitch.address,
      pitchLabel: pitch.label,
      reach: { to: 'page', page: 'our-baskets/index.html' },
    });
  const trug = (await goods.listGoods(ctx, site.row.id)).find((g) => g.slug === 'berry-trug');
  if (trug) await goods.saveProduct(ctx, site, trug.id, { fields: { price: 4200 } }, BY);
}

main().catch((error: unknown) => {
  process.stderr.write(
    `The demo data could not be made: ${error instanceof Error ? error.stack : String(error)}\n`,
  );
  process.exit(1);
});
