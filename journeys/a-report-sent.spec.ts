import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import ExcelJS from 'exceljs';
import { archiveMember, archiveNames } from '@/exchange/archive';
import { accessible, appUrl, choose, mailUrl, signIn } from './app';

/** The file that a click brings. */
async function brought(page: Page, act: () => Promise<void>): Promise<string> {
  const [download] = await Promise.all([page.waitForEvent('download'), act()]);
  const path = join(mkdtempSync(join(tmpdir(), 'just-thread-journey-')), download.suggestedFilename());
  await download.saveAs(path);
  return path;
}

/** What `./just-thread verify` says of a file. */
const verified = (path: string): string =>
  execFileSync(process.execPath, ['--import', 'tsx', 'ops/cli.ts', 'verify', path], { stdio: 'pipe' }).toString();

test('a sheet is taken out, kept as a report, sent to a restricted reader, and frozen', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06`);
  await expect(page.getByRole('row').filter({ hasText: 'Trade debtors' })).toBeVisible();
  const total = page.getByRole('grid', { name: 'Trial balance' }).getByRole('row').last();
  const debits = ((await total.getByRole('gridcell').nth(2).textContent()) ?? '').replaceAll(',', '');

  await page.keyboard.press('O');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('heading', { name: 'Take out: Trial balance' })).toBeVisible();
  await dialog.getByLabel('Paper (PDF)').check();
  await expect(dialog.getByRole('img', { name: 'Page 1 as it will be printed' })).toBeVisible({ timeout: 30_000 });
  await dialog.getByRole('button', { name: 'keep these choices as a template' }).click();
  await dialog.getByLabel('Template called').fill('House style');
  await page.keyboard.press('Enter');
  await expect(dialog.getByLabel('As in the template')).toBeVisible();
  await dialog.getByRole('button', { name: 'Next page' }).click();
  await expect(dialog.getByText(/page 2 of \d/)).toBeVisible();
  await accessible(page);

  await dialog.getByLabel('Spreadsheet').check();
  await dialog.getByLabel('Locked and sealed').check();
  const workbook = await brought(page, () => dialog.getByRole('button', { name: 'Take it out' }).click());
  const book = new ExcelJS.Workbook();
  await book.xlsx.readFile(workbook);
  const written: unknown[] = [];
  book.worksheets[0]?.eachRow((row) => row.eachCell((cell) => written.push(cell.result ?? cell.value)));
  expect(written).toContain(Number(debits));
  expect(verified(workbook)).toContain('as it left');

  // What the last sheet left as is chosen again; the same is kept as a report.
  await page.keyboard.press('O');
  await expect(dialog.getByLabel('Spreadsheet')).toBeChecked();
  await dialog.getByLabel('Text with commas').check();
  await dialog.getByRole('button', { name: 'Keep as a report' }).click();
  await dialog.getByLabel('Report called').fill('Balances of the month');
  await dialog.getByLabel('Everybody may run it').check();
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(dialog).toBeHidden();

  await page.goto(`${appUrl()}/reports/schedules`);
  await page.getByRole('button', { name: 'Have something made by itself' }).click();
  await page.getByLabel('Called').fill('Balances, each Monday');
  await choose(page, 'What', { label: 'Balances of the month' });
  await choose(page, 'When', 'weekly');
  await page.getByLabel('Monday').check();
  await page.getByLabel('Paper (PDF)').uncheck();
  await page.getByLabel('Text with commas').check();
  await page.getByLabel('Ines Hallam').uncheck();
  await page.getByLabel('Col Marsh').check();
  await accessible(page);
  await page.getByRole('button', { name: 'Have it made' }).click();
  const row = page.getByRole('row').filter({ hasText: 'Balances, each Monday' });
  await expect(row).toContainText('each Monday at 07:00, Europe/London');
  await row.getByRole('button', { name: 'make it now' }).click();
  await expect(row).toContainText('made, ', { timeout: 60_000 });

  // The letter has it as its receiver may see it, and nothing else.
  await expect
    .poll(
      async () =>
        ((await (await page.request.get(`${mailUrl()}/messages`)).json()) as { subject: string }[]).map(
          (m) => m.subject,
        ),
      {
        timeout: 30_000,
      },
    )
    .toContain('Balances, each Monday');
  const letters = (await (await page.request.get(`${mailUrl()}/messages`)).json()) as {
    to: string;
    subject: string;
    files: { address: string }[];
  }[];
  const letter = letters.find((m) => m.subject === 'Balances, each Monday');
  expect(letter?.to).toBe('col@kestrel.example');
  const sent = await (await page.request.get(`${mailUrl()}${letter?.files[0]?.address}`)).text();
  expect(sent).toContain('cost centre Deck or');
  expect(sent).not.toContain(debits);

  const his = await browser.newPage();
  await signIn(his, 'col');
  await his.goto(`${appUrl()}/reports/files`);
  const kept = await brought(his, () => his.getByRole('link', { name: 'save' }).first().click());
  expect(readFileSync(kept, 'utf8')).toBe(sent);
  await his.close();

  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06`);
  await expect(page.getByRole('row').filter({ hasText: 'Trade debtors' })).toBeVisible();
  await page.keyboard.press('O');
  await dialog.getByRole('button', { name: 'Freeze it' }).click();
  await expect(page).toHaveURL(/\/frozen\/[0-9a-f]{32}$/);
  await expect(page.getByText('Nothing has been loaded since.')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Trial balance' })).toContainText('Assets');
  await accessible(page);
  await page.close();
});

test('a pack for every vessel is made by itself, and each receiver opens from the letter what they may see', async ({
  browser,
}) => {
  const page = await browser.newPage();
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/reports/schedules`);
  await page.getByRole('button', { name: 'Have something made by itself' }).click();
  await page.getByLabel('Called').fill('Vessels, each month');
  await choose(page, 'What', { label: 'Costs of each vessel' });
  await choose(page, 'When', 'monthly');
  await page.getByLabel('Paper (PDF)').uncheck();
  await page.getByLabel('Spreadsheet').check();
  await page.getByLabel('Col Marsh').check();
  await page.getByRole('button', { name: 'Have it made' }).click();
  const row = page.getByRole('row').filter({ hasText: 'Vessels, each month' });
  await row.getByRole('button', { name: 'make it now' }).click();
  await expect(row).toContainText('made, ', { timeout: 90_000 });
  interface Letter {
    to: string;
    subject: string;
    files: { address: string; name: string }[];
  }
  const letterTo = async (who: string): Promise<Letter | undefined> =>
    ((await (await page.request.get(`${mailUrl()}/messages`)).json()) as Letter[]).find(
      (m) => m.subject === 'Vessels, each month' && m.to === `${who}@kestrel.example`,
    );
  await expect.poll(async () => (await letterTo('col'))?.files.length ?? 0, { timeout: 30_000 }).toBeGreaterThan(1);
  await expect.poll(async () => (await letterTo('ines'))?.files.length ?? 0, { timeout: 30_000 }).toBeGreaterThan(1);
  // One copy for each vessel on which anything was booked that its receiver sees.
  const said = async (who: string): Promise<Map<string, { sentence: string; total: number }>> => {
    const found = new Map<string, { sentence: string; total: number }>();
    for (const { address } of (await letterTo(who))?.files ?? []) {
      const book = new ExcelJS.Workbook();
      await book.xlsx.load((await (await page.request.get(`${mailUrl()}${address}`)).body()) as never);
      const sheet = book.worksheets[0] as ExcelJS.Worksheet;
      const words: string[] = [];
      let total = 0;
      sheet.eachRow((r) => {
        words.push(String(r.getCell(1).text));
        if (r.getCell(2).text === 'Total')
          total = Number(r.getCell(r.cellCount).result ?? r.getCell(r.cellCount).value);
      });
      found.set(book.title || words[0] || address, { sentence: words.join(' '), total });
    }
    return found;
  };
  const [hers, his] = [await said('ines'), await said('col')];
  expect(his.size).toBeGreaterThan(1);
  expect(hers.size).toBeGreaterThanOrEqual(his.size);
  for (const { sentence } of his.values()) expect(sentence).toContain('cost centre Deck or');
  for (const { sentence } of hers.values()) expect(sentence).not.toContain('cost centre Deck or');
  await page.close();
});

test('a panel of a report stands on another page under an address that ends', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/reports/embeds`);
  await page.getByLabel(/^Pages that may show them/).fill('https://intranet.example');
  await page.getByRole('button', { name: 'Keep it so' }).click();
  await expect(page.getByText('These pages may show panels from now on')).toBeVisible();
  await page.goto(`${appUrl()}/reports`);
  const report = page.getByRole('row').filter({ hasText: 'Expenses by account' });
  await report.getByRole('button', { name: 'on other pages' }).click();
  await choose(page, 'Shown as', 'picture');
  await page.getByRole('button', { name: 'Give it an address' }).click();
  const words = await page.getByLabel('Words for the page').inputValue();
  await accessible(page);
  const path = new URL(/src="([^"]+)"/.exec(words)?.[1] ?? '').pathname;
  // Whoever reads the intranet is not signed in here.
  const reader = await (await browser.newContext()).newPage();
  const answer = await reader.goto(`${appUrl()}${path}`);
  expect(answer?.status()).toBe(200);
  expect(answer?.headers()['content-security-policy']).toContain('frame-ancestors https://intranet.example');
  expect(answer?.headers()['x-frame-options']).toBeUndefined();
  await expect(reader.getByRole('heading', { name: 'Expenses by account' })).toBeVisible();
  await expect(reader.getByText('6210 Marine diesel', { exact: true })).toBeVisible();
  await accessible(reader);
  await page.goto(`${appUrl()}/reports/embeds`);
  const row = page.getByRole('row').filter({ hasText: 'Expenses by account' });
  await expect(row).toContainText('once');
  await accessible(page);
  await row.getByRole('button', { name: 'end', exact: true }).click();
  await expect(row).toContainText('ended');
  expect((await reader.goto(`${appUrl()}${path}`))?.status()).toBe(404);
  await expect(reader.getByText('This panel is not here any more.')).toBeVisible();
  await reader.context().close();
  await page.close();
});

test('a page of panels is read under one sentence, traced from, and arranged by keys', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/reports/overviews`);
  await page.getByRole('link', { name: 'The month at a glance' }).click();
  const fares = page.getByRole('region', { name: 'Fares' });
  await expect(fares).toContainText('(1,962,563.93)');
  await accessible(page);
  // One choice drives every panel: the year before has other fares.
  await choose(page, 'Window', 'last-year');
  await expect(fares).toContainText('(18,271,976.57)');
  await expect(fares).not.toContainText('(1,962,563.93)');
  await choose(page, 'Window', { label: 'each report’s own window' });
  await expect(fares).toContainText('(1,962,563.93)');
  // It leaves whole, and is frozen whole.
  const paper = await brought(page, () => page.getByRole('link', { name: 'On paper' }).click());
  expect(readFileSync(paper).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: 'Freeze' }).click();
  await page.getByRole('button', { name: 'Open' }).click();
  await expect(page.getByRole('region', { name: 'Money in the bank' })).toContainText('39,246,234.80');
  await expect(page.getByText('Nothing has been loaded since.')).toBeVisible();
  await accessible(page);
  await page.goBack();
  await expect(fares).toContainText('(1,962,563.93)');
  await page.getByRole('button', { name: 'Arrange' }).click();
  const before = (await fares.boundingBox())?.width ?? 0;
  await fares.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(async () => ((await fares.boundingBox())?.width ?? 0) > before + 40).toBe(true);
  await page.reload();
  await expect(fares).toContainText('(1,962,563.93)');
  expect((await fares.boundingBox())?.width ?? 0).toBeGreaterThan(before + 40);
  await fares.getByRole('link', { name: '(1,962,563.93)' }).click();
  await expect(page.getByRole('grid', { name: 'Split by route' })).toBeVisible();
  await page.close();
  // Col sees a part of the books, and no page of reports that name accounts.
  const his = await browser.newPage();
  await signIn(his, 'col');
  await his.goto(`${appUrl()}/reports/overviews`);
  await expect(his.getByRole('heading', { name: 'Reports' })).toBeVisible();
  await expect(his.getByRole('link', { name: 'The month at a glance' })).toHaveCount(0);
  await his.close();
});

test('a thread leaves as a bundle, in which one traces with no server and no network', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'ines');
  const step = {
    address: '/lines?entity=KSF',
    view: 'lines',
    subject: 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=1310',
  };
  const answer = await page.request.post(`${appUrl()}/api/v1/threads`, {
    data: {
      name: 'Freight customers of the quarter',
      steps: [{ ...step, label: 'Freight customers', measure: 'closing' }],
    },
    headers: { origin: appUrl() },
  });
  const { id } = (await answer.json()) as { id: number };
  await page.goto(`${appUrl()}/threads/${id}`);
  await page.getByRole('button', { name: 'Make a bundle' }).click();
  await expect(page.getByText('The bundle is being made')).toBeVisible();
  await page.goto(`${appUrl()}/reports/files`);
  const row = page.getByRole('row').filter({ hasText: 'Freight customers of the quarter' });
  await expect(row).toContainText('made', { timeout: 60_000 });
  const bundle = await brought(page, () => row.getByRole('link', { name: 'save' }).click());
  await page.close();
  expect(verified(bundle)).toContain('1 figures worked out again');

  const folder = mkdtempSync(join(tmpdir(), 'just-thread-journey-'));
  const { mkdir, writeFile } = await import('node:fs/promises');
  for (const name of await archiveNames(bundle)) {
    await mkdir(dirname(join(folder, name)), { recursive: true });
    await writeFile(join(folder, name), await archiveMember(bundle, name));
  }
  const context = await browser.newContext({ offline: true, locale: 'en-GB' });
  const stranger = await context.newPage();
  await stranger.goto(`file://${folder}/index.html`);
  await expect(stranger.getByRole('status').first()).toContainText('✓ All 1 figures were worked out again');
  // The page itself looks at every file, and at the signature over the list of them.
  await stranger.getByLabel('choose its ZIP').setInputFiles(bundle);
  await expect(stranger.getByText(/^✓ All \d+ files are as they left, and the signature holds/)).toBeVisible();
  await stranger.getByRole('button', { name: 'Freight customers', exact: true }).click();
  await stranger.getByLabel('Split by').selectOption('counterparty');
  await stranger.getByRole('button', { name: /^C-101/ }).click();
  await expect(stranger.getByRole('row').last()).toContainText('11,073.14');
  await stranger.locator('tbody').getByRole('button').first().click();
  await expect(stranger.getByRole('heading', { name: /^Entry / })).toBeVisible();
  await stranger.keyboard.press('Backspace');
  await stranger.keyboard.press('Backspace');
  await expect(stranger.getByLabel('Split by')).toHaveValue('counterparty');
  await accessible(stranger);
  // What it began with is the sum of lines that are inside too.
  await stranger.getByRole('button', { name: 'Freight customers', exact: true }).click();
  await stranger.getByRole('button', { name: /^opening/ }).click();
  await expect(stranger.getByText('The lines before, of which its opening is the sum.')).toBeVisible();
  await context.close();
});
