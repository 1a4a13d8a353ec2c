import { expect, test } from '@playwright/test';
import iconv from 'iconv-lite';
import { accessible, appUrl, choose, fileOf, signIn } from './app';

/** A file as a ledger in another country gives it out: Windows-1252, decimal comma, titles above, numbers within journals. */
const UNFAMILIAR = [
  'Journalauszug Fährbetrieb;;;;;;;;',
  ';;;;;;;;',
  'Journal;Belegnr;Buchungsdatum;Konto;Soll;Haben;Buchungstext;Kostenstelle;Schiff',
  'SJ;7001;13.10.2026;1510;1.234,50;;Fahrkarten Größe M;;',
  'SJ;7001;13.10.2026;4110;;1.034,50;Fahrkarten Größe M;;TERN',
  'SJ;7001;13.10.2026;4112;;200,00;Fahrkarten PKW;;SOLAN',
  'PI;7001;30.10.2026;6310;99,00;;Dichtungen;DK-TER;TERN',
  'PI;7001;30.10.2026;2110;;99,00;Dichtungen;;',
  'PI;7002;31.10.2026;6310;50,00;;Wellen;DK-SOL;SOLAN',
  'PI;7002;31.10.2026;2110;;50,00;Wellen;;',
].join('\r\n');

test('an unfamiliar file is recognised, mapped, loaded and read as a trial balance; its mapping is offered again', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&window=latest-period`);
  await expect(page.getByText('✓ debits equal credits')).toBeVisible();
  const sheet = page.url();

  await page.getByRole('link', { name: 'Loads' }).click();
  await page.locator('input[type=file]').setInputFiles(fileOf('oktober.csv', iconv.encode(UNFAMILIAR, 'windows-1252')));
  await expect(page.getByLabel('Encoding')).toHaveAttribute('data-value', 'windows-1252');
  await expect(page.getByLabel('Dates')).toHaveAttribute('data-value', 'dmy');
  await expect(page.getByLabel('Decimal mark')).toHaveAttribute('data-value', ',');
  await expect(page.getByLabel('Header row')).toHaveValue('3');
  await choose(page, 'Books', 'KSF');
  await expect(page.getByText('every entry balances')).toBeVisible();
  await expect(page.getByLabel('Column Schiff is')).toHaveAttribute('data-value', 'dim:vessel');
  // The journal is a column of its own, though numbers are unique only together with it.
  await expect(page.getByLabel('Column Journal is')).toHaveAttribute('data-value', 'journal');
  await accessible(page);

  // A column is taken away: what is needed is named, and the file cannot be loaded until it is given back.
  await choose(page, 'Column Soll is', '');
  await expect(page.getByText('the file needs the columns “debit” and “credit”, or “amount”.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Load the file' })).toBeDisabled();
  await choose(page, 'Column Soll is', 'debit');
  await page.getByLabel('Keep this mapping as').fill('Fährbetrieb');
  await page.getByRole('button', { name: 'Load the file' }).click();
  await expect(page.getByRole('status')).toContainText('7 lines in 3 entries.');
  await expect(page.getByText('✓ entry numbers run without a gap')).toBeVisible();
  await accessible(page);

  // The trial balance of the new month, and the line behind a figure.
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.07&to=2027.07&accounts=6310`);
  await expect(page.getByRole('row', { name: /Repairs and spares/ })).toContainText('149.00');

  // The next file of the same shape finds its mapping.
  await page.getByRole('link', { name: 'Loads' }).click();
  await page
    .locator('input[type=file]')
    .setInputFiles(
      fileOf(
        'november.csv',
        iconv.encode(UNFAMILIAR.replaceAll('.10.2026', '.11.2026').replaceAll(/700(\d)/g, '710$1'), 'windows-1252'),
      ),
    );
  await expect(page.getByText('Read with the mapping “Fährbetrieb”')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();

  // A sheet that says which load it is of stays as of that load.
  await page.goto(`${sheet}&load=5`);
  await expect(page.getByTestId('scope')).toContainText('as of load 5');
});

test('an audit file brings its chart, openings and lines; a sheet that is open learns of newer data and is read again in place', async ({
  page,
  browser,
}) => {
  await signIn(page, 'ines');
  const made = await page.request.post(`${appUrl()}/api/v1/entities`, {
    headers: { origin: appUrl() },
    data: {
      code: 'ZIB',
      name: 'Island Bakery Ltd',
      currency: 'GBP',
      calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 0 },
      yearEnd: 'derived',
      retainedEarnings: '2000',
    },
  });
  expect(made.status()).toBe(201);
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06`);
  await expect(page.getByText('✓ debits equal credits')).toBeVisible();

  const other = await (await browser.newContext()).newPage();
  await signIn(other, 'tomas');
  await other.getByRole('link', { name: 'Loads' }).click();
  await other.locator('input[type=file]').setInputFiles(fileOf('bakery.xml', Buffer.from(SAFT)));
  await expect(other.getByText('Read as standard audit file (XML)')).toBeVisible();
  await choose(other, 'Books', 'ZIB');
  await expect(other.getByText('every entry balances')).toBeVisible();
  await other.getByRole('button', { name: 'Load the file' }).click();
  await expect(other.getByRole('status')).toContainText('5 lines in 2 entries.');
  await expect(other.getByText(/✓ all \d+ stated figures are met/)).toBeVisible();
  await other.goto(`${appUrl()}/trial-balance?entity=ZIB&from=2026.01&to=2026.01`);
  await expect(other.getByRole('row', { name: /1900 Bank/ })).toContainText('600.00');
  await expect(other.getByText('✓ debits equal credits')).toBeVisible();

  // The first screen still shows what it showed, says so, and reads again where it is.
  await expect(page.getByText(/has come since this was read/)).toBeVisible({ timeout: 20_000 });
  await accessible(page);
  await page.keyboard.press('r');
  await expect(page.getByText(/has come since this was read/)).toBeHidden();
  await expect(page).toHaveURL(/from=2027\.06/);
});

test('what a load changed is shown line by line; the chart, dimensions, holdings and calendars are read and mended', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/loads/compare?from=5&to=7`);
  await expect(page.getByText('40 lines added, 3 changed, 1 removed')).toBeVisible();
  await expect(
    page.getByText(/Pin of .+ on 6310 Repairs and spares, movement: 151,951\.61, now 160,096\.61/),
  ).toBeVisible();
  await accessible(page);

  await page.getByRole('link', { name: 'Accounts' }).click();
  await page.getByLabel('Find').fill('winter');
  await expect(page.getByRole('table', { name: 'Chart of accounts' }).getByRole('row')).toHaveCount(3);
  await page.getByRole('button', { name: /^Name of 6350 in nb/ }).click();
  await page.getByRole('textbox', { name: 'Name of 6350 in nb' }).fill('Vinteropplag av skip');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Name of 6350 in nb: Vinteropplag av skip; change' })).toBeVisible();
  await accessible(page);
  for (const [tab, seen] of [
    ['Dimensions', 'Harbour crew Harrowick'],
    ['Bank and cash', 'Reserve account'],
    ['Calendars', 'Months from April'],
  ] as const) {
    await page.getByRole('link', { name: tab }).click();
    await expect(page.getByText(seen).first()).toBeVisible();
    await accessible(page);
  }
  await page.getByRole('link', { name: '2027.05, 2026-08-01 to 2026-08-31' }).first().click();
  await expect(page.getByTestId('scope')).toContainText('August 2026');
});

const SAFT = `<?xml version="1.0" encoding="UTF-8"?>
<n1:AuditFile xmlns:n1="urn:StandardAuditFile-Tax:XX"><n1:Header><n1:AuditFileVersion>1.10</n1:AuditFileVersion></n1:Header>
<n1:MasterFiles><n1:GeneralLedgerAccounts>
${[
  ['1900', 'Bank', 'GL', 'Debit', '500.00', '600.00'],
  ['2000', 'Share capital', 'GL', 'Credit', '500.00', '500.00'],
  ['3000', 'Sales', 'GL', 'Credit', '0.00', '125.00'],
  ['7700', 'Fees', 'GL', 'Debit', '0.00', '25.00'],
]
  .map(
    ([code, name, type, side, opening, closing]) =>
      `<n1:Account><n1:AccountID>${code}</n1:AccountID><n1:AccountDescription>${name}</n1:AccountDescription><n1:StandardAccountID>${code?.slice(0, 2)}</n1:StandardAccountID><n1:AccountType>${type}</n1:AccountType><n1:Opening${side}Balance>${opening}</n1:Opening${side}Balance><n1:Closing${side}Balance>${closing}</n1:Closing${side}Balance></n1:Account>`,
  )
  .join('\n')}
</n1:GeneralLedgerAccounts></n1:MasterFiles>
<n1:GeneralLedgerEntries><n1:NumberOfEntries>1</n1:NumberOfEntries><n1:TotalDebit>125.00</n1:TotalDebit><n1:TotalCredit>125.00</n1:TotalCredit>
<n1:Journal><n1:JournalID>S</n1:JournalID><n1:Transaction><n1:TransactionID>1</n1:TransactionID><n1:Period>1</n1:Period><n1:PeriodYear>2026</n1:PeriodYear><n1:TransactionDate>2026-01-15</n1:TransactionDate><n1:Description>Bread</n1:Description>
<n1:Line><n1:RecordID>1</n1:RecordID><n1:AccountID>1900</n1:AccountID><n1:Description>Bread</n1:Description><n1:DebitAmount><n1:Amount>100.00</n1:Amount></n1:DebitAmount></n1:Line>
<n1:Line><n1:RecordID>2</n1:RecordID><n1:AccountID>7700</n1:AccountID><n1:Description>Fee</n1:Description><n1:DebitAmount><n1:Amount>25.00</n1:Amount></n1:DebitAmount></n1:Line>
<n1:Line><n1:RecordID>3</n1:RecordID><n1:AccountID>3000</n1:AccountID><n1:Description>Bread</n1:Description><n1:CreditAmount><n1:Amount>125.00</n1:Amount></n1:CreditAmount></n1:Line>
</n1:Transaction></n1:Journal></n1:GeneralLedgerEntries></n1:AuditFile>`;
