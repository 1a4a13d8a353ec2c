import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LATER_KINDS, type NewLoadFields } from '@/contracts/bodies';
import { notFound, wrong } from '@/contracts/problem';
import { parsePeriod, periodText } from '@/core/calendar';
import { exponentOf, formatAmount } from '@/core/money';
import { insertLoad, type LoadKind, listLoads, problemsOf, readLoad, totalsOf } from '@/store/loads';
import { type Context, known } from './context';
import { runNextLoad } from './loading/runLoad';
import { maySee, require, type Viewer } from './viewer';

export interface KeptFile {
  name: string;
  digest: string;
  bytes: number;
}

/** Keeps a file under its SHA-256, so that what was loaded can be shown for ever. */
export async function keepFile(ctx: Context, name: string, content: Readable): Promise<KeptFile> {
  await mkdir(ctx.files, { recursive: true });
  const waiting = join(ctx.files, `.${randomUUID()}`);
  const hash = createHash('sha256');
  content.on('data', (chunk: Buffer) => hash.update(chunk));
  try {
    await pipeline(content, createWriteStream(waiting));
    const digest = hash.digest('hex');
    const { size } = await stat(waiting);
    await rename(waiting, join(ctx.files, digest));
    return { name, digest, bytes: size };
  } finally {
    await rm(waiting, { force: true });
  }
}

/** Puts a kept file in the queue of loads. */
export async function queueLoad(ctx: Context, viewer: Viewer, file: KeptFile, fields: NewLoadFields): Promise<number> {
  require(viewer, 'preparer', 'load data');
  const { catalogue } = await known(ctx.write);
  if ((LATER_KINDS as readonly string[]).includes(fields.kind))
    throw wrong('kind', `loads of ${fields.kind} are not possible yet; lines, accounts and dimensions are`);
  if (fields.format !== 'csv') throw wrong('format', `${fields.format} cannot be read yet; save the table as CSV`);
  if (fields.mapping) throw wrong('mapping', 'a column mapping cannot be used yet; name the columns as the guide to formats says');
  const entity = fields.entity === undefined ? null : catalogue.entities.get(fields.entity);
  if (entity === undefined || (entity && !maySee(viewer, entity.code))) throw notFound(`Entity ${fields.entity}`);
  const replaces = fields.replaces ? readRange(fields.replaces) : null;
  if (replaces && fields.kind !== 'lines') throw wrong('replaces', 'only a load of lines replaces periods');
  if (replaces && !entity) throw wrong('entity', 'name the entity whose periods this load replaces');
  return insertLoad(ctx.write, {
    entity: entity?.id ?? null,
    kind: fields.kind as LoadKind,
    format: fields.format,
    file_name: file.name,
    file_digest: file.digest,
    file_bytes: file.bytes,
    options: fields.unknownAccounts === 'create' ? { unknownAccounts: 'create' } : {},
    replaces_from: replaces?.from ?? null,
    replaces_to: replaces?.to ?? null,
    person: viewer.id,
    person_name: viewer.name,
  });
}

/** "2027.04 to 2027.05", "2027.04-2027.05" or one period. */
function readRange(text: string): { from: number; to: number } {
  const [from, to = from] = text.split(/\s+to\s+|\.\.|\s*[-–]\s*/).map((p) => parsePeriod(p.trim()));
  if (from == null || to == null) throw wrong('replaces', `“${text}” is no range of periods; write it as 2027.04 to 2027.05`);
  if (from > to) throw wrong('replaces', `“${text}” runs backwards`);
  return { from, to };
}

/** Runs waiting loads until none is left. */
export async function runLoads(ctx: Context): Promise<void> {
  while ((await runNextLoad(ctx.work, ctx.files)) !== null);
}

/** Loads a file from the machine itself and waits for the outcome. */
export async function loadFile(ctx: Context, viewer: Viewer, path: string, fields: NewLoadFields) {
  const file = await keepFile(ctx, path.split('/').pop() ?? path, createReadStream(path));
  const id = await queueLoad(ctx, viewer, file, fields);
  for (;;) {
    await runLoads(ctx);
    const load = await showLoad(ctx, viewer, id);
    if (load.status === 'loaded' || load.status === 'refused') return load;
    await new Promise((resolve) => setTimeout(resolve, 200)); // another process is at it
  }
}

/** One load: how far it is, what came, and what was wrong. */
export async function showLoad(ctx: Context, viewer: Viewer, id: number) {
  const load = await readLoad(ctx.write, id);
  const { catalogue } = await known(ctx.write);
  const entity = [...catalogue.entities.values()].find((e) => e.id === load?.entity);
  if (!load || (entity && !maySee(viewer, entity.code)) || (!entity && viewer.entities !== null)) throw notFound(`Load ${id}`);
  const [totals, problems] = await Promise.all([totalsOf(ctx.write, id), problemsOf(ctx.write, id)]);
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
    stated: null,
    problems: problems.map((p) => ({ row: p.row, column: p.column_name, value: p.value, message: p.message })),
  };
}

export async function showLoads(ctx: Context, viewer: Viewer, params: { limit: number; after?: string }) {
  const rows = await listLoads(ctx.write, params.limit, params.after === undefined ? null : Number(params.after));
  const seen = rows.filter((l) => (l.entity_code === null ? viewer.entities === null : maySee(viewer, l.entity_code)));
  const last = rows[rows.length - 1];
  return { rows: seen.map((l) => shownLoad(l, l.entity_code)), next: rows.length === params.limit && last ? String(last.id) : null };
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
    replaces: l.replaces_from === null ? null : `${periodText(l.replaces_from)} to ${periodText(l.replaces_to as number)}`,
    person: l.person_name,
    createdAt: l.created_at.toISOString(),
    finishedAt: l.finished_at?.toISOString() ?? null,
    lines: l.lines,
    entries: l.entries,
    replaced: l.replaced,
    problemCount: l.problem_count,
    message: l.message,
  };
}
