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
  // What it found is put together; the hits are a sheet.
  await expect(page.getByRole('link', { name: 'JE-KSF-90606' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('region', { name: 'What was looked at' })).toContainText(
    'The trial balance says the same',
  );
  await accessible(page);
  await page.getByRole('link', { name: 'Go through the hits' }).press('Enter');
  const hits = page.getByRole('grid', { name: 'Hits' });
  const hit = page.getByRole('region', { name: 'The hit' });
  const tests = page.getByLabel('Which test');
  const test = async (name: RegExp): Promise<void> => {
    await tests.click();
    await page.getByRole('option', { name }).click();
  };
  const first = hits.getByRole('row').nth(1);

  // What several tests hit comes first: the entry of a Saturday evening by somebody who seldom posts.
  await expect(first).toContainText('JE-KSF-90606');
  await expect(hit).toContainText('bits together');
  await accessible(page);
  // Traced to its entry, with the way back; the next one without going back up.
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /^Entry JE-KSF-90606/ })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('What tests found');
  await page.keyboard.press('Backspace');
  await expect(first).toContainText('JE-KSF-90606');

  // One test alone: the stage that was invoiced twice. Both entries stand side by side. It is a finding.
  await test(/^Same party and amount/);
  await expect(hits.getByRole('row', { name: /NS-20631 and NS-2063I are nearly the same/ })).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('b');
  const beside = page.getByRole('table', { name: /^Entries side by side/ });
  await expect(beside.getByRole('row', { name: /^≠\s?Document NS/ })).toContainText('NS-20631');
  await accessible(page);
  await page.keyboard.press('Escape');
  await expect(beside).toBeHidden();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('scope')).toContainText('entry');
  await expect(page.getByRole('gridcell', { name: 'PI-KSF-90639' }).first()).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(hits).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('f');
  const finding = page.getByRole('dialog', { name: /^Finding on/ });
  await finding.getByLabel('What was found').fill('Stage 3 is booked twice');
  await finding.getByRole('button', { name: 'Write finding' }).click();
  await expect(page.getByText('Nothing is open here.')).toBeVisible();

  // An entry is explained in a sentence, with the keyboard alone.
  await test(/^Dated long after/);
  await expect(first).toContainText('PI-KSF-90307');
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('e');
  await page.getByLabel('Why it is as it should be').fill('The year was mistyped; the period is right.');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Nothing is open here.')).toBeVisible();
  const state = async (name: string): Promise<void> => {
    await page.getByLabel('Which hits').click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  await state('judged');
  await expect(first).toContainText('✓ explained');
  await expect(hit).toContainText('The year was mistyped');
  // A tick on a hit stands on its entry.
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('t');
  await expect(page.getByRole('listbox', { name: 'Legend of ticks' })).toBeFocused();
  await page.keyboard.press('1');
  await expect(first.getByText('ticked: agreed to the document')).toBeAttached();

  // Entries that were reversed at each month end by whoever posts them are ignored from now on.
  await test(/^Reversed soon/);
  await state('open');
  await expect(first).toContainText('taken back');
  const many = async (): Promise<number> =>
    Number((await hits.getByText(/^[\d,]+ hits?$/).textContent())?.replace(/\D/g, ''));
  const open = await many();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('i');
  const alike = page.getByRole('dialog', { name: 'Ignore those alike' });
  await alike.getByLabel(/^the account/).uncheck();
  await alike.getByLabel(/^the person/).check();
  await alike.getByLabel('Why', { exact: true }).fill('Accruals are reversed each month.');
  await alike.getByRole('button', { name: 'Ignore' }).click();
  await expect.poll(many).toBeLessThan(open);
  await page.goto(`${appUrl()}/tests/ignored`);
  await expect(page.getByRole('table', { name: 'What is ignored' })).toContainText('Accruals are reversed each month.');
  await accessible(page);
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('taken back by Tomas Ek')).toBeVisible();

  // The next run remembers what was said; what would be noticed first is told in sentences.
  await page.goto(`${appUrl()}/tests`);
  await page.getByRole('link', { name: 'All tests' }).first().click();
  await page.waitForURL(/\/tests\/\d+$/);
  const former = page.url();
  await page.getByRole('button', { name: 'Run again' }).click();
  await page.waitForURL((url) => url.href !== former && /\/tests\/\d+$/.test(url.href));
  await expect(page.getByRole('link', { name: 'Go through the hits' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Go through the hits' }).click();
  await state('judged');
  await test(/^Dated long after/);
  await expect(first).toContainText('✓ explained');
  await page.goto(`${appUrl()}/tests/look`);
  await expect(page.getByRole('region', { name: 'The whole' })).toContainText('the trial balance says the same');
  await expect(page.getByRole('region', { name: 'Entries' })).toContainText('JE-KSF-90606');
  await accessible(page);
  await page.getByRole('region', { name: 'Entries' }).getByRole('link', { name: 'JE-KSF-90606' }).click();
  await expect(first).toContainText('JE-KSF-90606');
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /^Entry JE-KSF-90606/ })).toBeVisible();

  // Here none runs by itself; each week they would, and then not again.
  await page.goto(`${appUrl()}/tests/every`);
  const when = page.getByLabel('When all tests run by themselves');
  for (const choice of ['each week, over all companies', 'never']) {
    await when.click();
    await page.getByRole('option', { name: choice }).click();
    await expect(when).toContainText(choice);
  }
});

test('pictures of a ledger lead to their lines, part by part', async ({ page }) => {
  await signIn(page, 'tomas');
  // Each part of a picture leads to its lines: the one entry of a Saturday at a quarter to eleven in the evening.
  await page.goto(`${appUrl()}/tests/pictures/entered?entity=KSF&window=everything&accounts=1311`);
  await page.getByRole('link', { name: /^Saturday, 22:00 to 23:00: 1 entries/ }).press('Enter');
  await expect(page.getByTestId('scope')).toContainText('entered on Saturdays between 22:00 and 23:00');
  await expect(page.getByRole('gridcell', { name: 'JE-KSF-90606' })).toBeVisible();
  for (const [picture, seen] of [
    ['months', /^1410 Insurance prepaid, August 2026: .*less; to its lines$/],
    ['people', /^bank on 1310 .*; to them$/],
    ['sizes', /^950,000.00 to 959,999.99: .*; to them$|^960,000.00 to 969,999.99: .*; to them$/],
    ['numbers', /^FI-00871 is missing; to the entries beside$/],
  ] as const) {
    await page.goto(`${appUrl()}/tests/pictures/${picture}?entity=KSF&window=everything`);
    await expect(page.getByRole('link', { name: seen }).first()).toBeVisible();
    await accessible(page);
  }
  await page.getByRole('link', { name: /^FI-00871 is missing/ }).press('Enter');
  await expect(page.getByRole('gridcell', { name: 'FI-00870' }).first()).toBeVisible();

  // First digits of an account beside those that are expected: a bar leads to the lines that begin so.
  await page.goto(`${appUrl()}/tests/pictures/digits?entity=KSF&window=everything&accounts=7010`);
  const digits = page.getByRole('region', { name: 'The first digit' });
  await expect(digits).toContainText('Nonconformity');
  await accessible(page);
  await digits.getByRole('link', { name: /^2: / }).press('Enter');
  await expect(page.getByTestId('scope')).toContainText('amounts that begin with 2');
});

test('a figure is said to be what it should, and the difference explained by a figure that is pasted', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06&accounts=6300+to+6399`);
  await page.getByRole('gridcell', { name: '820,400.00' }).click();
  await page.keyboard.press('E');
  const dialog = page.getByRole('dialog', { name: /Dry-docking should/ });
  await dialog.getByLabel('It should be').click();
  await page.getByRole('option', { name: 'an amount of my own' }).click();
  await dialog.getByLabel(/^Amount/).fill('410,200.00');
  await dialog.getByLabel('because').fill('The yard quoted one stage.');
  await dialog.getByLabel(/^A difference/).fill('10,000.00');
  await accessible(page);
  await dialog.getByRole('button', { name: 'Hold it against that' }).click();
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText('410,200.00: needs explaining');

  // The second booking is copied where it stands, and pasted as what explains it.
  await page.goto(`${appUrl()}/threads/expectations`);
  await page.getByRole('link', { name: /Dry-docking/ }).click();
  const reckoning = page.getByRole('region', { name: 'Reckoning' });
  await expect(reckoning).toContainText('Needs explaining');
  await page.getByLabel(/^A figure copied/).evaluate(
    (field, figure) => {
      const carried = new DataTransfer();
      carried.setData('application/x-just-thread-figure', JSON.stringify(figure));
      field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: carried, bubbles: true, cancelable: true }));
    },
    {
      ...{ subject: 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=6320&entry=PI-KSF-90639', measure: 'movement' },
      ...{ label: 'NS-2063I', address: '/lines', value: '410200.00' },
    },
  );
  await page.getByLabel('in words').fill('Stage 3 is booked twice');
  await page.getByRole('button', { name: 'Add' }).click();
  await expect(reckoning.getByRole('link', { name: 'Stage 3 is booked twice' })).toBeVisible();
  await expect(reckoning).toContainText('✓ Explained');
  await accessible(page);
});
