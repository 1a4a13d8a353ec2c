import { expect, test } from 'vitest';
import { readSplit, splitText } from './splits';
import {
  entryIdOf,
  entryOnScreen,
  figureSubject,
  lineSubject,
  readSubject,
  type Subject,
  subjectKey,
  subjectText,
} from './subject';

test('a subject is the same written and read again, whatever numbers and codes are made of', () => {
  const subjects: Subject[] = [
    { is: 'figure', address: 'entity=KSF&accounts=6310&text=a%2Fb' },
    { is: 'line', entity: 'KSF', entry: 'PI/2026/17', line: 3 },
    { is: 'line', entity: 'KSF', entry: 'line:9', line: 0 },
    { is: 'entry', entity: 'NHS', entry: 'J 4/5' },
  ];
  for (const subject of subjects) expect(readSubject(subjectText(subject))).toEqual(subject);
  expect(lineSubject({ entity: 'KSF', entry: 'PI-1', line: 2 })).toBe('line:KSF/PI-1/2');
});

test('what is no subject is refused with how one is written', () => {
  for (const text of ['', 'KSF/PI-1', 'line:KSF', 'entry:KSF', 'line:/x/1', 'account:6310'])
    expect(() => readSubject(text), text).toThrow(/write figure:<address>/);
});

test('a figure has one key in whatever order it was asked, and none of a load', () => {
  const one = figureSubject(new URLSearchParams('accounts=6310&entity=KSF&load=4&text='));
  expect(one).toBe('figure:accounts=6310&entity=KSF&text=');
  expect(subjectKey(one)).toBe(subjectKey('figure:entity=KSF&accounts=6310'));
  // Several values of one parameter keep their order, which may mean something.
  const several = (query: string) => subjectKey(`figure:${query}`);
  expect(several('entity=B&entity=A&to=x')).toBe(several('to=x&entity=B&entity=A'));
  expect(several('entity=A&entity=B')).not.toBe(several('entity=B&entity=A'));
  expect(subjectKey('line:KSF/PI-1/2')).toBe('line:KSF/PI-1/2');
});

test('an entry on a screen is told by its id and by nothing that looks alike', () => {
  expect(entryIdOf(entryOnScreen('e412'))).toBe(412);
  expect([entryIdOf('entry:KSF/e412'), entryIdOf('entry:e'), entryIdOf('line:KSF/e1/2')]).toEqual([null, null, null]);
});

test('a split is the same written and read again; what is none is told what is one', () => {
  for (const text of [
    'account',
    'account/2',
    'dim:vessel',
    'dim:vessel@2',
    'dim:vessel/MAREN',
    'dim:a b/c/d',
    'taxCode',
    'size',
  ])
    expect(splitText(readSplit(text))).toBe(text);
  for (const text of ['', 'account/0', 'account/12', 'dim:', 'vessel', 'line', 'Account'])
    expect(() => readSplit(text), text).toThrow(/nothing to split by; it is one of/);
  expect(() => readSplit('x', 'across')).toThrow(
    expect.objectContaining({ errors: [expect.objectContaining({ path: 'across' })] }),
  );
});
