import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { yearOf } from './calendar';
import type { AccountType } from './ledger';
import { sum } from './money';
import {
  byDay,
  differsIn,
  effectOf,
  faultsOf,
  moved,
  movedInTime,
  onResult,
  type ProposedBooks,
  type ProposedLine,
  reversed,
  splitAmong,
  spread,
  turningAround,
} from './proposedEntry';

const line = (account: string, amount: number, more: Partial<ProposedLine> = {}): ProposedLine => ({
  ...{ account, amount, date: '2026-07-06', period: 2704, description: '', counterparty: null, document: null },
  ...{ taxCode: null, dims: {} },
  ...more,
});
const types: Record<string, AccountType> = { 1000: 'asset', 2000: 'liability', 4000: 'income', 5000: 'expense' };
const typeOf = (code: string): AccountType => types[code] ?? 'asset';

test('lines go to where they belong, alike ones together, and those that are there already stay', () => {
  const wrong = [
    line('5000', 700, { dims: { vessel: 'MAREN' } }),
    line('5000', 300, { dims: { vessel: 'MAREN' }, description: 'again' }),
    line('5000', 50, { dims: { vessel: 'ORLA' }, date: '2026-08-01', period: 2705 }),
    line('1000', 5),
  ];
  expect(moved(wrong, { account: '1000' }, null).map((l) => [l.account, l.amount, l.dims.vessel, l.date])).toEqual([
    ['5000', -1000, 'MAREN', '2026-07-06'],
    ['1000', 1000, 'MAREN', '2026-07-06'],
    ['5000', -50, 'ORLA', '2026-08-01'],
    ['1000', 50, 'ORLA', '2026-08-01'],
  ]);
  // On one day; a member taken away.
  const one = moved(wrong, { dims: { vessel: null } }, { date: '2026-08-31', period: 2705 });
  expect(one.map((l) => [l.amount, l.dims.vessel, l.date])).toEqual([
    [-1000, 'MAREN', '2026-08-31'],
    [1000, undefined, '2026-08-31'],
    [-50, 'ORLA', '2026-08-31'],
    [50, undefined, '2026-08-31'],
  ]);
});

test('whatever is moved, taken back, spread or split balances on every day, to the last unit', () => {
  const balances = (lines: readonly ProposedLine[]): boolean =>
    [...byDay(lines).values()].every((own) => sum(own.map((l) => l.amount)) === 0);
  fc.assert(
    fc.property(
      fc.integer({ min: -9_000_000, max: 9_000_000 }).filter((n) => n !== 0),
      fc.integer({ min: 1, max: 36 }),
      fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 9 }),
      (amount, periods, weights) => {
        const over = Array.from({ length: periods }, (_, i) => ({ date: `20${27 + i}-01-31`, period: 2700 + i * 100 }));
        const spreadOut = spread(line('5000', amount), '1000', over);
        expect(balances(spreadOut)).toBe(true);
        // What is held is given back to the last unit.
        expect(sum(spreadOut.filter((l) => l.account === '1000').map((l) => l.amount))).toBe(0);
        const parts = spreadOut
          .filter((l) => l.account === '5000')
          .slice(1)
          .map((l) => l.amount);
        if (parts.length === periods) expect(Math.max(...parts) - Math.min(...parts)).toBeLessThanOrEqual(1);
        expect(
          balances(
            splitAmong(
              line('5000', amount),
              weights.map((weight) => ({ weight, account: '1000' })),
            ),
          ),
        ).toBe(true);
        const whole = [line('5000', amount), line('2000', -amount)];
        const on = { date: '2026-09-01', period: 2706 };
        expect(balances(movedInTime(whole, on))).toBe(true);
        expect(balances([...whole, ...reversed(whole, on)])).toBe(true);
      },
    ),
  );
});

const RULES: Record<string, Record<string, string>> = { 5000: { vessel: 'required' }, 1000: { vessel: 'forbidden' } };

const BOOKS: ProposedBooks = {
  accounts: new Map(
    ['1000', '5000', '9000', '8000'].map((code) => [
      code,
      {
        ...{ code, name: `Account ${code}`, posting: code !== '9000', status: code === '8000' ? 'inactive' : 'active' },
        dimRules: RULES[code] ?? {},
      },
    ]),
  ),
  dimensions: new Map([
    ['vessel', { name: 'Vessel', tree: new Map([['MAREN', { code: 'MAREN', name: 'Maren', parent: null }]]) }],
  ]),
  counterparties: new Set(['BRENNA']),
  spanOf: (period) => (period === 2704 ? { from: '2026-07-01', to: '2026-07-31' } : null),
  amountText: (amount) => `GBP ${(amount / 100).toFixed(2)}`,
};

test('everything that stands against an entry is told with its line and field', () => {
  expect(
    faultsOf([line('5000', 100, { dims: { vessel: 'MAREN' }, counterparty: 'BRENNA' }), line('1000', -100)], BOOKS),
  ).toEqual([]);
  const faults = faultsOf(
    [
      line('5000', 100),
      line('1000', 0, { dims: { vessel: 'NOBODY' } }),
      line('9000', -40, { date: '2026-08-02', counterparty: 'X' }),
      line('8000', -40, { period: 2799 }),
      line('7', 10, { dims: { colour: 'RED' } }),
    ],
    BOOKS,
  );
  expect(faults.map((f) => `${f.line} ${f.field}: ${f.message}`)).toEqual([
    '0 dims.vessel: account 5000 wants a vessel',
    '1 amount: a line has an amount',
    '1 dims.vessel: there is no vessel “NOBODY”',
    '1 dims.vessel: account 1000 takes no vessel',
    '2 account: 9000 is a heading; name an account',
    '2 date: 2026-08-02 is outside of its period, 2026-07-01 to 2026-07-31',
    '2 counterparty: there is no party “X”',
    '3 account: 8000 Account 8000 is inactive',
    '3 period: the calendar has no such period',
    '4 account: there is no account “7”',
    '4 dims.colour: there is no dimension “colour”',
    'null amount: on 2026-07-06 (period 4) debits and credits differ by GBP 1.10, more debit',
    'null amount: on 2026-08-02 debits and credits differ by GBP 0.40, more credit',
    'null amount: on 2026-07-06 (period 99) debits and credits differ by GBP 0.40, more credit',
  ]);
});

test('what is in a currency of its own comes to the whole in it too, however it is taken apart', () => {
  const inEuros = (l: ProposedLine): number => l.inCurrency?.amount ?? 0;
  const drawn = fc.record({
    amount: fc.integer({ min: 1, max: 99_999 }),
    euros: fc.integer({ min: 0, max: 99_999 }),
    weights: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 7 }),
  });
  fc.assert(
    fc.property(drawn, ({ amount, euros, weights }) => {
      const one = line('5000', -amount, { inCurrency: { currency: 'EUR', amount: -euros } });
      const over = weights.map((_, i) => ({ date: `2026-1${i % 3}-28`, period: 2707 + i }));
      for (const made of [
        spread(one, '1000', over),
        splitAmong(
          one,
          weights.map((weight, i) => ({ weight, account: `600${i}` })),
        ),
        moved([one, one], { account: '1000' }, null),
        movedInTime([one], { date: '2026-08-31', period: 2705 }),
        turningAround([one, { ...one, amount, inCurrency: { currency: 'EUR', amount: euros } }], {
          ...{ date: '2026-08-01', period: 2705 },
        }),
      ])
        expect([sum(made.map((l) => l.amount)), sum(made.map(inEuros))]).toEqual([0, 0]);
    }),
  );
  const two = line('5000', -100, { inCurrency: { currency: 'EUR', amount: -80 } });
  const [taken] = moved([two, two], { account: '1000' }, null);
  expect([taken?.amount, taken && inEuros(taken)]).toEqual([200, 160]);
});

describe('what was booked', () => {
  const proposed = [line('5000', 1000, { dims: { vessel: 'MAREN' } }), line('2000', -1000, { counterparty: 'BRENNA' })];

  test('is the same however its lines are split, ordered and called', () => {
    const booked = [
      line('2000', -1000, { counterparty: 'BRENNA', description: 'paid later' }),
      line('5000', 400, { dims: { vessel: 'MAREN' } }),
      line('5000', 600, { dims: { vessel: 'MAREN' }, document: 'X-1' }),
    ];
    expect(differsIn(proposed, booked)).toEqual([]);
  });

  test('is never told as the same where any field differs, and which one is said', () => {
    const change = (more: Partial<ProposedLine>, at = 0) =>
      differsIn(
        proposed,
        proposed.map((l, i) => (i === at ? { ...l, ...more } : l)),
      );
    const all = (more: Partial<ProposedLine>) =>
      differsIn(
        proposed,
        proposed.map((l) => ({ ...l, ...more })),
      );
    expect(all({ date: '2026-07-07' })).toEqual(['date']);
    expect(all({ date: '2026-08-06', period: 2705 })).toEqual(['date', 'period']);
    expect(change({ account: '5001' })).toEqual(['accounts']);
    expect(
      differsIn(
        proposed,
        proposed.map((l) => ({ ...l, amount: l.amount * 2 })),
      ),
    ).toEqual(['amounts']);
    expect(change({ counterparty: 'TOLSEY' }, 1)).toEqual(['counterparty']);
    expect(change({ taxCode: 'V20' })).toEqual(['tax code']);
    expect(change({ dims: { vessel: 'ORLA' } })).toEqual(['dimensions']);
    expect(change({ inCurrency: { currency: 'EUR', amount: 1_150 } })).toEqual(['currency']);
    const euros = proposed.map((l) => ({ ...l, inCurrency: { currency: 'EUR', amount: l.amount } }));
    expect(differsIn(euros, proposed)).toEqual(['currency']);
    const fewer = euros.map((l) => ({ ...l, inCurrency: { currency: 'EUR', amount: l.amount / 2 } }));
    expect([differsIn(euros, fewer), differsIn(euros, euros)]).toEqual([['currency'], []]);
    // Members exchanged between two lines of one account and amount leave every field with the same values.
    const two = [
      line('5000', 5, { dims: { vessel: 'A' }, taxCode: 'X' }),
      line('5000', 5, { dims: { vessel: 'B' }, taxCode: 'Y' }),
    ];
    const crossed = [
      line('5000', 5, { dims: { vessel: 'B' }, taxCode: 'X' }),
      line('5000', 5, { dims: { vessel: 'A' }, taxCode: 'Y' }),
    ];
    expect(differsIn(two, crossed)).not.toEqual([]);
    expect(differsIn(proposed, [])).toContain('amounts');
  });
});

test('no change of any line, whichever, is told as booked as it was proposed', () => {
  const anyLine = fc.record({
    account: fc.constantFrom('1000', '2000', '5000'),
    amount: fc.integer({ min: -50, max: 50 }).filter((n) => n !== 0),
    counterparty: fc.constantFrom(null, 'A', 'B'),
    taxCode: fc.constantFrom(null, 'X', 'Y'),
    vessel: fc.constantFrom('', 'MAREN', 'ORLA'),
  });
  const made = ({ vessel, ...l }: { vessel: string; account: string; amount: number }): ProposedLine =>
    line(l.account, l.amount, { ...l, dims: vessel === '' ? {} : { vessel } });
  const key = (l: ProposedLine): string => JSON.stringify([l.account, l.counterparty, l.taxCode, l.date, l.dims]);
  fc.assert(
    fc.property(fc.array(anyLine, { minLength: 1, maxLength: 6 }), fc.nat(), anyLine, (drawn, at, other) => {
      const proposed = drawn.map(made);
      const booked = proposed.map((l, i) => (i === at % proposed.length ? made(other) : l));
      const sums = (lines: ProposedLine[]): string => {
        const found = new Map<string, number>();
        for (const l of lines) found.set(key(l), (found.get(key(l)) ?? 0) + l.amount);
        return JSON.stringify([...found].filter(([, n]) => n !== 0).sort());
      };
      // The same only where every place has the same amount.
      expect(differsIn(proposed, booked).length === 0).toBe(sums(proposed) === sums(booked));
    }),
  );
});

test('rollover tells the year alone, iron curtain all years up to its end (SAB 108, from memory)', () => {
  // An expense of 900 left out of 2026, of which nothing turned around; and an accrual of 500 that did.
  const left = [line('5000', 900, { period: 2612 }), line('2000', -900, { period: 2612 })];
  const accrual = turningAround(
    [line('5000', 500, { period: 2612, date: '2026-12-31' }), line('2000', -500, { period: 2612 })],
    {
      ...{ date: '2027-01-01', period: 2701 },
    },
  );
  expect(onResult(left, typeOf, yearOf, 2026)).toEqual({ rollover: -900, ironCurtain: -900 });
  expect(onResult(left, typeOf, yearOf, 2027)).toEqual({ rollover: 0, ironCurtain: -900 });
  expect(onResult(accrual, typeOf, yearOf, 2026)).toEqual({ rollover: -500, ironCurtain: -500 });
  expect(onResult(accrual, typeOf, yearOf, 2027)).toEqual({ rollover: 500, ironCurtain: 0 });
  expect(effectOf(left, typeOf)).toEqual({ assets: 0, liabilities: -900, equity: 0, income: 0, expense: 900 });
});
