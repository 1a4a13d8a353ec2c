import type { Knex } from 'knex';
import type { Format, LoadKind, Mapping } from '@/contracts/mapping';
import { type Db, rowsOf } from './db';
import { askCancelOf, beatOf } from './jobs';

export type LoadStatus = 'queued' | 'reading' | 'loaded' | 'refused';

/** One delivery of data, as the store keeps it. */
export interface LoadRow {
  id: number;
  entity: number | null;
  kind: LoadKind;
  /** unknown: the file could not be read at all */
  format: Format | 'unknown';
  status: LoadStatus;
  file_name: string;
  file_digest: string;
  file_bytes: number;
  options: LoadOptions;
  mapping: Mapping | null;
  replaces_from: number | null;
  replaces_to: number | null;
  person: number | null;
  person_name: string;
  created_at: Date;
  finished_at: Date | null;
  progress: number;
  lines: number;
  entries: number;
  replaced: number;
  problem_count: number;
  message: string | null;
  rows_read: number;
  problems_so_far: number;
  cancel_asked: boolean;
  started_at: Date | null;
}

export interface LoadOptions {
  unknownAccounts?: 'create';
  /** What a trial balance is used as, where the person said so. */
  use?: 'openings' | 'check';
  ifStatedDiffers?: 'load';
  /** What empty cells do to what is known; asked where absent. */
  emptyCells?: 'clear' | 'keep';
  /** The connection that delivered it, and the place in its feed after it. */
  connection?: { id: number; cursor: string };
}

export type NewLoad = Pick<
  LoadRow,
  | 'entity'
  | 'kind'
  | 'format'
  | 'file_name'
  | 'file_digest'
  | 'file_bytes'
  | 'options'
  | 'mapping'
  | 'replaces_from'
  | 'replaces_to'
  | 'person'
  | 'person_name'
>;

/** A load as the record and jobs name what they are about. */
export const loadSubject = (id: number): string => `load ${id}`;

/** The load that a subject names; null if it is about something else. */
export function loadOfSubject(subject: string): number | null {
  const [, id] = /^load (\d+)$/.exec(subject) ?? [];
  return id === undefined ? null : Number(id);
}

/** Asks a load, and the job that does it, to stop. @param db a transaction */
export async function askLoadToStop(db: Knex.Transaction, id: number): Promise<void> {
  await updateLoad(db, id, { cancel_asked: true });
  await askCancelOf(db, 'load', loadSubject(id));
}

/** One at a time, so that the number after the newest one is free. */
const NUMBER_LOCK = 7_240_003;

/**
 * Adds a load that waits, under the number after the newest. Numbers are not taken from a sequence, which leaves a gap
 * behind when a server stops: an auditor would ask for the loads that are missing.
 * @param db a transaction
 */
export async function insertLoad(db: Knex.Transaction, load: NewLoad): Promise<number> {
  await db.raw('select pg_advisory_xact_lock(?)', [NUMBER_LOCK]);
  const [row] = (await db('load')
    .insert({
      id: db.raw('(select coalesce(max(id), 0) + 1 from load)'),
      ...load,
      options: JSON.stringify(load.options),
      mapping: load.mapping && JSON.stringify(load.mapping),
      status: 'queued',
    })
    .returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

export const readLoad = (db: Db, id: number): Promise<LoadRow | undefined> =>
  db('load').where({ id }).first() as unknown as Promise<LoadRow | undefined>;

export const updateLoad = async (db: Db, id: number, change: Partial<LoadRow>): Promise<void> => {
  await db('load').where({ id }).update(change);
};

/** Writes progress down. @returns whether somebody asked for the load to stop */
export async function noteProgress(
  db: Db,
  id: number,
  progress: Partial<Pick<LoadRow, 'progress' | 'rows_read' | 'problems_so_far'>>,
): Promise<boolean> {
  const [row] = (await db('load').where({ id }).update(progress).returning('cancel_asked')) as {
    cancel_asked: boolean;
  }[];
  if (progress.progress !== undefined) await beatOf(db, 'load', loadSubject(id), progress.progress);
  return row?.cancel_asked ?? false;
}

/** The oldest load that waits, or that a stopped server left in the middle. Loads are done one at a time, in order. */
export const nextLoad = (db: Db): Promise<LoadRow | undefined> =>
  db('load').whereIn('status', ['queued', 'reading']).orderBy('id').first() as unknown as Promise<LoadRow | undefined>;

/** Loads that count and whose rows no digest holds yet. */
export const unsealedLoads = (db: Db): Promise<Pick<LoadRow, 'id' | 'file_name' | 'person' | 'person_name'>[]> =>
  rowsOf(
    db,
    `select id, file_name, person, person_name from load l
     where status = 'loaded' and not exists (select 1 from load_digest d where d.load = l.id) order by id`,
  );

export const listLoads = (
  db: Db,
  limit: number,
  before: number | null,
): Promise<(LoadRow & { entity_code: string | null })[]> =>
  rowsOf(
    db,
    `select l.*, e.code as entity_code from load l left join entity e on e.id = l.entity
     where l.id < ? order by l.id desc limit ?`,
    [before ?? 2147483647, limit],
  );

export interface LoadProblemRow {
  row: number | null;
  column_name: string | null;
  value: string | null;
  message: string;
}

export const problemsOf = (db: Db, load: number): Promise<LoadProblemRow[]> =>
  rowsOf(db, 'select row, column_name, value, message from load_problem where load = ? order by at', [load]);

export const totalsOf = (
  db: Db,
  load: number,
): Promise<{ entity: string; period: number; lines: number; debit: number; credit: number }[]> =>
  rowsOf(
    db,
    `select e.code as entity, t.period, t.lines, t.debit, t.credit from load_total t join entity e on e.id = t.entity
     where t.load = ? order by e.code, t.period`,
    [load],
  );

/** The one lock under which loads run, so that their numbers are the order in which they came to count. */
const LOAD_LOCK = 7_240_001;
export const takeLoadLock = async (db: Db): Promise<boolean> => {
  const [row] = await rowsOf<{ got: boolean }>(db, 'select pg_try_advisory_xact_lock(?) as got', [LOAD_LOCK]);
  return row?.got ?? false;
};

/** Gives the planner what it needs after a load of what is beside the lines. */
export const tidyBeside = async (db: Db): Promise<void> =>
  void (await db.raw(
    'analyze document, document_link, attachment, budget, commitment, rate, member, account, counterparty',
  ));

/** Gives the planner and index-only scans what they need after a load of lines. */
export async function tidyAfterLoad(db: Db, entities: number[]): Promise<void> {
  const tables = await rowsOf<{ name: string }>(
    db,
    `select c.relname as name from pg_inherits i join pg_class c on c.oid = i.inhrelid
     where i.inhparent = any(select to_regclass('line_e' || n) from unnest(?::integer[]) n)`,
    [entities],
  );
  const waiting = ['entry', ...tables.map(({ name }) => name), 'balance_member', 'balance_day', 'balance_period'];
  const sweep = async (): Promise<void> => {
    for (let name = waiting.shift(); name; name = waiting.shift()) await db.raw(`vacuum (analyze) ${name}`);
  };
  await Promise.all([sweep(), sweep()]);
}

/** The first and the last period that a load laid lines in; null if it laid none. */
export async function periodsOfLoad(db: Db, load: number): Promise<{ first: number; last: number } | null> {
  const [span] = await rowsOf<{ first: number | null; last: number | null }>(
    db,
    'select min(period) as first, max(period) as last from load_total where load = ?',
    [load],
  );
  return span?.first == null || span.last == null ? null : { first: span.first, last: span.last };
}

/** Keeps the problems of a load in place of those that it had. */
export async function replaceProblems(
  db: Knex.Transaction,
  load: number,
  problems: readonly LoadProblemRow[],
): Promise<void> {
  await db('load_problem').where({ load }).delete();
  const rows = problems.map((problem, at) => ({ load, at, ...problem }));
  if (rows.length > 0) await db.batchInsert('load_problem', rows, 500);
}
