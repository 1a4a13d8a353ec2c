import { type Ordinal, ordinal } from '@/core/calendar';
import type { DateText } from '@/core/dates';
import type { Split } from '@/core/figure';
import { KIND } from '../codes';
import { adjustmentsOf, boundingAccounts, type EntityQuestion, type Question } from '../question';
import { type Columns, partName } from './manifest';
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
export const upTo = (question: Question): string => `${placed(question)} <= ${moment(question.figure.window.to)}`;

/** One select for each part: rows of entity, part, own, temporary, year, adjusting, keys, debit, credit, count. */
export function columnLegs(
  question: Question,
  splits: readonly Split[],
  columns: Columns,
  texts: Texts,
  { keepAdjusting }: { keepAdjusting: boolean },
): string[] {
  return placesOf(question, columns).map((place) => {
    const { entity: e, part } = place;
    const { window, adjustments } = question.figure;
    const axis = axisOf(question);
    const keys = splits.map((split) => keyIn(split, place, question));
    const adjusts = adjustments === 'without' && keepAdjusting;
    const inner = [
      's.account',
      `s.${axis} as at`,
      's.kind',
      ...(adjusts ? ['s.period as booked'] : []),
      `${placed(question)} >= ${moment(window.from)} as within`,
      ...keys.map((key, i) => `${key.inner} as k${i}`),
    ];
    const where = [
      ...countedIn(place, question, texts),
      upTo(question),
      ...boundedBy(question),
      ...(adjustments === 'without' && !keepAdjusting ? [`not (${adjusting('s.period', e)})`] : []),
    ];
    const shown = keys.map((key, i) => `${key.outer(`g.k${i}`, `g.k${i}`)} as k${i}`);
    const sums = 'sum(g.debit)::bigint as debit, sum(g.credit)::bigint as credit, sum(g.count)::bigint as count';
    const rows = `
      select ${[
        `${partOfTime(e)} as part`,
        'a.own',
        'a.temporary',
        '(g.at + 20000) // 100 + 1800 as year',
        `${adjusts ? adjusting('g.booked', e) : 'false'} as adjusting`,
        ...shown,
      ].join(', ')}, ${sums}
      from (
        select ${inner.join(', ')}, sum(s.debit)::bigint as debit, sum(s.credit)::bigint as credit, count(*) as count
        from ${partName(part)}.line s where ${where.join(' and ')} group by all
      ) g
      join (select id, temporary, type, ${ownAccounts(e, 'id')} as own from ${columns.accounts}) a on a.id = g.account
      where a.own or (${e.retained} and a.temporary)
      group by all`;
    const told = keys.map((key, i) => `${key.text ? `t${i}.body` : `h.k${i}`} as key${i}`);
    const joined = keys.flatMap((key, i) =>
      key.text ? [`left join ${partName(part)}.text t${i} on t${i}.id = h.k${i}`] : [],
    );
    return `select ${[`${quoted(e.entity.code)} as entity`, 'h.part', 'h.own', 'h.temporary', 'h.year', 'h.adjusting', ...told, 'h.debit', 'h.credit', 'h.count'].join(', ')}
      from (${rows}) h ${joined.join(' ')}`;
  });
}

/** In which part of time what was put together is, as core/balances has them. */
function partOfTime(e: EntityQuestion): string {
  const year = (of: number): string => whole(ordinal(of, 0));
  return `case when g.at < ${year(e.firstYear)} then 0
    when not g.within or (g.kind = ${KIND.opening} and g.at < ${year(e.firstYear + 1)}) then 1
    when g.at < ${year(e.lastYear)} then 2 else 3 end`;
}

const adjusting = (column: string, e: EntityQuestion): string => among(column, adjustmentsOf(e).map(whole));

const ownAccounts = (e: EntityQuestion, column: string): string =>
  e.own === null ? 'true' : among(column, e.own.map(whole));

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
    const text = `${partName(place.part)}.text`;
    const replaced =
      bodies.length === 0 ? '' : ` replace (${bodies.map((name) => `t_${name}.body as ${name}`).join(', ')})`;
    return `select s.*${replaced}, ${whole(place.books)}::smallint as entity from ${partName(place.part)}.line s
      ${bodies.map((name) => `left join ${text} t_${name} on t_${name}.id = s.${name}`).join(' ')}
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
    const told = keys.map((key, i) => `${key.text ? `t${i}.body` : key.outer(`g.k${i}`, '')} as key${i}, `);
    const joined = keys.flatMap((key, i) =>
      key.text ? [`left join ${partName(place.part)}.text t${i} on t${i}.id = g.k${i}`] : [],
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
