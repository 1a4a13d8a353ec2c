import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addBalance, type Balance, emptyBalance } from './balances';
import { type Figure, refine, type Split } from './figure';
import { type Leaf, splitOfBalances } from './split';
import { CHART, TREES } from './testing/randomLedger';

const UNITS = ['N', 'N1', 'N11', 'N111', 'N2', 'S', 'S1', null];
const balanceOf = (debit: number, credit: number): Balance => ({
  ...emptyBalance(),
  debit,
  credit,
  movement: debit - credit,
  closing: debit - credit,
  count: 1,
});
const leaves: fc.Arbitrary<Leaf[]> = fc.array(
  fc
    .record({
      unit: fc.constantFrom(...UNITS),
      account: fc.constantFrom('4000', '4100', '5100'),
      debit: fc.nat(9_999),
      credit: fc.nat(9_999),
    })
    .map(({ unit, account, debit, credit }) => ({ keys: [unit, account], balance: balanceOf(debit, credit) })),
  { maxLength: 40 },
);
const LEVELS: Split[] = [undefined, 2, 3, 4].map((level) => ({
  by: 'dim',
  dim: 'unit',
  under: null,
  ...(level ? { level } : {}),
}));

test('whatever level of a tree is split by, the rows add up to the whole and each node’s parts to it', () => {
  fc.assert(
    fc.property(leaves, fc.constantFrom(...LEVELS), (held, split) => {
      const sheet = splitOfBalances(held, { splits: [split, { by: 'account' }], across: null, trees: TREES });
      const whole = emptyBalance();
      for (const leaf of held) addBalance(whole, leaf.balance);
      expect(sheet.sum).toEqual(whole);
      for (const row of sheet.rows.filter((r) => r.depth === 0)) expect(row.parts).toEqual(row.balance);
    }),
  );
});

test('of the second level, what is deeper stands under its parent there and what is higher for itself', () => {
  const held = UNITS.map((unit): Leaf => ({ keys: [unit, '4000'], balance: balanceOf(100, 0) }));
  const split: Split = { by: 'dim', dim: 'unit', under: null, level: 2 };
  const rows = splitOfBalances(held, { splits: [split], across: null, trees: TREES }).rows.map((r) => [
    r.member,
    r.balance.debit,
  ]);
  expect(new Map(rows as [string, number][])).toEqual(
    new Map([
      ['N1', 300],
      ['N2', 100],
      ['S1', 100],
      ['~direct:N', 100],
      ['~direct:S', 100],
      ['~none', 100],
    ]),
  );
});

test('two narrowings of accounts that have nothing in common take nothing, not all', () => {
  const names = { chart: CHART, trees: TREES };
  const all: Figure = {
    entities: ['A'],
    accounts: null,
    window: { by: 'period', from: 2601, to: 2612 },
    adjustments: 'with',
    status: 'posted',
    where: [],
    load: null,
  };
  const income = refine(all, { by: 'type' }, 'income', names);
  expect(refine(income, { by: 'heading', level: 1 }, '5', names).accounts).toEqual({
    take: [],
    except: [{ is: 'pattern', pattern: '*' }],
  });
  expect(refine(income, { by: 'heading', level: 1 }, '4', names).accounts?.take).toEqual([
    { is: 'code', code: '4000' },
    { is: 'code', code: '4100' },
  ]);
});
