import type { Role } from '@/contracts/roles';
import { type Db, rowsOf } from './db';

export interface PersonRow {
  id: number;
  email: string;
  name: string;
  role: Role;
  password_hash: string;
  /** Members granted by dimension; a dimension that is not named is granted whole. */
  members: Record<string, string[]>;
  /** The accounts granted, as a selection; null: all. */
  accounts: string | null;
  suspended_at: Date | null;
}

/** A person with their grant: with the entities granted, null for all. */
export interface SeenPerson extends Omit<PersonRow, 'password_hash'> {
  entities: string[] | null;
  /** Whether the sign-in of the organisation knows them. */
  bound: boolean;
  last_seen: Date | null;
}

const SEEN = `p.id, p.email, p.name, p.role, p.members, p.accounts, p.suspended_at,
  exists (select from identity i where i.person = p.id) as bound,
  (select array_agg(e.code order by e.code) from person_entity g join entity e on e.id = g.entity where g.person = p.id) as entities`;
/** Whoever may come in. */
const IN = 'p.removed_at is null and p.suspended_at is null';

export async function personByEmail(db: Db, email: string): Promise<PersonRow | null> {
  const [row] = await rowsOf<PersonRow>(db, 'select * from person where email = ? and removed_at is null', [
    email.toLowerCase(),
  ]);
  return row ?? null;
}

/** Whose session it is, if it goes on; that it is used is written down once a minute at the most. */
export async function personOfSession(db: Db, idHash: string, idleMinutes: number): Promise<SeenPerson | null> {
  const [row] = await rowsOf<SeenPerson & { stale: boolean }>(
    db,
    `select ${SEEN}, s.seen_at as last_seen, s.seen_at < now() - interval '1 minute' as stale from session s join person p on p.id = s.person
     where s.id_hash = ? and s.expires_at > now() and s.seen_at > now() - make_interval(mins => ?) and ${IN}`,
    [idHash, idleMinutes],
  );
  if (row?.stale) await db.raw('update session set seen_at = now() where id_hash = ?', [idHash]);
  return row ?? null;
}

export async function personOfToken(db: Db, hash: string): Promise<SeenPerson | null> {
  const [row] = await rowsOf<SeenPerson & { stale: boolean }>(
    db,
    `select ${SEEN}, t.used_at as last_seen, coalesce(t.used_at < now() - interval '1 minute', true) as stale
     from token t join person p on p.id = t.person where t.hash = ? and t.expires_at > now() and ${IN}`,
    [hash],
  );
  if (row?.stale) await db.raw('update token set used_at = now() where hash = ?', [hash]);
  return row ?? null;
}

/** All who were not taken away, with when each was last there. */
export const listPeople = (db: Db): Promise<SeenPerson[]> => peopleWhere(db, 'true', []);

const peopleWhere = (db: Db, where: string, bindings: readonly unknown[]): Promise<SeenPerson[]> =>
  rowsOf(
    db,
    `select ${SEEN}, greatest((select max(seen_at) from session s where s.person = p.id), (select max(used_at) from token t where t.person = p.id)) as last_seen
     from person p where p.removed_at is null and ${where} order by p.name`,
    bindings,
  );

/** Somebody who was not taken away. */
export const personById = async (db: Db, id: number): Promise<SeenPerson | null> =>
  (await peopleWhere(db, 'p.id = ?', [id]))[0] ?? null;

export async function insertPerson(
  db: Db,
  person: Omit<PersonRow, 'id' | 'suspended_at'>,
  entities: string[] | null,
): Promise<number | null> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    `insert into person (email, name, role, password_hash, members, accounts) values (?, ?, ?, ?, ?::jsonb, ?)
     on conflict (email) where removed_at is null do nothing returning id`,
    [
      person.email.toLowerCase(),
      person.name,
      person.role,
      person.password_hash,
      JSON.stringify(person.members),
      person.accounts,
    ],
  );
  if (!row) return null;
  await grantEntities(db, row.id, entities);
  return row.id;
}

async function grantEntities(db: Db, person: number, entities: string[] | null): Promise<void> {
  await db('person_entity').where({ person }).delete();
  if (entities)
    await db.raw('insert into person_entity (person, entity) select ?, id from entity where code = any(?)', [
      person,
      entities,
    ]);
}

export async function updatePerson(
  db: Db,
  id: number,
  { entities, members, ...person }: Omit<PersonRow, 'id' | 'email' | 'password_hash'> & { entities: string[] | null },
) {
  await db('person')
    .where({ id })
    .update({ ...person, members: JSON.stringify(members) });
  await grantEntities(db, id, entities);
}

/** What was written keeps its author; everything by which one comes in goes. */
export async function removePerson(db: Db, id: number): Promise<void> {
  await db('person').where({ id }).update({ removed_at: new Date() });
  for (const table of ['session', 'token', 'password_reset']) await db(table).where({ person: id }).delete();
}

export const setPassword = (db: Db, id: number, password_hash: string): Promise<unknown> =>
  db('person').where({ id }).update({ password_hash, password_at: new Date() });

export const countPeople = async (db: Db): Promise<number> =>
  (await rowsOf<{ n: number }>(db, 'select count(*)::integer as n from person'))[0]?.n ?? 0;

/** What was tried for one e-mail, from one place and from everywhere. */
export interface Tries {
  /** Since the last right one, or within an hour. */
  failedHere: number;
  /** Seconds since the last of them. */
  secondsSince: number;
  secondsSinceFirst: number;
  /** Within an hour, from everywhere. */
  failedAnywhere: number;
  /** Whether the person has come in from there within ninety days. */
  familiar: boolean;
}

export async function triesOf(db: Db, email: string, place: string): Promise<Tries> {
  const [row] = await rowsOf<Tries>(
    db,
    `select count(*) filter (where address = ? and not right_one)::integer as "failedHere",
       coalesce(extract(epoch from now() - max(at) filter (where address = ? and not right_one)), 1e9)::float8 as "secondsSince",
       coalesce(extract(epoch from now() - min(at) filter (where address = ? and not right_one)), 0)::float8 as "secondsSinceFirst",
       count(*) filter (where not right_one)::integer as "failedAnywhere",
       exists (select 1 from sign_in_attempt where email = ? and address = ? and right_one and at > now() - interval '90 days') as familiar
     from sign_in_attempt where email = ? and at > now() - interval '1 hour'`,
    [place, place, place, email, place, email],
  );
  return row as Tries;
}

/** @returns the number of the try, which counts as failed until it is said to be right */
export async function insertTry(db: Db, email: string, place: string): Promise<number> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    'insert into sign_in_attempt (email, address) values (?, ?) returning id',
    [email, place],
  );
  return (row as { id: number }).id;
}

/** A right try lets the wrong ones before it from the same place be forgotten. */
export async function tryWasRight(db: Db, id: number, email: string, place: string): Promise<void> {
  await db('sign_in_attempt').where({ id }).update({ right_one: true });
  await db.raw(
    `delete from sign_in_attempt where (email = ? and address = ? and not right_one) or (not right_one and at < now() - interval '1 day') or at < now() - interval '90 days'`,
    [email, place],
  );
}

export const insertSession = (
  db: Db,
  s: { id_hash: string; person: number; hours: number; address: string; agent: string },
): Promise<unknown> =>
  db.raw(
    'insert into session (id_hash, person, expires_at, address, agent) values (?, ?, now() + make_interval(hours => ?), ?, ?)',
    [s.id_hash, s.person, s.hours, s.address, s.agent],
  );

export const deleteSession = (db: Db, idHash: string): Promise<number> =>
  db('session').where({ id_hash: idHash }).delete();

export interface SessionRow {
  id: number;
  id_hash: string;
  address: string;
  agent: string;
  created_at: Date;
  seen_at: Date;
  expires_at: Date;
}

export const sessionsOf = (db: Db, person: number, idleMinutes: number): Promise<SessionRow[]> =>
  rowsOf(
    db,
    'select * from session where person = ? and expires_at > now() and seen_at > now() - make_interval(mins => ?) order by seen_at desc',
    [person, idleMinutes],
  );

/** @param but the session that goes on */
export const endSessions = (db: Db, person: number, but: string | null = null): Promise<number> =>
  db('session')
    .where({ person })
    .whereNot({ id_hash: but ?? '' })
    .delete();

export const endSession = (db: Db, person: number, id: number): Promise<number> =>
  db('session').where({ person, id }).delete();

export interface TokenRow {
  id: number;
  name: string;
  created_at: Date;
  expires_at: Date;
  used_at: Date | null;
}

export async function insertToken(
  db: Db,
  t: { hash: string; person: number; name: string; days: number },
): Promise<TokenRow> {
  const [row] = await rowsOf<TokenRow>(
    db,
    'insert into token (hash, person, name, expires_at) values (?, ?, ?, now() + make_interval(days => ?)) returning id, name, created_at, expires_at, used_at',
    [t.hash, t.person, t.name, t.days],
  );
  return row as TokenRow;
}

export const tokensOf = (db: Db, person: number): Promise<TokenRow[]> =>
  rowsOf(db, 'select id, name, created_at, expires_at, used_at from token where person = ? order by id', [person]);

/** @param id null: all of them @returns the names of those that went */
export async function deleteTokens(db: Db, person: number, id: number | null): Promise<string[]> {
  const rows = (await db('token')
    .where({ person, ...(id === null ? {} : { id }) })
    .delete()
    .returning('name')) as { name: string }[];
  return rows.map((r) => r.name);
}

export const insertReset = (db: Db, r: { hash: string; person: number; hours: number }): Promise<unknown> =>
  db.raw('insert into password_reset (hash, person, expires_at) values (?, ?, now() + make_interval(hours => ?))', [
    r.hash,
    r.person,
    r.hours,
  ]);

/** Takes a link up, which then is there no longer, nor any other of the same person. @returns whose it was */
export async function takeReset(db: Db, hash: string): Promise<PersonRow | null> {
  const [row] = await rowsOf<PersonRow>(
    db,
    `select p.* from password_reset r join person p on p.id = r.person
     where r.hash = ? and r.expires_at > now() and p.removed_at is null for update of r`,
    [hash],
  );
  if (row) await db('password_reset').where({ person: row.id }).delete();
  return row ?? null;
}

/** The first owner who may come in. */
export const firstOwner = async (db: Db): Promise<{ id: number; name: string; email: string } | undefined> =>
  (
    await rowsOf<{ id: number; name: string; email: string }>(
      db,
      `select p.id, p.name, p.email from person p where p.role = 'owner' and ${IN} order by p.id limit 1`,
    )
  )[0];

const TRIES_LOCK = 7_240_004;
/** Tries for one e-mail from one place are counted one after the other. */
export const takeTriesLock = (db: Db, email: string, place: string): Promise<unknown> =>
  db.raw('select pg_advisory_xact_lock(?, hashtext(?))', [TRIES_LOCK, `${email}\n${place}`]);

/** Sessions that have ended, or with which nothing was asked for long. */
export const clearSessions = (db: Db, idleMinutes: number): Promise<unknown> =>
  db.raw('delete from session where expires_at < now() or seen_at < now() - make_interval(mins => ?)', [idleMinutes]);
