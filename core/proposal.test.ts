import { expect, test } from 'vitest';
import { companyCode, proposeAccounts, proposeDimensions, proposeRetained, proposeYearStart } from './proposal';

const account = (code: string, name: string, debits = 1, credits = 0) => ({ code, name, said: null, debits, credits });
const typesOf = (facts: ReturnType<typeof account>[]) =>
  proposeAccounts(facts).map(({ code, type, why }) => `${code} ${type} by ${why}`);

test('types of accounts are told by their names in the languages of the trade', () => {
  expect(
    typesOf([
      account('1920', 'Bankinnskudd'),
      account('1500', 'Kundefordringer'),
      account('2050', 'Annen egenkapital'),
      account('2400', 'Leverandørgjeld'),
      account('3000', 'Salgsinntekter'),
      account('5000', 'Lønn til ansatte'),
      account('0027', 'Accumulated depreciation, plant'),
      account('6000', 'Depreciation of plant'),
      account('8100', 'Interest received'),
      account('8200', 'Interest paid'),
      account('1576', 'Vorsteuer'),
      account('701000', 'Ventes de marchandises'),
    ]),
  ).toEqual([
    '1920 asset by name',
    '1500 asset by name',
    '2050 equity by name',
    '2400 liability by name',
    '3000 income by name',
    '5000 expense by name',
    '0027 asset by name',
    '6000 expense by name',
    '8100 income by name',
    '8200 expense by name',
    '1576 liability by name',
    '701000 income by name',
  ]);
});

test('an account whose name says nothing follows the others of its class, else the side of its lines', () => {
  const named = [
    account('6100', 'Repairs'),
    account('6200', 'Travel costs'),
    account('4000', 'Sales'),
    account('4100', 'Fees earned'),
  ];
  expect(
    typesOf([
      ...named,
      account('6900', 'Sundry'),
      account('4900', 'Other'),
      account('X1', 'What', 5, 2),
      account('X2', 'What', 2, 5),
    ]),
  ).toEqual([
    ...['6100 expense by name', '6200 expense by name', '4000 income by name', '4100 income by name'],
    ...['6900 expense by class', '4900 income by class', 'X1 expense by sides', 'X2 income by sides'],
  ]);
  // What the file itself says counts before any name.
  expect(proposeAccounts([{ ...account('1', 'Sales'), said: 'liability' }])[0]).toMatchObject({
    type: 'liability',
    why: 'file',
  });
});

test('results are kept on the account that is named for it, else on the last of equity', () => {
  const of = (...names: string[]) => proposeRetained(proposeAccounts(names.map((name, i) => account(`3${i}`, name))));
  expect(of('Share capital', 'Retained earnings', 'Reserve for renewal')).toBe('31');
  expect(of('Share capital', 'Reserve for renewal')).toBe('31');
  expect(of('Cash', 'Sales')).toBeNull();
});

test('the fiscal year begins where the file’s periods do, after its closing entries, or with its twelve months', () => {
  const none = { first: '2026-02-03', last: '2026-11-20', monthsOfPeriod: new Map(), closings: new Map() };
  expect(
    proposeYearStart({
      ...none,
      monthsOfPeriod: new Map([
        [
          1,
          new Map([
            [7, 90],
            [8, 2],
          ]),
        ],
      ]),
    }).month,
  ).toBe(7);
  expect(
    proposeYearStart({
      ...none,
      closings: new Map([
        [3, 40],
        [12, 1],
      ]),
    }).month,
  ).toBe(4);
  expect(proposeYearStart({ ...none, closings: new Map([[12, 9]]) }).month).toBe(1);
  expect(proposeYearStart({ ...none, first: '2025-10-01', last: '2026-09-30' }).month).toBe(10);
  expect(proposeYearStart(none)).toMatchObject({ month: 1, why: expect.stringMatching(/nothing in the file tells/) });
});

test('a column of words that lines share is a dimension; numbers, amounts and texts of each line are none', () => {
  const column = (name: string, filled: number, values: string[] | null) => ({
    ...{ name, filled, lines: 100 },
    values: values && new Set(values),
  });
  expect(
    proposeDimensions([
      column('Abteilung', 60, ['Lager', 'Büro']),
      column('Ship №', 90, ['Gull', 'Tern', 'Skua']),
      column('Text', 100, null),
      column('Restbetrag', 100, ['1,00', '2,50']),
      column('Once', 2, ['a', 'b']),
      column('Same', 100, ['x']),
      column('dim:costcentre', 40, ['OPS', 'ADM']),
    ]),
  ).toEqual([
    { column: 'Ship №', code: 'shipno', members: ['Gull', 'Skua', 'Tern'] },
    { column: 'Abteilung', code: 'abteilung', members: ['Büro', 'Lager'] },
    { column: 'dim:costcentre', code: 'costcentre', members: ['ADM', 'OPS'] },
  ]);
  expect(['Meerblick GmbH 2026.csv', 'ledger.csv.gz', '.csv', 'åøæ'].map(companyCode)).toEqual([
    'MEERBLICK-GM',
    'LEDGER',
    'BOOKS',
    'A',
  ]);
});
