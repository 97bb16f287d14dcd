import { expect, type Page, test } from '@playwright/test';
import { card, office, STRANGE } from '../support/places';
import { expectAccessible, payWith } from '../support/acts';
import type { Person } from '../support/person';
import { addProduct, asOwner, at, connect, sell, shopper, countOrders } from './acts';
import { stranger } from './sites';

/**
 * Back from the payment page, and two pages open at once: honest buyers find all of it again, others get
 * nothing for nothing.
 */
test.describe.configure({ mode: 'serial' });
const seed = Number(process.env.SEED ?? 7) + 100;
let site = '';

async function toPay(visit: Page, person: Person, email: string): Promise<void> {
  await person.press(visit.getByRole('link', { name: 'Go to checkout' }));
  await person.write(visit.getByLabel('E-mail'), email);
  await person.tab();
  await person.keys('Ada');
  await person.press(visit.getByRole('button', { name: /^Pay £/ }));
  await visit.waitForURL(/cards\.localhost/);
}

async function withCode(visit: Page, person: Person): Promise<void> {
  await visit.goto(at(STRANGE, site, 'shop.html'));
  await person.press(
    visit
      .locator('stall-shop')
      .getByRole('button', { name: /Evening talk/ })
      .last(),
  );
  await expect(visit.getByText('It is in your cart.').last()).toBeVisible();
  await visit.goto(at(STRANGE, site, 'cart.html'));
  await person.write(visit.getByLabel('Discount code or gift voucher'), 'half');
  await person.press(visit.getByRole('button', { name: 'Apply' }));
  await expect(visit.getByText(/half is applied/i)).toBeVisible();
}

test('back from the payment page the cart is as it was, with its own last piece and its own code', async ({
  page,
}) => {
  await asOwner(page);
  site = await connect(page, STRANGE, stranger('eight items', seed), 'GBP');
  await sell(page, STRANGE, site);
  await addProduct(page, STRANGE, site, { name: 'Evening talk', price: '80', kind: 'Service', stock: '2' });
  await page.goto(`${office(STRANGE)}/${site}/till?discounts`);
  await page.waitForSelector('[data-ready]');
  const discounts = page.getByRole('region', { name: 'Discounts', exact: true });
  await discounts.getByRole('button', { name: 'Add a code' }).click();
  await discounts.getByLabel('Code', { exact: true }).fill('HALF');
  await discounts.getByLabel('How much').fill('50');
  await discounts.getByText('When, and how often').click();
  await discounts.getByLabel('Times in all').fill('1');
  await discounts.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved, and live. The slip has the undo.').first()).toBeVisible();

  const { visit, person } = await shopper(page, seed);
  await visit.setViewportSize({ width: 390, height: 844 });
  await withCode(visit, person);
  await toPay(visit, person, 'ada@penhallow.example');
  await visit.goBack();
  await expect(visit.getByRole('button', { name: 'Pay £40.00' })).toBeVisible();
  await person.press(visit.getByRole('link', { name: 'Back to the cart' }));
  await expect(visit.getByText(/half is applied/i)).toBeVisible();
  await expect(visit.getByText(/sold out/i)).toHaveCount(0);
  await expectAccessible(visit, 'a cart after the payment page');
  await toPay(visit, person, 'ada@penhallow.example');
  await payWith(visit, card.approve);
  await expect(visit.getByText('Your order is in, and paid.')).toBeVisible();
  expect(await countOrders(page, STRANGE, site)).toBe(1);
  await visit.context().close();
});

test('a code for one, on two payment pages: the first is taken back when the basket changes', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await asOwner(page);
  // Once more: the first order used it up.
  const till = (await (await page.request.get(`${office(STRANGE)}/api/${site}/till`)).json()) as {
    rules: { discounts: { limit: number }[] };
  };
  const put = await page.request.put(`${office(STRANGE)}/api/${site}/till`, {
    headers: { origin: office(STRANGE) },
    data: {
      part: 'discounts',
      value: till.rules.discounts.map((d) => ({ ...d, limit: 2 })),
      from: till.rules.discounts,
    },
  });
  expect(put.status()).toBe(200);
  await addProduct(page, STRANGE, site, { name: 'Morning talk', price: '20', kind: 'Service' });
  const { visit, person } = await shopper(page, seed + 1);
  await withCode(visit, person);
  await toPay(visit, person, 'eve@moor.example');
  const early = visit.url();
  // Another basket in another tab: the first page is taken back.
  const tab = await visit.context().newPage();
  await tab.goto(at(STRANGE, site, 'shop.html'));
  await tab
    .locator('stall-shop')
    .getByRole('button', { name: /Morning talk/ })
    .last()
    .click();
  await expect(tab.getByText('It is in your cart.').last()).toBeVisible();
  await tab.goto(at(STRANGE, site, 'checkout.html'));
  await tab.getByLabel('E-mail').fill('eve@moor.example');
  await tab.getByRole('button', { name: /^Pay £/ }).click();
  await tab.waitForURL(/cards\.localhost/);
  await visit.goto(early);
  await expect(visit.getByText('This payment was closed: the basket it was for has changed.')).toBeVisible();
  await visit.context().close();
});
