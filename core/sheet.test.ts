import { expect, test } from 'vitest';
import { emptyBalance } from './balances';
import { agreement, amountIn, amountOf, asOne, balanceIn, cellsOf, countIn, isNothing } from './sheet';

const balance = { opening: 5, debit: 30, credit: 10, movement: 20, roll: -4, closing: 21, count: 7 };

test('a balance is the same out of its cells as into them', () => {
  expect(balanceIn(cellsOf(balance))).toEqual(balance);
  expect(balanceIn({ ...cellsOf(emptyBalance()), 'year-before': amountOf(9) })).toEqual(emptyBalance());
  expect([amountIn(cellsOf(balance), 'roll'), countIn(cellsOf(balance))]).toEqual([-4, 7]);
  // What is not there, or is no amount, adds nothing.
  expect([amountIn({}, 'closing'), amountIn({ share: { is: 'share', millionths: 5 } }, 'share'), countIn({})]).toEqual([
    0, 0, 0,
  ]);
});

test('parts agree with their whole in every measure and in their lines; off by the worst, with its sign', () => {
  expect(agreement(balance, { ...balance })).toEqual({ ok: true, off: 0 });
  expect(agreement(balance, { ...balance, debit: 29, closing: 24 })).toEqual({ ok: false, off: -3 });
  expect(agreement(balance, { ...balance, count: 6 })).toEqual({ ok: false, off: 0 });
  const held = { ok: true, off: 0 };
  expect(asOne([])).toEqual(held);
  expect(asOne([held, { ok: false, off: 0 }, { ok: false, off: 8 }])).toEqual({ ok: false, off: 8 });
  expect(asOne([held, { ok: false, off: 0 }])).toEqual({ ok: false, off: 0 });
});

test('nothing is nothing of every kind', () => {
  expect(
    [null, amountOf(0), { is: 'count', count: 0 } as const, { is: 'quantity', millionths: 0n } as const].map(isNothing),
  ).toEqual(Array(4).fill(true));
  expect(isNothing({ is: 'share', millionths: null })).toBe(true);
  expect(
    [amountOf(-1), { is: 'share', millionths: 1 } as const, { is: 'count', count: 1 } as const].map(isNothing),
  ).toEqual(Array(3).fill(false));
});
