import { expect, test } from 'vitest';
import { allBut, foldedIn, namedAfter, turned } from './useFolding';

test('a row is folded and unfolded by turning it over, others stay as they are', () => {
  const one = turned(allBut(['DECK']), 'ENG', false);
  expect([...foldedIn(one)]).toEqual(['DECK', 'ENG']);
  expect([...foldedIn(turned(one, 'DECK', true))]).toEqual(['ENG']);
  expect([...foldedIn(turned(true, 'ENG', false))]).toEqual(['ENG']);
  expect([...foldedIn(true)]).toEqual([]);
});

test('of rows that are folded unless they are named one is opened, or all but one', () => {
  const all = ['fares', 'fuel', 'crew'];
  expect([...namedAfter(['fuel'], turned({ fuel: true }, 'crew', true), all)]).toEqual(['fuel', 'crew']);
  expect([...namedAfter(['fuel'], turned({ fuel: true }, 'fuel', false), all)]).toEqual([]);
  expect([...namedAfter(all, turned(true, 'fuel', false), all)]).toEqual(['fares', 'crew']);
  expect([...namedAfter([], true, all)]).toEqual(all);
});
