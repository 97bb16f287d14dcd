import { createHash } from 'node:crypto';
import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { bytesAt, expectAccessible } from './support/acts';
import { DEMO, shop } from './support/places';

/** The five spellings on pages of strangers: text that editors bent, frames, includes put together by nginx, links, no script. */
const PORT = 4792;
const NGINX = 4794;
const origin = `http://pages.localhost:${PORT}`;
const home = `${shop(DEMO)}/withybed`;
let server: Server;
let body = '';
let headers: Record<string, string> = {};

test.beforeAll(async () => {
  server = createServer((_, res) => {
    res.writeHead(200, { 'content-type': 'text/html; charset=utf-8', ...headers });
    res.end(
      `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>Elsewhere</title><body>${body}</body></html>`,
    );
  });
  await new Promise<void>((ready) => server.listen(PORT, '127.0.0.1', ready));
});
test.afterAll(() => server.close());

const script = `<script async src="${shop(DEMO)}/stall.js" data-shop="${home}"></script>`;
async function open(page: Page, html: string, more: Record<string, string> = {}): Promise<void> {
  body = html;
  headers = more;
  await page.goto(origin);
}

test('a shortcode works as it comes out of an editor: curly quotes, no-break spaces, split by emphasis; other brackets stay', async ({
  page,
}) => {
  await open(
    page,
    `<main><h1>Elsewhere</h1><p>Before [not a code] and [stall\u00a0card goods=\u201cberry-trug\u201d parts=&quot;name,price,button&quot;] after.</p>
<p>[sta<b>ll buy goods=</b>'round-log-basket' choice='M, natural' text='The log basket']</p><pre>[stall cart]</pre><p>[stall nonsense x="1"]</p></main>${script}`,
  );
  await page.getByRole('button', { name: 'Add to cart: Berry trug' }).click();
  await expect(page.getByText('It is in your cart.')).toBeVisible();
  await page.getByRole('button', { name: /^The log basket/ }).click();
  await expect(page.locator('main')).toContainText('Before [not a code] and');
  await expect(page.locator('pre')).toHaveText('[stall cart]');
  await expect(page.locator('main')).toContainText('[stall nonsense x="1"]');
  await expectAccessible(page, 'shortcodes');
});

test('a shortcode that comes late, by a script of the page, is read too', async ({ page }) => {
  await open(page, `<main></main>${script}`);
  await page.waitForLoadState('networkidle');
  await page.evaluate(() =>
    document.querySelector('main')?.insertAdjacentHTML('beforeend', '<p>[stall row source="offer"]</p>'),
  );
  await expect(page.getByRole('link', { name: 'Foraging backpack' })).toBeVisible();
});

const frame = `<iframe src="${home}/frame/row?limit=3&amp;via=aaaaaaaaaa" title="From the shop" style="display:block;width:100%;height:300px;border:0"></iframe>`;

/** How far the frame's height is from what it holds. */
const offBy = async (page: Page): Promise<number> => {
  const inside = page.frameLocator('iframe').locator('body');
  const needed = await inside.evaluate((body) => (body as HTMLElement).offsetHeight);
  return Math.abs((await page.locator('iframe').evaluate((f) => f.clientHeight)) - needed);
};

test('a frame that was there before the script gets its height too', async ({ page }) => {
  await open(page, `<h1>Elsewhere</h1>${frame}`);
  const inside = page.frameLocator('iframe');
  await expect(inside.getByRole('button', { name: 'Add to cart: First winter box' })).toBeVisible();
  expect(await offBy(page)).toBeGreaterThan(1);
  await page.evaluate((tag) => {
    document.body.append(document.createRange().createContextualFragment(tag));
  }, script);
  await expect.poll(() => offBy(page)).toBeLessThanOrEqual(1);
});

test('a frame takes the height it needs at any width, sells, and keeps its cart', async ({ page }) => {
  await open(page, `<h1>Elsewhere</h1>${frame}${script}`);
  const inside = page.frameLocator('iframe');
  await expect(inside.getByRole('button', { name: 'Add to cart: First winter box' })).toBeVisible();
  const heights = new Set<number>();
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 800 });
    await expect.poll(() => offBy(page), { message: `at ${width}` }).toBeLessThanOrEqual(1);
    heights.add(await page.locator('iframe').evaluate((f) => f.clientHeight));
  }
  expect(heights.size).toBe(3);
  await inside.getByRole('button', { name: 'Add to cart: First winter box' }).click();
  const way = inside.getByRole('link', { name: 'See your cart' });
  await expect(way).toHaveAttribute('href', new RegExp(`^${home}/cart/[\\w-]+$`));
  await way.click();
  await expect(page).toHaveURL(new RegExp(`^${home}/cart/`));
  await expect(page.getByRole('link', { name: 'First winter box' })).toBeVisible();
});

test('nginx assembles includes: ready HTML, and a form that buys without any script', async ({ browser }) => {
  const dir = mkdtempSync(join(tmpdir(), 'stall-nginx-'));
  // nginx reads as a user of its own.
  chmodSync(dir, 0o755);
  mkdirSync(join(dir, 'site'));
  mkdirSync(join(dir, 'logs'));
  writeFileSync(
    join(dir, 'site/index.html'),
    `<!doctype html><html lang="en"><title>Assembled</title><body><h1>Assembled</h1>
<!--#include virtual="/stall/fragments/buy?goods=berry-trug&via=bbbbbbbbbb" -->
<!--#include virtual="/stall/fragments/row?source=category&category=Baskets&limit=2&via=cccccccccc" -->
<!--#include virtual="/stall/fragments/cart?via=dddddddddd" --></body></html>`,
  );
  // The lines of docs/widgets.md, in a whole configuration.
  writeFileSync(
    join(dir, 'nginx.conf'),
    `daemon off; pid ${dir}/pid; error_log ${dir}/logs/error.log; worker_processes 1; events {}
http { access_log off; types { text/html html; } client_body_temp_path ${dir}/b; proxy_temp_path ${dir}/p; fastcgi_temp_path ${dir}/f; uwsgi_temp_path ${dir}/u; scgi_temp_path ${dir}/s;
  server { listen 127.0.0.1:${NGINX}; root ${dir}/site; ssi on;
    location /stall/ { proxy_pass http://127.0.0.1:${DEMO + 1}/withybed/; proxy_set_header Host shop.localhost; proxy_set_header Accept-Encoding ""; } } }`,
  );
  const nginx: ChildProcess = spawn('/usr/sbin/nginx', ['-p', dir, '-c', join(dir, 'nginx.conf')], {
    stdio: 'inherit',
  });
  const context = await browser.newContext({ javaScriptEnabled: false });
  try {
    const url = `http://127.0.0.1:${NGINX}/`;
    await expect
      .poll(() =>
        bytesAt(url).then(
          (r) => r.status,
          () => 0,
        ),
      )
      .toBe(200);
    const html = (await bytesAt(url)).body.toString();
    expect(html).not.toContain('#include');
    expect(html.match(/data-stall-fragment/g)).toHaveLength(3);
    const page = await context.newPage();
    await page.goto(url);
    await expect(page.getByRole('link', { name: 'Round log basket', exact: true })).toBeVisible();
    await page.getByRole('button', { name: /^Buy: Berry trug/ }).click();
    await expect(page).toHaveURL(new RegExp(`^${home}/cart/`));
    await expect(page.getByRole('link', { name: 'Berry trug' })).toBeVisible();
  } finally {
    nginx.kill('SIGTERM');
    await context.close();
    rmSync(dir, { recursive: true, force: true });
  }
});

test('under a strict policy every widget that is drawn works, with nothing inline', async ({ page }) => {
  const broken: string[] = [];
  page.on('console', (m) => {
    if (m.text().includes('Content Security Policy')) broken.push(m.text());
  });
  const policy = `default-src 'none'; script-src ${shop(DEMO)}; connect-src ${shop(DEMO)}; img-src ${shop(DEMO)}`;
  await open(
    page,
    `<h1>Strict</h1><stall-shop shop="${home}" level="2" per-page="4"></stall-shop><stall-categories shop="${home}"></stall-categories><stall-search shop="${home}"></stall-search><stall-lookup shop="${home}"></stall-lookup><stall-row shop="${home}" form="slider"></stall-row>${script}`,
    { 'content-security-policy': policy },
  );
  await expect(page.getByText('Page 1 of 3')).toBeVisible();
  await page.getByRole('link', { name: 'Next' }).first().click();
  await expect(page.getByText('Page 2 of 3')).toBeVisible();
  await expect(
    page
      .getByRole('navigation', { name: 'All goods' })
      .last()
      .getByRole('link', { name: /Baskets/ }),
  ).toBeVisible();
  expect(broken).toEqual([]);
  await expectAccessible(page, 'all drawn widgets');
});

test('the script can be pinned by its hash: that version is served at an address of its own, and a wrong hash runs nothing', async ({
  page,
}) => {
  const bytes = (await bytesAt(`${shop(DEMO)}/stall.js`)).body;
  const more = (await bytesAt(`${shop(DEMO)}/stall-more.js`)).body;
  const version = createHash('sha256').update(bytes).update(more).digest('hex').slice(0, 12);
  const hash = createHash('sha384').update(bytes).digest('base64');
  const tag = (integrity: string) =>
    `<script async src="${shop(DEMO)}/v/${version}/stall.js" integrity="sha384-${integrity}" crossorigin="anonymous"></script>`;
  const card = `<stall-card shop="${home}" goods="berry-trug"><a href="${home}/goods/berry-trug">Berry trug</a></stall-card>`;
  await open(page, card + tag(hash));
  await expect(page.getByRole('button', { name: 'Add to cart: Berry trug' })).toBeVisible();
  const refused = page.waitForEvent('console', (m) => m.text().includes('integrity'));
  await open(page, card + tag(hash.replace(/^./, (c) => (c === 'A' ? 'B' : 'A'))));
  await refused;
  await expect(page.getByRole('button')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Berry trug' })).toBeVisible();
});

test('a drawer holds the cart beside the page, a summary stands in a column, and both agree with the basket', async ({
  page,
}) => {
  await open(
    page,
    `<h1>Elsewhere</h1><stall-cart shop="${home}" opens="drawer"></stall-cart><stall-cart shop="${home}" form="summary" hide-empty></stall-cart><stall-buy shop="${home}" goods="berry-trug" after="drawer">Get the trug</stall-buy>${script}`,
  );
  await page.getByRole('button', { name: 'Get the trug' }).click();
  const drawer = page.getByRole('dialog', { name: 'Your cart' });
  await expect(drawer.getByRole('link', { name: 'Berry trug', exact: true })).toBeVisible();
  await expectAccessible(page, 'drawer');
  await drawer.getByRole('button', { name: 'One more Berry trug' }).click();
  await expect(page.locator('stall-cart[form=summary]')).toContainText('2 \u00d7 Berry trug');
  await drawer.getByRole('link', { name: 'Keep looking' }).click();
  await expect(drawer).toBeHidden();
  await expect(page.getByRole('link', { name: 'Cart, 2 pieces' })).toBeVisible();
  await page.getByRole('link', { name: 'Cart, 2 pieces' }).click();
  await expect(drawer).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(drawer).toBeHidden();
});

test('an amount the buyer names is asked for, refused below the least, and kept', async ({ page }) => {
  await open(
    page,
    `<h1>Elsewhere</h1><stall-cart shop="${home}"></stall-cart><stall-buy shop="${home}" goods="gift-voucher" after="checkout">Give a voucher</stall-buy>${script}`,
  );
  const amount = page.getByLabel(/^Your amount/);
  await amount.fill('4');
  await page.getByRole('button', { name: 'Give a voucher' }).click();
  await expect(page.getByText('The amount is at least \u00a310.00.')).toBeVisible();
  await amount.fill('37.50');
  await page.getByRole('button', { name: 'Give a voucher' }).click();
  await expect(page).toHaveURL(new RegExp(`^${home}/checkout/`));
  await expect(page.getByRole('button', { name: 'Pay \u00a337.50' })).toBeVisible();
});

test('one request serves a page of nine widgets, and nothing shifts at three widths', async ({ page }) => {
  const asked: string[] = [];
  page.on('request', (r) => r.url().includes('/v1/') && asked.push(r.url()));
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 900 });
    asked.length = 0;
    await open(
      page,
      `<style>body{margin:0;font-family:sans-serif}</style><h1>Much</h1>${placed}<p id="below">Below</p>${script}`,
    );
    const before = await page.locator('#below').evaluate((p) => p.getBoundingClientRect().top + scrollY);
    await expect(page.getByRole('link', { name: 'Willow bundle, 1.5 kg' }).first()).toBeVisible();
    await expect(page.getByRole('button', { name: 'Add to cart: Berry trug' }).first()).toBeVisible();
    await page.waitForLoadState('networkidle');
    const after = await page.locator('#below').evaluate((p) => p.getBoundingClientRect().top + scrollY);
    expect(asked.filter((u) => u.includes('/page?'))).toHaveLength(1);
    expect(asked).toHaveLength(1);
    expect(Math.abs(after - before), `at ${width}`).toBeLessThanOrEqual(2);
  }
});

/** As the element spelling writes them, with the room they need; filled in by the command line's own writer below. */
let placed = '';
test.beforeAll(async () => {
  const { rowHeight } = await import('../src/core/storefront/room');
  const box = 'display:block;width:100%;container-type:inline-size';
  const parts = ['picture', 'name', 'price', 'stock', 'button'] as const;
  const row = (count: number, columns: number) =>
    `<stall-row shop="${home}" source="all" limit="${count}" columns="${columns}" style="${box}"><div style="min-height:${rowHeight('grid', count, columns, parts)}"><a href="#">x</a></div></stall-row>`;
  const slider = `<stall-row shop="${home}" source="all" form="row" limit="6" style="${box}"><div style="min-height:${rowHeight('row', 6, 4, parts)}"><a href="#">x</a></div></stall-row>`;
  placed = row(8, 4) + row(3, 3) + slider + row(1, 1);
});
