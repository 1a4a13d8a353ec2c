import { createReadStream } from 'node:fs';
import { appendFile, rm, stat, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
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
import { openJobOf } from '@/store/jobs';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySeeBooks, require, type Viewer } from '../asking/viewer';
import { addJob, begunBy } from '../jobs/jobs';
import { FeedFault, placesOf, readFeedPage } from './feedPage';
import { keepFile } from './keptFiles';
import { addLoad } from './loads';

/** A pull that brings more than this, or so many pages, or page after page with nothing in it, is ended. */
const PULL_BYTES_MAX = 4 * 1024 ** 3;
const PAGES_MAX = 100_000;
const EMPTY_PAGES_MAX = 20;

export interface NewConnection {
  name: string;
  url: string;
  entity?: string | undefined;
  everyMinutes?: number | null | undefined;
  /** Whether it may lie inside this machine or a private network. */
  privateAllowed?: boolean | undefined;
}

/** Connects a source ledger. Only an owner says to which addresses this server goes. */
export async function addConnection(ctx: Context, viewer: Viewer, wanted: NewConnection): Promise<{ id: number }> {
  require(viewer, 'owner', 'connect a source');
  const { catalogue } = await known(ctx.write);
  const entity = wanted.entity === undefined ? null : catalogue.entities.get(wanted.entity);
  if (entity === undefined) throw notFound(`Entity ${wanted.entity}`);
  if (!/^https?:\/\//.test(wanted.url)) throw wrong('url', 'write the address with http:// or https://');
  const { username, password } = new URL(wanted.url);
  if (username || password) throw wrong('url', 'an address holds no name or password');
  const privateAllowed = wanted.privateAllowed ?? false;
  await placesOf(new URL(wanted.url), privateAllowed).catch((error: Error) => {
    // A name that is not known now may be later; an address inside is refused at once.
    if (error instanceof FeedFault && !/is not known/.test(error.message)) throw wrong('url', error.message);
  });
  const taken = (await listConnections(ctx.write)).some((c) => c.name === wanted.name);
  if (taken) throw wrong('name', `there is a connection “${wanted.name}” already`);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const row = {
      name: wanted.name,
      url: wanted.url,
      entity: entity?.id ?? null,
      every_minutes: wanted.everyMinutes ?? null,
      private_allowed: privateAllowed,
    };
    const added = await insertConnection(trx, { ...row, person: viewer.id, person_name: viewer.name });
    await record('connected a source', `connection ${added}`, { name: wanted.name, url: wanted.url, privateAllowed });
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
        id: c.id,
        name: c.name,
        url: c.url,
        entity: c.entity_code,
        everyMinutes: c.every_minutes,
        state: c.state,
        message: c.message,
        privateAllowed: c.private_allowed,
        pulledAt: c.pulled_at?.toISOString() ?? null,
        lastLoad: c.last_load,
        upTo: c.cursor,
        waitingBytes: c.spool_bytes,
      })),
  };
}

/** Allows a source to lie inside this machine or a private network, or no longer. */
export async function allowPrivate(ctx: Context, viewer: Viewer, id: number, allowed: boolean) {
  require(viewer, 'owner', 'say to which addresses this server goes');
  const connection = await seenConnection(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    await updateConnection(trx, id, { private_allowed: allowed });
    await record(allowed ? 'allowed a private address' : 'took a private address back', `connection ${id}`, {
      url: connection.url,
    });
  });
  return showConnections(ctx, viewer);
}

/** A connection whose books the viewer sees whole. @throws ProblemError if there is none */
async function seenConnection(ctx: Context, viewer: Viewer, id: number): Promise<ConnectionRow> {
  const found = (await listConnections(ctx.write)).find((c) => c.id === id);
  const connection = found && maySeeBooks(viewer, found.entity_code) ? await readConnection(ctx.write, id) : undefined;
  if (!connection) throw notFound(`Connection ${id}`);
  return connection;
}

/** Asks for what is new at the source; a worker pulls it. */
export async function askPull(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'preparer', 'pull from a source');
  const connection = await seenConnection(ctx, viewer, id);
  if (connection.state === 'loading' || (await openJobOf(ctx.write, 'pull', `connection ${id}`))) return;
  await onRecord(ctx, viewer, async (trx, record) => {
    await updateConnection(trx, id, { state: 'asked', message: null });
    await addPull(trx, connection, begunBy(viewer));
    await record('asked for a pull', `connection ${id}`, { url: connection.url });
  });
}

/** Asks every source whose turn it is by its schedule. */
export async function askScheduled(ctx: Context): Promise<void> {
  for (const connection of await dueConnections(ctx.work))
    await ctx.work.transaction((trx) =>
      addPull(trx, connection, { person: connection.person, person_name: connection.person_name }),
    );
}

async function addPull(
  trx: Knex.Transaction,
  { id, name }: ConnectionRow,
  by: { person: number | null; person_name: string },
): Promise<void> {
  if (await openJobOf(trx, 'pull', `connection ${id}`)) return;
  await addJob(trx, { ...by, kind: 'pull', subject: `connection ${id}`, label: name, entities: null });
}

export async function removeConnection(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  require(viewer, 'owner', 'remove a connection');
  await seenConnection(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    if ((await deleteConnection(trx, id)) === 0) throw notFound(`Connection ${id}`);
    await record('disconnected a source', `connection ${id}`);
  });
}

type OnProgress = (progress: number, message?: string) => Promise<void>;

/** Pulls from a source, and sends what is new as a load. */
export async function pullConnection(ctx: Context, id: number, tell: OnProgress): Promise<{ message: string }> {
  return ctx.work.transaction(async (trx) => {
    if (!(await takeConnectionLock(trx, id))) return { message: 'it is being pulled from already' };
    const connection = await readConnection(ctx.work, id);
    if (!connection) return { message: 'the source is connected no longer' };
    try {
      return { message: await pull(ctx, connection, tell) };
    } catch (error) {
      const message = `${error instanceof FeedFault ? error.message : 'pulling broke off'}; what came before is kept, and it goes on from there`;
      await updateConnection(ctx.work, connection.id, { state: 'failed', message });
      if (!(error instanceof FeedFault)) throw error;
      throw new ProblemError(502, message);
    }
  });
}

/**
 * Pages are appended to a file as they come, with the place after them, so that a source that fails is asked again
 * from there. Only when the source has no more does the file become a load.
 */
async function pull(ctx: Context, connection: ConnectionRow, tell: OnProgress): Promise<string> {
  const spool = join(ctx.files.folder, `.pull-${connection.id}`);
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
  let came = 0;
  let empty = 0;
  for (let page = 1; ; page++) {
    const answer = await readFeedPage(connection.url, cursor, connection.private_allowed);
    came += answer.bytes;
    empty = answer.entries.length > 0 ? 0 : empty + 1;
    if (answer.more && answer.next === cursor)
      throw new FeedFault('the source says that there is more, and its place does not move on');
    if (answer.more && (page >= PAGES_MAX || empty >= EMPTY_PAGES_MAX))
      throw new FeedFault('the source says that there is more, page after page, and brings nothing');
    if (came > PULL_BYTES_MAX) throw new FeedFault('the source sent far more than a ledger holds');
    await tell(0, `${page} ${page === 1 ? 'page' : 'pages'} so far`);
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
    await updateConnection(ctx.work, connection.id, {
      state: 'idle',
      cursor,
      spool: null,
      spool_cursor: null,
      message: 'nothing new',
    });
    return 'nothing new';
  }
  const file = await keepFile(ctx, `${connection.name}.ndjson`, createReadStream(spool));
  const { catalogue } = await known(ctx.work);
  const entity = [...catalogue.entities.values()].find((e) => e.id === connection.entity)?.code ?? null;
  const id = await ctx.work.transaction(async (trx) => {
    const load = {
      entity: connection.entity,
      kind: 'lines' as const,
      format: 'ads' as const,
      file_name: file.name,
      file_digest: file.digest,
      file_bytes: file.bytes,
      options: { connection: { id: connection.id, cursor: cursor as string } },
      mapping: null,
      replaces_from: null,
      replaces_to: null,
      person: connection.person,
      person_name: connection.person_name,
    };
    const added = await addLoad(trx, load, entity);
    await updateConnection(trx, connection.id, { state: 'loading', message: `load ${added} is reading` });
    return added;
  });
  await rm(spool, { force: true });
  return `load ${id}`;
}

/** A pull that was put aside says so where the source is shown. */
export const pullPutAside = (ctx: Context, id: number, reason: string): Promise<void> =>
  updateConnection(ctx.work, id, { state: 'failed', message: reason });
