import { type Db, rowsOf } from './db';

export interface EntryHead {
  id: number;
  entity: string;
  number: string;
  load: number;
  replaced_by: number;
}

/** An entry by its id, or by the number it bears in its entity as of a load. */
export async function findEntry(
  db: Db,
  by: { id: number } | { entity: string; number: string; asOf: number },
): Promise<EntryHead | null> {
  const head =
    'select e.id, n.code as entity, e.number, e.load, e.replaced_by from entry e left join cash_books c on c.books = e.entity join entity n on n.id = coalesce(c.entity, e.entity)';
  const [found] =
    'id' in by
      ? await rowsOf<EntryHead>(db, `${head} where e.id = ?`, [by.id])
      : await rowsOf<EntryHead>(
          db,
          `${head} where n.code = ? and e.number = ? and e.load <= ? and e.replaced_by > ? order by e.load desc limit 1`,
          [by.entity, by.number, by.asOf, by.asOf],
        );
  return found ?? null;
}
