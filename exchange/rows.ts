import type { Readable } from 'node:stream';
import { JSONParser } from '@streamparser/json';
import { parse } from 'csv-parse';
import ExcelJS from 'exceljs';
import type { Reading } from '@/contracts/mapping';
import { decodeHead, decoding, recogniseEncoding } from './encoding';
import { COLUMNS_MAX, checkRow, RECORD_MAX, withLines, withNesting } from './limits';
import { type Source, UnreadableFile } from './source';

/** One row of a table as text, with the number that a spreadsheet or editor shows beside it. */
export interface Row {
  row: number;
  cells: string[];
}

export const DELIMITERS = [',', ';', '\t', '|'] as const;
/** Rows looked at to tell delimiters apart. */
const DELIMITER_ROWS = 20;
/** Characters of each that are looked at. */
const DELIMITER_CHARACTERS = 4_000;

/** The delimiter that divides the first rows most evenly into most cells. */
export function recogniseDelimiter(text: string): ',' | ';' | '\t' | '|' {
  const lines = text
    .split(/\r?\n/)
    .filter((l) => l.trim() !== '')
    .slice(0, DELIMITER_ROWS)
    .map((l) => l.slice(0, DELIMITER_CHARACTERS));
  let best: (typeof DELIMITERS)[number] = ',';
  let most = 0;
  for (const d of DELIMITERS) {
    const counts = lines.map((l) => l.replace(/"(?:[^"]|"")*"/g, '').split(d).length - 1).filter((n) => n > 0);
    if (counts.length === 0) continue;
    const usual = counts.sort((a, b) => a - b)[Math.floor(counts.length / 2)] as number;
    // A delimiter divides every row; a comma that is in amounts does not divide the header.
    const share = counts.filter((n) => n === usual).length / lines.length;
    const score = share * share * usual;
    if (score > most) [best, most] = [d, score];
  }
  return best;
}

/** Rows of a delimited text. @throws UnreadableFile naming the row at which it breaks */
export async function* textRows(
  source: Source,
  reading: Reading,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<Row> {
  const encoding = reading.encoding ?? recogniseEncoding(source)?.value;
  if (!encoding)
    throw new UnreadableFile('this is no text file (it holds binary data); save it as CSV, or give an .xlsx workbook');
  const delimiter = reading.delimiter ?? recogniseDelimiter(decodeHead(source.head, encoding));
  const bytes = withLines(await source.stream(onBytes));
  const text = bytes.pipe(decoding(encoding));
  const parser = parse({
    delimiter,
    relax_column_count: true,
    quote: reading.quotes === 'letters' ? false : '"',
    relax_quotes: false,
    bom: true,
    max_record_size: RECORD_MAX,
  });
  bytes.on('error', (error) => text.destroy(error));
  text.on('error', (error: Error) => parser.destroy(error));
  text.pipe(parser);
  let row = 0;
  try {
    for await (const cells of parser as AsyncIterable<string[]>) {
      row += 1;
      if (cells.length === 1 && cells[0] === '') continue; // an empty row
      checkRow(row, cells);
      yield { row, cells };
    }
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    const { message, lines } = error as Error & { lines?: number };
    throw new UnreadableFile(
      `the file cannot be read as CSV here: ${message}; mend the quotes or save it as CSV again`,
      lines ?? row + 1,
    );
  } finally {
    bytes.destroy();
  }
}

/** Names of the sheets of a workbook. */
export async function sheetNames(source: Source): Promise<string[]> {
  const names: string[] = [];
  for await (const sheet of sheetsOf(source)) {
    names.push((sheet as unknown as { name: string }).name);
    for await (const _row of sheet) break;
  }
  return names;
}

/** So many times a workbook is read before it is said to be cut off. */
const READS_MAX = 3;

/**
 * The sheets of a workbook. The reader beneath sometimes takes the end of the bytes for the end of the archive while the
 * last part of it, the list of sheets, is still to come. Nothing has been given out by then, so it is read anew.
 * @throws UnreadableFile where the list of sheets is never there
 */
async function* sheetsOf(
  source: Source,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<ExcelJS.stream.xlsx.WorksheetReader> {
  for (let reads = 1; ; reads += 1) {
    let given = false;
    try {
      for await (const sheet of await workbook(source, onBytes)) {
        given = true;
        yield sheet;
      }
      return;
    } catch (error) {
      if (given || !(error instanceof TypeError)) throw error;
      if (reads === READS_MAX)
        throw new UnreadableFile('the workbook is cut off, its list of sheets is missing; save it as .xlsx again');
    }
  }
}

async function workbook(
  source: Source,
  onBytes?: (bytes: number) => void,
): Promise<ExcelJS.stream.xlsx.WorkbookReader> {
  return new ExcelJS.stream.xlsx.WorkbookReader((await source.stream(onBytes)) as never, {
    entries: 'emit',
    sharedStrings: 'cache',
    styles: 'cache',
    hyperlinks: 'ignore',
    worksheets: 'emit',
  });
}

/** Rows of one sheet of a workbook (ECMA-376). Dates come as 2026-04-30, numbers with 15 significant digits, as shown. */
export async function* workbookRows(
  source: Source,
  reading: Reading,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<Row> {
  let found = false;
  try {
    for await (const sheet of sheetsOf(source, onBytes)) {
      const { name } = sheet as unknown as { name: string };
      const wanted: boolean = !found && (reading.sheet === undefined || reading.sheet === name);
      for await (const row of sheet) {
        if (!wanted) break;
        const values = row.values as ExcelJS.CellValue[];
        if (values.length > COLUMNS_MAX + 1)
          throw new UnreadableFile(
            `row ${row.number} reaches to column ${values.length - 1}; a table has at most ${COLUMNS_MAX}`,
            row.number,
          );
        const cells = Array.from({ length: Math.max(0, values.length - 1) }, (_, i) => cellText(values[i + 1]));
        checkRow(row.number, cells);
        if (cells.some((c) => c !== '')) yield { row: row.number, cells };
      }
      found ||= wanted;
    }
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw new UnreadableFile(`the workbook cannot be read: ${(error as Error).message}; save it as .xlsx again`);
  }
  if (!found)
    throw new UnreadableFile(
      reading.sheet === undefined ? 'the workbook has no sheet' : `the workbook has no sheet “${reading.sheet}”`,
    );
}

/** The first rows of the first sheets of a workbook, as they are shown; whether there is more is said. @throws UnreadableFile */
export async function sheetsShown(
  source: Source,
  most: { rows: number; columns: number; sheets: number },
): Promise<{ name: string; rows: string[][]; more: boolean }[]> {
  const shown: { name: string; rows: string[][]; more: boolean }[] = [];
  for await (const sheet of sheetsOf(source)) {
    if (shown.length === most.sheets) break;
    const one = { name: (sheet as unknown as { name: string }).name, rows: [] as string[][], more: false };
    shown.push(one);
    for await (const row of sheet) {
      if (row.number > most.rows) {
        one.more = true;
        break;
      }
      const values = row.values as ExcelJS.CellValue[];
      one.more ||= values.length > most.columns + 1;
      while (one.rows.length < row.number - 1) one.rows.push([]);
      one.rows.push(
        Array.from({ length: Math.min(values.length - 1, most.columns) }, (_, i) => cellText(values[i + 1])),
      );
    }
  }
  return shown;
}

function cellText(value: ExcelJS.CellValue): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return numberText(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value instanceof Date)
    return value
      .toISOString()
      .replace(/T00:00:00\.000Z$/, '')
      .replace(/\.000Z$/, '');
  if ('richText' in value) return value.richText.map((t) => t.text).join('');
  if ('result' in value) return cellText(value.result as ExcelJS.CellValue);
  if ('text' in value) return cellText(value.text as ExcelJS.CellValue);
  if ('error' in value) return value.error;
  return '';
}

/** A binary number as a spreadsheet shows it: 15 significant digits, no exponent. */
function numberText(value: number): string {
  const text = String(Number(value.toPrecision(15)));
  return text.includes('e') ? BigInt(Math.round(value)).toString() : text;
}

/** Objects of JSON (a list, or a list under one key) or of NDJSON, as rows: the first row holds the names. */
export async function* jsonRecords(
  source: Source,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<{ row: number; values: Record<string, string> }> {
  const text = decodeHead(source.head, recogniseEncoding(source)?.value ?? 'utf-8').trimStart();
  const isLines = isLineDelimited(text);
  const bytes = isLines ? withLines(await source.stream(onBytes)) : withNesting(await source.stream(onBytes));
  const decoded = bytes.pipe(decoding(recogniseEncoding(source)?.value ?? 'utf-8'));
  bytes.on('error', (error) => decoded.destroy(error));
  let row = 0;
  try {
    for await (const value of isLines ? objectsOfLines(decoded) : objectsOfJson(decoded, text.startsWith('['))) {
      row += 1;
      if (value === null || typeof value !== 'object' || Array.isArray(value)) {
        throw new UnreadableFile(`record ${row} is no object; see the published schema`);
      }
      const values = flat(value as Record<string, unknown>, row);
      checkRow(row, Object.values(values));
      yield { row, values };
    }
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw new UnreadableFile(`the file cannot be read as JSON after record ${row}: ${(error as Error).message}`);
  } finally {
    bytes.destroy();
  }
}

function isLineDelimited(text: string): boolean {
  if (!text.startsWith('{')) return false;
  const first = text.split(/\r?\n/, 1)[0] as string;
  try {
    const value: unknown = JSON.parse(first);
    return !Object.values(value as object).some((v) => Array.isArray(v) && v.some((x) => typeof x === 'object'));
  } catch {
    return false;
  }
}

async function* objectsOfLines(text: Readable): AsyncGenerator<unknown> {
  let rest = '';
  for await (const chunk of text) {
    const lines = (rest + String(chunk)).split('\n');
    rest = lines.pop() as string;
    for (const line of lines) if (line.trim() !== '') yield JSON.parse(line);
  }
  if (rest.trim() !== '') yield JSON.parse(rest);
}

/** Names under which a JSON file may keep its list. */
const LISTS = [
  'lines',
  'accounts',
  'members',
  'dimensions',
  'budgets',
  'commitments',
  'documents',
  'rates',
  'balances',
  'periods',
  'holdings',
  'tax-codes',
  'schemes',
  'document-lines',
  'rows',
];

async function* objectsOfJson(text: Readable, list: boolean): AsyncGenerator<unknown> {
  const parser = new JSONParser({ paths: list ? ['$.*'] : LISTS.map((name) => `$.${name}.*`), keepStack: false });
  let found: unknown[] = [];
  parser.onValue = ({ value }) => void found.push(value);
  for await (const chunk of text) {
    parser.write(String(chunk));
    yield* found;
    found = [];
  }
  if (!parser.isEnded) throw new Error('it ends in the middle');
  yield* found;
}

/** Values as text; `dims: {vessel: "TERN"}` becomes `dim:vessel`, and so with names and codes. */
function flat(value: Record<string, unknown>, row: number): Record<string, string> {
  const found: Record<string, string> = Object.create(null);
  for (const [name, v] of Object.entries(value)) {
    if (v === null || v === undefined) continue;
    if (typeof v === 'object' && !Array.isArray(v)) {
      const prefix = name === 'dims' ? 'dim' : name === 'names' ? 'name' : name === 'codes' ? 'code' : name;
      for (const [key, inner] of Object.entries(v)) found[`${prefix}:${key}`] = String(inner);
    } else if (Array.isArray(v)) found[name] = v.map(String).join(';');
    else if (typeof v === 'number') {
      if (Number.isInteger(v) && !Number.isSafeInteger(v))
        throw new UnreadableFile(`record ${row}: ${name} is a number beyond exact range; write it as text`);
      found[name] = numberText(v);
    } else found[name] = typeof v === 'boolean' ? (v ? 'yes' : 'no') : String(v);
  }
  return found;
}
