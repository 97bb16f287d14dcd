import { expect, type Locator, test } from '@playwright/test';
import { expectAccessible, fillAddress, payWith } from './support/acts';
import { card, DEMO, live, shop } from './support/places';

test.use({ javaScriptEnabled: false });

/** A picture that comes while the pointer is on its way moves the choice from under it: whoever misses presses again. */
const choose = (radio: Locator): Promise<void> =>
  expect(() => radio.check({ force: true, timeout: 5_000 })).toPass();

test('without any script the link on the page leads to a product that can be bought, start to finish', async ({
  page,
}) => {
  await page.goto(`${live(DEMO)}/`);
  await page.getByRole('link', { name: 'Buy the log basket' }).click();
  await expect(page).toHaveURL(new RegExp(`^${shop(DEMO)}/withybed/goods/round-log-basket`));
  await expect(page.getByRole('navigation', { name: 'Main' })).toContainText('Our baskets');
  // Every choice is a radio button: one of which there is none is told after the press, the others go.
  await choose(page.getByRole('radio', { name: 'M', exact: true }));
  await choose(page.getByRole('radio', { name: 'dyed' }));
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await expect(page.getByRole('alert')).toContainText('Round log basket (M, dyed) is sold out');
  await choose(page.getByRole('radio', { name: 'M', exact: true }));
  await choose(page.getByRole('radio', { name: 'natural' }));
  await page.getByLabel('How many').fill('2');
  await page.getByRole('button', { name: 'Add to cart' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Your cart');
  await expect(page.getByText('M, natural')).toBeVisible();
  await page.getByRole('button', { name: 'One fewer Round log basket' }).click();
  await expect(page.getByText('£68.00').last()).toBeVisible();
  await page.getByRole('link', { name: 'Go to checkout' }).click();
  await page.getByRole('button', { name: 'Pay £72.20' }).click();
  await expect(page.getByText('Enter the postcode.')).toBeVisible();
  await fillAddress(page);
  await page.getByRole('button', { name: 'Pay £72.20' }).click();
  await payWith(page, card.approve);
  await expect(page.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 15_000 });
  await page.getByRole('link', { name: 'Back to the site' }).click();
  await expect(page).toHaveURL(`${live(DEMO)}/`);
});

test.describe('on a phone', () => {
  test.use({ javaScriptEnabled: true, viewport: { width: 390, height: 844 } });
  test('plain pages and shop pages are accessible, and nothing is wider than the screen', async ({
    page,
  }) => {
    await page.goto(`${shop(DEMO)}/withybed/goods`);
    await expectAccessible(page, 'list of goods');
    await page.goto(`${shop(DEMO)}/withybed/goods/berry-trug`);
    await expectAccessible(page, 'product');
    await page.goto(`${shop(DEMO)}/withybed/goods/round-log-basket`);
    await expectAccessible(page, 'product with options');
    await page.goto(`${live(DEMO)}/`);
    await page.getByRole('button', { name: /Buy the log basket/ }).click();
    await expect(page.getByText('It is in your cart.')).toBeVisible();
    await expectAccessible(page, 'home with widgets');
    for (const [path, ready] of [
      ['cart/', 'Go to checkout'],
      ['checkout/', 'Pay £72.20'],
    ] as const) {
      await page.goto(`${live(DEMO)}/${path}`);
      await expect(page.getByText(ready, { exact: true })).toBeVisible();
      await expectAccessible(page, path);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
        `${path} is too wide`,
      ).toBeLessThanOrEqual(0);
    }
    await page.goto(`${live(DEMO)}/payment-failed/?order=unknown`);
    await expectAccessible(page, 'payment failed');
  });
});
