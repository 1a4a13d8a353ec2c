import { join } from 'node:path';
import type { Knex } from 'knex';
import { ACCOUNT_TYPES, type AccountType } from '@/core/ledger';
import { Problems } from '@/exchange/problem';
import { type CatalogueAccount, readCatalogue } from '@/store/catalogue';
import { type AccountRecord, insertReserved, reserveAccountId } from '@/store/charts';
import type { Db } from '@/store/db';
import { layStaged, replacePeriods } from '@/store/layers';
import { type LoadRow, nextLoad, readLoad, takeLoadLock, tidyAfterLoad, updateLoad } from '@/store/loads';
import { addToRecord } from '@/store/record';
import { loadAccounts } from './loadAccounts';
import { loadDimensions } from './loadDimensions';
import type { LoadJob } from './loadJob';
import { stageLines } from './loadLines';

/** How often, at the most, progress is written down. */
const PROGRESS_EVERY_MS = 250;
/** Share of the progress bar that reading takes; the rest is laying down. */
const READING_SHARE = 0.7;

/**
 * Runs the oldest load that waits, all or nothing: whatever goes wrong, no figure changes and the load says why.
 * A load that a stopped server left in the middle is begun again.
 * @param db a pool for long work
 * @param files folder in which uploaded files are kept by their digest
 * @returns the load that was run, or null if none waits or another process is at it
 */
export async function runNextLoad(db: Knex, files: string): Promise<number | null> {
  const waiting = await nextLoad(db);
  if (!waiting) return null;
  const problems = new Problems();
  let ran = false;
  try {
    await db.transaction(async (trx) => {
      if (!(await takeLoadLock(trx))) return;
      const load = await readLoad(trx, waiting.id);
      if (!load || (load.status !== 'queued' && load.status !== 'reading')) return;
      ran = true;
      await updateLoad(db, load.id, { status: 'reading', progress: 0 });
      await loadWithin(trx, db, load, join(files, load.file_digest), problems);
      if (problems.count > 0) throw new Refused();
    });
  } catch (error) {
    if (error instanceof Refused) await refuse(db, waiting, problems, null);
    else await refuse(db, waiting, problems, `the load stopped: ${(error as Error).message}`);
  }
  if (!ran) return null;
  const done = await readLoad(db, waiting.id);
  if (done?.status === 'loaded' && done.kind === 'lines') {
    const catalogue = await readCatalogue(db);
    await tidyAfterLoad(
      db,
      [...catalogue.entities.values()].map((e) => e.id),
    );
  }
  return waiting.id;
}

class Refused extends Error {}

async function loadWithin(trx: Knex.Transaction, outside: Knex, load: LoadRow, path: string, problems: Problems): Promise<void> {
  const catalogue = await readCatalogue(trx);
  const created: (AccountRecord & { id: number })[] = [];
  const job: LoadJob = {
    id: load.id,
    path,
    entity: [...catalogue.entities.values()].find((e) => e.id === load.entity) ?? null,
    catalogue,
    replaces: load.replaces_from === null ? null : { from: load.replaces_from, to: load.replaces_to as number },
    outside,
    onBytes: progressOf(outside, load),
    createAccounts: load.options.unknownAccounts === 'create',
    createAccount: async (entity, code, values, fault) => {
      const type = (values.account_type || 'asset').toLowerCase();
      if (!ACCOUNT_TYPES.includes(type as AccountType)) {
        fault('account_type', `“${values.account_type}” is no account type; it is one of ${ACCOUNT_TYPES.join(', ')}`);
        return null;
      }
      const account = newAccount(await reserveAccountId(outside), entity.id, code, values.account_name || code, type as AccountType, load.id);
      created.push(account);
      const known: CatalogueAccount = { ...account, dimRules: {} };
      (entity.accounts as Map<string, CatalogueAccount>).set(code, known);
      return known;
    },
  };
  if (load.kind === 'accounts') await finish(trx, load, { lines: await loadAccounts(trx, job, problems), entries: 0 }, 0);
  else if (load.kind === 'dimensions') await finish(trx, load, { lines: await loadDimensions(trx, job, problems), entries: 0 }, 0);
  else {
    const replaced = job.replaces && job.entity ? await replacePeriods(trx, load.id, job.entity.id, job.replaces.from, job.replaces.to) : 0;
    await stageLines(trx, job, problems);
    if (problems.count > 0) return;
    await insertReserved(trx, created);
    await updateLoad(outside, load.id, { progress: READING_SHARE });
    await finish(trx, load, await layStaged(trx, load.id), replaced);
  }
}

async function finish(trx: Db, load: LoadRow, counts: { lines: number; entries: number }, replaced: number): Promise<void> {
  await updateLoad(trx, load.id, { ...counts, replaced, status: 'loaded', progress: 1, finished_at: new Date() });
  await addToRecord(trx, {
    person: load.person,
    personName: load.person_name,
    act: 'loaded',
    subject: `load ${load.id}`,
    detail: { file: load.file_name, digest: load.file_digest, kind: load.kind, ...counts, replaced },
  });
}

async function refuse(db: Knex, load: LoadRow, problems: Problems, message: string | null): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('load_problem').where({ load: load.id }).delete();
    const rows = problems.kept.map((p, at) => ({ load: load.id, at, row: p.row, column_name: p.column, value: p.value, message: p.message }));
    if (rows.length > 0) await trx.batchInsert('load_problem', rows, 500);
    await updateLoad(trx, load.id, {
      status: 'refused',
      problem_count: problems.count,
      finished_at: new Date(),
      message: message ?? `refused: ${problems.count} ${problems.count === 1 ? 'problem' : 'problems'}, nothing was loaded`,
    });
    await addToRecord(trx, {
      person: load.person,
      personName: load.person_name,
      act: 'load refused',
      subject: `load ${load.id}`,
      detail: { file: load.file_name, digest: load.file_digest, problems: problems.count, message },
    });
  });
}

function progressOf(db: Knex, load: LoadRow): (bytes: number) => void {
  let read = 0;
  let written = Date.now();
  return (bytes) => {
    read += bytes;
    if (Date.now() - written < PROGRESS_EVERY_MS) return;
    written = Date.now();
    const progress = (READING_SHARE * read) / Math.max(1, load.file_bytes);
    // Progress that cannot be written is no reason to stop a load.
    void updateLoad(db, load.id, { progress }).catch(() => {});
  };
}

const newAccount = (id: number, entity: number, code: string, name: string, type: AccountType, load: number): AccountRecord & { id: number } => ({
  id,
  entity,
  code,
  name,
  names: {},
  type,
  parent: null,
  posting: true,
  status: 'active',
  normal: type === 'asset' || type === 'expense' ? 'debit' : 'credit',
  flow: null,
  groups: [],
  classification: `created by load ${load}`,
  currency: null,
  created_at: null,
  created_by: null,
  codes: {},
  dim_rules: {},
});
