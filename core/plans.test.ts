import { expect, test } from 'vitest';
import type { Split } from './figure';
import { isPlanned, type PlanReach, plannedRows } from './plans';
import { taxOnLine } from './tax';

// A plan says something of what it was set by and of the sums of that (method.md §9), and of nothing below.

const BY_UNIT: Split[] = [{ by: 'dim', dim: 'unit', under: null }];
const trees = new Map();
const reach = (by: boolean[], more: Partial<PlanReach> = {}): PlanReach => ({
  by,
  inScope: true,
  unsaid: false,
  ...more,
});
const of = (code: string | null, kept: PlanReach) => ({ keys: [code], kept });

test('of a member it knows where some account was planned by it; of all together it always does', () => {
  const some = plannedRows([of(null, reach([true])), of(null, reach([false]))], { splits: BY_UNIT, trees });
  expect([some([]), some(['OPS'])]).toEqual([true, true]);
  const none = plannedRows([of(null, reach([false])), of(null, reach([false]))], { splits: BY_UNIT, trees });
  expect([none([]), none(['OPS'])]).toEqual([true, false]);
});

test('within an account that account alone decides, whichever way round they are nested', () => {
  const splits: Split[] = [{ by: 'account' }, ...BY_UNIT];
  const accounts = [
    { keys: ['6310', null], kept: reach([true, true]) },
    { keys: ['6330', null], kept: reach([true, false]) },
  ];
  const knows = plannedRows(accounts, { splits, trees });
  expect([['6310'], ['6330'], ['6310', 'OPS'], ['6330', 'OPS']].map(knows)).toEqual([true, true, true, false]);
  const turned = plannedRows(
    accounts.map(({ keys: [code, unit], kept }) => ({
      keys: [unit as null, code as string],
      kept: reach([...kept.by].reverse()),
    })),
    { splits: [...BY_UNIT, { by: 'account' }], trees },
  );
  expect([['OPS'], ['OPS', '6310'], ['OPS', '6330']].map(turned)).toEqual([true, true, false]);
  // An account that nobody planned is planned at nothing, whatever it is broken down into.
  expect(knows(['6390', 'OPS'])).toBe(true);
});

test('a scope that no account was planned by is unknown, and a balance that nobody planned makes the sum so', () => {
  const narrowed = plannedRows([of(null, reach([true], { inScope: false }))], { splits: BY_UNIT, trees });
  expect([narrowed([]), narrowed(['OPS'])]).toEqual([false, false]);
  expect(isPlanned([reach([], { inScope: false }), reach([])])).toBe(true);
  expect(isPlanned([reach([], { unsaid: true }), reach([])])).toBe(false);
  expect(isPlanned([])).toBe(true);
  const splits: Split[] = [{ by: 'account' }];
  const knows = plannedRows([of('1510', reach([true], { unsaid: true })), of('6310', reach([true]))], {
    splits,
    trees,
  });
  expect([knows([]), knows(['1510']), knows(['6310'])]).toEqual([false, false, true]);
});

test('the tax on a line is on the side of the line, whatever sign a file gave it', () => {
  const taxes = (['20.00', '-20.00', '+20', '', null, 'none'] as const).map((written) => [
    taxOnLine(written, 10_000, 2),
    taxOnLine(written, -10_000, 2),
  ]);
  expect(taxes).toEqual([
    [2_000, -2_000],
    [2_000, -2_000],
    [2_000, -2_000],
    [null, null],
    [null, null],
    [null, null],
  ]);
});
