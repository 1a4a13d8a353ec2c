import { expect, type Page, test } from '@playwright/test';
import { appUrl, signIn } from './app';
import { counting, underAMinute } from './effort';
import { only, open, splitBy, to } from './walking';

// The stories of the demo world that no other journey walks, by keyboard where a sheet is walked. What they find is held
// against the ledger in cases/stories.test.ts; here it is what finding it asks of a person.

const cell = (page: Page, name: string | RegExp) => page.getByRole('gridcell', { name }).first();
const row = (page: Page, name: string | RegExp) => page.getByRole('row', { name }).first();
const lines = (page: Page) => expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();

async function begin(page: Page, path: string): Promise<void> {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, path);
}

test('story 2: a quarter of a grant stands in the unrestricted fund', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF&from=2027.01&to=2027.03&tree=no');
  await to(page, 'Lifeline grant');
  await splitBy(page, 'Fund');
  await to(page, 'Unrestricted');
  await page.keyboard.press('Enter');
  await lines(page);
  await underAMinute(page);
});

test('story 3: the insurance prepaid has a credit balance, after a thirteenth release', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF&to=2027.06&tree=no');
  await to(page, 'Insurance prepaid');
  await expect(row(page, /Insurance prepaid/)).toContainText('(156,000.00)');
  await page.keyboard.press('Enter');
  await lines(page);
  await expect(cell(page, 'JE-KSF-90110')).toBeVisible();
  await underAMinute(page);
});

test('stories 6 and 7: a weekend entry reversed in the next period; an invoice dated a year ahead', async ({
  page,
}) => {
  await begin(page, '/trial-balance?entity=KSF&from=2027.05&to=2027.06&tree=no');
  await to(page, 'Charter income');
  await page.keyboard.press('Enter');
  await lines(page);
  await only(page, 'rquill', 'rquill');
  await expect(cell(page, 'JE-KSF-90606')).toBeVisible();
  await expect(cell(page, 'JE-KSF-90607')).toBeVisible();
  await open(page, '/trial-balance?entity=KSF&from=2027.03&to=2027.03&tree=no');
  await to(page, 'Repairs and spares');
  await page.keyboard.press('Enter');
  await lines(page);
  await page.keyboard.press('Control+End');
  await expect(row(page, /11 Jun 2027/)).toBeVisible();
  await underAMinute(page);
});

test('story 9: the accrual for winter lay-up was not reversed, so the cost counts twice', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF&from=2026.12&to=2027.01&tree=no');
  await to(page, '2192');
  await page.keyboard.press('Enter');
  await lines(page);
  await expect(cell(page, 'JE-KSF-90904')).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await to(page, '6350');
  await page.keyboard.press('Enter');
  await expect(cell(page, 'JE-KSF-90904')).toBeVisible();
  await expect(cell(page, 'PI-KSF-90905')).toBeVisible();
  await underAMinute(page);
});

test('story 10: one of three charters has its tax in the income', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF&from=2027.04&to=2027.06&tree=no');
  await to(page, 'Charter income');
  await splitBy(page, 'Tax code');
  await to(page, '(none)');
  await page.keyboard.press('Enter');
  await lines(page);
  await expect(cell(page, 'FI-CH-0062')).toBeVisible();
  await expect(cell(page, 'FI-CH-0061')).toBeHidden();
  await underAMinute(page);
});

test('stories 11 and 14: a lost number in a series of documents, and what a second load changed', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF');
  await page.goto(`${appUrl()}/loads?load=5`);
  await page.getByRole('button', { name: 'show the series' }).click();
  await expect(page.getByText(/FI-00871/).first()).toBeVisible();
  await page.goto(`${appUrl()}/loads?load=7`);
  await page.getByRole('link', { name: 'What it changed' }).click();
  await expect(page.getByText('40', { exact: true }).first()).toBeVisible();
  await underAMinute(page);
});

test('story 15: one line on an account that had slept for years', async ({ page }) => {
  await begin(page, '/trial-balance?entity=KSF&tree=no');
  await to(page, 'Old ticket vouchers');
  await page.keyboard.press('Enter');
  await lines(page);
  await expect(cell(page, 'JE-KSF-90515')).toBeVisible();
  await underAMinute(page);
});
