import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, signIn } from './support/acts';
import { DEMO, live, office } from './support/places';
import { addProduct, connect } from './strangers/acts';
import { type Stranger, stranger } from './strangers/sites';

test.describe.configure({ mode: 'serial' });

/** The stranger's site of the first test, which the others go on with. */
let theirs = '';

const checksOf = (page: Page, site: string) =>
  page.evaluate(async (s) => (await fetch(`/api/${s}/checks`)).json(), site);

async function openChecks(page: Page, site: string): Promise<void> {
  await page.goto(`${office(DEMO)}/${site}/checks`);
  await expect(
    page.getByRole('region', { name: 'Findings' }).getByRole('heading', { level: 1 }),
  ).toBeVisible();
}

const row = (page: Page, words: string | RegExp) => page.getByRole('article').filter({ hasText: words });

/** Adds selling with what is proposed. */
async function addSelling(page: Page, site: string): Promise<void> {
  await page.goto(`${office(DEMO)}/${site}/site`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('button', { name: 'Add selling' }).click();
  await page.getByRole('button', { name: 'Add selling' }).click();
  await expect(page.getByRole('complementary', { name: 'Slip' }).getByText(/page built at/)).toBeVisible();
}

test('a stranger’s site: what is broken is found, mended by pointer, undone on the slip', async ({
  page,
}) => {
  await signIn(page, DEMO);
  const of = stranger('tables', 31);
  const [front = 'index.html'] = Object.keys(of.files).filter((f) => /\.html?$/.test(f));
  const broken = {
    ...of,
    files: {
      ...of.files,
      [front]: (of.files[front] ?? '').replace(
        /<\/h1>/i,
        '</H1><P>Our marl jug is $19 this year. [stall barrow]',
      ),
    },
  };
  const site = await connect(page, DEMO, broken, 'USD');
  theirs = site;
  await addProduct(page, DEMO, site, { name: 'Marl jug', price: '24', stock: '5' });
  await addSelling(page, site);
  await openChecks(page, site);
  await expect(row(page, 'The text says $19, Marl jug costs $24.00')).toBeVisible();
  await expectAccessible(page, 'checks of a stranger’s site');
  await row(page, '[stall barrow]').getByRole('button', { name: 'Take the text off' }).click();
  await expect(row(page, '[stall barrow]')).toHaveCount(0);
  await row(page, 'The text says $19').getByRole('button', { name: "Show today's price" }).click();
  await expect(row(page, 'The text says $19')).toHaveCount(0);
  const slip = page.getByRole('complementary', { name: 'Slip' });
  await expect(slip.getByText('$19 → $24.00, Marl jug')).toBeVisible();
  // What is written is what shoppers read, and it never gets old.
  const draft = await page.evaluate(
    async (s) => (await (await fetch(`/api/${s}/overview`)).json()).draftUrl,
    site,
  );
  const visit = await page.context().newPage();
  await visit.goto(`${draft}/${front}`);
  await expect(visit.locator('stall-price')).toHaveText('$24.00');
  await visit.close();
  await slip.getByRole('button', { name: /^Undo.*24\.00, Marl jug/ }).click();
  await expect(row(page, 'The text says $19')).toBeVisible();
});

test('by keys alone: showing, leaving so, looking again, a way step by step, a run', async ({ page }) => {
  await signIn(page, DEMO);
  await openChecks(page, theirs);
  const first = page.getByRole('article').first();
  await first.getByRole('button', { name: 'Leave it so' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('until spring', { delay: 80 });
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Left so: \d/)).toBeVisible();
  await page.getByText(/^Left so: \d/).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Look at it again' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Left so: \d/)).toHaveCount(0);
  const way = page
    .getByRole('button', { name: /paid for: show each press|the cart: show each press/ })
    .first();
  await way.focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.ck-ways tr.steps li').first()).toBeVisible();
  await page.getByRole('button', { name: 'Run again' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.ck-runs li').first()).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page, 'checks');
});

/** The same site with a link in the text of its front page that leads nowhere. */
function leadingNowhere(of: Stranger): Stranger {
  const front = Object.keys(of.files).find((f) => /^index\.html?$/.test(f)) ?? '';
  const text = of.files[front] ?? '';
  const link = '<p>See <a href="no-such-page-at-all.html">the drying loft</a>.</p>';
  return { ...of, files: { ...of.files, [front]: text.replace(/<\/h1>/i, (end) => end + link) } };
}

test('the spot is ringed in the real page', async ({ page }) => {
  await signIn(page, DEMO);
  const site = await connect(page, DEMO, leadingNowhere(stranger('ten pixels', 33)));
  await addSelling(page, site);
  await openChecks(page, site);
  await row(page, '“the drying loft” leads nowhere').getByRole('button', { name: 'Show me' }).click();
  await expect(page.getByRole('region', { name: 'As a shopper meets it' })).toBeVisible();
  await expectAccessible(page, 'a place shown');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('heading', { name: /shortest ways/ })).toBeVisible();
});

test('where the site lives is said anew, by keys, refused where it is no address, and undone', async ({
  page,
}) => {
  await signIn(page, DEMO);
  const site = await connect(page, DEMO, stranger('tables', 35), '', 'https://old.example/');
  await page.goto(`${office(DEMO)}/${site}/site?lens=publishing`);
  const address = page.getByLabel('Its address');
  await expect(address).toHaveValue('https://old.example/');
  await address.fill('');
  await address.pressSequentially('new.example', { delay: 60 });
  await page.keyboard.press('Enter');
  // The browser itself asks for a whole address.
  expect(await address.evaluate((el) => (el as HTMLInputElement).validity.valid)).toBe(false);
  await address.fill('');
  await address.pressSequentially('https://new.example', { delay: 60 });
  await page.keyboard.press('Enter');
  await expect(page.getByText('The site lives at https://new.example/')).toBeVisible();
  await expect(address).toHaveValue('https://new.example/');
  await expectAccessible(page, 'where the site lives');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(address).toHaveValue('https://old.example/');
});

/** A header that holds a bar, and a row that stands by itself at its right edge: what is put behind it would lie over the row. */
function withRowByItself(): Stranger {
  const of = stranger('ten pixels', 36);
  const style =
    '<style>*{box-sizing:border-box}body{margin:0;font:16px/1.5 sans-serif}header{position:relative;height:64px;display:flex;justify-content:flex-end}.bar{position:absolute;left:20px;top:18px}.bar nav{display:inline}.bar nav a{margin-left:14px}.by-itself{position:absolute;right:16px;top:14px}.by-itself a{padding:6px 10px;border:1px solid}@media(max-width:700px){.bar nav{display:none}}</style>';
  const head = `<header><div class="bar"><a href="index.html">Ashlar</a><nav><a href="index.html">Home</a><a href="stone.html">Stone</a><a href="visit.html">Visit</a></nav></div><div class="by-itself"><a href="visit.html">Write</a> <a href="stone.html">Order book</a></div></header>`;
  const page = (name: string) =>
    `<!doctype html><html lang="en-GB"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${name}</title>${style}</head><body>${head}<main><h1>${name}</h1><p>All about ${name}, cut and dressed by hand in the yard.</p></main><footer>Ashlar Yard</footer></body></html>`;
  return {
    ...of,
    files: { 'index.html': page('Ashlar'), 'stone.html': page('Stone'), 'visit.html': page('Visit') },
  };
}

test('a cart comes to stand where there is room for it, and covers nothing at any width', async ({
  page,
}) => {
  await signIn(page, DEMO);
  const site = await connect(page, DEMO, withRowByItself());
  await addProduct(page, DEMO, site, { name: 'Door stone', price: '60', stock: '3' });
  await addSelling(page, site);
  const { draftUrl } = (await page.evaluate(
    async (s) => (await fetch(`/api/${s}/overview`)).json(),
    site,
  )) as { draftUrl: string };
  const visit = await page.context().newPage();
  await visit.goto(`${draftUrl}/stone.html`);
  for (const width of [1280, 820, 390]) {
    await visit.setViewportSize({ width, height: 800 });
    const cart = await visit.locator('stall-cart').getByRole('link').boundingBox();
    expect(cart, `at ${width}`).not.toBeNull();
    for (const link of await visit.locator('header > div a').all()) {
      const box = await link.boundingBox();
      if (!cart || !box) continue;
      const isApart =
        box.x >= cart.x + cart.width - 1 ||
        cart.x >= box.x + box.width - 1 ||
        box.y >= cart.y + cart.height - 1 ||
        cart.y >= box.y + box.height - 1;
      expect(isApart, `${await link.textContent()} at ${width}`).toBe(true);
    }
  }
  await visit.close();
  await openChecks(page, site);
  await expect(row(page, /It covers|It is covered/)).toHaveCount(0);
});

test('on a phone the list is one column, and nothing is cut', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, DEMO);
  await openChecks(page, theirs);
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
  await expectAccessible(page, 'checks on a phone');
});

test('ways to the cart are as short as a walk that presses every link of the live pages', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await openChecks(page, 'withybed');
  const { ways } = (await checksOf(page, 'withybed')) as { ways: { path: string; cart?: number }[] };
  const root = `${live(DEMO)}/`;
  const walk = await page.context().newPage();
  const links = new Map<string, string[]>();
  const queue = [root];
  for (let at = queue.shift(); at; at = queue.shift()) {
    if (links.has(at)) continue;
    const answer = await walk.goto(at, { waitUntil: 'domcontentloaded' });
    if (!answer?.ok() || !answer.headers()['content-type']?.includes('html')) {
      links.set(at, []);
      continue;
    }
    const here = await walk.evaluate(async () => {
      const cart = document.querySelector('stall-cart');
      for (let n = 0; n < 40 && cart && !cart.shadowRoot?.querySelector('a'); n++)
        await new Promise((r) => setTimeout(r, 100));
      const all = [
        ...document.querySelectorAll('a[href]'),
        ...(cart?.shadowRoot?.querySelectorAll('a[href]') ?? []),
      ];
      return all.map((a) => (a as HTMLAnchorElement).href.replace(/[#?].*/, ''));
    });
    const own = [...new Set(here.filter((h) => h.startsWith(root)))];
    links.set(at, own);
    queue.push(...own);
  }
  await walk.close();
  const cart = [...links.keys()].find((a) => /\/cart\/?$/.test(a)) ?? '';
  const far = new Map([[cart, 0]]);
  for (let grew = true; grew; ) {
    grew = false;
    for (const [from, to] of links) {
      const next = Math.min(...to.map((t) => far.get(t) ?? Number.POSITIVE_INFINITY)) + 1;
      if (next < (far.get(from) ?? Number.POSITIVE_INFINITY)) {
        far.set(from, next);
        grew = true;
      }
    }
  }
  for (const w of ways) {
    const address = `${root}${w.path.replace(/(^|\/)index\.html$/, '$1')}`;
    if (links.has(address)) expect([w.path, w.cart]).toEqual([w.path, far.get(address)]);
  }
});
