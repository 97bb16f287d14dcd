import { createServer } from 'node:http';
import { expect, type Page, test } from '@playwright/test';
import { office, shop, STRANGE } from '../support/places';
import { expectAccessible } from '../support/acts';
import { asOwner, at, connect, sell, shopper } from './acts';
import { stranger } from './sites';

/** The shop in a hand: every page a shopper meets at 390 px, on sites with little room and odd roots. */
test.describe.configure({ mode: 'serial' });
const seed = Number(process.env.SEED ?? 7) + 80;
const api = (site: string, path: string) => `${office(STRANGE)}/api/${site}/${path}`;

/** Goods as tables and programs bring them in: what is looked at here is how they stand, not how they are typed. */
async function put(page: Page, site: string, goods: readonly object[]): Promise<void> {
  for (const data of goods) {
    const answer = await page.request.post(api(site, 'goods'), {
      data,
      headers: { origin: office(STRANGE) },
    });
    expect(answer.ok(), await answer.text()).toBe(true);
  }
}

const sizes = ['Small', 'Medium', 'Large'];
const goods = [
  {
    name: 'Woollen travelling blanket with a long name',
    price: 129_000,
    was: 159_000,
    variants: [{ stock: 2 }],
  },
  { name: 'Mug', price: 1850, variants: [{ stock: 40 }], categories: ['Kitchen'] },
  {
    name: 'Apron',
    price: 3400,
    was: 3900,
    options: [{ name: 'Size', values: sizes.map((name) => ({ name })) }],
    variants: sizes.map((s, n) => ({ values: [s], stock: n === 2 ? 0 : 5, difference: n * 200 })),
  },
  { name: 'Evening talk', price: 800, kind: 'service', variants: [{}] },
  { name: 'Cup', price: 900, variants: [{ stock: 0 }] },
];

/**
 * What of ours is lower than a finger needs (WCAG 2.2, 2.5.8), narrower, or out of the window; and what has
 * the focus and is not seen.
 */
const faults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const out: string[] = [];
    const look = (el: HTMLElement) => {
      if (!el.matches('a[href],button,input:not([type=hidden]),select,textarea,summary') || el.tabIndex < 0)
        return;
      if (!el.checkVisibility({ visibilityProperty: true })) return;
      const name = (el.textContent || el.getAttribute('aria-label') || el.getAttribute('name') || '').trim();
      const own = el.getBoundingClientRect();
      const label = el.closest('label')?.getBoundingClientRect() ?? own;
      const [width, height] = [Math.max(own.width, label.width), Math.max(own.height, label.height)];
      if (own.width > 2 && (width < 24 || height < 24))
        out.push(`low: ${name} ${Math.round(width)} x ${Math.round(height)}`);
      if (own.right > innerWidth + 1) out.push(`out: ${name} ends at ${Math.round(own.right)}`);
    };
    const visit = (root: ParentNode, ours: boolean) => {
      for (const el of root.querySelectorAll<HTMLElement>('*')) {
        if (el.shadowRoot) visit(el.shadowRoot, true);
        if (ours) look(el);
      }
    };
    visit(document, false);
    return out;
  });

/**
 * Goes through the page by Tab alone: what has the focus is seen, or stands in the page at least as high as
 * a line.
 */
async function unseenByTab(page: Page, steps: number): Promise<string[]> {
  const out: string[] = [];
  for (let n = 0; n < steps; n++) {
    await page.keyboard.press('Tab');
    const unseen = await page.evaluate(() => {
      let el = document.activeElement as HTMLElement | null;
      while (el?.shadowRoot?.activeElement) el = el.shadowRoot.activeElement as HTMLElement;
      if (!el || el === document.body) return null;
      const { width, height } = el.getBoundingClientRect();
      return width < 10 || height < 10 ? `${el.tagName} ${el.textContent} ${width} x ${height}` : null;
    });
    if (unseen) out.push(unseen);
  }
  return out;
}

for (const make of ['ten pixels', 'eight items', 'menus of div'] as const) {
  test(`on a phone, "${make}": targets, cards, cart and fields`, async ({ page }) => {
    await asOwner(page);
    const site = await connect(page, STRANGE, stranger(make, seed), 'GBP');
    await put(page, site, goods);
    await sell(page, STRANGE, site);
    const { visit } = await shopper(page, seed);
    await visit.setViewportSize({ width: 390, height: 844 });
    for (const path of [
      'shop.html',
      'shop.html?goods=apron',
      'shop.html?category=kitchen',
      'shop.html?find=nothing+like+it',
      'order-lookup.html',
      'your-orders.html',
      'cart.html',
    ]) {
      await visit.goto(at(STRANGE, site, path));
      await expect(visit.locator('stall-shop,stall-page,stall-lookup').first()).toBeVisible();
      await visit.waitForLoadState('networkidle');
      expect(await faults(visit), `${make}, ${path}`).toEqual([]);
    }
    // The cart is inside the window, whatever room the header has.
    const cart = await visit.getByRole('link', { name: /, 0 / }).first().boundingBox();
    expect((cart?.x ?? 999) + (cart?.width ?? 0)).toBeLessThanOrEqual(390);
    await visit.goto(at(STRANGE, site, 'shop.html'));
    const card = (name: string) => visit.locator('stall-shop article').filter({ hasText: name }).first();
    await expect(card('Woollen')).toBeVisible();
    // Two cards in a row, text as large as the site's own reading size, price and price before in one line.
    const at390 = await card('Woollen').evaluate((el) => {
      const box = el.getBoundingClientRect();
      const [price, was] = [el.querySelector('[data-price]'), el.querySelector('s')];
      return {
        width: box.width,
        name: Number.parseFloat(getComputedStyle(el.querySelector('a.stall-name') as Element).fontSize),
        inLine: Math.abs((price?.getBoundingClientRect().left ?? 0) - box.left) < 2 && !!was,
      };
    });
    expect(at390.width).toBeGreaterThan(140);
    expect(at390.name).toBeGreaterThanOrEqual(16);
    expect(at390.inLine).toBe(true);
    const heights = await visit
      .locator('stall-shop .stall-shop-tools')
      .evaluate((el) =>
        [...el.querySelectorAll('input[type=search],select,summary')].map(
          (x) => (x as HTMLElement).offsetHeight,
        ),
      );
    expect(new Set(heights).size).toBe(1);
    expect(await unseenByTab(visit, 24)).toEqual([]);
    await expectAccessible(visit, `the shop on a phone, ${make}`);
    await visit.context().close();
  });
}

test('options and the number of pieces are chosen on a card, with script and without', async ({
  page,
  browser,
}) => {
  await asOwner(page);
  const site = await connect(page, STRANGE, stranger('tables', seed), 'GBP');
  await put(page, site, goods);
  const ours = `${shop(STRANGE)}/${site}`;
  const parts = 'name,price,stock,options,quantity,button';
  const server = createServer((_, res) => {
    res.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
    res.end(
      `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>Elsewhere</title><h1>Elsewhere</h1><stall-cart shop="${ours}"></stall-cart><stall-row shop="${ours}" source="all" parts="${parts},picture,glance"></stall-row><script async src="${shop(STRANGE)}/stall.js" data-shop="${ours}"></script>`,
    );
  });
  await new Promise<void>((ready) => server.listen(STRANGE + 17, '127.0.0.1', ready));
  try {
    const { visit, person } = await shopper(page, seed + 3);
    await visit.setViewportSize({ width: 390, height: 844 });
    await visit.goto(`http://localhost:${STRANGE + 17}/`);
    const apron = visit.locator('article').filter({ hasText: 'Apron' });
    const size = apron.getByLabel('Size: Apron');
    await expect(size.locator('option')).toHaveText(['Size', 'Small', 'Medium', 'Large (not available)']);
    // Nothing is bought before something is chosen: the browser asks for it.
    await person.press(apron.getByRole('button', { name: 'Add to cart: Apron' }));
    await expect(visit.getByRole('link', { name: 'Cart, 0 pieces' })).toBeVisible();
    await person.choose(size, { label: 'Medium' });
    await expect(apron.getByText('£36.00')).toBeVisible();
    await person.write(apron.getByLabel('How many: Apron'), '2');
    await person.press(apron.getByRole('button', { name: 'Add to cart: Apron' }));
    await expect(visit.getByRole('link', { name: 'Cart, 2 pieces' })).toBeVisible();
    expect(await faults(visit)).toEqual([]);
    await expectAccessible(visit, 'cards with options and quantity');
    await visit.context().close();
    // A finger has no hover: the quick look is there all the same.
    const touch = await browser.newContext({
      hasTouch: true,
      isMobile: true,
      viewport: { width: 390, height: 844 },
    });
    const hand = await touch.newPage();
    await hand.goto(`http://localhost:${STRANGE + 17}/`);
    const look = hand.getByRole('button', { name: 'Quick look: Mug' });
    await expect(look).toBeVisible();
    expect(await look.evaluate((el) => getComputedStyle(el).opacity)).toBe('1');
    await look.tap();
    const dialog = hand.getByRole('dialog', { name: 'Mug' });
    await expect(dialog).toBeVisible();
    await dialog.getByRole('button', { name: 'Close' }).tap();
    await expect(dialog).toHaveCount(0);
    await touch.close();
    // Ready HTML of the same row, as an include brings it: the form says all of it without a script.
    const plain = await browser.newContext({ javaScriptEnabled: false });
    const still = await plain.newPage();
    await still.goto(`${ours}/fragments/row?source=all&parts=${parts}`);
    const form = still.locator('form', { has: still.getByLabel('Size: Apron') });
    await form.getByLabel('Size: Apron').selectOption('Small');
    await form.getByLabel('How many: Apron').fill('3');
    await form.getByRole('button').click();
    await expect(still.getByText('Small', { exact: true }).first()).toBeVisible();
    await expect(still.getByText('£102.00').first()).toBeVisible();
    await plain.close();
  } finally {
    server.close();
  }
});
