import { createHmac } from 'node:crypto';
import knex, { type Knex } from 'knex';
import { connectForWork, rowsOf } from './db';

/**
 * The roles under which the parts of the product meet the database. Whoever answers requests owns nothing, may change no
 * line, and may only read the record of who did what and add to it; loads have a role that owns the books, and
 * migrations one that owns all else. None of them is a superuser.
 */
export const ROLES = { schema: 'just_thread_schema', work: 'just_thread_work', web: 'just_thread_web' } as const;
export type RoleName = keyof typeof ROLES;

/** What a load lays down: owned by the role of loads, only read by whoever answers requests. */
const BOOKS = [
  'account',
  'dimension',
  'member',
  'account_status',
  'counterparty',
  'journal',
  'ledger_user',
  'entry',
  'line',
  'holding',
  'balance_period',
  'balance_day',
  'balance_member',
  'budget',
  'commitment',
  'document',
  'document_link',
  'document_line',
  'document_control',
  'attachment',
  'rate',
  'tax_code',
  'scheme_caption',
  'cash_books',
  'cash_entry',
  'cash_gap',
  'load_problem',
  'load_total',
  'load_check',
  'load_digest',
  'books_change',
  'column_part',
  'file_text',
  'proposed_books',
];
/** Partitions of the lines, which come with companies and years. */
const PARTITION = '^line_e[0-9]+(_[0-9]+|)$';

/** What requests change of the books themselves: names that are mended, and the register of bank accounts. */
const MENDED: Record<string, string> = {
  account: 'update',
  member: 'update',
  holding: 'insert, update, delete',
  frozen: 'insert',
};

/** What people write, which a load only reads. */
const PEOPLE_WRITE = [
  'report',
  'overview',
  'embed',
  'paper_template',
  'report_version',
  'pack',
  'person',
  'person_entity',
  'session',
  'token',
  'password_reset',
  'sign_in_attempt',
  'preference',
  'kept_scope',
  'kept_scope_at_hand',
  'sharing',
  'identity',
  'evidence',
  'note',
  'pin',
  'tick',
  'file',
  'point',
  'question',
  'finding',
  'sample',
  'sample_item',
  'expectation',
  'proposed_set',
  'proposed_template',
  'materiality',
  'judgement',
  'ignored',
  'mention',
  'thread',
  'sign_off',
  'cross_reference',
  'second_factor',
  'step',
  'former_words',
  'outline',
  'setting',
];
/** What both write: the queue of loads, and what is around it. */
const BOTH_WRITE = [
  'taken_out',
  'schedule',
  'schedule_run',
  'entity',
  'load',
  'mapping',
  'connection',
  'job',
  'kept_file',
  'pin_drift',
  'evidence_moved',
  'proposed',
  'run',
  'hit',
  'mail',
  'catalogue_change',
];

/** The address under which a role connects; its password is made of the given address's own and kept nowhere. */
export function urlOf(role: RoleName, given: string): string {
  const url = new URL(given);
  url.password = createHmac('sha256', decodeURIComponent(url.password)).update(ROLES[role]).digest('hex');
  url.username = ROLES[role];
  return url.href;
}

export interface Addresses {
  schema: string;
  work: string;
  web: string;
  /** Whether each has a role of its own. */
  apart: boolean;
}

/**
 * Makes the roles where they are missing, and has their passwords follow the given address.
 * @param given address of a role that may make roles; of one that may not, everything connects as that one
 */
export async function makeRoles(given: string): Promise<Addresses> {
  const admin = connectForWork(given);
  try {
    const [me] = await rowsOf<{ may: boolean; database: string }>(
      admin,
      'select rolsuper or rolcreaterole as may, current_database() as database from pg_roles where rolname = current_user',
    );
    if (!me?.may) return { schema: given, work: given, web: given, apart: false };
    const there = await rowsOf<{ rolname: string }>(admin, 'select rolname from pg_roles where rolname = any(?)', [
      Object.values(ROLES),
    ]);
    const missing = (Object.keys(ROLES) as RoleName[]).filter((role) => !there.some((r) => r.rolname === ROLES[role]));
    for (const role of missing) await made(admin, role, given);
    if (missing.length > 0) await admin.raw(`grant ${ROLES.work} to ${ROLES.schema}`);
    const addresses = {
      schema: urlOf('schema', given),
      work: urlOf('work', given),
      web: urlOf('web', given),
      apart: true,
    };
    if (missing.length === 0 && !(await letIn(addresses.schema)))
      for (const role of Object.keys(ROLES) as RoleName[])
        await admin.raw(`alter role ${ROLES[role]} password '${new URL(urlOf(role, given)).password}'`);
    // The queue of the work has a schema of its own, which belongs to the role that works.
    await admin.raw(
      `grant create, temporary, connect on database "${me.database.replaceAll('"', '""')}" to ${ROLES.schema}, ${ROLES.work}`,
    );
    return addresses;
  } finally {
    await admin.destroy();
  }
}

const ALREADY_THERE = new Set(['42710', '23505', 'XX000']);

/** Two that start at once make a role twice: the second finds it there. */
async function made(admin: Knex, role: RoleName, given: string): Promise<void> {
  const password = new URL(urlOf(role, given)).password;
  try {
    await admin.raw(
      `create role ${ROLES[role]} login nosuperuser nocreatedb nocreaterole noreplication nobypassrls password '${password}'`,
    );
  } catch (error) {
    if (!ALREADY_THERE.has((error as { code?: string }).code ?? '')) throw error;
  }
}

const WRONG_PASSWORD = '28P01';

async function letIn(url: string): Promise<boolean> {
  const db = knex({ client: 'pg', connection: url, pool: { min: 0, max: 1 } });
  try {
    await db.raw('select 1');
    return true;
  } catch (error) {
    if ((error as { code?: string }).code === WRONG_PASSWORD) return false;
    throw error;
  } finally {
    await db.destroy();
  }
}

/** Gives every table and function to the role that it belongs to; those that are right already are left alone. */
export async function giveOwners(given: string): Promise<void> {
  await asAdmin(given, async (admin) => {
    await admin.raw(`alter schema public owner to ${ROLES.schema}`);
    const wrong = await rowsOf<{ name: string; kind: string; owner: string }>(
      admin,
      `select * from (
         select c.relname as name, c.relkind::text as kind, pg_get_userbyid(c.relowner) as has,
           case when c.relname = any(?) or c.relname ~ '${PARTITION}' then ? else ? end as owner
         from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p', 'S')
           and not exists (select from pg_depend d where d.objid = c.oid and d.deptype in ('i', 'a') and c.relkind = 'S')) c
       where has <> owner`,
      [BOOKS, ROLES.work, ROLES.schema],
    );
    for (const { name, kind, owner } of wrong)
      await admin.raw(`alter ${kind === 'S' ? 'sequence' : 'table'} "${name}" owner to ${owner}`);
    const functions = await rowsOf<{ name: string; has: string }>(
      admin,
      `select oid::regprocedure::text as name, pg_get_userbyid(proowner) as has from pg_proc where pronamespace = 'public'::regnamespace`,
    );
    for (const { name, has } of functions) {
      const owner = /^(open_books|enqueue|open_proposed|proposed_sums|lay_proposed|lift_proposed)\(/.test(name)
        ? ROLES.work
        : ROLES.schema;
      if (has !== owner) await admin.raw(`alter function ${name} owner to ${owner}`);
    }
  });
}

/** Says what each role may do. Whatever is not said here is refused. */
export async function grantRights(given: string): Promise<void> {
  const both = `${ROLES.web}, ${ROLES.work}`;
  await asAdmin(given, async (admin) => {
    await admin.raw(`
      revoke all on schema public from public;
      grant usage on schema public to ${both};
      grant create on schema public to ${ROLES.work};
      revoke all on all tables in schema public from ${ROLES.web};
      grant select on all tables in schema public to ${both};
      grant usage, select on all sequences in schema public to ${both};
      alter default privileges for role ${ROLES.work} in schema public grant select on tables to ${ROLES.web};
      alter default privileges for role ${ROLES.schema} in schema public grant select on tables to ${both};
      grant insert on record to ${both};
      grant insert, update, delete on ${PEOPLE_WRITE.join(', ')} to ${ROLES.web};
      grant insert, update, delete on ${BOTH_WRITE.join(', ')} to ${both};
      grant insert, update, delete on worker to ${ROLES.work};
      ${Object.entries(MENDED)
        .map(([table, acts]) => `grant ${acts} on ${table} to ${ROLES.web};`)
        .join('\n')}
      grant execute on function open_books(smallint), enqueue(integer, text, text), open_proposed(integer, smallint),
        lay_proposed(smallint, integer, text, text, jsonb), lift_proposed(integer, integer) to ${both}`);
  });
}

async function asAdmin(given: string, act: (admin: Knex) => Promise<void>): Promise<void> {
  const admin = connectForWork(given);
  try {
    await act(admin);
  } finally {
    await admin.destroy();
  }
}
