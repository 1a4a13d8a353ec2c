import { expect, test } from 'vitest';
import { decorated, itemsOn, type MarginItem, marksOf, shownOf } from './marginItems';
import type { SheetRow } from './model';

const note = (row: number) => ({ row, is: 'note', note: { ink: 'reviewer' } }) as unknown as MarginItem;
const pin = (row: number, state = 'fresh') =>
  ({ row, is: 'pin', pin: { ink: 'preparer', state } }) as unknown as MarginItem;
const row = (standsOut?: string[]) => ({ key: 'a', cells: {}, standsOut }) as unknown as SheetRow;
const signs = (items: MarginItem[], at: number, standsOut?: string[]) =>
  decorated(row(standsOut), marksOf(items).get(at))
    ?.marks?.map((m) => m.sign)
    .join('');

test('a row bears all its signs: that it stands out, a note, a pin, each once', () => {
  const items = [note(1), note(1), pin(1), pin(2, 'drifted'), { row: 3, is: 'draft' } as unknown as MarginItem];
  expect(signs(items, 1)).toBe('^▪');
  expect(signs(items, 1, ['fares rose'])).toBe('!^▪');
  expect(signs(items, 2)).toBe('≠');
  expect([signs(items, 3), signs(items, 4), signs(items, 4, ['x'])]).toEqual([undefined, undefined, '!']);
  expect(decorated(undefined, marksOf(items).get(1))).toBeUndefined();
});

test('why a row stands out is told on pointing, its sign says only that it does', () => {
  const [mark] = decorated(row(['fares rose', 'above 50,000']), undefined)?.marks ?? [];
  expect(mark).toEqual({ sign: '!', says: 'stands out', why: 'fares rose; above 50,000' });
  expect(marksOf([note(0)]).get(0)).toEqual([{ sign: '^', says: 'has a note', ink: 'reviewer' }]);
});

test('answers stand under their note; a finding beside each row that it is about; ticks of a row together', () => {
  const base = { ink: 'preparer', by: 'Ada', at: '2026-07-01T00:00:00Z' };
  const evidence = {
    notes: [
      { ...base, id: 1, subject: 'line:A/1/1', replyTo: null },
      { ...base, id: 2, subject: 'line:A/1/1', replyTo: 1, by: 'Bo' },
    ],
    ticks: [
      { ...base, id: 1, subject: 'line:A/1/1', shape: 'hook', meaning: 'agreed', state: 'fresh' },
      { ...base, id: 2, subject: 'line:A/1/1', shape: 'ring', meaning: 'recalculated', state: 'drifted' },
      { ...base, id: 3, subject: 'line:A/9/1', shape: 'ring', meaning: 'recalculated', state: 'fresh' },
    ],
    expectations: [],
    proposed: [],
    findings: [{ ...base, id: 1, subject: 'line:A/1/1', subjects: ['line:A/1/1', 'line:A/1/2', 'line:A/9/1'] }],
    ...{ pins: [], files: [], points: [], questions: [] },
  } as never;
  const rowOf = (subject: string) => ({ 'line:A/1/1': 0, 'line:A/1/2': 1 })[subject];
  const items = itemsOn(rowOf, evidence);
  expect(items.map((i) => [i.row, i.is, 'replies' in i ? i.replies.map((r) => r.by) : null])).toEqual([
    [0, 'note', ['Bo']],
    [0, 'finding', null],
    [1, 'finding', null],
    [0, 'ticks', null],
  ]);
  const marks = marksOf(items).get(0) ?? [];
  expect(marks.map((m) => [m.sign, m.drawn, m.ink])).toEqual([
    ['^', undefined, 'preparer'],
    ['‡', undefined, undefined],
    ['tick', 'hook', 'preparer'],
    // One that no longer stands on what it stood on looks like something to be looked at.
    ['tick', 'ring', undefined],
  ]);
  // A clean sheet has none of it; of one person's nothing but the others'.
  const none = shownOf(evidence, { kinds: ['notes', 'ticks', 'findings'], people: [] });
  expect(itemsOn(rowOf, none)).toEqual([]);
  expect(itemsOn(rowOf, shownOf(evidence, { kinds: [], people: ['Ada'] }))).toEqual([]);
});
