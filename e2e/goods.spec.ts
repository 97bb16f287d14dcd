import { readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, signIn } from './support/acts';
import { DEMO, office, shop } from './support/places';

/** Goods as an owner writes them and as shoppers choose them; on a demo site that other tests do not count pieces of. */
const home = `${shop(DEMO)}/quillfeather`;
const goods = `${office(DEMO)}/quillfeather/goods`;
const cell = (page: Page, column: string, choice: string) =>
  page.getByLabel(`${column}, ${choice}`, { exact: true });

const PORT = 4793;
let server: Server;
test.beforeAll(async () => {
  server = createServer((_, res) => {
    res.writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': `default-src 'none'; script-src ${shop(DEMO)}; connect-src ${shop(DEMO)}; img-src ${shop(DEMO)} data:; form-action ${shop(DEMO)}`,
    });
    res.end(
      `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>Elsewhere</title><body><h1>Elsewhere</h1><stall-cart shop="${home}"></stall-cart><stall-shop main shop="${home}" level="3"></stall-shop><script async src="${shop(DEMO)}/stall.js" data-shop="${home}"></script></body></html>`,
    );
  });
  await new Promise<void>((ready) => server.listen(PORT, '127.0.0.1', ready));
});
test.afterAll(() => server.close());
test.describe.configure({ mode: 'serial' });

test('a product with options is written by keys: values, a block pasted from a spreadsheet, filled down, undone', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${goods}?id=new`);
  await page.getByLabel('Name', { exact: true }).fill('Clock key');
  await page.getByRole('textbox', { name: 'Description', exact: true }).fill('Brass, filed by hand.');
  await page.getByLabel('Price', { exact: true }).fill('12');
  await page.getByLabel('Cost', { exact: true }).fill('5');
  await expect(page.getByText('You keep')).toBeVisible();
  await page.getByRole('button', { name: 'Add options, like size or colour' }).press('Enter');
  await page.getByLabel('Size: value 1').fill('No. 1');
  for (const value of ['No. 2', 'No. 3']) {
    await page.getByLabel('Another Size').fill(value);
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'Add an option' }).press('Enter');
  await page.getByLabel('Name of the option').nth(1).fill('Metal');
  await page.getByLabel('Metal: value 1').fill('brass');
  await page.getByLabel('Another Metal').fill('steel,');
  await expect(page.getByText('6 choices')).toBeVisible();
  await cell(page, 'SKU', 'No. 1 brass').focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'K1B\t4\nK1S\t2\nK2B\t0\n');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(cell(page, 'Stock', 'No. 2 brass')).toHaveValue('0');
  await expect(cell(page, 'SKU', 'No. 1 steel')).toHaveValue('K1S');
  await cell(page, 'Grams', 'No. 1 brass').fill('40');
  await page.keyboard.press('Control+d');
  await expect(cell(page, 'Grams', 'No. 3 steel')).toHaveValue('40');
  await page.keyboard.press('Control+z');
  await expect(cell(page, 'Grams', 'No. 3 steel')).toHaveValue('');
  await page.keyboard.press('Control+Shift+z');
  await expect(cell(page, 'Grams', 'No. 3 steel')).toHaveValue('40');
  await cell(page, 'Difference', 'No. 3 brass').fill('+3');
  await page.keyboard.press('ArrowDown');
  await expect(cell(page, 'Difference', 'No. 3 steel')).toBeFocused();
  await page.keyboard.type('+4.50');
  await page.getByRole('button', { name: 'GTINs' }).press('Enter');
  await cell(page, 'GTIN', 'No. 1 brass').fill('4006381333932');
  await page.keyboard.press('Control+s');
  await expect(page.getByRole('alert').filter({ hasText: 'should be 1' })).toBeVisible();
  await cell(page, 'GTIN', 'No. 1 brass').fill('4006381333931');
  await expectAccessible(page, 'sheet with options');
  await page.getByRole('button', { name: 'Add to the goods' }).press('Enter');
  await expect(page.getByText('Clock key is saved, and live.')).toBeVisible();
  await expect(page.getByText('No. 2 brass is sold out.')).toBeVisible();
});

test('every choice at nought is said at once, with the mend', async ({ page }) => {
  await signIn(page, DEMO);
  await page.goto(`${goods}?id=new`);
  await page.getByRole('button', { name: 'Add options, like size or colour' }).click();
  await cell(page, 'Stock', 'One').fill('0');
  await page.getByLabel('Another Size').fill('Two');
  await page.keyboard.press('Enter');
  const mend = page.getByRole('alert').filter({ hasText: 'Nobody can buy this' });
  await expect(mend).toBeVisible();
  await mend.getByRole('button', { name: 'Stop counting stock' }).click();
  await expect(mend).toBeHidden();
  await expect(cell(page, 'Stock', 'Two')).toHaveValue('');
  await page.evaluate(() => localStorage.clear());
});

test('a shopper chooses: price and stock at once, what cannot be had is crossed out, under a strict policy', async ({
  page,
}) => {
  const broken: string[] = [];
  page.on('console', (m) => /content security policy/i.test(m.text()) && broken.push(m.text()));
  await page.goto(`http://pages.localhost:${PORT}/`);
  await page.getByRole('link', { name: 'Choose: Clock key' }).click();
  await expect(page).toHaveURL(/\?goods=clock-key$/);
  await expect(page.getByText('from \u00a312.00')).toBeVisible();
  await page.getByRole('radio', { name: 'No. 2' }).check({ force: true });
  await expect(page.getByRole('radio', { name: 'brass (not available)' })).toBeAttached();
  await page.getByRole('radio', { name: 'No. 3' }).check({ force: true });
  await page.getByRole('radio', { name: 'steel' }).check({ force: true });
  await expect(page.locator('[data-price]')).toHaveText('\u00a316.50');
  await page.getByRole('radio', { name: 'No. 1' }).check({ force: true });
  await expect(page.getByText('Only 2 left')).toBeVisible();
  await expectAccessible(page, 'product with options in the shop front');
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
  const data = JSON.parse(
    (await page.locator('head script[type="application/ld+json"]').textContent()) ?? '{}',
  ) as { '@graph': { '@type': string; offers: { offerCount: number; lowPrice: string } }[] };
  expect(data['@graph'].map((g) => g['@type'])).toEqual(['Product', 'BreadcrumbList']);
  expect(data['@graph'][0]?.offers).toMatchObject({ offerCount: 6, lowPrice: '12.00' });
  await page
    .getByRole('searchbox')
    .or(page.getByRole('link', { name: /Back to all goods/ }))
    .first()
    .click();
  await page.getByRole('searchbox').fill('clok keys');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Clock key', exact: true })).toBeVisible();
  expect(broken).toEqual([]);
});

test('in the table prices and counts are typed straight in, many are changed as one, and undone as one', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${goods}?table`);
  await page.getByLabel('Price of Gut line, a yard').fill('3.40');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Slip' })).toContainText('\u00a33.40');
  await page.getByLabel('Stock of Gut line, a yard').fill('a few');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Enter a whole number')).toBeVisible();
  await page.getByLabel('Stock of Gut line, a yard').press('Escape');
  await page.getByLabel('Tick all that are shown').check();
  await page.getByLabel('How much').fill('10');
  await expect(page.getByText('3 would change')).toBeVisible();
  await expect(page.getByText('\u00a33.74')).toBeVisible();
  await expectAccessible(page, 'table of goods');
  await page.getByRole('button', { name: 'Change 3' }).click();
  await expect(page.getByLabel('Price of Gut line, a yard')).toHaveValue('3.74');
  await page.getByRole('button', { name: /Undo Goods: Prices of 3 products/ }).click();
  await expect(page.getByLabel('Price of Gut line, a yard')).toHaveValue('3.40');
  await page.getByLabel('Find goods').fill('springs');
  await expect(page.locator('tbody tr')).toHaveCount(1);
});

test('a table goes out and in: every row\u2019s fate is seen first, and a refused row stops it all', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${goods}?table`);
  await page.getByRole('button', { name: 'Import or export CSV' }).click();
  const coming = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Goods as CSV' }).click();
  const text = readFileSync(await (await coming).path(), 'utf8');
  expect(text).toContain('clock-key,Clock key,ships,shown');
  const bring = (csv: string) =>
    page
      .getByLabel(/Import a table|goods\.csv/)
      .setInputFiles({ name: 'goods.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await bring(text);
  await expect(page.getByText('0 new, 0 changed, 3 as they are')).toBeVisible();
  await bring('Title;Preis;Pieces\r\nFusee chain;18,50;2\r\nBroken;dear;\r\n');
  await expect(page.getByText('1 new, 0 changed, 0 as they are, 1 refused.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import 1' })).toBeDisabled();
  await expectAccessible(page, 'a table coming in');
  await page.getByLabel('Leave the refused ones out').check();
  await page.getByRole('button', { name: 'Import 1' }).click();
  await expect(page.getByLabel('Price of Fusee chain')).toHaveValue('18.50');
  await page.getByRole('button', { name: /Undo .*A table: 1 new/ }).click();
  await expect(page.getByLabel('Price of Fusee chain')).toHaveCount(0);
});
