import { expect, type Page } from '@playwright/test';

/**
 * What a walk asks of a person: keys, and things pointed at. Seconds by the keystroke-level model (Card, Moran and Newell,
 * 1980; the values from memory): 0.28 for a key, 1.35 to make up one's mind before each command, 1.3 to point at a thing
 * and press. Keys within a text, and arrows, need no thought of their own.
 */
const KEY = 0.28;
const THOUGHT = 1.35;
const POINTING = 1.3;
const MINUTE = 60;

/** Counts from here on, over whatever pages come. */
export async function counting(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const add = (name: string): void =>
      sessionStorage.setItem(name, String(Number(sessionStorage.getItem(name) ?? 0) + 1));
    addEventListener(
      'keydown',
      (event) => {
        if (['Shift', 'Control', 'Meta', 'Alt'].includes(event.key)) return;
        add('keys');
        const writing =
          event.target instanceof HTMLElement &&
          /^(INPUT|TEXTAREA)$/.test(event.target.tagName) &&
          event.key.length === 1;
        if (!writing && !event.key.startsWith('Arrow')) add('commands');
      },
      true,
    );
    addEventListener('pointerdown', () => add('pointed'), true);
  });
}

/** The walk is done in less than a minute, by the model. */
export async function underAMinute(page: Page): Promise<void> {
  const { keys, commands, pointed } = await page.evaluate(() => {
    const of = (name: string): number => Number(sessionStorage.getItem(name) ?? 0);
    return { keys: of('keys'), commands: of('commands'), pointed: of('pointed') };
  });
  const seconds = keys * KEY + (commands + pointed) * THOUGHT + pointed * POINTING;
  console.log(`      ${keys} keys, ${pointed} things pointed at: about ${Math.round(seconds)} seconds`);
  expect(keys + pointed).toBeGreaterThan(0);
  expect(seconds).toBeLessThan(MINUTE);
}
