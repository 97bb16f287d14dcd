import { createHash } from 'node:crypto';
import { request } from 'node:http';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';
import { AxeBuilder } from '@axe-core/playwright';
import { zipSync } from 'fflate';
import { DEMO, demoOwner, office } from './places';

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A ZIP of a folder, as an owner would pack it: with the folder itself in it. */
export function zipOf(folder: string, extra: Record<string, Uint8Array> = {}): Buffer {
  const files: Record<string, Uint8Array> = { ...extra };
  for (const name of readdirSync(folder, { recursive: true }) as string[]) {
    if (statSync(join(folder, name)).isFile()) files[`my-site/${name}`] = readFileSync(join(folder, name));
  }
  return Buffer.from(zipSync(files));
}

/** The bytes a host serves; Node does not resolve *.localhost by itself. */
export function bytesAt(url: string): Promise<{ status: number; body: Buffer }> {
  const to = new URL(url);
  return new Promise((resolve, reject) => {
    request(
      { host: '127.0.0.1', port: to.port, path: to.pathname + to.search, headers: { host: to.host } },
      (res) => {
        const chunks: Buffer[] = [];
        res.on('data', (c: Buffer) => chunks.push(c));
        res.on('end', () => resolve({ status: res.statusCode ?? 0, body: Buffer.concat(chunks) }));
      },
    )
      .on('error', reject)
      .end();
  });
}

type Cookies = Awaited<ReturnType<ReturnType<Page['context']>['cookies']>>;
const signedIn = new Map<string, Cookies>();

/**
 * Signs in: the first time as people do; later with the session of then, since the office takes only so many sign-ins from one
 * address in a row. Where that session was ended, as people do again.
 */
export async function signIn(
  page: Page,
  port: number,
  owner: { email: string; password: string } = demoOwner,
): Promise<void> {
  const key = `${port} ${owner.email}`;
  const known = signedIn.get(key);
  if (known) {
    await page.context().addCookies(known);
    await page.goto(office(port));
    if (!page.url().includes('/sign-in')) {
      await page.waitForURL(/\/site$|\/connect$/);
      await page.waitForSelector('[data-ready]');
      return;
    }
  }
  await page.goto(`${office(port)}/sign-in`);
  await page.waitForSelector('[data-ready]');
  await page.getByLabel('E-mail').fill(owner.email);
  await page.getByLabel('Password').fill(owner.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(/\/site$|\/connect$/);
  await page.waitForSelector('[data-ready]');
  signedIn.set(key, await page.context().cookies(office(port)));
}

/** Letters to an address, newest first, as the stand-in mailbox kept them. */
export async function lettersTo(address: string, port = DEMO): Promise<string[]> {
  const { body } = await bytesAt(`http://mailbox.localhost:${port + 5}/letters.json`);
  return (JSON.parse(body.toString()) as { to: string; text: string }[])
    .filter((l) => l.to.includes(address))
    .map((l) => l.text);
}

export const linkIn = ([letter = '']: readonly string[]): string => /https?:\/\/\S+/.exec(letter)?.[0] ?? '';

export const buyer = {
  email: 'ada@penhallow.example',
  name: 'Ada Penhallow',
  street: '4 Weir Lane',
  town: 'Osierham',
  postcode: 'WB4 2TR',
  country: 'United Kingdom',
} as const;

export async function fillAddress(page: Page): Promise<void> {
  await page.getByLabel('E-mail').fill(buyer.email);
  await page.getByLabel('Name', { exact: true }).fill(buyer.name);
  // What is not sent asks for no street, and for a country where tax depends on it.
  const country = page.getByLabel('Country');
  if (await country.count()) await country.selectOption({ label: buyer.country });
  for (const [label, text] of [
    ['Street and number', buyer.street],
    ['Town', buyer.town],
    ['Postcode', buyer.postcode],
  ] as const) {
    const field = page.getByLabel(label);
    if (await field.count()) await field.fill(text);
  }
  for (const box of await page.getByRole('checkbox', { name: /^I have read it/ }).all()) await box.check();
}

export async function payWith(page: Page, number: string): Promise<void> {
  await page.waitForURL(/cards\.localhost/);
  await page.getByLabel('Card number').fill(number);
  await page.getByRole('button', { name: /^Pay/ }).click();
}

/**
 * WCAG 2.2 A and AA by axe; frames of other origins are looked at on their own pages. What comes or goes meanwhile does so
 * at once: a message that is half gone has half its contrast.
 */
export async function expectAccessible(page: Page, what: string): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.evaluate(() => {
    const isEndless = (a: Animation) =>
      a.playbackRate <= 0 || a.effect?.getComputedTiming().endTime === Number.POSITIVE_INFINITY;
    for (const one of document.getAnimations()) if (!isEndless(one)) one.finish();
  });
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode(true)
    // What is right needs no telling, which takes as long as finding what is wrong.
    .options({ resultTypes: ['violations'] })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  await page.emulateMedia({ reducedMotion: null });
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => `${n.target.join(' ')} ${n.failureSummary?.split('\n')[1] ?? ''}`)
          .slice(0, 4)
          .join(' | ')}`,
    ),
    what,
  ).toEqual([]);
}
