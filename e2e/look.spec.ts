import { expect, type Page, test } from '@playwright/test';
import { expectAccessible, signIn } from './support/acts';
import { DEMO, live, office } from './support/places';
import { connect } from './strangers/acts';
import { stranger } from './strangers/sites';

test.describe.configure({ mode: 'serial' });

async function openLook(page: Page, site: string): Promise<void> {
  await page.goto(`${office(DEMO)}/${site}/look`);
  await expect(page.getByText(/\d pages? measured$/)).toBeVisible({ timeout: 20_000 });
}

const token = (page: Page, name: string) => page.locator(`[data-token="${name}"]`);

/** The look of something of the shop's inside the sample. */
const inSample = (page: Page, selector: string, property: string) =>
  page
    .locator('.lk-shadow')
    .first()
    .evaluate(
      (host, [s, p]) =>
        getComputedStyle(host.shadowRoot?.querySelector(s as string) as Element).getPropertyValue(
          p as string,
        ),
      [selector, property],
    );

const rgb = (hex: string): string =>
  `rgb(${[1, 3, 5].map((n) => Number.parseInt(hex.slice(n, n + 2), 16)).join(', ')})`;

test('what was found is what the pages show, on all four sites', async ({ page }) => {
  await signIn(page, DEMO);
  for (const site of ['withybed', 'hollin', 'brombeerhof', 'quillfeather']) {
    await openLook(page, site);
    const found = await page.evaluate(
      async (s) => (await (await fetch(`/api/${s}/look`)).json()).found,
      site,
    );
    expect(found.by).toBe('measured');
    const front = await page.context().newPage();
    await front.goto(`${live(DEMO, site)}/`);
    const shown = await front.evaluate(() => {
      const p = [...document.querySelectorAll('p')].filter(
        (el) => !el.closest('header,footer,nav,[class*=card]') && (el.textContent ?? '').length > 40,
      )[0];
      const style = getComputedStyle(p ?? document.body);
      return {
        face: style.fontFamily,
        colour: style.color,
        root: getComputedStyle(document.documentElement).fontSize,
      };
    });
    expect(found.sources['text-face'], site).toBe(shown.face.replaceAll('"', "'"));
    expect([...found.colours.map((c: { value: string }) => rgb(c.value))], site).toContain(shown.colour);
    expect(`${found.sources.root}px`, site).toBe(shown.root);
    await front.close();
    for (const c of await token(page, 'accent')
      .count()
      .then(() => found.colours))
      expect(c.share).toBeLessThanOrEqual(1);
  }
});

test('a thread is tied elsewhere: the sample wears it at once, the draft after it, the live site not before it is published', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await openLook(page, 'withybed');
  expect(await inSample(page, '.stall-button', 'background-color')).toBe(rgb('#79491b'));
  await token(page, 'accent')
    .getByRole('button', { name: /^Button/ })
    .click();
  await page.getByRole('group', { name: 'Button takes' }).getByTitle('Green of the footer').click();
  await expect.poll(() => inSample(page, '.stall-button', 'background-color')).toBe(rgb('#565d3e'));
  const slip = page.getByRole('complementary', { name: 'Slip' });
  await expect(slip.getByText('Button: #565D3E')).toBeVisible();
  // As the owner looks at the draft, and as a shopper looks at the live site.
  const draft = await page.getByRole('link', { name: 'In my pages' }).getAttribute('href');
  const visit = await page.context().newPage();
  const fill = async (address: string) => {
    await visit.goto(address);
    return visit.evaluate(async () => {
      const el = document.querySelector('stall-cart');
      for (let n = 0; n < 60 && !el?.shadowRoot?.querySelector('a'); n++)
        await new Promise((r) => setTimeout(r, 100));
      return el ? getComputedStyle(el).getPropertyValue('--stall-accent') : 'no cart';
    });
  };
  expect(await fill(`${draft}/`)).toBe('#565d3e');
  expect(await fill(`${live(DEMO)}/`)).toBe('#79491b');
  await visit.close();
  await slip.getByRole('button', { name: /^Undo.*Button: #565D3E/ }).click();
  await expect(slip.getByText('Button: #565D3E')).toHaveCount(0);
  await expect.poll(() => inSample(page, '.stall-button', 'background-color')).toBe(rgb('#79491b'));
});

test('all of it by keys alone: tie, undo, shape, own CSS with its faults', async ({ page }) => {
  await signIn(page, DEMO);
  await openLook(page, 'hollin');
  await token(page, 'radius').locator('.tk').focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Your own value: Button corners').focus();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('18', { delay: 90 });
  await expect.poll(() => inSample(page, '.stall-button', 'border-top-left-radius')).toBe('18px');
  await token(page, 'radius').locator('.tk').focus();
  await page.keyboard.press('Control+Z');
  await expect.poll(() => inSample(page, '.stall-button', 'border-top-left-radius')).toBe('6px');
  await page.getByRole('button', { name: 'Shape of the shop' }).focus();
  await page.keyboard.press('Enter');
  await expectAccessible(page, 'shape of the shop');
  await page.getByRole('radio', { name: 'Plain' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText('Cards: on a tray')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('Cards: on a tray')).toHaveCount(0);
  await page.getByRole('button', { name: 'Own CSS' }).focus();
  await page.keyboard.press('Enter');
  // Answers of a server that is far away come when more was typed meanwhile: the last word stays.
  await page.route(/\/api\/[^/]+\/look$/, async (route) => {
    await new Promise((later) => setTimeout(later, route.request().method() === 'POST' ? 1500 : 0));
    await route.continue();
  });
  await page.getByRole('textbox', { name: 'Own CSS' }).focus();
  await page.keyboard.type('::part(button) { letter-spacing: 3px }\nbody { display: none }', { delay: 20 });
  await expect.poll(() => inSample(page, '.stall-button', 'letter-spacing')).toBe('3px');
  await expect(page.getByText(/^Line 2/)).toBeVisible();
  await expectAccessible(page, 'own CSS');
  await page.keyboard.press('Control+A');
  await page.keyboard.press('Delete');
  await expect(page.getByText(/^Own CSS: \d/)).toHaveCount(0);
  // And who goes elsewhere at once, before anything was sent, finds it there.
  await page.unrouteAll({ behavior: 'wait' });
  await page.keyboard.type('::part(button) { letter-spacing: 2px }');
  await page.goto(page.url().replace(/\/look.*/, '/goods'));
  await expect(page.getByText('Own CSS: 1 line')).toBeVisible();
  await page.getByRole('button', { name: /^Undo Look: Own CSS/ }).click();
  await expect(page.getByText(/^Own CSS: \d/)).toHaveCount(0);
});

test('a colour is shown where it is on the page', async ({ page }) => {
  await signIn(page, DEMO);
  await openLook(page, 'withybed');
  await page.getByRole('button', { name: 'Where it is: Green of the footer' }).click();
  const frame = page.frameLocator('.lk-places iframe');
  await expect(frame.locator('[data-stall-ring]').first()).toBeAttached();
  await page.getByRole('button', { name: 'Back to the sample' }).click();
  await expect(page.getByRole('region', { name: 'Live sample' })).toBeVisible();
});

test('two strangers, from an empty shop: what is found is theirs, and every part of the view can be used', async ({
  page,
}) => {
  await signIn(page, DEMO);
  for (const [make, seed] of [
    ['tables', 11],
    ['ten pixels', 12],
  ] as const) {
    const of = stranger(make, seed);
    const site = await connect(page, DEMO, of);
    await openLook(page, site);
    await expect(page.getByText('These stand in for your goods')).toBeVisible();
    await expectAccessible(page, `look of ${make}`);
    const found = await page.evaluate(
      async (s) => (await (await fetch(`/api/${s}/look`)).json()).found,
      site,
    );
    expect(found.sources.text).toMatch(/^#[0-9a-f]{6}$/);
    expect(found.fonts.length).toBeGreaterThan(0);
  }
});
