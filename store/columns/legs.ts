import { type Ordinal, ordinal } from '@/core/calendar';
import type { DateText } from '@/core/dates';
import { isAttribute, type Split } from '@/core/figure';
import { lineField } from '@/core/lineFields';
import { dimensionOf } from '../clauseSql';
import { KIND } from '../codes';
import { adjustmentsOf, boundingAccounts, type EntityQuestion, type Question } from '../question';
import { type Columns, partName } from './manifest';
import { sumTable, textTable } from './shape';
import { among, countedIn, day, keyIn, type Place, quoted, type Texts, whole } from './words';

/**
 * Figures in the words of the copies. Lines are put together by plain columns first, which the engine does for millions in
 * a few hundredths of a second; what those rows are in time, and of which kind of account, is found out for the few that
 * are left.
 */

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
  const sums = sumsFor(question, splits, columns);
  return placesOf(question, columns).map((place) => {
    const { entity: e, part } = place;
    const { adjustments } = question.figure;
    const keys = splits.map((split) => keyIn(split, place, question));
    const adjusts = adjustments === 'without' && keepAdjusting;
    const reached = thresholds(e, question);
    const where = [
      ...countedIn(place, question, texts),
      upTo(question),
      ...boundedBy(question),
      ...(adjustments === 'without' && !keepAdjusting ? [`not (${adjusting('s.period', e)})`] : []),
    ];
    // Lines are put together by as few different things as will do: that is what takes the time.
    const byAccount = keys.some((key) => key.ofAccount);
    const own = e.own === null || !e.retained ? 'true' : among('id', e.own.map(whole));
    const accounts = `(select id, temporary, type, ${own} as own from ${columns.accounts})`;
    const inner = [
      ...(byAccount ? ['s.account'] : ['a.temporary', 'a.own']),
      `(${reached.map(({ sql }) => `(${sql})::utinyint`).join(' + ')}) as reached`,
      `s.kind = ${KIND.opening} as opening`,
      ...(byYear ? [`s.${axisOf(question)} as at`] : []),
      ...(adjusts ? ['s.period as booked'] : []),
      ...keys.map((key, i) => `${key.inner} as k${i}`),
    ];
    const counted = sums === null ? 'count(*)' : 'sum(s.count)';
    const flags = byAccount ? 'a.own, a.temporary' : 'g.own, g.temporary';
    const rows = `
      select ${[
        `${partOfTime(reached)} as part`,
        flags,
        `${byYear ? '(g.at + 20000) // 100 + 1800' : '0'} as year`,
        `${adjusts ? adjusting('g.booked', e) : 'false'} as adjusting`,
        ...keys.map((key, i) => `${key.outer(`g.k${i}`, `g.k${i}`)} as k${i}`),
      ].join(', ')}, sum(g.debit)::bigint as debit, sum(g.credit)::bigint as credit, sum(g.count)::bigint as count
      from (
        select ${inner.join(', ')}, sum(s.debit)::bigint as debit, sum(s.credit)::bigint as credit, ${counted}::bigint as count
        from ${partName(part)}.${sums ?? 'line'} s ${byAccount ? '' : `join ${accounts} a on a.id = s.account`}
        where ${where.join(' and ')} group by all
      ) g ${byAccount ? `join ${accounts} a on a.id = g.account` : ''}
      group by all`;
    const told = keys.map((key, i) => `${key.text !== null ? `t${i}.body` : `h.k${i}`} as key${i}`);
    const joined = keys.flatMap((key, i) =>
      key.text !== null ? [`left join ${partName(part)}.${textTable(key.text)} t${i} on t${i}.id = h.k${i}`] : [],
    );
    return `select ${[`${quoted(e.entity.code)} as entity`, 'h.part', 'h.own', 'h.temporary', 'h.year', 'h.adjusting', ...told, 'h.debit', 'h.credit', 'h.count'].join(', ')}
      from (${rows}) h ${joined.join(' ')}`;
  });
}

/** What sums by something know beside it. */
const BESIDE = new Set<string>(['account', 'heading', 'type', 'entity', 'period', 'kind']);

/** The table in which the lines of a question are added up beforehand; null: it has to be put together from lines. */
function sumsFor(question: Question, splits: readonly Split[], { summed }: Columns): string | null {
  const { figure } = question;
  const columns = new Set<string>(figure.window.by === 'date' ? ['day'] : []);
  for (const asked of [...figure.where.map((c) => [c.on, c] as const), ...splits.map((s) => [s.by, s] as const)]) {
    const [word, what] = asked;
    if (word === 'dim') columns.add(`d${whole(dimensionOf(question, (what as { dim: string }).dim).slot)}`);
    else if (word === 'day' || word === 'week' || word === 'month') columns.add('day');
    else if (word === 'size') columns.add('magnitude');
    else if (isAttribute(word)) columns.add(lineField(word).column);
    else if (!BESIDE.has(word)) return null;
  }
  const [column] = columns;
  return columns.size === 1 && column !== undefined && summed.has(column) ? sumTable(column) : null;
}

/** Beginnings of parts of time, in their order: how many of them a line has reached says in which it is. */
interface Threshold {
  sql: string;
  is: ('year' | 'from' | 'next' | 'last')[];
}

function thresholds(e: EntityQuestion, question: Question): Threshold[] {
  const { window } = question.figure;
  const axis = axisOf(question);
  const year = (of: number): string => `s.${axis} >= ${whole(ordinal(of, 0))}`;
  const all: Threshold[] = [
    { sql: year(e.firstYear), is: ['year'] },
    { sql: `${placed(question)} >= ${moment(window.from)}`, is: ['from'] },
    ...(e.lastYear > e.firstYear ? [{ sql: year(e.firstYear + 1), is: ['next'] } as Threshold] : []),
    ...(e.lastYear > e.firstYear + 1 ? [{ sql: year(e.lastYear), is: ['last'] } as Threshold] : []),
  ];
  return all;
}

/** In which part of time what was put together is, as core/balances has them. */
function partOfTime(reached: readonly Threshold[]): string {
  const last = reached.length;
  const several = reached.some(({ is }) => is.includes('next'));
  // After the window's beginning come its first years, its last year being apart.
  return `case when g.reached = 0 then 0 when g.reached = 1 or (g.reached = 2 and g.opening) then 1
    when g.reached < ${several ? last : 2} then 2 else 3 end`;
}

const adjusting = (column: string, e: EntityQuestion): string => among(column, adjustmentsOf(e).map(whole));

function boundedBy(question: Question): string[] {
  const accounts = boundingAccounts(question);
  return accounts === null ? [] : [among('s.account', accounts.map(whole))];
}

/** Conditions on the lines of a figure's window at a place; loaded opening balances left out unless asked for. */
export function windowLines(place: Place, question: Question, texts: Texts, openings = false): string[] {
  const { entity: e } = place;
  const { window, adjustments } = question.figure;
  const at = placed(question);
  const nextYear = whole(ordinal(e.firstYear + 1, 0));
  return [
    ...countedIn(place, question, texts),
    `${at} >= ${moment(window.from)}`,
    `${at} <= ${moment(window.to)}`,
    ...(openings ? [] : [`not (s.kind = ${KIND.opening} and s.${axisOf(question)} < ${nextYear})`]),
    ...(e.own === null ? [] : [among('s.account', e.own.map(whole))]),
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
    const where = [
      ...countedIn(place, question, texts),
      upTo(question),
      ...(accounts === null ? [] : [among('s.account', accounts.map(whole))]),
    ];
    const told = keys.map((key, i) => `${key.text !== null ? `t${i}.body` : key.outer(`g.k${i}`, '')} as key${i}, `);
    const joined = keys.flatMap((key, i) =>
      key.text !== null ? [`left join ${partName(place.part)}.${textTable(key.text)} t${i} on t${i}.id = g.k${i}`] : [],
    );
    return `select g.account, g.period, g.booked, g.kind = ${KIND.opening} as opening, g.within, ${byDay ? 'g.day::varchar as day, ' : ''}${told.join('')}
        sum(g.amount)::bigint as amount, sum(g.count)::bigint as count
      from (select ${inner.join(', ')}, sum(s.amount)::bigint as amount, count(*) as count
        from ${partName(place.part)}.line s where ${where.join(' and ')} group by all) g
      join ${columns.accounts} a on a.id = g.account ${joined.join(' ')} group by all`;
  });
  return `select * exclude(amount, count), sum(amount)::bigint as amount, sum(count)::bigint as count
    from (${legs.join(' union all ')}) s group by all`;
}
