import { expect, test } from 'vitest';
import { type Layout, LEVELS_MAX, laidOut } from './CrosstabLayout';

test('words change places between rows and columns, and rows never run out', () => {
  const layout: Layout = { rows: ['vessel', 'account'], across: 'period' };
  expect(laidOut(layout, 'account', 'columns')).toEqual({ rows: ['vessel'], across: 'account' });
  expect(laidOut(layout, 'period', 'rows', 'vessel')).toEqual({ rows: ['period', 'vessel', 'account'], across: '' });
  expect(laidOut(layout, 'account', 'rows', 'vessel')).toEqual({ rows: ['account', 'vessel'], across: 'period' });
  expect(laidOut(layout, 'journal', 'rows')).toEqual({ rows: ['vessel', 'account', 'journal'], across: 'period' });
  expect(laidOut(layout, 'vessel', 'waiting')).toEqual({ rows: ['account'], across: 'period' });
  // The only row and the column change places; the last thing of all stays.
  expect(laidOut({ rows: ['vessel'], across: 'period' }, 'vessel', 'columns')).toEqual({
    rows: ['period'],
    across: 'vessel',
  });
  expect(laidOut({ rows: ['vessel'], across: '' }, 'vessel', 'waiting')).toEqual({ rows: ['vessel'], across: '' });
  const full = Array.from({ length: LEVELS_MAX }, (_, i) => `level ${i}`);
  expect(laidOut({ rows: full, across: '' }, 'one more', 'rows')).toEqual({ rows: full, across: '' });
});
