import type { LoadKind, Mapping } from '@/contracts/mapping';
import { type Db, rowsOf } from './db';

export interface KeptMapping {
  name: string;
  kind: LoadKind;
  mapping: Mapping;
  person_name: string;
  used_at: Date;
}

/** Mappings kept for files of that shape (digest of the column names), the last used first. */
export const mappingsFor = (db: Db, kind: LoadKind, shape: string): Promise<KeptMapping[]> =>
  rowsOf(
    db,
    'select name, kind, mapping, person_name, used_at from mapping where kind = ? and shape = ? order by used_at desc',
    [kind, shape],
  );

export const listMappings = (db: Db): Promise<KeptMapping[]> =>
  rowsOf(db, 'select name, kind, mapping, person_name, used_at from mapping order by name');

export const mappingNamed = async (db: Db, name: string): Promise<KeptMapping | undefined> =>
  (
    await rowsOf<KeptMapping>(db, 'select name, kind, mapping, person_name, used_at from mapping where name = ?', [
      name,
    ])
  )[0];

/** Keeps a mapping by its name; the same name again is the mapping changed. */
export async function keepMapping(
  db: Db,
  row: { name: string; kind: LoadKind; shape: string; mapping: Mapping; person_name: string },
): Promise<void> {
  await db('mapping')
    .insert({ ...row, mapping: JSON.stringify(row.mapping), used_at: new Date() })
    .onConflict('name')
    .merge();
}
