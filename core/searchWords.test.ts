import fc from 'fast-check';
import { expect, test } from 'vitest';
import { folded, foldedPlaces, patternOfFolded, patternOfWhole } from './folded';
import { fitOf, hasAll, marksIn, placeOf, readSearch } from './searchWords';

const TODAY = '2026-10-05';
const read = (typed: string) => readSearch(typed, TODAY);

test('letters are folded to those that they are looked for by', () => {
  expect(folded('Sørvik ÅRSREGNSKAP Straße Œuvre Łódź ΆΛΦΑ Ёлка')).toBe(
    'sorvik arsregnskap strasse oeuvre lodz αλφα елка',
  );
  // A mark that stands behind its letter is the same as one upon it.
  expect(folded('Cafe\u0301')).toBe('cafe');
});

test('folding keeps the places of letters, whatever the text', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => {
      const { folded: plain, places } = foldedPlaces(text);
      expect(plain).toBe(folded(text));
      expect(places).toHaveLength(plain.length + 1);
      expect(places.at(-1)).toBe(text.length);
    }),
  );
});

test('a pattern fits exactly where the folded text has the words', () => {
  const unit = fc.constantFrom(...'aesttho AESØøßæÆþœŒÅåéÉ\u0301dđ- .*[^$?9ий'.split(''));
  const text = fc.string({ unit, maxLength: 12 });
  fc.assert(
    fc.property(text, text, fc.nat(12), fc.nat(12), (of, other, from, many) => {
      const own = folded(of);
      for (const words of [own.slice(from, from + many), folded(other).slice(0, 4)])
        if (words !== '')
          expect({ of, words, found: new RegExp(patternOfFolded(words), 's').test(of) }).toEqual({
            of,
            words,
            found: own.includes(words),
          });
    }),
    { numRuns: 3_000 },
  );
});

test('a pattern of whole words fits where they stand whole', () => {
  const unit = fc.constantFrom(...'aAøß- .9и'.split(''));
  const text = fc.string({ unit, minLength: 1, maxLength: 8 });
  fc.assert(
    fc.property(text, text, (of, other) => {
      const wanted = folded(other).slice(0, 2);
      const found = new RegExp(patternOfWhole(wanted), 's').test(of);
      // Of a letter that stands for two one half may be whole by itself in the pattern alone.
      if (placeOf(folded(of), { text: wanted, exact: true }) >= 0)
        expect({ of, wanted, found }).toMatchObject({ found: true });
      else if (!/[ßø]/i.test(of)) expect({ of, wanted, found }).toMatchObject({ found: false });
    }),
    { numRuns: 2_000 },
  );
});

test('a pattern grows with its words and not faster', () => {
  expect(patternOfFolded('s'.repeat(200)).length).toBeLessThan(200 * 200);
  expect(patternOfFolded('the aether '.repeat(18)).length).toBeLessThan(20_000);
});

test.each([
  ['410200', ['410200']],
  ['410,200.00', ['410200']],
  ['410.200,00', ['410200']],
  ['410,200', ['410200', '410.2']],
  ["1'234.50", ['1234.5']],
  ['0012', ['12']],
  ['12-34', []],
])('“%s” is an amount, however it is written', (typed, amounts) => {
  const [sought] = read(typed);
  expect(sought?.amounts.map((a) => a.from)).toEqual(amounts);
  expect(sought?.text).toBe(typed);
});

test('amounts over, under and between are nothing but amounts', () => {
  expect(read('>5000 <=10.50 1000..2500')).toEqual([
    { text: null, exact: false, amounts: [{ from: '5000', to: null, open: true }], days: null },
    { text: null, exact: false, amounts: [{ from: null, to: '10.5' }], days: null },
    { text: null, exact: false, amounts: [{ from: '1000', to: '2500' }], days: null },
  ]);
});

test.each([
  ['2026-07-06', '2026-07-06', '2026-07-06'],
  ['06.07.2026', '2026-07-06', '2026-07-06'],
  ['6 jul', '2026-07-06', '2026-07-06'],
  ['6 dec', '2025-12-06', '2025-12-06'],
  ['6 July 2024', '2024-07-06', '2024-07-06'],
  ['2026-02', '2026-02-01', '2026-02-28'],
  ['feb 2024', '2024-02-01', '2024-02-29'],
])('“%s” is a time', (typed, from, to) => {
  expect(read(typed).map((s) => s.days)).toEqual([{ from, to }]);
});

test('what is no day is words', () => {
  for (const typed of ['31 feb', '6 ju', '99 jul', 'may']) expect(read(typed).every((s) => s.days === null)).toBe(true);
});

test('words are found as parts of words in any order, those in quotes whole, a single letter as a word', () => {
  const text = folded('Repair of propeller shaft, MV Sørvik — part B');
  expect(hasAll([text], read('vik SHAFT'))).toBe(true);
  expect(hasAll([text], read('shaft anchor'))).toBe(false);
  expect(hasAll([text], read('"propeller shaft"'))).toBe(true);
  expect(hasAll([text], read('"peller shaft"'))).toBe(false);
  expect(hasAll([text], read('b'))).toBe(true);
  expect(hasAll([text], read('s'))).toBe(false);
  expect(hasAll(['fn-00871', 'paid'], read('PAID n-008'))).toBe(true);
  expect(placeOf(text, { text: 'part b', exact: true })).toBeGreaterThan(0);
});

test('the places of found words are of the text as it stands', () => {
  const text = 'Straße: Sørvik, sørvik';
  expect(marksIn(text, read('sorvik asse')).map(([a, b]) => text.slice(a, b))).toEqual(['aße', 'Sørvik', 'sørvik']);
  expect(marksIn('aaa', read('aa'))).toEqual([[0, 2]]);
});

test('what is called exactly so comes before what begins so, and that before what has it somewhere', () => {
  const sought = read('6320');
  expect([['6320'], ['63201'], ['dock 6320'], ['a16320']].map((own) => fitOf(own, sought))).toEqual([0, 1, 2, 3]);
  expect(fitOf(['dry-docking'], read('dock dry'))).toBe(2);
});
