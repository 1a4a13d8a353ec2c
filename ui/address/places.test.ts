import { expect, test } from 'vitest';
import { placeWith } from './places';

test('from sheet to sheet company, window and clauses stay; to the lines go those of the figure that is shown', () => {
  const step = new URLSearchParams({ '~v': 'split', '~b': 'account', '~l': 'x', accounts: '6310' });
  const params = new URLSearchParams('entity=STL&from=2026.01&to=2026.13&dim.costcentre=TRM&tree=no');
  params.append('step', step.toString());
  const at = (href: string) => placeWith(href, '/trial-balance', params);
  const scope = 'entity=STL&from=2026.01&to=2026.13&dim.costcentre=TRM';
  expect(at('/statements')).toBe(`/statements?${scope}`);
  expect(at('/lines')).toBe(`/lines?${scope}&accounts=6310`);
  // A place opens as it usually does from itself and from elsewhere.
  expect([at('/trial-balance'), at('/loads')]).toEqual(['/trial-balance', '/loads']);
  expect(placeWith('/lines', '/loads', params)).toBe('/lines');
});
