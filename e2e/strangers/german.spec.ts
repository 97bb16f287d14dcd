import { expect, test } from '@playwright/test';
import { office, STRANGE } from '../support/places';
import { addProduct, asOwner, at, connect, leave, sell, shopper } from './acts';
import type { Stranger } from './sites';

const page = (title: string, main: string) => `<!doctype html>
<html lang="de"><head><meta charset="utf-8"><title>${title}</title><link rel="stylesheet" href="stil.css"></head><body>
<table class="kopf"><tr><td><a href="index.html">Korbhof Lind</a></td><td><ul><li><a href="index.html">Start</a></li><li><a href="hof.html">Der Hof</a></li><li><a href="wege.html">Anfahrt</a></li></ul></td></tr></table>
<div id="inhalt"><h1>${title}</h1>${main}</div><div id="fuss">Korbhof Lind, Moorweg 2</div></body></html>`;

const site: Stranger = {
  make: 'tables',
  name: 'korbhof',
  lang: 'de',
  menu: true,
  files: {
    'index.html': page('Körbe vom Hof', '<p>Geflochten im Winter, ab 38 € das Stück.</p>'),
    'hof.html': page('Der Hof', '<p>Drei Felder Weide, zwei Leute und eine Katze.</p>'),
    'wege.html': page('Anfahrt', '<p>Mit dem Rad am Kanal entlang.</p>'),
    'stil.css':
      'body{font:17px Georgia,serif;margin:0 6%}.kopf{width:100%}.kopf li{display:inline;margin:0 8px}',
  },
};

test('what an owner places on a German site speaks German, from the first letter of the page on', async ({
  page: view,
}) => {
  await asOwner(view);
  const slug = await connect(view, STRANGE, site);
  expect(slug).toMatch(/^korbe/);
  await addProduct(view, STRANGE, slug, { name: 'Weidenkorb', price: '38', stock: '4' });
  await sell(view, STRANGE, slug);
  await view.goto(`${office(STRANGE)}/${slug}/bench?page=hof.html`);
  await expect(view.locator('.plus').first()).toBeVisible();
  await view.keyboard.press(']');
  await view.keyboard.press('Enter');
  await expect(view.getByRole('button', { name: /^Buy button/ }).first()).toBeFocused();
  await view.keyboard.press('Enter');
  await expect(view.getByRole('region', { name: 'Buy button: settings' })).toBeVisible();
  await view.getByRole('button', { name: /^Publish \d/ }).click();
  await expect(view.getByText(/^Published: /).first()).toBeVisible();

  const { visit } = await shopper(view, 5);
  // As it is written, for those whose script never runs.
  const answer = await visit.goto(at(STRANGE, slug, 'hof.html'));
  const written = (await answer?.text()) ?? '';
  expect(written).toMatch(/<stall-buy[^>]*><a [^>]*>Kaufen: Weidenkorb<\/a>/);
  expect(written).not.toMatch(/>(Cart|Buy: |See all|Your orders|Search the shop)/);
  // And as it stands, with the price in the currency that stood on the pages.
  await expect(visit.getByRole('button', { name: /Kaufen: Weidenkorb · 38,00\s€/ })).toBeVisible();
  await expect(visit.getByRole('link', { name: /^Korb, 0/ })).toBeVisible();
  await leave(view, STRANGE, slug);
});
