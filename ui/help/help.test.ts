import { readdirSync } from 'node:fs';
import { expect, test } from 'vitest';
import { readScreen } from '../address/address';
import { helpFor } from './pages';
import { WALKS } from './walks';

test('every place has a page of help of its own, or that of the place it is in', () => {
  const places = readdirSync('app/(places)', { withFileTypes: true }).flatMap((d) => (d.isDirectory() ? [d.name] : []));
  for (const place of places) {
    const page = helpFor(`/${place}`);
    expect([place, page.points.length > 1, page === helpFor('/nowhere')]).toEqual([
      place,
      true,
      place === 'trial-balance',
    ]);
  }
  expect(helpFor('/accounts/parties').title).toBe('Customers and suppliers');
  expect(helpFor('/accounts/calendars').title).toBe('Accounts');
});

test('walks begin on a screen of the application, and say one thing at a time', () => {
  expect(new Set(WALKS.map((w) => w.key)).size).toBe(WALKS.length);
  for (const { steps } of WALKS) {
    expect(steps[0]?.at).toBeDefined();
    for (const { at, says } of steps) {
      expect(says.length).toBeLessThan(200);
      if (!at) continue;
      const [path = '', query = ''] = at.split('?');
      const screen = readScreen(path.slice(1) as 'lines', new URLSearchParams(query));
      expect(screen.scope.has('entity')).toBe(true);
    }
  }
});
