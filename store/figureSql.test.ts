import { expect, test } from 'vitest';
import { ordinal } from '@/core/calendar';
import type { Clause, Figure, Split, Window } from '@/core/figure';
import type { Tree } from '@/core/ledger';
import { parseSelection } from '@/core/selection';
import type { Catalogue, CatalogueAccount } from './catalogue';
import { otherSource, partsFrom, readsLines } from './figureSql';
import { questionOf } from './question';

const account = (id: number, code: string, type: CatalogueAccount['type']): CatalogueAccount => ({
  id,
  code,
  name: code,
  type,
  parent: null,
  posting: true,
  groups: [],
  names: {},
  status: 'active',
  normal: 'debit',
  flow: null,
  codes: {},
  dimRules: {},
});
const chart = [account(1, '1000', 'asset'), account(2, '3000', 'equity'), account(3, '6000', 'expense')];
const tree: Tree = new Map([['A', { code: 'A', name: 'A', parent: null }]]);
const dimension = (code: string, slot: number) =>
  [
    code,
    { id: slot, code, name: code, slot, tree, members: new Map([['A', 7]]), codeOf: new Map([[7, 'A']]) },
  ] as const;
const catalogue: Catalogue = {
  entities: new Map([
    [
      'ONE',
      {
        id: 1,
        code: 'ONE',
        name: 'One',
        names: {},
        currency: 'GBP',
        calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
        yearEnd: 'derived',
        cash: null,
        proposed: new Map(),
        retainedEarnings: '3000',
        chart,
        accounts: new Map(chart.map((a) => [a.code, a])),
        accountOf: new Map(chart.map((a) => [a.id, a])),
      },
    ],
  ]),
  proposedSets: [],
  dimensions: new Map([dimension('vessel', 1), dimension('fund', 2)]),
  trees: new Map([
    ['vessel', tree],
    ['fund', tree],
  ]),
};

const PERIODS: Window = { by: 'period', from: ordinal(2026, 1), to: ordinal(2026, 3) };
const WHOLE_MONTHS: Window = { by: 'date', from: '2026-02-01', to: '2026-04-30' };
const PART_OF_A_MONTH: Window = { by: 'date', from: '2026-02-01', to: '2026-04-17' };
const vessel: Clause = { on: 'dim', dim: 'vessel', any: [{ is: 'tree', code: 'A' }] };
const fund: Clause = { on: 'dim', dim: 'fund', any: [{ is: 'tree', code: 'A' }] };

const question = (change: Partial<Figure> = {}) =>
  questionOf(
    {
      entities: ['ONE'],
      accounts: null,
      window: PERIODS,
      adjustments: 'with',
      status: 'posted',
      where: [],
      load: null,
      ...change,
    },
    catalogue,
    1,
  );

/** The tables that a question reads. */
function tablesOf(change: Partial<Figure>, splits: Split[]): string[] {
  const { sql } = partsFrom(question(change), splits);
  return ['balance_period', 'balance_member', 'balance_day', 'line'].filter((table) => sql.includes(`join ${table} s`));
}

const byAccount: Split[] = [{ by: 'account' }];
const byVessel: Split[] = [{ by: 'dim', dim: 'vessel', under: null }];

test.each<[string, Partial<Figure>, Split[], string[]]>([
  ['accounts over periods', {}, byAccount, ['balance_period']],
  ['periods', {}, [{ by: 'period' }], ['balance_period']],
  ['kinds of lines', { where: [{ on: 'kind', any: ['adjustment'] }] }, byAccount, ['balance_period']],
  ['some accounts', { accounts: parseSelection('6*') }, byAccount, ['balance_period']],
  ['one dimension', { where: [vessel] }, byAccount, ['balance_member']],
  ['a split by a dimension', {}, byVessel, ['balance_member']],
  ['one dimension twice', { where: [vessel] }, byVessel, ['balance_member']],
  ['two dimensions', { where: [vessel, fund] }, byAccount, ['line']],
  ['a dimension within another', { where: [fund] }, byVessel, ['line']],
  ['days', {}, [{ by: 'day' }], ['balance_day']],
  ['months of a dimension', { where: [vessel] }, [{ by: 'month' }], ['line']],
  ['whole months by date', { window: WHOLE_MONTHS }, byAccount, ['balance_period']],
  ['a part of a month by date', { window: PART_OF_A_MONTH }, byAccount, ['balance_period', 'balance_day']],
  [
    'a dimension over a part of a month',
    { window: PART_OF_A_MONTH, where: [vessel] },
    byAccount,
    ['balance_member', 'line'],
  ],
  ['a journal', { where: [{ on: 'journal', any: ['GL'] }] }, byAccount, ['line']],
  ['amounts', { where: [{ on: 'min', amount: 100 }] }, byAccount, ['line']],
  ['who posted', {}, [{ by: 'postedBy' }], ['line']],
])('%s come from the smallest table that has them', (_name, change, splits, tables) => {
  expect(tablesOf(change, splits)).toEqual(tables);
  expect(readsLines(question(change), splits)).toBe(tables[0] === 'line');
});

test('what proves a figure is never the table that answers it', () => {
  expect(otherSource(question(), false)).toBe('balance_day');
  expect(otherSource(question(), true)).toBe('line');
  expect(otherSource(question({ where: [vessel] }), true)).toBe('line');
  expect(otherSource(question({ where: [vessel] }), false)).toBeNull();
  expect(otherSource(question({ where: [{ on: 'journal', any: ['GL'] }] }), true)).toBeNull();
  const proof = partsFrom(question({ where: [vessel] }), [], { from: 'line' });
  expect(proof.source).toBe('line');
  expect(proof.sql).not.toContain('balance_member');
});

test('nothing that a reader writes stands in the SQL itself', () => {
  const hostile = "x'); drop table line; --";
  for (const where of [
    [{ on: 'journal', any: [hostile] }],
    [{ on: 'text', contains: hostile }],
    [{ on: 'description', any: [`${hostile}*`] }],
    [{ on: 'entry', any: [hostile] }],
    [{ on: 'taxCode', any: [hostile, null] }],
  ] satisfies Clause[][]) {
    const { sql, bindings } = partsFrom(question({ where }), byAccount);
    expect(sql).not.toContain('drop table');
    expect(JSON.stringify(bindings)).toContain('drop table');
  }
});
