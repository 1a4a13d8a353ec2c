import { type Ordinal, ordinal } from '@/core/calendar';
import type { DateText } from '@/core/dates';
import { isAttribute, type Split } from '@/core/figure';
import { lineField } from '@/core/lineFields';
import { dimensionOf } from '../clauseSql';
import { isOfDays, KIND } from '../codes';
import { quoted } from '../duck';
import {
  adjustmentsOf,
  boundingAccounts,
  type EntityQuestion,
  type Question,
  SUMMARISED,
  wordsAsked,
} from '../question';
import { type Columns, partName } from './manifest';
import { sumTable, textTable } from './shape';
import {
  amongNumbers,
  countedIn,
  day,
  keyIn,
  keysTold,
  onAccounts,
  type Place,
  plain,
  type Texts,
  whole,
} from './words';

/**
 * Figures in the words of the copies. Lines are put together by plain columns first, which the engine does for millions in
 * a few hundredths of a second; what those rows are in time, and of which kind of account, is found out for the few that
 * are left.
 */

/** A question to copies, and how long it may take; null: as long as it takes. */
export interface Copied {
  question: Question;
  columns: Columns;
  limitMs: number | null;
}

export const placesOf = (question: Question, columns: Columns): Place[] =>
  question.entities.flatMap((entity) =>
    entity.books.flatMap((books) => (columns.parts.get(books) ?? []).map((part) => ({ entity, books, part }))),
  );

const axisOf = ({ figure }: Question): 'period' | 'day_period' =>
  figure.window.by === 'period' ? 'period' : 'day_period';

/** The end of a window as it stands beside `s.period` or `s.day`. */
const moment = (at: Ordinal | DateText): string => (typeof at === 'number' ? whole(at) : day(at));
const placed = ({ figure }: Question): string => (figure.window.by === 'period' ? 's.period' : 's.day');

/** Lines up to the end of a figure's window. */
const upTo = (question: Question): string => `${placed(question)} <= ${moment(question.figure.window.to)}`;

/** One select for each part: rows of entity, part, own, temporary, year, adjusting, keys, debit, credit, count. */
export function columnLegs(
  question: Question,
  splits: readonly Split[],
  columns: Columns,
  texts: Texts,
  { keepAdjusting, byYear }: { keepAdjusting: boolean; byYear: boolean },
): string[] {
  const column = summableBy(question, splits);
  return placesOf(question, columns).map((place) => {
    const { entity: e, part } = place;
    const sums = column !== null && columns.summed.get(part.id)?.has(column) ? sumTable(column) : null;
    const { adjustments } = question.figure;
    const keys = splits.map((split) => keyIn(split, place, question));
    const adjusts = adjustments === 'without' && keepAdjusting;
    const begun = beginnings(e, question);
    const where = [
      ...countedIn(place, question, texts),
      upTo(question),
      ...onAccounts(boundingAccounts(question)),
      ...(adjustments === 'without' && !keepAdjusting ? [`not (${adjusting('s.period', e)})`] : []),
    ];
    // Lines are put together by as few different things as will do: that is what takes the time.
    const byAccount = keys.some((key) => key.ofAccount);
    const own = e.own === null || !e.retained ? 'true' : amongNumbers('id', e.own);
    const accounts = `(select id, temporary, type, ${own} as own from ${columns.accounts})`;
    const inner = [
      ...(byAccount ? ['s.account'] : ['a.temporary', 'a.own']),
      `(${begun.map((sql) => `(${sql})::utinyint`).join(' + ')}) as reached`,
      `s.kind = ${KIND.opening} as opening`,
      ...(byYear ? [`s.${axisOf(question)} as at`] : []),
      ...(adjusts ? ['s.period as booked'] : []),
      ...keys.map((key, i) => `${key.inner} as k${i}`),
    ];
    const counted = sums === null ? 'count(*)' : 'sum(s.count)';
    const flags = byAccount ? 'a.own, a.temporary' : 'g.own, g.temporary';
    const rows = `
      select ${[
        `${partOfTime(begun.length)} as part`,
        flags,
        `${byYear ? '(g.at + 20000) // 100 + 1800' : '0'} as year`,
        `${adjusts ? adjusting('g.booked', e) : 'false'} as adjusting`,
        ...keys.map((key, i) => `${key.outer(`g.k${i}`)} as k${i}`),
      ].join(', ')}, sum(g.debit)::bigint as debit, sum(g.credit)::bigint as credit, sum(g.count)::bigint as count
      from (
        select ${inner.join(', ')}, sum(s.debit)::bigint as debit, sum(s.credit)::bigint as credit, ${counted}::bigint as count
        from ${partName(part)}.${sums ?? 'line'} s ${byAccount ? '' : `join ${accounts} a on a.id = s.account`}
        where ${where.join(' and ')} group by all
      ) g ${byAccount ? `join ${accounts} a on a.id = g.account` : ''}
      group by all`;
    // They are told as they are already; only numbers of texts are left to be.
    const { told, joined } = keysTold(
      keys.map(({ text }) => ({ ...plain(''), text })),
      place,
      'h',
    );
    return `select ${[`${quoted(e.entity.code)} as entity`, 'h.part', 'h.own', 'h.temporary', 'h.year', 'h.adjusting', ...told, 'h.debit', 'h.credit', 'h.count'].join(', ')}
      from (${rows}) h ${joined}`;
  });
}

/** The one column by which the lines of a question could be added up beforehand; null: it has to be put together from lines. */
function summableBy(question: Question, splits: readonly Split[]): string | null {
  const columns = new Set<string>(question.figure.window.by === 'date' ? ['day'] : []);
  for (const { word, dim } of wordsAsked(question, splits)) {
    if (dim !== null) columns.add(`d${whole(dimensionOf(question, dim).slot)}`);
    else if (isOfDays(word)) columns.add('day');
    else if (word === 'size') columns.add('magnitude');
    else if (isAttribute(word)) columns.add(lineField(word).column);
    else if (!SUMMARISED.has(word)) return null;
  }
  const [column] = columns;
  return columns.size === 1 && column !== undefined ? column : null;
}

/**
 * Beginnings of parts of time, in their order: of the first year, of the window, and of the year after the first and the
 * last, where there are such. How many of them a line has reached says in which part it is.
 */
function beginnings(e: EntityQuestion, question: Question): string[] {
  const year = (of: number): string => `s.${axisOf(question)} >= ${whole(ordinal(of, 0))}`;
  return [
    year(e.firstYear),
    `${placed(question)} >= ${moment(question.figure.window.from)}`,
    ...(e.lastYear > e.firstYear ? [year(e.firstYear + 1)] : []),
    ...(e.lastYear > e.firstYear + 1 ? [year(e.lastYear)] : []),
  ];
}

/** In which part of time what was put together is, as core/balances has them. @param last how many beginnings there are */
const partOfTime = (last: number): string =>
  `case when g.reached = 0 then 0 when g.reached = 1 or (g.reached = 2 and g.opening) then 1
    when g.reached < ${last} then 2 else 3 end`;

const adjusting = (column: string, e: EntityQuestion): string => amongNumbers(column, adjustmentsOf(e));

/** Conditions on the lines of a figure's window at a place; loaded opening balances left out unless asked for. */
export function windowLines(place: Place, question: Question, texts: Texts, openings = false): string[] {
  const { entity: e } = place;
  const { window, adjustments } = question.figure;
  const nextYear = whole(ordinal(e.firstYear + 1, 0));
  return [
    ...countedIn(place, question, texts),
    `${placed(question)} >= ${moment(window.from)}`,
    upTo(question),
    ...(openings ? [] : [`not (s.kind = ${KIND.opening} and s.${axisOf(question)} < ${nextYear})`]),
    ...onAccounts(e.own),
    ...(adjustments === 'without' ? [`not (${adjusting('s.period', e)})`] : []),
  ];
}

/**
 * The lines of a figure: one select for each part, with columns as `s`, and `s.entity` as the number of the books.
 * @param bodies columns of which the text itself is wanted, not its number
 */
export function columnLines(
  question: Question,
  columns: Columns,
  texts: Texts,
  options: { openings?: boolean; bodies?: readonly string[] } = {},
): string {
  const { bodies = [] } = options;
  const legs = placesOf(question, columns).map((place) => {
    const replaced =
      bodies.length === 0 ? '' : ` replace (${bodies.map((name) => `t_${name}.body as ${name}`).join(', ')})`;
    return `select s.*${replaced}, ${whole(place.books)}::smallint as entity from ${partName(place.part)}.line s
      ${bodies.map((name) => `left join ${partName(place.part)}.${textTable(name)} t_${name} on t_${name}.id = s.${name}`).join(' ')}
      where ${windowLines(place, question, texts, options.openings).join(' and ')}`;
  });
  return `(${legs.join(' union all ')})`;
}

/** What `sumsUpTo` asks, see figureSql. */
export function columnSumsUpTo(
  question: Question,
  e: EntityQuestion,
  columns: Columns,
  texts: Texts,
  { byDay, accounts, splits }: { byDay: boolean; accounts: number[] | null; splits: readonly Split[] },
): string {
  const { window } = question.figure;
  const legs = placesOf({ ...question, entities: [e] }, columns).map((place) => {
    const keys = splits.map((split) => keyIn(split, place, question));
    const inner = [
      's.account',
      `s.${axisOf(question)} as period`,
      's.period as booked',
      's.kind',
      `${placed(question)} >= ${moment(window.from)} as within`,
      ...(byDay ? ['s.day'] : []),
      ...keys.map((key, i) => `${key.inner} as k${i}`),
    ];
    const where = [...countedIn(place, question, texts), upTo(question), ...onAccounts(accounts)];
    const { told, joined } = keysTold(keys, place, 'g');
    return `select g.account, g.period, g.booked, g.kind = ${KIND.opening} as opening, g.within, ${byDay ? 'g.day::varchar as day, ' : ''}${told.map((key) => `${key}, `).join('')}
        sum(g.amount)::bigint as amount, sum(g.count)::bigint as count
      from (select ${inner.join(', ')}, sum(s.amount)::bigint as amount, count(*) as count
        from ${partName(place.part)}.line s where ${where.join(' and ')} group by all) g
      join ${columns.accounts} a on a.id = g.account ${joined} group by all`;
  });
  return `select * exclude(amount, count), sum(amount)::bigint as amount, sum(count)::bigint as count
    from (${legs.join(' union all ')}) s group by all`;
}
