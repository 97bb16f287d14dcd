import { cpSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { dirname, join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { bytesAt, expectAccessible, sha256 } from '../support/acts';
import { office, STRANGE } from '../support/places';
import { addProduct, asOwner, at, connect, leave, sell, shopper } from './acts';
import { allMakes, type Make, type Stranger, stranger } from './sites';

/**
 * Owners whose sites nobody here has seen: written anew for each run (SEED=n for another). Each is connected with an empty
 * shop, sold from at a person's speed, and left again, byte for byte.
 */
test.describe.configure({ mode: 'serial' });
const seed = Number(process.env.SEED ?? 7);

/** Where the running text of a page begins, and the heading and content of a shop page. */
const edges = (page: Page) =>
  page.evaluate(() => {
    const left = (el: Element | null | undefined) => el && Math.round(el.getBoundingClientRect().left);
    const text = [...document.querySelectorAll('p')].find((p) => (p.textContent ?? '').length > 60);
    return {
      text: left(text),
      shop: left(document.querySelector('stall-shop')),
      h1: left(document.querySelector('h1')),
    };
  });

const hashesAt = async (site: string, of: Stranger) =>
  Object.fromEntries(
    await Promise.all(
      Object.keys(of.files).map(async (path) => {
        const { body } = await bytesAt(at(STRANGE, site, path.replace(/index\.html$/, '')));
        return [path, sha256(body)] as const;
      }),
    ),
  );

const WIDTHS = [390, 1280] as const;

/** Where running text ends at each width, on a page of the owner's. */
async function textEnds(visit: Page): Promise<number[]> {
  const out: number[] = [];
  for (const width of WIDTHS) {
    await visit.setViewportSize({ width, height: 800 });
    out.push(
      await visit.evaluate(() => {
        const text = [...document.querySelectorAll('p')].find((p) => (p.textContent ?? '').length > 60);
        return Math.round(text?.getBoundingClientRect().right ?? 0);
      }),
    );
  }
  return out;
}

/**
 * The shop ends where the site's own text ends, and the cart is as wide as a sign, a word and a number: boxes of the owner's
 * that hide what is too wide, or stretch what stands in them, do neither to the shop.
 * @param ends where the owner's text ends.
 */
async function holdsItsPlace(visit: Page, ends: readonly number[]): Promise<void> {
  for (const [n, width] of WIDTHS.entries()) {
    await visit.setViewportSize({ width, height: 800 });
    const at = await visit.evaluate(() => {
      const box = (el: Element | null | undefined) => el?.getBoundingClientRect() ?? new DOMRect();
      return {
        shop: Math.round(box(document.querySelector('stall-shop')).right),
        cart: Math.round(box(document.querySelector('stall-cart')).width),
      };
    });
    const seen = `at ${width}, text to ${ends[n]}: ${JSON.stringify(at)}`;
    expect(at.shop, seen).toBeLessThanOrEqual((ends[n] ?? 0) + 1);
    expect(at.cart, seen).toBeLessThanOrEqual(240);
  }
}

for (const make of allMakes)
  test(`a site of the make "${make}" sells, and is given back byte for byte`, async ({ page }) => {
    const own = stranger(make, seed);
    // As a shop is called in the languages that shops speak.
    const shopName = { de: 'Laden', fr: 'Boutique' }[own.lang] ?? 'Shop';
    await asOwner(page);
    const site = await connect(page, STRANGE, own);
    const before = await hashesAt(site, own);
    await page.getByRole('button', { name: 'Add selling' }).click();
    await expect(page.getByText(`\u201c${shopName}\u201d in the menu of every page`)).toBeVisible();
    const isInHeader = await page.getByText('a cart in the header').isVisible();
    await sell(page, STRANGE, site);
    await addProduct(page, STRANGE, site, { name: 'Tall jug', price: '24', stock: '5' });

    const { visit, person } = await shopper(page, seed);
    await visit.goto(at(STRANGE, site));
    // A header that has room keeps the cart; the corner is for those that have none.
    const position = await visit.locator('stall-cart').evaluate((el) => getComputedStyle(el).position);
    expect(position === 'fixed', `the cart is ${position}`).toBe(!isInHeader);
    const ends = await textEnds(visit);
    const { text } = await edges(visit);
    await person.press(visit.getByRole('link', { name: shopName, exact: true }));
    await expect(visit.getByRole('heading', { level: 1 })).toHaveText(shopName);
    await expect(visit.getByRole('link', { name: 'Tall jug' }).first()).toBeVisible();
    // The shop stands on the site's own left edge.
    const shop = await edges(visit);
    expect(Math.abs((shop.shop ?? 0) - (text ?? -99)), JSON.stringify({ text, shop })).toBeLessThanOrEqual(1);
    await holdsItsPlace(visit, ends);
    await person.press(
      visit
        .locator('stall-shop')
        .getByRole('button', { name: /Tall jug/ })
        .last(),
    );
    await expect(visit.getByRole('link', { name: /, 1 / }).first()).toBeVisible();
    // The product's own page is named after it.
    await person.press(visit.getByRole('link', { name: 'Tall jug' }).first());
    await expect(visit.getByRole('heading', { level: 1 })).toHaveText('Tall jug');
    await expect(visit).toHaveTitle(/^Tall jug \u00b7 /);
    await visit.goBack();
    await expect(visit.getByRole('heading', { level: 1 })).toHaveText(shopName);
    await visit.context().close();

    await leave(page, STRANGE, site);
    expect(await hashesAt(site, own)).toEqual(before);
  });

test('a folder is sold from in place, and left as it was; the secrets beside its pages stay where they are', async ({
  page,
}) => {
  const own = stranger('eight items' satisfies Make, seed + 1);
  const folder = join(process.env.STALL_E2E_DIR ?? '', 'strange/live/brindle');
  for (const [path, body] of Object.entries({ ...own.files, '.env': 'SECRET=1', 'backup.sql': 'SECRET' })) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), body);
  }
  cpSync(folder, `${folder}-kept`, { recursive: true });
  const stateOf = (dir: string) =>
    Object.fromEntries(
      (readdirSync(dir, { recursive: true }) as string[])
        .filter((f) => statSync(join(dir, f)).isFile())
        .map((f) => [f, sha256(readFileSync(join(dir, f)))]),
    );
  await asOwner(page);
  await page.goto(`${office(STRANGE)}/connect`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('radio', { name: /A folder/ }).check({ force: true });
  await page.getByLabel("The folder's whole path").fill('/etc');
  await page.getByRole('button', { name: 'Read the site' }).click();
  await expect(page.getByRole('alert')).toContainText('Sites are connected from');
  await page.getByLabel("The folder's whole path").fill(folder);
  await page.getByRole('button', { name: 'Read the site' }).click();
  await page.waitForURL(/\/([^/]+)\/site$/);
  const site = new URL(page.url()).pathname.split('/')[1] ?? '';
  await sell(page, STRANGE, site);
  expect(readdirSync(folder)).toContain('shop.html');
  for (const path of ['.env', 'backup.sql'])
    expect((await bytesAt(`http://shop.localhost:${STRANGE + 1}/${site}/site/${path}`)).status).toBe(404);
  await leave(page, STRANGE, site);
  expect(stateOf(folder)).toEqual(stateOf(`${folder}-kept`));
});

const escaped = (code: string): string => code.replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** The cart's code is fetched on the bench, and looked for on a page elsewhere; what was seen stands with the publishings. */
async function handedOut(page: Page, site: string, host: string): Promise<void> {
  await page.goto(`${office(STRANGE)}/${site}/bench?page=index.html`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('button', { name: /^Cart at / }).click();
  await page.getByText('How it is written', { exact: false }).first().click();
  await page.getByText('Paste it into a page elsewhere').click();
  await page.getByLabel('Address of the page').fill(`${host}/far/off/page.html`);
  await page.getByRole('button', { name: 'Has it arrived?' }).click();
  await expect(
    page
      .getByRole('status')
      .filter({ hasText: /arrived|is there|seen/ })
      .first(),
  ).toBeVisible();
  await page.goto(`${office(STRANGE)}/${site}/site?lens=publishing`);
  await page.waitForSelector('[data-ready]');
}

test('code that is pasted into a page elsewhere sells there, and its ways lead to the owner\u2019s own pages', async ({
  page,
}) => {
  const own = stranger('ten pixels', seed + 2);
  const served = new Map<string, Buffer>(Object.entries(own.files).map(([p, t]) => [p, Buffer.from(t)]));
  const server = createServer((req, res) => {
    const path = decodeURIComponent((req.url ?? '/').split('?')[0] ?? '/').slice(1);
    const bytes = served.get(path) ?? served.get(`${path}index.html`);
    void res
      .writeHead(bytes ? 200 : 404, { 'content-type': 'text/html; charset=utf-8' })
      .end(bytes ?? 'none');
  });
  await new Promise<void>((ready) => server.listen(STRANGE + 18, '127.0.0.1', ready));
  const host = `http://elsewhere.localhost:${STRANGE + 18}`;
  try {
    await asOwner(page);
    await page.goto(`${office(STRANGE)}/connect`);
    await page.waitForSelector('[data-ready]');
    await page.getByLabel("The site's address now").fill(`${host}/`);
    const site = await connect(page, STRANGE, own, '', `${host}/`);
    await addProduct(page, STRANGE, site, { name: 'Tall jug', price: '24', stock: '5' });
    await page.goto(`${office(STRANGE)}/${site}/site`);
    await page.waitForSelector('[data-ready]');
    await page.getByRole('button', { name: 'Add selling' }).click();
    await page.getByRole('button', { name: 'Add selling' }).click();
    await page.getByRole('button', { name: /^Publish \d/ }).click();
    // Nothing was delivered anywhere, and nobody says so.
    await expect(page.getByText(/Nothing is live before you have uploaded the ZIP/)).toBeVisible();
    await page.goto(`${office(STRANGE)}/${site}/site?lens=publishing`);
    await page.getByRole('button', { name: 'Has it arrived?' }).click();
    await expect(page.getByText(/Not all of it: 0 of/)).toBeVisible();
    const zip = await page.request.get(`${office(STRANGE)}/api/${site}/site.zip`);
    for (const [path, bytes] of Object.entries(unzipSync(new Uint8Array(await zip.body()))))
      served.set(path, Buffer.from(bytes));
    await page.getByRole('button', { name: 'Has it arrived?' }).click();
    await expect(page.getByText(/It has arrived/)).toBeVisible();
    await expectAccessible(page, 'putting a site up oneself');

    // What the cart widget of this site is handed out as, pasted into a page of another depth.
    const bench = (await (
      await page.request.get(`${office(STRANGE)}/api/${site}/bench?page=index.html`)
    ).json()) as { placements: { written: { element: string } }[]; script: string };
    const pasted = `${bench.placements[0]?.written.element}${bench.script}`;
    served.set('far/off/page.html', Buffer.from(`<!doctype html><title>x</title><p>A page.</p>${pasted}`));
    const { visit, person } = await shopper(page, seed);
    await visit.goto(`${host}/shop.html`);
    await person.press(
      visit
        .locator('stall-shop')
        .getByRole('button', { name: /Tall jug/ })
        .last(),
    );
    await expect(visit.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
    await visit.goto(`${host}/far/off/page.html`);
    // As large there as on the owner's own pages, whose rem is another.
    expect((await visit.locator('stall-cart').boundingBox())?.height).toBe(44);
    await person.press(visit.getByRole('link', { name: 'Cart, 1 piece' }));
    await expect(visit).toHaveURL(`${host}/cart.html`);
    await expect(visit.getByText('Tall jug').first()).toBeVisible();
    await visit.context().close();

    await handedOut(page, site, host);
    // An editor escapes what was pasted: it is named as such, where all that was handed out is looked at.
    served.set('far/off/page.html', Buffer.from(`<!doctype html><title>x</title><p>${escaped(pasted)}</p>`));
    const list = page.getByRole('region', { name: 'Pasted elsewhere' });
    await expect(list.getByRole('status')).toHaveText('all of it was seen there');
    await list.getByRole('button', { name: 'Look at all of them' }).click();
    await expect(list.getByRole('status')).toHaveText('1 of 1 not seen there');
    await expect(list.getByText(/stands there as text/)).toBeVisible();
    await list.getByRole('button', { name: /^Forget/ }).click();
    await expect(list).toHaveCount(0);
  } finally {
    server.close();
  }
});
