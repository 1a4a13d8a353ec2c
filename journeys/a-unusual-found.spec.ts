import { expect, test } from '@playwright/test';
import { accessible, appUrl, signIn } from './app';

test('the ledger is looked over; hits are judged by keys, one becomes a finding, those alike are ignored; a later run remembers', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  // From a sheet: all lines of half a year of the ferries.
  await page.goto(`${appUrl()}/lines?entity=KSF&from=2027.01&to=2027.06`);
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('U');
  const dialog = page.getByRole('dialog', { name: 'Run tests' });
  await expect(dialog.getByLabel('Same party and amount within days')).toBeChecked();
  await accessible(page);
  await dialog.getByRole('button', { name: 'Run', exact: true }).click();
  await page.waitForURL(/\/tests\/\d+$/);
  const hits = page.getByRole('listbox', { name: 'Hits' });
  await expect(hits).toBeVisible({ timeout: 60_000 });

  // What several tests hit comes first: the entry of a Saturday by somebody who seldom posts.
  await expect(hits.getByRole('option', { selected: true })).toContainText('JE-KSF-90606');
  const hit = page.getByRole('region', { name: 'The hit' });
  await expect(hit).toContainText('together');
  await accessible(page);

  // One test alone: the stage that was invoiced twice. It is a finding.
  await page
    .getByRole('navigation', { name: 'Tests' })
    .getByRole('button', { name: /^Same party and amount/ })
    .click();
  await expect(hits.getByRole('option')).toHaveCount(1);
  await expect(hits.getByRole('option')).toContainText('NS-20631 and NS-2063I are nearly the same');
  await hits.focus();
  await page.keyboard.press('f');
  const finding = page.getByRole('dialog', { name: /^Finding on/ });
  await finding.getByLabel('What was found').fill('Stage 3 is booked twice');
  await finding.getByRole('button', { name: 'Write finding' }).click();
  await expect(page.getByText('Nothing is open here.')).toBeVisible();

  // An entry is explained in a sentence, with the keyboard alone.
  await page
    .getByRole('navigation', { name: 'Tests' })
    .getByRole('button', { name: /^Dated long after/ })
    .click();
  await expect(hits.getByRole('option')).toContainText('PI-KSF-90307');
  await hits.focus();
  await page.keyboard.press('e');
  await page.getByLabel('Why it is as it should be').fill('The year was mistyped; the period is right.');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Nothing is open here.')).toBeVisible();
  await page.getByLabel('Which hits').click();
  await page.getByRole('option', { name: 'judged' }).click();
  await expect(hits.getByRole('option')).toContainText('✓ explained');
  await expect(hit).toContainText('The year was mistyped');

  // Entries that were reversed at each month end by whoever posts them are ignored from now on.
  await page
    .getByRole('navigation', { name: 'Tests' })
    .getByRole('button', { name: /^Reversed soon/ })
    .click();
  await page.getByLabel('Which hits').click();
  await page.getByRole('option', { name: 'open', exact: true }).click();
  await expect(hits.getByRole('option').first()).toContainText('taken back');
  const open = await hits.getByRole('option').count();
  await hits.focus();
  await page.keyboard.press('End');
  await page.keyboard.press('i');
  const alike = page.getByRole('dialog', { name: 'Ignore those alike' });
  await alike.getByLabel(/^the account/).uncheck();
  await alike.getByLabel(/^the person/).check();
  await alike.getByLabel('Why', { exact: true }).fill('Accruals are reversed each month.');
  await alike.getByRole('button', { name: 'Ignore' }).click();
  await expect.poll(() => hits.getByRole('option').count()).toBeLessThan(open);
  await page.goto(`${appUrl()}/tests/ignored`);
  await expect(page.getByRole('table', { name: 'What is ignored' })).toContainText('Accruals are reversed each month.');
  await accessible(page);
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('taken back by Tomas Ek')).toBeVisible();

  // First digits of an account beside those that are expected: a bar leads to the lines that begin so.
  await page.goto(`${appUrl()}/tests/pictures/digits?entity=KSF&window=everything&accounts=7010`);
  const digits = page.getByRole('region', { name: 'The first digit' });
  await expect(digits).toContainText('Nonconformity');
  await accessible(page);
  await digits.getByRole('link', { name: /^2: / }).press('Enter');
  await expect(page.getByTestId('scope')).toContainText('amounts that begin with 2');

  // The next run remembers what was said; what would be noticed first is told in sentences.
  await page.goto(`${appUrl()}/tests`);
  await page.getByRole('button', { name: 'Run tests …' }).click();
  await dialog.getByRole('button', { name: 'Run', exact: true }).click();
  await page.waitForURL(/\/tests\/\d+$/);
  await expect(hits).toBeVisible({ timeout: 60_000 });
  await page.goto(`${page.url()}?state=judged&test=dated-ahead`);
  await expect(hits.getByRole('option')).toContainText('✓ explained');
  await page.goto(`${appUrl()}/tests/look`);
  await expect(page.getByRole('region', { name: 'The whole' })).toContainText('the trial balance says the same');
  await expect(page.getByRole('region', { name: 'Entries' })).toContainText('JE-KSF-90606');
  await accessible(page);
  await page.getByRole('region', { name: 'Entries' }).getByRole('link', { name: 'JE-KSF-90606' }).click();
  await hits.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /^Entry JE-KSF-90606/ })).toBeVisible();
});
