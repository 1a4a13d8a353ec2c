import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { calendar, calendarFaults, numberOf, parsePeriod, periodText, yearSpan } from './calendar';
import { daysBetween, isDate, weekdayOf } from './dates';
import { sha256Text } from './digest';
import { type Account, beneath } from './ledger';
import { AmountRangeError, add, allot, exponentOf, formatAmount, parseAmount } from './money';
import { otherSide } from './otherSide';
import { accountsIn, parseSelection, SelectionError, selectionText } from './selection';
import { TREES } from './testing/randomLedger';

describe('money', () => {
  test('minor units are those of ISO 4217, as the runtime’s CLDR data has them', () => {
    expect(['JPY', 'GBP', 'NOK', 'KWD'].map(exponentOf)).toEqual([0, 2, 2, 3]);
  });
  test('a decimal string and minor units are the same amount', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Number.MIN_SAFE_INTEGER, max: Number.MAX_SAFE_INTEGER }),
        fc.constantFrom(0, 2, 3),
        (amount, digits) => {
          expect(parseAmount(formatAmount(amount, digits), digits)).toBe(amount === 0 ? 0 : amount);
        },
      ),
    );
  });
  test('beyond 2^53 is an error, never a rounded number', () => {
    expect(() => add(Number.MAX_SAFE_INTEGER, 1)).toThrow(AmountRangeError);
    expect(() => parseAmount('90071992547409.92', 2)).toThrow(AmountRangeError);
    expect(() => parseAmount('1.234', 2)).toThrow(/3 decimals/);
  });
  test('parts of an amount sum to it exactly and differ from their share by less than one unit', () => {
    const weights = fc
      .array(fc.integer({ min: 0, max: 1e12 }), { minLength: 1, maxLength: 12 })
      .filter((w) => w.some((x) => x > 0));
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), weights, (amount, w) => {
        const parts = allot(amount, w);
        const total = w.reduce((a, x) => a + x, 0);
        expect(parts.reduce((a, p) => a + p, 0)).toBe(amount);
        for (const [i, part] of parts.entries())
          expect(Math.abs(part - (amount * (w[i] as number)) / total)).toBeLessThan(1.01);
      }),
    );
  });
});

describe('calendar', () => {
  test('a year that starts in May has May as period 01, one that starts in July has July (common practice)', () => {
    const at = (start: string, date: string): string =>
      periodText(calendar({ kind: 'monthly', start, adjustmentPeriods: 1 }).periodAt(date).ordinal);
    expect([at('05', '2025-05-01'), at('07', '2026-07-31'), at('04', '2026-03-31'), at('01', '2024-02-29')]).toEqual([
      '2026.01',
      '2027.01',
      '2026.12',
      '2024.02',
    ]);
  });
  test('period 13 shares the last day of its year', () => {
    const cal = calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 });
    expect(cal.period(parsePeriod('2027.13') as number)).toMatchObject({
      from: '2027-03-31',
      to: '2027-03-31',
      adjustment: true,
    });
  });
  test('weeks: years end on the chosen weekday and have 52 or 53 weeks (26 CFR 1.441-2, from memory)', () => {
    const cal = calendar({
      kind: 'weeks',
      pattern: '4-5-4',
      yearEnds: { weekday: 6, month: 1, rule: 'nearest' },
      adjustmentPeriods: 0,
    });
    const weeks = [];
    for (let year = 2001; year <= 2040; year++) {
      const { from, to } = yearSpan(cal, year);
      expect(weekdayOf(to)).toBe(6);
      expect(Math.abs(daysBetween(`${year}-01-31`, to))).toBeLessThanOrEqual(3);
      weeks.push((daysBetween(from, to) + 1) / 7);
    }
    expect(new Set(weeks)).toEqual(new Set([52, 53]));
  });
  test('every date lies in exactly one normal period, and consecutive periods leave no gap', () => {
    const specs = [
      { kind: 'monthly', start: '07', adjustmentPeriods: 2 },
      { kind: 'weeks', pattern: '5-4-4', yearEnds: { weekday: 5, month: 9, rule: 'last' }, adjustmentPeriods: 1 },
    ] as const;
    for (const spec of specs) {
      const cal = calendar(spec);
      for (let year = 2020; year < 2030; year++) {
        for (const p of cal.periodsOf(year).filter((x) => !x.adjustment)) {
          expect([cal.periodAt(p.from).ordinal, cal.periodAt(p.to).ordinal]).toEqual([p.ordinal, p.ordinal]);
          expect(numberOf(p.ordinal)).toBe(p.number);
        }
      }
    }
  });
  test('a custom list with a gap is told where', () => {
    const periods = [
      { year: 2026, number: 1, from: '2026-01-01', to: '2026-06-30' },
      { year: 2026, number: 2, from: '2026-07-02', to: '2026-12-31' },
    ];
    expect(calendarFaults({ kind: 'custom', periods })).toEqual([
      'period 2026.01 ends on 2026-06-30, the next begins on 2026-07-02',
    ]);
  });
  test('dates are dates, leap days and all', () => {
    expect(['2024-02-29', '2025-02-29', '2026-04-31', '2026-4-1', '2026-12-31'].map(isDate)).toEqual([
      true,
      false,
      false,
      false,
      true,
    ]);
  });
});

describe('account selection', () => {
  const account = (
    code: string,
    type: Account['type'],
    parent: string | null = null,
    posting = true,
    groups: string[] = [],
  ): Account => ({
    code,
    name: `Name ${code}`,
    type,
    parent,
    posting,
    groups,
  });
  const chart = [
    account('4', 'income', null, false),
    ...['4000', '4010', '4999', '52'].map((c) => account(c, 'income', c.length === 4 ? '4' : null)),
    account('5210', 'expense', null, true, ['Vessel running']),
    account('5220', 'expense', null, true, ['Vessel running']),
    account('A-10', 'asset'),
  ];
  const taken = (text: string): string => [...accountsIn(parseSelection(text), chart)].join(' ');
  test.each([
    ['4000 to 4999', '4000 4010 4999'],
    ['52*, except 5210', '52 5220'],
    ['4', '4000 4010 4999'],
    ['type expense', '5210 5220'],
    ['group Vessel running, except 522?', '5210'],
    ['4000 to 4999, 52*, type expense, group Vessel running, except 5210', '4000 4010 4999 52 5220'],
    ['except 4', '52 5210 5220 A-10'],
    ['A-00 to A-99', 'A-10'],
  ])('%s', (text, codes) => expect(taken(text)).toBe(codes));
  test.each([
    // Codes between the ends and what is beneath the heading that ends it (method.md §5); 59 begins with nothing of it.
    ['5000 to 5200', '5010 5190 5200 5205 X-7'],
    ['5000 to 5199', '5010 5190'],
    // A heading at the start or inside brings in nothing from beyond.
    ['5100 to 5199', '5190'],
    // Codes of other lengths are compared by as many leading characters.
    ['62 to 63', '6210 6390 63'],
    ['620 to 629', '6210'],
    ['A-1 to A-2', 'A-10 A-29x'],
  ])('a range takes what lies in it: %s', (text, codes) => {
    const ranged = [
      account('5000', 'expense', null, false),
      account('5010', 'expense', '5000'),
      account('5100', 'expense', null, false),
      account('5190', 'expense', '5100'),
      account('5900', 'expense', '5100'),
      account('5200', 'expense'),
      account('5205', 'expense', '5200'),
      account('X-7', 'expense', '5200'),
      ...['6210', '6390', '63', '6', '6400', 'A-10', 'A-29x', 'A-3'].map((code) => account(code, 'expense')),
    ];
    const found = [...accountsIn(parseSelection(text), ranged)];
    expect(found.sort().join(' ')).toBe(codes.split(' ').sort().join(' '));
  });
  test('says itself back', () => {
    for (const text of ['4000 to 4999, 52*, except 5210', 'all accounts, except 4', 'group Vessel running'])
      expect(selectionText(parseSelection(text))).toBe(text);
  });
  test.each([
    ['4001', /no account “4001”.*4000/],
    ['type revenue', /“revenue” is no account type/],
    ['group Vesel running', /did you mean Vessel running/],
    ['4000-4999', /did you mean “4000 to 4999”/],
    ['4999 to 4000', /runs backwards/],
    ['40 to 4999', /ends of equal length/],
    ['4 to 10', /ends of equal length/],
    ['', /empty/],
  ])('an unknown word is named: %s', (text, message) => {
    expect(() => taken(text)).toThrow(SelectionError);
    expect(() => taken(text)).toThrow(message);
  });
});

test('a member of a tree stands for all beneath it', () => {
  expect([...beneath(TREES.get('unit') ?? new Map(), 'N1')].sort()).toEqual(['N1', 'N11', 'N111']);
});

describe('other side', () => {
  test('of a two-line entry is the other account (common practice)', () => {
    const lines = [
      { id: 'a', account: '100', amount: 500 },
      { id: 'b', account: '400', amount: -500 },
    ];
    expect(otherSide(lines, new Set(['a']))).toEqual([{ account: '400', amount: -500, exact: true }]);
  });
  test('of any balanced entry sums to minus what was chosen, and is exact only with one line on a side', () => {
    const entry = fc.array(
      fc.integer({ min: -1e9, max: 1e9 }).filter((n) => n !== 0),
      { minLength: 1, maxLength: 8 },
    );
    fc.assert(
      fc.property(entry, fc.integer({ min: 1, max: 511 }), (amounts, mask) => {
        const rest = -amounts.reduce((a, n) => a + n, 0);
        const lines = [...amounts, ...(rest === 0 ? [] : [rest])].map((amount, i) => ({
          id: String(i),
          account: `A${i % 3}`,
          amount,
        }));
        const chosen = new Set(lines.filter((_, i) => mask & (1 << i)).map((l) => l.id));
        const shares = otherSide(lines, chosen);
        const wanted = lines.filter((l) => chosen.has(l.id)).reduce((a, l) => a + l.amount, 0);
        expect(shares.reduce((a, s) => a + s.amount, 0) + wanted).toBe(0);
        const sides = [lines.filter((l) => l.amount > 0).length, lines.filter((l) => l.amount < 0).length];
        for (const s of shares) expect(s.exact).toBe(Math.min(...sides) <= 1);
      }),
    );
  });
});

test('SHA-256 gives the vectors of FIPS 180-4', () => {
  expect(sha256Text('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  expect(sha256Text('')).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
});
