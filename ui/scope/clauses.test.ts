import { expect, test } from 'vitest';
import { clausesOf, readQuery, scopeShape } from '@/contracts/scope';
import { LINE_NUMBERS } from '@/core/figure';
import { Random } from '@/demo/random';
import { CLAUSES, clauseChoices, isNumber, isText, isValue, SAYABLE, valuesShown, valuesWritten } from './clauses';

test('every clause that is offered is one that the scope takes', () => {
  const example: Record<string, string> = {
    ...{ min: '1.00', max: '2.00', kind: 'normal', period: '2027.04', month: '2026-07', week: '2026-W31' },
    ...{ day: '2026-07-31', load: '3', documentDate: '2026-07-31', dueDate: '2026-07-31', enteredAt: '2026-07-31' },
    accounts: '4000 to 4999',
    begins: '4',
    enteredWhen: 'sat.14',
  };
  const names = clauseChoices({
    entities: [],
    dimensions: [{ code: 'vessel', name: 'Vessel', members: [] }],
  } as never).map((c) => c.name);
  expect(names).toContain('dim.vessel');
  for (const name of new Set([...names, ...Object.keys(CLAUSES)])) {
    const value = example[name] ?? (isNumber(name) ? '5' : 'X');
    const params = readQuery(scopeShape, new URLSearchParams([[name, value]]));
    // Accounts and a load are no clauses of lines; whatever else is offered becomes one.
    expect(
      clausesOf(params, 2).map((c) => c.on),
      name,
    ).toEqual(name === 'accounts' || name === 'load' ? [] : [name.startsWith('dim.') ? 'dim' : name]);
  }
});

test('no two clauses are said by the same words, and numbers know that they are', () => {
  const words = SAYABLE.flatMap((s) => s.words);
  expect(new Set(words).size).toBe(words.length);
  for (const word of words) expect(word).toBe(word.toLowerCase());
  expect(
    SAYABLE.filter((s) => s.isNumber)
      .map((s) => s.name)
      .sort(),
  ).toEqual(LINE_NUMBERS.filter((n) => CLAUSES[n]?.typed).sort());
  // What only a cell or a split makes is not offered, for the window says it better.
  expect(clauseChoices(undefined).map((c) => c.name)).not.toContain('day');
  expect(clauseChoices(undefined).filter((c) => c.name === 'accounts')).toHaveLength(1);
});

test.each([
  ['GL, not AP, none', ['GL', '~not:AP', '~none'], 'GL, not AP, none'],
  ['all but AP', ['~not:AP'], 'not AP'],
  ['NOT none', ['~not:~none'], 'not none'],
  ['exactly none', ['~is:none'], 'exactly none'],
  ['not exactly none', ['~not:~is:none'], 'not exactly none'],
  [' , GL ,, ', ['GL'], 'GL'],
  ['nonesuch', ['nonesuch'], 'nonesuch'],
  ['Notary', ['Notary'], 'Notary'],
])('“%s” is %j', (typed, values, shown) => {
  expect(valuesWritten(typed, 'journal')).toEqual(values);
  expect(valuesShown(values, 'journal')).toBe(shown);
});

test('texts keep their commas and have a row each', () => {
  const values = ['Fares, July', '~not:Fuel, MV Maren'];
  expect(isText('description') && !isText('journal')).toBe(true);
  expect(valuesShown(values, 'description')).toBe('Fares, July\nnot Fuel, MV Maren');
  expect(valuesWritten(valuesShown(values, 'description'), 'description')).toEqual(values);
});

test('whatever values a clause has, what is shown of them means the same when it is written again', () => {
  const random = new Random(11);
  const pieces = ['~not:', '~is:', '', '', ''];
  const bare = ['GL', 'AP 2', 'none', '~none', 'exactly', 'not', 'Brenna–Tolsey', 'ÅS', '12', 'a:b'];
  for (let i = 0; i < 400; i++) {
    const values = Array.from({ length: random.whole(1, 4) }, () => {
      const value = random.pick(bare);
      const not = random.pick(pieces) === '~not:' ? '~not:' : '';
      // A value that is a word of the clause's own is written so that it is not taken for it.
      const is = value !== '~none' && (random.pick(pieces) === '~is:' || value === 'none') ? '~is:' : '';
      return `${not}${is}${value}`;
    });
    expect(valuesWritten(valuesShown(values, 'journal'), 'journal'), values.join(' | ')).toEqual(values);
  }
});

test('every field of a line that has values or numbers has a clause with a hint', () => {
  for (const name of Object.keys(CLAUSES).filter((n) => isValue(n) || isNumber(n)))
    expect(CLAUSES[name]?.hint, name).toMatch(/\S/);
});
