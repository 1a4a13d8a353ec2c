import { expect, test } from 'vitest';
import { readSplit, splitText } from '@/contracts/splits';
import { splitWords } from './address';
import { SPLIT_NAMES, splitChoices, splitName } from './splitNames';

const member = (code: string, parent: string | null = null) => ({ code, name: code, parent });
const DIMENSIONS = [
  { code: 'vessel', name: 'Vessel', members: [member('MAREN'), member('SKARN')] },
  {
    code: 'place',
    name: 'Place',
    members: [member('N'), member('NO', 'N'), member('BRENNA', 'NO'), member('KAI', 'BRENNA')],
  },
  { code: 'none', name: 'Unused', members: [] },
] as unknown as Parameters<typeof splitChoices>[0];

test('whatever is offered to split by is a split that the route takes, each once', () => {
  const choices = splitChoices(DIMENSIONS);
  expect(new Set(choices.map(([by]) => by)).size).toBe(choices.length);
  expect(new Set(choices.map(([, name]) => name)).size).toBe(choices.length);
  for (const [by] of choices) expect(splitText(readSplit(by))).toBe(by);
});

test('a dimension of several levels is offered by each of them, one of one level once', () => {
  const of = (code: string) => splitChoices(DIMENSIONS).filter(([by]) => by.startsWith(`dim:${code}`));
  expect(of('vessel')).toEqual([['dim:vessel', 'Vessel']]);
  expect(of('place').map(([, name]) => name)).toEqual([
    ...['Place', 'Place, second level', 'Place, third level', 'Place, fourth level'],
  ]);
  expect(of('none')).toEqual([['dim:none', 'Unused']]);
});

test('a tree whose members name each other comes to an end', () => {
  const round = [{ code: 'r', name: 'Round', members: [member('A', 'B'), member('B', 'A')] }] as never;
  expect(splitChoices(round).filter(([by]) => by.startsWith('dim:r')).length).toBeLessThan(7);
});

test('a split is named as the books name it, also below one member, and what is unknown by itself', () => {
  expect(splitName('dim:place@2', DIMENSIONS)).toBe('Place, second level');
  expect(splitName('dim:place/N', DIMENSIONS)).toBe('Place');
  expect(splitName('postedBy', undefined)).toBe(SPLIT_NAMES.postedBy);
  expect(splitName('dim:gone', DIMENSIONS)).toBe('dim:gone');
  expect(splitWords('dim:place/N|dim:vessel', 'period', DIMENSIONS)).toBe('by place, N, then vessel, across period');
});
