import { expect, test } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { accessible, appUrl, choose, signIn } from './app';

test('somebody is added by a link, comes in, sees to their own password and tokens, is suspended, and all of it is on record', async ({
  browser,
  page,
}) => {
  await signIn(page, 'ines');
  await page.goto(`${appUrl()}/settings`);
  await accessible(page);
  await page.getByLabel('Name').fill('Kai Strand');
  await page.getByLabel('E-mail').fill('kai.strand@kestrel.example');
  await choose(page, 'Role', 'reader');
  await page.getByLabel('KSF').check();
  await choose(page, 'And of these, with all beneath them', 'costcentre:DECK');
  await page.getByRole('button', { name: 'Add the person' }).click();
  const link = await page.getByLabel('Link for Kai Strand').inputValue();
  await expect(page.getByRole('row', { name: /Kai Strand/ })).toContainText('KSF; only cost centre');

  // Kai, in a browser of their own.
  const kai = await (await browser.newContext()).newPage();
  await kai.goto(link);
  await kai.getByLabel('Password', { exact: true }).fill('kai.strand kai.strand');
  await kai.getByLabel('The same again').fill('kai.strand kai.strand');
  await kai.getByRole('button', { name: 'Save it' }).click();
  await expect(kai.getByRole('alert').filter({ hasText: 'your name' })).toBeVisible();
  for (const label of ['Password', 'The same again'])
    await kai.getByLabel(label, { exact: true }).fill('gull over the pier');
  await accessible(kai);
  await kai.getByRole('button', { name: 'Save it' }).click();
  await kai.getByLabel('E-mail').fill('kai.strand@kestrel.example');
  await kai.getByLabel('Password', { exact: true }).fill('gull over the pier');
  await kai.getByRole('button', { name: 'Sign in' }).click();
  await expect(kai.getByRole('heading', { name: 'Desk' })).toBeVisible();

  await kai.getByRole('link', { name: 'Kai Strand' }).click();
  await expect(kai.getByRole('region', { name: 'Sessions' })).toContainText('this one');
  await kai.getByLabel('Current password').fill('gull over the pier');
  await kai.getByLabel('New password, at least 12 characters').fill('pier under the gull');
  await kai.getByLabel('Repeat the new password').fill('pier under the gull');
  await kai.getByRole('button', { name: 'Change the password' }).click();
  await expect(kai.getByText('The password is changed')).toBeVisible();
  await kai.getByLabel('A new token for').fill('month-end export');
  await kai.getByRole('button', { name: 'Create the token' }).click();
  const token = await kai.getByLabel('The new token').inputValue();
  const asked = (path: string) => fetch(`${appUrl()}/api/v1${path}`, { headers: { authorization: `Bearer ${token}` } });
  expect((await asked('/session')).status).toBe(200);
  await accessible(kai);

  // A second factor is set up, and asked for from then on.
  await kai.getByRole('button', { name: 'Set one up' }).click();
  const secret = ((await kai.locator('code').first().textContent()) ?? '').replace(/\s/g, '');
  const codes = new TOTP({ secret: Secret.fromBase32(secret) });
  const factor = kai.getByRole('region', { name: 'Second factor' });
  await factor.getByRole('textbox', { name: 'Code' }).fill(codes.generate());
  await factor.getByRole('button', { name: 'Confirm' }).click();
  await expect(factor.getByText(/a code from your app is asked for/)).toBeVisible();
  await accessible(kai);
  await kai.getByRole('button', { name: 'Sign out' }).click();
  await kai.getByLabel('E-mail').fill('kai.strand@kestrel.example');
  await kai.getByLabel('Password', { exact: true }).fill('pier under the gull');
  await kai.getByRole('button', { name: 'Sign in' }).click();
  await kai.getByLabel('Code').fill(codes.generate({ timestamp: Date.now() + 30_000 }));
  await accessible(kai);
  await kai.getByRole('button', { name: 'Sign in' }).click();
  await expect(kai.getByRole('heading', { name: 'Desk' })).toBeVisible();

  // The owner sees where Kai is signed in, revokes the token, and suspends.
  await page.getByRole('button', { name: 'Kai Strand' }).click();
  const detail = page.getByRole('region', { name: 'Kai Strand' });
  await expect(detail.getByRole('table', { name: 'Sessions' })).toContainText('127.0.0.1');
  await detail.getByRole('button', { name: 'Revoke the token month-end export' }).click();
  await expect(detail.getByText('None.')).toBeVisible();
  expect((await asked('/session')).status).toBe(401);
  await accessible(page);
  await detail.getByRole('button', { name: 'Suspend' }).click();
  await expect(page.getByRole('row', { name: /Kai Strand/ })).toContainText('suspended');
  await kai.getByRole('link', { name: 'Lines' }).click();
  await expect(kai).toHaveURL(/sign-in\?to=/);

  await page.getByRole('link', { name: 'Record' }).click();
  const record = page.getByRole('table', { name: 'Record of who did what' });
  for (const act of ['added a person', 'chose a new password', 'made a token', 'revoked tokens', 'suspended a person'])
    await expect(
      record
        .getByRole('row', { name: act })
        .filter({ has: page.getByRole('cell', { name: '127.0.0.1' }) })
        .first(),
    ).toBeVisible();
  await page.getByRole('button', { name: 'Check the chain' }).click();
  await expect(page.getByRole('status').filter({ hasText: '✓ the chain of' })).toBeVisible();
  await accessible(page);

  // A signed thread shows no way to change it, and tells of words that were changed.
  const scope = 'entity=KSF&from=2027.06&to=2027.06';
  const step = { address: `/trial-balance?${scope}`, label: 'June', view: 'sheet', subject: `figure:${scope}` };
  const made = await page.request.post(`${appUrl()}/api/v1/threads`, {
    data: { name: 'June looked at', steps: [step] },
    headers: { origin: appUrl() },
  });
  const { id, steps } = (await made.json()) as { id: number; steps: number[] };
  await page.request.put(`${appUrl()}/api/v1/threads/${id}/steps/${steps[0]}`, {
    data: { note: 'All of it' },
    headers: { origin: appUrl() },
  });
  await page.goto(`${appUrl()}/threads/${id}`);
  await page.getByRole('button', { name: 'All of it' }).click();
  await page.getByText('Changed once; what it said before is kept').click();
  await expect(page.getByText(/changed by Ines Hallam: called “June”/)).toBeVisible();
  await page.getByRole('button', { name: 'Sign as preparer' }).click();
  await expect(page.getByText('◐ prepared')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change what it says' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Remove' })).toBeHidden();
  await page.getByRole('button', { name: 'Open it again' }).click();
  await page.getByLabel('Why').fill('A line was left out');
  await page.getByRole('dialog').getByRole('button', { name: 'Open it again' }).click();
  await expect(page.getByRole('button', { name: 'Change what it says' })).toBeVisible();
});
