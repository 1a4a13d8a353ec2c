/**
 * A whole worked cycle of a small company, as it is published: OpenStax, Principles of Accounting, Volume 1: Financial
 * Accounting (2019, CC BY), the example “Printing Plus” of chapters 3 to 5. Entries as in the book; totals from memory:
 * unadjusted trial balance 34,000; adjusted 35,715; service revenue 10,100; net income 4,665.
 */
export const CYCLE_TOTALS = { unadjusted: 34_000, adjusted: 35_715, revenue: 10_100, netIncome: 4_665 };

export const CYCLE_CHART = [
  '1000,Cash,asset',
  '1100,Accounts receivable,asset',
  '1150,Interest receivable,asset',
  '1200,Supplies,asset',
  '1500,Equipment,asset',
  '1510,Accumulated depreciation: equipment,asset',
  '2000,Accounts payable,liability',
  '2100,Salaries payable,liability',
  '2200,Unearned revenue,liability',
  '3100,Common stock,equity',
  '3200,Retained earnings,equity',
  '3300,Dividends,equity',
  '4000,Service revenue,income',
  '4100,Interest revenue,income',
  '5100,Supplies expense,expense',
  '5200,Depreciation expense: equipment,expense',
  '5300,Salaries expense,expense',
  '5400,Utility expense,expense',
];

export interface CycleEntry {
  date: string;
  kind: 'normal' | 'adjustment' | 'closing';
  /** Whole dollars by account, debit positive. */
  lines: [account: string, amount: number][];
}

const two = (date: string, kind: CycleEntry['kind'], debit: string, credit: string, amount: number): CycleEntry => ({
  ...{ date, kind },
  lines: [
    [debit, amount],
    [credit, -amount],
  ],
});

export const CYCLE: CycleEntry[] = [
  two('2019-01-03', 'normal', '1000', '3100', 20_000),
  two('2019-01-05', 'normal', '1500', '2000', 3_500),
  two('2019-01-09', 'normal', '1000', '2200', 4_000),
  two('2019-01-10', 'normal', '1100', '4000', 5_500),
  two('2019-01-12', 'normal', '5400', '1000', 300),
  two('2019-01-14', 'normal', '3300', '1000', 100),
  two('2019-01-17', 'normal', '1000', '4000', 2_800),
  two('2019-01-18', 'normal', '2000', '1000', 3_500),
  two('2019-01-20', 'normal', '5300', '1000', 3_600),
  two('2019-01-23', 'normal', '1000', '1100', 5_500),
  two('2019-01-27', 'normal', '1100', '4000', 1_200),
  two('2019-01-30', 'normal', '1200', '2000', 500),
  two('2019-01-31', 'adjustment', '5100', '1200', 100),
  two('2019-01-31', 'adjustment', '5200', '1510', 75),
  two('2019-01-31', 'adjustment', '2200', '4000', 600),
  two('2019-01-31', 'adjustment', '1150', '4100', 140),
  two('2019-01-31', 'adjustment', '5300', '2100', 1_500),
  {
    ...{ date: '2019-01-31', kind: 'closing' },
    lines: [
      ['4000', 10_100],
      ['4100', 140],
      ['5100', -100],
      ['5200', -75],
      ['5300', -5_100],
      ['5400', -300],
      ['3200', -4_665],
    ],
  },
  two('2019-01-31', 'closing', '3200', '3300', 100),
];

/** Entries as a file of ours has them, numbered from one on. */
export const cycleFile = (entries: readonly CycleEntry[], prefix = 'P'): string[] => [
  'entry,line,date,account,amount,kind,description',
  ...entries.flatMap(({ date, kind, lines }, i) =>
    lines.map(
      ([account, amount], k) =>
        `${prefix}${String(i + 1).padStart(2, '0')},${k + 1},${date},${account},${amount}.00,${kind},Transaction ${i + 1}`,
    ),
  ),
];
