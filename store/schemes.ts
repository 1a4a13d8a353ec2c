import { type Db, rowsOf } from './db';

/** What a code of a statutory scheme is called, and in other languages. */
export interface SchemeCaption {
  code: string;
  name: string;
  names: Record<string, string>;
}

/** Captions of a scheme as of a load by their codes, in the order in which the scheme has them; none where none were loaded. */
export const captionsOf = async (db: Db, scheme: string, asOf: number): Promise<ReadonlyMap<string, SchemeCaption>> => {
  const rows = await rowsOf<SchemeCaption>(
    db,
    'select code, name, names from scheme_caption where scheme = ? and load <= ? and replaced_by > ? order by id',
    [scheme, asOf, asOf],
  );
  return new Map(rows.map((row) => [row.code, row]));
};
