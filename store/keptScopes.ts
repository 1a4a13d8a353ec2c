import { type Db, rowsOf } from './db';

export interface KeptScopeRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  place: string;
  query: string;
  entities: string[];
  shared: boolean;
  opens: boolean;
}

const READ = 'select k.*, p.name as person_name from kept_scope k join person p on p.id = k.person';

/** A person's own sentences, and those that others share. */
export const keptScopesFor = (db: Db, person: number): Promise<KeptScopeRow[]> =>
  rowsOf(db, `${READ} where k.person = ? or k.shared order by k.person <> ?, lower(k.name)`, [person, person]);

export const keptScope = async (db: Db, id: number): Promise<KeptScopeRow | null> =>
  (await rowsOf<KeptScopeRow>(db, `${READ} where k.id = ?`, [id]))[0] ?? null;

/** Keeps a sentence under its name; one of the person's own that has the name gives way. @returns its number */
export async function keepScope(db: Db, scope: Omit<KeptScopeRow, 'id' | 'person_name'>): Promise<number> {
  if (scope.opens) await opensNoOther(db, scope.person, scope.place);
  const [row] = (await db('kept_scope').insert(scope).onConflict(['person', 'name']).merge().returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

export async function changeKeptScope(db: Db, { id, person, place }: KeptScopeRow, change: { shared?: boolean; opens?: boolean }): Promise<void> {
  if (change.opens) await opensNoOther(db, person, place);
  await db('kept_scope').where({ id }).update(change);
}

export const deleteKeptScope = (db: Db, id: number): Promise<number> => db('kept_scope').where({ id }).delete();

/** A place opens with one sentence. */
const opensNoOther = (db: Db, person: number, place: string): Promise<number> => db('kept_scope').where({ person, place }).update({ opens: false });
