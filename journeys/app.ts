import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Where the application of the journeys listens, and how one signs in to its demo world. */
export const URL_FILE = '.test/url';
/** Where letters are caught. */
export const MAIL_FILE = '.test/mail';
export const mailUrl = (): string => readFileSync(MAIL_FILE, 'utf8');
export const appUrl = (): string => readFileSync(URL_FILE, 'utf8');
const PASSWORD = 'harrowick-quay';

/** Signs in without the page for it, which a journey of its own walks (people.spec.ts). */
export async function signIn(page: Page, who: 'ines' | 'tomas' | 'priya' | 'col'): Promise<void> {
  const data = { email: `${who}@kestrel.example`, password: PASSWORD };
  const answer = await page.request.post(`${appUrl()}/api/v1/session`, { data, headers: { origin: appUrl() } });
  expect(answer.ok(), await answer.text()).toBe(true);
  await page.goto(`${appUrl()}/trial-balance`);
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
}

/** A file for uploading. */
export function fileOf(name: string, rows: string[] | Buffer): string {
  if (!existsSync('.test')) mkdirSync('.test');
  const path = join('.test', name);
  writeFileSync(path, Buffer.isBuffer(rows) ? rows : `${rows.join('\n')}\n`);
  return path;
}

/** Views that were looked at in this run: a place with what is open on it. */
const lookedAt = new Set<string>();

/** axe finds nothing serious (WCAG 2.2 A and AA). A view that was looked at before is not looked at again. */
export async function accessible(page: Page): Promise<void> {
  const view = await page.evaluate(() =>
    [
      location.pathname.replace(/\d+/g, ''),
      new URLSearchParams(location.search).getAll('step').length,
      ...[
        ...document.querySelectorAll(
          '[role=dialog], [role=grid], [role=listbox], [role=region], section, aside, table, form',
        ),
      ].map(
        (part) => `${part.tagName} ${part.getAttribute('aria-label') ?? part.getAttribute('aria-labelledby') ?? ''}`,
      ),
    ]
      .join('\n')
      .replace(/\d[\d.,]*/g, ''),
  );
  if (lookedAt.has(view)) return;
  lookedAt.add(view);
  // What comes or goes is half there: its colours are not yet, or no longer, what they are.
  await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'));
  // Everything is looked at; only what is wrong is handed over, which takes a third of the time.
  const { violations } = await new AxeBuilder({ page })
    .setLegacyMode(true)
    .options({ resultTypes: ['violations'] })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  const serious = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical');
  expect(
    serious.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 4)
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

/** Chooses one of several by its value, or by what it is called. */
export async function choose(page: Page, label: string, wanted: string | { label: string }): Promise<void> {
  await page.getByLabel(label).click();
  await (typeof wanted === 'string'
    ? page.locator(`[role=option][data-value="${wanted}"]`)
    : page.getByRole('option', { name: wanted.label, exact: true })
  ).click();
  await expect(page.getByRole('listbox')).toBeHidden();
}

/** Shows the sheet in one of the ways behind the last word of its second sentence. */
export async function showIt(page: Page, way: string): Promise<void> {
  await page.getByRole('button', { name: 'All ways to show it' }).click();
  await page.getByRole('radio', { name: way, exact: true }).click();
  await expect(page.getByRole('radio')).toHaveCount(0);
}

/** The repairs of a company by vessel across periods, as an address has it: a sheet with more columns than a window. */
export function crosstabPath(scope: string): string {
  const step = { '~v': 'split', '~l': 'Repairs', '~r': '6310', '~c': 'closing', '~b': 'dim:vessel', '~x': 'period' };
  const asked = new URLSearchParams({ ...step, accounts: '6310' });
  return `/trial-balance?${scope}&step=${encodeURIComponent(asked.toString())}`;
}
