import { cpSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { expectAccessible, sha256, signIn } from './support/acts';
import { DEMO, live, office } from './support/places';

/** Every file of a folder with its hash. */
const stateOf = (folder: string): Record<string, string> =>
  Object.fromEntries(
    (readdirSync(folder, { recursive: true }) as string[])
      .filter((f) => statSync(join(folder, f)).isFile())
      .sort()
      .map((f) => [f, sha256(readFileSync(join(folder, f)))]),
  );

test('a folder is connected, written in place, guarded against foreign changes, and given back byte for byte', async ({
  page,
}) => {
  const folder = join(process.env.STALL_E2E_DIR ?? '', 'demo/live/heron');
  cpSync('demo/withybed', folder, { recursive: true });
  for (const f of readdirSync(folder, { recursive: true }) as string[]) {
    if (f.endsWith('.html'))
      writeFileSync(
        join(folder, f),
        readFileSync(join(folder, f), 'utf8').replaceAll('Withybed Weavers', 'Heron Pottery'),
      );
  }
  const before = stateOf(folder);

  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/connect`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('radio', { name: /A folder/ }).check({ force: true });
  await page.getByLabel("The folder's whole path").fill(`${folder}/`);
  await page.getByRole('button', { name: 'Read the site' }).click();
  await page.waitForURL(/\/heron\/site$/);
  await expect(page.getByText('nothing sells yet')).toBeVisible();
  await expect(page.getByText('The site and the shop agree.')).toBeVisible();
  await expectAccessible(page, 'a site that sells nothing yet');
  await page.goto(`${live(DEMO, 'heron')}/`);
  await expect(page.getByRole('link', { name: 'Heron Pottery' })).toBeVisible();

  await page.goto(`${office(DEMO)}/heron/bench?page=workshops%2Findex.html`);
  await expect(page.locator('.plus').first()).toBeVisible();
  await page.getByRole('button', { name: /^Buy button/ }).click();
  await expect(page.getByText('Choose a pitch on the page first')).toBeVisible();
  await page.locator('.plus').nth(1).click();
  await page.getByRole('button', { name: /^Buy button/ }).click();
  await expect(page.getByText('There are no goods to sell yet.')).toBeVisible();
  await page.locator('body').press('Escape');
  await page.getByRole('region', { name: 'Shelf' }).getByRole('button', { name: /^Cart/ }).click();
  await expect(page.getByText('on 9 of 9 pages')).toBeVisible();
  await page.getByRole('button', { name: 'Pages…' }).click();
  // The box shows what the server answered: a press, and then what came of it.
  await page.getByLabel('Home', { exact: true }).click();
  await expect(page.getByText('on 8 of 9 pages')).toBeVisible();

  writeFileSync(
    join(folder, 'journal/index.html'),
    `${readFileSync(join(folder, 'journal/index.html'), 'utf8')}<!-- by hand -->`,
  );
  await page.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(page.getByText('journal/index.html changed on the live site')).toBeVisible();
  cpSync(join('demo/withybed/journal/index.html'), join(folder, 'journal/index.html'));
  writeFileSync(
    join(folder, 'journal/index.html'),
    readFileSync(join(folder, 'journal/index.html'), 'utf8').replaceAll('Withybed Weavers', 'Heron Pottery'),
  );
  expect(stateOf(folder)).toEqual(before);

  await page.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(page.getByText(/^Published: 1 change/).first()).toBeVisible();
  const published = stateOf(folder);
  expect(Object.keys(published).filter((f) => !(f in before))).toEqual([
    'cart/index.html',
    'checkout/index.html',
    'payment-failed/index.html',
    'thank-you/index.html',
  ]);
  expect(Object.keys(before).filter((f) => published[f] !== before[f])).toEqual(
    Object.keys(before).filter((f) => f.endsWith('.html') && f !== 'index.html'),
  );

  await page.goto(`${office(DEMO)}/heron/bench?page=workshops%2Findex.html`);
  await page.locator('.widget').click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText('With it go the 4 pages')).toBeVisible();
  await page.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(page.getByText(/^Published: 1 change/).first()).toBeVisible();
  expect(stateOf(folder)).toEqual(before);
});

test('sign-in refuses a wrong password, leads nowhere else, and signs out', async ({ page }) => {
  await page.goto(`${office(DEMO)}/sign-in?to=https://elsewhere.example/`);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('E-mail').fill('marnie@withybed.example');
  await page.getByLabel('Password').fill('not her password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('do not fit together');
  await page.getByLabel('Password').fill('forty-one willows');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(/\/withybed\/site$/);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('button', { name: 'Account: Marnie' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/\/sign-in/);
  await page.goto(`${office(DEMO)}/withybed/site`);
  await expect(page).toHaveURL(/\/sign-in\?to=/);
});

test('the welcome link is shut where there is an owner, and nobody signs up by themselves', async ({
  page,
}) => {
  const welcome = await page.request.get(`${office(DEMO)}/welcome?key=${'a'.repeat(24)}`);
  expect(welcome.status()).toBe(403);
  const headers = { origin: office(DEMO), 'content-type': 'application/json' };
  const data = { email: 'x@y.example', password: 'long enough words', name: 'X' };
  // The sign-in library's own endpoints are not served at all.
  for (const [path, status] of [
    ['api/auth/sign-up/email', 404],
    ['api/auth/get-session', 404],
    ['api/account/people', 401],
  ] as const) {
    const answer = await page.request.post(`${office(DEMO)}/${path}`, { headers, data });
    expect([path, answer.status()]).toEqual([path, status]);
  }
  const foreign = await page.request.post(`${office(DEMO)}/api/account/sign-in`, {
    headers: { ...headers, origin: live(DEMO) },
    data,
  });
  expect(foreign.status()).toBe(403);
});
