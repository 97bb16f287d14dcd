// Takes the pictures of docs/screenshots from fresh demo data. Run after a view has changed: node tools/pictures.mjs
import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';

const PORT = 4940;
const office = `http://localhost:${PORT}`;
const live = `http://withybed.localhost:${PORT + 3}`;
const dir = await mkdtemp(join(tmpdir(), 'stall-pictures-'));
const demo = spawn(process.execPath, ['tools/run.mjs', 'demo', '--data', join(dir, 'data'), '--port', String(PORT)], { stdio: ['ignore', 'pipe', 'inherit'] });
await new Promise((ready) => demo.stdout.on('data', (d) => String(d).includes('Ctrl+C') && ready()));

const browser = await chromium.launch({ executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'] });
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', timezoneId: 'Europe/London' });
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
await page.waitForSelector('.mini:not(.wait)');
await shot('site', 4500);
await page.goto(`${office}/withybed/bench?page=index.html`);
await page.getByRole('button', { name: /^Buy button after/ }).click();
await page.mouse.move(640, 470);
await shot('bench', 900);
await page.goto(`${office}/withybed/goods`);
await shot('goods', 2200);
await page.goto(`${office}/withybed/orders`);
await shot('orders', 1200);
await page.goto(`${office}/withybed/till`);
await shot('till');
await page.goto(`${office}/connect`);
await shot('connect');

await page.goto(`${live}/`);
await page.getByRole('button', { name: /Buy the log basket/ }).click();
await page.getByText('It is in your cart.').waitFor();
await shot('live');
await page.goto(`${live}/cart/`);
await page.getByRole('button', { name: 'One more Round log basket' }).click();
await page.getByRole('link', { name: 'Cart, 2 pieces' }).waitFor();
await shot('cart');
await page.goto(`${live}/checkout/`);
await page.getByRole('button', { name: /^Pay/ }).waitFor();
await shot('checkout');
await page.setViewportSize({ width: 390, height: 844 });
await page.goto(`${live}/`);
await shot('phone-home', 900);
await page.goto(`${live}/cart/`);
await page.getByText('Go to checkout').waitFor();
await shot('phone');
await page.goto(`${office}/withybed/orders`);
await page.waitForSelector('.osheet');
await shot('phone-orders');

await browser.close();
demo.kill('SIGTERM');
await new Promise((soon) => setTimeout(soon, 900));
await rm(dir, { recursive: true, force: true });
