import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, payWith } from '../support/acts';
import { card, office, STRANGE } from '../support/places';
import { addProduct, asOwner, countOrders, sell, shopper } from './acts';
import { PasteHost } from './host';
import { stranger } from './sites';

/**
 * A site whose host takes code that is pasted and nothing else: read from its live address, sold on by its owner with copy and paste,
 * bought on by a shopper who types, and left.
 */
test.describe.configure({ mode: 'serial' });
const seed = Number(process.env.SEED ?? 7) + 130;
const made = stranger('eight items', seed);
const host = new PasteHost(made.files);
let before: Readonly<Record<string, string>> = {};
let site = '';

test.beforeAll(async () => {
  await host.open();
  before = host.pages;
});
test.afterAll(() => host.close());

async function toList(page: Page): Promise<void> {
  await page.goto(`${office(STRANGE)}/${site}/site?lens=publishing`);
  await page.waitForSelector('[data-ready]');
  await expect(page.getByRole('region', { name: 'What you paste on your host' })).toBeVisible();
}

const piece = (page: Page, name: string) =>
  page.locator('.piece', { has: page.getByText(name, { exact: true }) });

test('is read where it lives', async ({ page }) => {
  await asOwner(page);
  await page.goto(`${office(STRANGE)}/connect`);
  await page.waitForSelector('[data-ready]');
  await page.getByText('Its address').click();
  await expectAccessible(page, 'connecting a live address');
  await page.getByLabel('The site\u2019s address').fill('http://127.0.0.1:1/');
  await page.getByRole('button', { name: 'Read the site' }).click();
  await expect(page.getByRole('alert')).toContainText('No server answers at that address');
  await page.getByLabel('The site\u2019s address').fill(host.url);
  await page.getByLabel('Prices are in').selectOption('GBP');
  await page.getByRole('button', { name: 'Read the site' }).click();
  await page.waitForURL(/\/([^/]+)\/site$/);
  site = new URL(page.url()).pathname.split('/')[1] ?? '';
  await page.waitForSelector('[data-ready]');
  await addProduct(page, STRANGE, site, { name: 'Copper kettle', price: '42', stock: '3' });
  await sell(page, STRANGE, site);
});

test('lists what is pasted, and sees whether it has arrived', async ({ page }) => {
  await asOwner(page);
  await toList(page);
  await page.getByLabel('Your shop page').fill('https://elsewhere.example/shop');
  await page.getByRole('button', { name: 'It is there' }).click();
  await expect(page.getByRole('alert')).toContainText('has to be on your own site');
  host.addPage('/our-shop', '/', 'Our shop');
  await page.getByLabel('Your shop page').fill(`${host.url}our-shop`);
  await page.getByRole('button', { name: 'It is there' }).click();
  await expect(piece(page, 'The shop front')).toBeVisible();
  await page.getByRole('button', { name: 'Have all arrived?' }).click();
  await expect(page.getByText('The script is not on that page').first()).toBeVisible();
  await expectAccessible(page, 'the list of what is pasted');

  // An editor that takes code for words, then one that lets it through.
  const code = (await piece(page, 'The script, and the cart').locator('code').textContent()) ?? '';
  const escaped = code.replace(/</g, '&lt;');
  host.paste(escaped);
  await page.getByRole('button', { name: 'Has \u201cThe script, and the cart\u201d arrived?' }).click();
  await expect(page.getByText('stands there as text').first()).toBeVisible();
  for (const address of Object.keys(host.pages)) host.change(address, (text) => text.replace(escaped, ''));
  host.paste(code);
  const frontCode = (await piece(page, 'The shop front').locator('code').textContent()) ?? '';
  host.change('/our-shop', (text) => text.replace('<div class="block">', `<div class="block">${frontCode}`));
  const to = (await piece(page, 'Menu item \u201cShop\u201d').locator('code').textContent()) ?? '';
  expect(to).toBe(`${host.url}our-shop`);
  for (const address of Object.keys(host.pages))
    host.change(address, (text) => text.replace(/<\/ul>/, '<li><a href="/our-shop">Shop</a></li></ul>'));
  await page.getByRole('button', { name: 'Have all arrived?' }).click();
  await expect(page.getByText('all of it was seen there')).toBeVisible();
});

test('sells: a shopper buys without leaving it', async ({ page }) => {
  test.setTimeout(120_000);
  const { visit, person } = await shopper(page, seed);
  await visit.goto(host.url);
  await person.press(visit.getByRole('link', { name: 'Shop', exact: true }).first());
  await visit.waitForURL(`${host.url}our-shop`);
  await person.press(visit.getByRole('link', { name: 'Copper kettle' }).last());
  await expect(visit).toHaveURL(/our-shop\?goods=copper-kettle/);
  await person.press(visit.getByRole('button', { name: /Add to cart/ }).first());
  await expect(visit.getByRole('link', { name: /1 piece/ }).first()).toBeVisible();
  await person.press(visit.getByRole('link', { name: /1 piece/ }).first());
  await expect(visit).toHaveURL(/our-shop\?step=cart/);
  await person.press(visit.getByRole('link', { name: /checkout/i }).last());
  await expect(visit).toHaveURL(/our-shop\?step=checkout/);
  await person.write(visit.getByLabel('E-mail'), 'ada@penhallow.example');
  await person.write(visit.getByLabel('Street and number'), '1 Mill Lane');
  for (const [label, text] of [
    ['Name', 'Ada Penhallow'],
    ['Postcode', 'PL1 1AA'],
    ['Town', 'Saltmarsh'],
  ] as const)
    await person.write(visit.getByLabel(label, { exact: true }), text);
  await person.press(visit.getByRole('button', { name: /^(Order and pay|Pay)/ }));
  await payWith(visit, card.approve);
  await expect(visit).toHaveURL(/our-shop\?.*step=thanks/);
  await expect(visit.getByRole('heading', { name: 'Thank you' })).toBeVisible();
  await expect(visit.getByText('Your order is in, and paid')).toBeVisible();
  await asOwner(page);
  expect(await countOrders(page, STRANGE, site)).toBe(1);
});

test('does the same where the host takes text alone', async ({ page }) => {
  await asOwner(page);
  await toList(page);
  await page.getByText('a block of code within a page').click();
  const code = piece(page, 'The shop front').locator('code');
  await expect(code).toHaveText('[stall shop]');
  host.change('/our-shop', (text) => text.replace(/<stall-shop[\s\S]*<\/stall-shop>/, '<p>[stall shop]</p>'));
  await page.getByRole('button', { name: 'Have all arrived?' }).click();
  await expect(page.getByText('all of it was seen there')).toBeVisible();
  const { visit } = await shopper(page, seed + 1);
  await visit.goto(`${host.url}our-shop`);
  await expect(visit.getByRole('link', { name: 'Copper kettle' }).last()).toBeVisible();
  await visit.goto(`${host.url}our-shop?step=cart`);
  await expect(visit.getByRole('heading', { name: 'Your cart' })).toBeVisible();
  await visit.goto(`${host.url}our-shop?step=lookup`);
  await expect(visit.getByLabel('Order number')).toBeVisible();
  await visit.context().close();
});

test('is left: what still stands there is listed until it is gone', async ({ page }) => {
  await asOwner(page);
  await toList(page);
  await page.getByRole('button', { name: 'Leave\u2026' }).click();
  await page.getByRole('button', { name: 'Take it all out now' }).click();
  await expect(page.getByText('Take these out on your host')).toBeVisible();
  host.removePage('/our-shop');
  for (const [address, text] of Object.entries(before)) host.change(address, () => text);
  await page.getByRole('button', { name: 'Are they gone?' }).click();
  await expect(page.getByText('Take these out on your host')).toHaveCount(0);
  expect(host.pages).toEqual(before);
});
