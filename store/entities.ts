import type { CalendarSpec } from '@/core/calendar';
import { type Db, rowsOf } from './db';

export interface NewEntity {
  code: string;
  name: string;
  names: Record<string, string>;
  currency: string;
  calendar: CalendarSpec;
  yearEnd: 'derived' | 'booked';
  retainedEarnings: string;
}

/** Adds a company. @returns its number; null if there is one with that code */
export async function insertEntity(db: Db, entity: NewEntity): Promise<number | null> {
  const [added] = await rowsOf<{ id: number }>(
    db,
    `insert into entity (code, name, names, currency, calendar, year_end, retained_earnings) values (?, ?, ?, ?, ?, ?, ?)
     on conflict (code) do nothing returning id`,
    [
      entity.code,
      entity.name,
      JSON.stringify(entity.names),
      entity.currency,
      JSON.stringify(entity.calendar),
      entity.yearEnd,
      entity.retainedEarnings,
    ],
  );
  return added?.id ?? null;
}
