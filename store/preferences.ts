import { type Db, rowsOf } from './db';

export const preferencesOf = <Value>(db: Db, person: number): Promise<{ name: string; value: Value }[]> =>
  rowsOf(db, 'select name, value from preference where person = ? order by name', [person]);

/** Keeps a person's own setting; null takes it away. */
export async function keepPreference(db: Db, person: number, name: string, value: object | null): Promise<void> {
  if (value === null) await db('preference').where({ person, name }).delete();
  else
    await db('preference')
      .insert({ person, name, value: JSON.stringify(value) })
      .onConflict(['person', 'name'])
      .merge();
}
