import type { DateOrder, Encoding, Format, LoadKind, Mapping, Reading } from '@/contracts/mapping';
import { recogniseDates, recogniseDecimal } from './dialect';
import { decodeHead, recogniseEncoding } from './encoding';
import { COLUMNS_MAX, SAMPLE_MAX } from './limits';
import { type Preset, presetOf } from './presets';
import type { Recognised } from './recognised';
import { jsonRecords, type Row, recogniseDelimiter, sheetNames, textRows, workbookRows } from './rows';
import { openSource, type Source, UnreadableFile } from './source';
import { COLUMNS, type Columns, isKnown } from './tables';

/** A file to be read: what is known of it beforehand, and what is to be found out. */
export interface DeliveredFile {
  path: string;
  kind: LoadKind;
  format: Format | null;
  mapping: Mapping | null;
}

/** What a look at the first rows of a table says. */
export interface Recognition {
  source: Source;
  format: Format;
  /** What the content is made of, whatever layout its columns have. */
  shape: 'text' | 'workbook' | 'json' | 'xml';
  /** How it is read, all settled. */
  reading: Reading;
  encoding: Recognised<Encoding> | null;
  decimal: Recognised<'.' | ','>;
  dates: Recognised<DateOrder>;
  sheets: string[];
  headerRow: number;
  header: string[];
  /** First rows under the header. */
  sample: Row[];
  preset: Preset | null;
  /** Which of our fields each column gives, as far as it is fixed. */
  fields: ReadonlyMap<string, number[]>;
  constants: Record<string, string>;
  /** Columns that are neither known nor mapped: refused when nothing was mapped by hand. */
  strict: boolean;
}

/** Rows that are looked at to recognise dates and amounts. */
const SAMPLE_ROWS = 5_000;
/** Rows above the header that titles and notes may take. */
const TITLE_ROWS = 20;

/** The format of a file by its content. */
export function formatOf(source: Source): Format {
  if (source.container === 'workbook' || (source.container === 'zip' && /\.xlsx$/i.test(source.member ?? '')))
    return 'xlsx';
  const encoding = recogniseEncoding(source)?.value ?? 'utf-8';
  const text = decodeHead(source.head.subarray(0, 8_192), encoding).trimStart();
  if (text.startsWith('<')) {
    if (/<(\w+:)?AuditFile[\s>]/.test(text)) return 'saft';
    throw new UnreadableFile('this XML is no standard audit file: its outermost element is not AuditFile');
  }
  if (text.startsWith('{') || text.startsWith('[')) return 'json';
  return 'csv';
}

/** Whatever a reader stumbles over is a fault of the file, told as such; a machine that fails has an error of its own. @throws UnreadableFile */
export async function recognise(file: DeliveredFile): Promise<Recognition> {
  try {
    return await lookAt(file);
  } catch (error) {
    if (error instanceof UnreadableFile || (error as NodeJS.ErrnoException).syscall) throw error;
    throw new UnreadableFile(
      `the file cannot be read: ${(error as Error).message.replace(/\.$/, '')}; have it made again`,
    );
  }
}

async function lookAt(file: DeliveredFile): Promise<Recognition> {
  const wanted = file.mapping?.reading ?? {};
  const source = await openSource(file.path, wanted.member);
  if (source.head.length === 0) throw new UnreadableFile('the file is empty; it needs a header row and records');
  let format = file.format === 'fec' || file.format === 'ads' ? formatOf(source) : (file.format ?? formatOf(source));
  const encoding = format === 'xlsx' ? null : wanted.encoding ? chosen(wanted.encoding) : recogniseEncoding(source);
  if (format !== 'xlsx' && !encoding)
    throw new UnreadableFile('this is no text file (it holds binary data); save it as CSV, or give an .xlsx workbook');
  const reading: Reading = { ...wanted };
  if (encoding) reading.encoding = encoding.value;
  if (format === 'csv')
    reading.delimiter ??= recogniseDelimiter(decodeHead(source.head, (encoding as Recognised<Encoding>).value));
  if (source.member !== null) reading.member = source.member;
  const sheets = format === 'xlsx' ? await sheetNames(source) : [];
  if (format === 'xlsx' && sheets[0] !== undefined) reading.sheet ??= sheets[0];

  const columns = COLUMNS[file.kind];
  const { headerRow, header, sample } =
    format === 'json'
      ? await headOfJson(source)
      : format === 'saft'
        ? NO_HEAD
        : await headOfTable(source, format, reading, columns);
  const preset = file.mapping?.columns ? null : presetOf(header, file.kind);
  if (file.format === 'fec' || file.format === 'ads') {
    if (preset?.format !== file.format)
      throw new UnreadableFile(
        `the columns are not those of ${file.format === 'fec' ? 'an accounting entries file' : 'the audit data standards'}`,
        headerRow,
      );
  }
  const shape = format === 'saft' ? 'xml' : format === 'json' ? 'json' : format === 'xlsx' ? 'workbook' : 'text';
  if (preset) format = preset.format;
  const { fields, constants } = fieldsOf(
    header,
    file.mapping?.columns ? file.mapping : (preset?.mapping(header) ?? null),
    columns,
    file.mapping?.constants ?? {},
  );
  reading.headerRow = headerRow;
  const valuesOf = (names: readonly string[]): string[] => {
    const at = names.flatMap((name) => fields.get(name) ?? []);
    return sample.flatMap(({ cells }) => at.map((i) => cells[i] ?? '')).filter((v) => v !== '');
  };
  const money = columns.amounts.filter((a) => a !== 'quantity' && a !== 'rate');
  const decimal = wanted.decimal
    ? chosen(wanted.decimal)
    : recogniseDecimal(valuesOf(money.length > 0 ? money : columns.amounts));
  const presetDates = preset?.mapping(header).reading?.dates;
  const dates = wanted.dates
    ? chosen(wanted.dates)
    : presetDates
      ? chosen(presetDates)
      : recogniseDates(valuesOf(columns.dates));
  return {
    source,
    format,
    shape,
    reading: { ...reading, decimal: decimal.value, dates: dates.value },
    encoding,
    decimal,
    dates,
    sheets,
    headerRow,
    header,
    sample,
    preset,
    fields,
    constants,
    strict: !file.mapping?.columns && !preset,
  };
}

const chosen = <Value>(value: Value): Recognised<Value> => ({ value, doubt: 'none', why: 'chosen' });
const NO_HEAD = { headerRow: 1, header: [] as string[], sample: [] as Row[] };

/** Rows of a table in any container. */
export const tableRows = (
  source: Source,
  shape: Recognition['shape'],
  reading: Reading,
  onBytes?: (bytes: number) => void,
): AsyncGenerator<Row> =>
  shape === 'workbook' ? workbookRows(source, reading, onBytes) : textRows(source, reading, onBytes);

async function headOf(source: Source, format: Format, reading: Reading, columns: Columns) {
  const rows: Row[] = [];
  let size = 0;
  try {
    for await (const row of tableRows(source, format === 'xlsx' ? 'workbook' : 'text', reading)) {
      rows.push(row);
      size += row.cells.reduce((sum, cell) => sum + cell.length, row.cells.length);
      if (rows.length > SAMPLE_ROWS || size > SAMPLE_MAX) break;
    }
  } catch (error) {
    // What breaks further down is told when it is read; without a header nothing can be.
    if (!(error instanceof UnreadableFile) || rows.length === 0) throw error;
  }
  if (rows.length === 0) throw new UnreadableFile('the file is empty; it needs a header row and records');
  const at =
    reading.headerRow === undefined ? likelyHeader(rows, columns) : rows.findIndex((r) => r.row === reading.headerRow);
  const head = rows[at];
  if (!head) throw new UnreadableFile(`there is no row ${reading.headerRow} to take the column names from`);
  return { headerRow: head.row, header: head.cells.map((h) => h.trim()), sample: rows.slice(at + 1) };
}

/**
 * The same for layouts that are known by their column names to have no quotes around fields. A file of such a layout
 * whose very header is in quotes was written by somebody who did not keep to it, and is read as CSV.
 */
async function headOfTable(source: Source, format: Format, reading: Reading, columns: Columns) {
  if (format !== 'csv' || reading.quotes !== undefined) return headOf(source, format, reading, columns);
  const found = await headOf(source, format, { ...reading, quotes: 'letters' }, columns);
  if (presetOf(found.header)?.mapping(found.header).reading?.quotes !== 'letters')
    return headOf(source, format, reading, columns);
  reading.quotes = 'letters';
  return found;
}

/** The first row that could name as many columns as the rows below it have. */
function likelyHeader(rows: readonly Row[], columns: Columns): number {
  const first = rows[0] as Row;
  if (columns.required.some((name) => first.cells.includes(name)) || presetOf(first.cells)) return 0;
  const filled = (row: Row): number => row.cells.filter((c) => c.trim() !== '').length;
  const widest = Math.max(...rows.slice(0, TITLE_ROWS * 2).map(filled));
  const wordy = (row: Row): boolean =>
    row.cells.filter((c) => c.trim() !== '').every((c) => !/^[\d.,()\s/-]+$/.test(c));
  const at = rows.slice(0, TITLE_ROWS).findIndex((row) => filled(row) > widest * 0.6 && wordy(row));
  return Math.max(0, at);
}

async function headOfJson(source: Source) {
  const header: string[] = [];
  const sample: Row[] = [];
  let size = 0;
  for await (const { row, values } of jsonRecords(source)) {
    for (const name of Object.keys(values)) if (!header.includes(name)) header.push(name);
    if (header.length > COLUMNS_MAX)
      throw new UnreadableFile(
        `the records have more than ${COLUMNS_MAX} different names; a table has at most so many columns`,
      );
    sample.push({ row, cells: header.map((name) => values[name] ?? '') });
    size += Object.values(values).reduce((sum, cell) => sum + cell.length, header.length);
    if (sample.length >= SAMPLE_ROWS || size > SAMPLE_MAX) break;
  }
  return { headerRow: 0, header, sample };
}

/** Column numbers for every field: as mapped, else by our own names. */
function fieldsOf(header: readonly string[], mapping: Mapping | null, columns: Columns, extra: Record<string, string>) {
  const fields = new Map<string, number[]>();
  if (mapping?.columns) {
    for (const [field, wanted] of Object.entries(mapping.columns)) {
      const at = (Array.isArray(wanted) ? wanted : [wanted]).map((name) => header.indexOf(name));
      if (at.every((i) => i >= 0)) fields.set(field, at);
    }
  } else for (const [i, name] of header.entries()) if (isKnown(columns, name)) fields.set(name, [i]);
  return { fields, constants: { ...mapping?.constants, ...extra } };
}
