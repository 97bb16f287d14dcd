// Takes the pictures of docs/screenshots from fresh demo data. Run after a view has changed: node tools/pictures.mjs
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';

const PORT = 4940;
const office = `http://localhost:${PORT}`;
const live = `http://withybed.localhost:${PORT + 3}`;
const dir = await mkdtemp(join(tmpdir(), 'stall-pictures-'));
const demo = spawn(
  process.execPath,
  ['tools/run.mjs', 'demo', '--data', join(dir, 'data'), '--port', String(PORT)],
  { stdio: ['ignore', 'pipe', 'inherit'] },
);
await new Promise((ready) => demo.stdout.on('data', (d) => String(d).includes('Ctrl+C') && ready()));

const windowless = '/usr/bin/chromium-headless-shell';
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? (existsSync(windowless) ? windowless : '/usr/bin/chromium'),
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run'],
});
const context = await browser.newContext({
  viewport: { width: 1280, height: 800 },
  locale: 'en-GB',
  timezoneId: 'Europe/London',
});
const page = await context.newPage();
const shot = async (name, wait = 700) => {
  await page.waitForTimeout(wait);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
};

await page.goto(`${office}/sign-in`);
await page.waitForSelector('[data-ready]');
await page.getByLabel('E-mail').fill('marnie@withybed.example');
await page.getByLabel('Password').fill('forty-one willows');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByRole('button', { name: 'Add selling' }).click();
await page.getByText('What one press does').waitFor();
await page.getByRole('button', { name: 'Add selling' }).click();
await page.getByText(/^Shop page built/).waitFor();
await page.goto(`${office}/withybed/bench?page=index.html`);
await page
  .getByRole('button', { name: /^Pitch after/ })
  .nth(1)
  .click();
await page.locator('.shelf button[data-kind=row]').click();
await page.getByLabel('Heading', { exact: true }).fill('Fresh from the bench');
await page.waitForTimeout(2500);
await shot('bench', 1500);
await page.goto(`${office}/withybed/site`);
await page.waitForSelector('.mini:not(.wait)');
await shot('site', 5500);
await page.goto(`${office}/withybed/site?lens=menus`);
await page
  .getByText(/^Needs/)
  .first()
  .waitFor();
await shot('menus', 2500);
await page.goto(`${office}/withybed/checks`);
await page.locator('.ck-list li').first().waitFor();
await page.getByRole('button', { name: 'Run again' }).click();
await shot('checks', 7000);
await page.goto(`${office}/withybed/site?lens=publishing`);
await page.getByRole('button', { name: /^index.html changed/ }).click();
await shot('publishing', 2500);
await page.getByRole('button', { name: /^Publish \d/ }).click();
await page.getByText(/^Published: /).waitFor();
await page.goto(`${office}/withybed/goods`);
await shot('goods', 2200);
await page.goto(`${office}/withybed/goods?table`);
await page.getByLabel('Tick all that are shown').check();
await shot('goods-table', 1500);
await page.goto(`${office}/withybed/look`);
await page.getByText(/pages measured$/).waitFor();
await shot('look', 2500);
await page.goto(`${office}/withybed/till`);
await page.getByText('To pay', { exact: true }).waitFor();
await shot('till', 2000);
await page.goto(`${office}/withybed/orders`);
await shot('orders', 1200);
await page.goto(`${office}/withybed/orders?takings`);
await page.getByRole('heading', { name: 'By placement' }).waitFor();
await shot('takings', 1500);

await page.goto(`${live}/`);
await page.getByRole('button', { name: /Buy the log basket/ }).click();
await page.getByText('It is in your cart.').waitFor();
await shot('live');
await page.goto(`${live}/shop/`);
await page.getByText('Gift voucher').waitFor();
await shot('shop', 1500);
await page.goto(`${live}/shop/?goods=round-log-basket`);
await page.getByRole('radio', { name: 'L', exact: true }).check({ force: true });
await page.getByRole('radio', { name: 'natural' }).check({ force: true });
await shot('product', 1200);
await page.goto(`${live}/cart/`);
await page.getByRole('button', { name: 'One more Round log basket' }).click();
await page.getByRole('link', { name: 'Cart, 2 pieces' }).waitFor();
await shot('cart');
await page.goto(`${live}/checkout/`);
await page.getByRole('button', { name: /^Pay/ }).waitFor();
await shot('checkout');
await page.goto(`${office}/account?people`);
await page.waitForSelector('[data-ready]');
for (const [email, role] of [
  ['tam@withybed.example', /^helper/],
  ['ines@withybed.example', /^bookkeeper/],
]) {
  await page.getByLabel('E-mail').fill(email);
  await page.getByRole('radio', { name: role }).check();
  await page.getByRole('button', { name: 'Make the invitation' }).click();
  await page.getByText(`is on its way to ${email}`).waitFor();
}
const link = await page.getByLabel('Link of the invitation').inputValue();
const helper = await (await browser.newContext()).newPage();
await helper.goto(link);
await helper.waitForSelector('[data-ready]');
await helper.getByLabel('Your name').fill('Ines Quarrie');
await helper.getByLabel('Password').fill('seven herons on a fence');
await helper.getByRole('button', { name: 'Open the office' }).click();
await helper.waitForURL(/orders/);
await page.reload();
await page.getByText('Ines Quarrie').waitFor();
await shot('people');
await page.setViewportSize({ width: 390, height: 844 });
await page.goto(`${live}/shop/`);
await page.getByText('Gift voucher').waitFor();
await shot('phone-shop', 1200);
await page.goto(`${office}/withybed/orders`);
await page.waitForSelector('.osheet');
await shot('phone-orders');

await browser.close();
demo.kill('SIGTERM');
await new Promise((soon) => setTimeout(soon, 900));
await rm(dir, { recursive: true, force: true });
