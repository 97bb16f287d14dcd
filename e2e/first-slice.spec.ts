import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { bytesAt, fillAddress, payWith, sha256, zipOf } from './support/acts';
import { BARE, card, live, office } from './support/places';

/** Pages a careful owner would not write today, put beside the demo site: they must come back byte for byte. */
const oldPages: Record<string, Uint8Array> = {
  'my-site/old/crlf.html': Buffer.from(
    '<html>\r\n<head><title>Old</title></head>\r\n<body>\r\n<div id="header"><p>Withy</p></div>\r\n<div>one</div>\r\n</body>\r\n</html>\r\n',
  ),
  'my-site/old/bom.html': Buffer.from(
    '\ufeff<!doctype html><title>B\u00e9b\u00e9</title><header><b>Withy</b></header><main><p>one</main>',
  ),
  'my-site/old/latin.html': Buffer.from(
    '<html><head><meta charset="windows-1252"><title>Caf\xe9 \x80</title></head><body><div class="header"><p>Caf\xe9</p></div><p>na\xefve</body></html>',
    'latin1',
  ),
  'my-site/old/unclosed.html': Buffer.from(
    '<TITLE>Un</TITLE><BODY><DIV CLASS=top><P>Withy</DIV><P>one<P>two<UL><LI>a<LI>b</UL>',
  ),
};

test.describe.configure({ mode: 'serial' });

/** Issue by issue what the first slice promises, through the real interface, from nothing to an order and back again. */
test('an owner sells one thing from a page they already have, and can leave without a trace', async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  const before = new Map<string, string>();

  await test.step('the first owner comes in by the one-time link', async () => {
    await page.goto(process.env.STALL_E2E_WELCOME ?? '');
    await page.waitForSelector('[data-ready]');
    await page.getByLabel('Your name').fill('Marnie');
    await page.getByLabel('E-mail').fill('marnie@withybed.example');
    await page.getByLabel('Password').fill('short');
    await page.getByRole('button', { name: 'Open the office' }).click();
    await expect(page.getByText('A password has at least 10 characters')).toBeVisible();
    await page.getByLabel('Password').fill('a bundle of osiers');
    await page.getByRole('button', { name: 'Open the office' }).click();
    await page.waitForURL(/\/connect/);
  });

  await test.step('a broken ZIP is refused with what to do, and leaves nothing', async () => {
    await page.waitForSelector('[data-ready]');
    await page.getByLabel('The ZIP').setInputFiles({
      name: 'broken.zip',
      mimeType: 'application/zip',
      buffer: Buffer.from('PK not a zip at all'),
    });
    await page.getByLabel('Prices are in').selectOption('GBP');
    await page.getByRole('button', { name: 'Read the site' }).click();
    await expect(page.getByRole('alert')).toContainText('cannot be read as a ZIP');
  });

  await test.step('the site is connected by its ZIP, and its pages appear in the order of its menu', async () => {
    await page.getByLabel('The ZIP').setInputFiles({
      name: 'withybed.zip',
      mimeType: 'application/zip',
      buffer: zipOf('demo/withybed', oldPages),
    });
    await page.getByRole('button', { name: 'Read the site' }).click();
    await page.waitForURL(/\/withybed\/site$/);
    await expect(page.locator('.col h3')).toHaveText([
      'Home',
      'Our baskets',
      'Workshops',
      'The withy bed',
      'Journal',
      'Not in a menu',
    ]);
    await expect(page.getByRole('region', { name: 'The withy bed' }).locator('.t')).toHaveText([
      'The withy bed',
      'Visit us',
    ]);
    await expect(page.getByRole('region', { name: 'Journal' }).locator('.pg')).toHaveCount(4);
    // Real miniatures: the frame holds the page itself.
    const mini = page.frameLocator('section[aria-label="Home"] iframe').first();
    await expect(mini.getByRole('heading', { name: /Baskets grown/ })).toBeAttached();
    for (const path of [
      '/',
      '/journal/cutting-week/',
      '/old/crlf.html',
      '/old/bom.html',
      '/old/latin.html',
      '/old/unclosed.html',
    ]) {
      before.set(path, sha256((await bytesAt(live(BARE) + path)).body));
    }
    expect(before.get('/')).toBe(sha256(readFileSync('demo/withybed/index.html')));
    expect(before.get('/old/latin.html')).toBe(sha256(oldPages['my-site/old/latin.html'] as Uint8Array));
  });

  await test.step('a product is added, with its picture, price and stock', async () => {
    await page.getByRole('link', { name: 'Goods' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Round log basket');
    await page.getByLabel('Description').fill('A stout round basket for a night\u2019s logs.');
    await page.getByLabel('Price', { exact: true }).fill('sixty');
    await page.getByLabel('In stock').fill('3');
    await page.getByLabel('Picture', { exact: true }).setInputFiles('demo/goods/log.svg');
    await page.getByRole('button', { name: 'Add to the goods' }).click();
    await expect(page.getByText('Enter an amount')).toBeVisible();
    await page.getByLabel('Price', { exact: true }).fill('68');
    await page.getByRole('button', { name: 'Add to the goods' }).click();
    await expect(
      page.getByRole('region', { name: 'Goods' }).getByRole('button', { name: /Round log basket/ }),
    ).toContainText('3 in stock');
    await expect(page.getByRole('complementary', { name: 'Slip' })).toContainText('Added to the goods');
  });

  await test.step('a buy button is dragged between two blocks, a cart placed in every header', async () => {
    await page.goto(`${office(BARE)}/withybed/site`);
    await page.getByRole('link', { name: 'Home: open on the bench' }).click();
    const overlay = page.locator('.overlay');
    await expect(page.locator('.plus').first()).toBeVisible();
    // Where the paragraph ends, in the page's own pixels; the bench draws them smaller.
    const end = await page
      .frameLocator('.pagebox iframe')
      .first()
      .getByText('Forty-one kinds of willow')
      .evaluate((p) => {
        const r = p.getBoundingClientRect();
        return { x: r.left + 30, y: r.bottom };
      });
    const scale = ((await overlay.boundingBox())?.width ?? 0) / 1280;
    await page
      .getByRole('button', { name: /Buy button/ })
      .dragTo(overlay, { targetPosition: { x: end.x * scale, y: end.y * scale } });
    await expect(page.getByRole('region', { name: 'Buy button: settings' })).toContainText(
      'after “Forty-one kinds',
    );
    await page.getByLabel('Text', { exact: true }).fill('Buy the log basket');
    await expect(
      page
        .frameLocator('.pagebox iframe')
        .first()
        .getByRole('button', { name: 'Buy the log basket · £68.00' }),
    ).toBeVisible();
    await page.getByRole('region', { name: 'Shelf' }).getByRole('button', { name: /Cart/ }).click();
    await expect(page.getByRole('region', { name: 'Cart: settings' })).toContainText('on 13 of 13 pages');
  });

  await test.step('the slip lists both, takes one back and gets it again; nothing is live yet', async () => {
    const slip = page.getByRole('complementary', { name: 'Slip' });
    await expect(slip).toContainText('Every page');
    await expect(slip).toContainText('Cart added at the end of the header');
    await slip.getByRole('button', { name: /Undo Every page: Cart/ }).click();
    await expect(slip.getByText('Every page')).toHaveCount(0);
    await page.locator('body').press('Escape');
    await page.getByRole('region', { name: 'Shelf' }).getByRole('button', { name: /Cart/ }).click();
    await expect(slip).toContainText('Every page');
    expect(sha256((await bytesAt(`${live(BARE)}/`)).body)).toBe(before.get('/'));
    await slip.getByRole('button', { name: 'Publish 2 changes' }).click();
    await expect(page.getByText(/^Published: 2 changes/).first()).toBeVisible();
    await expect(slip.getByText('nothing waiting')).toBeVisible();
  });

  const shopper = await context.browser()?.newContext({ locale: 'en-GB' });
  if (!shopper) throw new Error('no second browser context');
  const visit = await shopper.newPage();

  await test.step('a shopper buys: count on every page, quantity, declined, tried again, paid', async () => {
    await visit.goto(`${live(BARE)}/`);
    await visit.getByRole('button', { name: 'Buy the log basket · £68.00' }).click();
    await expect(visit.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
    await visit.getByRole('link', { name: 'Workshops' }).click();
    await visit.getByRole('link', { name: 'Cart, 1 piece' }).click();
    await expect(visit).toHaveURL(/\/cart\/$/);
    await expect(visit.getByRole('navigation', { name: 'Main' })).toContainText('Journal');
    await expect(visit.getByRole('contentinfo')).toContainText('Open Fridays');
    await visit.getByRole('button', { name: 'One more Round log basket' }).click();
    await expect(visit.getByRole('definition').last()).toHaveText('£136.00');
    await expect(visit.getByRole('link', { name: 'Cart, 2 pieces' })).toBeVisible();
    await visit.getByRole('link', { name: 'Go to checkout' }).click();
    await expect(visit.getByRole('heading', { level: 1 })).toHaveText('Checkout');
    await expect(visit.getByRole('navigation', { name: 'Main' })).toContainText('Our baskets');
    await visit.getByRole('button', { name: 'Pay £136.00' }).click();
    await expect(visit.getByText('6 fields need another look.')).toBeVisible();
    await fillAddress(visit);
    await visit.getByRole('button', { name: 'Pay £136.00' }).click();
    await payWith(visit, card.decline);
    await expect(visit).toHaveURL(/\/payment-failed\/\?order=/);
    await expect(visit.getByText('Nothing was charged, and your cart is as you left it.')).toBeVisible();
    await visit.getByRole('link', { name: 'Try again' }).click();
    await fillAddress(visit);
    await visit.getByRole('button', { name: 'Pay £136.00' }).click();
    await payWith(visit, card.approve);
    await expect(visit).toHaveURL(new RegExp(`^${live(BARE)}/thank-you/\\?order=`));
    await expect(visit.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
    await expect(visit.getByRole('link', { name: 'Cart, 0 pieces' })).toBeVisible();
  });

  await test.step('the order stands with lines, total, payment and placement; stock went down once', async () => {
    await page.goto(`${office(BARE)}/withybed/orders`);
    const order = page.getByRole('region', { name: /^Order 1001/ });
    await expect(order).toContainText('Ada Penhallow');
    await expect(order).toContainText('£136.00');
    await expect(order).toContainText('Home, buy button after “Forty-one kinds');
    await expect(order).toContainText('Declined');
    await expect(order).toContainText('Paid, card ending 0019');
    await expect(page.getByRole('region', { name: 'So far' })).toContainText('Paid £136.00');
    await page.goto(`${office(BARE)}/withybed/goods`);
    await expect(page.getByLabel('In stock')).toHaveValue('1');
  });

  await test.step('a new price is live at the next load, with nothing to publish', async () => {
    await page.getByLabel('Price', { exact: true }).fill('72.50');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const slip = page.getByRole('complementary', { name: 'Slip' });
    await expect(slip).toContainText('£72.50');
    await expect(slip.getByText('nothing waiting')).toBeVisible();
    await visit.goto(`${live(BARE)}/`);
    await expect(visit.getByRole('button', { name: 'Buy the log basket · £72.50' })).toBeVisible();
    await expect(visit.getByText('Only 1 left')).toBeVisible();
    await slip.getByRole('button', { name: /Undo Round log basket: Price/ }).click();
    await expect(page.getByLabel('Price', { exact: true })).toHaveValue('68.00');
  });

  await test.step('what is taken away and published leaves every page byte for byte', async () => {
    for (const path of ['/old/crlf.html', '/old/bom.html', '/old/latin.html', '/']) {
      expect((await bytesAt(live(BARE) + path)).body.toString('latin1')).toContain('<stall-cart');
    }
    await page.goto(`${office(BARE)}/withybed/bench?page=index.html`);
    await page.getByRole('button', { name: /^Cart at the end/ }).click();
    await page.getByRole('button', { name: 'Remove it' }).click();
    await expect(page.getByText('1 widget on this page')).toBeVisible();
    await page.getByRole('button', { name: /^Buy button after/ }).click();
    await page.locator('body').press('Delete');
    await expect(page.getByText('0 widgets on this page')).toBeVisible();
    await page.getByRole('button', { name: 'Publish 2 changes' }).click();
    await expect(page.getByText(/^Published: 2 changes/).first()).toBeVisible();
    for (const [path, hash] of before)
      expect(sha256((await bytesAt(live(BARE) + path)).body), path).toBe(hash);
    expect((await bytesAt(`${live(BARE)}/cart/`)).status).toBe(404);
  });
});
