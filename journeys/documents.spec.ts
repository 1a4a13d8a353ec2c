import { expect, test } from '@playwright/test';
import { accessible, appUrl, signIn } from './app';

test('story 17: lines are walked with their papers beside them, to the change order that was billed twice', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/lines?entity=KSF&window=everything&accounts=1130`);
  await page.getByRole('gridcell', { name: /stage 3, final/ }).click();
  await page.keyboard.press('v');
  const beside = page.getByRole('complementary', { name: 'Document beside' });
  await expect(beside.getByRole('heading', { name: 'Document BSW-3420' })).toBeVisible();
  // The tax of the line and the number of the invoice stand on the paper; the line's own amount is on it in two parts.
  await expect(beside.getByText('2 marked')).toBeVisible();
  await expect(beside.getByRole('img', { name: 'BSW-3420.pdf, page 1' })).toBeVisible();
  const drawn = await beside.locator('canvas').evaluate((canvas: HTMLCanvasElement) => {
    const { data } = (canvas.getContext('2d') as CanvasRenderingContext2D).getImageData(
      0,
      0,
      canvas.width,
      canvas.height,
    );
    let dark = 0;
    for (let i = 0; i < data.length; i += 4) if ((data[i] as number) < 100 && (data[i + 3] as number) > 0) dark += 1;
    return dark;
  });
  expect(drawn).toBeGreaterThan(500);
  await accessible(page);
  // It follows the keyboard: the invoice before billed the same change order by itself, and its amount is marked.
  await page.keyboard.press('ArrowUp');
  await expect(beside.getByRole('heading', { name: 'Document BSW-3391' })).toBeVisible();
  await expect(beside.getByText('3 marked')).toBeVisible();
  await expect(beside.getByText('settled by')).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('+');
  await expect(beside.getByText('125 %')).toBeVisible();
  // A line that names none says so.
  await page.keyboard.press('Control+Home');
  await expect(beside.getByText('names no document')).toBeVisible();
  // From the paper to the document, and on to its contract, which is billed for more than it is worth.
  await page.keyboard.press('ArrowDown');
  await beside.getByRole('button', { name: 'Open' }).click();
  await page.getByRole('link', { name: 'CON-LINK-BRE' }).first().click();
  await expect(page.getByText('contract, billed for more than it is worth')).toBeVisible();
  // Its paper has pages, which turn.
  await expect(page.getByText('page 1 of 3')).toBeVisible();
  await page.getByRole('button', { name: 'Next page' }).click();
  await expect(page.getByRole('img', { name: 'CON-LINK-BRE.pdf, page 2' })).toBeVisible();
  await accessible(page);
  // A document is quoted in what is written about it, and traced from there.
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Copy to quote it' }).click();
  await page.getByRole('button', { name: 'Write a note' }).click();
  await page.getByRole('textbox', { name: /^Note on/ }).click();
  await page.keyboard.type('More was billed than ');
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('link', { name: /^contract CON-LINK-BRE/ })).toHaveAttribute(
    'href',
    /^\/documents\/CON-LINK-BRE/,
  );
});

test('journals are read as books, with the numbers that are missing, and lead to boxes, entries and their origin', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/journals?entity=KSF&window=everything`);
  await page.getByRole('button', { name: /^FI / }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 number that no entry bears')).toBeVisible();
  await expect(page.getByText('FI-00871')).toBeVisible();
  await expect(page.getByText('Box 1, tax on sales')).toBeVisible();
  await expect(page.getByText(/Entries 1 to 50 of/).first()).toBeVisible();
  await expect(page.getByText('the books add up to it')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'The next 50' }).first().click();
  await expect(page.getByText(/Entries 51 to 100 of/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Fold all' }).click();
  await expect(page.getByText('Box 1, tax on sales')).toBeHidden();
  await page.getByRole('link', { name: 'Entered lately' }).click();
  await expect(page.getByText('the last entered first')).toBeVisible();
  await page
    .getByRole('link', { name: /^(TS|JE|BR|PI)-/ })
    .first()
    .click();
  await expect(page.getByText('Origin')).toBeVisible();
});

test('what keeps documents and their control account apart is listed item by item', async ({ page }) => {
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/documents?entity=KSF&accounts=2122&to=2027.03`);
  await page.getByRole('button', { name: 'What does not match' }).click();
  const table = page.getByRole('table', { name: 'What does not match on 2122' });
  await expect(table.getByText('in the ledger only').first()).toBeVisible();
  await expect(page.getByText('all differences come to that')).toBeVisible();
  await accessible(page);
  await table
    .getByRole('link', { name: /^JE-KSF/ })
    .first()
    .click();
  await expect(page.getByRole('gridcell', { name: /kroner owed|Reversal of/ }).first()).toBeVisible();
});
