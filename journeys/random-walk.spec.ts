import { expect, type Page, test } from '@playwright/test';
import { appUrl, signIn } from './app';

/** So many acts by keyboard, the same ones every time. */
const ACTS = 300;
/** After so many the page is opened anew by its address, and must say the same. */
const REOPENED_EVERY = 30;
const START = '/trial-balance?entity=KSF&from=2027.04&to=2027.06';

/** A small seeded generator (mulberry32). */
function dice(seed: number): (sides: number) => number {
  let state = seed;
  return (sides) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) % sides;
  };
}

const MOVES = [
  'ArrowDown',
  'ArrowDown',
  'ArrowDown',
  'ArrowUp',
  'ArrowLeft',
  'ArrowRight',
  'PageDown',
  'Home',
  'End',
  'Control+End',
  'Control+Home',
];
const SPLITS = ['Cost centre', 'Vessel', 'Counterparty', 'Period', 'Account', 'Journal', 'Posted by', 'Amount band'];
const CLAUSES = ['over 500', 'type expense', 'deck', 'up to 90,000', 'without adjustments', 'unreconciled'];

/** Waits until nothing is under way, and says where the keyboard is. */
async function settled(page: Page): Promise<string> {
  // A sentence that is updating still says what it said.
  await page.waitForFunction(
    () =>
      !document.querySelector('[aria-busy=true]') &&
      !/updating …/.test(document.querySelector('h1')?.textContent ?? ''),
    undefined,
    { timeout: 15_000 },
  );
  await page
    .waitForFunction(() => document.activeElement !== document.body, undefined, { timeout: 6_000 })
    .catch(() => {});
  return page.evaluate(() => {
    const at = document.activeElement;
    if (!at || at === document.body) return 'nowhere';
    return at.getAttribute('role') ?? at.tagName.toLowerCase();
  });
}

async function act(page: Page, roll: (sides: number) => number): Promise<string> {
  const pick = <Item>(items: readonly Item[]): Item => items[roll(items.length)] as Item;
  const way = roll(20);
  if (way < 8) {
    const key = pick(MOVES);
    await page.keyboard.press(key);
    return key;
  }
  if (way < 12) {
    await page.keyboard.press('Enter');
    return 'Enter';
  }
  if (way < 14) {
    await page.keyboard.press('Backspace');
    return 'Backspace';
  }
  if (way === 14) {
    const key = pick(['[', ']', 'm', 'Space', 'Shift+ArrowDown', 'Escape']);
    await page.keyboard.press(key);
    return key;
  }
  if (way === 15) {
    const key = pick(['e', 'x']);
    await page.keyboard.press(key);
    return key;
  }
  if (way < 18) {
    const name = pick(SPLITS);
    await page.keyboard.press('s');
    const field = page.getByRole('dialog').getByRole('combobox', { name: 'Split by' });
    if (!(await field.isVisible({ timeout: 500 }).catch(() => false))) return 's, which splits nothing here';
    await field.fill(name);
    await page.keyboard.press('Enter');
    return `s ${name}`;
  }
  if (way === 18) {
    const words = pick(CLAUSES);
    await page.keyboard.press('/');
    const field = page.locator('#clause-words');
    if (!(await field.isVisible({ timeout: 500 }).catch(() => false))) return '/, which opens nothing here';
    await field.fill(words);
    await page.keyboard.press('Enter');
    await field.waitFor({ state: 'hidden', timeout: 4_000 }).catch(() => page.keyboard.press('Escape'));
    return `/ ${words}`;
  }
  await page.keyboard.press('f');
  const find = page.getByLabel('Find', { exact: true });
  if (
    await find
      .first()
      .isVisible({ timeout: 500 })
      .catch(() => false)
  ) {
    await page.keyboard.type(pick(['a', 'pay', '63', 'in']));
    await page.keyboard.press('Enter');
  }
  await page.keyboard.press('Escape');
  return 'f';
}

test('three hundred acts by keyboard: something has the focus after each, what ties still ties, and the address says it all', async ({
  page,
}) => {
  test.setTimeout(420_000);
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await signIn(page, 'tomas');
  await page.goto(`${appUrl()}${START}`);
  await settled(page);
  const roll = dice(20_261_129);
  const walked: string[] = [];
  for (let i = 1; i <= ACTS; i++) {
    walked.push(await act(page, roll));
    const focus = await settled(page);
    const last = walked.slice(-6).join(', ');
    expect([last, focus]).not.toEqual([last, 'nowhere']);
    expect([last, errors]).toEqual([last, []]);
    // Every proof in sight holds: on the strips, in the last line, on the guards.
    expect([last, await page.getByText(/^✗/).allTextContents()]).toEqual([last, []]);
    if (i % REOPENED_EVERY === 0) {
      // What the last act asked for may only now be under way.
      await page.waitForTimeout(400);
      await settled(page);
      const said = await page.getByTestId('scope').textContent();
      const strips = await page.getByRole('navigation', { name: 'Thread' }).allTextContents();
      await page.goto(page.url());
      await settled(page);
      await expect(page.getByTestId('scope')).toHaveText(said ?? '');
      expect(await page.getByRole('navigation', { name: 'Thread' }).count()).toBe(strips.length);
    }
    // Far down, the walk begins again.
    if (new URL(page.url()).searchParams.getAll('step').length > 6) {
      await page.goto(`${appUrl()}${START}`);
      await settled(page);
    }
  }
});
