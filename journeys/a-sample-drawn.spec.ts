import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { accessible, appUrl, choose, signIn } from './app';

test('a monetary unit sample is reckoned, drawn, worked at and evaluated; it stands in its thread and comes again from its seed', async ({
  browser,
}) => {
  const page = await browser.newPage();
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.01&to=2027.06&accounts=63*`);
  await page.getByRole('gridcell', { name: /^6310/ }).first().click();
  await page.keyboard.press('S');
  const dialog = page.getByRole('dialog', { name: /^Draw a sample of/ });
  await dialog.getByLabel('Tolerable misstatement').fill('ten');
  await dialog.getByRole('button', { name: 'Reckon' }).click();
  await expect(dialog.getByRole('alert')).toBeVisible();
  await dialog.getByLabel('Tolerable misstatement').fill('400000');
  await dialog.getByLabel('Seed').fill('harrowick');
  await dialog.getByLabel('Looked for in each item, one a line').fill('approved');
  await dialog.getByRole('button', { name: 'Reckon' }).click();
  await expect(dialog.getByRole('status')).toContainText('✓ It is what the ledger moved by.');
  await expect(dialog.getByRole('status')).toContainText('tolerable ÷ 3.00');
  await accessible(page);
  await dialog.getByRole('button', { name: /^Draw \d+$/ }).click();
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible();

  // Each item is looked at; one is half of what is booked.
  const items = page.getByRole('table', { name: 'Items' }).getByRole('row');
  const many = (await items.count()) - 1;
  expect(many).toBeGreaterThan(2);
  await items.nth(1).getByRole('button').click();
  for (let i = 1; i <= many; i++) {
    const form = page.getByRole('region', { name: `Item ${i}`, exact: true });
    await form.getByRole('button', { name: 'as booked' }).click();
    if (i === 2) {
      const booked = Number(await form.getByLabel('Found').inputValue());
      await form.getByLabel('Found').fill((booked / 2).toFixed(2));
      await form.getByLabel('What was looked at, and what it showed').fill('Half of it is of the next year');
    }
    await form.getByRole('radio', { name: i === 2 ? 'no' : 'yes' }).check();
    if (i === 1) await accessible(page);
    await form.getByRole('button', { name: 'Keep, next' }).click();
    await expect(page.getByText(`${i} of ${many} are tested`)).toBeVisible();
  }
  // The table is saved, worked at elsewhere, and brought back.
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save as CSV' }).click();
  const table = readFileSync(await (await saved).path(), 'utf8');
  expect(table.split('\r\n')).toHaveLength(many + 2);
  const changed = table.replace(/(\r\n1,[^\r]*),,yes(?=\r)/, '$1,Agrees with the order,no');
  expect(changed).not.toBe(table);
  await page
    .getByLabel('Bring it back')
    .setInputFiles({ name: 'sample.csv', mimeType: 'text/csv', buffer: Buffer.from(changed) });
  await expect(page.getByText('1 item taken over')).toBeVisible();
  const told = page.getByRole('region', { name: 'What it tells' });
  await expect(told.getByRole('cell', { name: `2 of ${many}` })).toBeVisible();
  await expect(told.getByText(/^1, GBP /)).toBeVisible();
  await expect(told.getByText('Too much booked, at most, 95 %')).toBeVisible();
  await page.getByRole('textbox', { name: 'Conclusion' }).fill('Less than is tolerable.');
  await page.getByRole('region', { name: 'Conclusion' }).getByRole('button', { name: 'Keep' }).click();
  await page.getByRole('button', { name: 'Draw it again' }).click();
  await expect(page.getByText(`✓ The seed draws the same ${many} again`)).toBeVisible();
  await page.getByRole('link', { name: 'Samples', exact: true }).click();
  await expect(page.getByRole('cell', { name: `${many} of ${many}` })).toBeVisible();
  await accessible(page);

  // In strata, whose bounds are proposed; of entries.
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.01&to=2027.06&accounts=63*`);
  await page.getByRole('gridcell', { name: /^6310/ }).first().click();
  await page.keyboard.press('S');
  await choose(page, 'Drawn are', { label: 'entries' });
  await choose(page, 'Method', { label: 'stratified by amount' });
  await dialog.getByRole('button', { name: 'Reckon' }).click();
  await expect(dialog.getByRole('table', { name: 'Strata' }).getByRole('row')).toHaveCount(6);
  await page.keyboard.press('Escape');
  await page.close();
});
