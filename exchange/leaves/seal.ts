import { createHash } from 'node:crypto';
import ExcelJS from 'exceljs';
import { fingerprintOf, isSigned, type Signer } from '../signing';
import { letters } from './letters';

/**
 * A seal on a workbook: a sheet of its own says of every other one what each of its cells held, as short digests, and
 * bears one signature over all of that. Changing a cell is found and named; changing the seal breaks the signature.
 */
export const SEAL_SHEET = 'Seal';
/** Hexadecimal digits of a cell's digest: enough to name what was changed; that nothing was is told by the whole row's. */
const SHORT = 8;
const HEAD = ['Sheet', 'Row', 'Digest of the row', 'Digests of its cells'];

const hashed = (text: string): string => createHash('sha256').update(text).digest('hex');

/** What a cell holds, in one form whichever program wrote it: formulas with what they came to, days, numbers, words. */
function heldIn(value: ExcelJS.CellValue): string {
  if (value === null || value === undefined || value === '') return '';
  if (value instanceof Date) return `d${value.toISOString().slice(0, 10)}`;
  if (typeof value === 'number') return `n${value}`;
  // Some programs save a number that has a link as its digits: it says the same.
  if (typeof value === 'string' && String(Number(value)) === value) return `n${value}`;
  if (typeof value === 'object') {
    if ('formula' in value) return `f${value.formula}=${String(value.result ?? 0)}`;
    // A link on a number is read as the number with its link.
    if ('hyperlink' in value) return heldIn(value.text as ExcelJS.CellValue);
    if ('richText' in value) return `t${value.richText.map((r) => r.text).join('')}`;
    return `o${JSON.stringify(value)}`;
  }
  return `t${String(value)}`;
}

function digestsOf(row: ExcelJS.Row): { whole: string; cells: string[] } {
  const held: string[] = [];
  for (let i = 1; i <= row.cellCount; i += 1) held.push(heldIn(row.getCell(i).value));
  while (held.at(-1) === '') held.pop();
  return { whole: hashed(JSON.stringify(held)), cells: held.map((h) => hashed(h).slice(0, SHORT)) };
}

interface SealedRow {
  sheet: string;
  row: number;
  whole: string;
  cells: string;
}

const signedText = (rows: readonly SealedRow[]): string => {
  const all = createHash('sha256');
  for (const { sheet, row, whole, cells } of rows) all.update(`${JSON.stringify([sheet, row, whole, cells])}\n`);
  return `just-thread workbook 1 ${all.digest('hex')}`;
};

export interface Sealing {
  row(sheet: string, row: ExcelJS.Row): void;
  write(book: ExcelJS.stream.xlsx.WorkbookWriter, signer: Signer): Promise<void>;
}

export function sealing(): Sealing {
  const rows: SealedRow[] = [];
  return {
    row(sheet, row) {
      const { whole, cells } = digestsOf(row);
      if (cells.length > 0) rows.push({ sheet, row: row.number, whole, cells: cells.join('') });
    },
    async write(book, signer) {
      const sheet = book.addWorksheet(SEAL_SHEET);
      sheet.addRow(['Key', signer.publicKey]).commit();
      sheet.addRow(['Signature', signer.sign(signedText(rows))]).commit();
      sheet.addRow(HEAD).commit();
      for (const { sheet: of, row, whole, cells } of rows) sheet.addRow([of, row, whole, cells]).commit();
      sheet.commit();
    },
  };
}

export interface SealChecked {
  /** Null: the file bears no seal. */
  key: string | null;
  ok: boolean;
  /** What is not as it was sealed, each a sentence. */
  wrong: string[];
  rows: number;
}

const SAID_MAX = 50;

/** Whether a sealed workbook is as it left, and which cells are not. @param bytes of the file */
export async function checkSeal(bytes: Uint8Array): Promise<SealChecked> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes as never);
  const seal = book.getWorksheet(SEAL_SHEET);
  if (!seal) return { key: null, ok: false, wrong: ['it bears no seal: it was not taken out protected'], rows: 0 };
  const text = (row: number, column: number): string => String(seal.getRow(row).getCell(column).value ?? '');
  const key = text(1, 2);
  const rows: SealedRow[] = [];
  for (let i = 4; i <= seal.rowCount; i += 1)
    rows.push({ sheet: text(i, 1), row: Number(text(i, 2)), whole: text(i, 3), cells: text(i, 4) });
  const wrong: string[] = [];
  const say = (sentence: string): void => {
    if (wrong.length < SAID_MAX) wrong.push(sentence);
  };
  if (!isSigned(signedText(rows), text(2, 2), key)) say('the seal itself was changed: its signature does not hold');
  const sealed = new Map<string, Map<number, SealedRow>>();
  for (const row of rows) sealed.set(row.sheet, (sealed.get(row.sheet) ?? new Map()).set(row.row, row));
  for (const [name, of] of sealed) {
    const sheet = book.getWorksheet(name);
    if (!sheet) {
      say(`the sheet “${name}” is missing`);
      continue;
    }
    for (let i = 1; i <= sheet.rowCount; i += 1) {
      const found = digestsOf(sheet.getRow(i));
      const was = of.get(i);
      if (!was) {
        if (found.cells.length > 0) say(`“${name}”: row ${i} was added`);
      } else if (was.whole !== found.whole) changedCells(name, i, was.cells, found.cells).forEach(say);
    }
    for (const row of of.keys()) if (row > sheet.rowCount) say(`“${name}”: row ${row} was taken away`);
  }
  for (const { name } of book.worksheets)
    if (name !== SEAL_SHEET && !sealed.has(name)) say(`the sheet “${name}” was added`);
  return { key: fingerprintOf(key), ok: wrong.length === 0, wrong, rows: rows.length };
}

function changedCells(sheet: string, row: number, was: string, now: readonly string[]): string[] {
  const before = was.match(new RegExp(`.{${SHORT}}`, 'g')) ?? [];
  const changed: string[] = [];
  for (let i = 0; i < Math.max(before.length, now.length); i += 1)
    if (before[i] !== now[i]) changed.push(`“${sheet}”: ${letters(i + 1)}${row} was changed`);
  return changed.length > 0 ? changed : [`“${sheet}”: row ${row} was changed`];
}
