import { nearest } from '@/core/selection';
import { plainAmount } from '@/core/writtenAmounts';
import { plainDate } from './dialect';
import type { FileRecord } from './fileRecord';
import type { Problems } from './problem';
import { type DeliveredFile, type Recognition, recognise, tableRows } from './recognise';
import { jsonRecords } from './rows';
import { saftRecords } from './saft';
import { UnreadableFile } from './source';
import { COLUMNS, type Columns, isKnown } from './tables';
import { unguardedCell } from './writers';

export interface ReadOptions {
  /** Dimension codes by their slot, for layouts that number their segments. */
  slots?: ReadonlyMap<number, string>;
  /** Told of every chunk read, for progress. */
  onBytes?: (bytes: number) => void;
}

/**
 * Reads a file of any format record by record, never holding it whole. Problems of the file itself end the reading; a
 * ragged row is a problem of its row, and reading goes on. What could be read in two ways is asked, never guessed.
 */
export async function* readRecords(
  file: DeliveredFile,
  problems: Problems,
  options: ReadOptions = {},
): AsyncGenerator<FileRecord> {
  try {
    const found = await recognise(file);
    if (found.shape === 'xml') yield* saftRecords(found.source, found.reading, file.kind, options);
    else if (checked(found, file, problems))
      yield* found.shape === 'json' ? ofJson(found, file, problems, options) : ofTable(found, file, problems, options);
  } catch (error) {
    if (!(error instanceof UnreadableFile)) throw error;
    problems.add(error.row, null, null, error.message);
  }
}

async function* ofTable(
  found: Recognition,
  file: DeliveredFile,
  problems: Problems,
  options: ReadOptions,
): AsyncGenerator<FileRecord> {
  const { header, headerRow, reading } = found;
  const width = header.length;
  const shape = shaper(found, file, options);
  for await (const { row, cells } of tableRows(found.source, found.shape, reading, options.onBytes)) {
    if (row <= headerRow) continue;
    // A workbook leaves out empty cells at the end of a row.
    if (cells.length !== width && found.shape !== 'workbook') {
      const text = cells.join(reading.delimiter);
      problems.add(
        row,
        null,
        text,
        `this row has ${cells.length} fields, the header has ${width}; look for a missing quote or delimiter`,
      );
      continue;
    }
    yield { row, values: shape((i) => cells[i] ?? '') };
  }
}

async function* ofJson(
  found: Recognition,
  file: DeliveredFile,
  problems: Problems,
  options: ReadOptions,
): AsyncGenerator<FileRecord> {
  const shape = shaper(found, file, options);
  const names = new Set(found.header);
  for await (const { row, values } of jsonRecords(found.source, options.onBytes)) {
    for (const name of Object.keys(values)) {
      if (names.has(name) || !found.strict) continue;
      // A field that only later records have.
      names.add(name);
      if (!isKnown(COLUMNS[file.kind], name)) problems.add(row, name, name, `there is no field “${name}”`);
      else found.header.push(name);
    }
    yield {
      row,
      values: found.strict
        ? normalised(values, found, COLUMNS[file.kind])
        : shape((i) => values[found.header[i] as string] ?? ''),
    };
  }
}

/** Turns the cells of a row into our fields. Made once for a file, since it runs for every row. */
function shaper(
  found: Recognition,
  file: DeliveredFile,
  { slots }: ReadOptions,
): (cell: (i: number) => string) => FileRecord['values'] {
  const columns = COLUMNS[file.kind];
  const plan: { field: string; at: number[]; is: 'date' | 'amount' | 'text' }[] = [];
  for (const [name, at] of found.fields) {
    const slot = /^slot:(\d)$/.exec(name);
    const code = slot ? slots?.get(Number(slot[1])) : undefined;
    if (slot && !code) continue;
    const field = slot ? `dim:${code}` : name;
    plan.push({
      field,
      at,
      is: columns.dates.includes(field) ? 'date' : columns.amounts.includes(field) ? 'amount' : 'text',
    });
  }
  const { decimal, dates } = { decimal: found.decimal.value, dates: found.dates.value };
  const debitWords = new Set((file.mapping?.debit ?? DEBIT_WORDS).map((w) => w.toLowerCase()));
  const unguarded = found.shape === 'text';
  const numbersLines = file.kind === 'lines' && !found.fields.has('line');
  const counts = new Map<string, number>();
  const constants = Object.entries(found.constants);
  return (cell) => {
    const values: FileRecord['values'] = {};
    for (const { field, at, is } of plan) {
      const text = at.length === 1 ? cell(at[0] as number) : joined(at.map(cell));
      values[field] =
        text === ''
          ? ''
          : is === 'date'
            ? plainDate(text, dates)
            : is === 'amount'
              ? plainAmount(text, decimal)
              : unguarded
                ? unguardedCell(text)
                : text;
    }
    for (const [field, value] of constants) values[field] ||= value;
    if (values.side !== undefined) sided(values, debitWords);
    if (values.entered_at && /^\d{8}$/.test(values.entered_at)) values.entered_at = plainDate(values.entered_at, 'ymd');
    if (numbersLines) {
      const key = `${values.entity ?? ''}|${values.entry ?? ''}`;
      const line = (counts.get(key) ?? 0) + 1;
      counts.set(key, line);
      values.line = String(line);
    }
    return values;
  };
}

function normalised(values: FileRecord['values'], found: Recognition, columns: Columns): FileRecord['values'] {
  for (const name of columns.dates) if (values[name]) values[name] = plainDate(values[name], found.dates.value);
  for (const name of columns.amounts) if (values[name]) values[name] = plainAmount(values[name], found.decimal.value);
  return values;
}

/** Number within a journal and the journal make one number; a number with letters is alone. */
function joined(parts: string[]): string {
  const last = (parts[parts.length - 1] ?? '').trim();
  return /^\d*$/.test(last) ? parts.map((p) => p.trim()).join('-') : last;
}

/** Words of the trade for the debit side, in the languages of the formats that we read; anything else is credit. */
const DEBIT_WORDS = ['d', 'dr', 'debit', 'debet', 'débit', 'debe', 'dare', 's', 'soll', '+', '1'];

/** An amount and the side that it is on become a debit or a credit. */
function sided(values: FileRecord['values'], debitWords: ReadonlySet<string>): void {
  const { side = '', amount = '', ...rest } = values;
  if (side.trim() === '' || amount === '') return;
  for (const name of ['side', 'amount']) delete values[name];
  Object.assign(values, rest, { [debitWords.has(side.trim().toLowerCase()) ? 'debit' : 'credit']: amount });
}

/** Whether the columns suffice and nothing is left in doubt. */
function checked(found: Recognition, file: DeliveredFile, problems: Problems): boolean {
  const columns = COLUMNS[file.kind];
  const before = problems.count;
  const row = found.shape === 'json' ? null : found.headerRow;
  for (const fault of missingFields(found, columns, file.kind)) problems.add(row, fault.field, null, fault.message);
  const seen = new Set<string>();
  for (const name of found.strict ? found.header : []) {
    if (seen.has(name)) problems.add(row, name, name, `the column “${name}” stands twice in the header`);
    seen.add(name);
    if (isKnown(columns, name)) continue;
    const near = nearest(name, columns.known);
    problems.add(
      row,
      name,
      name,
      `there is no column “${name}”${near.length ? `; is it “${near[0]}”?` : '; take it out, rename it, or say in a mapping what it is'}`,
    );
  }
  for (const name of Object.values(file.mapping?.columns ?? {}).flat()) {
    if (!found.header.includes(name))
      problems.add(row, name, name, `the mapping names a column “${name}” that the file does not have`);
  }
  if (problems.count === before) {
    if (found.dates.doubt === 'ask') {
      const field = columns.dates.find((d) => found.fields.has(d)) ?? 'date';
      problems.add(
        row,
        field,
        null,
        `the dates can be read two ways: ${found.dates.why}; say which with the mapping's reading, dates: "dmy" or "mdy"`,
      );
    }
    if (found.decimal.doubt === 'ask') {
      const field = columns.amounts.find((a) => found.fields.has(a)) ?? 'amount';
      problems.add(
        row,
        field,
        null,
        `the amounts can be read two ways: ${found.decimal.why}; say which with the mapping's reading, decimal: "." or ","`,
      );
    }
  }
  return problems.count === before;
}

/** Fields that a file of this kind must have and does not. */
export function missingFields(
  found: Pick<Recognition, 'fields' | 'header' | 'constants' | 'strict'>,
  columns: Columns,
  kind: string,
): { field: string; message: string }[] {
  const has = (name: string): boolean => found.fields.has(name) || (found.constants[name] ?? '') !== '';
  const missing: { field: string; message: string }[] = [];
  for (const name of columns.required) {
    // Lines without numbers are numbered in their order, and a description may be missing where columns are mapped.
    if (has(name) || (!found.strict && kind === 'lines' && (name === 'line' || name === 'description'))) continue;
    const near = found.strict ? nearest(name, found.header) : [];
    missing.push({
      field: name,
      message: `the column “${name}” is missing${near.length ? `; is it “${near[0]}”?` : ''}`,
    });
  }
  if (columns.anyOf && !columns.anyOf.some((group) => group.every(has))) {
    const ways = columns.anyOf.map((group) => group.map((c) => `“${c}”`).join(' and ')).join(', or ');
    missing.push({
      field: columns.anyOf[0]?.find((c) => !has(c)) ?? '',
      message: `the file needs the columns ${ways}`,
    });
  }
  return missing;
}
