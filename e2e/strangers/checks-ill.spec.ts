import { type Dialog, expect, test } from '@playwright/test';
import { expectAccessible } from '../support/acts';
import { office, STRANGE } from '../support/places';
import { addProduct, asOwner, at, connect, sell, shopper } from './acts';
import { type Stranger, stranger } from './sites';

/** Names that files may have on somebody's computer, and what a page with such a name is called. */
const names = {
  'index.html': 'Home',
  '\u00fcber uns.html': '\u00dcber uns',
  '100% wool.html': 'All wool',
  'a#b?c.html': 'Letters',
  'o\u2019neill & s\u00f6hne.html': 'O\u2019Neill & S\u00f6hne',
  '<img src=x onerror=alert(1)>.html': '<img src=x onerror=alert(2)>',
} as const;

const text = (s: string) => s.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

function withStrangeNames(): Stranger {
  const links = Object.entries(names)
    .map(([file, name]) => `<li><a href="${encodeURIComponent(file)}">${text(name)}</a></li>`)
    .join('');
  const page = (name: string) =>
    `<!doctype html><html lang="en-GB"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${text(name)}</title></head><body><header><nav><ul>${links}</ul></nav></header><main><h1>${text(name)}</h1><p>Of ${text(name)} there is a lot to tell.</p></main><footer>By the weir</footer></body></html>`;
  return {
    ...stranger('ten pixels', 51),
    files: Object.fromEntries(Object.entries(names).map(([file, name]) => [file, page(name)])),
  };
}

test('files of any name are checked, shown and bought from, and nobody’s words are taken for code', async ({
  page,
}) => {
  const alarms: string[] = [];
  const hear = (d: Dialog) => {
    alarms.push(d.message());
    void d.dismiss();
  };
  page.context().on('dialog', hear);
  await asOwner(page);
  const site = await connect(page, STRANGE, withStrangeNames(), 'GBP');
  await addProduct(page, STRANGE, site, { name: 'Weir stone', price: '12', stock: '4' });
  await sell(page, STRANGE, site);
  await page.goto(`${office(STRANGE)}/${site}/checks`);
  await expect(page.getByRole('heading', { name: /shortest ways/ })).toBeVisible();
  await expect(page.getByText(/leads? nowhere/)).toHaveCount(0);
  await expectAccessible(page, 'checks of files with strange names');

  // What a page says of itself comes from the owner's page, or from whoever got a script into it.
  const answers = await page.evaluate(async (slug) => {
    const send = async (method: string, path: string, body: unknown) => {
      const headers = { 'content-type': 'application/json' };
      return (await fetch(`/api/${slug}/${path}`, { method, headers, body: JSON.stringify(body) })).status;
    };
    const { toSee } = await (await fetch(`/api/${slug}/checks`)).json();
    const widget = {
      ...{ placement: 'nobody0001', kind: 'cart', x: 1, y: 1, width: 90, height: 40, column: 900 },
      ...{ coveredBy: '<img src=x onerror=alert(3)>', smallTargets: 0, grows: 0, hides: 0, shifted: 0 },
    };
    const seen = (more: object) => ({
      ...{ path: toSee[0]?.path ?? 'index.html', version: toSee[0]?.version ?? '', fontsMissing: [] },
      at: [
        {
          ...{ width: 1280, pageWidth: 1280, menuRows: 1, menuRowsBefore: 1, menuCut: false },
          ...{ menuCutBefore: false, menuColours: [], widgets: [{ ...widget, ...more }] },
        },
      ],
    });
    return {
      honest: await send('PUT', 'checks/seen', [seen({})]),
      tooLong: await send('PUT', 'checks/seen', [seen({ coveredBy: 'x'.repeat(5000) })]),
      tooMany: await send('PUT', 'checks/seen', [seen({ spots: Array(5000).fill({ n: 1 }) })]),
      nobodysCart: await send('POST', 'selling/cart', { placement: 'nobody0001', page: 'index.html', n: 0 }),
      elsewhere: await send('POST', 'selling/cart', {
        placement: 'x',
        page: '../../etc/passwd',
        n: 'corner',
      }),
      noNumber: await send('POST', 'selling/cart', { placement: 'x', page: 'index.html', n: -3 }),
    };
  }, site);
  expect(answers).toEqual({
    honest: 200,
    tooLong: 422,
    tooMany: 422,
    nobodysCart: 409,
    elsewhere: 409,
    noNumber: 422,
  });

  const { visit, person } = await shopper(page, 51);
  visit.on('dialog', hear);
  const denied = await visit.request.post(`${office(STRANGE)}/api/${site}/selling/cart`, {
    data: { placement: 'x', page: 'index.html', n: 'corner' },
  });
  expect([401, 403]).toContain(denied.status());
  await visit.setViewportSize({ width: 390, height: 844 });
  for (const file of Object.keys(names)) {
    await visit.goto(at(STRANGE, site, encodeURIComponent(file)));
    await expect(visit.getByRole('link', { name: /^Cart|, 0 / }).first(), file).toBeVisible();
    expect(await visit.evaluate(() => document.documentElement.scrollWidth), file).toBeLessThanOrEqual(390);
  }
  await person.press(visit.getByRole('link', { name: 'Shop', exact: true }));
  await person.press(visit.getByRole('button', { name: /Weir stone/ }).last());
  await expect(visit.getByRole('link', { name: /, 1 / }).first()).toBeVisible();
  await visit.context().close();
  await page.reload();
  await expect(page.getByRole('heading', { name: /shortest ways/ })).toBeVisible();
  expect(alarms).toEqual([]);
});
