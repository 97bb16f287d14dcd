import { expect, type Page } from '@playwright/test';
import { Person } from '../support/person';
import { signIn } from '../support/acts';
import { live, office, STRANGE } from '../support/places';
import { type Stranger, zipOfFiles } from './sites';

/** What an owner of a site that is not ours does, through the interface, from nothing. */

export const owner = { email: 'owner@stranger.example', password: 'seven lamps in a row' };

/** The first owner, by the one-time link. */
export async function comeIn(page: Page, welcome: string): Promise<void> {
  await page.goto(welcome);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('Your name').fill('Jo');
  await page.getByLabel('E-mail').fill(owner.email);
  await page.getByLabel('Password').fill(owner.password);
  await page.getByRole('button', { name: 'Open the office' }).click();
  await page.waitForURL(/\/connect/);
}

let cameIn = false;

/** Signed in as the owner of the strangers' installation, whichever test is the first. */
export async function asOwner(page: Page): Promise<void> {
  const welcome = process.env.STALL_E2E_STRANGE ?? '';
  const answer = cameIn ? undefined : await page.request.get(welcome);
  cameIn = true;
  if (answer?.ok()) await comeIn(page, welcome);
  else await signIn(page, STRANGE, owner);
}

/** Connects a site by its ZIP. @returns its short name. */
export async function connect(
  page: Page,
  port: number,
  site: Stranger,
  currency = '',
  liveUrl = '',
): Promise<string> {
  await page.goto(`${office(port)}/connect`);
  await page.waitForSelector('[data-ready]');
  await page
    .getByLabel('The ZIP')
    .setInputFiles({ name: 'site.zip', mimeType: 'application/zip', buffer: zipOfFiles(site.files) });
  if (currency) await page.getByLabel('Prices are in').selectOption(currency);
  if (liveUrl) await page.getByLabel("The site's address now").fill(liveUrl);
  await page.getByRole('button', { name: 'Read the site' }).click();
  await page.waitForURL(/\/([^/]+)\/site$/);
  await page.waitForSelector('[data-ready]');
  return new URL(page.url()).pathname.split('/')[1] ?? '';
}

export interface NewProduct {
  readonly name: string;
  readonly price: string;
  readonly stock?: string;
  /** What it is, as the sheet offers it. */
  readonly kind?: string;
}

/** A product typed into the sheet. */
export async function addProduct(page: Page, port: number, site: string, p: NewProduct): Promise<void> {
  await page.goto(`${office(port)}/${site}/goods`);
  await page.waitForSelector('[data-ready]');
  // Waits for the goods: before they are there no sheet is, and the first that comes may be of another product.
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  if (p.kind) await page.getByLabel('What it is').selectOption({ label: p.kind });
  await page.getByLabel('Name', { exact: true }).fill(p.name);
  await page.getByLabel('Price', { exact: true }).fill(p.price);
  if (p.stock) await page.getByLabel('In stock').fill(p.stock);
  await page.getByRole('button', { name: 'Add to the goods' }).click();
  await expect(
    page
      .getByRole('region', { name: 'Goods' })
      .getByRole('button', { name: new RegExp(p.name) })
      .first(),
  ).toBeVisible();
}

/** "Add selling" with the usual answers, and all of it published. */
export async function sell(page: Page, port: number, site: string): Promise<void> {
  await page.goto(`${office(port)}/${site}/site`);
  await page.waitForSelector('[data-ready]');
  await page.getByRole('button', { name: 'Add selling' }).click();
  await page.getByRole('button', { name: 'Add selling' }).click();
  await page.getByRole('button', { name: /^Publish \d/ }).click();
  await expect(page.getByText(/^Published: /).first()).toBeVisible();
}

/** A shopper with a browser of their own, as far away as people are. */
export async function shopper(page: Page, seed: number): Promise<{ visit: Page; person: Person }> {
  const context = await page.context().browser()?.newContext({ locale: 'en-GB' });
  if (!context) throw new Error('no second browser context');
  const visit = await context.newPage();
  return { visit, person: await new Person(visit, seed).farAway() };
}

/** The address of a file of the live site. */
export const at = (port: number, site: string, path = ''): string => `${live(port, site)}/${path}`;

/** Everything is taken out of the live site again, and the proof is there. */
export async function leave(page: Page, port: number, site: string): Promise<void> {
  await page.goto(`${office(port)}/${site}/site?lens=publishing`);
  await page.waitForSelector('[data-ready]');
  // What comes late above the button moves it: whoever presses waits until it has come.
  await expect(page.getByText('live now')).toBeVisible();
  await expect(page.getByText('Computing every page')).toHaveCount(0);
  await page.getByRole('button', { name: 'Leave\u2026' }).click();
  await page.getByRole('button', { name: 'Take it all out now' }).click();
  await expect(page.getByText('files are byte for byte what you gave')).toBeVisible();
}

/** How many orders a shop has, those that came to nothing among them. */
export async function countOrders(page: Page, port: number, site: string): Promise<number> {
  const answer = await page.request.get(`${office(port)}/api/${site}/orders`);
  const { shelves } = (await answer.json()) as { shelves: { count: number }[] };
  return shelves.reduce((sum, shelf) => sum + shelf.count, 0);
}
