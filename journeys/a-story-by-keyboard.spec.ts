import { expect, type Page, test } from '@playwright/test';
import { accessible, appUrl, showIt, signIn } from './app';
import { counting, underAMinute } from './effort';
import { open, to } from './walking';

// Stories of the demo world from a first sheet to the lines, by keyboard alone, as docs/guide.md tells them.

const scope = (page: Page) => page.getByTestId('scope');
const cell = (page: Page, name: string | RegExp) => page.getByRole('gridcell', { name }).first();

test('a budget is written, pasted, undone and kept, and stands beside the actual', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/statements/budgets?entity=STL&year=2027`);
  await page.getByRole('button', { name: /New version/ }).click();
  await page.getByLabel(/Name of the version/).fill('Autumn plan');
  await page.getByRole('button', { name: 'Begin' }).click();
  const grid = page.getByRole('grid', { name: 'Budget Autumn plan, 2027' });
  await expect(grid).toBeVisible();
  await accessible(page);
  const first = grid
    .getByRole('row')
    .filter({ hasText: /^\d{4}/ })
    .first();
  await first.getByRole('gridcell').nth(1).click();
  await page.evaluate(() => navigator.clipboard.writeText('1,000\t2,000.50\n30\tn/a'));
  await page.keyboard.press('Control+v');
  await expect(page.getByText(/3 cells taken; 1 not: “n\/a”/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep 3 changes' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled();
  await page.keyboard.press('Control+y');
  // A year's amount spreads over the periods of its row.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('End');
  await page.keyboard.type('1200');
  await page.keyboard.press('Enter');
  // What was written outlives the page that was lost.
  page.on('dialog', (dialog) => dialog.accept());
  await page.reload();
  await page.getByRole('button', { name: 'Keep 15 changes' }).click();
  await expect(page.getByText(/Kept as load/)).toBeVisible();
  await expect(page.getByText(/last changed by Tomas Ek/)).toBeVisible();
  await page.goto(
    `${appUrl()}/statements?entity=STL&from=2027.01&to=2027.06&columns=budget:Autumn plan,variance:Autumn plan&open=all`,
  );
  await expect(page.getByRole('columnheader', { name: 'Budget Autumn plan', exact: true })).toBeVisible();
  await expect(page.getByRole('grid')).toContainText('3,000.50');
});

test('a sentence is kept by name, shared, and opens its place; columns and kept sentences are each one’s own', async ({
  page,
  browser,
}) => {
  await signIn(page, 'priya');
  await open(page, '/trial-balance?entity=KSF&window=year-to-date&accounts=63*&zero=moved');
  await page.getByRole('button', { name: 'Kept', exact: true }).click();
  await page.getByLabel('Keep this sentence as').fill('Upkeep, year to date');
  await page.getByLabel('in the folder').fill('Month end');
  await page.getByLabel('this place opens with it').check();
  await page.getByLabel('share it').check();
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: '✓ opens its place' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Month end' })).toBeVisible();
  // Under a name that is taken it is asked first, and what it replaces keeps its folder and its place.
  await page.getByLabel('Keep this sentence as').fill('Upkeep, year to date');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('you have a sentence called “Upkeep, year to date”')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Keep in its place' }).click();
  await expect(page.getByRole('button', { name: 'Keep in its place' })).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Month end' })).toBeVisible();
  await expect(page.getByRole('button', { name: '✓ opens its place' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.goto(`${appUrl()}/trial-balance`);
  await expect(scope(page)).toContainText('only accounts 63*');
  await expect(page).toHaveURL(/window=year-to-date/);
  const other = await browser.newContext();
  const colleague = await other.newPage();
  await signIn(colleague, 'tomas');
  await expect(scope(colleague)).not.toContainText('63*');
  await colleague.getByRole('button', { name: 'Kept', exact: true }).click();
  await colleague.getByRole('link', { name: /Upkeep, year to date/ }).click();
  await expect(scope(colleague)).toContainText('only accounts 63*');
  // Broken down and kept with that, at hand among the places from now on; another's sentence as well.
  await colleague.getByRole('gridcell', { name: /6310\s*Repairs and spares/ }).click();
  await colleague.keyboard.press('s');
  await colleague.getByRole('combobox', { name: 'Split by' }).fill('Vessel');
  await colleague.keyboard.press('Enter');
  await expect(colleague.getByRole('grid', { name: 'Split by vessel' })).toBeVisible();
  await colleague.getByRole('button', { name: 'Kept', exact: true }).click();
  await colleague.getByLabel('Keep this sentence as').fill('Repairs by vessel');
  await colleague.getByRole('button', { name: 'Keep', exact: true }).click();
  for (const name of ['Repairs by vessel', 'Upkeep, year to date']) {
    await colleague
      .getByRole('listitem')
      .filter({ hasText: name })
      .getByRole('button', { name: 'keep at hand' })
      .click();
    await expect(colleague.getByRole('navigation', { name: 'Places' }).getByRole('link', { name })).toBeVisible();
  }
  await colleague.getByRole('button', { name: 'change', exact: true }).click();
  await colleague.getByLabel('Name', { exact: true }).fill('Repairs, each vessel');
  await colleague.getByRole('button', { name: 'Change', exact: true }).click();
  await colleague.keyboard.press('Escape');
  await colleague.goto(`${appUrl()}/loads`);
  await colleague.getByRole('link', { name: 'Repairs, each vessel' }).click();
  await expect(colleague.getByRole('grid', { name: 'Split by vessel' })).toBeVisible();
  await expect(colleague).toHaveURL(/window=year-to-date/);
  await other.close();
  // Nobody else's day begins with it.
  await page.getByRole('button', { name: 'Kept', exact: true }).click();
  await page.getByRole('button', { name: 'remove', exact: true }).click();
  await expect(page.getByRole('link', { name: /Upkeep, year to date/ })).toBeHidden();
});

test('story 1: from a control account to its open documents, and from a line to the scan that two invoices share', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await counting(page);
  await open(page, '/trial-balance?entity=KSF&to=2027.06&tree=no');
  await to(page, 'Freight customers');
  await page.getByRole('button', { name: 'Open documents' }).click();
  await expect(page.getByText('documents and ledger agree')).toBeVisible();
  await page.getByRole('button', { name: '31–60 days' }).click();
  await expect(page.getByRole('link', { name: 'FC-00019' })).toBeVisible();
  await expect(page.getByRole('link', { name: /^FI-/ })).toHaveCount(0);
  await accessible(page);
  // The docking invoice: its line leads to the document, the document to its order and to its double.
  await open(page, '/lines?entity=KSF&accounts=6320&from=2027.04&to=2027.04&dim.project=LINK-BRE');
  await to(page, 'Stage 3');
  await page.getByRole('button', { name: 'Document NS-2063I' }).click();
  await expect(page.getByText('It names no document before it')).toBeVisible();
  await page.getByRole('link', { name: 'NS-20631', exact: true }).click();
  await expect(page.getByRole('heading', { name: /Maren docking/ })).toBeVisible();
  await accessible(page);
  // The drawing of its chain leads to its order.
  await page
    .getByRole('figure', { name: 'Chain of documents' })
    .getByRole('link', { name: /^ORDER-DD-MAR-26/ })
    .click();
  await expect(page.getByRole('row', { name: /NS-20631.*–/ })).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'open these lines' }).click();
  await expect(cell(page, 'PI-KSF-90631')).toBeVisible();
  await showIt(page, 'in groups by counterparty');
  await expect(cell(page, 'Nordholm Slip AS, opening')).toBeVisible();
  await underAMinute(page);
  // A payment is found by the entry that bears its number.
  await page.goto(`${appUrl()}/documents/BP-KSF-00233?entity=KSF`);
  await expect(page.getByText('The entry bears its number; its lines name no document.')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Lines of the entry that bears its number' })).toContainText(
    'BP-KSF-00233',
  );
});
