import type { z } from 'zod';
import type { newProposedSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { type Calendar, CalendarError, calendar, dayOf, type Ordinal, parsePeriod, periodText } from '@/core/calendar';
import type { DateText } from '@/core/dates';
import { exponentOf, formatAmount, isCurrency, sum } from '@/core/money';
import {
  byDay,
  entryNumbers,
  faultsOf,
  type InCurrency,
  type ProposedFault,
  type ProposedLine,
  turningAround,
} from '@/core/proposedEntry';
import type { CatalogueEntity } from '@/store/catalogue';
import { KIND } from '@/store/codes';
import type { Db } from '@/store/db';
import { type LaidLine, layProposed, openProposed, partyNumbers } from '@/store/proposed';
import { type Context, type Known, known } from '../asking/context';
import { typedAmount } from '../asking/typedAmount';
import { maySee, seesLine, type Viewer } from '../asking/viewer';

/** A company in whose books an entry is proposed. */
export interface BooksProposedIn {
  entity: CatalogueEntity;
  calendar: Calendar;
  digits: number;
  names: Known;
}

/** @throws ProblemError for a company outside of what the viewer may see, in the words for one that is not there */
export async function proposedIn(ctx: Context, viewer: Viewer, code: string): Promise<BooksProposedIn> {
  const names = await known(ctx.write);
  const entity = names.catalogue.entities.get(code);
  if (!entity || !maySee(viewer, code)) throw notFound(`Entity ${code}`);
  return { entity, calendar: calendar(entity.calendar), digits: exponentOf(entity.currency), names };
}

type EntryWanted = Pick<z.infer<typeof newProposedSchema>, 'date' | 'period' | 'lines' | 'turnsAround'>;

/** A day with its period, by the calendar where none is named. @throws ProblemError */
export function momentOf(
  cal: Calendar,
  { date, period }: { date: DateText; period?: string | undefined },
  path = 'date',
): { date: DateText; period: Ordinal } {
  try {
    if (period === undefined) return { date, period: cal.periodAt(date).ordinal };
    const ordinal = parsePeriod(period) as Ordinal;
    cal.period(ordinal);
    return { date, period: ordinal };
  } catch (error) {
    if (error instanceof CalendarError) throw wrong(path, error.message);
    throw error;
  }
}

/** Lines as they are sent, with what they leave out put in. @throws ProblemError naming what cannot be read */
export function linesWanted(books: BooksProposedIn, wanted: EntryWanted): ProposedLine[] {
  const { calendar: cal, digits } = books;
  const on = momentOf(cal, wanted);
  const lines = wanted.lines.map((line, i): ProposedLine => {
    const own =
      line.date === undefined && line.period === undefined
        ? on
        : momentOf(cal, { date: line.date ?? wanted.date, period: line.period }, `lines.${i}.date`);
    return {
      account: line.account,
      amount: typedAmount(line.amount, digits, `lines.${i}.amount`),
      ...own,
      description: line.description ?? '',
      counterparty: line.counterparty ?? null,
      document: line.document ?? null,
      taxCode: line.taxCode ?? null,
      dims: line.dims ?? {},
      inCurrency: inCurrencyOf(books, line, (field) => `lines.${i}.${field}`),
    };
  });
  if (wanted.turnsAround === undefined) return lines;
  const back = momentOf(cal, { date: wanted.turnsAround }, 'turnsAround');
  if (lines.some((l) => l.date >= back.date))
    throw wrong('turnsAround', 'it is taken back on a later day than it is on');
  return turningAround(lines, back);
}

/** What a line is in the currency of its transaction, where that is another than the books'. @throws ProblemError */
export function inCurrencyOf(
  { entity }: BooksProposedIn,
  { currency, currencyAmount }: { currency?: string | undefined; currencyAmount?: string | undefined },
  pathOf: (field: 'currency' | 'currencyAmount') => string,
): InCurrency | undefined {
  if (currency === undefined || currency === entity.currency) {
    if (currencyAmount !== undefined && currency === undefined)
      throw wrong(pathOf('currency'), 'say in which currency that amount is');
    return undefined;
  }
  if (!isCurrency(currency))
    throw wrong(pathOf('currency'), `“${currency}” is no currency; write it as in ISO 4217, such as EUR`);
  if (currencyAmount === undefined) throw wrong(pathOf('currencyAmount'), `say how much it is in ${currency}`);
  return { currency, amount: typedAmount(currencyAmount, exponentOf(currency), pathOf('currencyAmount')) };
}

/** What a booked line is in another currency than that of the books, as a proposed one says it. */
export const inCurrencyBooked = (
  { currency, currencyAmount }: { currency: string | null; currencyAmount: number | null },
  { entity }: { entity: Pick<CatalogueEntity, 'currency'> },
): InCurrency | undefined =>
  currency === null || currency === entity.currency || currencyAmount === null
    ? undefined
    : { currency, amount: currencyAmount };

/** Everything that stands against lines, with what the viewer may not see among it. */
export async function faultsIn(
  ctx: Context,
  viewer: Viewer,
  books: BooksProposedIn,
  lines: readonly ProposedLine[],
): Promise<ProposedFault[]> {
  const { entity, calendar: cal, digits, names } = books;
  const parties = await partyNumbers(ctx.write, [...new Set(lines.flatMap((l) => l.counterparty ?? []))]);
  const within = { chart: entity.chart, trees: names.catalogue.trees };
  // Of what lies outside nothing is told, not even whether it is there.
  const outside = new Set(
    [...lines.entries()].flatMap(([at, l]) =>
      seesLine(viewer, { account: l.account, members: l.dims }, within) ? [] : [at],
    ),
  );
  const faults = faultsOf(lines, {
    accounts: entity.accounts,
    dimensions: names.catalogue.dimensions,
    counterparties: new Set(parties.keys()),
    spanOf: (period) => spanOf(cal, period),
    amountText: (amount) => `${entity.currency} ${formatAmount(amount, digits)}`,
  });
  return [
    ...faults.filter((f) => f.line === null || !outside.has(f.line)),
    ...[...outside].map(
      (at): ProposedFault => ({
        ...{ line: at, field: 'account' },
        message: `account ${lines[at]?.account} lies outside of what you may see`,
      }),
    ),
  ];
}

function spanOf(cal: Calendar, period: Ordinal): { from: DateText; to: DateText } | null {
  try {
    return cal.period(period);
  } catch (error) {
    if (error instanceof CalendarError) return null;
    throw error;
  }
}

/** @throws ProblemError with every fault, each naming its line and field */
export function mustStand(faults: readonly ProposedFault[]): void {
  if (faults.length === 0) return;
  throw new ProblemError(
    400,
    faults.length === 1 ? (faults[0] as ProposedFault).message : `${faults.length} things stand against this entry`,
    faults.map(({ line, field, message }) => ({
      path: line === null ? 'lines' : `lines.${line}.${field}`,
      message: line === null ? message : `line ${line + 1}: ${message}`,
    })),
  );
}

export const proposedNumber = (id: number): string => `P-${String(id).padStart(4, '0')}`;

/** The entries that a proposal is of, with the numbers that they bear. */
export function entriesOf(number: string, lines: readonly ProposedLine[]): { number: string; lines: ProposedLine[] }[] {
  const days = [...byDay(lines).values()];
  const numbers = entryNumbers(number, days.length);
  return days.map((own, i) => ({ number: numbers[i] as string, lines: own }));
}

/** Lays the entries of a proposal down, so that they count from the newest load on. @returns their numbers */
export async function lay(
  trx: Db,
  books: BooksProposedIn,
  set: number,
  { number, said, lines }: { number: string; said: string; lines: readonly ProposedLine[] },
): Promise<number[]> {
  const { entity, names } = books;
  const kept = await openProposed(trx, set, entity.id);
  const parties = await partyNumbers(trx, [...new Set(lines.flatMap((l) => l.counterparty ?? []))]);
  const laid: number[] = [];
  for (const entry of entriesOf(number, lines))
    laid.push(
      await layProposed(trx, kept, names.newest, {
        ...{ number: entry.number, said },
        // A line without a text of its own is called what the entry is.
        lines: entry.lines.map((line, i) =>
          laidLine(books, { ...line, description: line.description || said }, i + 1, parties),
        ),
      }),
    );
  return laid;
}

function laidLine(
  { entity, calendar: cal, names }: BooksProposedIn,
  line: ProposedLine,
  at: number,
  parties: ReadonlyMap<string, number>,
): LaidLine {
  const day = dayOf(cal, line.date, line.period);
  const d = [0, 0, 0, 0, 0, 0, 0, 0];
  for (const [code, member] of Object.entries(line.dims)) {
    const dimension = names.catalogue.dimensions.get(code);
    if (dimension) d[dimension.slot - 1] = dimension.members.get(member) ?? 0;
  }
  return {
    line_no: at,
    account: entity.accounts.get(line.account)?.id as number,
    amount: line.amount,
    period: line.period,
    day_period: cal.periodAt(day).ordinal,
    day,
    posting_date: line.date,
    kind: cal.period(line.period).adjustment ? KIND.adjustment : KIND.normal,
    counterparty: line.counterparty === null ? 0 : (parties.get(line.counterparty) ?? 0),
    d,
    document: line.document,
    currency: line.inCurrency?.currency ?? entity.currency,
    currency_amount: line.inCurrency?.amount ?? line.amount,
    description: line.description,
    extra: line.taxCode === null ? null : { tax_code: line.taxCode },
  };
}

/** Lines as they are told, each with the names of what it bears. */
export function shownLines({ entity, digits, names }: BooksProposedIn, lines: readonly ProposedLine[]) {
  const { dimensions } = names.catalogue;
  const text = (amount: number): string => formatAmount(amount, digits);
  return lines.map((line) => ({
    account: line.account,
    accountName: entity.accounts.get(line.account)?.name ?? '',
    amount: text(line.amount),
    debit: text(Math.max(line.amount, 0)),
    credit: text(Math.max(-line.amount, 0)),
    date: line.date,
    period: periodText(line.period),
    description: line.description,
    counterparty: line.counterparty,
    document: line.document,
    taxCode: line.taxCode,
    inCurrency: line.inCurrency
      ? {
          currency: line.inCurrency.currency,
          amount: formatAmount(line.inCurrency.amount, exponentOf(line.inCurrency.currency)),
        }
      : null,
    dims: Object.entries(line.dims).map(([dimension, code]) => ({
      dimension,
      dimensionName: dimensions.get(dimension)?.name ?? dimension,
      code,
      name: dimensions.get(dimension)?.tree.get(code)?.name ?? code,
    })),
  }));
}

/** Σ of debits. */
export const debitOf = (lines: readonly ProposedLine[]): number =>
  sum(lines.map((l) => l.amount).filter((amount) => amount > 0));
