import { expect, test } from '@playwright/test';
import { expectAccessible, fillAddress, payWith, signIn } from './support/acts';
import { card, DEMO, office, shop } from './support/places';

/** What a basket costs: set by the owner, tried beside, and paid by a shopper to the penny. */
const weavers = `${shop(DEMO)}/withybed`;

test('the owner sets shipping, sees it on a cart before it is saved, and takes it back from the slip', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/till`);
  const tried = page.getByRole('region', { name: 'Try a cart' });
  await tried.getByLabel('Going to').selectOption('GB');
  await expect(tried.getByText('To pay')).toBeVisible();
  for (const part of ['Tax', 'Discounts', 'Shipping']) {
    await page
      .getByRole('navigation', { name: 'Rules of the till' })
      .getByRole('button', { name: part })
      .click();
    await expect(page.getByRole('region', { name: part, exact: true })).toBeVisible();
    await expectAccessible(page, `till: ${part}`);
  }
  const ship = page.getByRole('region', { name: 'Shipping', exact: true });
  // The region this cart goes to is open, the others tell what they cost; another destination opens another.
  await expect(ship.getByLabel('Name of the region')).toHaveValue('United Kingdom');
  await expect(ship.getByRole('button', { name: 'Ireland and Europe' })).toHaveAttribute(
    'aria-expanded',
    'false',
  );
  await expect(ship.getByText('never free').first()).toBeVisible();
  await tried.getByLabel('Going to').selectOption('IE');
  await expect(ship.getByLabel('Name of the region')).toHaveValue('Ireland and Europe');
  await ship.getByRole('button', { name: 'United Kingdom', exact: true }).press('Enter');
  await tried.getByLabel('Going to').selectOption('GB');
  await expect(ship.getByLabel('Name of the region')).toHaveValue('United Kingdom');
  await ship.getByLabel('Free from').first().fill('');
  await expect(tried.getByText('\u00a36.95', { exact: true })).toBeVisible();
  await ship.getByLabel('End of band 3').first().fill('4');
  await expect(ship.getByText('Band 3 ends before the one above it does.')).toBeVisible();
  await ship.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('band 3 ends before the one above it does').last()).toBeVisible();
  await ship.getByLabel('End of band 3').first().fill('10');
  await ship.getByLabel('Price of band 2').first().fill('7.50');
  await expect(tried.getByText('\u00a37.50', { exact: true })).toBeVisible();
  await expect(tried.getByText('with what is typed')).toBeVisible();
  const undo = page.getByRole('button', { name: 'Undo Till: Shipping changed' });
  await expect(undo.first()).toBeVisible();
  const before = await undo.count();
  await ship.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved, and live. The slip has the undo.')).toBeVisible();
  // The newest is the one to undo: it has to be there first.
  await expect(undo).toHaveCount(before + 1);
  await undo.first().click();
  await expect(ship.getByLabel('Free from').first()).toHaveValue('80.00');
});

test('a shopper on plain pages uses a code, chooses how it comes, and pays what stood on the button', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${weavers}/goods/willow-bundle-1-5-kg`);
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await expect(page.getByText('Shipping is worked out at the checkout.')).toBeVisible();
  const code = page.getByLabel('Discount code or gift voucher');
  await code.fill('coppice');
  await code.press('Enter');
  await expect(page.getByText('coppice is applied.')).toBeVisible();
  await expect(page.getByText('-\u00a31.40')).toBeVisible();
  await code.fill('made-up');
  await code.press('Enter');
  await expect(page.getByRole('alert')).toContainText('made-up is not known here');
  await expect(page.getByText('coppice is applied.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove made-up' }).click();
  await expectAccessible(page, 'cart with a code');
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await expect(page.getByLabel('Country')).toHaveValue('GB');
  await expect(page.getByRole('button', { name: 'Pay \u00a316.80' })).toBeVisible();
  await page.getByLabel('Country').selectOption('JP');
  await page.getByRole('button', { name: 'Work out shipping and total' }).click();
  await expect(page.getByRole('radio', { name: /By air/ })).toBeChecked();
  await expect(page.getByRole('button', { name: 'Pay \u00a334.60' })).toBeVisible();
  await page.getByLabel('Country').selectOption('GB');
  await page.getByLabel('Postcode').fill('WB4 2TR');
  await page.getByRole('button', { name: 'Work out shipping and total' }).click();
  await page.getByRole('radio', { name: /In our van/ }).check();
  await page.getByRole('button', { name: 'Work out shipping and total' }).click();
  await expectAccessible(page, 'checkout with ways');
  await fillAddress(page);
  await page.getByRole('button', { name: 'Pay \u00a315.10' }).click();
  await payWith(page, card.approve);
  await page.waitForURL(/\/thanks\//);
  await expect(async () => {
    await page.reload();
    await expect(page.getByText('\u00a315.10')).toBeVisible({ timeout: 2000 });
  }).toPass();
});

test('gift vouchers are bought, shown, and spent: what is left to pay is nothing', async ({ page }) => {
  await page.goto(`${weavers}/goods/gift-voucher`);
  await page.getByLabel(/^Your amount/).fill('50');
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await fillAddress(page);
  await page.getByRole('button', { name: 'Pay \u00a350.00' }).click();
  await payWith(page, card.approve);
  await page.waitForURL(/\/thanks\//);
  const shown = page.getByText(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/);
  await expect(async () => {
    await page.reload();
    await expect(shown).toBeVisible({ timeout: 2000 });
  }).toPass();
  const voucher = (await shown.textContent()) ?? '';
  await page.goto(`${weavers}/goods/weave-a-bird-feeder-kit`);
  await page.getByRole('button', { name: 'Add to cart' }).click();
  const code = page.getByLabel('Discount code or gift voucher');
  await code.fill(voucher.toLowerCase());
  await code.press('Enter');
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await fillAddress(page);
  await page.getByRole('button', { name: 'Order', exact: true }).click();
  await page.waitForURL(/\/thanks\//);
  await expect(page.getByText('Your order is in, and paid.')).toBeVisible();
});
