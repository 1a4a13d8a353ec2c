import { join } from 'node:path';
import type { Knex } from 'knex';
import type { LoadKind } from '@/contracts/mapping';
import { ACCOUNT_TYPES, type AccountType } from '@/core/ledger';
import { exponentOf, formatAmount } from '@/core/money';
import { archiveMember, archiveNames } from '@/exchange/archive';
import type { FileShelf } from '@/exchange/fileShelf';
import { Problems } from '@/exchange/problem';
import { recognise } from '@/exchange/recognise';
import { UnreadableFile } from '@/exchange/source';
import { cashBooks } from '@/store/cashBasis';
import { byBooks, type CatalogueAccount, readCatalogue } from '@/store/catalogue';
import { type AccountRecord, insertReserved, reserveAccountId } from '@/store/charts';
import { advance, failed } from '@/store/connections';
import type { Db } from '@/store/db';
import { keepChecks } from '@/store/deliveries';
import { findControlAccounts } from '@/store/documents';
import { endJobsOf } from '@/store/jobs';
import { layStaged, replacePeriods } from '@/store/layers';
import {
  type LoadRow,
  loadSubject,
  nextLoad,
  noteProgress,
  readLoad,
  replaceProblems,
  takeLoadLock,
  tidyAfterLoad,
  tidyBeside,
  updateLoad,
} from '@/store/loads';
import { keepMapping } from '@/store/mappings';
import { addToRecord } from '@/store/record';
import { Stage } from '@/store/stage';
import { connectionFault } from '../../asking/connectionFault';
import { followOnCashBasis } from '../../documents/cashBasis';
import { addJob } from '../../jobs/jobs';
import { recogniseBooked } from '../../proposals/recognise';
import { askTests } from '../../tests/byThemselves';
import { askCopies } from '../copyLines';
import { shapeOf } from '../fileShape';
import type { AccountMaker } from './fields';
import { loadAccounts } from './loadAccounts';
import { loadDimensions } from './loadDimensions';
import { loadDocumentLines } from './loadDocumentLines';
import type { LoadJob } from './loadJob';
import { stageLines } from './loadLines';
import {
  loadMasterFiles,
  newAccount,
  stageStatedOpenings,
  statedBalances,
  statedTotals,
  typeOf,
} from './loadMasterFiles';
import {
  type Laid,
  loadBudgets,
  loadCalendar,
  loadCommitments,
  loadDocuments,
  loadHoldings,
  loadRates,
  loadSchemes,
  loadTaxCodes,
} from './loadOthers';
import { loadParties } from './loadParties';
import { loadTrialBalance } from './loadTrialBalance';
import { quickLines } from './quickLines';

/** How often, at the most, progress is written down. */
const PROGRESS_EVERY_MS = 250;
/** Share of the progress bar that reading takes; the rest is laying down. */
const READING_SHARE = 0.7;

/**
 * Runs the oldest load that waits, all or nothing: whatever goes wrong, no figure changes and the load says why.
 * A load that a stopped server left in the middle is begun again.
 * @param db a pool for long work
 * @param files in which files that were sent are kept by their digest
 * @param onBegin told when the load is really begun: others may be at one before it
 * @returns the load that was run, or null if none waits or another process is at it
 */
export async function runNextLoad(
  db: Knex,
  files: FileShelf,
  onBegin: (load: number) => void = () => {},
): Promise<number | null> {
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
      onBegin(load.id);
      if (load.cancel_asked) throw new Cancelled(CANCELLED);
      const again =
        load.status === 'reading'
          ? { message: `the server stopped in the middle, at row ${load.rows_read}; begun again from the first row` }
          : {};
      await updateLoad(db, load.id, {
        status: 'reading',
        progress: 0,
        started_at: new Date(),
        rows_read: 0,
        problems_so_far: 0,
        ...again,
      });
      const stage = await Stage.open(join(files.folder, '..', 'stage'));
      try {
        await loadWithin(trx, stage, db, load, files, problems);
      } finally {
        await stage.close();
      }
      if (problems.count > 0) throw new Refused();
    });
  } catch (error) {
    if (error instanceof UnreadableFile) problems.add(error.row, null, null, error.message);
    if (error instanceof Refused || error instanceof UnreadableFile) await refuse(db, waiting, problems, null);
    else if (error instanceof Cancelled) await refuse(db, waiting, problems, error.message);
    // A database that is not there refuses nothing: the load is begun again when it is back.
    else if (connectionFault(error)) throw error;
    else await refuse(db, waiting, problems, `the load stopped: ${(error as Error).message}`);
  }
  if (!ran) return null;
  const done = await readLoad(db, waiting.id);
  if (done?.status === 'loaded') await tidyAfter(db, done.kind);
  return waiting.id;
}

class Refused extends Error {}
class Cancelled extends Error {}
const CANCELLED = 'cancelled, nothing was loaded';

/** Gives the database what it needs of the tables that a load has changed. */
async function tidyAfter(db: Knex, kind: LoadKind): Promise<void> {
  if (kind === 'lines') return tidyAfterLoad(db, [...byBooks(await readCatalogue(db)).keys()]);
  await tidyBeside(db);
  // Documents change lines where a company keeps a cash basis.
  const kept = kind === 'documents' ? await cashBooks(db) : [];
  if (kept.length > 0)
    await tidyAfterLoad(
      db,
      kept.map(({ books }) => books),
    );
}

/** Refuses a load whose process was ended in the middle. What it had laid down went with its transaction. */
export async function refuseBrokenOff(
  db: Knex,
  id: number,
  reason: string,
  state: 'refused' | 'put aside',
): Promise<void> {
  const load = await readLoad(db, id);
  if (load?.status === 'queued' || load?.status === 'reading')
    await refuse(db, load, new Problems(), `refused: ${reason}; nothing was loaded`, state);
}

async function loadWithin(
  trx: Knex.Transaction,
  stage: Stage,
  outside: Knex,
  load: LoadRow,
  files: FileShelf,
  problems: Problems,
): Promise<void> {
  const job = await jobOf(trx, outside, load, files, problems);
  await lookAhead(job, load);
  switch (load.kind) {
    case 'lines':
      return loadLedger(trx, stage, job, load, problems);
    case 'accounts':
      return finish(trx, load, { lines: await loadAccounts(trx, job, problems), entries: 0 }, 0);
    case 'dimensions':
      return finish(trx, load, { lines: await loadDimensions(trx, job, problems), entries: 0 }, 0);
    case 'parties':
      return finish(trx, load, { lines: await loadParties(trx, job, problems), entries: 0 }, 0);
    case 'trial-balance':
      return finish(trx, load, await loadTrialBalance(trx, stage, job, problems, load.options.use), 0);
    default: {
      const laid = await other(load.kind, trx, job, problems, files);
      return finish(trx, load, { lines: laid.lines, entries: 0 }, laid.replaced);
    }
  }
}

function other(
  kind: Exclude<LoadKind, 'lines' | 'accounts' | 'dimensions' | 'parties' | 'trial-balance'>,
  trx: Db,
  job: LoadJob,
  problems: Problems,
  files: FileShelf,
): Promise<Laid> {
  switch (kind) {
    case 'budgets':
      return loadBudgets(trx, job, problems);
    case 'commitments':
      return loadCommitments(trx, job, problems);
    case 'rates':
      return loadRates(trx, job, problems);
    case 'documents':
      return loadDocuments(trx, job, problems, attachmentsOf(job.file.path, files));
    case 'document-lines':
      return loadDocumentLines(trx, job, problems);
    case 'calendar':
      return loadCalendar(trx, job, problems);
    case 'holdings':
      return loadHoldings(trx, job, problems);
    case 'tax-codes':
      return loadTaxCodes(trx, job, problems);
    case 'schemes':
      return loadSchemes(trx, job, problems);
  }
}

/** Journal lines, with the master files that a standard audit file has beside them. */
async function loadLedger(
  trx: Knex.Transaction,
  stage: Stage,
  job: LoadJob,
  load: LoadRow,
  problems: Problems,
): Promise<void> {
  const stated = job.file.format === 'saft' ? await loadMasterFiles(trx, job) : null;
  if (stated) job.catalogue = await readCatalogue(trx);
  if (stated && job.entity) job.entity = job.catalogue.entities.get(job.entity.code) ?? null;
  const created: (AccountRecord & { id: number })[] = [];
  const replaced =
    job.replaces && job.entity
      ? await replacePeriods(trx, load.id, job.entity.id, job.replaces.from, job.replaces.to)
      : 0;
  if (!(await quickLines(stage, job)))
    await stageLines(
      stage,
      job,
      problems,
      job.createAccounts ? accountMaker(job, created) : null,
      stated?.parties ?? new Map(),
    );
  const totals = stated ? await statedTotals(stage, job, stated) : [];
  for (const { what, stated: said, found } of totals) {
    if (said === found || load.options.ifStatedDiffers === 'load' || problems.count > 0) continue;
    const text = (n: number): string =>
      what === 'entries' ? String(n) : formatAmount(n, exponentOf(job.entity?.currency ?? 'XXX'));
    problems.add(
      null,
      null,
      text(said),
      `the file states ${text(said)} as its ${what}, what it holds comes to ${text(found)}; it is not complete`,
    );
  }
  if (problems.count > 0) return;
  const openings = stated ? await stageStatedOpenings(trx, stage, job, stated) : false;
  await insertReserved(trx, created);
  await updateLoad(job.outside, load.id, { progress: READING_SHARE });
  const laying = (share: number): void =>
    void noteProgress(job.outside, load.id, { progress: READING_SHARE + (1 - READING_SHARE) * share }).catch(() => {});
  const counts = await layStaged(trx, job.outside, stage, load.id, laying);
  await findControlAccounts(trx, load.id, 'lines');
  if (stated) await keepChecks(trx, load.id, [...totals, ...(await statedBalances(trx, job, stated, openings))]);
  await finish(trx, load, counts, replaced);
}

/** Accounts that lines name and no chart lists, made where the load says so. */
function accountMaker(job: LoadJob, created: (AccountRecord & { id: number })[]): AccountMaker {
  return async (entity, code, values, fault) => {
    const said = (values.account_type ?? '').toLowerCase();
    if (said !== '' && !ACCOUNT_TYPES.includes(said as AccountType)) {
      fault('account_type', `“${values.account_type}” is no account type; it is one of ${ACCOUNT_TYPES.join(', ')}`);
      return null;
    }
    if (/[,;*?]|\s/.test(code)) {
      fault('account', 'an account code holds no spaces, commas, semicolons, * or ?');
      return null;
    }
    const id = await reserveAccountId(job.outside);
    const account = {
      id,
      ...newAccount(
        entity,
        code,
        values.account_name || code,
        typeOf(values, code, job.file.format),
        `created by load ${job.id}`,
      ),
    };
    created.push(account);
    const known: CatalogueAccount = { ...account, dimRules: {} };
    (entity.accounts as Map<string, CatalogueAccount>).set(code, known);
    return known;
  };
}

async function jobOf(trx: Db, outside: Knex, load: LoadRow, files: FileShelf, problems: Problems): Promise<LoadJob> {
  const catalogue = await readCatalogue(trx);
  const watch = watchOf(outside, load, problems);
  return {
    id: load.id,
    file: {
      // What is nowhere is said by whoever opens it.
      path: (await files.pathOf(load.file_digest)) ?? join(files.folder, load.file_digest),
      kind: load.kind,
      format: load.format === 'unknown' ? null : load.format,
      mapping: load.mapping,
    },
    reading: {
      slots: new Map([...catalogue.dimensions.values()].map((d) => [d.slot, d.code])),
      onBytes: watch.onBytes,
    },
    entity: [...catalogue.entities.values()].find((e) => e.id === load.entity) ?? null,
    catalogue,
    replaces: load.replaces_from === null ? null : { from: load.replaces_from, to: load.replaces_to as number },
    inside: trx,
    outside,
    onRow: watch.onRow,
    onRows: watch.onRows,
    createAccounts: load.options.unknownAccounts === 'create',
    emptyCells: load.options.emptyCells ?? 'ask',
  };
}

/** Files that came in the same zip as the table of documents, kept by their content. */
function attachmentsOf(
  path: string,
  files: FileShelf,
): (name: string) => Promise<{ digest: string; bytes: number } | null> {
  let names: Promise<string[]> | null = null;
  const kept = new Map<string, { digest: string; bytes: number }>();
  return async (name) => {
    names ??= archiveNames(path).catch(() => []);
    const member = (await names).find((n) => n === name || n.endsWith(`/${name}`));
    if (!member) return null;
    const held = kept.get(member) ?? (await files.keep(await archiveMember(path, member)));
    kept.set(member, held);
    return held;
  };
}

/** Finds out what the file is, and keeps a mapping that was given a name for the next file of its shape. */
async function lookAhead(job: LoadJob, load: LoadRow): Promise<void> {
  const found = await recognise(job.file);
  job.file.format = found.format;
  if (load.format !== found.format) await updateLoad(job.outside, load.id, { format: found.format });
  if (found.format === 'saft' && !job.entity && load.kind !== 'dimensions' && load.kind !== 'parties')
    throw new UnreadableFile('name the entity whose audit file this is, and send it again');
  if (!load.mapping?.name) return;
  const { member: _member, ...reading } = load.mapping.reading ?? {};
  // The name of one file in a zip says nothing about the next.
  const mapping = { ...load.mapping, reading };
  await keepMapping(job.outside, {
    name: load.mapping.name,
    kind: load.kind,
    shape: shapeOf(found.header),
    mapping,
    person_name: load.person_name,
  });
}

async function finish(
  trx: Knex.Transaction,
  load: LoadRow,
  counts: { lines: number; entries: number },
  replaced: number,
): Promise<void> {
  await updateLoad(trx, load.id, { ...counts, replaced, status: 'loaded', progress: 1, finished_at: new Date() });
  if (load.kind === 'lines' || load.kind === 'documents') await followOnCashBasis(trx, load.id);
  if (load.options.connection) await advance(trx, load.options.connection, load.id);
  await addToRecord(trx, {
    person: load.person,
    personName: load.person_name,
    act: 'loaded',
    subject: loadSubject(load.id),
    detail: { file: load.file_name, digest: load.file_digest, kind: load.kind, ...counts, replaced },
  });
  await endJobsOf(trx, 'load', loadSubject(load.id), 'done', null);
  if (load.kind === 'lines') await recogniseBooked(trx, load);
  await askCopies(trx, load);
  if (load.kind === 'lines') await askTests(trx, load);
  for (const kind of ['seal', 'drift'] as const)
    await addJob(trx, {
      kind,
      subject: loadSubject(load.id),
      label: load.file_name,
      person: load.person,
      person_name: load.person_name,
      entities: null,
    });
}

async function refuse(
  db: Knex,
  load: LoadRow,
  problems: Problems,
  message: string | null,
  state: 'refused' | 'put aside' = 'refused',
): Promise<void> {
  const said =
    message ?? `refused: ${problems.count} ${problems.count === 1 ? 'problem' : 'problems'}, nothing was loaded`;
  await db.transaction(async (trx) => {
    const rows = problems.kept.map((p) => ({ row: p.row, column_name: p.column, value: p.value, message: p.message }));
    await replaceProblems(trx, load.id, rows);
    if (load.options.connection)
      await failed(trx, load.options.connection.id, `load ${load.id} was refused; see its problems`);
    await updateLoad(trx, load.id, {
      status: 'refused',
      problem_count: problems.count,
      finished_at: new Date(),
      message: said,
    });
    await endJobsOf(trx, 'load', loadSubject(load.id), message === CANCELLED ? 'cancelled' : state, said);
    await addToRecord(trx, {
      person: load.person,
      personName: load.person_name,
      act: 'load refused',
      subject: loadSubject(load.id),
      detail: { file: load.file_name, digest: load.file_digest, problems: problems.count, message },
    });
  });
}

/** Writes down how far a load is, and stops it if somebody asked for that. */
function watchOf(
  db: Knex,
  load: LoadRow,
  problems: Problems,
): { onBytes(bytes: number): void; onRow(): void; onRows(rows: number): void } {
  let read = 0;
  let rows = 0;
  let written = Date.now();
  let cancelled: string | null = null;
  const write = (): void => {
    written = Date.now();
    const progress = Math.min(READING_SHARE, (READING_SHARE * read) / Math.max(1, load.file_bytes));
    // Progress that cannot be written is no reason to stop a load.
    void noteProgress(db, load.id, { progress, rows_read: rows, problems_so_far: problems.count })
      .then((asked) => {
        if (asked) cancelled = CANCELLED;
      })
      .catch(() => {});
  };
  return {
    onBytes(bytes) {
      read += bytes;
    },
    onRow() {
      rows += 1;
      if (cancelled) throw new Cancelled(cancelled);
      if ((rows & 255) === 0 && Date.now() - written > PROGRESS_EVERY_MS) write();
    },
    onRows(more) {
      rows += more;
      if (cancelled) throw new Cancelled(cancelled);
      if (Date.now() - written > PROGRESS_EVERY_MS) write();
    },
  };
}
