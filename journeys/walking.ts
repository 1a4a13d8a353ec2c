import { expect, type Page } from '@playwright/test';
import { appUrl } from './app';

/** A sheet with the keyboard on it. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(`${appUrl()}${path}`);
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
}

/** Types a clause of the scope and takes the first reading of it. */
export async function only(page: Page, words: string, reading: string): Promise<void> {
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: 'Only' })).toBeFocused();
  await page.keyboard.type(words);
  await expect(page.getByRole('listbox').getByRole('option', { selected: true })).toContainText(reading);
  await page.keyboard.press('Enter');
}

/** To a row of the sheet by part of its name. */
export async function to(page: Page, words: string): Promise<void> {
  await page.keyboard.press('f');
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
}

/** Breaks the focused figure down. */
export async function splitBy(page: Page, name: string): Promise<void> {
  await page.keyboard.press('s');
  await expect(page.getByRole('combobox', { name: 'Split by' })).toBeFocused();
  // As far as it takes until it is what would be chosen.
  const selected = page.getByRole('option', { selected: true });
  for (const letter of name) {
    await page.keyboard.type(letter);
    if ((await selected.textContent())?.startsWith(name)) break;
  }
  await expect(page.getByRole('option', { selected: true })).toContainText(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: `Split by ${name.toLowerCase()}` })).toBeVisible();
}
