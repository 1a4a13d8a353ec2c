import { expect, test } from 'vitest';
import type { Hit } from '@/contracts/answers/search';
import { inOrder, type Recent, withOpened } from './recent';

const DAY = 86_400_000;
const NOW = 100 * DAY;
const hit = (address: string): Hit => ({
  ...{ kind: 'account', label: address, detail: '', entity: null, amount: null, subject: null, address, put: null },
  marks: { label: [], detail: [] },
});
const opened = (list: [address: string, at: number][]): Recent[] =>
  list.reduce<Recent[]>((all, [address, at]) => withOpened(all, hit(address), at), []);

test('what is opened often comes before what was opened once, unless that was long ago', () => {
  const all = opened([
    ['/often', NOW - 2 * DAY],
    ['/often', NOW - 2 * DAY],
    ['/often', NOW - 2 * DAY],
    ['/often', NOW - DAY],
    ['/once', NOW],
    ['/old', NOW - 50 * DAY],
  ]);
  expect(inOrder(all, NOW).map((r) => [r.address, r.times])).toEqual([
    ['/often', 4],
    ['/once', 1],
    ['/old', 1],
  ]);
});

test('the list does not grow without end', () => {
  const many = Array.from({ length: 200 }, (_, i): [string, number] => [`/${i}`, NOW + i]);
  const all = opened(many);
  expect(all).toHaveLength(60);
  expect(all[0]?.address).toBe('/199');
});
