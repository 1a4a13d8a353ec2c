import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import iconv from 'iconv-lite';
import { describe, expect, test } from 'vitest';
import { ENCODINGS } from '@/contracts/mapping';
import { formatAmount } from '@/core/money';
import { plainAmount } from '@/core/writtenAmounts';
import { plainDate, recogniseDates, recogniseDecimal } from './dialect';
import { recogniseEncoding } from './encoding';
import { guessColumns } from './guess';
import { presetOf } from './presets';
import { quotesAreSound } from './quotes';
import { recogniseDelimiter, sheetNames, workbookRows } from './rows';
import type { Source } from './source';
import { guardedCell, unguardedCell } from './writers';

describe('amounts', () => {
  /** The ways in which ledgers write one amount, by the decimal mark. */
  const written = (minor: number, decimal: '.' | ','): string[] => {
    const [whole = '0', fraction = '00'] = formatAmount(Math.abs(minor), 2).split('.');
    const group = decimal === '.' ? ',' : '.';
    const grouped = (mark: string): string => whole.replace(/\B(?=(\d{3})+$)/g, mark);
    const texts = [
      `${whole}${decimal}${fraction}`,
      `${grouped(group)}${decimal}${fraction}`,
      `${grouped(' ')}${decimal}${fraction}`,
      `${grouped('\u00a0')}${decimal}${fraction}`,
    ];
    return minor < 0 ? texts.flatMap((t) => [`-${t}`, `(${t})`, `${t}-`, `−${t}`]) : texts;
  };

  test('however they are written, they read as the same decimal string', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000_000_00, max: 1_000_000_000_00 }),
        fc.constantFrom('.' as const, ',' as const),
        (minor, decimal) => {
          for (const text of written(minor, decimal)) expect(plainAmount(text, decimal)).toBe(formatAmount(minor, 2));
        },
      ),
    );
  });

  test('the mark is recognised where the values say it, and asked where they do not', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -9_999_999, max: 9_999_999 }), { minLength: 1, maxLength: 40 }),
        fc.constantFrom('.' as const, ',' as const),
        (amounts, decimal) => {
          const found = recogniseDecimal(amounts.map((a) => written(a, decimal)[0] as string));
          expect(found).toMatchObject({ value: decimal, doubt: 'none' });
        },
      ),
    );
    expect(recogniseDecimal(['1.234', '12.500'])).toMatchObject({ doubt: 'ask' });
    expect(recogniseDecimal(['1,234', '7,50'])).toMatchObject({ value: ',', doubt: 'none' });
    expect(recogniseDecimal(['12', '500'])).toMatchObject({ doubt: 'none' });
    expect(recogniseDecimal(['1.50', '2.25', '3,75'])).toMatchObject({ value: '.', doubt: 'likely' });
  });

  test('what is no amount is given back as it stood, for the row’s own check to name', () => {
    for (const text of ['abc', '1.2.3', '--5', '(-5)', '1,23.45', '12 34,5x'])
      expect(plainAmount(text, '.')).toBe(text);
  });
});

describe('dates', () => {
  const pad = (n: number): string => String(n).padStart(2, '0');

  test('in every order and with every mark, with a time behind or not', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1990-01-01'), max: new Date('2060-12-31'), noInvalidDate: true }),
        (date) => {
          const [y, m, d] = [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()];
          const iso = `${y}-${pad(m)}-${pad(d)}`;
          for (const mark of ['-', '/', '.']) {
            expect(plainDate(`${d}${mark}${m}${mark}${y}`, 'dmy')).toBe(iso);
            expect(plainDate(`${pad(m)}${mark}${pad(d)}${mark}${y}`, 'mdy')).toBe(iso);
            expect(plainDate(`${y}${mark}${pad(m)}${mark}${pad(d)} 13:45:00`, 'ymd')).toBe(iso);
          }
          expect(plainDate(`${y}${pad(m)}${pad(d)}`, 'ymd')).toBe(iso);
          expect(plainDate(`${pad(d)}${pad(m)}${y}`, 'dmy')).toBe(iso);
          expect(plainDate(`${d}-${date.toLocaleString('en', { month: 'short', timeZone: 'UTC' })}-${y}`, 'ymd')).toBe(
            iso,
          );
        },
      ),
    );
  });

  test('the order is recognised by a day beyond the twelfth, else asked', () => {
    expect(recogniseDates(['01.02.2026', '28.02.2026'])).toMatchObject({ value: 'dmy', doubt: 'none' });
    expect(recogniseDates(['1/2/2026', '2/28/2026'])).toMatchObject({ value: 'mdy', doubt: 'none' });
    expect(recogniseDates(['20260228'])).toMatchObject({ value: 'ymd', doubt: 'none' });
    expect(recogniseDates(['01/02/2026', '11/12/2026'])).toMatchObject({ doubt: 'ask' });
    expect(recogniseDates(['13/01/2026', '01/13/2026', '14/01/2026'])).toMatchObject({ value: 'dmy', doubt: 'likely' });
    for (const impossible of ['31.02.2026', '00/01/2026', '2026-13-01', 'soon'])
      expect(plainDate(impossible, 'dmy')).toBe(impossible);
  });
});

describe('text', () => {
  test('every encoding is recognised by its bytes, and what is no text is none', () => {
    const text = 'Größe;Öl;€ 5,00\r\n'.repeat(20);
    for (const encoding of ENCODINGS) {
      const head = iconv.encode(text, encoding, { addBOM: encoding.startsWith('utf-16') });
      expect([encoding, recogniseEncoding({ head, whole: true })?.value]).toEqual([encoding, encoding]);
    }
    const cut = Buffer.from('é'.repeat(10)).subarray(0, 19);
    expect(recogniseEncoding({ head: cut, whole: false })?.value).toBe('utf-8');
    expect(recogniseEncoding({ head: iconv.encode(text, 'utf-16le'), whole: true })?.value).toBe('utf-16le');
    expect(recogniseEncoding({ head: Buffer.from([0x80, 0, 0, 0xff, 0, 0, 0, 3]), whole: true })).toBeNull();
  });

  test('the delimiter is the one that divides rows evenly, whatever stands in quotes', () => {
    expect(recogniseDelimiter('a;b;c\n1;"x,y,z";2\n3;"p,q,r,s";4')).toBe(';');
    expect(recogniseDelimiter('a\tb\n1,5\t2,5')).toBe('\t');
    expect(recogniseDelimiter('a|b|c\n1|2|3')).toBe('|');
    expect(recogniseDelimiter('a,b\n"1;2",3')).toBe(',');
  });

  test('guarded cells come back as they were', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((s) => `'${s}`),
          fc.constantFrom('=1', "'=1", "''-x", '@a', '+', "'"),
        ),
        (text) => unguardedCell(guardedCell(text)) === text,
      ),
    );
    expect(guardedCell('=HYPERLINK("x")')).toBe(`'=HYPERLINK("x")`);
  });
});

test('quotes are sound exactly where the reader of rows takes them, however the file is cut into pieces', async () => {
  const path = join(mkdtempSync(join(tmpdir(), 'just-thread-quotes-')), 'x.csv');
  const reads = (text: string): boolean => {
    try {
      parse(text, { relax_column_count: true, relax_quotes: false, bom: true });
      return true;
    } catch {
      return false;
    }
  };
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom('"', '"', ',', '\n', 'a', ' ', '""', '","', '\ufeff"'), { maxLength: 14 }),
      fc.integer({ min: 1, max: 5 }),
      async (pieces, bytes) => {
        const text = pieces.join('').replace(/(?!^)\ufeff/g, '');
        writeFileSync(path, text);
        expect([text, await quotesAreSound(path, ',', bytes)]).toEqual([text, reads(text)]);
      },
    ),
    { numRuns: 600 },
  );
  rmSync(join(path, '..'), { recursive: true });
});

test('columns are guessed by the trade’s words in several languages, and by what stands in them', () => {
  const known = {
    accounts: new Set(['100', '400', '500']),
    entities: new Set(['ONE']),
    dimensions: new Map([['vessel', { name: 'Vessel', members: new Set(['TERN', 'SKUA']) }]]),
  };
  const guess = (header: string[], rows: string[][]) =>
    guessColumns(header, rows, 'lines', known).map((g) => g?.field ?? null);
  const row = (...cells: string[]): string[][] => [cells, cells, cells];
  expect(
    guess(['Bilagsnr', 'Dato', 'Konto', 'Debet', 'Kredit', 'Tekst'], row('1', '2026-01-01', '100', '5', '', 'x')),
  ).toEqual(['entry', 'date', 'account', 'debit', 'credit', 'description']);
  expect(
    guess(['Asiento', 'Fecha', 'Cuenta', 'Debe', 'Haber', 'Concepto'], row('1', '2026-01-01', '100', '5', '', 'x')),
  ).toEqual(['entry', 'date', 'account', 'debit', 'credit', 'description']);
  expect(
    guess(
      ['A', 'B', 'C', 'D'],
      [
        ['100', '2026-01-01', 'TERN', 'D'],
        ['400', '2026-01-02', 'SKUA', 'C'],
        ['500', '2026-01-03', 'TERN', 'D'],
      ],
    ),
  ).toEqual(['account', 'date', 'dim:vessel', 'side']);
  // No field is given twice: the balance beside debit and credit is left out.
  expect(guess(['Debit', 'Credit', 'Amount'], row('1', '', '1'))).toEqual(['debit', 'credit', null]);
  expect(presetOf(['journal_id', 'GL_Account_Number', 'EFFECTIVE DATE', 'Amount'])).toMatchObject({
    format: 'ads',
    kind: 'lines',
  });
  expect(presetOf(['entry', 'account'])).toBeNull();
});

test('a workbook whose list of sheets was not seen at first is read anew; one that never has it is cut off', async () => {
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Journal').addRow(['Voucher', 'Amount']);
  const whole = Buffer.from(await book.xlsx.writeBuffer());
  // The list of sheets is the last part: without it the bytes still end where a part does.
  const cut = whole.subarray(0, whole.indexOf('xl/workbook.xml') - 30);
  const given = (...contents: Buffer[]): Source => ({
    ...{ head: whole, whole: true, container: 'workbook', members: [], member: null },
    stream: async () => Readable.from([contents.shift() ?? cut]),
  });
  expect(await sheetNames(given(cut, whole))).toEqual(['Journal']);
  const rows: string[][] = [];
  for await (const { cells } of workbookRows(given(cut, cut, whole), {})) rows.push(cells);
  expect(rows).toEqual([['Voucher', 'Amount']]);
  await expect(sheetNames(given())).rejects.toThrow(/is cut off, its list of sheets is missing/);
});
