import type { z } from 'zod';
import type { proposedTableSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { CalendarError, type Ordinal, ordinal, parsePeriod } from '@/core/calendar';
import { isDate } from '@/core/dates';
import { formatAmount } from '@/core/money';
import type { InCurrency, ProposedLine } from '@/core/proposedEntry';
import { fieldOfHead, HEAD_FIELDS } from '@/core/tableHeads';
import { plainAmount } from '@/core/writtenAmounts';
import { plainDate, recogniseDates, recogniseDecimal } from '@/exchange/dialect';
import { type PastedTable, pastedTable } from '@/exchange/pastedTable';
import type { Context } from '../asking/context';
import { typedAmount } from '../asking/typedAmount';
import { require, type Viewer } from '../asking/viewer';
import { type BooksProposedIn, debitOf, faultsIn, inCurrencyOf, proposedIn, proposedNumber, shownLines } from './lines';
import { keepProposed } from './propose';
import { seenLines } from './shown';

/** Many entries at once, from a table laid out in any way: each row a line, its columns mapped to the fields of lines. */

interface Problem {
  row: number | null;
  column: string | null;
  value: string | null;
  message: string;
}

type Wanted = z.infer<typeof proposedTableSchema>;

/** Looks at a table; with `keep`, and where nothing stands against it, proposes all of its entries. @throws ProblemError */
export async function proposeTable(ctx: Context, viewer: Viewer, wanted: Wanted) {
  require(viewer, 'preparer', 'propose an entry');
  const books = await proposedIn(ctx, viewer, wanted.entity);
  const table = read(wanted.text);
  const fields = fieldsOf(books, table, wanted.mapping ?? {});
  const { entries, problems } = entriesIn(books, table, fields);
  for (const entry of entries)
    for (const fault of await faultsIn(
      ctx,
      viewer,
      books,
      entry.lines.map((l) => l.line),
    )) {
      const at = fault.line === null ? null : (entry.lines[fault.line] ?? null);
      const field = fault.field.startsWith('dims.') ? `dim:${fault.field.slice(5)}` : fault.field;
      problems.push({
        row: at?.row ?? entry.lines[0]?.row ?? null,
        column: table.heads[fields.indexOf(field === 'amount' && !fields.includes('amount') ? 'debit' : field)] ?? null,
        value: null,
        message: at === null ? `entry ${entry.name}: ${fault.message}` : fault.message,
      });
    }
  problems.sort((a, b) => (a.row ?? 0) - (b.row ?? 0));
  const kept =
    wanted.keep && problems.length === 0
      ? await keepProposed(
          ctx,
          viewer,
          books,
          entries.map((entry) => ({
            wanted: {
              ...{ kind: wanted.kind, reason: wanted.reason, set: wanted.set, links: [] },
              title: (entry.lines[0]?.line.description ?? '').slice(0, 200),
              ...{ taxPercent: '', address: '', label: '', thread: null },
            },
            lines: entry.lines.map((l) => l.line),
          })),
        )
      : [];
  return {
    columns: table.heads.map((head, i) => ({ head, field: fields[i] ?? null })),
    fields: [...HEAD_FIELDS, ...[...books.names.catalogue.dimensions.keys()].map((code) => `dim:${code}`)],
    entries: entries.map((e) => ({
      name: e.name,
      lines: shownLines(
        books,
        seenLines(
          viewer,
          books,
          e.lines.map((l) => l.line),
        ),
      ),
      debit: formatAmount(debitOf(e.lines.map((l) => l.line)), books.digits),
    })),
    problems,
    kept: kept.map(proposedNumber),
  };
}

function read(text: string): PastedTable {
  try {
    const table = pastedTable(text);
    if (table.rows.length === 0) throw new Error('there is no row under the heads');
    return table;
  } catch (error) {
    throw wrong('text', `this is no table: ${(error as Error).message}`);
  }
}

/** What each column is: as it is mapped, or as its head says; null: nothing. */
function fieldsOf(
  { names }: BooksProposedIn,
  { heads }: PastedTable,
  mapping: Readonly<Record<string, string>>,
): (string | null)[] {
  const dims = [...names.catalogue.dimensions.values()];
  const known = new Set<string>([...HEAD_FIELDS, ...dims.map((d) => `dim:${d.code}`)]);
  return heads.map((head) => {
    const mapped = mapping[head];
    if (mapped !== undefined) {
      if (mapped !== '' && !known.has(mapped)) throw wrong('mapping', `“${mapped}” is no field of a line`);
      return mapped === '' ? null : mapped;
    }
    return fieldOfHead(head, dims);
  });
}

interface Entry {
  name: string;
  lines: { row: number; line: ProposedLine }[];
}

/** The entries of a table with what cannot be read of it, each with its row, its column and its value. */
function entriesIn(
  books: BooksProposedIn,
  table: PastedTable,
  fields: readonly (string | null)[],
): { entries: Entry[]; problems: Problem[] } {
  const problems: Problem[] = [];
  for (const [need, why] of [
    [['account'], 'a column of accounts'],
    [['date'], 'a column of days'],
    [['debit', 'credit', 'amount'], 'a column of amounts'],
  ] as const)
    if (!need.some((field) => fields.includes(field)))
      problems.push({ row: null, column: null, value: null, message: `${why} is missing; say which one it is` });
  if (problems.length > 0) return { entries: [], problems };
  const valuesOf = (...of: string[]): string[] =>
    table.rows.flatMap(({ cells }) => cells.filter((cell, i) => cell !== '' && of.includes(fields[i] ?? '')));
  const decimal = recogniseDecimal(valuesOf('debit', 'credit', 'amount', 'currency_amount')).value;
  const order = recogniseDates(valuesOf('date')).value;
  const entries = new Map<string, Entry>();
  for (const { row, cells } of table.rows) {
    const value = (field: string): string => cells[fields.indexOf(field)] ?? '';
    const fault = (field: string, message: string): null => {
      problems.push({ row, column: table.heads[fields.indexOf(field)] ?? null, value: value(field), message });
      return null;
    };
    const name = fields.includes('entry') ? value('entry') : '1';
    const date = plainDate(value('date'), order);
    const moment = momentIn(books, date, value('period'), fault);
    const amount = amountIn(books, value, decimal, fault);
    const inCurrency = foreignIn(books, value, decimal, amount, fault);
    if (moment === null || amount === null || inCurrency === null) continue;
    const dims = Object.fromEntries(
      fields.flatMap((field, i) => {
        const cell = cells[i] ?? '';
        return field?.startsWith('dim:') && cell !== '' ? [[field.slice('dim:'.length), cell]] : [];
      }),
    );
    const line: ProposedLine = {
      ...{ account: value('account'), amount, date, period: moment, description: value('description') },
      ...{ counterparty: value('counterparty') || null, document: value('document') || null },
      ...{ taxCode: value('tax_code') || null, dims, inCurrency },
    };
    const entry = entries.get(name) ?? { name, lines: [] };
    entries.set(name, entry);
    entry.lines.push({ row, line });
  }
  return { entries: [...entries.values()], problems };
}

type Fault = (field: string, message: string) => null;

/** The period of a line: as it is written, whole or within the year of its day, or that of its day. */
function momentIn({ calendar: cal }: BooksProposedIn, date: string, period: string, fault: Fault): Ordinal | null {
  if (!isDate(date)) return fault('date', 'this is no day; write it as 2026-04-30');
  try {
    const natural = cal.periodAt(date);
    if (period === '') return natural.ordinal;
    const whole = parsePeriod(period) ?? (/^\d{1,2}$/.test(period) ? ordinal(natural.year, Number(period)) : null);
    if (whole === null) return fault('period', 'this is no period; write it as 2027.06');
    return cal.period(whole).ordinal;
  } catch (error) {
    if (error instanceof CalendarError) return fault(period === '' ? 'date' : 'period', error.message);
    throw error;
  }
}

/** Debit less credit, or an amount with its sign. */
function amountIn(
  { digits }: BooksProposedIn,
  value: (field: string) => string,
  decimal: '.' | ',',
  fault: Fault,
): number | null {
  let sum = 0;
  for (const [field, sign] of [
    ['debit', 1],
    ['credit', -1],
    ['amount', 1],
  ] as const) {
    const text = value(field);
    if (text === '') continue;
    try {
      sum += sign * typedAmount(plainAmount(text, decimal), digits, field);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      return fault(field, error.errors[0]?.message ?? error.title);
    }
  }
  return sum;
}

/** What a line is in a currency of its own; tables have it with or without the sign of its side. */
function foreignIn(
  books: BooksProposedIn,
  value: (field: string) => string,
  decimal: '.' | ',',
  amount: number | null,
  fault: Fault,
): InCurrency | undefined | null {
  const [currency, text] = [value('currency').toUpperCase(), value('currency_amount')];
  try {
    const found = inCurrencyOf(
      books,
      {
        ...(currency === '' ? {} : { currency }),
        ...(text === '' ? {} : { currencyAmount: plainAmount(text, decimal) }),
      },
      (field) => field,
    );
    return found && { ...found, amount: (amount ?? 0) < 0 ? -Math.abs(found.amount) || 0 : found.amount };
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    const [first] = error.errors;
    return fault(first?.path === 'currency' ? 'currency' : 'currency_amount', first?.message ?? error.title);
  }
}
