import { expect, test } from 'vitest';
import { calendar } from './calendar';
import { spokenPlaces } from './spokenPlace';

const APRIL = calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 });
const COMPANIES = [
  { code: 'KSF', name: 'Kestrel Sound Ferries Ltd', calendar: APRIL, latest: 2706 },
  { code: 'STL', name: 'Sound Terminals Ltd', calendar: APRIL, latest: 2706 },
];
const PLACES = [{ name: 'Trial balance' }, { name: 'Income statement' }, { name: 'Lines' }];
const said = (typed: string) =>
  spokenPlaces(typed, PLACES, COMPANIES, COMPANIES[0] ?? null).map(({ place, company, window }) => [
    place.name,
    company?.code ?? null,
    window && `${window.from}-${window.to}`,
  ]);

test.each([
  ['go to trial balance of Sound Terminals, June', [['Trial balance', 'STL', '2703-2703']]],
  ['show me the trial balance of stl', [['Trial balance', 'STL', null]]],
  ['trial balance stl june', [['Trial balance', 'STL', '2703-2703']]],
  ['Trial balance, Q2', [['Trial balance', null, '2704-2706']]],
  ['open income statement for KSF', [['Income statement', 'KSF', null]]],
  ['trial', [['Trial balance', null, null]]],
  ['lines of kestrel sound, 2027.02', [['Lines', 'KSF', '2702-2702']]],
  // A part that means nothing: then the whole means something else.
  ['trial balance of nobody', []],
  ['lines with pumps', []],
  ['tr', []],
])('“%s”', (typed, places) => {
  expect(said(typed)).toEqual(places);
});
