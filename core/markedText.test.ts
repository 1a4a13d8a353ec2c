import fc from 'fast-check';
import { expect, test } from 'vitest';
import { markedIn } from './markedText';

const found = (text: string, amounts: string[], numbers: string[] = []): string[] =>
  markedIn(text, { amounts, numbers }).map(({ from, to }) => text.slice(from, to));

test('an amount is found however it is written, and never another one', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 100, max: 99_999_999 }),
      fc.constantFrom(
        { group: ',', decimal: '.' },
        { group: '.', decimal: ',' },
        { group: ' ', decimal: ',' },
        { group: '\u202f', decimal: '.' },
        { group: '’', decimal: '.' },
        { group: '', decimal: '.' },
      ),
      fc.constantFrom('', 'GBP ', 'to pay ', '(', 'NOK\u00a0'),
      (cents, { group, decimal }, before) => {
        const plain = `${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;
        const [whole = '', fraction = ''] = plain.split('.');
        const written = `${whole.replace(/\B(?=(\d{3})+$)/g, group)}${decimal}${fraction}`;
        expect(found(`${before}${written}`, [plain])).toEqual([written]);
        expect(found(`${before}${written}`, [`-${plain}`])).toEqual([written]);
        expect(found(`${before}${written}`, [(cents / 100 + 1).toFixed(2)])).toEqual([]);
      },
    ),
  );
});

test('other digits before an amount are not part of it', () => {
  expect(found('Steel, 41 tonnes 2 084 200.00', ['2084200.00'])).toEqual(['2 084 200.00']);
  expect(found('3 July 2026 37 800.00', ['37800.00'])).toEqual(['37 800.00']);
  // What is written in thousands is one number, of which no part is another.
  expect(found('2 084 200.00', ['200.00'])).toEqual([]);
});

test('numbers are found in any case, small ones and nothing at all are not', () => {
  expect(found('Invoice ns-20631 of 3 July', [], ['NS-20631'])).toEqual(['ns-20631']);
  expect(found('page 5 of 12', ['5.00', '12.00'], ['5'])).toEqual([]);
  expect(found('total 5.00', ['5.00'])).toEqual(['5.00']);
  expect(found('nothing 0.00', ['0.00'])).toEqual([]);
});
