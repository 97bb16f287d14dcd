import { createServer, type Server } from 'node:http';
import { expect, test } from '@playwright/test';
import { expectAccessible, fillAddress, payWith, signIn } from './support/acts';
import { card, DEMO, office, shop } from './support/places';

/** After the sale, and on the way to it: files, reviews, categories, narrowing, a quick look. */
const weavers = `${shop(DEMO)}/withybed`;
const prints = `${shop(DEMO)}/hollin`;
const PORT = 4795;
let server: Server;
test.beforeAll(async () => {
  server = createServer((_, res) => {
    res.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
    res.end(
      `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>Elsewhere</title><body><h1>Elsewhere</h1><stall-cart shop="${weavers}"></stall-cart><stall-shop main shop="${weavers}" level="3"></stall-shop><stall-reviews shop="${weavers}" heading="Said of us" level="2"></stall-reviews><stall-releases shop="${weavers}" goods="pattern-sheet-oval-shopper" level="2"></stall-releases><script async src="${shop(DEMO)}/stall.js" data-shop="${weavers}"></script></body></html>`,
    );
  });
  await new Promise<void>((ready) => server.listen(PORT, '127.0.0.1', ready));
});
test.afterAll(() => server.close());

test('a download is put in with its file, bought, and fetched by its buyer alone', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await signIn(page, DEMO);
  await test.step('the owner puts in a release, and sees it before it is saved', async () => {
    await page.goto(`${office(DEMO)}/hollin/goods?id=new`);
    await page.getByLabel('Name', { exact: true }).fill('Plans of a clock');
    await page.getByLabel('Price', { exact: true }).fill('9');
    await page.getByLabel('What it is').selectOption('download');
    await expect(page.getByText('Whoever buys it now gets nothing')).toBeVisible();
    await page.getByRole('button', { name: 'Add a release' }).click();
    await page.getByLabel('Each file, at most').fill('2');
    await page.getByLabel(/^Files, up to 2 GB each/).setInputFiles({
      name: 'plans.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.alloc(250_000, 'clock'),
    });
    await expect(page.getByText('250 kB')).toBeVisible();
    await page.getByRole('textbox', { name: 'What is new in 1.0' }).fill('All wheels are drawn.');
    await expect(
      page.frameLocator('.phone iframe').first().getByRole('heading', { name: 'Plans of a clock' }),
    ).toBeVisible();
    await expect(page.getByText('unsaved, phone 390')).toBeVisible();
    await expectAccessible(page, 'sheet of a download');
    await page.getByRole('button', { name: 'Add to the goods' }).click();
    await expect(page.getByText('Plans of a clock is saved, and live.')).toBeVisible();
  });
  const shopper = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  let files = '';
  await test.step('a shopper on plain pages pays, and fetches it as often as was agreed', async () => {
    await shopper.goto(`${prints}/goods/plans-of-a-clock`);
    await shopper.getByRole('button', { name: 'Add to cart' }).click();
    await shopper.getByRole('link', { name: 'Go to checkout' }).click();
    await fillAddress(shopper);
    await shopper.getByRole('button', { name: /^Pay/ }).click();
    await payWith(shopper, card.approve);
    await shopper.waitForURL(/\/thanks\//);
    await expect(async () => {
      await shopper.reload();
      await shopper.getByRole('link', { name: 'Your files' }).click({ timeout: 2000 });
    }).toPass();
    files = shopper.url();
    await expectAccessible(shopper, 'files of an order');
    for (const left of ['once more', 'Downloaded as often as was agreed']) {
      const [download] = await Promise.all([
        shopper.waitForEvent('download'),
        shopper.getByRole('button', { name: 'Download plans.pdf' }).click(),
      ]);
      expect(download.suggestedFilename()).toBe('plans.pdf');
      await download.path();
      await shopper.reload();
      await expect(shopper.getByText(left)).toBeVisible();
    }
  });
  await test.step('the address is of no use in another browser', async () => {
    const other = await (await browser.newContext()).newPage();
    await other.goto(files);
    await expect(other.getByText('These files belong to whoever ordered them.')).toBeVisible();
    await other.getByLabel('E-mail').fill('eve@moor.example');
    await other.getByRole('button', { name: 'Open my files' }).click();
    await expect(other.getByRole('alert')).toHaveText(/not the address of this order/);
    await expectAccessible(other, 'the question for the address');
  });
  await test.step('the owner lets them begin anew', async () => {
    await shopper.goto(`${files.replace('/downloads/', '/reviews/')}/none`);
    await expect(shopper.getByText('nothing to review')).toBeVisible();
    await page.goto(`${office(DEMO)}/hollin/orders`);
    await page.getByRole('button', { name: 'Let them fetch the files anew' }).click();
    await expect(page.getByText('Files may be fetched anew')).toBeVisible();
    await shopper.goto(files);
    await expect(shopper.getByText('2 more times')).toBeVisible();
    await page.goto(`${office(DEMO)}/hollin/goods`);
    await page.getByRole('button', { name: /^Plans of a clock/ }).click();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(page.getByText('Removed. The slip has the undo.')).toBeVisible();
  });
});

test('reviews wait for the owner, are shown, and answered, with an undo', async ({ page }) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/goods?reviews`);
  await expect(page.getByText('Good rods, late post')).toBeVisible();
  await expectAccessible(page, 'reviews');
  await page.getByRole('button', { name: 'Show it' }).click();
  await expect(page.getByText('Shown, and live.')).toBeVisible();
  await page.goto(`http://localhost:${PORT}/`);
  const said = page.locator('stall-reviews');
  await expect(said.getByRole('heading', { name: 'Good rods, late post' })).toBeVisible();
  await expect(said.getByText('4.3 \u00b7 4 reviews')).toBeVisible();
  await expect(page.locator('stall-releases').getByText('The border is drawn larger')).toBeVisible();
  await page.goto(`${office(DEMO)}/withybed/goods?reviews`);
  await page.getByRole('button', { name: /^Shown/ }).click();
  const bad = page.locator('li', { hasText: 'Good rods, late post' });
  await bad.getByRole('button', { name: 'Hide it' }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(bad.getByRole('button', { name: 'Hide it' })).toBeVisible();
});

test('categories are named, moved and nested by keys, live at once, and undone from the slip', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/goods?categories`);
  const line = (name: string) => page.getByRole('textbox', { name: `Name of ${name}`, exact: true });
  await expect(line('Willow')).toBeVisible();
  await expectAccessible(page, 'categories');
  await line('Willow').fill('Rods and bundles');
  await page.keyboard.press('Enter');
  await expect(line('Rods and bundles')).toBeVisible();
  await line('Rods and bundles').press('Alt+ArrowUp');
  await expect(page.locator('.gtree input').nth(2)).toHaveValue('Rods and bundles');
  await line('Rods and bundles').press('Alt+ArrowRight');
  await expect(line('Kits and patterns / Rods and bundles')).toBeVisible();
  await page.goto(`${weavers}/goods`);
  await expect(page.getByRole('link', { name: /^Kits and patterns 5/ })).toBeVisible();
  await page.goto(`${office(DEMO)}/withybed/goods?categories`);
  const undos = page.getByRole('button', { name: /^Undo .*Category/ });
  await expect(undos.first()).toBeVisible();
  for (let left = await undos.count(), n = 0; n < 3; n++) {
    await undos.first().click();
    await expect(undos).toHaveCount(--left);
  }
  await expect(line('Willow')).toBeVisible();
  expect(
    await page.locator('.gtree input').evaluateAll((all) => all.map((i) => (i as HTMLInputElement).value)),
  ).toEqual(['Baskets', 'Kits and patterns', 'Workshops', 'Willow', 'Vouchers']);
});

test('a list is narrowed on plain pages, which run no script: by tag and price', async ({ page }) => {
  await page.goto(`${weavers}/goods`);
  await page.getByText('Narrow down').click();
  await page.getByRole('checkbox', { name: /^to make/ }).check();
  await page.getByLabel(/^to \(/).fill('20');
  await page.getByRole('button', { name: 'Show', exact: true }).last().click();
  await expect(page.getByText('3 found')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Pattern sheet: oval shopper' })).toBeVisible();
  expect(page.url()).toContain('most=20');
  await page.getByText('Narrow down').click();
  await expectAccessible(page, 'narrowing');
  await page.getByRole('link', { name: 'Show all again' }).first().click();
  await expect(page.getByRole('heading', { name: 'Berry trug' })).toBeVisible();
});

test('with script the list is narrowed in place, and a product is looked at quickly by keys', async ({
  page,
}) => {
  await page.goto(`http://localhost:${PORT}/`);
  const front = page.locator('stall-shop');
  await expect(front.getByRole('heading', { name: 'Berry trug' })).toBeVisible();
  await front.getByText('Narrow down').click();
  await front.getByRole('checkbox', { name: /^for the garden/ }).check();
  await front.getByRole('button', { name: 'Show', exact: true }).last().click();
  await expect(front.getByText('2 found')).toBeVisible();
  expect(page.url()).toContain('tag=for+the+garden');
  await page.goBack();
  await expect(front.getByRole('heading', { name: 'Round log basket' })).toBeVisible();
  const look = front.getByRole('button', { name: 'Quick look: Round log basket' });
  await look.focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Round log basket' });
  await expect(dialog.getByText('A stout round basket')).toBeVisible();
  await expectAccessible(page, 'a quick look');
  await dialog.getByRole('radio', { name: 'M', exact: true }).check();
  await dialog.getByRole('radio', { name: /natural/ }).check();
  await dialog.getByRole('button', { name: 'Add to cart' }).click();
  await expect(dialog.getByText('It is in your cart.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await expect(look).toBeFocused();
});
