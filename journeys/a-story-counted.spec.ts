import { expect, type Page, test } from '@playwright/test';
import { accessible, appUrl, choose, signIn } from './app';
import { counting, underAMinute } from './effort';
import { only, open, splitBy, to } from './walking';

// The stories of the demo world that no other journey walks, by keyboard where a sheet is walked. What they find is held
// against the ledger in cases/stories.test.ts; here it is what finding it asks of a person.

const scope = (page: Page) => page.getByTestId('scope');
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

test('story 5: what stands in suspense was posted by one cashier, in small round amounts', async ({ page }) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/trial-balance?entity=STL&window=everything&tree=no');
  await to(page, 'suspense');
  // Its lines are beside the sheet, and follow along.
  await page.keyboard.press('b');
  const beside = page.getByRole('complementary', { name: 'Lines beside' });
  await expect(beside).toContainText('7 lines');
  await expect(beside).toContainText('ties to its last line');
  await accessible(page);
  await page.keyboard.press('ArrowUp');
  await expect(beside).not.toContainText('7 lines');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('b');
  await expect(beside).toBeHidden();
  await splitBy(page, 'Posted by');
  await expect(page.getByRole('row', { name: /cashier07/ })).toBeVisible();
  await expect(page.getByText('✓ ties').last()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(page.getByText('7 lines')).toBeVisible();
  // All seven chosen: what they come to is in the last line.
  for (let i = 0; i < 7; i++) await page.keyboard.press(i === 0 ? 'ArrowDown' : 'Shift+ArrowDown');
  await expect(page.getByText('7 rows chosen.')).toBeVisible();
  await accessible(page);
  await underAMinute(page);
});

test('story 8: intercompany dues that do not cancel, from the group’s statement to the month of each side', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/statements?entity=KSF&entity=STL&from=2027.01&to=2027.01&eliminated=yes');
  await expect(page.getByRole('row', { name: /Intercompany that does not cancel/ })).toContainText('149,300.00');
  await to(page, 'does not cancel');
  await splitBy(page, 'Company');
  await expect(page.getByRole('row', { name: /Kestrel Sound Ferries/ })).toBeVisible();
  await to(page, 'Kestrel');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await only(page, 'HD-2026-03', 'HD-2026-03');
  await expect(scope(page)).toContainText('document HD-2026-03');
  await expect(page.getByRole('grid', { name: 'Lines' })).toContainText('HD-2026-03');
  await underAMinute(page);
});

test('story 12: pay steps up in one cost centre, with as many people at a higher rate', async ({ page }) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/trial-balance?entity=KSF&from=2027.02&to=2027.02&tree=no');
  await to(page, 'Shore crew pay');
  // The debits of the month, not the year's balance.
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('w');
  await choose(page, 'against', 'window-before');
  const moved = page.getByRole('region', { name: 'What moved' });
  await expect(moved).toContainText('4,276.89');
  await moved.getByRole('button', { name: /Cost centre/ }).click();
  await expect(moved).toContainText('Operations');
  await accessible(page);
  await open(page, '/lines?entity=KSF&accounts=7110&from=2027.01&to=2027.02&dim.costcentre=SH-HAR');
  await page.getByRole('button', { name: /Arrange/ }).click();
  for (const name of ['Quantity', 'Unit price']) {
    await page.getByRole('checkbox', { name }).click();
    await expect(page.getByRole('checkbox', { name })).toBeChecked();
  }
  await accessible(page);
  await page.keyboard.press('Escape');
  // As many people in both months; what each is paid is 11 % more.
  const prices = await page.getByRole('row').filter({ hasText: 'PY-KSF' }).allInnerTexts();
  const read = prices.map((text) => /(\d+) people\s+([\d,.]+)/.exec(text.replaceAll('\n', ' ')) ?? []);
  expect(read.map((r) => r[1])).toEqual([read[0]?.[1], read[0]?.[1]]);
  const [before, after] = read.map((r) => Number(r[2]?.replaceAll(',', '')));
  expect((after as number) / (before as number)).toBeCloseTo(1.11, 3);
  await page.getByRole('button', { name: /Arrange/ }).click();
  await page.getByRole('button', { name: 'As it comes' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Unit price' })).toBeHidden();
  await underAMinute(page);
});

test('story 13: one route earned little in one week; the days show a storm, not an error', async ({ page }) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/trial-balance?entity=KSF&from=2026-01-26&to=2026-03-01&tree=no&accounts=41*');
  for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowDown');
  await splitBy(page, 'Route');
  await choose(page, 'across', 'week');
  const skarvoy = page.getByRole('row', { name: /Harrowick–Skarvoy/ });
  await expect(skarvoy).toContainText('(2,342.09)');
  // Where a choice of the sentence still has the keyboard, a letter is a key of the sheet and chooses nothing there.
  await page.getByLabel('across').focus();
  await to(page, 'Harrowick–Skarvoy');
  // The week's own cell, four columns in, is what is traced.
  await page.keyboard.press('Home');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByRole('grid', { name: 'Lines by entry' })).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByRole('grid', { name: 'Lines by day' })).toBeVisible();
  await expect(page.getByRole('row', { name: /9 Feb 2026/ })).toBeVisible();
  await expect(page.getByText('1 day,')).toBeVisible();
  await accessible(page);
  await underAMinute(page);
});

test('story 4: fuel that looks fine in total is on a vessel that did not sail', async ({ page }) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/trial-balance?entity=KSF&from=2026-07-06&to=2026-07-12&tree=no');
  await only(page, '6210', 'account 6210');
  await expect(scope(page)).toContainText('only account 6210');
  await splitBy(page, 'Vessel');
  await to(page, 'Fleet');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('row', { name: /Maren/ })).toBeVisible();
  await to(page, 'Maren');
  await page.keyboard.press('Enter');
  await expect(cell(page, 'PI-KSF-90702')).toBeVisible();
  await accessible(page);
  // The same vessel and week, fares instead of fuel: there is nothing, and the screen says so.
  await open(page, '/trial-balance?entity=KSF&from=2026-07-06&to=2026-07-12&tree=no&zero=moved&accounts=41*');
  await only(page, 'maren', 'vessel Maren');
  await expect(page.getByText('Nothing here')).toBeVisible();
  await underAMinute(page);
});
