import { expect, test } from 'vitest';
import { listedSplits } from './splitList';

const choices: [string, string][] = [
  ['dim:vessel', 'Vessel'],
  ['dim:costcentre', 'Cost centre'],
  ['dim:costcentre@2', 'Cost centre, second level'],
  ['account', 'Account'],
  ['type', 'Account type'],
  ['period', 'Period'],
  ['counterparty', 'Counterparty'],
  ['postedBy', 'Posted by'],
  ['documentDate', 'Document date'],
  ['description', 'Description'],
];
const names = (
  words: string,
  recent: string[] = [],
  telling: { by: string; concentration: number; members: number }[] = [],
) => listedSplits(choices, words, recent, telling).map((s) => `${s.group}: ${s.name}`);

test('splits are in groups, and typed words narrow them to the closest name first', () => {
  expect(names('')).toEqual([
    'Dimensions: Vessel',
    'Dimensions: Cost centre',
    'Dimensions: Cost centre, second level',
    'Time: Period',
    'Accounts: Account',
    'Accounts: Account type',
    'Parties: Counterparty',
    'Entry: Posted by',
    'Document: Document date',
    'Text: Description',
  ]);
  expect(names('acc')).toEqual(['By name: Account', 'By name: Account type']);
  expect(names('by cost')).toEqual(['By name: Cost centre', 'By name: Cost centre, second level']);
  expect(names('date')).toEqual(['By name: Document date']);
  expect(names('nothing like it')).toEqual([]);
});

test('what tells most of the figure is first, with how much; what was split by last is next', () => {
  const telling = [
    { by: 'counterparty', concentration: 1, members: 7 },
    { by: 'dim:vessel', concentration: 2, members: 7 },
    { by: 'period', concentration: 1, members: 1 },
  ];
  const listed = listedSplits(choices, '', ['dim:vessel', 'account'], telling);
  expect(listed.slice(0, 3).map((s) => [s.name, s.tells])).toEqual([
    ['Counterparty', '1 of 7 make 80 %'],
    ['Vessel', '2 of 7 make 80 %'],
    ['Account', null],
  ]);
  expect(listed[2]?.group).toBe('Split by last');
  expect(listed).toHaveLength(choices.length + 3);
});
