import { expect, test } from '@playwright/test';
import { accessible, appUrl, choose, signIn } from './app';

test('what moved, a crosstab, a thread kept, walked again for another year, and fanned out', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06&accounts=63*`);
  await page.getByRole('gridcell', { name: '6320 Dry-docking' }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');

  // Over time, as a picture and as a table.
  await page.keyboard.press('g');
  const overTime = page.getByRole('region', { name: 'Over time' });
  await expect(overTime).toContainText('✓ ties');
  await expect(overTime.getByRole('button', { name: /^July 2026: 820,400\.00/ })).toBeVisible();
  await accessible(page);
  await overTime.getByRole('button', { name: 'As a table' }).click();
  await expect(overTime.getByRole('row', { name: /July 2026/ })).toContainText('820,400.00');

  // What moved: every dimension tells the same change; the telling one is split by with one click.
  await page.keyboard.press('w');
  const moved = page.getByRole('region', { name: 'What moved' });
  await expect(moved).toContainText('✓ ties');
  await moved.getByRole('button', { name: /^Project/ }).click();
  await expect(moved.getByRole('row', { name: /New linkspan Brenna/ })).toContainText('new');
  await accessible(page);
  await moved.getByRole('button', { name: 'Split by project' }).click();
  await expect(page.getByRole('grid', { name: 'Split by project' })).toBeVisible();

  // Nested by account, across periods; a cell leads to its lines.
  await page.getByRole('button', { name: 'Lay out' }).click();
  const lanes = page.getByRole('dialog', { name: 'Lay out rows and columns' });
  // What is dragged has come to rest: taken up on its way, another stands where it was.
  await page.waitForLoadState('networkidle');
  await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'));
  const chip = lanes.getByRole('button', { name: 'counterparty' });
  let before = '';
  await expect
    .poll(
      async () => {
        const now = JSON.stringify(await chip.boundingBox());
        const rests = now === before;
        before = now;
        return rests;
      },
      { intervals: [500] },
    )
    .toBe(true);
  await chip.hover();
  await chip.dragTo(lanes.getByRole('region', { name: 'Rows, the outermost first' }));
  await expect(lanes.getByRole('region', { name: /^Rows/ }).getByRole('button')).toHaveText([
    'project',
    'counterparty',
  ]);
  await lanes.getByRole('button', { name: 'period', exact: true }).press('ArrowLeft');
  await expect(lanes.getByRole('button', { name: 'period', exact: true })).toBeFocused();
  await accessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'July 2026' })).toBeVisible();
  await expect(page.locator('footer').getByText('✓ ties')).toBeVisible();
  // One column in weeks while the others stay, and as it was.
  await choose(page, 'open column', { label: 'July 2026' });
  await expect(page.getByRole('columnheader', { name: 'July 2026, all' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: /week 27 of 2026/ })).toBeVisible();
  await expect(page.locator('footer').getByText('✓ ties')).toBeVisible();
  await page.getByRole('button', { name: 'by change' }).click();
  await accessible(page);
  await choose(page, 'open column', { label: 'none' });
  await page.getByRole('button', { name: 'by size' }).click();
  await accessible(page);
  await page.getByRole('button', { name: 'Fold all' }).click();
  await page
    .getByRole('row', { name: /New linkspan Brenna/ })
    .getByRole('gridcell', { name: '410,200.00' })
    .first()
    .click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('gridcell', { name: 'PI-KSF-90639' })).toBeVisible();

  // Kept; a further step is added by being taken.
  await page.getByRole('button', { name: 'Keep this thread' }).click();
  await page.getByLabel('Name').fill('A docking on a pier');
  await accessible(page);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('link', { name: 'kept in “A docking on a pier”' })).toBeVisible();
  await page.getByRole('gridcell', { name: 'PI-KSF-90639' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /PI-KSF-90639/ })).toBeVisible();
  await page.getByRole('link', { name: 'kept in “A docking on a pier”' }).click();
  await expect(page.getByRole('heading', { name: 'A docking on a pier' })).toBeVisible();
  const steps = page.getByRole('table', { name: 'Steps' });
  await expect(steps.getByRole('row', { name: /PI-KSF-90639/ })).toContainText('entry');
  await accessible(page);

  await steps
    .getByRole('row', { name: /New linkspan Brenna/ })
    .getByRole('button', { name: 'annotate' })
    .click();
  await page.getByLabel('What was found here').fill('The same invoice as PI-KSF-90631');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(steps).toContainText('The same invoice as PI-KSF-90631');

  await choose(page, 'From period', '2026.04');
  await choose(page, 'To period', '2026.06');
  await expect(steps.getByRole('columnheader', { name: 'Walked again' })).toBeVisible();
  await expect(steps).toContainText('new: Dry-docking Tern 2025');
  await choose(page, 'or once for every', 'dim:vessel');
  const fanned = page.getByRole('table', { name: 'Once for every member' });
  await expect(fanned.getByRole('row', { name: /Maren/ })).toBeVisible();
  await expect(fanned).toContainText('✓ ties');
  await expect(fanned).not.toContainText('off by');
  await accessible(page);

  // A comparison of loads names the threads that it touches.
  await page.goto(`${appUrl()}/loads/compare?from=6&to=7`);
  await expect(page.getByRole('link', { name: 'Thread “Repairs up by half in the second quarter”' })).toBeVisible();
});

test('rows that stand out are walked by a key, by rules that an owner sets; a statement goes from unit to unit', async ({
  page,
}) => {
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.04&to=2027.06&open=all`);
  await expect(page.getByRole('button', { name: /stand out$/ })).toBeVisible();
  await page.locator('[role=gridcell][tabindex="0"]').focus();
  await page.keyboard.press('m');
  await expect(page.locator('footer')).toContainText(/against a year before|% of|usually/);
  await page.getByRole('button', { name: /stand out$/ }).click();
  await expect(page.getByRole('region', { name: 'What stands out' })).toContainText(
    /6320 Dry-docking (rose|fell) by [\d,.]+ against a year before/,
  );
  await accessible(page);

  await page.getByRole('button', { name: /^Unit/ }).click();
  await page.getByRole('tab', { name: 'Vessel' }).click();
  await page.getByRole('button', { name: /^Maren/ }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('scope')).toContainText('vessel Maren');
  await page.locator('[role=gridcell][tabindex="0"]').focus();
  await page.keyboard.press('.');
  await expect(page.getByTestId('scope')).not.toContainText('Maren');
  await expect(page.getByTestId('scope')).toContainText('vessel');

  await page.goto(`${appUrl()}/settings/marks`);
  await page.getByLabel('It is above what is said to be material').check();
  await page.getByLabel('Amount on every sheet').fill('a lot');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'write an amount as 50000' })).toBeVisible();
  await accessible(page);
  await page.getByLabel('Amount on every sheet').fill('9000000');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('Kept. Every sheet is marked')).toBeVisible();
  await page.getByLabel('It is above what is said to be material').uncheck();
  await page.getByRole('button', { name: 'Keep' }).click();

  // A column of one's own, and balances in two columns that agree.
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.04&to=2027.06`);
  await page.getByRole('button', { name: /^Columns:/ }).click();
  await page.getByLabel('Year to date', { exact: true }).check();
  await page.getByRole('button', { name: 'A column of your own' }).click();
  await page.getByLabel('What the column is called').fill('Before the window');
  await choose(page, 'First column', 'ytd');
  await choose(page, 'Second column', 'window');
  await page.getByRole('button', { name: 'Add the column' }).click();
  await expect(page.getByRole('columnheader', { name: 'Before the window' })).toBeVisible();
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06&sides=two`);
  await expect(page.getByRole('columnheader', { name: 'Closing credit' })).toBeVisible();
  await page.locator('[role=gridcell][tabindex="0"]').focus();
  await page.keyboard.press('f');
  await page.getByLabel('Find').fill('dry-docking');
  await page.keyboard.press('Enter');
  await expect(page.locator('footer')).toContainText(/[Dd]ry-docking/);
});
