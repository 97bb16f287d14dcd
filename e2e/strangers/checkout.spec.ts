import { expect, type Page, test } from '@playwright/test';
import { card, office, STRANGE } from '../support/places';
import { expectAccessible, payWith } from '../support/acts';
import type { Person } from '../support/person';
import { addProduct, asOwner, at, connect, shopper, countOrders } from './acts';
import { stranger } from './sites';

/**
 * The checkout as a shopper walks it who types key by key, with every request a third of a second away: nothing ships, everything
 * ships, both; no shipping rules; one way to pay and four; back, reload, two tabs, a phone.
 */
test.describe.configure({ mode: 'serial' });
const seed = Number(process.env.SEED ?? 7) + 20;
let site = '';

const orders = (page: Page): Promise<number> => countOrders(page, STRANGE, site);

test('an owner is paid in four ways, for what ships and what does not', async ({ page }) => {
  await asOwner(page);
  site = await connect(page, STRANGE, stranger('ten pixels', seed));
  await page.getByRole('button', { name: 'Add selling' }).click();
  await page.getByLabel('Where the business is').selectOption('GB');
  await expect(page.getByLabel('Prices are in')).toHaveValue('GBP');
  await page.getByLabel('Downloads').check();
  for (const way of ['By bank transfer', 'On delivery', 'When it is collected'])
    await page.getByLabel(way).check();
  await page.getByLabel('Account that transfers go to').fill('GB82 WEST 1234 5698 7654 32');
  await page.getByRole('button', { name: 'included' }).click();
  await expectAccessible(page, 'the set-up with all its answers');
  await page.getByRole('button', { name: 'Add selling' }).click();
  await page.getByRole('button', { name: /^Publish \d/ }).click();
  await expect(page.getByText(/^Published: /).first()).toBeVisible();
  await addProduct(page, STRANGE, site, { name: 'Tall jug', price: '24', stock: '9' });
  await addProduct(page, STRANGE, site, { name: 'Evening talk', price: '8', kind: 'Service' });
});

async function toCheckout(visit: Page, person: Person, goods: readonly string[]): Promise<void> {
  await visit.goto(at(STRANGE, site, 'shop.html'));
  for (const name of goods) {
    const add = visit
      .locator('stall-shop')
      .getByRole('button', { name: new RegExp(name) })
      .last();
    await person.press(add);
    await expect(visit.getByText('It is in your cart.').last()).toBeVisible();
  }
  await person.press(visit.getByRole('link', { name: /^Cart, / }).first());
  await person.press(visit.getByRole('link', { name: 'Go to checkout' }));
  await expect(visit.getByLabel('E-mail')).toBeVisible();
}

test('where nothing ships nobody is asked for a street, and only the pay button orders', async ({ page }) => {
  await asOwner(page);
  const { visit, person } = await shopper(page, seed);
  await toCheckout(visit, person, ['Evening talk']);
  for (const label of ['Street and number', 'Town', 'Postcode', 'Country'])
    await expect(visit.getByLabel(label)).toHaveCount(0);
  await person.press(visit.getByRole('radio', { name: 'Bank transfer' }));
  await expect(visit.getByRole('button', { name: 'Order and pay £8.00 later' })).toBeVisible();
  await person.press(visit.getByRole('radio', { name: 'Card' }));
  await expect(visit.getByRole('button', { name: 'Pay £8.00' })).toBeVisible();
  await person.write(visit.getByLabel('E-mail'), 'ada@penhallow.example');
  await visit.keyboard.press('Enter');
  await person.tab();
  await person.keys('Ada');
  await visit.keyboard.press('Enter');
  await person.press(visit.getByRole('radio', { name: 'Bank transfer' }));
  await expect(visit.getByRole('button', { name: /later$/ })).toBeVisible();
  await person.pause(900, 1100);
  expect(await orders(page)).toBe(0);
  await expect(visit).toHaveURL(/\/checkout\.html/);
  await expectAccessible(visit, 'a checkout where nothing ships');
  await person.press(visit.getByRole('button', { name: 'Order and pay £8.00 later' }));
  await expect(visit).toHaveURL(/\/thank-you\.html\?order=/);
  await expect(visit.getByText('GB82 WEST 1234 5698 7654 32')).toBeVisible();
  expect(await orders(page)).toBe(1);
  await visit.context().close();
});

test('what is typed stays whatever comes back meanwhile, and the first press of Pay counts', async ({
  page,
}) => {
  await asOwner(page);
  const { visit, person } = await shopper(page, seed + 1);
  await toCheckout(visit, person, ['Tall jug', 'Evening talk']);
  // The country decides the order of the fields: what was begun elsewhere goes on.
  await person.choose(visit.getByLabel('Country'), { label: 'Germany' });
  await person.write(visit.getByLabel('E-mail'), 'ada@penhallow.example');
  await person.tab();
  await person.keys('Ada Penhallow');
  await person.tab();
  await person.keys('4 Weir Lane');
  await person.tab();
  await person.keys('20357');
  await person.tab();
  await person.keys('Hamburg');
  for (const [label, value] of [
    ['E-mail', 'ada@penhallow.example'],
    ['Name', 'Ada Penhallow'],
    ['Street and number', '4 Weir Lane'],
    ['Postcode', '20357'],
    ['Town', 'Hamburg'],
  ] as const)
    await expect(visit.getByLabel(label, { exact: true })).toHaveValue(value);
  // One that is wrong is told where it stands, and forgiven while it is put right.
  await person.write(visit.getByLabel('Postcode'), '7');
  await person.press(visit.getByRole('button', { name: 'Pay £32.00' }));
  await expect(
    visit.getByText('This does not look like a postcode of Germany. One looks like 12345.'),
  ).toBeVisible();
  await expect(visit.getByLabel('Postcode')).toBeFocused();
  await expect(visit.getByLabel('Town')).toHaveValue('Hamburg');
  await person.write(visit.getByLabel('Postcode'), '20359');
  // Leaving the field begins a look-up; the press that comes into it is not lost.
  await person.press(visit.getByRole('button', { name: 'Pay £32.00' }));
  await visit.waitForURL(/cards\.localhost/);

  await visit.goBack();
  await expect(visit.getByLabel('Town')).toHaveValue('Hamburg');
  await expect(visit.getByLabel('Postcode')).toHaveValue('20359');
  // A look at the cart and back: nothing has to be written twice.
  await person.write(visit.getByLabel('Note with the order (optional)'), 'By the gate');
  await person.press(visit.getByRole('link', { name: 'Back to the cart' }));
  await expect(visit.getByRole('link', { name: 'Tall jug' }).last()).toHaveAttribute(
    'href',
    /shop\.html\?goods=tall-jug/,
  );
  await person.press(visit.getByRole('link', { name: 'Go to checkout' }));
  await expect(visit.getByLabel('Note with the order (optional)')).toHaveValue('By the gate');

  // In another tab the cart becomes another one: the first is told, and nothing is ordered for a sum it did not show.
  const other = await visit.context().newPage();
  await other.goto(at(STRANGE, site, 'cart.html'));
  const more = other.getByRole('button', { name: 'One more Evening talk' });
  await more.click();
  await more.click();
  await expect(other.getByText('£48.00').first()).toBeVisible();
  const before = await orders(page);
  await person.press(visit.getByRole('button', { name: 'Pay £32.00' }));
  await expect(visit.getByText(/The total is now £48\.00/)).toBeVisible();
  expect(await orders(page)).toBe(before);
  await person.press(visit.getByRole('button', { name: 'Pay £48.00' }));
  await payWith(visit, card.approve);
  await expect(visit.getByText('Your order is in, and paid.')).toBeVisible();
  await visit.context().close();
});

test('countries that nothing is sent to are told when they are chosen', async ({ page }) => {
  await asOwner(page);
  await page.goto(`${office(STRANGE)}/${site}/till?shipping`);
  await page.waitForSelector('[data-ready]');
  const rules = (await (await page.request.get(`${office(STRANGE)}/api/${site}/till`)).json()) as {
    rules: { shipping: object };
  };
  const region = {
    id: 'home',
    name: 'At home',
    areas: [{ country: 'GB' }],
    ways: [{ id: 'post', name: 'Post', base: 350 }],
  };
  const put = await page.request.put(`${office(STRANGE)}/api/${site}/till`, {
    headers: { origin: office(STRANGE) },
    data: {
      part: 'shipping',
      value: { ...rules.rules.shipping, regions: [region] },
      from: rules.rules.shipping,
    },
  });
  expect(put.status()).toBe(200);
  const { visit, person } = await shopper(page, seed + 2);
  await visit.setViewportSize({ width: 390, height: 844 });
  await toCheckout(visit, person, ['Tall jug']);
  await expect(visit.getByLabel('Country').locator('option').nth(1)).toHaveText('United Kingdom');
  await expect(visit.getByLabel('Country').locator('optgroup')).toHaveAttribute(
    'label',
    'We do not send there',
  );
  await expect(visit.getByRole('button', { name: 'Pay £27.50' })).toBeVisible();
  await person.choose(visit.getByLabel('Country'), { label: 'Germany' });
  await expect(visit.getByText('We do not send this to Germany yet.').first()).toBeVisible();
  await person.choose(visit.getByLabel('Country'), { label: 'United Kingdom' });
  await expect(visit.getByText('We do not send this to Germany yet.')).toHaveCount(0);

  // On a phone nothing stands out to the side, and whatever is pressed is as high as a finger needs (WCAG 2.2, 2.5.8).
  expect(await visit.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const low = await visit.locator('stall-page').evaluate((el) =>
    [
      ...(el.shadowRoot?.querySelectorAll<HTMLElement>('a,button,input:not([type=hidden]),select,textarea') ??
        []),
    ]
      .filter((e) => e.tabIndex >= 0 && e.offsetParent !== null)
      .filter((e) => !['radio', 'checkbox'].includes((e as HTMLInputElement).type))
      .map((e) => [e.textContent?.trim() || e.id, Math.round(e.getBoundingClientRect().height)] as const)
      .filter(([, height]) => height < 24),
  );
  expect(low).toEqual([]);
  await expectAccessible(visit, 'a checkout on a phone');
  await visit.context().close();
});
