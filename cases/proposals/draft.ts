import type { z } from 'zod';
import type { draftedSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { readSubject } from '@/contracts/subject';
import { neighbour, type Ordinal, parsePeriod, periodText } from '@/core/calendar';
import type { DateText } from '@/core/dates';
import {
  moved,
  movedInTime,
  PROPOSED_LINES_MAX,
  type ProposedLine,
  reversed,
  splitAmong,
  spread,
  together,
} from '@/core/proposedEntry';
import { linesOfEntries, type StoredLine } from '@/store/lines';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureAt, linesOfSubject } from '../asking/subjects';
import { requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { linesOfFigure } from '../balances/linesOfFigure';
import { type BooksProposedIn, faultsIn, inCurrencyBooked, momentOf, proposedIn, shownLines } from './lines';

type Wanted = Omit<z.infer<typeof draftedSchema>, 'scope' | 'lines'> & {
  scope?: string | undefined;
  lines?: string[] | undefined;
};

/** So many lines of a figure are put right at once. */
const TAKEN_MAX = 200_000;

/** Lines as they would be proposed, to be looked at and changed first; nothing is kept. @throws ProblemError */
export async function draftEntry(ctx: Context, viewer: Viewer, wanted: z.infer<typeof draftedSchema>) {
  const { books, lines } = await draftLines(ctx, viewer, wanted);
  if (lines.length > PROPOSED_LINES_MAX)
    throw wrong(
      'on',
      `this comes to ${lines.length} lines, and an entry has ${PROPOSED_LINES_MAX} at the most; put it right on one day, or take fewer lines`,
    );
  return shownDraft(ctx, viewer, books, lines);
}

export async function shownDraft(ctx: Context, viewer: Viewer, books: BooksProposedIn, lines: readonly ProposedLine[]) {
  const [first] = lines;
  return {
    entity: books.entity.code,
    currency: books.entity.currency,
    date: first?.date ?? '',
    period: first ? periodText(first.period) : '',
    lines: shownLines(books, lines),
    faults: lines.length === 0 ? [] : await faultsIn(ctx, viewer, books, lines),
  };
}

/** What becomes of lines that are moved, taken back, spread or split. */
export async function draftLines(
  ctx: Context,
  viewer: Viewer,
  wanted: Wanted,
): Promise<{ books: BooksProposedIn; lines: ProposedLine[] }> {
  const { make } = wanted;
  const inTime = make.by === 'move' && (make.to.date !== undefined || make.to.period !== undefined);
  // What goes to another day goes with its whole entry: else neither day balances.
  const { entity, lines: taken } = await takenLines(ctx, viewer, wanted, inTime || make.by === 'reverse');
  const books = await proposedIn(ctx, viewer, entity);
  const lines = taken.map((line) => asProposed(books, line));
  const one = wanted.on === 'one-day' ? momentOf(books.calendar, { date: wanted.date ?? lastDay(lines) }) : null;
  switch (make.by) {
    case 'move': {
      const { date, period, ...to } = make.to;
      if (!inTime) return { books, lines: moved(lines, to, one) };
      if (Object.values(to).some((value) => value !== undefined))
        throw wrong('to', 'entries go to another day as they are; put their accounts right by a proposal of its own');
      return { books, lines: movedInTime(lines, wholeMoment(books, { date, period })) };
    }
    case 'reverse':
      return { books, lines: reversed(together(lines), momentOf(books.calendar, make)) };
    case 'spread':
      return {
        books,
        lines: together(lines).flatMap((line) => spread(line, make.holds, periodsFrom(books, line, make))),
      };
    case 'split':
      return { books, lines: together(lines).flatMap((line) => splitAmong(line, make.among)) };
  }
}

function wholeMoment(
  { calendar: cal }: BooksProposedIn,
  { date, period }: { date?: DateText | undefined; period?: string | undefined },
): { date: DateText; period: Ordinal } {
  if (date !== undefined) return momentOf(cal, { date, period }, 'to.date');
  const ordinal = parsePeriod(period as string) as Ordinal;
  return { date: cal.period(ordinal).to, period: ordinal };
}

const lastDay = (lines: readonly ProposedLine[]): DateText =>
  lines.reduce((last, l) => (l.date > last ? l.date : last), '0000-01-01');

/** The last days of so many periods. */
function periodsFrom(
  { calendar: cal }: BooksProposedIn,
  line: ProposedLine,
  { periods, from }: { periods: number; from?: string | undefined },
): { date: DateText; period: Ordinal }[] {
  const found: { date: DateText; period: Ordinal }[] = [];
  let at: Ordinal | null = from === undefined ? line.period : (parsePeriod(from) as Ordinal);
  while (found.length < periods) {
    if (at === null) throw wrong('make.periods', `the calendar has ${found.length} of ${periods} periods`);
    const { to } = cal.period(at);
    found.push({ date: to, period: at });
    at = neighbour(cal, at, 1);
  }
  return found;
}

const asProposed = (books: BooksProposedIn, line: StoredLine): ProposedLine => ({
  account: line.account,
  amount: line.amount,
  date: line.postingDate,
  period: line.period,
  description: line.description,
  counterparty: line.counterparty,
  document: line.document,
  taxCode: line.taxCode === null ? null : String(line.taxCode),
  dims: line.members,
  inCurrency: inCurrencyBooked(line, books),
});

/** The lines that are meant, all of one company. @throws ProblemError */
async function takenLines(
  ctx: Context,
  viewer: Viewer,
  { scope, lines: named = [] }: Wanted,
  whole: boolean,
): Promise<{ entity: string; lines: StoredLine[] }> {
  if (scope !== undefined) return linesOfScope(ctx, viewer, await figureAt(ctx, viewer, scope, null), whole);
  const subjects = named.map((text, i) => {
    const subject = readSubject(text);
    if (subject.is !== 'line' && subject.is !== 'entry') throw wrong(`lines.${i}`, `“${text}” is no line`);
    return whole ? ({ is: 'entry', entity: subject.entity, entry: subject.entry } as const) : subject;
  });
  const [first] = subjects;
  if (!first) throw wrong('lines', 'name lines');
  if (subjects.some((s) => s.entity !== first.entity))
    throw wrong('lines', 'the lines of one proposal are of one company');
  const found = await Promise.all(subjects.map((s) => linesOfSubject(ctx, viewer, s, null)));
  const lines = new Map(found.flatMap((f) => f.lines.map((line) => [line.id, line] as const)));
  return { entity: first.entity, lines: [...lines.values()] };
}

async function linesOfScope(ctx: Context, viewer: Viewer, asked: ResolvedFigure, whole: boolean) {
  const [entity, another] = asked.entities;
  if (!entity || another) throw wrong('scope', 'the lines of one proposal are of one company; name it');
  const { count } = await figureTotal(ctx, asked);
  if (count === 0) throw wrong('scope', 'there are no lines in this figure');
  if (count > TAKEN_MAX)
    throw wrong('scope', `this figure has ${count} lines; at most ${TAKEN_MAX} are put right at once`);
  const lines: StoredLine[] = [];
  for await (const line of linesOfFigure(ctx.read, asked)) lines.push(line);
  if (!whole) return { entity: entity.code, lines };
  requireWhole(viewer, 'Entries are');
  const entries = [...new Set(lines.map((l) => l.entryId))];
  const { db, question } = await asked.ask(ctx, []);
  return { entity: entity.code, lines: await linesOfEntries(db, question, entries, asked.asOf) };
}
