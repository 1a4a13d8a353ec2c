import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import ExcelJS from 'exceljs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { LeafFormat } from '@/contracts/leaves';
import type { How } from '@/contracts/leaving';
import { trialBalanceShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import type { LeafRow } from '@/core/leaf';
import { csvLeaf } from '@/exchange/leaves/csvLeaf';
import { checkSeal } from '@/exchange/leaves/seal';
import { xlsxLeaves } from '@/exchange/leaves/xlsxLeaf';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { setLetterhead } from './letterhead';
import { leavingOf, takeOut } from './takeOut';

/** Every output is read back by another reader than its writer, and held against the sheet itself. */

let home: Fresh;
let ines: Viewer;
beforeAll(async () => {
  home = await demoInstallation();
  ines = await demoPerson(home, 'ines');
});
afterAll(() => home?.close());

const TB = '/trial-balance?entity=KSF&from=2027.06&to=2027.06&tree=yes';

async function taken(path: string, format: LeafFormat, how: How = {}, viewer = ines): Promise<Buffer> {
  const { stream } = await takeOut(home.ctx, viewer, path, format, how);
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(Buffer.from(chunk));
  return Buffer.concat(chunks);
}

const sheetOf = (viewer = ines) =>
  readTrialBalance(home.ctx, viewer, readQuery(trialBalanceShape, new URLSearchParams(TB.split('?')[1])));

async function workbook(bytes: Buffer): Promise<ExcelJS.Workbook> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as never);
  return book;
}

/** The value of a cell, of a formula what it came to. */
function held({ value }: ExcelJS.Cell): unknown {
  if (value === null || typeof value !== 'object' || value instanceof Date) return value;
  // Of a formula that came to nothing the reader has no result.
  return 'formula' in value ? (value.result ?? 0) : 'hyperlink' in value ? value.text : value;
}

/** What a spreadsheet program would come to: the sums of a formula over the cells that it names. */
function recalculated(sheet: ExcelJS.Worksheet, formula: string): number {
  const sum = (text: string): number =>
    text.split(',').reduce((all, range) => {
      const [from = '', to = from] = range.split(':');
      let own = 0;
      for (let row = Number(from.slice(1)); row <= Number(to.slice(1)); row += 1)
        own += Number(held(sheet.getCell(`${from[0]}${row}`)) ?? 0);
      return all + own;
    }, 0);
  const [, inner = '', digits = '2'] = /^ROUND\((.*),(\d+)\)$/.exec(formula) ?? [];
  const parts = inner.startsWith('SUM(')
    ? [...inner.matchAll(/SUM\(([^)]*)\)/g)].map((m) => sum(m[1] ?? ''))
    : [...inner.matchAll(/([+-]?)([A-Z]+\d+)/g)].map(
        (m) => (m[1] === '-' ? -1 : 1) * Number(held(sheet.getCell(m[2] ?? ''))),
      );
  return Number(parts.reduce((a, b) => a + b, 0).toFixed(Number(digits)));
}

describe('a trial balance', () => {
  test('as text is what the sheet says, read by a database', async () => {
    const file = join(tmpdir(), `just-thread-${process.pid}.csv`);
    writeFileSync(file, await taken(TB, 'csv', { heading: 'without' }));
    const db = await (await DuckDBInstance.create()).connect();
    const rows = (
      await db.runAndReadAll(`select * from read_csv('${file}', header=true, all_varchar=true)`)
    ).getRowObjects();
    const sheet = await sheetOf();
    expect(rows.map((r) => [r.Account, r.Opening, r.Debit, r.Credit, r.Closing])).toEqual(
      sheet.rows.map((r) => [r.account, r.opening, r.debit, r.credit, r.closing]),
    );
  });

  test('as a workbook has numbers, and totals that its own formulas come to', async () => {
    const book = await workbook(await taken(TB, 'xlsx'));
    const sheet = book.worksheets[0] as ExcelJS.Worksheet;
    const answer = await sheetOf();
    const heads = rowWith(sheet, 'Account');
    const labels = (sheet.getRow(heads).values as string[]).slice(1);
    const at = (label: string): number => labels.indexOf(label) + 1;
    let formulas = 0;
    for (const [i, row] of answer.rows.entries()) {
      const written = sheet.getRow(heads + 1 + i);
      expect(held(written.getCell(at('Account')))).toBe(row.account);
      for (const [label, value] of [
        ['Opening', row.opening],
        ['Debit', row.debit],
        ['Closing', row.closing],
      ] as const)
        expect(held(written.getCell(at(label)))).toBe(Number(value));
      const { value } = written.getCell(at('Closing'));
      if (value !== null && typeof value === 'object' && 'formula' in value && value.formula) {
        formulas += 1;
        expect(recalculated(sheet, value.formula)).toBe(Number(row.closing));
      }
    }
    expect(formulas).toBe(answer.rows.filter((r) => r.heading).length);
    const total = sheet.getRow(heads + 1 + answer.rows.length).getCell(at('Debit')).value as ExcelJS.CellFormulaValue;
    expect(total.result).toBe(Number(answer.totals.debit));
    expect(recalculated(sheet, total.formula)).toBe(Number(answer.totals.debit));
    expect(sheet.getRow(heads + 3).outlineLevel).toBeGreaterThan(0);
  });

  test('with what is behind leads from a figure to its lines in the same file', async () => {
    const bytes = await taken('/trial-balance?entity=KSF&from=2027.06&to=2027.06&accounts=1310', 'xlsx', {
      details: '1',
    });
    const book = await workbook(bytes);
    expect(book.worksheets.map((s) => s.name)).toEqual(['Trial balance', '1310 Freight customers']);
    const [first, lines] = book.worksheets as [ExcelJS.Worksheet, ExcelJS.Worksheet];
    const row = rowWith(first, '1310');
    // The links of a number are in the file's own list of them.
    expect(first.getRow(row).getCell(6).value).toMatchObject({ hyperlink: "#'1310 Freight customers'!A1" });
    const total = rowWith(lines, 'Proof') - 2;
    expect(held(lines.getRow(total).getCell(columnOf(lines, 'Balance')))).toBe(
      Number((await sheetOf()).rows.find((r) => r.account === '1310')?.closing),
    );
  });

  test('on paper carries its pages forward to the total that the sheet has', async () => {
    const pages = await textOf(await taken(TB, 'pdf', { title: 'For the board', footer: 'Draft of one' }));
    const answer = await sheetOf();
    expect(pages[0]).toContain('For the board');
    for (const [i, page] of pages.entries()) expect(page).toContain(`Page ${i + 1} of ${pages.length}`);
    expect(pages.length).toBeGreaterThan(2);
    for (let i = 1; i < pages.length; i += 1) {
      const [, carried] = /Carried forward (.*?) Draft/.exec(pages[i - 1] as string) ?? [];
      const [, brought] = /Brought forward (.*)/.exec(pages[i] as string) ?? [];
      expect(carried?.split(' ').slice(0, 3).join(' ')).toBe(brought?.split(' ').slice(0, 3).join(' '));
    }
    const spoken = new Intl.NumberFormat('en', { minimumFractionDigits: 2 });
    expect(pages.at(-1)).toContain(
      `${spoken.format(Number(answer.totals.debit))} ${spoken.format(Number(answer.totals.credit))}`,
    );
    for (const row of answer.rows) expect(pages.some((page) => page.includes(row.name))).toBe(true);
  });

  test('on paper says of itself that it is kept for long, in metadata that can be read', async () => {
    const title = 'R & D <2026>';
    const pdf = await getDocument({ data: new Uint8Array(await taken(TB, 'pdf', { title })), verbosity: 0 }).promise;
    const { info, metadata } = await pdf.getMetadata();
    expect([metadata?.get('pdfaid:part'), metadata?.get('pdfaid:conformance')]).toEqual(['2', 'A']);
    expect(metadata?.get('dc:title')).toBe('R + D ‹2026›');
    expect((info as { Title: string }).Title).toBe('R + D ‹2026›');
    expect(await pdf.getMarkInfo()).toMatchObject({ Marked: true });
    // What is printed has it as it was given.
    expect((await textOf(await taken(TB, 'pdf', { title })))[0]).toContain(title);
  });

  test('on paper and in a workbook is shown in thousands where that is wanted, and stays exact', async () => {
    const { totals, rows } = await sheetOf();
    const [row] = rows.filter((r) => Math.abs(Number(r.closing)) > 1_000_000);
    const thousands = (text: string): string => {
      const size = Math.round(Math.abs(Number(text)) / 1_000).toLocaleString('en');
      return Number(text) < 0 ? `(${size})` : size;
    };
    const paper = (await textOf(await taken(TB, 'pdf', { decimals: 'thousands' }))).join(' ');
    expect(paper).toContain(`${thousands(totals.debit)} ${thousands(totals.credit)}`);
    expect(paper).toContain(thousands(row?.closing ?? ''));
    expect(paper).toContain('Amounts in thousands; sums are of the exact amounts.');
    expect((await textOf(await taken(TB, 'pdf', { decimals: 'whole', language: 'de-DE' }))).join(' ')).toContain(
      Math.round(Number(totals.debit)).toLocaleString('de'),
    );
    const sheet = (await workbook(await taken(TB, 'xlsx', { decimals: 'thousands' })))
      .worksheets[0] as ExcelJS.Worksheet;
    const cell = sheet.getRow(rowWith(sheet, row?.account ?? '')).getCell(6);
    expect([held(cell), cell.numFmt]).toEqual([Number(row?.closing), '#,##0,;-#,##0,;0']);
  });

  test('by a statutory scheme says which accounts have no code of it', async () => {
    const [scheme] = (await sheetOf()).schemes;
    const proofs = async (of: string): Promise<string> =>
      JSON.parse((await taken(`${TB}&scheme=${of}`, 'json')).toString()).proofs.join('; ');
    expect(await proofs(scheme ?? '')).toContain(`every account that is listed has a code of ${scheme}`);
    const bare = { codes: home.ctx.write.raw('codes - ?', [scheme ?? '']) };
    await home.ctx.work('account').where({ code: '1520' }).update(bare);
    await home.ctx.work.raw('update catalogue_change set times = times + 1');
    expect(await proofs(scheme ?? '')).toContain(`have no code of ${scheme}: 1520 Operating account`);
  });

  test('has one digest whichever way it leaves', async () => {
    const csv = (await taken(TB, 'csv')).toString();
    const { digest } = JSON.parse((await taken(TB, 'json')).toString());
    const paper = (await textOf(await taken(TB, 'pdf'))).join(' ');
    expect(csv).toContain(`SHA-256 ${digest}`);
    expect(paper).toContain(digest);
  });
});

test('the rows of a statement are formulas over the rows that they are made of', async () => {
  const path = '/statements/income?entity=KSF&from=2027.06&to=2027.06&column=year-before';
  const sheet = (await workbook(await taken(path, 'xlsx'))).worksheets[0] as ExcelJS.Worksheet;
  const { value } = sheet.getRow(rowWith(sheet, 'Operating result')).getCell(2) as { value: ExcelJS.CellFormulaValue };
  expect(value.formula).toMatch(/^ROUND\(B\d+-B\d+,2\)$/);
  expect(recalculated(sheet, value.formula)).toBe(value.result);
});

test('no text of a ledger is run by a program that opens it', async () => {
  const evil = ['=HYPERLINK("http://a.invalid")', '+1+1', '-2+3', '@SUM(A1)', '\t=1', '\r=1'];
  const leaf = {
    title: '=1+1',
    sentence: '@now',
    facts: [['Company', '=cmd']] as [string, string][],
    columns: [{ key: 'name', label: '=head', is: 'text' as const, digits: 0, width: 10, adds: false }],
    rows: evil.map((name, i) => ({
      key: String(i),
      depth: 0,
      look: 'plain' as const,
      counts: true,
      sums: null,
      cells: { name },
      subject: null,
      behind: null,
    })),
    total: null,
    proofs: () => [],
    address: null,
  };
  const leaving = { ...(await leavingOf(home.ctx, ines, {}, 'record-0')), at: '2026-01-01T00:00:00.000Z' };
  const text = await all(csvLeaf(leaf, leaving));
  for (const line of text.toString().split('\r\n')) expect(line.replace(/^"/, '')).not.toMatch(/^[=+\-@\t\r]/);
  const book = await workbook(await all(xlsxLeaves([leaf], leaving)));
  book.worksheets[0]?.eachRow((row) => row.eachCell((cell) => expect(cell.formula).toBeUndefined()));
});

describe('a sealed workbook', () => {
  const path = '/trial-balance?entity=KSF&from=2027.06&to=2027.06&accounts=13*';
  const tampered = async (change: (book: ExcelJS.Workbook) => void): Promise<string[]> => {
    const book = await workbook(await taken(path, 'xlsx', { protect: 'yes' }));
    change(book);
    return (await checkSeal(Buffer.from(await book.xlsx.writeBuffer()))).wrong;
  };
  const first = (book: ExcelJS.Workbook): ExcelJS.Worksheet => book.worksheets[0] as ExcelJS.Worksheet;

  test('is as it left, also when another program has saved it', async () => {
    expect(await checkSeal(await taken(path, 'xlsx', { protect: 'yes' }))).toMatchObject({ ok: true, wrong: [] });
    expect(await tampered(() => {})).toEqual([]);
  });

  test.each<[string, (book: ExcelJS.Workbook) => void, RegExp]>([
    ['a figure', (b) => (first(b).getCell('C14').value = 1), /C14 was changed/],
    ['a text', (b) => (first(b).getCell('B13').value = 'Other'), /B13 was changed/],
    ['a formula', (b) => (first(b).getCell('D12').value = { formula: '1+1', result: 2 }), /D12 was changed/],
    ['its head', (b) => (first(b).getCell('A2').value = 'Another company'), /A2 was changed/],
    ['a figure taken out', (b) => (first(b).getCell('C14').value = null), /C14 was changed/],
    ['a row put in', (b) => first(b).insertRow(13, ['9999', 'New', 1, 1, 1, 1]), /was changed/],
    ['a row added below', (b) => first(b).addRow(['9999', 'New', 1]), /was added/],
    ['a row taken out', (b) => first(b).spliceRows(13, 1), /was changed/],
    ['a sheet added', (b) => b.addWorksheet('More').addRow([1]), /“More” was added/],
    ['a sheet taken away', (b) => b.removeWorksheet(first(b).id), /is missing/],
    [
      'a figure and its seal',
      (b) => {
        first(b).getCell('C14').value = 1;
        const seal = b.getWorksheet('Seal') as ExcelJS.Worksheet;
        seal.getRow(8).getCell(3).value = '0'.repeat(64);
      },
      /signature does not hold/,
    ],
  ])('finds %s', async (_, change, says) => {
    expect((await tampered(change)).join('\n')).toMatch(says);
  });
});

test('whoever sees a part takes out that part, and what they may not see is refused', async () => {
  const col = await demoPerson(home, 'col');
  const json = JSON.parse((await taken(TB, 'json', {}, col)).toString());
  const mine = await sheetOf(col);
  expect(json.rows.map((r: { cells: { code: string; closing: string } }) => [r.cells.code, r.cells.closing])).toEqual(
    mine.rows.map((r) => [r.account, r.closing]),
  );
  expect(json.sentence).toBe(mine.sentence);
  await expect(taken('/trial-balance?entity=NHS', 'csv', {}, col)).rejects.toThrow();
  await expect(taken('/people', 'csv')).rejects.toThrow('give the path of a sheet');
});

const all = async (stream: AsyncIterable<Buffer | string>): Promise<Buffer> => {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(Buffer.from(chunk));
  return Buffer.concat(chunks);
};

function rowWith(sheet: ExcelJS.Worksheet, text: string): number {
  for (let i = 1; i <= sheet.rowCount; i += 1)
    for (let c = 1; c <= 2; c += 1) {
      if (held(sheet.getRow(i).getCell(c)) === text) return i;
    }
  throw new Error(`no row “${text}”`);
}

function columnOf(sheet: ExcelJS.Worksheet, label: string): number {
  const heads = sheet.getRow(rowWith(sheet, 'Date'));
  for (let c = 1; c <= heads.cellCount; c += 1) if (heads.getCell(c).value === label) return c;
  throw new Error(`no column “${label}”`);
}

async function textOf(bytes: Buffer): Promise<string[]> {
  const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= pdf.numPages; i += 1) {
    const { items } = await (await pdf.getPage(i)).getTextContent();
    pages.push(
      items
        .flatMap((item) => ('str' in item && item.str.trim() !== '' ? [item.str] : []))
        .join(' ')
        .replace(/\s+/g, ' '),
    );
  }
  return pages;
}

test('lists leave with amounts that are numbers, the whole of them and not a page', async () => {
  const documents = JSON.parse((await taken('/documents?entity=KSF&accounts=1310', 'json')).toString());
  expect(documents.rows.length).toBeGreaterThan(5);
  expect(documents.proofs.join()).toContain('the documents on 1310 come to the ledger');
  const sheet = (await workbook(await taken('/documents?entity=KSF&accounts=1310', 'xlsx')))
    .worksheets[0] as ExcelJS.Worksheet;
  const heads = sheet.getRow(rowWith(sheet, 'Account'));
  const open = (heads.values as string[]).indexOf('Open');
  const first = sheet.getRow(rowWith(sheet, 'Account') + 1);
  expect(first.getCell(open).value).toBe(Number(documents.rows[0].cells.open));
  const register = JSON.parse((await taken('/document-register?entity=KSF&limit=5', 'json')).toString());
  expect(register.rows.length).toBeGreaterThan(1_000);
  expect(register.sentence).toBe(`${register.rows.length} documents of KSF`);
  const paper = (await textOf(await taken('/misstatements?entity=KSF', 'pdf'))).join(' ');
  expect(paper).toContain('Summary of misstatements');
  expect(paper).toContain('All that is uncorrected');
});

test('paper bears the heading of the organisation unless it is left away, and no logo that is no picture', async () => {
  const png = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const tomas = await demoPerson(home, 'tomas');
  await expect(setLetterhead(home.ctx, tomas, { name: 'Mine', logo: null })).rejects.toThrow('owner');
  const script = `data:image/png;base64,${Buffer.from('<script>').toString('base64')}`;
  await expect(setLetterhead(home.ctx, ines, { name: 'Kestrel', logo: script })).rejects.toThrow('no picture');
  await setLetterhead(home.ctx, ines, { name: 'Kestrel Group', logo: `data:image/png;base64,${png}` });
  expect((await textOf(await taken(TB, 'pdf')))[0]).toContain('Kestrel Group');
  expect((await textOf(await taken(TB, 'pdf', { letterhead: 'without' })))[0]).not.toContain('Kestrel Group');
  await setLetterhead(home.ctx, ines, { name: '', logo: null });
});

test('a file that nobody takes any more is read no further', async () => {
  let read = 0;
  const rows = async function* (): AsyncGenerator<LeafRow> {
    for (; read < 1_000_000; read += 1)
      yield {
        ...{ key: String(read), depth: 0, look: 'plain', counts: true, sums: null, subject: null, behind: null },
        cells: { name: `row ${read}` },
      };
  };
  const columns = [{ key: 'name', label: 'Name', is: 'text' as const, digits: 0, width: 10, adds: false }];
  const leaf = {
    title: 'Long',
    sentence: '',
    facts: [],
    columns,
    rows: rows(),
    total: null,
    proofs: () => [],
    address: null,
  };
  const stream = xlsxLeaves([leaf], await leavingOf(home.ctx, ines, {}, 'record-0'));
  await new Promise((resolve) => stream.once('readable', resolve));
  stream.destroy();
  const before = await new Promise<number>((resolve) => setTimeout(() => resolve(read), 300));
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(read).toBe(before);
  expect(read).toBeLessThan(1_000_000);
});
