import { createServer, type Server } from 'node:http';
import { expect, type Page, test } from '@playwright/test';
import { DEMO, live, shop } from './support/places';

/** Widgets in pages nobody prepared for them: each test writes its own page and serves it on an origin of its own. */
const PORT = 4790;
const origin = `http://stranger.localhost:${PORT}`;
let server: Server;
let html = '';
let headers: Record<string, string> = {};

test.beforeAll(async () => {
  server = createServer((_, res) => {
    res.writeHead(200, { 'content-type': 'text/html; charset=utf-8', ...headers });
    res.end(html);
  });
  await new Promise<void>((ready) => server.listen(PORT, '127.0.0.1', ready));
});
test.afterAll(() => server.close());

const at = `shop="${shop(DEMO)}/withybed"`;
const buy = (slug: string, more = '') =>
  `<stall-buy goods="${slug}" ${at} cart="/cart" price ${more}><a href="${shop(DEMO)}/withybed/goods/${slug}">Get it</a></stall-buy>`;
const cart = (more = '') => `<stall-cart ${at} cart="/cart" ${more}><a href="/cart">Cart</a></stall-cart>`;
const script = `<script async src="${shop(DEMO)}/stall.js"></script>`;

async function open(page: Page, body: string, extra: Record<string, string> = {}): Promise<void> {
  html = `<!doctype html><html lang="en"><title>Stranger</title><body>${body}</body></html>`;
  headers = extra;
  await page.goto(origin);
}

const voucher = 'pattern-sheet-oval-shopper';
const button = (page: Page) => page.getByRole('button', { name: 'Get it · £6.50' });

test('the same product twice and two carts on one page all agree', async ({ page }) => {
  await open(page, `${cart()}${buy(voucher)}${buy(voucher)}${cart()}${script}${script}`);
  await expect(button(page)).toHaveCount(2);
  await button(page).first().click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toHaveCount(2);
  await button(page).nth(1).click();
  await expect(page.getByRole('link', { name: 'Cart, 2 pieces' })).toHaveCount(2);
});

test('one request serves all widgets of a page', async ({ page }) => {
  const asked: string[] = [];
  page.on('request', (r) => {
    if (r.url().includes('/v1/')) asked.push(r.url());
  });
  await open(page, `${cart()}${buy(voucher)}${buy('berry-trug')}${buy('round-log-basket')}${script}`);
  await expect(button(page)).toBeVisible();
  expect(asked).toHaveLength(1);
  expect(decodeURIComponent(asked[0] ?? '')).toContain(
    'goods=berry-trug,pattern-sheet-oval-shopper,round-log-basket',
  );
});

test('two tabs agree', async ({ page, context }) => {
  await open(page, `${cart()}${buy(voucher)}${script}`);
  const other = await context.newPage();
  await other.goto(origin);
  await expect(other.getByRole('link', { name: 'Cart, 0 pieces' })).toBeVisible();
  await button(page).click();
  await expect(other.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
});

test('where storage is blocked it still sells', async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(window, 'localStorage', {
      get() {
        throw new DOMException('blocked', 'SecurityError');
      },
    });
  });
  await open(page, `${cart()}${buy(voucher)}${script}`);
  await button(page).click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
  await button(page).click();
  await expect(page.getByRole('link', { name: 'Cart, 2 pieces' })).toBeVisible();
});

// A box with such a style holds what is fixed in it (CSS Transforms 1 §3, Filter Effects 2 §5): its corner is not the window's.
for (const style of ['backdrop-filter: blur(4px)', 'transform: translateX(0)', 'will-change: filter'])
  test(`a cart that floats is in the corner of the window, from a header of "${style}"`, async ({ page }) => {
    const header = (widget: string) =>
      `<header style="${style};position:sticky;top:0;display:flex;height:76px"><a href="#x" style="flex:0 0 100%;text-align:end">Our other site</a>${widget}</header><p style="height:200vh">Words.</p>${script}`;
    const floats = 'style="display:inline-block;position:fixed;right:1rem;bottom:1rem;z-index:9"';
    // One that floats by plan, and one that has no room in its header.
    for (const widget of [cart(floats), cart('style="display:inline-block;min-width:3rem"')]) {
      await open(page, header(widget));
      const way = page.getByRole('link', { name: 'Cart, 0 pieces' });
      await expect
        .poll(async () => {
          const box = await way.boundingBox();
          const { width = 0, height = 0 } = page.viewportSize() ?? {};
          return box && [Math.round(width - box.x - box.width), Math.round(height - box.y - box.height)];
        })
        .toEqual([16, 16]);
      await page.getByRole('link', { name: 'Our other site' }).click();
      await way.click();
      await expect(page).toHaveURL(/\/cart/);
    }
  });

test('a cart in a bar that slides out as the window narrows goes to the corner', async ({ page }) => {
  const css =
    'nav{position:fixed;left:0;width:240px;transition:transform .4s}@media(max-width:900px){nav{transform:translateX(-110%)}}';
  const kept = 'style="display:inline-block;min-width:3rem"';
  await open(page, `<style>${css}</style><nav>${cart(kept)}</nav>${script}`);
  const way = page.getByRole('link', { name: 'Cart, 0 pieces' });
  await expect(way).toBeInViewport();
  await page.setViewportSize({ width: 820, height: 700 });
  await expect.poll(async () => (await way.boundingBox())?.y).toBeGreaterThan(600);
  await page.setViewportSize({ width: 1280, height: 700 });
  // All the way back in.
  await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished)));
  await expect(way).toBeInViewport();
});

test('widgets that come late, move, or go are right, and leave nothing running', async ({ page }) => {
  await open(page, `<main></main><aside></aside>${script}`);
  await page.evaluate((html) => {
    document.querySelector('main')?.insertAdjacentHTML('beforeend', html);
  }, buy(voucher) + cart());
  await expect(button(page)).toBeVisible();
  await page.evaluate(() => {
    const el = document.querySelector('stall-buy');
    if (el) document.querySelector('aside')?.append(el);
  });
  await button(page).click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
  await page.evaluate(() => document.querySelector('stall-cart')?.remove());
  await button(page).click();
  await expect(page.getByText('It is in your cart.')).toBeVisible();
});

test('a strict content security policy is kept', async ({ page }) => {
  const broken: string[] = [];
  page.on('console', (m) => {
    if (m.text().includes('Content Security Policy')) broken.push(m.text());
  });
  const policy = `default-src 'none'; script-src ${shop(DEMO)}; connect-src ${shop(DEMO)}; img-src ${shop(DEMO)}`;
  await open(page, `${cart()}${buy(voucher)}${script}`, { 'content-security-policy': policy });
  await button(page).click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
  // As it is under the pointer, and at rest.
  await expect(button(page)).toHaveCSS('background-color', 'rgb(95, 56, 19)');
  await page.mouse.move(0, 0);
  await expect(button(page)).toHaveCSS('background-color', 'rgb(121, 73, 27)');
  expect(broken).toEqual([]);
});

test('when the shop does not answer the plain link stays', async ({ page }) => {
  await page.route('**/v1/**', (route) => route.abort());
  const failed = page.waitForEvent('requestfailed', (r) => r.url().includes('/v1/'));
  await open(page, `${buy(voucher)}${script}`);
  await failed;
  await expect(page.getByRole('link', { name: 'Get it' })).toBeVisible();
  await expect(page.getByRole('button')).toHaveCount(0);
});

test('an unknown product keeps its link; a hidden empty cart shows itself when it is filled', async ({
  page,
}) => {
  await open(page, `${cart('hide-empty')}${buy('never-was')}${buy(voucher)}${script}`);
  await expect(button(page)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Get it' })).toHaveCount(1);
  await expect(page.getByRole('link', { name: /^Cart/ })).toBeHidden();
  await button(page).click();
  await expect(page.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
});

test('a button that leads on opens the cart', async ({ page }) => {
  await open(page, `${buy(voucher, 'after="cart"')}${script}`);
  await button(page).click();
  await expect(page).toHaveURL(`${origin}/cart`);
});

test('nothing shifts while widgets load, on a wide screen and on a phone', async ({ page }) => {
  for (const size of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    await page.setViewportSize(size);
    await page.addInitScript(() => {
      const seen = window as unknown as { moved: string[] };
      seen.moved = [];
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) {
          const { sources } = entry as unknown as { sources: { node?: Node }[] };
          seen.moved.push(...sources.map((s) => s.node?.nodeName ?? '?'));
        }
      }).observe({ type: 'layout-shift', buffered: true });
    });
    // A widget that shifts does so at every load; the site's own font that comes late on a slow machine does not.
    await expect(async () => {
      await page.goto(`${live(DEMO)}/`);
      await expect(page.getByRole('button', { name: /Buy the log basket/ })).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await page.evaluate(() => (window as unknown as { moved: string[] }).moved)).toEqual([]);
    }).toPass({ timeout: 60_000 });
  }
});
