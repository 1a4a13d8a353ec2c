import { type Db, rowsOf } from './db';

/** How far each entity's lines reach, by entity code. */
export type Extents = ReadonlyMap<string, EntityExtent>;

export interface EntityExtent {
  firstPeriod: number;
  lastPeriod: number;
  /** Last period with posted lines. */
  lastPosted: number;
  firstDay: string;
  lastDay: string;
}

export async function readExtents(db: Db): Promise<Extents> {
  const rows = await rowsOf<{
    code: string;
    first: number;
    last: number;
    posted: number | null;
    first_day: string;
    last_day: string;
  }>(
    db,
    `select e.code, min(b.period) as first, max(b.period) as last, max(b.period) filter (where b.status = 1) as posted,
       min(b.day) as first_day, max(b.day) as last_day
     from entity e join balance_day b on b.entity = e.id group by e.code`,
  );
  return new Map(
    rows.map((r) => [
      r.code,
      {
        firstPeriod: r.first,
        lastPeriod: r.last,
        lastPosted: r.posted ?? r.last,
        firstDay: r.first_day,
        lastDay: r.last_day,
      },
    ]),
  );
}
