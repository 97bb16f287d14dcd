import { expect, type Page, test } from '@playwright/test';
import { bytesAt, expectAccessible, fillAddress, lettersTo, linkIn, payWith, signIn } from './support/acts';
import { card, DEMO, office, shop } from './support/places';

// Several letters, payments and pages to each: longer than others where the machine is busy.
test.describe.configure({ timeout: 240_000 });

const weavers = `${shop(DEMO)}/withybed`;

/** One berry trug in a cart, at the checkout with the address written. */
async function atCheckout(page: Page, goods = 'berry-trug'): Promise<void> {
  await page.goto(`${weavers}/goods/${goods}`);
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await fillAddress(page);
}

/** Sets a part of the till through the office's own fields, and takes it back afterwards from the slip. */
async function tillPart(
  page: Page,
  part: string,
  name: string,
): Promise<{ region: ReturnType<Page['getByRole']>; save: () => Promise<void>; undo: () => Promise<void> }> {
  await page.goto(`${office(DEMO)}/withybed/till?${part}`);
  const region = page.getByRole('region', { name, exact: true });
  const lines = page.getByRole('button', { name: `Undo Till: ${name} changed` });
  return {
    region,
    async save() {
      await expect(
        page
          .getByRole('complementary', { name: 'Slip' })
          .getByText(/Already live|nothing waiting/)
          .first(),
      ).toBeVisible();
      const before = await lines.count();
      await region.getByRole('button', { name: 'Save', exact: true }).first().click();
      await expect(page.getByText('Saved, and live. The slip has the undo.').first()).toBeVisible();
      // The newest is the one to undo: it has to be there first.
      await expect(lines).toHaveCount(before + 1);
    },
    async undo() {
      await lines.first().click();
    },
  };
}

test('the owner packs, sends, refunds; papers, letters and takings follow', async ({ page }) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await page.getByRole('searchbox', { name: 'Find an order' }).fill('penhallow');
  await page.getByRole('button', { name: /Ada Penhallow.*1004/ }).click();
  const strip = page.getByRole('region', { name: 'So far' });
  // The answer comes while the carrier is being typed: nothing of it is lost, and the focus stays.
  await page.route(/\/api\/[^/]+\/orders\/[^/]+$/, async (route) => {
    if (route.request().method() === 'POST') await new Promise((soon) => setTimeout(soon, 700));
    await route.continue();
  });
  await strip.getByRole('button', { name: 'Mark packed' }).click();
  await strip.getByLabel('Carrier').pressSequentially('Parcel post', { delay: 140 });
  await expect(strip.getByLabel('Carrier')).toHaveValue('Parcel post');
  await expect(strip.getByText('Packed', { exact: true })).toBeVisible();
  await expect(strip.getByLabel('Carrier')).toBeFocused();
  await strip.getByLabel('Tracking number').fill('RR473124825GB');
  await expect(strip.getByRole('alert')).toContainText('ninth digit should be 9');
  await strip.getByLabel('Tracking number').fill('RR473124829GB');
  await strip.getByRole('button', { name: 'Mark sent', exact: true }).click();
  await expect(strip).toContainText('Parcel post, RR473124829GB');
  await strip.getByRole('button', { name: /^Refund up to/ }).click();
  await strip.getByRole('button', { name: 'One more Berry trug' }).click();
  await expect(strip.getByLabel('Amount')).toHaveValue('39.00');
  await strip.getByLabel('Reason').fill('A loose handle');
  await expectAccessible(page, 'orders with a refund being written');
  await strip.getByRole('button', { name: 'Refund £39.00' }).click();
  const sheet = page.getByRole('region', { name: 'Order 1004' });
  await expect(sheet).toContainText('A loose handle');
  await expect(sheet.getByRole('link', { name: 'Credit note W-C1' })).toBeVisible();
  const paper = await page.request.get(
    `${office(DEMO)}${await sheet.getByRole('link', { name: 'Credit note W-C1' }).getAttribute('href')}`,
  );
  expect(await paper.text()).toContain('£39.00');
  const pdf = await page.request.get(
    `${office(DEMO)}${await sheet.getByRole('link', { name: 'PDF' }).first().getAttribute('href')}`,
  );
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await expect
    .poll(
      async () =>
        (await lettersTo('ada@osierham.example')).filter(
          (l) => l.includes('RR473124829GB') || l.includes('£39.00'),
        ).length,
      { timeout: 40_000 },
    )
    .toBe(2);
  const csv = await page.request.get(`${office(DEMO)}/api/withybed/orders/csv?find=penhallow`);
  expect(await csv.text()).toMatch(/1004,W-4,.*39\.00/);
  await page.getByRole('button', { name: 'Takings', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'By placement' })).toBeVisible();
  await expect(page.getByText('Refunded').first()).toBeVisible();
  await expectAccessible(page, 'takings');
});

test('an order by transfer: told where to pay, marked as paid, and the buyer hears of it', async ({
  page,
  browser,
}) => {
  const shopper = await (
    await browser.newContext({ viewport: { width: 390, height: 844 }, javaScriptEnabled: false })
  ).newPage();
  await shopper.goto(`${weavers}/goods/berry-trug`);
  await shopper.getByRole('button', { name: 'Add to cart' }).click();
  await shopper.getByRole('link', { name: 'Go to checkout' }).click();
  await shopper.getByLabel('Country').selectOption('US');
  await shopper.getByRole('button', { name: 'Work out shipping and total' }).click();
  await expect(shopper.getByLabel('State or region')).toBeVisible();
  await expect(shopper.getByRole('radio', { name: 'Bank transfer' })).toHaveCount(0);
  await shopper.getByRole('button', { name: /^Pay/ }).click();
  await expect(shopper.getByText('Choose the state or region.')).toBeVisible();
  await expect(shopper.getByText('Please read it, and tick the box.')).toBeVisible();
  await shopper.getByLabel('Country').selectOption('GB');
  await shopper.getByRole('button', { name: 'Work out shipping and total' }).click();
  await fillAddress(shopper);
  await shopper.getByLabel('Postcode').fill('12345');
  await shopper.getByRole('radio', { name: 'Bank transfer' }).check();
  await shopper.getByRole('button', { name: /^Pay/ }).click();
  await expect(shopper.getByText('One looks like AB1 2CD.')).toBeVisible();
  await shopper.getByLabel('Postcode').fill('WB4 2TR');
  await shopper.getByRole('button', { name: /^Order and pay/ }).click();
  await expect(shopper.getByRole('heading', { name: 'What is left to do' })).toBeVisible();
  await expect(shopper.getByText('GB29 NWBK 6016 1331 9268 19')).toBeVisible();
  const number = (await shopper.locator('.stall-thanks strong').first().textContent()) ?? '';
  const reference = (await shopper.getByText(/^RF\d\d /).textContent()) ?? '';
  expect(reference.replace(/ /g, '')).toMatch(new RegExp(`^RF\\d\\d${number}$`));
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await page.getByRole('searchbox', { name: 'Find an order' }).fill(number);
  await page.getByRole('button', { name: new RegExp(`Ada Penhallow.*${number}`) }).click();
  await page.getByRole('button', { name: 'Mark as paid' }).click();
  await expect(page.getByRole('region', { name: 'So far' })).toContainText('Marked as paid by Marnie');
  await shopper.reload();
  await expect(shopper.getByRole('link', { name: /^Invoice W-/ })).toBeVisible();
});

test('the wallet: whatever its notices do, the order is paid once', async ({ page, browser }) => {
  for (const how of [
    'Pay; the notice comes twice',
    'Pay; no notice ever comes',
    'Pay; notices come out of order',
  ]) {
    const shopper = await (await browser.newContext()).newPage();
    await atCheckout(shopper);
    await shopper.getByRole('radio', { name: 'Wallet' }).check();
    await shopper.getByRole('button', { name: /^Pay/ }).click();
    await shopper.waitForURL(/wallet\.localhost/);
    await expectAccessible(shopper, 'the wallet');
    const waiting = shopper.url().replace('/pay/', '/waiting/');
    await shopper.getByRole('button', { name: how }).click();
    await expect(shopper.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
    const number = (await shopper.locator('.stall-thanks strong').first().textContent()) ?? '';
    await expect.poll(async () => (await bytesAt(waiting)).body.toString(), { timeout: 30_000 }).toBe('0');
    await shopper.reload();
    await expect(shopper.getByText('Your order is in, and paid.')).toBeVisible();
    await signIn(page, DEMO);
    await page.goto(`${office(DEMO)}/withybed/orders`);
    await page.getByRole('searchbox', { name: 'Find an order' }).fill(number);
    await page.getByRole('button', { name: new RegExp(number) }).click();
    await expect(page.getByRole('region', { name: 'So far' }).getByText(/^Paid £/)).toHaveCount(1);
  }
});

test('paid by wallet, whose answer was lost, and by card: the second money is refunded in one press', async ({
  page,
  browser,
}) => {
  const context = await browser.newContext();
  const first = await context.newPage();
  await atCheckout(first);
  await first.getByRole('radio', { name: 'Wallet' }).check();
  await first.getByRole('button', { name: /^Pay/ }).click();
  await first.waitForURL(/wallet\.localhost/);
  // The network is gone just when the wallet leads back; its notice comes eight seconds later.
  const wallet = new URL(first.url());
  const pressed = first.getByRole('button', { name: 'Pay; the notice comes 8 seconds late' });
  const name = (await pressed.getAttribute('name')) ?? '';
  await first.request.post(`http://127.0.0.1:${wallet.port}${wallet.pathname}`, {
    headers: { host: wallet.host, origin: wallet.origin },
    form: { [name]: (await pressed.getAttribute('value')) ?? '' },
    maxRedirects: 0,
  });
  await first.close();
  const second = await context.newPage();
  await second.goto(`${weavers}/goods`);
  await second.getByRole('link', { name: /^Cart, / }).click();
  await second.getByRole('link', { name: 'Go to checkout' }).click();
  await second.getByRole('radio', { name: 'Card' }).check();
  await second.getByRole('checkbox', { name: /^I have read it/ }).check();
  await second.getByRole('button', { name: /^Pay/ }).click();
  await payWith(second, card.approve);
  await expect(second.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
  const number = (await second.locator('.stall-thanks strong').first().textContent()) ?? '';
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await page.getByRole('searchbox', { name: 'Find an order' }).fill(number);
  await page.getByRole('button', { name: new RegExp(number) }).click();
  const strip = page.getByRole('region', { name: 'So far' });
  await expect(async () => {
    await page.reload();
    await page.getByRole('searchbox', { name: 'Find an order' }).fill(number);
    await page.getByRole('button', { name: new RegExp(number) }).click();
    await expect(strip.getByText('Paid a second time')).toBeVisible({ timeout: 2_000 });
  }).toPass({ timeout: 40_000 });
  await expectAccessible(page, 'an order that was paid twice');
  await page.getByRole('button', { name: /^Refund \u00a3/ }).click();
  await expect(strip.getByText(/^Refunded \u00a3/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Refund \u00a3/ })).toHaveCount(0);
  // The order itself is paid as before, and goes on its way.
  await expect(page.getByRole('button', { name: 'Mark packed' })).toBeVisible();
  await context.close();
});

test('cards that ask for a code, have no funds, or whose bank does not answer', async ({ page }) => {
  await atCheckout(page);
  await page.getByRole('button', { name: /^Pay/ }).click();
  await payWith(page, '9000 0000 0000 0068');
  await expect(page.getByText('Your bank asks you to confirm')).toBeVisible();
  await page.getByLabel('Code').fill('1');
  await page.getByRole('button', { name: 'Confirm' }).click();
  await expect(page.getByRole('alert')).toContainText('not the code');
  await page.getByLabel('Code').fill('246810');
  await page.getByRole('button', { name: 'Confirm' }).click();
  await expect(page.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
  await atCheckout(page);
  await page.getByRole('button', { name: /^Pay/ }).click();
  await payWith(page, '9000 0000 0000 0076');
  await expect(page.getByText(/Insufficient funds/)).toBeVisible();
  await expect(page.getByText('ring the workshop')).toBeVisible();
  await page.getByRole('link', { name: 'Try again' }).click();
  await page.getByRole('checkbox', { name: /^I have read it/ }).check();
  await page.getByRole('button', { name: /^Pay/ }).click();
  await payWith(page, '9000 0000 0000 0084');
  await expect(page.getByText('Your payment is being confirmed.')).toBeVisible();
  await expect(page.getByText('Nothing was charged, and your cart is as you left it.')).toBeVisible({
    timeout: 20_000,
  });
});

test('trying out is unmistakable, and no way to pay is told kindly to shoppers and loudly to the owner', async ({
  page,
  browser,
}) => {
  const shopper = await (await browser.newContext()).newPage();
  await signIn(page, DEMO);
  const pay = await tillPart(page, 'pay', 'Ways to pay');
  await pay.region.getByRole('checkbox', { name: 'Only trying out' }).check();
  await pay.save();
  await expect(page.getByText('Trying out: orders are marked')).toBeVisible();
  await expectAccessible(page, 'ways to pay, trying out');
  await atCheckout(shopper);
  await expect(shopper.getByText('This shop is only being tried out')).toBeVisible();
  await expectAccessible(shopper, 'checkout while trying out');
  await shopper.getByRole('button', { name: /^Pay/ }).click();
  await expect(shopper.getByText('The shop is trying things out')).toBeVisible();
  await payWith(shopper, card.approve);
  await expect(shopper.getByText('This shop is only being tried out')).toBeVisible();
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await page.getByRole('button', { name: 'One test order' }).click();
  await page.getByRole('button', { name: /Ada Penhallow.*test/ }).click();
  await expect(page.getByText('A test order: nothing was charged')).toBeVisible();
  await page.getByRole('button', { name: 'Delete the test orders' }).click();
  await expect(page.getByText('One test order is gone.')).toBeVisible();
  const again = await tillPart(page, 'pay', 'Ways to pay');
  await again.undo();
  await expect(page.getByText('Trying out: orders are marked')).toHaveCount(0);
  const none = await tillPart(page, 'pay', 'Ways to pay');
  await expect(none.region.getByRole('checkbox', { name: 'Offered to shoppers' })).toHaveCount(4);
  for (const box of await none.region.getByRole('checkbox', { name: 'Offered to shoppers' }).all())
    await box.uncheck();
  await none.save();
  await expect(page.getByRole('alert').filter({ hasText: 'cannot finish an order' })).toBeVisible();
  await atCheckout(shopper);
  await expect(shopper.getByText('Paying is not possible here just now. Your cart is kept')).toBeVisible();
  await expect(shopper.getByRole('button', { name: /^Pay/ })).toHaveCount(0);
  await none.undo();
  await expect(page.getByRole('alert').filter({ hasText: 'cannot finish an order' })).toHaveCount(0);
});

test('letters are written with a preview, and a name they do not know is told before it goes out', async ({
  page,
}) => {
  await signIn(page, DEMO);
  const letters = await tillPart(page, 'letters', 'Letters');
  await page.getByRole('button', { name: /^On its way/ }).click();
  const text = letters.region.getByLabel('Text');
  await text.fill('Dear {buyer},\n\nyour {godds} are on their way.');
  await expect(letters.region.getByRole('alert')).toContainText('{godds}');
  await text.fill('Dear {buyer},\n\n{goods}\n\nThese are on their way.');
  await expect(
    page.frameLocator('iframe[title="The letter"]').getByText('These are on their way.'),
  ).toBeVisible();
  await expectAccessible(page, 'letters');
  await letters.save();
  await letters.undo();
  await expect(text).not.toHaveValue(/These are on their way/);
  for (const [part, name] of [
    ['checkout', 'Checkout'],
    ['seller', 'Who sells'],
    ['exchange', 'Other currencies'],
  ] as const) {
    await tillPart(page, part, name);
    await expectAccessible(page, name);
  }
});

test('a shopper sets a password, fetches what is kept, and has it erased', async ({ page }) => {
  const email = `iris${Date.now()}@moor.example`;
  await page.goto(`${weavers}/goods/pattern-sheet-oval-shopper`);
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await fillAddress(page);
  await page.getByLabel('E-mail').fill(email);
  await page.getByRole('button', { name: /^Pay/ }).click();
  await payWith(page, card.approve);
  await expect(page.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
  await page.goto(`${weavers}/account`);
  await page.getByLabel('E-mail').fill(email);
  await page.getByRole('button', { name: 'Send me the link' }).click();
  await expect
    .poll(async () => (await lettersTo(email)).filter((l) => l.includes('/account/link/')).length)
    .toBe(1);
  await page.goto(linkIn((await lettersTo(email)).filter((l) => l.includes('/account/link/'))));
  await page.getByRole('button', { name: 'Open your orders' }).click();
  await page.getByText('Your data').click();
  await page.getByLabel(/^New password/).fill('short');
  await page.getByRole('button', { name: 'Set a password' }).click();
  await expect(page.getByRole('alert')).toContainText('ten characters');
  await page.getByText('Your data').click();
  await page.getByLabel(/^New password/).fill('nine reeds and a rush');
  await page.getByRole('button', { name: 'Set a password' }).click();
  await expect(page.getByText('Your password is set.')).toBeVisible();
  await expectAccessible(page, 'account with own data');
  const kept = await bytesAt(
    (await page.getByRole('link', { name: 'Download all that is kept about you' }).getAttribute('href')) ??
      '',
  );
  expect(kept.body.toString()).toContain('Pattern sheet: oval shopper');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel(/^Password/).fill('not this one at all');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('do not belong together');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel(/^Password/).fill('nine reeds and a rush');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText(`Orders of ${email}`)).toBeVisible();
  await page.getByText('Your data').click();
  await page.getByRole('button', { name: 'Erase my data' }).click();
  await page.getByRole('button', { name: 'Yes, erase it' }).click();
  await expect(page.getByText('It is erased.')).toBeVisible();
});

test('a paid basket at the back button, two tabs and a price that changed each have a calm answer', async ({
  page,
  browser,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const one = await context.newPage();
  await atCheckout(one, 'willow-bundle-1-5-kg');
  const checkout = one.url();
  const two = await context.newPage();
  await two.goto(checkout);
  // What was typed in one tab before it went to pay is there in the other.
  await one.getByRole('button', { name: /^Pay/ }).click();
  await one.waitForURL(/cards\.localhost/);
  const first = one.url();
  await two.reload();
  await expect(two.getByLabel('Street and number')).toHaveValue('4 Weir Lane');
  await two.getByRole('checkbox', { name: /^I have read it/ }).check();
  await two.getByRole('button', { name: /^Pay/ }).click();
  await two.waitForURL(/cards\.localhost/);
  expect(two.url()).toBe(first);
  await payWith(two, card.approve);
  await expect(two.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
  // Back to the checkout of a basket that is paid.
  await one.goto(checkout);
  await expect(one.getByText('There is nothing to pay for: your cart is empty.')).toBeVisible();
  await one.goto(first);
  await expect(one.getByText('Your order is in, and paid.')).toBeVisible();
  // The price changes while somebody looks at the button.
  await atCheckout(one, 'willow-bundle-1-5-kg');
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/goods?id=willow`);
  const list = await page.request.get(`${office(DEMO)}/api/withybed/goods`);
  const product = ((await list.json()) as { id: string; slug: string; variants: { id: string }[] }[]).find(
    (g) => g.slug === 'willow-bundle-1-5-kg',
  );
  const put = (price: number) =>
    page.request.put(`${office(DEMO)}/api/withybed/goods/${product?.id}`, {
      data: { fields: { price } },
      headers: { origin: office(DEMO) },
    });
  expect((await put(1500)).status()).toBe(200);
  await one.getByRole('button', { name: /^Pay/ }).click();
  await expect(one.getByRole('alert')).toContainText('The total is now £19.20');
  await expect(one.getByRole('button', { name: 'Pay £19.20' })).toBeVisible();
  expect((await put(1400)).status()).toBe(200);
});
