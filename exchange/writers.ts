import { PassThrough, Readable } from 'node:stream';
import { stringify } from 'csv-stringify';
import ExcelJS from 'exceljs';
import { type Columns, LINE_COLUMNS } from './tables';

/** A record to be written, by the names of our fields. Absent and null are both empty. */
export type Written = { [field: string]: string | null | undefined };

export interface Table {
  /** Field names in the order of the columns. */
  columns: readonly string[];
  kind: Columns;
  records: AsyncIterable<Written>;
}

/** What makes a spreadsheet program run a cell (OWASP, CSV injection), after any marks that guard it already. */
const RUNS = /^'*[=+\-@\t\r]/;

/** A text cell that no program runs; reading removes the mark again. */
export const guardedCell = (text: string): string => (RUNS.test(text) ? `'${text}` : text);
/** The inverse of guarding. */
export const unguardedCell = (text: string): string => (text.startsWith("'") && RUNS.test(text) ? text.slice(1) : text);

const isNumber = (kind: Columns, field: string): boolean => kind.amounts.includes(field);

/** CSV (RFC 4180) with our own column names, which the reader knows again. */
export function writeCsv({ columns, kind, records }: Table, delimiter = ','): Readable {
  const out = stringify({ delimiter, record_delimiter: 'windows' });
  const fill = async function* (): AsyncGenerator<string[]> {
    yield [...columns];
    for await (const record of records)
      yield columns.map((c) => (isNumber(kind, c) ? (record[c] ?? '') : guardedCell(record[c] ?? '')));
  };
  const source = Readable.from(fill());
  source.on('error', (error) => out.destroy(error));
  return source.pipe(out);
}

/** Beyond so many digits a spreadsheet's binary numbers are no longer exact; such amounts are written as text. */
const EXACT_DIGITS = 15;
const SHEET_ROWS_MAX = 1_048_575;

/** A workbook (ECMA-376) of one sheet, or several where the rows do not fit one. */
export function writeXlsx(
  { columns, kind, records }: Table,
  name: string,
  /** What marks in it mean, on a sheet of its own. */
  legend: { name: string; rows: () => readonly (readonly [string, string])[] } | null = null,
): Readable {
  const out = new PassThrough();
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true, useSharedStrings: false });
  const fill = async (): Promise<void> => {
    let sheet: ExcelJS.Worksheet | null = null;
    let rows = 0;
    const begin = (): ExcelJS.Worksheet => {
      const added = book.addWorksheet(rows === 0 ? name : `${name} ${Math.floor(rows / SHEET_ROWS_MAX) + 1}`);
      added.addRow([...columns]).commit();
      return added;
    };
    for await (const record of records) {
      if (rows % SHEET_ROWS_MAX === 0) {
        sheet?.commit();
        sheet = begin();
      }
      rows += 1;
      const row = (sheet as ExcelJS.Worksheet).addRow(columns.map((c) => cellOf(kind, c, record[c] ?? '')));
      for (const [i, c] of columns.entries()) {
        if (kind.dates.includes(c)) row.getCell(i + 1).numFmt = 'yyyy-mm-dd';
        else if (isNumber(kind, c)) row.getCell(i + 1).numFmt = '#,##0.00##';
      }
      row.commit();
    }
    (sheet ?? begin()).commit();
    if (legend) {
      const last = book.addWorksheet(legend.name);
      for (const row of legend.rows()) last.addRow(row.map((text) => text)).commit();
      last.commit();
    }
    await book.commit();
  };
  fill().catch((error: Error) => out.destroy(error));
  return out;
}

function cellOf(kind: Columns, column: string, text: string): string | number | Date | null {
  if (text === '') return null;
  if (isNumber(kind, column) && text.replace(/\D/g, '').length <= EXACT_DIGITS) return Number(text);
  if (kind.dates.includes(column) && /^\d{4}-\d\d-\d\d$/.test(text)) return new Date(`${text}T00:00:00Z`);
  return text;
}

/** JSON of our published schema, one object a line or one list. */
export function writeJson({ columns, records }: Table, list: string | null): Readable {
  const objects = async function* (): AsyncGenerator<string> {
    let first = true;
    if (list !== null) yield `{"${list}":[\n`;
    for await (const record of records) {
      const object: { [name: string]: unknown } = {};
      for (const c of columns) {
        const value = record[c];
        if (value === null || value === undefined || value === '') continue;
        const [prefix, key] = c.split(/:(.*)/s);
        const group = key === undefined ? undefined : { dim: 'dims', name: 'names', code: 'codes' }[prefix as string];
        if (group) object[group] = { ...(object[group] as object), [key as string]: value };
        else object[c] = value;
      }
      yield `${list !== null && !first ? ',\n' : ''}${JSON.stringify(object)}${list === null ? '\n' : ''}`;
      first = false;
    }
    if (list !== null) yield '\n]}\n';
  };
  return Readable.from(objects());
}

const compact = (date: string | null | undefined): string => (date ?? '').slice(0, 10).replaceAll('-', '');
const comma = (amount: string | null | undefined): string => (amount ?? '').replace('.', ',');

const FEC_COLUMNS = [
  'JournalCode',
  'JournalLib',
  'EcritureNum',
  'EcritureDate',
  'CompteNum',
  'CompteLib',
  'CompAuxNum',
  'CompAuxLib',
  'PieceRef',
  'PieceDate',
  'EcritureLib',
  'Debit',
  'Credit',
  'EcritureLet',
  'DateLet',
  'ValidDate',
  'Montantdevise',
  'Idevise',
];

const FEC_AMOUNTS = ['Debit', 'Credit', 'Montantdevise'];

/**
 * The French accounting entries file (art. A47 A-1): 18 columns, dates YYYYMMDD, decimal comma, divided by tabs alone. It
 * has no quotes around fields, so that a tab or a line break within a text becomes a space.
 */
export function writeFec({ records }: Table): Readable {
  const rows = async function* (): AsyncGenerator<string> {
    yield `${FEC_COLUMNS.join('\t')}\r\n`;
    for await (const r of records) {
      const row: Written = {
        JournalCode: r.journal,
        JournalLib: r.journal,
        EcritureNum: r.entry,
        EcritureDate: compact(r.date),
        CompteNum: r.account,
        CompteLib: r.account_name,
        CompAuxNum: r.counterparty,
        CompAuxLib: r.counterparty_name,
        PieceRef: r.document,
        PieceDate: compact(r.document_date),
        EcritureLib: r.description,
        Debit: comma(r.debit) || '0,00',
        Credit: comma(r.credit) || '0,00',
        EcritureLet: r.reconciled,
        ValidDate: compact(r.entered_at),
        Montantdevise: comma(r.currency_amount),
        Idevise: r.currency,
      };
      const cells = FEC_COLUMNS.map((c) => {
        const text = (row[c] ?? '').replace(/\s+/g, ' ');
        return FEC_AMOUNTS.includes(c) ? text : guardedCell(text);
      });
      yield `${cells.join('\t')}\r\n`;
    }
  };
  return Readable.from(rows());
}

const ADS_COLUMNS = [
  'Journal_ID',
  'Journal_ID_Line_Number',
  'JE_Header_Description',
  'JE_Line_Description',
  'Source',
  'Business_Unit_Code',
  'Effective_Date',
  'Fiscal_Year',
  'Period',
  'GL_Account_Number',
  'Amount',
  'Amount_Credit_Debit_Indicator',
  'Amount_Currency',
  'Amount_Transaction',
  'Amount_Transaction_Currency',
  'Entered_By',
  'Entered_Date',
  'Approved_By',
  'Reversal_Journal_ID',
  'Document_Number',
  'Counterparty_Code',
  'Quantity',
  'Unit',
  'Entry_Kind',
  'Posting_Status',
  'Raised_By',
];
const SEGMENTS = 8;

/** One line by the field names of the audit data standards' general ledger detail. */
export function adsOf(r: Written, currency: string, slots: ReadonlyMap<number, string>): Written {
  const segments = Object.fromEntries(
    Array.from({ length: SEGMENTS }, (_, i) => [`Segment0${i + 1}`, r[`dim:${slots.get(i + 1)}`]]),
  );
  return {
    Journal_ID: r.entry,
    Journal_ID_Line_Number: r.line,
    JE_Header_Description: r.entry_description,
    JE_Line_Description: r.description,
    Source: r.journal,
    Business_Unit_Code: r.entity,
    Effective_Date: r.date,
    Fiscal_Year: r.year,
    Period: r.period,
    GL_Account_Number: r.account,
    Amount: r.debit || r.credit,
    Amount_Credit_Debit_Indicator: r.debit ? 'D' : 'C',
    Amount_Currency: currency,
    Amount_Transaction: r.currency_amount,
    Amount_Transaction_Currency: r.currency,
    Entered_By: r.posted_by,
    Entered_Date: r.entered_at?.slice(0, 10),
    Approved_By: r.approved_by,
    Reversal_Journal_ID: r.reversal_of,
    Document_Number: r.document,
    Counterparty_Code: r.counterparty,
    Quantity: r.quantity,
    Unit: r.unit,
    Entry_Kind: r.kind,
    Posting_Status: r.status,
    Raised_By: r.source,
    ...segments,
  };
}

/** Journal lines with the field names of the AICPA audit data standards, divided by bars. */
export function writeAds(
  { records }: Table,
  currencies: ReadonlyMap<string, string>,
  slots: ReadonlyMap<number, string>,
): Readable {
  const columns = [...ADS_COLUMNS, ...Array.from({ length: SEGMENTS }, (_, i) => `Segment0${i + 1}`)];
  const rows = async function* (): AsyncGenerator<Written> {
    for await (const r of records) yield adsOf(r, currencies.get(r.entity ?? '') ?? '', slots);
  };
  return writeCsv(
    { columns, kind: { ...LINE_COLUMNS, amounts: ['Amount', 'Amount_Transaction', 'Quantity'] }, records: rows() },
    '|',
  );
}
