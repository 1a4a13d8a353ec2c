import { type Db, rowsOf } from './db';
import { keepEverybodys } from './sharing';

export interface KeptScopeRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  /** The area of work under which it is; empty for none. */
  folder: string;
  place: 'trial-balance' | 'statements' | 'lines';
  query: string;
  entities: string[];
  /** Whether everybody may open it. */
  shared: boolean;
  opens: boolean;
  /** Whether the reader has it at hand. */
  at_hand: boolean;
}

const READ = `select k.*, p.name as person_name, h.person is not null as at_hand,
    coalesce(everybody.may, 'nothing') <> 'nothing' as shared
  from kept_scope k join person p on p.id = k.person
  left join kept_scope_at_hand h on h.kept_scope = k.id and h.person = ?
  left join sharing everybody on everybody.kind = 'scope' and everybody.id = k.id and everybody.person = 0`;

/** All sentences, a person's own before those of others; folder by folder. */
export const keptScopesFor = (db: Db, person: number): Promise<KeptScopeRow[]> =>
  rowsOf(db, `${READ} order by k.person <> ?, lower(k.folder), lower(k.name)`, [person, person]);

/** @param reader who asks, who may have it at hand */
export const keptScope = async (db: Db, id: number, reader: number): Promise<KeptScopeRow | null> =>
  (await rowsOf<KeptScopeRow>(db, `${READ} where k.id = ?`, [reader, id]))[0] ?? null;

/** Keeps a sentence under its name. @returns its number; null where another of the person's own has the name */
export async function keepScope(
  db: Db,
  { shared, ...scope }: Omit<KeptScopeRow, 'id' | 'person_name' | 'at_hand'>,
): Promise<number | null> {
  const [row] = (await db('kept_scope').insert(scope).onConflict(['person', 'name']).ignore().returning('id')) as {
    id: number;
  }[];
  if (!row) return null;
  await keepEverybodys(db, 'scope', row.id, shared ? 'open' : 'nothing');
  if (scope.opens) await opensNoOther(db, scope.person, scope.place, row.id);
  return row.id;
}

/** Another sentence in the place of a person's own of that name, which stays in its folder and as seen as it was. */
export async function replaceScope(
  db: Db,
  { person, name, place, query, entities, folder, shared, opens }: Omit<KeptScopeRow, 'id' | 'person_name' | 'at_hand'>,
): Promise<number> {
  const [row] = (await db('kept_scope')
    .where({ person, name })
    .update({
      place,
      query,
      entities,
      ...(folder ? { folder } : {}),
      ...(opens ? { opens } : {}),
    })
    .returning('id')) as { id: number }[];
  const { id } = row as { id: number };
  if (shared) await keepEverybodys(db, 'scope', id, 'open');
  if (opens) await opensNoOther(db, person, place, id);
  return id;
}

export async function changeKeptScope(
  db: Db,
  { id, person, place }: KeptScopeRow,
  { shared, ...change }: Partial<Pick<KeptScopeRow, 'name' | 'folder' | 'shared' | 'opens' | 'query' | 'entities'>>,
): Promise<void> {
  if (change.opens) await opensNoOther(db, person, place, id);
  if (shared !== undefined) await keepEverybodys(db, 'scope', id, shared ? 'open' : 'nothing');
  if (Object.keys(change).length > 0) await db('kept_scope').where({ id }).update(change);
}

export async function keepAtHand(db: Db, id: number, person: number, wanted: boolean): Promise<void> {
  const row = { person, kept_scope: id };
  if (wanted) await db('kept_scope_at_hand').insert(row).onConflict(['person', 'kept_scope']).ignore();
  else await db('kept_scope_at_hand').where(row).delete();
}

/** Whether the person has another sentence of the name. */
export const nameTaken = async (db: Db, { id, person }: KeptScopeRow, name: string): Promise<boolean> =>
  (await db('kept_scope').where({ person, name }).whereNot({ id }).first('id')) !== undefined;

export async function deleteKeptScope(db: Db, id: number): Promise<void> {
  await db('sharing').where({ kind: 'scope', id }).delete();
  await db('kept_scope').where({ id }).delete();
}

/** A place opens with one sentence. */
const opensNoOther = (db: Db, person: number, place: string, id: number): Promise<number> =>
  db('kept_scope').where({ person, place }).whereNot({ id }).update({ opens: false });
