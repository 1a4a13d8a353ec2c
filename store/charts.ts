import type { AccountType } from '@/core/ledger';
import { type Db, rowsOf } from './db';

/** An account with all its attributes, as loaded. */
export interface AccountRecord {
  entity: number;
  code: string;
  name: string;
  names: Record<string, string>;
  type: AccountType;
  parent: string | null;
  posting: boolean;
  status: string;
  normal: string;
  flow: string | null;
  groups: string[];
  classification: string | null;
  currency: string | null;
  created_at: string | null;
  created_by: string | null;
  codes: Record<string, string>;
  dim_rules: Record<string, 'required' | 'forbidden'>;
}

const BATCH_ROWS = 500;

export async function upsertAccounts(db: Db, accounts: (AccountRecord & { id?: number })[]): Promise<void> {
  for (let at = 0; at < accounts.length; at += BATCH_ROWS) {
    const rows = accounts.slice(at, at + BATCH_ROWS).map((a) => ({
      ...a,
      names: JSON.stringify(a.names),
      codes: JSON.stringify(a.codes),
      dim_rules: JSON.stringify(a.dim_rules),
    }));
    await db('account').insert(rows).onConflict(['entity', 'code']).merge();
  }
}

/** An account id to be used before the account itself is inserted. */
export async function reserveAccountId(db: Db): Promise<number> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    `select nextval(pg_get_serial_sequence('account', 'id'))::integer as id`,
  );
  return (row as { id: number }).id;
}

/** Inserts accounts under reserved ids. */
export async function insertReserved(db: Db, accounts: (AccountRecord & { id: number })[]): Promise<void> {
  for (const a of accounts) {
    await db.raw(
      `insert into account (id, entity, code, name, type, parent, posting, status, normal, classification)
       overriding system value values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [
        a.id,
        a.entity,
        a.code,
        a.name,
        a.type,
        a.parent as string,
        a.posting,
        a.status,
        a.normal,
        a.classification as string,
      ],
    );
  }
}

/** Ids of the accounts of those entities that any line was ever booked on. */
export async function accountsWithLines(db: Db, entities: number[]): Promise<Set<number>> {
  const rows = await rowsOf<{ account: number }>(
    db,
    'select distinct account from balance_period where entity = any(?)',
    [entities],
  );
  return new Set(rows.map((r) => r.account));
}

/** A change of an account's status by a load. */
export interface StatusChange {
  load: number;
  entity: number;
  code: string;
  was: string;
  status: string;
}

export async function noteStatuses(db: Db, changes: readonly StatusChange[]): Promise<void> {
  for (let at = 0; at < changes.length; at += BATCH_ROWS)
    await db('account_status').insert(changes.slice(at, at + BATCH_ROWS));
}

/** Changes of the status of accounts, oldest first. */
export const statusChanges = (db: Db, entities: readonly number[]): Promise<(StatusChange & { at: Date })[]> =>
  rowsOf(
    db,
    'select load, entity, code, was, status, at from account_status where entity = any(?::smallint[]) order by id',
    [entities as number[]],
  );

export interface MemberRecord {
  code: string;
  name: string;
  names: Record<string, string>;
  parent: string | null;
  valid_from: string | null;
  valid_to: string | null;
  groups: string[];
}

/** @param name null keeps the name that is there, or makes one of the code */
export async function upsertDimension(
  db: Db,
  code: string,
  name: string | null,
): Promise<{ id: number; slot: number; isNew: boolean }> {
  const [before] = await rowsOf<{ id: number; slot: number }>(db, 'select id, slot from dimension where code = ?', [
    code,
  ]);
  if (before) {
    if (name) await db('dimension').where({ id: before.id }).update({ name });
    return { ...before, isNew: false };
  }
  const words = code.replace(/[_-]+/g, ' ');
  const [added] = await rowsOf<{ id: number; slot: number }>(
    db,
    'insert into dimension (code, name, slot) select ?, ?, coalesce(max(slot), 0) + 1 from dimension returning id, slot',
    [code, name ?? words.charAt(0).toUpperCase() + words.slice(1)],
  );
  return { ...(added as { id: number; slot: number }), isNew: true };
}

export async function upsertMembers(db: Db, dimension: number, members: MemberRecord[]): Promise<void> {
  for (let at = 0; at < members.length; at += BATCH_ROWS) {
    const rows = members.slice(at, at + BATCH_ROWS).map((m) => ({ ...m, dimension, names: JSON.stringify(m.names) }));
    await db('member').insert(rows).onConflict(['dimension', 'code']).merge();
  }
}

export type ChartAccount = AccountRecord & { id: number };
export type ChartMember = MemberRecord & { id: number; dimension: number };

/** The chart of an entity with every attribute, by code. */
export const readChart = (db: Db, entity: number): Promise<ChartAccount[]> =>
  rowsOf(
    db,
    `select id, entity, code, name, names, type, parent, posting, status, normal, flow, groups, classification, currency, created_at, created_by,
       codes, dim_rules from account where entity = ? order by code collate "C"`,
    [entity],
  );

/** All members with every attribute, by dimension and code. */
export const readMembers = (db: Db): Promise<ChartMember[]> =>
  rowsOf(
    db,
    'select id, dimension, code, name, names, parent, valid_from, valid_to, groups from member order by dimension, code collate "C"',
  );

/** Puts a name in place of the one that is there, or takes it away. @param language null: the account's own name */
export async function renameAccount(db: Db, id: number, language: string | null, name: string | null): Promise<void> {
  if (language === null) await db.raw('update account set name = ? where id = ?', [name as string, id]);
  else if (name === null) await db.raw('update account set names = names - ?::text where id = ?', [language, id]);
  else
    await db.raw('update account set names = names || jsonb_build_object(?::text, ?::text) where id = ?', [
      language,
      name,
      id,
    ]);
}

/** The same for a member of a dimension. */
export async function renameMember(db: Db, id: number, language: string | null, name: string | null): Promise<void> {
  if (language === null) await db.raw('update member set name = ? where id = ?', [name as string, id]);
  else if (name === null) await db.raw('update member set names = names - ?::text where id = ?', [language, id]);
  else
    await db.raw('update member set names = names || jsonb_build_object(?::text, ?::text) where id = ?', [
      language,
      name,
      id,
    ]);
}

/** Ids of an entity's accounts by code, those that a load in this transaction has just added among them. */
export const accountIds = async (db: Db, entity: number): Promise<Map<string, number>> =>
  new Map(
    (await rowsOf<{ id: number; code: string }>(db, 'select id, code from account where entity = ?', [entity])).map(
      (a) => [a.code, a.id],
    ),
  );
