import { type Calendar, ordinal, yearSpan } from '@/core/calendar';
import { type Split, splitsWindow } from '@/core/figure';
import { type Bind, clauseSql, dimensionOf, keySql } from './clauseSql';
import { isOfDays, KIND, STATUS } from './codes';
import { columnLegs, columnLines, columnSumsUpTo } from './columns/legs';
import type { Columns } from './columns/manifest';
import { Texts } from './columns/words';
import {
  adjustmentsOf,
  booksOf,
  boundingAccounts,
  type EntityQuestion,
  type Leg,
  type Question,
  type Source,
  SUMMARISED,
  wordsAsked,
} from './question';

/**
 * The one translator of figures into SQL. A figure becomes a scope (constants per entity) and a source of
 * rows, each with the part of time that it is in (core/balances); every question about figures is asked
 * of `partsFrom` or `linesFrom` and of nothing else.
 *
 * By date, whole periods come from summaries and part periods from days or lines. What summaries do not know is asked of
 * the copies of lines by columns, where they are as new as the question, and else of the lines.
 */
export interface FigureSql {
  sql: string;
  bindings: unknown[];
  /** Which table answers, said for tests and for whoever tunes. */
  source: Source;
  /** Why that one. */
  why: string;
  /** The copies by columns, where they answer: the SQL is theirs then. */
  columns?: Columns;
}

const LINES = 'the lines themselves are wanted';

/** One row of what `partsFrom` asks. */
export interface PartRow {
  entity: string;
  part: 0 | 1 | 2 | 3;
  own: boolean;
  temporary: boolean;
  year: number;
  adjusting: boolean;
  debit: number;
  credit: number;
  count: number;
  [key: `key${number}`]: string | number | null;
}

/**
 * Sums of debit, credit and count by part, own, temporary, and the raw keys of the splits given.
 * @param options.from a table beneath the one that would answer, to hold the two against each other
 */
export function partsFrom(
  question: Question,
  splits: readonly Split[],
  options: { byYear?: boolean; from?: 'line' | 'balance_day' } = {},
): FigureSql {
  const natural = tableFor(question, splits);
  const source = options.from === 'line' || natural === 'balance_period' ? (options.from ?? natural) : natural;
  const running = splits.some((s) => splitsWindow(question.figure.window, s));
  const keys = splits.map((_, i) => `key${i}`);
  const columns = source === 'columns' ? question.columns : undefined;
  const why = options.from ? 'asked for' : choiceOf(question, splits).why;
  const texts = new Texts();
  const legs = columns
    ? columnLegs(question, splits, columns, texts, {
        keepAdjusting: running,
        byYear: running || (options.byYear ?? false),
      }).map((sql) => ({ sql, bindings: [] }))
    : legsOf(question, source).map((leg) =>
        legSql(
          leg,
          question,
          slotOf(question, splits),
          splits.map((split, i) => `${keySql(split, leg, question)} as key${i}`),
          { keepAdjusting: running },
        ),
      );
  const year = options.byYear ? 'year' : running ? 'case when part = 0 then 0 else year end' : '0';
  const shown = splits.map((s, i) =>
    splitsWindow(question.figure.window, s) ? `case when part < 2 then null else key${i} end as key${i}` : `key${i}`,
  );
  const group = ['entity', 'part', 'own', 'temporary', 'year', 'adjusting', ...keys];
  const sql = `
    select ${group.join(', ')}, sum(debit)::bigint as debit, sum(credit)::bigint as credit, sum(count)::bigint as count
    from (
      select ${['entity', 'part', 'own', 'temporary', `${year} as year`, 'adjusting', ...shown].join(', ')}, debit, credit, count
      from (${legs.map((l) => l.sql).join(' union all ')}) legs
    ) sums
    group by ${group.join(', ')}`;
  return columns
    ? { sql, bindings: texts.values, source, why, columns }
    : { sql, bindings: legs.flatMap((l) => l.bindings), source, why };
}

/** The first lines of each leg in an order, beyond further conditions: what is wanted of all is among them. */
export interface FirstOfEach {
  where: (bind: Bind) => string[];
  order: string;
  many: number;
}

/**
 * The lines of a figure: those of its window, loaded opening balances left out. Columns of `line` as `s`; the caller
 * adds conditions with `and`. One leg an entity with plain conditions, so that a page comes straight off an index.
 * @param options.openings loaded opening balances in the window too: whoever passes the lines on needs them
 * @param options.bodies of the copies by columns, which number texts: the columns of which the caller looks at the text
 * @param options.first of the database: only so many lines of each leg, each straight off its own index, where the order
 *   of all together would have to be made of all their lines
 */
export function linesFrom(
  question: Question,
  options: { openings?: boolean; bodies?: readonly string[]; first?: FirstOfEach } = {},
): FigureSql {
  if (question.columns) {
    const texts = new Texts();
    const lines = columnLines(question, question.columns, texts, options);
    return {
      sql: `from ${lines} s where true`,
      bindings: texts.values,
      source: 'columns',
      why: LINES,
      columns: question.columns,
    };
  }
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const leg = lineLeg(question);
  const { first } = options;
  const legs = question.entities.flatMap((e) =>
    e.books.map((books) => {
      const own = [
        ...ownLines(e, books, question, leg, bind, options.openings ?? false),
        ...(first?.where(bind) ?? []),
      ].join(' and ');
      return `(select s.* from line s where ${own}${first ? ` order by ${first.order} limit ${Number(first.many)}` : ''})`;
    }),
  );
  return { sql: `from (${legs.join(' union all ')}) s where true`, bindings, source: 'line', why: LINES };
}

function ownLines(
  e: EntityQuestion,
  books: number,
  question: Question,
  leg: Leg,
  bind: Bind,
  openings: boolean,
): string[] {
  const { figure, asOf } = question;
  const { window } = figure;
  const type = window.by === 'period' ? 'smallint' : 'date';
  const p = `s.${leg.axis}`;
  const nextYear = window.by === 'period' ? ordinal(e.firstYear + 1, 0) : startOfYear(e.calendar, e.firstYear + 1);
  const where = [
    `s.entity = ${Number(books)}`,
    `${p} >= ${bind(window.from, type)}`,
    `${p} <= ${bind(window.to, type)}`,
    ...(openings ? [] : [`not (s.kind = ${KIND.opening} and ${p} < ${bind(nextYear, type)})`]),
    ...countedLines(question, leg, bind),
    `s.load <= ${bind(asOf, 'integer')}`,
    `s.replaced_by > ${bind(asOf, 'integer')}`,
  ];
  const [only] = e.own ?? [];
  if (e.own?.length === 1) where.push(`s.account = ${bind(only, 'integer')}`);
  else if (e.own !== null) where.push(`s.account = any(${bind(e.own, 'integer[]')})`);
  if (figure.adjustments === 'without') where.push(`not (s.period = any(${bind(adjustmentsOf(e), 'smallint[]')}))`);
  return where;
}

/** Conditions on status and every clause, the same for all entities. */
function countedLines(question: Question, leg: Leg, bind: Bind): string[] {
  const { status, where } = question.figure;
  return [
    ...(status === 'all' ? [] : [`s.status = ${STATUS[status]}`]),
    ...where.map((clause) => clauseSql(clause, question, leg, bind)),
  ];
}

/**
 * Signed sums of an entity's lines up to the end of the window, by account and period, those of the window apart; by
 * day and by the raw keys of splits too where asked. Every clause of the figure holds, its selection of accounts does not.
 * @param options.accounts ids; null: all
 * @param options.splits of what a line itself has: its account and its company are told beside
 */
export function sumsUpTo(
  question: Question,
  e: EntityQuestion,
  { byDay, accounts, splits }: { byDay: boolean; accounts: number[] | null; splits: readonly Split[] },
): FigureSql {
  const { window } = question.figure;
  const byPeriod = window.by === 'period';
  const source = tableFor(question, [...splits, ...(byDay || !byPeriod ? [{ by: 'day' } as const] : [])]);
  const { why } = choiceOf(question, splits);
  if (source === 'columns' && question.columns) {
    const texts = new Texts();
    const sql = columnSumsUpTo(question, e, question.columns, texts, { byDay, accounts, splits });
    return { sql, bindings: texts.values, source, why, columns: question.columns };
  }
  const leg: Leg = { table: source, axis: byPeriod ? 'period' : 'day', cut: 'all' };
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const isLine = source === 'line';
  const p = `s.${leg.axis}`;
  const type = byPeriod ? 'smallint' : 'date';
  const within = `${p} >= ${bind(window.from, type)}`;
  const where = [
    `s.entity in (${e.books.map(Number).join(', ')})`,
    `${p} <= ${bind(window.to, type)}`,
    `s.load <= ${bind(question.asOf, 'integer')}`,
    ...(isLine ? [`s.replaced_by > ${bind(question.asOf, 'integer')}`] : []),
    ...(accounts ? [`s.account = any(${bind(accounts, 'integer[]')})`] : []),
    ...(source === 'balance_member' ? [`s.slot = ${Number(slotOf(question, splits))}`] : []),
    ...countedLines(question, leg, bind),
  ];
  const keys = [
    's.account',
    `s.${byPeriod ? 'period' : 'day_period'}`,
    's.period',
    `s.kind = ${KIND.opening}`,
    within,
    ...(byDay ? ['s.day'] : []),
    ...splits.map((split) => keySql(split, leg, question)),
  ];
  const named = splits.map((_, i) => `${keys[keys.length - splits.length + i]} as key${i}, `).join('');
  const sql = `
    select s.account, ${keys[1]} as period, s.period as booked, ${keys[3]} as opening, ${within} as within, ${byDay ? 's.day,' : ''} ${named}
      sum(${isLine ? 's.amount' : 's.debit - s.credit'})::bigint as amount, ${isLine ? 'count(*)' : 'sum(s.count)'}::integer as count
    from ${source} s where ${where.join(' and ')} group by ${keys.map((_, i) => i + 1).join(', ')}`;
  return { sql, bindings, source, why };
}

/** Every line that may bear on a figure, with its part: the window's, its opening's, and ended years' results. */
export function bearingLinesFrom(question: Question): FigureSql {
  const { sql, bindings } = legSql(lineLeg(question), question, null, ['s.*'], { ofAllLoads: true });
  return { sql: `from (${sql}) s`, bindings, source: 'line', why: LINES };
}

/** How the lines of a question are read. */
export const lineLeg = (question: Question): Leg => ({
  table: 'line',
  axis: question.figure.window.by === 'period' ? 'period' : 'day',
  cut: 'all',
});

/** The smallest table that can answer: every clause and split must be among what it keeps. */
const sourceFor = (question: Question, splits: readonly Split[]): Source => choiceOf(question, splits).source;

/** The same with why it is that one, in words for whoever tunes. */
function choiceOf(question: Question, splits: readonly Split[]): { source: Source; why: string } {
  const dims = new Set<string>();
  let days = false;
  for (const { word, dim } of wordsAsked(question, splits)) {
    if (dim !== null) dims.add(dim);
    else if (isOfDays(word)) days = true;
    else if (!SUMMARISED.has(word)) return { source: 'line', why: `sums do not know ${word}` };
  }
  if (dims.size === 0)
    return days
      ? { source: 'balance_day', why: 'sums by day know all of it' }
      : { source: 'balance_period', why: 'sums by period know all of it' };
  return dims.size === 1 && !days
    ? { source: 'balance_member', why: 'sums by member know all of it' }
    : { source: 'line', why: days ? 'sums do not know days of members' : 'sums do not know two dimensions together' };
}

/** The table that answers: sums where they know it, else the copies by columns where there are any, else the lines. */
function tableFor(question: Question, splits: readonly Split[]): Source {
  const table = sourceFor(question, splits);
  // Sums by period are few; the others are more than the copies have to look at.
  return question.columns && table !== 'balance_period' ? 'columns' : table;
}

/**
 * A table that is not the one that answers a figure, to hold the two against each other.
 * @param few whether its lines may be counted again
 * @returns null where there is none: what lines alone tell can be proved by nothing else
 */
export function otherSource(question: Question, few: boolean): 'line' | 'balance_day' | null {
  const natural = sourceFor(question, []);
  if (natural === 'line') return null;
  if (few) return 'line';
  return natural === 'balance_period' ? 'balance_day' : null;
}

/** Whether a question can only be answered by reading lines. */
export const readsLines = (question: Question, splits: readonly Split[]): boolean =>
  sourceFor(question, splits) === 'line';

function legsOf(question: Question, source: Source): Leg[] {
  if (question.figure.window.by === 'period') return [{ table: source, axis: 'period', cut: 'all' }];
  if (source === 'line' || source === 'balance_day') return [{ table: source, axis: 'day', cut: 'all' }];
  const whole: Leg = { table: source, axis: 'day_period', cut: 'whole' };
  if (question.entities.every((e) => partPeriods(e, question).length === 0)) return [whole];
  return [whole, { table: source === 'balance_member' ? 'line' : 'balance_day', axis: 'day', cut: 'part' }];
}

/** Periods that a window by date begins or ends inside of. */
function partPeriods({ calendar: cal }: EntityQuestion, { figure: { window } }: Question): number[] {
  if (window.by === 'period') return [];
  const first = cal.periodAt(window.from);
  const last = cal.periodAt(window.to);
  return [
    ...new Set([...(first.from < window.from ? [first.ordinal] : []), ...(last.to > window.to ? [last.ordinal] : [])]),
  ];
}

function legSql(
  leg: Leg,
  question: Question,
  slot: number | null,
  columns: string[],
  options: { keepAdjusting?: boolean; ofAllLoads?: boolean } = {},
) {
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const { figure, asOf } = question;
  const isLine = leg.table === 'line';
  const p = `s.${leg.axis}`;
  // What is proposed in the books of one company is in the same time and on the same accounts as they are. Of one row the
  // database takes the values for constants, of several it looks them up for each line.
  const [only, another] = question.entities;
  const single = another === undefined && only !== undefined;
  const scope = question.entities
    .flatMap((e) => (single ? e.books.slice(0, 1) : e.books).map((books) => scopeRow(e, books, question, leg, bind)))
    .join(', ');
  const books = `s.entity in (${booksOf(question).join(', ') || '-1'})`;
  const sql = `
    select ${columns.length > 0 ? `${columns.join(', ')},` : ''}
      c.entity_code${isLine && columns[0] === 's.*' ? '' : ' as entity'}, a.temporary, ${figure.adjustments === 'without' && options.keepAdjusting ? 's.period = any(c.adjustments)' : 'false'} as adjusting,
      (c.all_own or s.account = any(c.own)) as own,
      case when ${p} < c.year_start then 0
           when ${p} < c.f or (s.kind = ${KIND.opening} and ${p} < c.next_year) then 1
           when ${p} < c.last_year then 2 else 3 end as part,
      (s.${leg.axis === 'period' ? 'period' : 'day_period'} + 20000) / 100 + 1800 as year,
      ${isLine ? 'case when s.side = 1 then s.amount else 0 end' : 's.debit'} as debit,
      ${isLine ? 'case when s.side = 1 then 0 else -s.amount end' : 's.credit'} as credit,
      ${isLine ? '1' : 's.count'} as count
    from (values ${scope})
      c(entity_id, entity_code, f, t, year_start, next_year, last_year, all_own, own, retained, cut, adjustments)
    join ${leg.table} s on ${single ? books : 's.entity = c.entity_id'}
    join account a on a.id = s.account`;
  // Said twice, the books are taken for two conditions, and far fewer rows are expected than there are.
  const where = [
    ...(single ? [] : [books]),
    ...[`${p} <= c.t`, '(c.all_own or s.account = any(c.own) or (c.retained and a.temporary))'],
  ];
  const accounts = boundingAccounts(question);
  if (accounts) where.push(`s.account = any(${bind(accounts, 'integer[]')})`);
  if (!options.ofAllLoads) {
    where.push(`s.load <= ${bind(asOf, 'integer')}`);
    if (isLine) where.push(`s.replaced_by > ${bind(asOf, 'integer')}`);
  }
  const leavesOut = figure.adjustments === 'without';
  if (leavesOut && !options.keepAdjusting) where.push('not (s.period = any(c.adjustments))');
  if (leg.cut !== 'all') where.push(`${leg.cut === 'whole' ? 'not ' : ''}(s.day_period = any(c.cut))`);
  if (leg.table === 'balance_member') where.push(`s.slot = ${Number(slot)}`);
  where.push(...countedLines(question, leg, bind));
  return { sql: `${sql} where ${where.join(' and ')}`, bindings };
}

function scopeRow(e: EntityQuestion, books: number, question: Question, leg: Leg, bind: Bind): string {
  const { window } = question.figure;
  const byDay = leg.axis === 'day';
  const type = byDay ? 'date' : 'integer';
  const end = (at: number | string): number | string =>
    byDay || typeof at === 'number' ? at : e.calendar.periodAt(at).ordinal;
  const yearStart = (year: number): number | string => (byDay ? startOfYear(e.calendar, year) : ordinal(year, 0));
  const cells = [
    `${Number(books)}::smallint`,
    bind(e.entity.code, 'text'),
    bind(end(window.from), type),
    bind(end(window.to), type),
    bind(yearStart(e.firstYear), type),
    bind(yearStart(e.firstYear + 1), type),
    bind(yearStart(e.lastYear), type),
    `${e.own === null}`,
    bind(e.own ?? [], 'integer[]'),
    `${e.retained}`,
    bind(partPeriods(e, question), 'integer[]'),
    bind(adjustmentsOf(e), 'integer[]'),
  ];
  return `(${cells.join(', ')})`;
}

/** First day of a fiscal year; past the end of a custom calendar, the day after everything. */
function startOfYear(cal: Calendar, year: number): string {
  return cal.periodsOf(year).length > 0 ? yearSpan(cal, year).from : '9999-12-31';
}

function slotOf(question: Question, splits: readonly Split[]): number | null {
  for (const c of question.figure.where) if (c.on === 'dim') return dimensionOf(question, c.dim).slot;
  for (const s of splits) if (s.by === 'dim') return dimensionOf(question, s.dim).slot;
  return null;
}
