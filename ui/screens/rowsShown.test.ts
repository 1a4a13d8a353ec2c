import { expect, test } from 'vitest';
import type { SplitSheet, TrialBalance } from '@/contracts/answers/sheets';
import { amountText } from '../amounts';
import { cellText } from '../sheet/cell';
import { unfolded } from './splitColumns';
import { rowsOf, sideCells } from './trialBalanceRows';

const balance = (closing: string) => ({
  opening: '0.00',
  debit: '0.00',
  credit: '0.00',
  movement: closing,
  roll: '0.00',
  closing,
  count: 1,
});

const account = (code: string, depth: number, heading: boolean): TrialBalance['rows'][number] => ({
  account: code,
  name: code,
  type: 'expense',
  heading,
  depth,
  ...balance('1.00'),
});

const member = (name: string, depth: number): SplitSheet['rows'][number] => ({
  member: name,
  name,
  depth,
  refine: {},
  address: '',
  ...balance('1.00'),
});

test('a folded heading hides all that is beneath it and nothing else, its own parts stay in sight', () => {
  const rows = [
    account('6', 0, true),
    account('62', 1, true),
    account('6210', 2, false),
    account('6310', 1, false),
    { ...account('3120', 0, false), parts: [{ label: 'Booked directly', opening: '1.00', year: null, refine: null }] },
  ];
  const shown = (...folded: string[]) =>
    rowsOf(rows, new Set(folded)).map((r) => ('row' in r ? `${r.row.account}${r.hasChildren ? ' ▾' : ''}` : r.key));
  expect(shown()).toEqual(['6 ▾', '62 ▾', '6210', '6310', '3120', '3120/Booked directly']);
  expect(shown('62')).toEqual(['6 ▾', '62 ▾', '6310', '3120', '3120/Booked directly']);
  expect(shown('6', '62')).toEqual(['6 ▾', '3120', '3120/Booked directly']);
  // An account is no heading: a mark that was left from another chart folds nothing.
  expect(shown('6310', '3120')).toEqual(shown());
});

test('rows of a split that have the same name at two places are folded each for itself', () => {
  const rows = [member('DECK', 0), member('6210', 1), member('ENG', 0), member('6210', 1), member('GAN', 2)];
  const keys = (...folded: string[]) => unfolded(rows, new Set(folded)).map((r) => r.key);
  expect(keys()).toEqual(['DECK', 'DECK›6210', 'ENG', 'ENG›6210', 'ENG›6210›GAN']);
  expect(keys('ENG›6210')).toEqual(['DECK', 'DECK›6210', 'ENG', 'ENG›6210']);
  expect(keys('DECK')).toEqual(['DECK', 'ENG', 'ENG›6210', 'ENG›6210›GAN']);
  expect(unfolded(rows, new Set()).map((r) => r.opens)).toEqual([true, false, true, true, false]);
});

test('a balance is on its own side, and an amount on the other is left empty', () => {
  const cells = sideCells({ ...account('1510', 0, false), opening: '-12.50', closing: '3.00' }, 'exact');
  expect(Object.entries(cells).map(([column, cell]) => [column, cellText(cell)])).toEqual([
    ['openingDebit', ''],
    ['openingCredit', amountText('12.50')],
    ['closingDebit', amountText('3.00')],
    ['closingCredit', ''],
  ]);
});
