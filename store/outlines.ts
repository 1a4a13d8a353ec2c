import type { Outline } from '@/core/statement';
import { type Db, rowsOf } from './db';

export interface OutlineRecord {
  code: string;
  version: number;
  outline: Outline;
  person_name: string;
  created_at: Date;
  removed: boolean;
}

/** The newest version of every outline of an entity. */
export const newestOutlines = (db: Db, entity: number): Promise<OutlineRecord[]> =>
  rowsOf(
    db,
    `select distinct on (code) code, version, outline, person_name, created_at, removed from outline where entity = ? order by code, version desc`,
    [entity],
  );

export const versionsOf = (db: Db, entity: number, code: string): Promise<OutlineRecord[]> =>
  rowsOf(
    db,
    'select code, version, outline, person_name, created_at, removed from outline where entity = ? and code = ? order by version desc',
    [entity, code],
  );

/** A new version; the former ones stay. @returns its number */
export async function addVersion(
  db: Db,
  row: { entity: number; code: string; outline: Outline; person_name: string; removed: boolean },
): Promise<number> {
  const [added] = await rowsOf<{ version: number }>(
    db,
    `insert into outline (entity, code, version, outline, person_name, removed)
     select ?, ?, coalesce(max(version), 0) + 1, ?::jsonb, ?, ? from outline where entity = ? and code = ? returning version`,
    [row.entity, row.code, JSON.stringify(row.outline), row.person_name, row.removed, row.entity, row.code],
  );
  return (added as { version: number }).version;
}
