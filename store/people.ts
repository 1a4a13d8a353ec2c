import { type Db, rowsOf } from './db';

export interface PersonRow {
  id: number;
  email: string;
  name: string;
  role: 'owner' | 'preparer' | 'reviewer' | 'reader';
  password_hash: string;
  /** Members granted by dimension; a dimension that is not named is granted whole. */
  members: Record<string, string[]>;
  /** The accounts granted, as a selection; null: all. */
  accounts: string | null;
}

/** A person as one who asks: with the entities granted, null for all. */
export interface SeenPerson extends Omit<PersonRow, 'password_hash'> {
  entities: string[] | null;
}

const SEEN = `p.id, p.email, p.name, p.role, p.members, p.accounts,
  (select array_agg(e.code order by e.code) from person_entity g join entity e on e.id = g.entity where g.person = p.id) as entities`;

export async function personByEmail(db: Db, email: string): Promise<PersonRow | null> {
  const [row] = await rowsOf<PersonRow>(db, 'select * from person where email = ?', [email.toLowerCase()]);
  return row ?? null;
}

export async function personOfSession(db: Db, idHash: string): Promise<SeenPerson | null> {
  const [row] = await rowsOf<SeenPerson>(db, `select ${SEEN} from session s join person p on p.id = s.person where s.id_hash = ? and s.expires_at > now()`, [
    idHash,
  ]);
  return row ?? null;
}

export async function personOfToken(db: Db, hash: string): Promise<SeenPerson | null> {
  const [row] = await rowsOf<SeenPerson>(db, `select ${SEEN} from token t join person p on p.id = t.person where t.hash = ?`, [hash]);
  return row ?? null;
}

export const listPeople = (db: Db): Promise<SeenPerson[]> => rowsOf(db, `select ${SEEN} from person p order by p.name`);

export async function insertPerson(db: Db, person: Omit<PersonRow, 'id'>, entities: string[] | null): Promise<number | null> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    'insert into person (email, name, role, password_hash, members, accounts) values (?, ?, ?, ?, ?::jsonb, ?) on conflict (email) do nothing returning id',
    [person.email.toLowerCase(), person.name, person.role, person.password_hash, JSON.stringify(person.members), person.accounts],
  );
  if (!row) return null;
  if (entities) await db.raw('insert into person_entity (person, entity) select ?, id from entity where code = any(?)', [row.id, entities]);
  return row.id;
}

export const countPeople = async (db: Db): Promise<number> => (await rowsOf<{ n: number }>(db, 'select count(*)::integer as n from person'))[0]?.n ?? 0;

/** Failed attempts of the last minutes, for one e-mail or from one address. */
export async function recentAttempts(db: Db, email: string, address: string, minutes: number): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    `select greatest(count(*) filter (where email = ?), count(*) filter (where address = ?) / 5)::integer as n
     from sign_in_attempt where at > now() - make_interval(mins => ?)`,
    [email, address, minutes],
  );
  return row?.n ?? 0;
}
