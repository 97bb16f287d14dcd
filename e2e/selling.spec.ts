import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import {
  buyer,
  bytesAt,
  expectAccessible,
  fillAddress,
  lettersTo,
  linkIn,
  payWith,
  sha256,
  signIn,
} from './support/acts';
import { card, DEMO, live, office } from './support/places';

/** From a site that sells nothing to an order and back, on sites of other kinds than the first. */
test.describe.configure({ mode: 'serial' });

const hashesOf = (folder: string): Record<string, string> =>
  Object.fromEntries(
    (readdirSync(folder, { recursive: true }) as string[])
      .filter((f) => statSync(join(folder, f)).isFile())
      .sort()
      .map((f) => [f, sha256(readFileSync(join(folder, f)))]),
  );
const liveFolder = (site: string) => join(process.env.STALL_E2E_DIR ?? '', 'demo/live', site);

async function toSite(page: Page, site: string, lens = ''): Promise<void> {
  await page.goto(`${office(DEMO)}/${site}/site${lens && `?lens=${lens}`}`);
  await page.waitForSelector('[data-ready]');
}

test('selling is added to a site that turns pages by script, bought from, gone back from, and left without a trace', async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  const before = hashesOf(liveFolder('hollin'));
  await signIn(page, DEMO);

  await test.step('the set-up is read from the site, and says what one press will do', async () => {
    await toSite(page, 'hollin');
    await page.getByRole('button', { name: 'Add selling' }).click();
    await expect(page.getByLabel('Where the business is')).toHaveValue('IE');
    await expect(page.getByText('Because a telephone number begins with +353.')).toBeVisible();
    await expect(page.getByLabel('Prices are in')).toHaveValue('EUR');
    await expect(page.getByText('\u201cShop\u201d in the menu of every page')).toBeVisible();
    await expectAccessible(page, 'add selling');
    await page.getByRole('button', { name: 'Add selling' }).click();
    await expect(
      page.getByText('Shop page built at /shop, in the menu, with the cart in every header'),
    ).toBeVisible();
  });

  await test.step('it is taken back as one, and added again', async () => {
    await page.getByRole('button', { name: /^Undo Selling: Shop page built/ }).click();
    await expect(page.getByRole('button', { name: /^Publish \d/ })).toBeHidden();
    await page.getByRole('button', { name: 'Add selling' }).click();
    await expect(page.getByText('Because a telephone number')).toBeVisible();
    await page.getByRole('button', { name: 'Add selling' }).click();
    await expect(page.getByRole('button', { name: 'Publish 3 changes' })).toBeVisible();
    expect(hashesOf(liveFolder('hollin'))).toEqual(before);
  });

  await test.step('every page is shown with what it will be, in its own text', async () => {
    await toSite(page, 'hollin', 'publishing');
    await expect(page.getByRole('heading', { name: /11 files would be written/ })).toBeVisible();
    await page.getByRole('button', { name: 'studio/index.html changed' }).click();
    await expect(page.locator('.cm-merge-b')).toContainText('<stall-cart');
    await expect(page.locator('.cm-merge-a')).not.toContainText('<stall-cart');
    await expectAccessible(page, 'publishing');
    await page.getByRole('button', { name: 'Publish 3 changes' }).click();
    await expect(page.getByText(/^Published: 3 changes/)).toBeVisible();
  });

  const shopper = await context.newPage();
  let number = '';
  await test.step('a shopper turns pages, searches, and pays', async () => {
    await shopper.goto(`${live(DEMO, 'hollin')}/`);
    await expect(shopper.getByRole('link', { name: 'Cart, 0 pieces' })).toBeVisible();
    await shopper.getByRole('navigation').getByRole('link', { name: 'Shop' }).click();
    await expect(shopper.getByRole('heading', { name: 'Shop', level: 1 })).toBeVisible();
    await expect(shopper.getByRole('link', { name: 'Curlew, linocut' })).toBeVisible();
    await expectAccessible(shopper, 'shop front on a site that turns pages by script');
    await shopper.getByRole('searchbox').fill('turnston');
    await shopper.keyboard.press('Enter');
    await expect(shopper.getByRole('status').filter({ hasText: '1 found' })).toBeVisible();
    await expect(shopper).toHaveURL(/\?find=turnston$/);
    await shopper.getByRole('button', { name: 'Add to cart: Turnstone, linocut' }).click();
    await expect(shopper.getByRole('link', { name: 'Cart, 1 piece' })).toBeVisible();
    await shopper.getByRole('link', { name: 'Cart, 1 piece' }).click();
    await shopper.getByRole('link', { name: 'Go to checkout' }).click();
    await fillAddress(shopper);
    await shopper.getByRole('button', { name: /^Pay/ }).click();
    await payWith(shopper, card.approve);
    await expect(shopper.getByText('Your order is in, and paid.')).toBeVisible({ timeout: 20_000 });
    number = (await shopper.locator('.stall-thanks strong').first().textContent()) ?? '';
  });

  await test.step('the order is looked up by its number and address, and by no other', async () => {
    await shopper.goto(`${live(DEMO, 'hollin')}/order-lookup/`);
    await shopper.getByLabel('Order number').fill(number);
    await shopper.getByLabel(/^The e-mail address/).fill('nobody@penhallow.example');
    await shopper.getByRole('button', { name: 'Look up the order' }).click();
    await expect(shopper.getByRole('alert')).toContainText('no order of that number');
    await shopper.getByLabel(/^The e-mail address/).fill('Ada@Penhallow.example');
    await shopper.getByRole('button', { name: 'Look up the order' }).click();
    await expect(shopper.getByText('1 \u00d7 Turnstone, linocut')).toBeVisible();
    await expectAccessible(shopper, 'order lookup');
  });

  await test.step('a letter with a link opens the orders of its address, once', async () => {
    await shopper.goto(`${live(DEMO, 'hollin')}/your-orders/`);
    await expect(shopper.getByRole('heading', { name: 'Your orders', level: 1 })).toBeVisible();
    await shopper.getByLabel('E-mail').fill('no address');
    await shopper.getByRole('button', { name: 'Send me the link' }).click();
    await expect(shopper.getByRole('alert')).toContainText('Enter an e-mail address');
    await expect(shopper.getByLabel('E-mail')).toBeFocused();
    await expectAccessible(shopper, 'the way to one’s orders');
    await shopper.getByLabel('E-mail').fill(buyer.email);
    await shopper.getByRole('button', { name: 'Send me the link' }).click();
    await expect(shopper.getByRole('status')).toContainText(`An e-mail is on its way to ${buyer.email}`);
    const link = linkIn((await lettersTo(buyer.email)).filter((l) => l.includes('#orders=')));
    expect(link).toContain(`${live(DEMO, 'hollin')}/your-orders/#orders=`);
    await shopper.goto('about:blank');
    await shopper.goto(link);
    await expect(shopper.getByText('1 \u00d7 Turnstone, linocut')).toBeVisible();
    await expect(shopper).toHaveURL(`${live(DEMO, 'hollin')}/your-orders/`);
    await expectAccessible(shopper, 'one’s orders');
    await shopper.reload();
    await expect(shopper.getByText('1 \u00d7 Turnstone, linocut')).toBeVisible();
    await shopper.getByRole('button', { name: 'Sign out' }).click();
    await expect(shopper.getByLabel('E-mail')).toBeVisible();
    await shopper.goto('about:blank');
    await shopper.goto(link);
    await expect(shopper.getByRole('alert')).toContainText('used or has expired');
  });

  await test.step('the menu is worked on: an item nested and renamed, undone, and the shop moved', async () => {
    await toSite(page, 'hollin', 'menus');
    await expect(page.getByText(/^Needs \d+ of \d+ px: fits/).first()).toBeVisible({ timeout: 20_000 });
    await expectAccessible(page, 'menus');
    await page.getByRole('button', { name: 'The studio', exact: true }).focus();
    await page.keyboard.press('F2');
    await page.keyboard.type('Our studio');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Our studio', exact: true })).toBeVisible();
    await page.getByRole('button', { name: 'Our studio', exact: true }).focus();
    await page.keyboard.press('Alt+ArrowUp');
    await expect(page.locator('.tree li').first()).toContainText('Our studio');
    await page.locator('h1').click();
    await page.keyboard.press('Control+z');
    await expect(page.locator('.tree li').first()).toContainText('Prints');
    await page.getByLabel('Address').fill('prints-for-sale');
    await page.getByRole('button', { name: 'Move the shop there' }).click();
    await expect(page.getByText('Old addresses that lead to it: /shop.')).toBeVisible();
    await page.getByRole('button', { name: /^Publish \d/ }).click();
    await expect(page.getByText(/^Published: \d/)).toBeVisible();
    await shopper.goto(`${live(DEMO, 'hollin')}/shop/`);
    await expect(shopper).toHaveURL(/\/prints-for-sale\/$/);
    await expect(shopper.getByRole('link', { name: 'Our studio' })).toBeVisible();
  });

  await test.step('coverage says how far every page is from a checkout', async () => {
    await toSite(page, 'hollin', 'coverage');
    await expect(
      page.getByRole('heading', { name: /every page reaches checkout in at most 4 clicks/ }),
    ).toBeVisible();
    await expectAccessible(page, 'coverage');
  });

  await test.step('an earlier publication is gone back to', async () => {
    await toSite(page, 'hollin', 'publishing');
    await page.getByRole('button', { name: 'Go back to it' }).last().click();
    await expect(page.getByText(/^Back as it was/)).toBeVisible();
    await shopper.goto(`${live(DEMO, 'hollin')}/`);
    await expect(shopper.getByRole('link', { name: 'The studio' })).toBeVisible();
  });

  await test.step('Green Stall leaves, and shows that every byte is as it was', async () => {
    await page.getByRole('button', { name: 'Leave\u2026' }).click();
    await page.getByRole('button', { name: 'Take it all out now' }).click();
    await expect(
      page.getByText(
        `${Object.keys(before).length} of ${Object.keys(before).length} files are byte for byte what you gave`,
      ),
    ).toBeVisible();
    expect(hashesOf(liveFolder('hollin'))).toEqual(before);
    await expectAccessible(page, 'proof');
  });
});

test('by keys alone: selling is added to a page of tables, a row is placed, spelled otherwise, and moved', async ({
  page,
}) => {
  test.setTimeout(150_000);
  await signIn(page, DEMO);
  await toSite(page, 'quillfeather');
  const press = async (name: string) => {
    const button = page.getByRole('button', { name, exact: true });
    await button.focus();
    await page.keyboard.press('Enter');
  };
  await press('Add selling');
  await expect(page.getByLabel('Where the business is')).toHaveValue('GB');
  await press('Add selling');
  await expect(page.getByText(/^Shop page built at \/shop, in the menu/)).toBeVisible();
  await page.goto(`${office(DEMO)}/quillfeather/bench?page=parts.html`);
  await expect(page.locator('.plus').first()).toBeVisible({ timeout: 20_000 });
  const status = page.locator('.canvas [role=status]');
  for (let n = 0; n < 40 && !(await status.textContent())?.includes('after \u201cI cut mainsprings'); n++)
    await page.keyboard.press(']');
  await expect(status).toContainText('after \u201cI cut mainsprings');
  await page.keyboard.press('Enter');
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Product row: settings' })).toBeVisible();
  await page.getByLabel('Looks like').selectOption('table');
  await page.getByText('How it is written').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: 'shortcode' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.written')).toContainText('[stall row form="table" placement=');
  await page.getByRole('button', { name: 'Use this on the page' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('as shortcode')).toBeVisible();
  await press('Publish 4 changes');
  await expect(page.getByText(/^Published: 4 changes/)).toBeVisible();

  const served = (await bytesAt(`${live(DEMO, 'quillfeather')}/parts.html`)).body.toString('latin1');
  expect(served).toContain('[stall row form=&quot;table&quot;');
  await page.goto(`${live(DEMO, 'quillfeather')}/parts.html`);
  await expect(
    page.getByRole('table').getByRole('row', { name: /Mainspring, cut to length £14.50/ }),
  ).toBeVisible();
  await page.getByRole('searchbox', { name: 'Show only rows with' }).fill('gut');
  await expect(page.getByRole('row', { name: /^Mainspring, cut/ })).toBeHidden();
  await page.getByRole('button', { name: 'Add to cart: Gut line, a yard' }).click();
  await expect(page.getByText('It is in your cart.')).toBeVisible();
});

test('one long page in German sells in German, and a newer version of it finds its widgets again', async ({
  page,
}) => {
  test.setTimeout(150_000);
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/brombeerhof/bench?page=index.html`);
  await expect(page.locator('.plus').first()).toBeVisible({ timeout: 20_000 });
  const status = page.locator('.canvas [role=status]');
  for (let n = 0; n < 80 && !(await status.textContent())?.includes('after \u201cVon September'); n++)
    await page.keyboard.press(']');
  await page.getByRole('button', { name: /^Product row/ }).click();
  await expect(page.getByRole('region', { name: 'Product row: settings' })).toBeVisible();
  await page.getByRole('button', { name: /^Publish \d/ }).click();
  await expect(page.getByText(/^Published: 1 change/)).toBeVisible();
  await page.goto(`${live(DEMO, 'brombeerhof')}/`);
  await expect(page.getByRole('button', { name: 'Kaufen: Brombeere, 220 g, in den Korb' })).toBeVisible();
  await expect(page.getByText('Ausverkauft')).toBeVisible();
  await expectAccessible(page, 'row in German');

  const file = join(liveFolder('brombeerhof'), 'index.html');
  const { writeFileSync } = await import('node:fs');
  writeFileSync(
    file,
    readFileSync(file, 'utf8').replace(
      '<section class="band" id="hof">',
      '<section class="band" id="neu"><h2>Neu</h2><p>Hagebutte, ab Oktober.</p></section>\n<section class="band" id="hof">',
    ),
  );
  await toSite(page, 'brombeerhof', 'publishing');
  await page.getByRole('button', { name: 'Read the folder again' }).click();
  await expect(page.getByText('1 widget found again')).toBeVisible();
  await expect(page.getByText('Nothing needs your decision.')).toBeVisible();
  await expect(page.getByText('A newer version of the site')).toBeVisible();
  await page.getByRole('button', { name: /^Publish \d/ }).click();
  await expect(page.getByText(/^Published: 1 change/)).toBeVisible();
  const now = readFileSync(file, 'utf8');
  expect(now).toContain('Hagebutte');
  expect(now.match(/<stall-row/g)).toHaveLength(1);
});

test("every widget, placed through the office on each of the four sites, is accessible in that site's own look", async ({
  page,
}) => {
  test.setTimeout(240_000);
  await signIn(page, DEMO);
  for (const [site, path] of [
    ['withybed', 'workshops/index.html'],
    ['hollin', 'process/index.html'],
    ['brombeerhof', 'index.html'],
    ['quillfeather', 'repairs.html'],
  ] as const) {
    await page.goto(`${office(DEMO)}/${site}/bench?page=${encodeURIComponent(path)}`);
    await expect(page.locator('.shelf li').first()).toBeVisible();
    const made = await page.evaluate(
      async ({ slug, where }) => {
        const ask = async (url: string, method = 'GET', body?: unknown) =>
          (
            await fetch(url, {
              method,
              headers: { 'content-type': 'application/json' },
              ...(body !== undefined && { body: JSON.stringify(body) }),
            })
          ).json();
        const [goods, pitches] = [
          await ask(`/api/${slug}/goods`),
          await ask(`/api/${slug}/bench/pitches?page=${encodeURIComponent(where)}`),
        ];
        const pitch = pitches
          .filter(
            (p: { region: string; address: { path: string } }) =>
              p.region === 'main' && p.address.path !== '',
          )
          .at(-1);
        const one = goods[0].slug;
        const wanted: [string, object][] = [
          ['buy', { goods: one }],
          ['cart', { form: 'summary' }],
          ['card', { goods: one }],
          ['card', { goods: one, form: 'across' }],
          ['row', { source: 'all' }],
          ['row', { source: 'all', form: 'list' }],
          ['row', { source: 'all', form: 'table' }],
          ['row', { source: 'all', form: 'slider' }],
          ['shop', {}],
          ['categories', { heading: 'Ways in' }],
          ['search', {}],
          ['lookup', { heading: 'Your order' }],
          ['account', {}],
          ['account', { form: 'icon' }],
          ['notice', { text: 'Shut on Sundays.' }],
        ];
        const ids: string[] = [];
        for (const [kind, settings] of wanted)
          ids.push(
            (
              await ask(`/api/${slug}/placements`, 'POST', {
                kind,
                settings,
                pitch: pitch.address,
                pitchLabel: pitch.label,
                reach: { to: 'page', page: where },
              })
            ).id,
          );
        const overview = await ask(`/api/${slug}/overview`);
        return {
          ids,
          draft: overview.draftUrl as string,
          address: overview.columns
            .flatMap((c: { pages: { path: string; address: string }[] }) => c.pages)
            .find((p: { path: string }) => p.path === where).address as string,
        };
      },
      { slug: site, where: path },
    );
    expect(
      made.ids.every((id) => /^[a-z0-9]{8,16}$/.test(id)),
      site,
    ).toBe(true);
    for (const width of [1280, 390]) {
      await page.setViewportSize({ width, height: 900 });
      await page.goto(made.draft + made.address);
      await expect(page.getByRole('table').last()).toBeVisible();
      await expect(page.locator('stall-lookup').getByRole('button')).toBeVisible();
      await page.waitForLoadState('networkidle');
      // The page of tables is itself wider than a phone.
      if (width > 400 || site !== 'quillfeather')
        expect(
          await page.evaluate(() => document.documentElement.scrollWidth - innerWidth),
          `${site} at ${width}`,
        ).toBeLessThanOrEqual(0);
      const { violations } = await new AxeBuilder({ page })
        .setLegacyMode(true)
        .include('[placement]')
        .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
        .analyze();
      expect(
        violations.map(
          (v) =>
            `${v.id}: ${v.nodes
              .map((n) => `${n.target.join(' ')} ${n.failureSummary?.split('\n')[1] ?? ''}`)
              .slice(0, 3)
              .join(' | ')}`,
        ),
        `${site} at ${width}`,
      ).toEqual([]);
    }
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(`${office(DEMO)}/${site}/site`);
    await page.evaluate(
      async ({ slug, ids }) => {
        for (const id of ids)
          await fetch(`/api/${slug}/placements/${id}`, {
            method: 'DELETE',
            headers: { 'content-type': 'application/json' },
          });
      },
      { slug: site, ids: made.ids },
    );
  }
});
