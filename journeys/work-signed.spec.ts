import { expect, type Page, test } from '@playwright/test';
import { accessible, appUrl, fileOf, signIn } from './app';

/** Goes to a sheet and puts the keyboard on its first cell that is called so. */
async function onRow(page: Page, path: string, name: RegExp): Promise<void> {
  await page.goto(`${appUrl()}${path}`);
  await page.getByRole('gridcell', { name }).first().click();
  await expect(page.locator('[role=gridcell]:focus')).toHaveText(name);
}

test('story 1 as a record: ticked, attached, quoted, found, signed, asked about, cleared, reviewed, and moved by a newer load', async ({
  browser,
}) => {
  const [tomas, priya] = await Promise.all([browser.newPage(), browser.newPage()]);
  await Promise.all([signIn(tomas, 'tomas'), signIn(priya, 'priya')]);

  // From the statement down to the lines; the way is kept from there on.
  await onRow(tomas, '/trial-balance?entity=STL&from=2027.04&to=2027.06&accounts=66*', /Repairs of buildings/);
  await tomas.keyboard.press('Enter');
  await expect(tomas.getByRole('columnheader', { name: 'Other side' })).toBeVisible();
  await tomas.getByRole('button', { name: 'Keep this thread' }).click();
  await tomas.getByLabel('Name').fill('Terminal repairs');
  await tomas.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(tomas.getByText('kept in “Terminal repairs”')).toBeVisible();

  // All lines are ticked at once, and counted with their amount.
  const rows = tomas.locator('[role=row][aria-rowindex]').filter({ has: tomas.locator('[data-cell$=":1"]') });
  await tomas.locator('[data-cell="1:1"]').click();
  for (let i = 0; i < 3; i++) await tomas.keyboard.press('Shift+ArrowDown');
  await tomas.keyboard.press('t');
  await expect(tomas.getByRole('listbox', { name: 'Legend of ticks' })).toBeFocused();
  await accessible(tomas);
  await tomas.keyboard.press('1');
  await expect(tomas.getByText(/^4 of \d+ lines ticked, \d+ % of the amount$/)).toBeVisible();
  await expect(rows.nth(1).getByText('ticked: agreed to the document')).toBeAttached();
  await tomas.keyboard.press('Escape');
  await tomas.keyboard.press('T');
  await expect(tomas.locator('[data-cell="5:1"]')).toBeFocused();

  // A figure is copied, and pasted into a note as a figure; somebody is spoken to.
  await tomas.locator('[data-cell="1:4"]').click();
  await tomas.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await tomas.keyboard.press('Control+c');
  await tomas.keyboard.press('n');
  const note = tomas.getByRole('textbox', { name: /^Note on/ });
  await expect(note).toBeFocused();
  await tomas.keyboard.type('Twice? ');
  await tomas.keyboard.press('Control+v');
  await tomas.keyboard.type('@pri');
  await expect(tomas.getByRole('list', { name: 'Colleagues' }).getByText('Priya Lund')).toBeVisible();
  await tomas.keyboard.press('Enter');
  await tomas.keyboard.press('Control+Enter');
  await expect(tomas.getByLabel('Margin').getByText('@Priya Lund')).toBeVisible();
  await expect(tomas.getByLabel('Margin').getByRole('link', { name: /line 1, Debit, GBP / })).toBeVisible();
  await accessible(tomas);

  // A file, and what was found.
  await tomas.locator('[data-cell="1:4"]').click();
  await tomas.keyboard.press('A');
  await tomas.getByLabel('File', { exact: true }).setInputFiles(fileOf('quote.txt', ['Two visits, 4,107.15 in all']));
  await tomas.getByRole('button', { name: 'Attach' }).click();
  await tomas.getByLabel('Margin').getByRole('button', { name: 'quote.txt' }).click();
  await expect(tomas.getByLabel('File beside').getByText('Two visits, 4,107.15 in all')).toBeVisible();
  await tomas.getByLabel('File beside').getByRole('button', { name: 'Close' }).click();
  await tomas.locator('[data-cell="1:4"]').click();
  await tomas.keyboard.press('F');
  await tomas.getByLabel('What was found').fill('A visit was charged twice');
  await tomas.getByRole('button', { name: 'Write finding' }).click();
  await expect(tomas.getByLabel('Margin').getByRole('link', { name: 'A visit was charged twice' })).toBeVisible();
  // A clean sheet has none of it.
  await tomas.getByRole('button', { name: 'all shown' }).click();
  await tomas.getByRole('button', { name: /Show none/ }).click();
  await expect(tomas.getByLabel('Margin').getByText('@Priya Lund')).toBeHidden();
  await tomas.getByRole('button', { name: 'Show all' }).click();
  await tomas.keyboard.press('Escape');

  // The record says what was to be shown and what was concluded, and is signed.
  await tomas.getByRole('link', { name: 'kept in “Terminal repairs”' }).click();
  await expect(tomas.getByText('No conclusion is written yet.')).toBeVisible();
  await tomas.getByRole('button', { name: 'Change what it says' }).click();
  await tomas.getByLabel(/^Reference/).fill('T-7');
  await tomas.getByLabel(/^Folder/).fill('2027 Q2/Terminals');
  await tomas.getByLabel(/^Purpose/).fill('Were repairs booked once?');
  await tomas.getByLabel('occurrence').check();
  await tomas.getByLabel('Conclusion', { exact: true }).fill('One visit is booked twice.');
  await tomas.getByRole('button', { name: 'Keep', exact: true }).click();
  const evidence = tomas.getByRole('table', { name: 'Evidence' });
  await expect(evidence.getByRole('row')).toHaveCount(1 + 4 + 3);
  await accessible(tomas);
  await tomas.getByRole('button', { name: 'Sign as preparer' }).click();
  await expect(tomas.getByText('◐ prepared')).toBeVisible();
  const path = new URL(tomas.url()).pathname;

  // The reviewer is led there by the mention, and raises a point, which stands in the way.
  await priya.goto(`${appUrl()}/desk`);
  await expect(priya.getByText(/speaks to you about/).first()).toBeVisible();
  await priya.goto(`${appUrl()}${path}`);
  await expect(priya.getByRole('button', { name: 'Sign as reviewer' })).toBeEnabled();
  await priya.getByRole('button', { name: 'Raise a point' }).click();
  await priya.getByRole('textbox', { name: /^Review point on/ }).fill('Who approved the second?');
  await priya.getByRole('button', { name: 'Raise point' }).click();
  await expect(priya.getByText('One review point is not cleared.')).toBeVisible();
  await expect(priya.getByRole('button', { name: 'Sign as reviewer' })).toBeDisabled();
  await tomas.goto(`${appUrl()}/desk`);
  await tomas.getByRole('link', { name: /Priya Lund raised a point/ }).click();
  await tomas.getByRole('article', { name: 'Review point on T-7' }).getByRole('button', { name: 'answer' }).click();
  await tomas.getByRole('textbox', { name: /^Answer to/ }).fill('The same person as the first.');
  await tomas.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(tomas.getByText('The same person as the first.')).toBeVisible();
  await accessible(tomas);
  await priya.goto(`${appUrl()}${path}`);
  await priya.getByRole('button', { name: 'clear', exact: true }).click();
  await priya.getByRole('button', { name: 'Sign as reviewer' }).click();
  await expect(priya.getByText('● signed')).toBeVisible();
  await accessible(priya);

  // A newer load moves it: it says so everywhere, and what was signed stays as it was signed.
  const load = fileOf('stl-later.csv', [
    'entity,entry,line,date,account,debit,credit,description,dim:costcentre',
    'STL,X-LATE-1,1,2026-09-20,6611,55.00,,A visit that came late,TRM-BRE',
    'STL,X-LATE-1,2,2026-09-20,1520,,55.00,A visit that came late,',
  ]);
  const sent = await tomas.request.post(`${appUrl()}/api/v1/loads`, {
    headers: { origin: appUrl() },
    multipart: {
      kind: 'lines',
      entity: 'STL',
      file: { name: 'late.csv', mimeType: 'text/csv', buffer: (await import('node:fs')).readFileSync(load) },
    },
  });
  expect(sent.status()).toBe(202);
  const { id } = (await sent.json()) as { id: number };
  await expect
    .poll(
      async () =>
        ((await (await tomas.request.get(`${appUrl()}/api/v1/loads/${id}`)).json()) as { status: string }).status,
    )
    .toBe('loaded');
  await priya.reload();
  await expect(priya.getByText(/figures? (has|have) moved since; what was signed stays/)).toBeVisible();
  await priya.getByRole('button', { name: 'Tomas Ek', exact: true }).click();
  await expect(priya.getByText('✓ What is kept gives the digest that was signed.')).toBeVisible();
  await expect(priya.getByText('One visit is booked twice.').last()).toBeVisible();
  await accessible(priya);
  await priya.getByRole('button', { name: 'Close' }).click();
  await priya.goto(`${appUrl()}/threads/done?entity=STL&statement=income&from=2027.04&to=2027.06`);
  await expect(priya.getByRole('row', { name: /● signed.*T-7 Terminal repairs/ })).toBeVisible();
  await accessible(priya);

  // The next quarter begins with the steps of this one, and its conclusion at hand.
  await tomas.goto(`${appUrl()}${path}`);
  await tomas.getByRole('button', { name: 'Roll forward' }).click();
  await tomas.getByRole('textbox', { name: /^From period/ }).fill('2027.01');
  await tomas.getByRole('textbox', { name: 'to', exact: true }).fill('2027.03');
  await tomas
    .getByRole('dialog')
    .getByLabel(/^Folder/)
    .fill('2027 Q1/Terminals');
  await tomas.getByRole('dialog').getByRole('button', { name: 'Roll forward' }).click();
  await tomas.getByRole('dialog').getByRole('link', { name: 'Terminal repairs' }).click();
  await expect(tomas.getByText('Terminal repairs: One visit is booked twice.')).toBeVisible();
  await expect(tomas.getByText('No conclusion is written yet.')).toBeVisible();
  await tomas.goto(`${appUrl()}/threads`);
  await expect(tomas.getByRole('heading', { name: /2027 Q1 › Terminals/ })).toBeVisible();
  await accessible(tomas);
});

test('a reader of two cost centres is asked, answers from the letter’s address, and sees nothing else', async ({
  browser,
}) => {
  const [tomas, col] = await Promise.all([browser.newPage(), browser.newPage()]);
  await Promise.all([signIn(tomas, 'tomas'), signIn(col, 'col')]);
  const scope = 'entity=KSF&from=2027.04&to=2027.06&accounts=6310';
  // Of all of it he is not asked: he does not see it.
  await onRow(tomas, `/trial-balance?${scope.replace('6310', '63*')}`, /Repairs and spares/);
  await tomas.keyboard.press('q');
  await tomas.getByRole('textbox', { name: /^Question on/ }).fill('Why?');
  await tomas.getByLabel('Whom to ask').click();
  await tomas.getByRole('option', { name: 'Col Marsh' }).click();
  await tomas.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(tomas.getByText(/Col Marsh does not see what this is about/)).toBeVisible();
  await col.goto(`${appUrl()}/desk`);
  await expect(col.getByText('Waits for you')).toBeVisible();
  await accessible(col);
  await col.getByRole('link', { name: /asks about 6310/ }).click();
  await col.getByRole('textbox', { name: /^Answer to/ }).fill('A pump, which lasts.');
  await col.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(col.getByText('A pump, which lasts.')).toBeVisible();
  await accessible(col);
  // Of findings, points and threads on whole books he sees none.
  for (const path of ['/findings', '/threads/points', '/threads']) {
    await col.goto(`${appUrl()}${path}`);
    await expect(col.getByText(/^(No finding is here|No point waits|No thread is kept yet)/)).toBeVisible();
  }
  await tomas.goto(`${appUrl()}/desk`);
  await tomas.getByRole('link', { name: /Col Marsh answered about/ }).click();
  await expect(tomas.getByText('A pump, which lasts.')).toBeVisible();
});
