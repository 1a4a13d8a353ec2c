import { expect, type Page, test } from '@playwright/test';
import { accessible, appUrl, crosstabPath, signIn } from './app';

const focused = (page: Page) => page.locator('[role=gridcell][tabindex="0"]');

test('from the income statement, up by a sixth, down to the invoice booked twice, by keyboard', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.04&to=2027.06`);
  await expect(page.getByRole('grid', { name: 'Income statement' })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Guards' })).toContainText('✓ the result is that of the trial balance');

  await page.getByRole('button', { name: /^Columns:/ }).click();
  await page.getByLabel('The same window a year before').check();
  await page.getByLabel('Change from a year before, %').check();
  await page.getByLabel('Share of the base row, %').check();
  await page.keyboard.press('Escape');
  const upkeep = page.getByRole('row', { name: /Upkeep of vessels/ });
  await expect(upkeep).toContainText('16.4');
  await expect(page.getByRole('row', { name: /Total income/ })).toContainText('100.0');
  await accessible(page);

  // Unfolded in place, the columns stay; then down to the accounts, the lines, the entry.
  await upkeep.getByRole('gridcell').first().click();
  await page.keyboard.press(' ');
  await expect(page.getByRole('gridcell', { name: /6320\s*Dry-docking/ })).toBeVisible();
  await page.getByRole('gridcell', { name: /6320\s*Dry-docking/ }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  // The figure that was entered stands on the strip and is what the lines come to, from nothing.
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('Income statement');
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('820,400.00');
  await expect(page.getByText('Movement, 2 lines, in GBP')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: 'Opening balance' })).toBeHidden();
  await expect(page.getByRole('gridcell', { name: 'PI-KSF-90639' })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(focused(page)).toBeVisible();
  await expect(page.getByRole('grid', { name: 'Income statement' })).toBeVisible();

  // The column of the year before traces into that year.
  await page.getByRole('gridcell', { name: /6320\s*Dry-docking/ }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('scope')).toContainText('July to September 2025');
});

test('columns beside a statement stay beside what a row of it is broken down into, and a plan is put beside it by a key', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.04&to=2027.06&columns=year-before,change:year-before`);
  await page.getByRole('gridcell', { name: 'Upkeep of vessels' }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  const docking = page.getByRole('row', { name: /6320\s*Dry-docking/ });
  await expect(docking).toContainText('208,400.00');
  // The strips above have the same columns.
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('183,856.74');
  await expect(focused(page)).toHaveText('437,011.82');
  // Drawn below, held against the year before; the address has it, and a part of the picture traces as its row does.
  await page.keyboard.press('d');
  const picture = page.getByRole('region', { name: 'Picture' });
  await expect(picture).toContainText('the line across a bar: year before');
  await picture.getByRole('button', { name: 'Parts of the whole' }).click();
  await accessible(page);
  // On a slow machine a key comes before the page is alive, and the part that it is meant for is drawn anew meanwhile.
  const slow = await page.context().newCDPSession(page);
  await slow.send('Emulation.setCPUThrottlingRate', { rate: 6 });
  await page.reload();
  await picture
    .getByRole('button', { name: /^Dry-docking: 820,400\.00, year before 612,000\.00, 63\.0 %/ })
    .press('Enter');
  await expect(page.getByRole('gridcell', { name: 'PI-KSF-90639' })).toBeVisible();
  await slow.send('Emulation.setCPUThrottlingRate', { rate: 1 });
  await page.keyboard.press('Backspace');
  await expect(docking).toBeVisible();
  await page.keyboard.press('d');
  await page.getByRole('gridcell', { name: '820,400.00' }).click();
  await page.keyboard.press('s');
  await page.getByRole('combobox', { name: 'Split by' }).fill('Cost centre');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Split by cost centre' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Change from year before' })).toBeVisible();
  await page.keyboard.press('c');
  await page.getByLabel('Variance from budget Plan 2027').check();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('gridcell', { name: /^(fav|adv)/ }).first()).toBeVisible();
  await expect(page.locator('footer').getByText('✓ ties')).toBeVisible();
  await accessible(page);
  // What was there a year before is pinned as what it is, and traces into that year.
  await page
    .getByRole('row', { name: /Operations/ })
    .getByRole('gridcell')
    .nth(2)
    .click();
  await page.keyboard.press('p');
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText('Pinned 612,000.00');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('scope')).toContainText('July to September 2025');
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('Operations, year before');
});

test('the balance sheet shows the insurance prepaid with a credit balance; the cash flow ties; the plan stands beside the actual', async ({
  page,
}) => {
  await signIn(page, 'priya');
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.06&to=2027.06&statement=balance&open=all`);
  await expect(page.getByRole('status', { name: 'Guards' })).toContainText(
    '✓ assets equal liabilities and equity with the result',
  );
  await expect(page.getByRole('row', { name: /1410\s*Insurance prepaid/ })).toContainText('(156,000.00)');
  await accessible(page);
  await page.getByRole('button', { name: 'Cash flow' }).click();
  await expect(page.getByRole('status', { name: 'Guards' })).toContainText('✓ the flows come to the change in cash');
  await page.goto(
    `${appUrl()}/statements?entity=KSF&from=2027.01&to=2027.06&columns=budget:Plan 2027,variance:Plan 2027`,
  );
  await expect(page.getByRole('row', { name: /Insurance/ }).first()).toContainText('adv');
  await page.goto(
    `${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06&columns=year-before,change:year-before`,
  );
  await expect(page.getByRole('columnheader', { name: 'Change from year before' })).toBeVisible();
  await accessible(page);
});

test('an outline is changed with its guards in sight, kept as a version, read, and given back', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/statements/outline?entity=STL&code=income`);
  await expect(page.getByText('✓ every account that was booked on is in a row')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Remove Terminals' }).click();
  await expect(page.getByText(/no row takes/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('✓ every account that was booked on is in a row')).toBeVisible();

  await page.getByRole('button', { name: 'Terminals', exact: true }).click();
  await page.getByLabel('Label').fill('Quays and shops');
  await page.getByLabel('Accounts', { exact: true }).fill('45, nonsense words');
  await expect(page.getByText(/nonsense words/).last()).toBeVisible();
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByRole('region', { name: 'Rows' }).getByRole('alert')).toContainText('row “Quays and shops”');
  await page.getByLabel('Accounts', { exact: true }).fill('45');
  await expect(page.getByText('Takes 6 accounts')).toBeVisible();
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByText('1: kept by Tomas Ek')).toBeVisible();
  await page.getByRole('link', { name: 'Read the statement' }).click();
  await expect(page.getByRole('row', { name: /Quays and shops/ })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Guards' })).toContainText('✓ the result is that of the trial balance');
  await page.getByRole('link', { name: 'Outline' }).click();
  await page.getByRole('button', { name: 'Back to what the chart makes' }).click();
  await expect(page.getByRole('button', { name: 'Terminals', exact: true })).toBeVisible();
});

test('the group in pounds: kroner translated, the difference in a row of its own, companies side by side that trace', async ({
  page,
}) => {
  await signIn(page, 'priya');
  await page.goto(
    `${appUrl()}/statements?entity=KSF&entity=STL&entity=NHS&from=2027.01&to=2027.06&statement=balance&across=entity`,
  );
  await expect(page.getByRole('row', { name: /Translation difference/ })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Guards' })).toContainText(
    '✓ assets equal liabilities and equity with the result',
  );
  await accessible(page);
  await page
    .getByRole('row', { name: /Fixed assets/ })
    .getByRole('gridcell')
    .nth(4)
    .click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('scope')).toContainText('Nordholm Slip AS');
  await expect(page.getByTestId('scope')).toContainText('in British pounds');
  await expect(page.getByRole('grid', { name: 'Split by account' })).toBeVisible();
  await expect(page.getByText('✓ ties').last()).toBeVisible();
});

test('the group’s own figure is split by company, then by account, in pounds; its lines stand in kroner with their pounds beside', async ({
  page,
}) => {
  await signIn(page, 'priya');
  await page.goto(`${appUrl()}/statements?entity=KSF&entity=STL&entity=NHS&from=2027.01&to=2027.06&statement=balance`);
  const fixed = page.getByRole('row', { name: /Fixed assets/ });
  const whole = (await fixed.getByRole('gridcell').nth(1).textContent())?.trim() ?? '';
  await fixed.getByRole('gridcell').nth(1).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Split by company' })).toBeVisible();
  await expect(page.getByRole('row', { name: /3 rows, in GBP/ })).toContainText(whole);
  await expect(page.getByText('✓ ties').last()).toBeVisible();
  await accessible(page);
  await page
    .getByRole('row', { name: /Nordholm Slip/ })
    .getByRole('gridcell')
    .last()
    .click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Split by account' })).toBeVisible();
  await expect(page.getByTestId('scope')).toContainText('in British pounds');
  await page.keyboard.press('ArrowDown');
  const account = page.getByRole('row').filter({ has: page.locator('[role=gridcell][tabindex="0"]') });
  const traced = (await account.getByRole('gridcell').last().textContent())?.trim() ?? '';
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  // The lines as they were booked, with what each is worth; the column that adds up is that of the figure.
  await expect(page.getByRole('columnheader', { name: 'In GBP' })).toBeVisible();
  const total = page.getByRole('row', { name: /lines?, in NOK/ });
  await expect(total.getByRole('gridcell').last()).toHaveText(traced);
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText(traced);
  await expect(page.getByText(/✓ ties/).first()).toBeVisible();
  await accessible(page);
});

test('every control of a sheet says what it does, on pointing at it and to who hears the page', async ({ page }) => {
  await signIn(page, 'ines');
  for (const [path, grid] of [
    ['/trial-balance?entity=KSF&dim.costcentre=DECK', 'Trial balance'],
    ['/statements?entity=KSF&statement=income', 'Income statement'],
    ['/lines?entity=KSF&accounts=6310&text=repair', 'Lines'],
    [crosstabPath('entity=KSF'), 'Split by vessel'],
  ] as const) {
    await page.goto(`${appUrl()}${path}`);
    await expect(page.getByRole('grid', { name: grid })).toBeVisible();
    await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
    const silent = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('main button, main input, main select, main [role=combobox]')]
        .filter((e) => e.offsetParent !== null && !e.title && !e.closest('[title]'))
        .map((e) => e.textContent || e.getAttribute('aria-label') || e.outerHTML.slice(0, 80)),
    );
    expect([path, silent]).toEqual([path, []]);
  }
});

test('a company’s books are kept on the cash basis too: the same statement, traced to what was settled', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.01&to=2027.06&statement=income`);
  const freight = page.getByRole('row', { name: /Freight/ });
  await expect(freight).toBeVisible();
  const accrual = await freight.getByRole('gridcell').nth(1).textContent();
  await page.getByRole('button', { name: 'posted lines' }).click();
  const cash = page.getByLabel('Cash: when it is settled');
  await expect(cash).toBeDisabled();
  await page.getByRole('button', { name: 'Keep one from now on' }).click();
  // A worker works it out; nobody has to open anything again.
  await expect(cash).toBeEnabled({ timeout: 60_000 });
  await expect(page.getByText(/3 documents of Kestrel Sound Ferries Ltd cannot be on it/)).toBeVisible();
  await accessible(page);
  await cash.click();
  await expect(page.getByTestId('scope')).toContainText('posted lines on the cash basis');
  await expect(page.getByText('✓ guards hold')).toBeVisible();
  await expect(freight.getByRole('gridcell').nth(1)).not.toHaveText(accrual ?? '');
  const settled = (await freight.getByRole('gridcell').nth(1).textContent())?.trim() ?? '';
  await freight.getByRole('gridcell').nth(1).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText(settled.replace(/[()]/g, ''));
  await page.keyboard.press('b');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: /Lines/ }).first()).toBeVisible();
  await expect(page.getByText('cash basis', { exact: true }).first()).toBeVisible();
});
