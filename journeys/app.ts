import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Page } from '@playwright/test';

/** Where the application of the journeys listens, and how one signs in to its demo world. */
export const URL_FILE = '.test/url';
export const appUrl = (): string => readFileSync(URL_FILE, 'utf8');
const PASSWORD = 'harrowick-quay';

export async function signIn(page: Page, who: 'ines' | 'tomas' | 'priya' | 'col'): Promise<void> {
  await page.goto(`${appUrl()}/sign-in`);
  await page.getByLabel('E-mail').fill(`${who}@kestrel.example`);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
}

/** A file for uploading. */
export function fileOf(name: string, rows: string[]): string {
  if (!existsSync('.test')) mkdirSync('.test');
  const path = join('.test', name);
  writeFileSync(path, `${rows.join('\n')}\n`);
  return path;
}
