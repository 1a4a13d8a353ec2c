import { expect, type Locator, type Page, test } from '@playwright/test';
import ExcelJS from 'exceljs';
import { accessible, appUrl, choose, signIn } from './app';

test('who is known by the organisation signs in through it and goes where they wanted; who was not added is told', async ({
  browser,
}) => {
  const page = await browser.newPage();
  await page.goto(`${appUrl()}/findings`);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: 'Sign in through Kestrel' }).click();
  await page.getByRole('link', { name: /^Nobody Here/ }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'You are not among the people here' })).toBeVisible();
  await page.goto(`${appUrl()}/findings`);
  await page.getByRole('link', { name: 'Sign in through Kestrel' }).click();
  await page.getByRole('link', { name: /^Priya Lund/ }).click();
  await expect(page).toHaveURL(/\/findings$/);
  await expect(page.getByText('Priya Lund').first()).toBeVisible();
  // What came back once is no way in again.
  await page.context().clearCookies();
  await page.goto(`${appUrl()}/api/v1/session/provider/return?code=made-up&state=made-up`);
  await expect(page.getByRole('alert').filter({ hasText: 'was too old, or not meant for this browser' })).toBeVisible();
  await page.close();
});

/** Lets a file fall on an element, or pastes it there, as a browser tells of it. */
async function give(
  at: Locator,
  how: 'drop' | 'paste',
  file: { name: string; type: string; bytes: Buffer },
): Promise<void> {
  await at.evaluate(
    (element, { how: act, name, type, content }) => {
      const bytes = Uint8Array.from(atob(content), (c) => c.charCodeAt(0));
      const carried = new DataTransfer();
      carried.items.add(new File([bytes], name, { type }));
      element.dispatchEvent(
        act === 'drop'
          ? new DragEvent('drop', { dataTransfer: carried, bubbles: true, cancelable: true })
          : new ClipboardEvent('paste', { clipboardData: carried, bubbles: true, cancelable: true }),
      );
    },
    { how, name: file.name, type: file.type, content: file.bytes.toString('base64') },
  );
}

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

async function workbook(): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Stages').addRows([
    ['Stage', 'Amount'],
    ['Third', 410200],
  ]);
  book.addWorksheet('Crane').addRow(['Two lifts']);
  return Buffer.from(await book.xlsx.writeBuffer());
}

async function keptThread(page: Page, name: string): Promise<void> {
  await page.goto(`${appUrl()}/trial-balance?entity=STL&from=2027.04&to=2027.06&accounts=66*`);
  await page
    .getByRole('gridcell', { name: /Repairs of buildings/ })
    .first()
    .click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('columnheader', { name: 'Other side' })).toBeVisible();
  await page.getByRole('button', { name: 'Keep this thread' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText(`kept in “${name}”`)).toBeVisible();
}

test('files are dropped and pasted where they belong and shown there; a figure stands in a conclusion; a thread is shared with whom one says', async ({
  browser,
}) => {
  const [tomas, priya] = await Promise.all([browser.newPage(), browser.newPage()]);
  await Promise.all([signIn(tomas, 'tomas'), signIn(priya, 'priya')]);
  await keptThread(tomas, 'Sheds, apart');

  // A picture is pasted on the focused row; it stands in the margin, and beside the sheet.
  const cell = tomas.locator('[data-cell="1:4"]');
  await cell.click();
  await give(cell, 'paste', { name: 'shed.png', type: 'image/png', bytes: PNG });
  await tomas.getByLabel('Margin').getByRole('button', { name: 'shed.png' }).click();
  await expect(tomas.getByRole('complementary', { name: 'File beside' })).toContainText('image/png');
  // The figure is copied, to be pasted into what the thread concludes.
  await cell.click();
  await tomas.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await tomas.keyboard.press('Control+c');

  await tomas.goto(`${appUrl()}/threads`);
  await tomas.getByRole('link', { name: 'Sheds, apart' }).click();
  await tomas.getByRole('button', { name: 'Change what it says' }).click();
  await tomas.getByRole('textbox', { name: 'Conclusion' }).click();
  await tomas.keyboard.type('In all ');
  await tomas.keyboard.press('Control+v');
  await tomas.keyboard.press('Control+Enter');
  const quote = tomas.getByRole('definition').getByRole('link', { name: /, GBP / });
  await expect(quote).toBeVisible();
  await accessible(tomas);

  // A workbook falls on the thread, and is read as rows without being opened.
  const said = tomas.getByRole('region', { name: 'What was said' });
  await give(said, 'drop', { name: 'stages.xlsx', type: '', bytes: await workbook() });
  await said.getByRole('button', { name: 'stages.xlsx' }).click();
  const shown = tomas.getByRole('dialog', { name: 'stages.xlsx' });
  await expect(shown.getByRole('table', { name: 'Stages' })).toContainText('410200', { timeout: 60_000 });
  await accessible(tomas);
  await shown.getByRole('button', { name: 'Crane' }).click();
  await expect(shown.getByRole('table', { name: 'Crane' })).toContainText('Two lifts');
  await tomas.keyboard.press('Escape');
  // What is no evidence is not taken, and it is said.
  await give(said, 'drop', { name: 'page.html', type: 'text/html', bytes: Buffer.from('<script>1</script>') });
  await expect(tomas.getByText('this is of no kind that is kept as evidence')).toBeVisible();

  // It is seen by everybody until its maker says otherwise, and then by whom he names.
  const thread = new URL(tomas.url()).pathname;
  await priya.goto(`${appUrl()}${thread}`);
  await expect(priya.getByRole('heading', { name: 'Sheds, apart' })).toBeVisible();
  await tomas.getByRole('button', { name: 'Who may do what' }).click();
  await choose(tomas, 'What Everybody else may', { label: 'does not see it' });
  await accessible(tomas);
  await tomas.getByRole('dialog').getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(tomas.getByRole('dialog')).toBeHidden();
  await priya.reload();
  await expect(priya.getByText(/is not there, or outside/)).toBeVisible();
  await tomas.getByRole('button', { name: 'Who may do what' }).click();
  await choose(tomas, 'Say it of somebody', { label: 'Priya Lund' });
  await choose(tomas, 'What Priya Lund may', { label: 'changes what it says' });
  await tomas.getByRole('dialog').getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(tomas.getByRole('dialog')).toBeHidden();
  await priya.reload();
  await expect(priya.getByRole('button', { name: 'Change what it says' })).toBeVisible();
  await expect(priya.getByRole('button', { name: 'Who may do what' })).toHaveCount(0);

  // The record is asked about the account, and tells of all that was done on it.
  await priya.goto(`${appUrl()}/settings/record`);
  await priya.getByLabel('About').fill('account 6610');
  await priya.keyboard.press('Enter');
  await expect(priya.getByRole('cell', { name: 'attached a file' }).first()).toBeVisible();
  await accessible(priya);
  const saved = priya.waitForEvent('download');
  await priya.getByRole('link', { name: 'Save as CSV' }).click();
  expect((await saved).suggestedFilename()).toMatch(/^record-\d+-[0-9a-f]{16}\.csv$/);
  await Promise.all([tomas.close(), priya.close()]);
});
