import { addOwn, addRetained, type Balance, emptyBalance, type PartSum } from '@/core/balances';
import type { Split } from '@/core/figure';
import { type LineStats, mergeStats, noLines, QUANTITY_DIGITS } from '@/core/lineStats';
import type { SplitSum } from '@/core/split';
import { answerOf, copiedOf } from './answer';
import { keySql } from './clauseSql';
import { kindOf } from './codes';
import { type RecordRow, recordSumsIn } from './columns/records';
import { type Db, rowsOf } from './db';
import { lineLeg, linesFrom, type PartRow, partsFrom } from './figureSql';
import { accountCodes, booksOf, type Question } from './question';

/** More rows than this are no sheet that anybody reads; the question is refused with a remedy. */
export const SUMS_MAX = 60_000;

export class TooManyRowsError extends Error {
  constructor() {
    super(`the split has more than ${SUMS_MAX} combinations`);
    this.name = 'TooManyRowsError';
  }
}

/** Sums of a figure by part of time and split keys, names put in place of keys. @throws TooManyRowsError */
export async function splitSums(
  db: Db,
  question: Question,
  splits: readonly Split[],
  from?: 'line' | 'balance_day',
): Promise<SplitSum[]> {
  const parts = partsFrom(question, splits, from ? { from } : {});
  const rows = await answerOf<PartRow>(db, parts, `${parts.sql} limit ${SUMS_MAX + 1}`);
  if (rows.length > SUMS_MAX) throw new TooManyRowsError();
  const names = await keyNames(db, splits, rows, question);
  const rolls = new Map(question.entities.map((e) => [e.entity.code, e.rolls]));
  return rows.map((row) => ({
    entity: row.entity,
    part: row.part,
    own: row.own,
    temporary: row.temporary,
    rolls: rolls.get(row.entity) ?? false,
    year: row.year,
    adjusting: row.adjusting,
    debit: row.debit,
    credit: row.credit,
    count: row.count,
    keys: names(row),
  }));
}

/** What is told of the lines of a figure's window beside their sum, by split keys. @throws TooManyRowsError */
export async function recordSums(
  db: Db,
  question: Question,
  splits: readonly Split[],
): Promise<{ keys: (string | null)[]; kept: LineStats }[]> {
  const copied = copiedOf(db, question);
  const rows = copied ? await recordSumsIn(copied, splits, SUMS_MAX + 1) : await storedSums(db, question, splits);
  if (rows.length > SUMS_MAX) throw new TooManyRowsError();
  const names = await keyNames(db, splits, rows, question);
  return rows.map((row) => {
    const { lines, size, smallest, largest, priced } = row;
    const [first, last] = [row.first_unit, row.last_unit].map((unit) =>
      unit === null ? noLines() : { ...noLines(), unit },
    );
    const { unit } = mergeStats([first as LineStats, last as LineStats]);
    return {
      keys: names(row),
      kept: { lines, size, smallest, largest, priced, unit, quantity: BigInt(row.quantity) },
    };
  });
}

function storedSums(db: Db, question: Question, splits: readonly Split[]): Promise<RecordRow[]> {
  const { sql, bindings } = linesFrom(question);
  const leg = lineLeg(question);
  const keys = splits.map((split, i) => `${keySql(split, leg, question)} as key${i}`);
  return rowsOf<RecordRow>(
    db,
    `select ${[...keys, ''].join(', ')} count(*)::integer as lines, coalesce(sum(abs(s.amount)), 0)::bigint as size,
       min(abs(s.amount)) as smallest, max(abs(s.amount)) as largest,
       (coalesce(sum(s.quantity), 0) * ${10 ** QUANTITY_DIGITS})::numeric(60, 0)::text as quantity,
       coalesce(sum(s.amount) filter (where s.quantity is not null), 0)::bigint as priced,
       min(coalesce(s.unit, '')) filter (where s.quantity is not null) as first_unit,
       max(coalesce(s.unit, '')) filter (where s.quantity is not null) as last_unit
     from (select s.* ${sql}) s
     join (select id as entity_id, code as entity_code from entity) c on c.entity_id = s.entity
     join account a on a.id = s.account
     ${splits.length > 0 ? `group by ${splits.map((_, i) => i + 1).join(', ')}` : ''} limit ${SUMS_MAX + 1}`,
    bindings,
  );
}

type Keyed = Record<`key${number}`, string | number | null>;

/** Names in place of the raw keys of rows. */
export async function keyNames(
  db: Db,
  splits: readonly Split[],
  rows: readonly Keyed[],
  question: Question,
): Promise<(row: Keyed) => (string | null)[]> {
  const names = await Promise.all(
    splits.map((split, i) =>
      namesOf(
        db,
        split,
        rows.map((r) => r[`key${i}`] ?? null),
        question,
      ),
    ),
  );
  return (row) => splits.map((_, i) => names[i]?.(row[`key${i}`] ?? null) ?? null);
}

/** The figure's total over all its accounts, and per entity. @param from see partsFrom */
export async function total(
  db: Db,
  question: Question,
  from?: 'line' | 'balance_day',
): Promise<{ total: Balance; byEntity: Map<string, Balance> }> {
  const sums = await splitSums(db, question, [], from);
  const byEntity = new Map<string, Balance>();
  const all = emptyBalance();
  for (const sum of sums) {
    const mine = byEntity.get(sum.entity) ?? emptyBalance();
    byEntity.set(sum.entity, mine);
    for (const balance of [mine, all]) addContribution(balance, sum, question);
  }
  return { total: all, byEntity };
}

/** Adds all that a sum means to the figure: to its own accounts and, where selected, to retained earnings. */
function addContribution(balance: Balance, sum: PartSum & { entity: string }, question: Question): void {
  if (sum.own) addOwn(balance, sum);
  if (question.entities.find((e) => e.entity.code === sum.entity)?.retained) addRetained(balance, sum);
}

/** What ended years left in retained earnings at the window's start, by entity and fiscal year. */
export async function resultsByYear(
  db: Db,
  question: Question,
): Promise<{ entity: string; year: number; result: number }[]> {
  const parts = partsFrom(question, [], { byYear: true });
  return answerOf(
    db,
    parts,
    `select entity, year, sum(debit - credit)::bigint as result from (${parts.sql}) s
     where part = 0 and temporary group by entity, year order by entity, year`,
  );
}

/** Lines and amount of a figure's window by day, in date order: what a jump into its ledger is calculated from. */
export async function byDay(db: Db, question: Question): Promise<{ day: string; count: number; amount: number }[]> {
  const parts = partsFrom(question, [{ by: 'day' }]);
  return answerOf(
    db,
    parts,
    `select key0 as day, sum(count)::bigint as count, sum(debit - credit)::bigint as amount from (${parts.sql}) s
     where part >= 2 and own and not adjusting group by key0 having sum(count) > 0 order by key0`,
  );
}

/** The first load whose layer leaves a figure's closing out of balance. */
export async function firstOff(db: Db, question: Question): Promise<number | null> {
  const { entities, figure } = question;
  const axis = figure.window.by === 'period' ? 'period' : 'day';
  const table = figure.window.by === 'period' ? 'balance_period' : 'balance_day';
  const [row] = await rowsOf<{ load: number }>(
    db,
    `select load from ${table} where entity = any(?) and ${axis} <= ? group by load
     having sum(debit) <> sum(credit) order by load limit 1`,
    [booksOf({ entities }), figure.window.to],
  );
  return row?.load ?? null;
}

type Name = (key: string | number | null) => string | null;

async function namesOf(db: Db, split: Split, keys: (string | number | null)[], question: Question): Promise<Name> {
  switch (split.by) {
    case 'account':
    case 'heading': {
      const codes = accountCodes(question);
      return (key) => codes.get(key as number) ?? null;
    }
    case 'dim': {
      const dimension = question.catalogue.dimensions.get(split.dim);
      return (key) => dimension?.codeOf.get(key as number) ?? null;
    }
    case 'kind':
      return (key) => (key === null ? null : kindOf(key as number));
    case 'journal':
    case 'counterparty':
    case 'postedBy': {
      // The copies by columns tell codes themselves.
      if (question.columns) return (key) => key as string | null;
      const table = split.by === 'postedBy' ? 'ledger_user' : split.by;
      const ids = [...new Set(keys.filter((k) => k))];
      const rows = await rowsOf<{ id: number; code: string }>(db, `select id, code from ${table} where id = any(?)`, [
        ids,
      ]);
      const codes = new Map(rows.map((r) => [r.id, r.code]));
      return (key) => codes.get(key as number) ?? null;
    }
    default:
      return (key) => (key === null ? null : String(key));
  }
}

/** Names of codes in a dictionary, for showing. */
export async function dictionaryNames(
  db: Db,
  table: 'journal' | 'counterparty',
  codes: string[],
): Promise<Map<string, string>> {
  const rows = await rowsOf<{ code: string; name: string }>(db, `select code, name from ${table} where code = any(?)`, [
    codes,
  ]);
  return new Map(rows.map((r) => [r.code, r.name]));
}
