import { expect, test } from 'vitest';
import { readScreen, screenPath } from './address';
import { askedOf, askingPath, withoutAsking } from './asking';

test('a link that asks is read again as one, and once answered asks no more', () => {
  const screen = readScreen('trial-balance', new URLSearchParams('entity=KSF&tree=no&window=latest-period'));
  const path = askingPath(screen, ['window', 'member']);
  const opened = readScreen('trial-balance', new URLSearchParams(path.split('?')[1]));
  expect(askedOf(opened)).toEqual(['window', 'member']);
  expect(opened.scope.toString()).toBe(screen.scope.toString());
  expect(screenPath(withoutAsking(opened))).toBe(screenPath(screen));
  expect(askedOf({ options: { ask: 'window,password,' } })).toEqual(['window']);
  expect(askedOf({ options: {} })).toEqual([]);
});
