import { expect, test } from 'vitest';
import { readScreen, type Screen, scopeAt, traced } from '../address/address';
import { asIn, replayedAddress, screenOf, unkept, wayOf } from './way';

const start = readScreen(
  'statements',
  new URLSearchParams('entity=KSF&from=2027.01&to=2027.06&statement=balance&thread=4'),
);
const split = traced(start, {
  view: 'split',
  by: 'dim:vessel',
  label: 'Cash',
  row: 'cash',
  column: 'window',
  put: { accounts: ['15*'] },
});
const lines = traced(split, {
  view: 'lines',
  label: 'Maren',
  row: 'MAREN',
  column: 'debit',
  put: { 'dim.vessel': ['MAREN'] },
});
const entry = traced(lines, { view: 'entry', entry: 'e17', label: 'PI-1', row: '99', column: 'entry', put: {} });

test('a way is kept from its first sheet on, each step with its own figure and measure, without the thread it is in', () => {
  const way = wayOf(entry);
  expect(way.map((k) => [k.label, k.view, k.by, k.measure])).toEqual([
    ['Balance sheet', 'sheet', undefined, undefined],
    ['Cash', 'split', 'dim:vessel', 'closing'],
    ['Maren', 'lines', undefined, 'debit'],
    ['PI-1', 'entry', undefined, undefined],
  ]);
  expect(way.every((k) => !k.address.includes('thread=4'))).toBe(true);
  expect(way.map((k) => k.subject).slice(1)).toEqual([
    expect.stringMatching(/^figure:.*accounts=15/),
    expect.stringMatching(/^figure:.*dim\.vessel=MAREN/),
    'entry:e17',
  ]);
  expect(unkept({ ...start, options: { ...start.options, sort: '-amount' } }).options).toEqual({
    statement: 'balance',
  });
});

test('a kept address is the screen that it was kept from', () => {
  for (const step of wayOf(entry).map((k) => screenOf(k.address))) expect(step.origin).toBe('statements');
  const last = screenOf(wayOf(entry)[3]?.address ?? '');
  expect(scopeAt(last, 2).toString()).toBe(scopeAt(entry, 2).toString());
  expect(last.steps.map((s) => s.view)).toEqual(['split', 'lines', 'entry']);
});

test('a way is taken from another figure with its first step from there; one of lines alone has nothing to take', () => {
  const there: Screen = readScreen('trial-balance', new URLSearchParams('entity=NHS'));
  const from = { label: 'Bank', row: '1510', column: 'closing', put: { accounts: ['1510'] } };
  const taken = asIn(there, wayOf(entry)[3]?.address ?? '', from);
  expect(taken?.steps.map((s) => [s.view, s.label, s.put])).toEqual([
    ['split', 'Bank', { accounts: ['1510'] }],
    ['lines', 'Maren', { 'dim.vessel': ['MAREN'] }],
  ]);
  const alone = traced(there, { view: 'lines', label: 'x', row: '', column: '', put: {} });
  expect(asIn(there, wayOf(alone)[1]?.address ?? '', from)).toBeNull();
});

test('a way is replayed over another period, also where a step had chosen its own', () => {
  const own = traced(split, {
    view: 'lines',
    label: 'June',
    row: '',
    column: '',
    put: { from: ['2027.03'], to: ['2027.03'] },
  });
  const replayed = screenOf(replayedAddress(wayOf(own)[2]?.address ?? '', { from: ['2028.01'], to: ['2028.06'] }));
  expect(scopeAt(replayed, 0).get('from')).toBe('2028.01');
  expect(replayed.steps.map((s) => s.put)).toEqual([{ accounts: ['15*'] }, { from: ['2028.01'], to: ['2028.06'] }]);
});
