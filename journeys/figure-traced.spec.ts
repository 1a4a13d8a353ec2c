import { expect, type Page, test } from '@playwright/test';
import { accessible, appUrl, choose, fileOf, showIt, signIn } from './app';

test('from the trial balance to a pinned line, shared by link, and drifting after a restating load', async ({
  page,
  browser,
}) => {
  await signIn(page, 'tomas');
  await expect(page.getByTestId('scope')).toContainText('Kestrel Sound Ferries Ltd, September 2026 (period 2027.06)');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.04&to=2027.06`);
  await expect(page.getByText('✓ debits equal credits')).toBeVisible();
  await accessible(page);

  // Story 1: dry-docking is up; trace it by keyboard to the two invoices.
  const dryDocking = page.getByRole('gridcell', { name: '6320 Dry-docking' });
  await scrollTo(page, '6320');
  await dryDocking.click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(page.getByRole('gridcell', { name: 'PI-KSF-90639' })).toBeVisible();
  await expect(page.getByText('✓ ties to its last line')).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('6320 Dry-docking');
  await accessible(page);

  await page.getByRole('gridcell', { name: 'PI-KSF-90639' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'PI-KSF-90639 Stage 3 and steel' })).toBeVisible();
  await expect(page.getByText('invoice NS-2063I')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: '2122 Due to Nordholm Slip' })).toBeVisible();
  await accessible(page);

  // Back up one strip: the row that was left has the focus again. A note and a pin go on it.
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toHaveText('PI-KSF-90639');
  await page.keyboard.press('n');
  await page
    .getByRole('textbox', { name: 'Note on PI-KSF-90639 line 1' })
    .fill('The same stage invoice as PI-KSF-90631?');
  await page.getByRole('button', { name: 'Write note' }).click();
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText(
    'The same stage invoice as PI-KSF-90631?',
  );
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toHaveText(/6320\s*Dry-docking/);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('p');
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText('Pinned 273,200.00');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('p');
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText('Pinned 820,400.00');

  // The copied link opens the same for the reviewer, note and all; browser back and forward walk the thread.
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Lines' })).toBeVisible();
  const link = page.url();
  const other = await browser.newContext();
  const colleague = await other.newPage();
  await signIn(colleague, 'priya');
  await colleague.goto(link);
  await expect(colleague.getByRole('gridcell', { name: 'PI-KSF-90639' })).toBeVisible();
  await expect(colleague.getByRole('complementary', { name: 'Margin' })).toContainText('The same stage invoice');
  await colleague.keyboard.press('Backspace');
  await expect(colleague.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await colleague.goBack();
  await expect(colleague.getByRole('grid', { name: 'Lines' })).toBeVisible();
  await colleague.goForward();
  await expect(colleague.getByRole('grid', { name: 'Trial balance' })).toBeVisible();
  await other.close();

  // Sorted by description, left for an entry and come back to: the order is as it was.
  await page.getByRole('button', { name: 'Description' }).click();
  await expect(page).toHaveURL(/sort=description/);
  await page.getByRole('button', { name: 'Description' }).click();
  await expect(page).toHaveURL(/sort=-description/);
  await expect(page.getByText('each line keeps its date-order balance')).toBeVisible();
  await page.getByRole('gridcell', { name: 'PI-KSF-90631' }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'PI-KSF-90631' })).toBeVisible();
  await page.keyboard.press('Backspace');
  await expect(page).toHaveURL(/sort=-description/);

  // Next and previous account without going up.
  await page.keyboard.press(']');
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('6330 Survey and class');
  await page.keyboard.press('[');
  await expect(page.getByRole('navigation', { name: 'Thread' })).toContainText('6320 Dry-docking');

  // A load that restates July: the copy is gone, one amount is other. It is refused first, for an unbalanced entry.
  const header = 'entity,entry,line,date,account,debit,credit,description,dim:vessel,dim:costcentre';
  const good = [
    `KSF,PI-KSF-90631,1,2026-07-03,6320,410200.00,,"Stage 3 and steel, Maren docking",MAREN,DK-MAR`,
    'KSF,PI-KSF-90631,2,2026-07-03,2122,,410200.00,"Stage 3 and steel, Maren docking",,',
  ];
  await page.getByRole('link', { name: 'Loads' }).click();
  await upload(
    page,
    fileOf('broken.csv', [header, good[0] as string, (good[1] as string).replace('410200.00', '410000.00')]),
  );
  await expect(page.getByRole('status')).toContainText('refused: 1 problem, nothing was loaded');
  await expect(
    page.getByText('entry PI-KSF-90631 of KSF does not balance: debits exceed credits by 200.00'),
  ).toBeVisible();
  await accessible(page);
  await upload(page, fileOf('july-restated.csv', [header, ...good]));
  await expect(page.getByRole('status')).toContainText('lines of 2027.04 to 2027.04 replaced');

  await page.goto(link);
  await page.keyboard.press('Backspace');
  const drifted = page.getByRole('button', { name: /Pinned 820,400\.00/ });
  await expect(drifted).toContainText('drifted: now 410,200.00');
  await drifted.click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('row', { name: /removed PI-KSF-90639/ })).toContainText('(410,200.00)');
  await expect(dialog).toContainText('✓ the lines add up to it');
  await accessible(page);
});

test('a reader sees only what is granted, and is told so plainly', async ({ page }) => {
  await signIn(page, 'col');
  await expect(page.getByTestId('scope')).toContainText('only cost centre Deck or Engine (all that you may see)');
  await page.goto(`${appUrl()}/trial-balance?entity=STL`);
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be shown' })).toContainText(
    'Entity STL is not there, or outside what you may see',
  );
  for (const path of ['/trial-balance?entity=STL', '/lines?entity=KSF&entity=STL', '/notes?entity=STL']) {
    const answer = await page.request.get(`${appUrl()}/api/v1${path}`);
    if (path.startsWith('/notes')) expect(await answer.json()).toEqual({ rows: [], next: null });
    else expect(answer.status()).toBe(404);
  }
  const entities = (await (await page.request.get(`${appUrl()}/api/v1/entities`)).json()) as {
    entities: { code: string }[];
  };
  expect(entities.entities.map((e) => e.code)).toEqual(['KSF']);
  const load = await page.request.post(`${appUrl()}/api/v1/loads`, {
    multipart: { file: { name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from('a') } },
    headers: { origin: appUrl() },
  });
  expect(load.status()).toBe(403);
  // Nothing to be seen is not nothing there.
  await page.goto(`${appUrl()}/loads`);
  await expect(page.getByText('Loads are shown to those who see a company whole')).toBeVisible();
});

test('an empty window says why and leads to where data is; a clause is added by typing and taken away', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2031-01-01&to=2031-01-31&accounts=6*`);
  await expect(page.getByText('There are no lines in 1 Jan 2031 to 31 Jan 2031.')).toBeVisible();
  await page.getByText('Go to September 2026').click();
  await expect(page.getByRole('gridcell', { name: '6210 Marine diesel' })).toBeVisible();
  // So do dashes, and a ledger of which there is nothing but the balance before.
  await page.goto(`${appUrl()}/statements?entity=KSF&from=2027.07&to=2027.07`);
  await expect(page.getByText('There are no lines in October 2026')).toBeVisible();
  await page.goto(`${appUrl()}/lines?entity=KSF&accounts=41*&from=2026-07-06&to=2026-07-12&dim.vessel=MAREN`);
  await expect(page.getByText('meet every clause of the scope')).toBeVisible();
  await page.getByRole('link', { name: 'Look at all periods' }).click();
  await expect(page.getByText(/^Closing balance, [\d,]+ lines/)).toBeVisible();
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06&accounts=6*`);
  await expect(page.getByRole('gridcell', { name: '6210 Marine diesel' })).toBeVisible();

  await page.keyboard.press('/');
  await page.getByRole('option', { name: 'lines with vessel', exact: true }).click();
  await page.getByPlaceholder('Code or name').fill('tern');
  await page.getByLabel('Tern').check();
  await page.getByRole('button', { name: 'Set' }).click();
  await expect(page.getByTestId('scope')).toContainText(/only accounts 6\*\s*×?\s*and\s+vessel Tern/);
  await expect(page.getByText('✓ ties')).toBeVisible();
  await page.getByRole('button', { name: 'Remove: accounts 6*' }).click();
  await expect(page.getByTestId('scope')).toContainText('only vessel Tern');
  // Accounts, months and parties by name are understood as what they are; a value that no line has is asked about first.
  const typed = async (words: string, meant: RegExp): Promise<void> => {
    await page.keyboard.press('/');
    await expect(page.getByLabel('Only …')).toBeFocused();
    await page.keyboard.type(words);
    await expect(page.getByRole('option', { name: meant })).toBeVisible();
    await page.keyboard.press('Enter');
  };
  await typed('6300 to 6399', /^accounts 6300 to 6399, \d+ accounts$/);
  await expect(page.getByTestId('scope')).toContainText('only accounts 6300 to 6399');
  await typed('July to September', /^window July to September 2026/);
  await expect(page).toHaveURL(/from=2027.04&to=2027.06/);
  await typed('sound hydraulics', /^counterparty Sound Hydraulics, S-404$/);
  await expect(page.getByTestId('scope')).toContainText('counterparty S-404');
  await page.getByRole('button', { name: 'Remove: counterparty S-404' }).click();
  await typed('counterparty Hydraulics Inc', /^counterparty Hydraulics Inc$/);
  await expect(page.getByText('No line of this window has that.')).toBeVisible();
  await accessible(page);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('scope')).not.toContainText('Inc');
  await page.getByRole('button', { name: 'Kestrel Sound Ferries Ltd' }).click();
  await expect(page.getByText('Whose books')).toBeVisible();
  await accessible(page);
  // Where the answer is refused the question still is above it, to be changed.
  const step = encodeURIComponent('~v=split&~l=All&~r=&~c=&~b=dim:nothing');
  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.06&to=2027.06&step=${step}`);
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be shown' })).toContainText(
    'there is no dimension “nothing”',
  );
  await expect(page.getByTestId('scope')).toContainText('Kestrel Sound Ferries Ltd, September 2026 (period 2027.06)');
});

test('any column is asked for by its name, by bounds, or from the list of what there is, and what a clause takes is counted first', async ({
  page,
}) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/lines?entity=KSF&accounts=6210,6310&from=2027.01&to=2027.03`);
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  const scope = page.getByTestId('scope');
  await page.keyboard.press('/');
  await page.keyboard.type('quantity over 20,000');
  await page.keyboard.press('Enter');
  await expect(scope).toContainText('quantity from 20000');
  // Edited in place: all but those, counted before it is set.
  await page.getByRole('button', { name: 'quantity from 20000', exact: true }).click();
  await expect(page.getByText(/^takes \d+ lines of this window$/)).toBeVisible();
  const kept = Number(/\d+/.exec((await page.getByText(/^takes \d+ lines/).textContent()) ?? '')?.[0]);
  await accessible(page);
  await page.getByLabel('all but from … to …').check();
  await expect(page.getByText(/^takes \d+ lines of this window$/)).not.toHaveText(`takes ${kept} lines of this window`);
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(scope).toContainText('not quantity from 20000');
  await page.getByRole('button', { name: 'Remove: not quantity from 20000' }).click();
  // Who raised the entries, ticked in the list of those that the scope has.
  await page.keyboard.press('/');
  await page.keyboard.type('a source');
  await page.keyboard.press('Enter');
  // July is left out: an earlier walk restates it.
  const raised = page.getByRole('checkbox', { name: /Head office/ });
  await raised.check();
  const listed = /\d+$/.exec((await page.getByText(/^Head office\d+$/).textContent()) ?? '')?.[0];
  await expect(page.getByText(`takes ${listed} lines of this window`)).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(scope).toContainText('source Head office');
  await expect(page.getByText(`${listed} lines`)).toBeVisible();
  // A cell's own text, whatever it holds, and nothing else.
  await page.getByRole('gridcell', { name: /Reversal of JE-KSF-00374/ }).click();
  await page.keyboard.press('e');
  await expect(scope).toContainText('description Reversal of JE-KSF-00374');
});

test('a ledger of many lines scrolls to its end without losing its balance, and splits tie', async ({ page }) => {
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}/lines?entity=KSF&window=everything`);
  await expect(page.getByRole('gridcell', { name: 'Opening balance' })).toBeVisible();
  await page.goto(`${appUrl()}/lines?entity=KSF&accounts=1520&from=2027.05&to=2027.06`);
  await showIt(page, 'no opening balances');
  await expect(page.getByRole('columnheader', { name: 'Running' })).toBeVisible();
  await expect(page.getByRole('gridcell', { name: 'Opening balance' })).toBeHidden();
  await expect(page).toHaveURL(/openings=none/);
  await page.goto(`${appUrl()}/lines?entity=KSF&window=everything`);
  await page.getByRole('gridcell', { name: 'Opening balance' }).click();
  // Pages that did not come leave those that did; what is missing is said, and read when asked for.
  await page.route('**/api/v1/answers', (route) =>
    /\bat=/.test(route.request().postData() ?? '') ? route.abort() : route.continue(),
  );
  await page.keyboard.press('Control+End');
  await expect(page.getByText('Some of these lines could not be read')).toBeVisible();
  await page.unroute('**/api/v1/answers');
  await page.getByRole('button', { name: 'Read them again' }).click();
  await expect(page.getByText('✓ ties to its last line')).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toHaveText(/\d|–/);
  await accessible(page);
  // A line that was never read is found by its words, tens of thousands of rows away, and has the keyboard.
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('f');
  await page.keyboard.type('propeller shaft');
  await page.keyboard.press('Enter');
  const found = page.getByRole('row').filter({ has: page.locator('[role=gridcell][tabindex="0"]:focus') });
  await expect(found).toContainText('Propeller shaft bearing Tern');
  expect(Number(await found.getAttribute('aria-rowindex'))).toBeGreaterThan(10_000);

  await page.goto(`${appUrl()}/trial-balance?entity=KSF&from=2027.01&to=2027.06`);
  await scrollTo(page, '6210');
  await page.getByRole('gridcell', { name: '6210 Marine diesel' }).click();
  await page.keyboard.press('s');
  await page.getByRole('combobox', { name: 'Split by' }).fill('Vessel');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('grid', { name: 'Split by vessel' })).toBeVisible();
  await expect(page.locator('[role=gridcell][tabindex="0"]')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('gridcell', { name: 'Solan', exact: true })).toBeVisible();
  await expect(page.locator('footer').getByText('✓ ties')).toBeVisible();
  await page.keyboard.press('o');
  await expect(page.getByRole('region', { name: 'Other side' })).toContainText('ties to minus the movement');
  await accessible(page);
});

test('the API refuses what it does not know, says where, and describes itself', async ({ request }) => {
  const api = `${appUrl()}/api/v1`;
  expect(await (await request.get(`${api}/health`)).json()).toMatchObject({ status: 'ok', database: 'ok' });
  const unsigned = await request.get(`${api}/trial-balance`);
  expect(unsigned.status()).toBe(401);
  expect(unsigned.headers()['content-type']).toContain('application/problem+json');
  const document = (await (await request.get(`${api}/openapi.json`)).json()) as {
    openapi: string;
    paths: Record<string, unknown>;
  };
  expect(document.openapi).toBe('3.1.0');
  expect(Object.keys(document.paths)).toContain('/api/v1/trial-balance');

  // OWASP ASVS 4.0.3, 4.2.2 and 13.2.3: a change from another origin is refused, cookie or not.
  const foreign = await request.post(`${api}/session`, {
    data: { email: 'tomas@kestrel.example', password: 'harrowick-quay' },
    headers: { origin: 'http://elsewhere.example' },
  });
  expect(foreign.status()).toBe(403);
  const signedIn = await request.post(`${api}/session`, {
    data: { email: 'tomas@kestrel.example', password: 'harrowick-quay' },
    headers: { origin: appUrl() },
  });
  // ASVS 3.4.1 to 3.4.3: the cookie is out of reach of scripts and of other sites.
  expect(signedIn.headers()['set-cookie']).toMatch(/HttpOnly; SameSite=Lax/);
  const wrong: [string, string, RegExp][] = [
    ['/trial-balance?entity=KSF&acounts=6', 'acounts', /no parameter “acounts”/],
    ['/trial-balance?entity=KSF&accounts=6219', 'accounts', /no account “6219”; did you mean/],
    ['/trial-balance?entity=KSF&from=2027.01&to=2026-09-30', 'to', /both be periods or both be dates/],
    [
      '/trial-balance?entity=KSF&from=2027.14&to=2027.14',
      'from',
      /no period 2027\.14; that year has 2027\.01 to 2027\.13/,
    ],
    ['/trial-balance?entity=KSF&dim.vessel=MARN', 'dim.vessel', /no vessel “MARN”; did you mean MAREN/],
    ['/sheets?entity=KSF&by=colour', 'by', /nothing to split by/],
    ['/lines?entity=KSF&limit=5000', 'limit', /limit/],
    ['/lines?entity=KSF&entity=NHS', 'entity', /different currencies/],
    [`/lines?entity=KSF&text=${encodeURIComponent("'; drop table line; --")}`, '', /^$/],
  ];
  for (const [path, where, message] of wrong) {
    const answer = await request.get(`${api}${path}`);
    const problem = (await answer.json()) as { errors?: { path: string; message: string }[] };
    if (where === '') expect(answer.status()).toBe(200);
    else
      expect({
        status: answer.status(),
        path: problem.errors?.[0]?.path,
        says: message.test(problem.errors?.[0]?.message ?? ''),
      }).toEqual({
        status: 422,
        path: where,
        says: true,
      });
  }
  // ASVS 2.2.1: guessing is slowed down.
  const statuses = [];
  for (let i = 0; i < 10; i++)
    statuses.push(
      (
        await request.post(`${api}/session`, {
          data: { email: 'nobody@kestrel.example', password: 'wrong' },
          headers: { origin: appUrl() },
        })
      ).status(),
    );
  expect(statuses.slice(0, 5)).toEqual(new Array(5).fill(401));
  expect(statuses[9]).toBe(429);
});

async function upload(page: Page, file: string): Promise<void> {
  await page.locator('input[type=file]').setInputFiles(file);
  await choose(page, 'Books', 'KSF');
  await page.getByLabel('Replaces periods').fill('2027.04');
  await page.getByRole('button', { name: 'Load the file' }).click();
}

/** Rows far down are only drawn once they are scrolled to. */
async function scrollTo(page: Page, code: string): Promise<void> {
  const scroller = page.getByTestId('sheet-scroller');
  await expect(page.getByRole('gridcell').first()).toBeVisible();
  for (let top = 0; top < 6_000; top += 500) {
    if ((await page.getByRole('gridcell', { name: new RegExp(`^${code} `) }).count()) > 0) return;
    await scroller.evaluate((element, to) => element.scrollTo(0, to), top);
    await page.waitForTimeout(60);
  }
}
