import { expect, test } from 'vitest';
import { laidOut } from './chainLayout';

const link = (source: string, target: string) => ({ source, target });

test('a document stands to the right of all that it was applied to', () => {
  const { places, columns, rows } = laidOut(
    'I-1',
    ['O-1', 'I-1', 'I-2', 'P-1', 'D-1'],
    [link('O-1', 'I-1'), link('O-1', 'I-2'), link('I-1', 'P-1'), link('I-2', 'P-1'), link('P-1', 'D-1')],
  );
  expect(columns).toBe(4);
  expect(rows).toBe(2);
  expect(['O-1', 'I-1', 'I-2', 'P-1', 'D-1'].map((n) => places.get(n)?.column)).toEqual([0, 1, 1, 2, 3]);
});

test('one that stands alone, one that is not loaded, and a ring have a place too', () => {
  expect(laidOut('A', ['A'], []).places).toEqual(new Map([['A', { column: 0, row: 0 }]]));
  expect(laidOut('A', ['A'], [link('X', 'A')]).places.get('X')).toEqual({ column: 0, row: 0 });
  const ring = laidOut('A', ['A', 'B', 'C'], [link('A', 'B'), link('B', 'C'), link('C', 'A')]);
  expect(ring.places.size).toBe(3);
  expect(new Set([...ring.places.values()].map((p) => `${p.column}/${p.row}`)).size).toBe(3);
});
