import { expect, test } from 'vitest';
import type { Sample } from '@/contracts/answers/samples';
import { broughtBack } from './broughtBack';

const item = (subject: string, more: object = {}) => ({ subject, found: null, note: '', attributes: {}, ...more });
const sample = {
  attributes: ['approved'],
  items: [item('line:A/1/1'), item('line:A/2/1', { found: '5.00', note: 'seen' }), item('line:A/3/1')],
} as unknown as Sample;

test('a table tells what is new in it, and nothing of the rest', () => {
  expect(
    broughtBack(sample, [
      { subject: 'line:A/1/1', found: '12.50', note: "'=half of it", 'attribute:approved': 'No' },
      { subject: 'line:A/2/1', found: '5.00', note: 'seen', 'attribute:approved': '' },
      { subject: 'line:A/3/1', found: '', note: '', 'attribute:approved': 'yes' },
    ]),
  ).toEqual([
    { subject: 'line:A/1/1', found: '12.50', note: '=half of it', attributes: { approved: false } },
    { subject: 'line:A/3/1', attributes: { approved: true } },
  ]);
});

test('what is no item, or says neither yes nor no, is named by its row', () => {
  expect(() => broughtBack(sample, [{ subject: 'line:A/1/1' }, { subject: 'line:B/1/1' }])).toThrow(
    /^Row 3: “line:B\/1\/1”/,
  );
  expect(() => broughtBack(sample, [{ subject: 'line:A/1/1', 'attribute:approved': 'maybe' }])).toThrow(
    /^Row 2, approved/,
  );
});
