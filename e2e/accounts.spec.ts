import { type Browser, expect, type Page, test } from '@playwright/test';
import { expectAccessible, lettersTo, linkIn, signIn } from './support/acts';
import { DEMO, office } from './support/places';
import { base32, totp } from './support/totp';

const at = office(DEMO);
const PASSWORD = 'seven herons on a fence';
const NEXT = 'thirty owls under the stairs';

/** A browser of somebody else, which tells of scripts and styles that a policy refused. */
async function somebodyElse(browser: Browser): Promise<{ page: Page; refused: string[] }> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  const refused: string[] = [];
  page.on('console', (m) => /content security policy/i.test(m.text()) && refused.push(m.text()));
  return { page, refused };
}

/** Asks somebody in as the owner, and has them come in by the letter. */
async function invite(owner: Page, role: string, email: string): Promise<string> {
  await owner.goto(`${at}/account?people`);
  await owner.getByLabel('E-mail').fill(email);
  await owner.getByRole('radio', { name: new RegExp(`^${role}`) }).check();
  await owner.getByRole('button', { name: 'Make the invitation' }).click();
  await expect(owner.getByText(`is on its way to ${email}`)).toBeVisible();
  await expect.poll(() => lettersTo(email).then((l) => l.length)).toBe(1);
  return linkIn(await lettersTo(email));
}

async function join(page: Page, link: string, name: string): Promise<void> {
  await page.goto(link);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Open the office' }).click();
  await page.waitForURL(/\/withybed\//);
  await page.waitForSelector('[data-ready]');
}

async function enter(page: Page, email: string, password: string): Promise<void> {
  await page.goto(`${at}/sign-in`);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

/** What a page may ask with the session of its browser, whatever the page shows. */
const asked = (page: Page, method: string, path: string, data?: unknown): Promise<number> =>
  page.request
    .fetch(`${at}/api/${path}`, { method, headers: { origin: at }, ...(data !== undefined && { data }) })
    .then((r) => r.status());

test('a helper counts and packs, and cannot do what is the owner’s, neither by the office nor around it', async ({
  page,
  browser,
}) => {
  await signIn(page, DEMO);
  const link = await invite(page, 'helper', 'tam@withybed.example');
  await expectAccessible(page, 'people');
  const { page: tam, refused } = await somebodyElse(browser);
  await tam.goto(link);
  await tam.waitForSelector('[data-ready]');
  await expectAccessible(tam, 'an invitation');
  await tam.getByLabel('Your name').fill('Tam');
  await tam.getByLabel('Password').fill('password1234');
  await tam.getByRole('button', { name: 'Open the office' }).click();
  await expect(tam.getByText('among those that are guessed first')).toBeVisible();
  await expect(tam.getByLabel('Password')).toBeFocused();
  await join(tam, link, 'Tam');

  // Goods are counts to type in, and nothing else.
  await expect(tam.getByRole('navigation', { name: 'Places' }).getByRole('link')).toHaveText([
    'Goods',
    'Orders',
  ]);
  const trug = tam.getByRole('textbox', { name: 'Stock of Berry trug' });
  const before = Number(await trug.inputValue());
  await trug.fill(String(before + 3));
  await trug.press('Enter');
  await tam.reload();
  await expect(trug).toHaveValue(String(before + 3));
  await expectAccessible(tam, 'the helper’s stock');

  // Orders are packed; money does not go back.
  await tam.getByRole('link', { name: 'Orders' }).click();
  await tam.getByRole('button', { name: /^Tomas Riddle/ }).click();
  await tam.getByRole('button', { name: 'Mark packed' }).click();
  await expect(tam.getByText('Packed.', { exact: true })).toBeVisible();
  await expect(tam.getByRole('button', { name: /Refund|Cancel|Takings/ })).toHaveCount(0);
  await expectAccessible(tam, 'the helper’s orders');
  expect(refused).toEqual([]);

  const goods = (await (await tam.request.get(`${at}/api/withybed/goods`)).json()) as {
    id: string;
    name: string;
  }[];
  const id = goods.find((g) => g.name === 'Berry trug')?.id ?? '';
  const orders = (await (await tam.request.get(`${at}/api/withybed/orders`)).json()) as {
    shelves: { rows: { id: string }[] }[];
  };
  const order = orders.shelves[0]?.rows[0]?.id ?? '';
  expect(
    await Promise.all([
      asked(tam, 'PUT', `withybed/goods/${id}`, { fields: { price: 1 } }),
      asked(tam, 'DELETE', `withybed/goods/${id}`),
      asked(tam, 'POST', `withybed/orders/${order}`, { act: 'cancel' }),
      asked(tam, 'POST', `withybed/orders/${order}`, { act: 'refund', refund: { amount: 100 } }),
      asked(tam, 'GET', 'withybed/takings'),
      asked(tam, 'GET', 'withybed/slip'),
      asked(tam, 'POST', 'withybed/publish', {}),
      asked(tam, 'PUT', 'withybed/till', {}),
      asked(tam, 'GET', 'account/people'),
      asked(tam, 'POST', 'account/people', { email: 'x@y.example', role: 'owner' }),
      asked(tam, 'POST', 'sites?currency=GBP', {}),
    ]),
  ).toEqual(Array(11).fill(403));
  await tam.goto(`${at}/withybed/till`);
  await expect(tam).toHaveURL(/withybed\/goods/);

  // The owner sees who did it, and ends it.
  await page.goto(`${at}/account?activity`);
  await expect(page.getByText(/^Tam packed order \d+/)).toBeVisible();
  await expect(page.getByText('Tam counted Berry trug')).toBeVisible();
  await expectAccessible(page, 'who did what');
  await page.getByRole('button', { name: 'People who may come in' }).click();
  await page.getByRole('button', { name: 'Remove Tam' }).click();
  await page.getByRole('group', { name: 'Remove Tam' }).getByRole('button', { name: 'Remove' }).click();
  await expect(page.getByText('Tam is removed.')).toBeVisible();
  expect(await asked(tam, 'GET', 'withybed/goods')).toBe(401);
});

test('a bookkeeper reads what was earned and changes nothing; a password and a second factor are theirs to set', async ({
  page,
  browser,
}) => {
  await signIn(page, DEMO);
  const email = 'ines@withybed.example';
  const link = await invite(page, 'bookkeeper', email);
  const { page: ines } = await somebodyElse(browser);
  await join(ines, link, 'Ines');
  await expect(ines).toHaveURL(/withybed\/orders/);
  await expect(ines.getByRole('heading', { name: 'So far' })).toBeVisible();
  await expect(ines.getByRole('button', { name: /^(Mark|Refund|Cancel)/ })).toHaveCount(0);
  await ines.getByRole('button', { name: 'Takings' }).click();
  await expect(ines.getByRole('heading', { name: 'Takings' })).toBeVisible();
  await expectAccessible(ines, 'the bookkeeper’s takings');
  expect(await asked(ines, 'POST', 'withybed/orders/x', { act: 'note', text: 'x' })).toBe(403);

  // The second factor: begun with the password, on with the first code.
  await ines.goto(`${at}/account`);
  await expectAccessible(ines, 'one’s own account');
  const factor = ines.getByRole('region', { name: /^Second factor/ });
  await factor.getByLabel('Your password').fill(PASSWORD);
  await factor.getByRole('button', { name: 'Set it up' }).click();
  await expect(factor.getByText('Spare codes')).toBeVisible();
  await expectAccessible(ines, 'setting a second factor up');
  const secret = base32((await factor.locator('.acct-secret').textContent()) ?? '');
  await factor.getByLabel('The code it shows now').fill(totp(secret, Date.now()));
  await factor.getByRole('button', { name: 'Turn it on' }).click();
  await expect(ines.getByText('The second factor is on.')).toBeVisible();

  // Elsewhere the password alone is not enough.
  const { page: there } = await somebodyElse(browser);
  await enter(there, email, PASSWORD);
  await expect(there.getByRole('heading', { name: 'Your code' })).toBeVisible();
  await expectAccessible(there, 'the code');
  await there.getByLabel('Code', { exact: true }).fill('000000');
  await there.getByRole('button', { name: 'Sign in' }).click();
  await expect(there.getByText('This code does not fit.')).toBeVisible();
  await there.getByLabel('Code', { exact: true }).fill(totp(secret, Date.now()));
  await there.getByRole('button', { name: 'Sign in' }).click();
  await there.waitForURL(/withybed\/orders/);

  // A changed password ends that session; this one goes on.
  await ines.reload();
  const password = ines.getByRole('region', { name: 'Password' });
  await password.getByLabel('Your password today').fill(PASSWORD);
  await password.getByLabel('New password').fill(NEXT);
  await password.getByRole('button', { name: 'Change the password' }).click();
  await expect(ines.getByText('Other browsers are signed out.')).toBeVisible();
  expect(await asked(there, 'GET', 'account/me')).toBe(401);
  await ines.getByRole('button', { name: /^Where you are/ }).click();
  await expect(ines.getByText('this browser')).toBeVisible();
  await expectAccessible(ines, 'where one is signed in');

  // Forgotten: a letter, a link that works once.
  await there.goto(`${at}/forgotten`);
  await there.waitForSelector('[data-ready]');
  await expectAccessible(there, 'a forgotten password');
  await there.getByLabel('E-mail').fill(email);
  await there.getByRole('button', { name: 'Send the letter' }).click();
  await expect(there.getByRole('heading', { name: 'Look into your mail' })).toBeVisible();
  await expect.poll(() => lettersTo(email).then((l) => l.length)).toBe(2);
  const reset = linkIn((await lettersTo(email)).filter((text) => text.includes('/new-password')));
  await there.goto(reset);
  await there.waitForSelector('[data-ready]');
  await there.getByLabel('New password').fill(PASSWORD);
  await there.getByRole('button', { name: 'Set the password' }).click();
  await there.waitForURL(/\/sign-in/);
  expect(await asked(ines, 'GET', 'account/me')).toBe(401);
  await there.goto(reset);
  await there.waitForSelector('[data-ready]');
  await there.getByLabel('New password').fill(NEXT);
  await there.getByRole('button', { name: 'Set the password' }).click();
  await expect(there.getByText('used already')).toBeVisible();
});
