import { type Db, rowsOf } from './db';
import type { Question } from './figureSql';

/** Movement of each member of a dimension for itself, without those beneath it, over the accounts of a figure. */
export async function memberSums(db: Db, question: Question, slot: number): Promise<{ member: number; count: number; debit: number; credit: number }[]> {
  const { window, status } = question.figure;
  const [entity] = question.entities;
  if (!entity) return [];
  // Whole periods: a page of names does not need the day.
  const at = (end: number | string): number => (typeof end === 'number' ? end : entity.calendar.periodAt(end).ordinal);
  return rowsOf(
    db,
    `select member, sum(count)::integer as count, sum(debit)::bigint as debit, sum(credit)::bigint as credit from balance_member
     where entity = ? and slot = ? and member <> 0 and period between ? and ? and load <= ? ${status === 'all' ? '' : 'and status = ?'}
       and (?::integer[] is null or account = any(?::integer[])) group by member having sum(count) <> 0`,
    [entity.entity.id, slot, at(window.from), at(window.to), question.asOf, ...(status === 'all' ? [] : [status === 'posted' ? 1 : 0]), entity.own, entity.own],
  );
}
