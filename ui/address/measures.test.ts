import { expect, test } from 'vitest';
import { readScreen, type Screen, type Step, screenPath } from './address';
import { ledgerScope, measureAt, openingsOf } from './measures';

const step = (column: string, more: Partial<Step> = {}): Step => ({
  view: 'split',
  by: 'account',
  label: 'x',
  row: 'x',
  column,
  put: {},
  ...more,
});
const screen = (origin: Screen['origin'], steps: Step[], options: Record<string, string> = {}): Screen => ({
  origin,
  scope: new URLSearchParams('entity=KSF'),
  options,
  steps,
});
const last = (of: Screen) => measureAt(of, of.steps.length);

test('what is traced is what the column shows, or the step says, or what was traced before', () => {
  expect(last(screen('trial-balance', [step('account')]))).toBe('closing');
  expect(last(screen('trial-balance', [step('yearToDate')]))).toBe('movement');
  expect(last(screen('statements', [step('caption')]))).toBe('movement');
  expect(last(screen('statements', [step('caption')], { statement: 'balance' }))).toBe('closing');
  expect(last(screen('statements', [step('window', { measure: 'allotted' })]))).toBe('allotted');
  expect(last(screen('trial-balance', [step('debit'), step('member')]))).toBe('debit');
  // A running balance is of what the ledger runs from.
  const days = (column: string) => [step(column), step('balance', { view: 'lines' })];
  expect(last(screen('trial-balance', days('closing')))).toBe('closing');
  expect(last(screen('trial-balance', days('movement')))).toBe('movement');
});

test('the measure of a step stays in the address', () => {
  const there = screen('statements', [step('window', { measure: 'allotted', view: 'lines' })]);
  const [, query = ''] = screenPath(there).split('?');
  expect(last(readScreen('statements', new URLSearchParams(query)))).toBe('allotted');
});

test('the lines of a movement begin with the first of them, unless somebody wants what was there before', () => {
  const lines = (column: string, options = {}) => screen('trial-balance', [step(column, { view: 'lines' })], options);
  expect(openingsOf(lines('closing'))).toBe('all');
  expect(openingsOf(lines('movement'))).toBe('none');
  expect(openingsOf(lines('movement', { openings: 'all' }))).toBe('all');
  expect(ledgerScope(lines('movement')).get('openings')).toBe('none');
  expect(ledgerScope(lines('closing')).has('openings')).toBe(false);
  expect(openingsOf(screen('trial-balance', [step('movement')]))).toBe('all');
});
