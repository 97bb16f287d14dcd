import { expect, test } from '@playwright/test';
import { signIn } from './support/acts';
import { DEMO, office } from './support/places';

test('what is looked for can be opened by Enter, also where it comes after it was typed', async ({
  page,
}) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/till`);
  await page.waitForSelector('[data-ready]');
  // Goods come two seconds after they are asked for, and pages, which fit better, a second after goods.
  await page.route(/\/api\/[^/]+\/(overview|goods)$/, async (route) => {
    const goods = route.request().url().endsWith('goods');
    await new Promise((soon) => setTimeout(soon, goods ? 2_000 : 3_000));
    await route.continue();
  });
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).pressSequentially('workshops', { delay: 70 });
  await expect(page.getByRole('option', { name: /^Workshops/ })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await page.waitForURL(/bench\?page=workshops/);
});

test('placing, settings, undo and publishing need no pointer', async ({ page }) => {
  await signIn(page, DEMO);
  await page.keyboard.press('Alt+2');
  await page.waitForURL(/\/goods/);
  await page.waitForSelector('.gsheet');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('workshops');
  await expect(page.getByRole('option', { name: /^Workshops/ })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await page.waitForURL(/bench\?page=workshops/);
  await expect(page.locator('.plus').first()).toBeVisible();
  await expect(page.getByText('1 widget on this page')).toBeVisible();
  for (let i = 0; i < 8; i++) await page.keyboard.press(']');
  await page.keyboard.press('[');
  await expect(page.getByText(/^Press one to place it/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Buy button/ }).first()).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Buy button: settings' })).toBeVisible();
  await expect(page.getByText('2 widgets on this page')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('1 widget on this page')).toBeVisible();
  await page.keyboard.press('Control+Shift+Z');
  await expect(page.getByText('2 widgets on this page')).toBeVisible();
  await page.keyboard.press('w');
  await expect(page.getByRole('button', { name: /Phone/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+z');
  await expect(page.getByText('1 widget on this page')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+1');
  await page.waitForURL(/\/site$/);
});

test('a half-filled product is kept when the page is left', async ({ page }) => {
  await signIn(page, DEMO);
  await page.goto(`${office(DEMO)}/withybed/goods?id=new`);
  await page.getByLabel('Name', { exact: true }).fill('Kindling creel');
  await page.getByLabel('Price', { exact: true }).fill('31');
  await page.goto(`${office(DEMO)}/withybed/orders`);
  await expect(page.getByRole('region', { name: /^Order \d+/ })).toBeVisible();
  await page.goto(`${office(DEMO)}/withybed/goods?id=new`);
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Kindling creel');
  await expect(page.getByLabel('Price', { exact: true })).toHaveValue('31');
});
