import type { Chart } from '@/contracts/answers/charts';
import type { Draft } from '@/contracts/answers/proposals';
import { CalendarError, type CalendarSpec, calendar, periodText } from '@/core/calendar';
import { change, summary } from '@/core/money';
import { fieldOfHead } from '@/core/tableHeads';
import { plainAmount } from '@/core/writtenAmounts';
import { sideText } from '../amounts';

/** What is typed of an entry that is proposed: its lines as texts, until they are sent. */
export interface EntryRow {
  account: string;
  debit: string;
  credit: string;
  description: string;
  date: string;
  period: string;
  counterparty: string;
  taxCode: string;
  document: string;
  /** Of the transaction, where it is not that of the books; the amount in it without a sign, on the side of the line. */
  currency: string;
  currencyAmount: string;
  /** Member by the code of its dimension. */
  dims: Readonly<Record<string, string>>;
}

export type Field = Exclude<keyof EntryRow, 'dims'> | `dims.${string}`;

export const EMPTY_ROW: EntryRow = {
  ...{ account: '', debit: '', credit: '', description: '', date: '', period: '' },
  ...{ counterparty: '', taxCode: '', document: '', currency: '', currencyAmount: '', dims: {} },
};

export const isEmptyRow = (row: EntryRow): boolean =>
  [row.account, row.debit, row.credit, row.description].every((text) => text.trim() === '');

export const valueIn = (row: EntryRow, field: Field): string =>
  field.startsWith('dims.')
    ? (row.dims[field.slice('dims.'.length)] ?? '')
    : row[field as Exclude<Field, `dims.${string}`>];

export function withValue(row: EntryRow, field: Field, value: string): EntryRow {
  if (field.startsWith('dims.')) return { ...row, dims: { ...row.dims, [field.slice('dims.'.length)]: value } };
  // An amount is on one side.
  const other = value.trim() === '' ? {} : field === 'debit' ? { credit: '' } : field === 'credit' ? { debit: '' } : {};
  return { ...row, ...other, [field]: value };
}

export const withRow = (rows: readonly EntryRow[], at: number, row: EntryRow): EntryRow[] => {
  const next = [...rows];
  while (next.length <= at) next.push(EMPTY_ROW);
  next[at] = row;
  return next;
};

/** Accounts that lines can be on. */
export const openAccounts = (chart: Chart['rows']): { code: string; name: string }[] =>
  chart.filter((a) => a.posting && a.status === 'active').map((a) => ({ code: a.account, name: a.name }));

/** A day with its period, where that is another than the calendar has for the day. */
export interface Moment {
  date: string;
  /** Empty: the one that the day is in. */
  period: string;
}

/** When a line is, by the calendar of its books. */
export function momentOf({ date, period }: Moment, spec: CalendarSpec | undefined): Moment {
  if (spec === undefined || period === '') return { date, period };
  try {
    return { date, period: periodText(calendar(spec).periodAt(date).ordinal) === period ? '' : period };
  } catch (error) {
    if (error instanceof CalendarError) return { date, period };
    throw error;
  }
}

/** Rows as they were drafted by the server; when the entry is, is said once, above. */
export const rowsOf = (lines: Draft['lines'], on: Moment, spec: CalendarSpec | undefined): EntryRow[] =>
  lines.map((l) => ({
    ...ownMoment(momentOf(l, spec), on),
    account: l.account,
    debit: sideText(l.debit),
    credit: sideText(l.credit),
    description: l.description,
    counterparty: l.counterparty ?? '',
    taxCode: l.taxCode ?? '',
    document: l.document ?? '',
    currency: l.inCurrency?.currency ?? '',
    currencyAmount: l.inCurrency ? sideText(l.inCurrency.amount.replace('-', '')) : '',
    dims: Object.fromEntries(l.dims.map((d) => [d.dimension, d.code])),
  }));

const ownMoment = (own: Moment, on: Moment): Moment =>
  own.date === on.date && own.period === on.period ? { date: '', period: '' } : own;

/** What a row comes to, debit positive, as a decimal; null where nothing that can be read is typed. */
export function amountOf(row: EntryRow, mark: '.' | ','): string | null {
  const [text, sign] = row.debit.trim() === '' ? [row.credit, -1] : [row.debit, 1];
  const plain = plainAmount(text.trim(), mark);
  if (!/^-?\d+(\.\d+)?$/.test(plain)) return null;
  return sign === 1 ? plain : plain.startsWith('-') ? plain.slice(1) : `-${plain}`;
}

/** Debits, credits, and by how much they differ, of what can be read so far. */
export function balanceOf(rows: readonly EntryRow[], mark: '.' | ','): { debit: string; credit: string; off: string } {
  const amounts = rows.flatMap((row) => amountOf(row, mark) ?? []);
  const total = (some: readonly string[]): string => summary(some)?.sum ?? '0';
  const debit = total(amounts.filter((a) => !a.startsWith('-')));
  const credit = total(amounts.filter((a) => a.startsWith('-')).map((a) => a.slice(1)));
  const digits = Math.max(...[debit, credit].map((a) => a.split('.')[1]?.length ?? 0));
  const wide = (a: string): string => {
    const [whole = '0', fraction = ''] = a.split('.');
    return digits === 0 ? whole : `${whole}.${fraction.padEnd(digits, '0')}`;
  };
  return { debit: wide(debit), credit: wide(credit), off: change(wide(debit), wide(credit)) };
}

/** What debits and credits differ by in each currency of transactions, of what can be read so far; debit positive. */
export function balancesIn(rows: readonly EntryRow[], mark: '.' | ','): { currency: string; off: string }[] {
  const found = new Map<string, EntryRow[]>();
  for (const row of rows) {
    const currency = row.currency.trim().toUpperCase();
    if (currency === '') continue;
    const [debit, credit] = row.credit.trim() === '' ? [row.currencyAmount, ''] : ['', row.currencyAmount];
    found.set(currency, [...(found.get(currency) ?? []), { ...EMPTY_ROW, debit, credit }]);
  }
  return [...found].map(([currency, own]) => ({ currency, off: balanceOf(own, mark).off }));
}

/** When an entry is, and its lines, as they are sent. */
export const sentEntry = (
  { date, period, turnsAround, rows }: Moment & { turnsAround: string; rows: readonly EntryRow[] },
  mark: '.' | ',',
) => ({
  date,
  ...(period === '' ? {} : { period }),
  ...(turnsAround === '' ? {} : { turnsAround }),
  lines: rows.filter((r) => !isEmptyRow(r)).map((r) => sentLine(r, mark)),
});

/** A line as it is sent. */
export function sentLine(row: EntryRow, mark: '.' | ',') {
  const filled = (name: string, text: string) => (text.trim() === '' ? {} : { [name]: text.trim() });
  return {
    account: row.account.trim(),
    amount: amountOf(row, mark) ?? (row.debit || row.credit || '0'),
    ...filled('description', row.description),
    ...filled('date', row.date),
    ...filled('period', row.period),
    ...filled('counterparty', row.counterparty),
    ...filled('taxCode', row.taxCode),
    ...filled('document', row.document),
    ...filled('currency', row.currency.toUpperCase()),
    ...filled('currencyAmount', currencyAmountOf(row, mark)),
    dims: Object.fromEntries(Object.entries(row.dims).filter(([, member]) => member.trim() !== '')),
  };
}

/** The amount in the currency of the transaction with the sign of its line, as it is sent. */
function currencyAmountOf(row: EntryRow, mark: '.' | ','): string {
  const plain = plainAmount(row.currencyAmount.trim(), mark).replace('-', '');
  return plain !== '' && row.credit.trim() !== '' ? `-${plain}` : plain;
}

/** The field that a head of a table from elsewhere names; numbers of entries are given here. */
function namedBy(head: string, dimensions: readonly { code: string; name: string }[]): Field | 'amount' | null {
  const field = fieldOfHead(head, dimensions);
  if (field === null || field === 'entry') return null;
  if (field === 'tax_code') return 'taxCode';
  if (field === 'currency_amount') return 'currencyAmount';
  return field.startsWith('dim:') ? `dims.${field.slice('dim:'.length)}` : (field as Field | 'amount');
}

/**
 * A table from a spreadsheet, laid over rows from a cell on: its cells go into the fields to the right of it, or where the
 * first row of it names fields, into those; a column called amount into debit or credit by its sign.
 */
export function pasted(
  rows: readonly EntryRow[],
  text: string,
  at: { row: number; field: Field },
  fields: readonly Field[],
  dimensions: readonly { code: string; name: string }[],
): EntryRow[] {
  const table = text
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split('\t'));
  const named = (table[0] ?? []).map((head) => namedBy(head, dimensions));
  const hasHead = named.filter((f) => f !== null).length >= 2;
  const first = fields.indexOf(at.field);
  const columns = hasHead ? named : fields.slice(first);
  let next = [...rows];
  for (const [i, cells] of (hasHead ? table.slice(1) : table).entries()) {
    let row = next[at.row + i] ?? EMPTY_ROW;
    for (const [k, cell] of cells.entries()) {
      const field = columns[k];
      if (!field) continue;
      if (field !== 'amount') row = withValue(row, field, cell.trim());
      else if (/^\s*[-−(]|-\s*$/.test(cell)) row = withValue(row, 'credit', cell.replace(/[-−()]/g, '').trim());
      else row = withValue(row, 'debit', cell.trim());
    }
    next = withRow(next, at.row + i, row);
  }
  return next;
}
