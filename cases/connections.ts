import { createReadStream } from 'node:fs';
import { appendFile, rm, stat, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { notFound, wrong } from '@/contracts/problem';
import {
  type ConnectionRow,
  deleteConnection,
  dueConnections,
  insertConnection,
  listConnections,
  readConnection,
  takeConnectionLock,
  updateConnection,
} from '@/store/connections';
import { insertLoad } from '@/store/loads';
import { addToRecord } from '@/store/record';
import { type Context, known } from './context';
import { keepFile } from './loads';
import { maySeeBooks, require, type Viewer } from './viewer';

/** A page of a source ledger's feed: lines by the field names of the audit data standards, and where to go on. */
const pageSchema = z.object({
  entries: z.array(z.record(z.string(), z.union([z.string(), z.number(), z.null()]))).max(10_000),
  next: z.string().min(1).max(500),
  more: z.boolean(),
});

/** A source that does not answer within this time has failed; what came before is kept. */
const ANSWER_MS = 10_000;
const PAGE_BYTES_MAX = 32 * 1024 ** 2;
const PAGES_MAX = 100_000;

export interface NewConnection {
  name: string;
  url: string;
  entity?: string | undefined;
  everyMinutes?: number | null | undefined;
}

/** Connects a source ledger. Only an owner says to which addresses this server goes. */
export async function addConnection(ctx: Context, viewer: Viewer, wanted: NewConnection): Promise<{ id: number }> {
  require(viewer, 'owner', 'connect a source');
  const { catalogue } = await known(ctx.write);
  const entity = wanted.entity === undefined ? null : catalogue.entities.get(wanted.entity);
  if (entity === undefined) throw notFound(`Entity ${wanted.entity}`);
  if (!/^https?:\/\//.test(wanted.url)) throw wrong('url', 'write the address with http:// or https://');
  const taken = (await listConnections(ctx.write)).some((c) => c.name === wanted.name);
  if (taken) throw wrong('name', `there is a connection “${wanted.name}” already`);
  const id = await ctx.write.transaction(async (trx) => {
    const row = { name: wanted.name, url: wanted.url, entity: entity?.id ?? null, every_minutes: wanted.everyMinutes ?? null };
    const added = await insertConnection(trx, { ...row, person: viewer.id, person_name: viewer.name });
    await addToRecord(trx, {
      ...{ person: viewer.id, personName: viewer.name, act: 'connected a source', subject: `connection ${added}` },
      detail: { name: wanted.name, url: wanted.url },
    });
    return added;
  });
  return { id };
}

export async function showConnections(ctx: Context, viewer: Viewer) {
  require(viewer, 'preparer', 'see the connections');
  const rows = await listConnections(ctx.write);
  return {
    rows: rows
      .filter((c) => maySeeBooks(viewer, c.entity_code))
      .map((c) => ({
        ...{ id: c.id, name: c.name, url: c.url, entity: c.entity_code, everyMinutes: c.every_minutes, state: c.state, message: c.message },
        ...{ pulledAt: c.pulled_at?.toISOString() ?? null, lastLoad: c.last_load, upTo: c.cursor, waitingBytes: c.spool_bytes },
      })),
  };
}

/** Asks for what is new at the source; it is pulled in the background. */
export async function askPull(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'preparer', 'pull from a source');
  const connection = await readConnection(ctx.write, id);
  if (!connection) throw notFound(`Connection ${id}`);
  if (connection.state !== 'pulling' && connection.state !== 'loading') await updateConnection(ctx.write, id, { state: 'asked', message: null });
}

export async function removeConnection(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'owner', 'take a connection away');
  await ctx.write.transaction(async (trx) => {
    if ((await deleteConnection(trx, id)) === 0) throw notFound(`Connection ${id}`);
    await addToRecord(trx, { person: viewer.id, personName: viewer.name, act: 'disconnected a source', subject: `connection ${id}`, detail: {} });
  });
}

/** Pulls from every connection whose turn it is. Loads are queued; whoever runs loads does the rest. */
export async function runConnections(ctx: Context): Promise<void> {
  for (const { id } of await dueConnections(ctx.work)) {
    await ctx.work.transaction(async (trx) => {
      if (!(await takeConnectionLock(trx, id))) return;
      const connection = await readConnection(ctx.work, id);
      if (!connection) return;
      try {
        await pull(ctx, connection);
      } catch (error) {
        await updateConnection(ctx.work, id, { state: 'failed', message: messageOf(error) });
      }
    });
  }
}

/**
 * Pages are appended to a file as they come, with the place after them, so that a source that fails is asked again
 * from there. Only when the source has no more does the file become a load.
 */
async function pull(ctx: Context, connection: ConnectionRow): Promise<void> {
  const spool = join(ctx.files, `.pull-${connection.id}`);
  let cursor = connection.spool_cursor ?? connection.cursor;
  let bytes = connection.spool_cursor === null ? 0 : connection.spool_bytes;
  await updateConnection(ctx.work, connection.id, { state: 'pulling', asked_at: new Date(), message: null });
  // A page that was written when the server stopped, but not counted, is cut off and asked for again.
  const there = await stat(spool).catch(() => null);
  if (there && there.size >= bytes && bytes > 0) await truncate(spool, bytes);
  else {
    await rm(spool, { force: true });
    if (bytes > 0) [cursor, bytes] = [connection.cursor, 0];
  }
  for (let page = 0; page < PAGES_MAX; page++) {
    const answer = await readPage(connection.url, cursor);
    if (answer.entries.length > 0) {
      const text = answer.entries.map((e) => `${JSON.stringify(e)}\n`).join('');
      await appendFile(spool, text);
      bytes += Buffer.byteLength(text);
    }
    cursor = answer.next;
    await updateConnection(ctx.work, connection.id, { spool, spool_cursor: cursor, spool_bytes: bytes });
    if (!answer.more) break;
  }
  await updateConnection(ctx.work, connection.id, { pulled_at: new Date() });
  if (bytes === 0) {
    await updateConnection(ctx.work, connection.id, { state: 'idle', cursor, spool: null, spool_cursor: null, message: 'nothing new' });
    return;
  }
  const file = await keepFile(ctx, `${connection.name}.ndjson`, createReadStream(spool));
  const id = await insertLoad(ctx.work, {
    ...{ entity: connection.entity, kind: 'lines', format: 'ads', file_name: file.name, file_digest: file.digest, file_bytes: file.bytes },
    options: { connection: { id: connection.id, cursor: cursor as string } },
    ...{ mapping: null, replaces_from: null, replaces_to: null, person: connection.person, person_name: connection.person_name },
  });
  await updateConnection(ctx.work, connection.id, { state: 'loading', message: `load ${id} is reading` });
  await rm(spool, { force: true });
}

async function readPage(url: string, cursor: string | null) {
  const address = new URL(url);
  if (cursor !== null) address.searchParams.set('after', cursor);
  const response = await fetch(address, { signal: AbortSignal.timeout(ANSWER_MS), headers: { accept: 'application/json' }, redirect: 'error' });
  if (!response.ok) throw new Error(`the source answered ${response.status} ${response.statusText}`.trim());
  if (Number(response.headers.get('content-length') ?? 0) > PAGE_BYTES_MAX) throw new Error('the source sent a page that is far too large');
  const text = await response.text();
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new Error(`the source sent something that is no JSON: “${text.slice(0, 60)}”`);
  }
  const page = pageSchema.safeParse(raw);
  if (!page.success) throw new Error(`the source sent a page that is not as agreed: ${page.error.issues[0]?.path.join('.')} ${page.error.issues[0]?.message}`);
  return page.data;
}

function messageOf(error: unknown): string {
  const { name, message, cause } = error as Error & { cause?: Error };
  if (name === 'TimeoutError') return `the source did not answer within ${ANSWER_MS / 1000} seconds; what came before is kept, and it goes on from there`;
  return `${cause?.message ?? message}; what came before is kept, and it goes on from there`;
}
