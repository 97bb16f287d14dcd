import { expect, test } from '@playwright/test';
import { expectAccessible, signIn } from './support/acts';
import { DEMO, live, office, shop } from './support/places';

test('every view of the office is accessible', async ({ page }) => {
  await page.goto(`${office(DEMO)}/sign-in`);
  await page.waitForSelector('[data-ready]');
  await expectAccessible(page, 'sign-in');
  await signIn(page, DEMO);
  for (const [path, ready] of [
    ['site', '.mini:not(.wait)'],
    ['bench?page=index.html', '.widget'],
    ['goods', '.gsheet'],
    ['goods?id=new', '.gsheet'],
    ['look', '.lk-worn'],
    ['till', '.tedit'],
    ['orders', '.osheet'],
    ['checks', '.checks article'],
  ] as const) {
    await page.goto(`${office(DEMO)}/withybed/${path}`);
    await page.waitForSelector(ready);
    await expectAccessible(page, path);
  }
  await page.goto(`${office(DEMO)}/withybed/bench?page=index.html`);
  await page.getByRole('button', { name: /^Buy button after/ }).click();
  await expectAccessible(page, 'bench with settings');
  await page.goto(`${office(DEMO)}/connect`);
  await page.waitForSelector('[data-ready]');
  await expectAccessible(page, 'connect');
});

test('the office is shut to those who are not signed in, and its cookie to every page of the site', async ({
  page,
  context,
}) => {
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await expect(page).toHaveURL(/\/sign-in\?to=/);
  expect((await page.request.get(`${office(DEMO)}/api/withybed/orders`)).status()).toBe(401);
  await signIn(page, DEMO);
  const cookies = await context.cookies(office(DEMO));
  expect(cookies.length).toBeGreaterThan(0);
  for (const c of cookies) expect([c.httpOnly, c.sameSite]).toEqual([true, 'Lax']);
  const sent: string[] = [];
  page.on('request', (r) => {
    if (!r.url().startsWith(office(DEMO)))
      void r.allHeaders().then(
        (h) => sent.push(`${r.url()} ${h.cookie ?? ''}`),
        () => {},
      );
  });
  await page.goto(`${live(DEMO)}/`);
  await expect(page.getByRole('link', { name: /^Cart/ })).toBeVisible();
  expect(await page.evaluate(() => document.cookie)).toBe('');
  await page.goto(`${shop(DEMO)}/withybed/goods`);
  expect(sent.length).toBeGreaterThan(5);
  expect(sent.filter((s) => s.includes('stall.session'))).toEqual([]);
});

test('the owner can look up orders and change stock on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await page.getByRole('button', { name: /Ines Quarrie/ }).click();
  await expect(page.getByRole('region', { name: /^Order 1/ })).toContainText('Sallowford');
  await page.goto(`${office(DEMO)}/withybed/goods`);
  await page
    .getByRole('region', { name: 'Goods' })
    .getByRole('button', { name: /Berry trug/ })
    .click();
  await page.getByLabel('In stock').fill('17');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Berry trug is saved, and live.')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
});

test('folders that cannot be used are refused with what to do', async ({ page }) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/connect`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('radio', { name: /A folder/ }).check({ force: true });
  for (const [folder, says] of [
    ['not/whole', "Enter the folder's whole path"],
    ['/no/such/folder', 'Sites are connected from'],
    [`${process.env.STALL_E2E_DIR}/demo/live/none`, 'There is no folder at'],
    [`${process.env.STALL_E2E_DIR}/demo/live/withybed`, 'is connected already'],
  ] as const) {
    await page.getByLabel("The folder's whole path").fill(folder);
    await page.getByRole('button', { name: 'Read the site' }).click();
    await expect(page.getByRole('alert')).toContainText(says);
  }
});
