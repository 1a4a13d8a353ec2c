import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { gzipSync } from 'node:zlib';
import iconv from 'iconv-lite';
import { afterAll, describe, expect, test } from 'vitest';
import type { Format, LoadKind, Mapping } from '@/contracts/mapping';
import { formatAmount } from '@/core/money';
import { Random } from '@/demo/random';
import { Problems } from './problem';
import { readRecords } from './readRecords';
import { recognise } from './recognise';
import { type SaftHead, writeSaft } from './saftWriter';
import { ACCOUNT_COLUMNS, DIMENSION_COLUMNS, LINE_COLUMNS } from './tables';
import { type Table, type Written, writeAds, writeCsv, writeFec, writeJson, writeXlsx } from './writers';

// What is written in each format is read again as the same, whatever stands in it: texts are made of all that has broken
// files before, and every file is asked for by its content alone, as when somebody drops it on the page.

const folder = mkdtempSync(join(tmpdir(), 'just-thread-round-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let made = 0;
async function readAgain(
  written: Readable | Buffer,
  kind: LoadKind,
  options: { slots?: ReadonlyMap<number, string>; mapping?: Mapping; name?: string; format?: Format } = {},
) {
  made += 1;
  const path = join(folder, `${made}-${options.name ?? 'file'}`);
  if (Buffer.isBuffer(written)) writeFileSync(path, written);
  else await pipeline(written, createWriteStream(path));
  const file = { path, kind, format: options.format ?? null, mapping: options.mapping ?? null };
  const problems = new Problems();
  const records: Record<string, string>[] = [];
  for await (const { values } of readRecords(file, problems, options.slots ? { slots: options.slots } : {}))
    records.push(Object.fromEntries(Object.entries(values).filter(([, value]) => value !== '')));
  return { records, problems: problems.kept.map((p) => `${p.row}: ${p.message}`), file };
}

const table = (columns: readonly string[], records: readonly Written[], kind = LINE_COLUMNS): Table => ({
  ...{ columns, kind },
  records: Readable.from(records) as AsyncIterable<Written>,
});

/** Pieces that have broken files: quotes, delimiters, marks that run, markup, other alphabets, the ends of rows. */
const PIECES = [
  ...['"', "'", '""', ';', ',', '|', '\t', '=1+1', '+49', '-', '@x', '<b>', '&amp;', ']]>', '{"a":1}', '\\N', '\\t'],
  ...['Brønnøysund', 'Kö\u0308ln', '港', '🚢', 'null', 'NULL', '0012', '1e5', '3.10', 'TRUE', '~not:', '–', '\u00a0'],
];
const WIDE = [...PIECES, '\n', '\r\n', '\n\n'];

/** @param pieces of which texts are made; a text neither begins nor ends with a blank, which no format promises to keep */
function textsOf(random: Random, pieces: readonly string[]): string {
  const text = Array.from({ length: random.whole(1, 4) }, () => random.pick(pieces)).join(' ');
  return text.trim() || 'x';
}

const pad = (n: number): string => String(n).padStart(2, '0');
const dateOf = (random: Random): string => `2026-${pad(random.whole(1, 12))}-${pad(random.whole(1, 28))}`;

/** Lines of entries of two, debit and credit in turn, of amounts from a penny to what a binary number cannot hold. */
function linesOf(random: Random, count: number, pieces: readonly string[]): Written[] {
  return Array.from({ length: count }, (_, i) => {
    const amount = formatAmount(random.pick([1, 99, 100, 1_234_56, 9_999_999_999_999_99]) + random.whole(0, 98), 2);
    return {
      entity: 'KSF',
      entry: `E${Math.floor(i / 2)}`,
      line: String((i % 2) + 1),
      date: dateOf(random),
      account: random.pick(['1000', '0400', '7110']),
      description: textsOf(random, pieces),
      entry_description: `${Math.floor(i / 2)}`,
      ...(i % 2 === 0 ? { debit: amount } : { credit: amount }),
      ...(random.whole(0, 1) ? { document: textsOf(random, pieces === WIDE ? PIECES : pieces) } : {}),
      ...(random.whole(0, 2) ? { 'dim:vessel': random.pick(['MAREN', 'Å-1', '007']) } : {}),
      ...(random.whole(0, 2) ? { quantity: random.pick(['1', '12.5', '-3']), unit: 'l' } : {}),
    };
  });
}
const COLUMNS = [
  ...['entity', 'entry', 'line', 'date', 'account', 'description', 'entry_description', 'debit', 'credit', 'document'],
  ...['quantity', 'unit', 'dim:vessel'],
];
const SLOTS = new Map([[1, 'vessel']]);

describe('lines', () => {
  const random = new Random(4_711);
  const lines = linesOf(random, 300, WIDE);

  test('CSV, whatever divides its fields and whatever stands in them', async () => {
    for (const delimiter of [',', ';', '\t', '|']) {
      const { records, problems } = await readAgain(writeCsv(table(COLUMNS, lines), delimiter), 'lines');
      expect(problems).toEqual([]);
      expect(records).toEqual(lines);
    }
  });

  test('a workbook, with amounts as numbers and days as dates, and both back to the penny', async () => {
    const { records, problems, file } = await readAgain(writeXlsx(table(COLUMNS, lines), 'lines'), 'lines');
    expect(problems).toEqual([]);
    // A line break in a cell is one character there, amounts are numbers, and the reader beneath takes a mark of markup
    // that stands in a text for what it stands for.
    const asKept = (r: Written) => ({
      ...r,
      ...Object.fromEntries(
        ['description', 'document'].flatMap((f) =>
          r[f] ? [[f, r[f]?.replaceAll('\r\n', '\n').replaceAll('&amp;', '&')]] : [],
        ),
      ),
      ...Object.fromEntries(['debit', 'credit'].flatMap((f) => (r[f] ? [[f, Number(r[f])]] : []))),
    });
    expect(records.map(asKept)).toEqual(lines.map(asKept));
    expect((await recognise(file)).format).toBe('xlsx');
  });

  test('JSON, one list or an object a line, with dimensions in a place of their own', async () => {
    for (const list of ['lines', null]) {
      const { records, problems, file } = await readAgain(writeJson(table(COLUMNS, lines), list), 'lines');
      expect(problems).toEqual([]);
      expect(records).toEqual(lines);
      expect((await recognise(file)).format).toBe('json');
    }
  });

  test('the audit data standards, with dimensions in segments', async () => {
    const written = writeAds(table(COLUMNS, lines), new Map([['KSF', 'GBP']]), SLOTS);
    const { records, problems, file } = await readAgain(written, 'lines', { slots: SLOTS });
    expect(problems).toEqual([]);
    expect(records).toEqual(lines);
    expect((await recognise(file)).format).toBe('ads');
  });

  test('eighteen columns: what they hold comes back, a quotation mark as the letter that it is', async () => {
    const plain = linesOf(random, 200, PIECES).map((line): Written => ({ ...line, journal: 'GL' }));
    const { records, problems, file } = await readAgain(writeFec(table(COLUMNS, plain)), 'lines');
    expect(problems).toEqual([]);
    expect((await recognise(file)).format).toBe('fec');
    const spaced = (text: string | null | undefined) => (text ?? '').replace(/\s+/g, ' ').trim();
    expect(records.map((r) => [r.entry, r.date, r.account, spaced(r.description), spaced(r.document)])).toEqual(
      plain.map((r) => [
        `GL-${r.entry}`.replace(/^GL-E/, 'E'),
        r.date,
        r.account,
        spaced(r.description),
        spaced(r.document),
      ]),
    );
    const amounts = (of: readonly Written[]) => of.map((r) => [Number(r.debit ?? 0), Number(r.credit ?? 0)]);
    expect(amounts(records)).toEqual(amounts(plain));
  });

  test('a standard audit file: lines, and what its head says of accounts, parties and members', async () => {
    const own = lines.map(
      (line): Written => ({ ...line, journal: 'GL', period: '4', year: '2027', counterparty: 'C&A <1>' }),
    );
    const entries = new Map<string, string>();
    // The lines of an entry are of one day there.
    const dated = own.map((line): Written => {
      const day = entries.get(line.entry ?? '') ?? line.date ?? '';
      entries.set(line.entry ?? '', day);
      return { ...line, date: day };
    });
    const head: SaftHead = {
      ...{ from: '2026-01-01', to: '2026-12-31', created: '2026-10-05', comment: 'A & B <part>' },
      company: { code: 'KSF', name: 'Kestrel & Sons', currency: 'GBP' },
      accounts: [
        { code: '1000', name: 'Bank "A"', type: 'asset', opening: '10.00', closing: '-2.50', standard: 'S<1>' },
        { code: '0400', name: 'Fares & tolls', type: 'income', opening: '0.00', closing: '0.00', standard: null },
      ],
      parties: [{ code: 'C&A <1>', name: 'C & A', as: 'Supplier' }],
      sideOf: () => 'Supplier',
      analysis: [{ type: 'vessel', typeName: 'Vessel', code: 'MAREN', name: 'MV "Maren"' }],
      totals: { entries: entries.size, debit: '0.00', credit: '0.00' },
    };
    const writeIt = () => writeSaft(head, Readable.from(dated) as AsyncIterable<Written>);
    const { records, problems } = await readAgain(writeIt(), 'lines');
    expect(problems).toEqual([]);
    const kept = ['entry', 'line', 'date', 'account', 'debit', 'credit', 'counterparty', 'dim:vessel', 'quantity'];
    const only = (of: readonly Written[]) => of.map((r) => kept.map((k) => (r[k] === undefined ? '' : String(r[k]))));
    expect(only(records)).toEqual(only(dated));
    // XML folds the ends of rows; nothing else of a text changes.
    const folded = (text: string | null | undefined) => (text ?? '').replaceAll('\r\n', '\n');
    expect(records.map((r) => folded(r.description))).toEqual(dated.map((r) => folded(r.description)));
    const accounts = (await readAgain(writeIt(), 'accounts')).records;
    expect(accounts.map((a) => [a.code, a.name, a['code:standard']])).toEqual([
      ['1000', 'Bank "A"', 'S<1>'],
      ['0400', 'Fares & tolls', undefined],
    ]);
    expect((await readAgain(writeIt(), 'dimensions')).records).toMatchObject([
      { dimension: 'vessel', code: 'MAREN', name: 'MV "Maren"' },
    ]);
    expect((await readAgain(writeIt(), 'parties')).records).toMatchObject([{ code: 'C&A <1>', name: 'C & A' }]);
  });

  test('the same file in any encoding, and packed, is the same lines', async () => {
    const latin = linesOf(new Random(3), 60, ['Größe', 'Ærø', '€ 5', '"', ';', 'x']);
    const chunks: Buffer[] = [];
    for await (const chunk of writeCsv(table(COLUMNS, latin), ';')) chunks.push(Buffer.from(chunk));
    const text = Buffer.concat(chunks).toString('utf8');
    for (const encoding of ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'])
      for (const packed of [false, true]) {
        const bytes = iconv.encode(text, encoding, { addBOM: encoding !== 'windows-1252' });
        const { records, problems } = await readAgain(packed ? gzipSync(bytes) : bytes, 'lines', {
          name: packed ? 'lines.csv.gz' : 'lines.csv',
        });
        expect(`${encoding} ${packed} ${problems}`).toBe(`${encoding} ${packed} `);
        expect(records).toEqual(latin);
      }
  });
});

describe('a chart and dimensions', () => {
  const chart: Written[] = [
    { entity: 'KSF', code: '4', name: 'Income', type: 'income', posting: 'no', normal: 'credit' },
    {
      ...{ entity: 'KSF', code: '0410', name: '=Fares; "all"', type: 'income', parent: '4', posting: 'yes' },
      ...{
        group: 'A;B',
        created_at: '2026-02-28',
        'name:nb': 'Billetter',
        'code:statutory': '007',
        'dim:route': 'required',
      },
    },
  ];
  const columns = [...ACCOUNT_COLUMNS.known, 'name:nb', 'code:statutory', 'dim:route'];

  test.each(['csv', 'xlsx', 'json'])('as %s', async (format) => {
    const write = (of: Table) =>
      format === 'csv' ? writeCsv(of) : format === 'xlsx' ? writeXlsx(of, 'x') : writeJson(of, 'rows');
    const accounts = await readAgain(write(table(columns, chart, ACCOUNT_COLUMNS)), 'accounts');
    expect(accounts.problems).toEqual([]);
    expect(accounts.records).toEqual(chart);
    const members: Written[] = [
      { dimension: 'route', name: 'Route' },
      { dimension: 'route', code: '1', name: "'Harrowick–Skarvoy", valid_from: '2020-01-01', 'name:nb': 'Rute 1' },
    ];
    const own = [...DIMENSION_COLUMNS.known, 'name:nb'];
    const dimensions = await readAgain(write(table(own, members, DIMENSION_COLUMNS)), 'dimensions');
    expect(dimensions.problems).toEqual([]);
    expect(dimensions.records).toEqual(members);
  });
});

describe('a file that is not as it should be says where', () => {
  const HEAD = 'entry,line,date,account,amount,description';
  const read = (rows: string[], mapping?: Mapping) =>
    readAgain(Buffer.from(`${rows.join('\n')}\n`), 'lines', mapping ? { mapping } : {});

  test.each([
    [
      'a row of another width',
      [HEAD, 'E1,1,2026-01-01,100,1.00,x', 'E1,2,2026-01-01,400,-1.00'],
      /^3: this row has 5 fields, the header has 6/,
    ],
    [
      'a column that is not known, with the nearest that is',
      ['entry,line,date,acount,amount,description', 'E1,1,2026-01-01,100,1.00,x'],
      /is it “account”\?/,
    ],
    ['a column that stands twice', [`${HEAD},amount`, 'E1,1,2026-01-01,100,1.00,x,1.00'], /“amount” stands twice/],
    ['dates that can be read in two ways', [HEAD, 'E1,1,01/02/2026,100,1.00,x'], /dates can be read two ways/],
    [
      'amounts that can be read in two ways',
      [HEAD.replaceAll(',', ';'), 'E1;1;2026-01-31;100;1.234;x'],
      /amounts can be read two ways/,
    ],
  ])('%s', async (_, rows, says) => {
    const { records, problems } = await read(rows);
    expect(
      problems.some((p) => says.test(p)),
      problems.join(' | '),
    ).toBe(true);
    // Nothing of a file whose columns are in doubt is taken.
    if (!says.source.startsWith('^3')) expect(records).toEqual([]);
  });

  test('a mapping that names a column which is not there is told so', async () => {
    const { problems } = await read([HEAD, 'E1,1,2026-01-01,100,1.00,x'], {
      columns: { entry: 'Voucher', date: 'date', account: 'account', amount: 'amount' },
    });
    expect(problems.join()).toContain('“Voucher” that the file does not have');
  });

  test('lines without numbers are numbered within their entry, entries by journal and number', async () => {
    const rows = ['J,N,D,A,B', 'GL,1,2026-01-01,100,1', 'GL,1,2026-01-01,400,-1', 'AP,1,2026-01-01,100,2'];
    const { records } = await read(rows, { columns: { entry: ['J', 'N'], date: 'D', account: 'A', amount: 'B' } });
    expect(records.map((r) => [r.entry, r.line])).toEqual([
      ['GL-1', '1'],
      ['GL-1', '2'],
      ['AP-1', '1'],
    ]);
  });

  test('an amount and its side are a debit or a credit, in the words of the file', async () => {
    const rows = ['N,D,A,B,S', ...['Soll', 'H', 'd', 'Haben'].map((s, i) => `${i},2026-01-01,100,5.00,${s}`)];
    const columns = { entry: 'N', date: 'D', account: 'A', amount: 'B', side: 'S' };
    const sides = async (debit?: string[]) =>
      (await read(rows, { columns, ...(debit ? { debit } : {}) })).records.map((r) => (r.debit ? 'debit' : 'credit'));
    expect(await sides()).toEqual(['debit', 'credit', 'debit', 'credit']);
    expect(await sides(['h', 'haben'])).toEqual(['credit', 'debit', 'credit', 'debit']);
  });
});
