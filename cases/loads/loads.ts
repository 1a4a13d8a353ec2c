import { createReadStream } from 'node:fs';
import type { Readable } from 'node:stream';
import type { Knex } from 'knex';
import type { NewLoadFields } from '@/contracts/bodies/all';
import { type Mapping, mappingSchema } from '@/contracts/mapping';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { parsePeriod, periodText } from '@/core/calendar';
import { exponentOf, formatAmount } from '@/core/money';
import { type Written, writeCsv } from '@/exchange/writers';
import { newestLoad } from '@/store/catalogue';
import { checksOf } from '@/store/deliveries';
import {
  askLoadToStop,
  insertLoad,
  type LoadOptions,
  listLoads,
  loadSubject,
  type NewLoad,
  problemsOf,
  readLoad,
  totalsOf,
} from '@/store/loads';
import { listMappings, mappingNamed } from '@/store/mappings';
import { type Context, known } from '../asking/context';
import { maySeeBooks, require, requireBooks, type Viewer } from '../asking/viewer';
import { addJob } from '../jobs/jobs';
import { seenPage } from '../jobs/seenPage';
import { type KeptFile, keptFile } from './keptFiles';

type LoadFields = Omit<NewLoadFields, 'mapping'> & { mapping?: string | Mapping | undefined };

/** Puts a kept file in the queue of loads. */
export async function queueLoad(
  ctx: Context,
  viewer: Viewer,
  file: KeptFile,
  fields: LoadFields,
  options: LoadOptions = {},
): Promise<number> {
  require(viewer, 'preparer', 'load data');
  const { catalogue } = await known(ctx.write);
  const entity = fields.entity === undefined ? null : catalogue.entities.get(fields.entity);
  if (entity === undefined) throw notFound(`Entity ${fields.entity}`);
  requireBooks(viewer, entity?.code ?? null, 'load data');
  const replaces = fields.replaces ? readRange(fields.replaces) : null;
  if (replaces && fields.kind !== 'lines') throw wrong('replaces', 'only a load of lines replaces periods');
  if (replaces && !entity) throw wrong('entity', 'name the entity whose periods this load replaces');
  const mapping = await mappingOf(ctx, fields.mapping);
  // What is in the file is found out by whoever reads it: nothing of it is opened here.
  const load: NewLoad = {
    entity: entity?.id ?? null,
    kind: fields.kind,
    format: fields.format ?? 'unknown',
    file_name: file.name,
    file_digest: file.digest,
    file_bytes: file.bytes,
    options: {
      ...options,
      ...(fields.unknownAccounts === 'create' ? { unknownAccounts: 'create' as const } : {}),
      ...(fields.use ? { use: fields.use } : {}),
      ...(fields.emptyCells === 'clear' || fields.emptyCells === 'keep' ? { emptyCells: fields.emptyCells } : {}),
      ...(fields.ifStatedDiffers === 'load' ? { ifStatedDiffers: 'load' as const } : {}),
    },
    mapping,
    replaces_from: replaces?.from ?? null,
    replaces_to: replaces?.to ?? null,
    person: viewer.id,
    person_name: viewer.name,
  };
  return ctx.write.transaction((trx) => addLoad(trx, load, entity?.code ?? null));
}

/** Adds a load that waits, and the job that will do it. */
export async function addLoad(trx: Knex.Transaction, load: NewLoad, entity: string | null): Promise<number> {
  const id = await insertLoad(trx, load);
  await addJob(trx, {
    kind: 'load',
    subject: loadSubject(id),
    label: load.file_name,
    person: load.person,
    person_name: load.person_name,
    entities: entity === null ? null : [entity],
  });
  return id;
}

/** A mapping as JSON text, as an object, or by the name under which it was kept. */
async function mappingOf(ctx: Context, wanted: string | Mapping | undefined): Promise<Mapping | null> {
  if (wanted === undefined) return null;
  if (typeof wanted !== 'string') return wanted;
  if (!wanted.trimStart().startsWith('{')) {
    const kept = await mappingNamed(ctx.write, wanted.trim());
    if (!kept) throw wrong('mapping', `there is no mapping named “${wanted}”`);
    return kept.mapping;
  }
  let raw: unknown;
  try {
    raw = JSON.parse(wanted);
  } catch {
    throw wrong('mapping', 'the mapping is no JSON');
  }
  const parsed = mappingSchema.safeParse(raw);
  if (parsed.success) return parsed.data;
  const [first] = parsed.error.issues;
  throw wrong('mapping', `mapping ${first?.path.join('.') ?? ''}: ${first?.message ?? 'cannot be used'}`);
}

/** Asks a load that waits or runs to stop. Whoever began it, or an owner, may. */
export async function cancelLoad(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const load = await readLoad(ctx.write, id);
  if (!load || (viewer.role !== 'owner' && load.person !== viewer.id)) throw notFound(`Load ${id}`);
  if (load.status === 'loaded' || load.status === 'refused')
    throw new ProblemError(409, `Load ${id} is done already; restate its periods to undo it`);
  await ctx.write.transaction((trx) => askLoadToStop(trx, id));
}

/** "2027.04 to 2027.05", "2027.04-2027.05" or one period. */
function readRange(text: string): { from: number; to: number } {
  const [from, to = from] = text.split(/\s+to\s+|\.\.|\s*[-–]\s*/).map((p) => parsePeriod(p.trim()));
  if (from == null || to == null)
    throw wrong('replaces', `“${text}” is no range of periods; write it as 2027.04 to 2027.05`);
  if (from > to) throw wrong('replaces', `“${text}” runs backwards`);
  return { from, to };
}

/** One load: how far it is, what came, and what was wrong. */
export async function showLoad(ctx: Context, viewer: Viewer, id: number) {
  const load = await readLoad(ctx.write, id);
  const { catalogue } = await known(ctx.write);
  const entity = [...catalogue.entities.values()].find((e) => e.id === load?.entity);
  if (!load || !maySeeBooks(viewer, entity?.code ?? null)) throw notFound(`Load ${id}`);
  const [totals, problems, checks] = await Promise.all([
    totalsOf(ctx.write, id),
    problemsOf(ctx.write, id),
    checksOf(ctx.write, id),
  ]);
  const digits = (code: string): number => exponentOf(catalogue.entities.get(code)?.currency ?? 'XXX');
  return {
    ...shownLoad(load, entity?.code ?? null),
    totals: totals.map((t) => ({
      entity: t.entity,
      period: periodText(t.period),
      lines: t.lines,
      debit: formatAmount(t.debit, digits(t.entity)),
      credit: formatAmount(t.credit, digits(t.entity)),
    })),
    stated:
      checks.length === 0
        ? null
        : checks.map((c) => ({
            what: c.what,
            entity: c.entity_code,
            account: c.account,
            period: c.period === null ? null : periodText(c.period),
            stated: c.what === 'entries' ? String(c.stated) : formatAmount(c.stated, digits(c.entity_code)),
            found: c.what === 'entries' ? String(c.found) : formatAmount(c.found, digits(c.entity_code)),
            ok: c.stated === c.found,
          })),
    mapping: load.mapping,
    problems: problems.map((p) => ({ row: p.row, column: p.column_name, value: p.value, message: p.message })),
  };
}

/** The load's file as it came. @throws ProblemError if the viewer may not see the load */
export async function loadedFile(
  ctx: Context,
  viewer: Viewer,
  id: number,
): Promise<{ stream: Readable; name: string; bytes: number }> {
  const load = await showLoad(ctx, viewer, id);
  const file = await keptFile(ctx, load.file, load.digest);
  return { stream: createReadStream(file.path), name: load.file, bytes: file.bytes };
}

/** The problems of a load as a table of its own. */
export async function problemsTable(ctx: Context, viewer: Viewer, id: number): Promise<Readable> {
  const load = await showLoad(ctx, viewer, id);
  const records = async function* (): AsyncGenerator<Written> {
    for (const p of load.problems)
      yield {
        file: load.file,
        row: p.row === null ? '' : String(p.row),
        column: p.column,
        value: p.value,
        message: p.message,
      };
  };
  const columns = ['file', 'row', 'column', 'value', 'message'];
  return writeCsv({
    columns,
    kind: { required: columns, known: columns, prefixes: [], dates: [], amounts: [] },
    records: records(),
  });
}

/** Mappings kept by name. */
export async function showMappings(ctx: Context, viewer: Viewer) {
  require(viewer, 'preparer', 'load data');
  // A mapping names accounts and members of whoever kept it.
  const rows = (await listMappings(ctx.write)).filter(
    (m) => maySeeBooks(viewer, null) || m.person_name === viewer.name,
  );
  return {
    rows: rows.map((m) => ({
      name: m.name,
      kind: m.kind,
      mapping: m.mapping,
      by: m.person_name,
      usedAt: m.used_at.toISOString(),
    })),
  };
}

/** The number of the newest load that counts. */
export const newest = async (ctx: Context): Promise<{ load: number }> => ({ load: (await newestLoad(ctx.read)).load });

export async function showLoads(ctx: Context, viewer: Viewer, params: { limit: number; after?: string }) {
  const { page, next } = await seenPage(
    (limit, before) => listLoads(ctx.write, limit, before),
    (l) => maySeeBooks(viewer, l.entity_code),
    params,
  );
  return { rows: page.map((l) => shownLoad(l, l.entity_code)), next };
}

function shownLoad(l: NonNullable<Awaited<ReturnType<typeof readLoad>>>, entity: string | null) {
  return {
    id: l.id,
    status: l.status === 'queued' ? ('reading' as const) : l.status,
    progress: l.progress,
    entity,
    kind: l.kind,
    format: l.format,
    file: l.file_name,
    digest: l.file_digest,
    bytes: l.file_bytes,
    replaces:
      l.replaces_from === null ? null : `${periodText(l.replaces_from)} to ${periodText(l.replaces_to as number)}`,
    person: l.person_name,
    createdAt: l.created_at.toISOString(),
    finishedAt: l.finished_at?.toISOString() ?? null,
    lines: l.lines,
    entries: l.entries,
    replaced: l.replaced,
    problemCount: l.problem_count,
    message: l.message,
    rowsRead: l.rows_read,
    problemsSoFar: l.problems_so_far,
    startedAt: l.started_at?.toISOString() ?? null,
    waits: l.status === 'queued',
    cancelAsked: l.cancel_asked,
  };
}
