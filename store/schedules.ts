import type { LeafFormat } from '@/contracts/leaves';
import type { Every } from '@/contracts/schedules';
import type { Measure } from '@/contracts/traced';
import { type Db, rowsOf } from './db';

export interface Condition {
  scope: string;
  measure: Measure;
  is: 'above' | 'below';
  amount: string;
}

/** When a report or a pack is made by itself, and for whom. */
export interface ScheduleRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  report: number | null;
  pack: number | null;
  /** Of a pack the reports that are sent; none: all of them. */
  parts: number[];
  formats: LeafFormat[];
  receivers: number[];
  every: Every;
  day: string | null;
  days: number[];
  time: string;
  zone: string;
  condition: Condition | null;
  held: boolean | null;
  paused: boolean;
  seen_load: number;
  next_at: Date | null;
  removed_at: Date | null;
}

/** What was made for somebody in a run, or why it was not. */
export interface Output {
  person: number;
  name: string;
  title: string;
  format: LeafFormat;
  /** Number of the export that holds it. */
  export: number | null;
  problem: string | null;
}

export interface RunRow {
  id: number;
  schedule: number;
  for_what: string;
  state: 'waiting' | 'under way' | 'done' | 'failed';
  reason: string;
  outputs: Output[];
  at: Date;
  ended_at: Date | null;
}

const READ = 'select s.*, p.name as person_name from schedule s join person p on p.id = s.person';

export const listSchedules = (db: Db): Promise<ScheduleRow[]> =>
  rowsOf(db, `${READ} where s.removed_at is null order by lower(s.name), s.id`);

export const readSchedule = async (db: Db, id: number): Promise<ScheduleRow | null> =>
  (await rowsOf<ScheduleRow>(db, `${READ} where s.id = ? and s.removed_at is null`, [id]))[0] ?? null;

type Kept = Omit<ScheduleRow, 'id' | 'person_name' | 'held' | 'removed_at'>;

export async function insertSchedule(db: Db, { condition, ...row }: Kept): Promise<number> {
  const [made] = (await db('schedule')
    .insert({ ...row, condition: condition && JSON.stringify(condition) })
    .returning('id')) as { id: number }[];
  return (made as { id: number }).id;
}

export const changeSchedule = (
  db: Db,
  id: number,
  { condition, ...change }: Partial<Kept & Pick<ScheduleRow, 'held' | 'removed_at'>>,
): Promise<unknown> =>
  db('schedule')
    .where({ id })
    .update({ ...change, ...(condition === undefined ? {} : { condition: condition && JSON.stringify(condition) }) });

/** Schedules of moments that have come, and those that look at loads and have not looked at the newest. */
export const dueSchedules = (db: Db, now: Date, newest: number): Promise<ScheduleRow[]> =>
  rowsOf(
    db,
    `${READ} where s.removed_at is null and not s.paused and p.suspended_at is null
       and (s.next_at <= ? or (s.every in ('load', 'condition') and s.seen_load < ?)) order by s.next_at, s.id`,
    [now, newest],
  );

/** @returns null where it was begun already */
export const beginRun = async (db: Db, schedule: number, forWhat: string): Promise<number | null> =>
  (
    await rowsOf<{ id: number }>(
      db,
      'insert into schedule_run (schedule, for_what) values (?, ?) on conflict do nothing returning id',
      [schedule, forWhat],
    )
  )[0]?.id ?? null;

export const readRun = async (db: Db, id: number): Promise<RunRow | null> =>
  (await rowsOf<RunRow>(db, 'select * from schedule_run where id = ?', [id]))[0] ?? null;

export const runsOf = (db: Db, schedule: number, limit: number): Promise<RunRow[]> =>
  rowsOf(db, 'select * from schedule_run where schedule = ? order by id desc limit ?', [schedule, limit]);

export const changeRun = (
  db: Db,
  id: number,
  { outputs, ...change }: Partial<Pick<RunRow, 'state' | 'reason' | 'outputs' | 'ended_at'>>,
): Promise<unknown> =>
  db('schedule_run')
    .where({ id })
    .update({ ...change, ...(outputs ? { outputs: JSON.stringify(outputs) } : {}) });
