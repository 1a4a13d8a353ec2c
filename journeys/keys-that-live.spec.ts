import { expect, type Page, test } from '@playwright/test';
import { appUrl, crosstabPath, signIn } from './app';

// After whatever was done something sensible has the keyboard, and a choice of rows begins where one is.

const focused = (page: Page) => page.locator('[role=gridcell]:focus');
const rowOf = async (page: Page): Promise<number> =>
  Number((await focused(page).getAttribute('data-cell'))?.split(':')[0]);

test('rows are chosen from the one that was found, and what is left after narrowing has the keyboard', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06&tree=no`);
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('f');
  await page.keyboard.type('marine diesel in');
  await page.keyboard.press('Enter');
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('2 rows chosen.')).toBeVisible();
  // Only these: far fewer rows than the number of the one that had the focus.
  await page.keyboard.press('e');
  await expect(page.getByText('2 accounts, in GBP', { exact: true })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('ArrowUp');
  expect(await rowOf(page)).toBe(0);
});

test('deep in a ledger the row that was left has the keyboard again', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/lines?entity=KSF&accounts=1510&from=2027.06&to=2027.06`);
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  for (let i = 0; i < 12; i++) await page.keyboard.press('PageDown');
  const row = await rowOf(page);
  expect(row).toBeGreaterThan(230);
  await expect(focused(page)).not.toHaveText('…');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /^Entry/ })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  expect(await rowOf(page)).toBe(row);
});

test('a clause typed from the sheet leaves the keyboard on it, and the sheets above as they were', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06&tree=no`);
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('f');
  await page.keyboard.type('suppliers');
  await page.keyboard.press('Enter');
  await expect(focused(page)).toBeVisible();
  const above = await page.getByText(/^\d+ accounts, in GBP$/).textContent();
  await page.keyboard.press('s');
  await page.getByRole('combobox', { name: 'Split by' }).fill('Counterparty');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Split by counterparty' })).toBeVisible();
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('combobox', { name: 'Only' })).toBeFocused();
  await page.keyboard.type('over 5000');
  await page.keyboard.press('Enter');
  await expect(page.getByText('from here on only amounts of 5000.00 and over')).toBeVisible();
  await expect(focused(page)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(page.getByTestId('scope')).toContainText('amounts of 5000.00 and over');
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('grid', { name: 'Split by counterparty' })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page.getByText(above as string, { exact: true })).toBeVisible();
  await expect(page.getByTestId('scope')).not.toContainText('amounts of');
  await expect(focused(page)).toBeVisible();
});

test('what is written in a panel over the sheet stays there when the sheet comes late', async ({ page }) => {
  await signIn(page, 'tomas');
  const late = (pattern: string, ms: number): Promise<unknown> =>
    page.route(pattern, async (route) => {
      await new Promise((done) => setTimeout(done, ms));
      await route.continue();
    });
  await late('**/api/v1/answers', 3_000);
  await late('**/api/v1/scopes', 6_000);
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06`);
  await page.getByRole('button', { name: 'Kept', exact: true }).click();
  await page.getByLabel('Keep this sentence as').fill('Late to come');
  // The button that is pressed cannot be pressed again while it works, and the keyboard is nowhere.
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await expect(page.getByRole('link', { name: /Late to come/ })).toBeVisible();
});

test('the cell that has the keyboard is in sight, however wide the sheet is and narrow the window', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 800 });
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}${crosstabPath('entity=KSF&from=2026.01&to=2026.12')}`);
  const focused = page.locator('[role=gridcell][tabindex="0"]');
  await expect(page.getByRole('grid', { name: 'Split by vessel' })).toBeVisible();
  await expect(focused).toBeFocused();
  for (const key of ['Home', 'End', 'Home', 'End']) {
    await page.keyboard.press(key);
    await expect(focused).toHaveAttribute('aria-colindex', key === 'Home' ? '1' : '14');
    await expect(focused).toBeInViewport({ ratio: 0.99 });
  }
  // A margin that opens takes room from the sheet, not the figure out of sight.
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06`);
  await expect(focused).toBeFocused();
  await page.keyboard.press('n');
  await page.keyboard.type('In sight');
  await expect(focused).toBeInViewport({ ratio: 0.99 });
  await page.keyboard.press('Escape');
});
