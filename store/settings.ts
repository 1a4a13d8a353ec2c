import { type Db, rowsOf } from './db';

export const readSetting = async <Value>(db: Db, name: string): Promise<Value | null> =>
  (await rowsOf<{ value: Value }>(db, 'select value from setting where name = ?', [name]))[0]?.value ?? null;

export async function keepSetting(db: Db, name: string, value: object, personName: string): Promise<void> {
  await db('setting')
    .insert({ name, value: JSON.stringify(value), person_name: personName, changed_at: new Date() })
    .onConflict('name')
    .merge();
}

/** What nobody has said is as it is at the beginning. */
export const forgetSetting = (db: Db, name: string): Promise<number> => db('setting').where({ name }).delete();
