import { expect, test } from '@playwright/test';
import { accessible, appUrl, signIn } from './app';

test('anything is found from anywhere, opened, and made a clause, by keys alone; and nothing outside of a grant', async ({
  page,
}) => {
  await signIn(page, 'ines');
  const find = page.getByRole('combobox', { name: 'Find' });
  const hits = page.getByRole('listbox', { name: 'What was found' });

  // An amount as a paper has it leads to the two invoices, and to the entries behind them.
  await page.keyboard.press('Control+k');
  await find.fill('410.200,00');
  await expect(hits.getByRole('group', { name: /^Documents/ }).getByRole('option')).toHaveCount(2);
  // Another walk may have restated the month, after which one of the two is not in the ledger any more.
  await expect(hits.getByRole('group', { name: /^Lines/ }).getByRole('option', { name: /PI-KSF-90631/ })).toHaveCount(
    2,
  );
  await accessible(page);

  await find.fill('stl-000');
  await expect(hits.getByRole('group', { name: /^Entries/ })).toBeVisible();

  // The number of an entry: Enter opens it.
  await find.fill('pi-ksf-90631');
  await expect(hits.getByRole('group', { name: /^Entries/ }).getByRole('option')).toHaveCount(1);
  await expect(hits.getByRole('option', { selected: true })).toContainText('PI-KSF-90631');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /^Entry PI-KSF-90631/ })).toBeVisible();

  // A member becomes a clause of the sheet that one is at.
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06`);
  await expect(page.getByRole('grid')).toBeVisible();
  await page.keyboard.press('Control+k');
  await find.fill('dd-mar-26');
  await expect(hits.getByRole('option', { selected: true })).toContainText('Dry-docking Maren 2026');
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByRole('button', { name: 'project Dry-docking Maren 2026', exact: true })).toBeVisible();

  // A place with its company and its month, said as one says it.
  await page.keyboard.press('Control+k');
  await find.fill('go to trial balance of sound terminals, june');
  await expect(hits.getByRole('option', { selected: true })).toContainText('Trial balance of Sound Terminals Ltd');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/entity=STL&from=2027\.03&to=2027\.03/);

  // What was opened stands there the next time; the place has all of one kind.
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('listbox', { name: 'Opened before' })).toContainText('PI-KSF-90631');
  await find.fill('maren docking');
  await hits
    .getByRole('group', { name: /^Lines/ })
    .getByRole('button', { name: 'show more' })
    .click();
  await expect(page.getByRole('heading', { name: 'Find · lines' })).toBeVisible();
  await expect(hits.getByRole('option').first()).toContainText(/maren docking/i);
  await accessible(page);

  // Whoever sees two cost centres of one company finds nothing of the others.
  await signIn(page, 'col');
  await page.keyboard.press('Control+k');
  await find.fill('stl-000');
  await expect(page.getByText('Nothing has all of these words')).toBeVisible();
  await find.fill('ines hallam');
  await expect(page.getByText('Nothing has all of these words')).toBeVisible();
});
