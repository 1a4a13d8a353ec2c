import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { DuckDBConnection, DuckDBInstance } from '@duckdb/node-api';
import { isTemporary } from '@/core/ledger';
import { whoAsks } from '../asking';
import type { Catalogue } from '../catalogue';
import { tellOf } from '../db';
import { duckRows, openDuck, quoted } from '../duck';
import { FairShare, NoTurn } from '../fairShare';
import { log } from '../log';
import { booksOf, type Question } from '../question';
import { type ColumnReader, type Columns, type Part, partName } from './manifest';
import { isOfThisShape, summedIn } from './shape';
import { expressible } from './words';

const THREADS = availableParallelism();
/** What the engine keeps in memory of all copies together. */
const MEMORY_MB = Number(process.env.JUST_THREAD_COLUMNS_MB ?? 1_024);
/** Questions that are worked at together; each takes every core while it runs. */
const PLACES = Math.max(2, THREADS);
const WAIT_MS = 20_000;
/** Former copies that nobody asked of for so long are let go. */
const IDLE_MS = 60_000;
/** A part that another process is about to let go of is tried again so soon; one that cannot be read, after a while. */
const LOCKED_MS = 1_000;
const BROKEN_MS = 600_000;

/** A question that took longer than one waits for: the same sign as the database gives (query_canceled). */
class StoppedAtLimit extends Error {
  readonly code = '57014';
}

/**
 * Reads the copies of lines by columns that a folder has. One in each process; it holds nothing that cannot be thrown away,
 * and only reads.
 */
export class ColumnEngine implements ColumnReader {
  private readonly idle: DuckDBConnection[] = [];
  private readonly attached = new Map<number, { summed: Promise<string[]>; used: number }>();
  /** Parts that could not be opened, with when that is tried again. */
  private readonly broken = new Map<number, number>();
  private readonly share = new FairShare(PLACES, PLACES, WAIT_MS);
  private accounts: { catalogue: Catalogue; name: string } | null = null;
  private named = 0;
  private instance: Promise<DuckDBInstance> | null = null;

  constructor(readonly folder: string) {}

  private start(): Promise<DuckDBInstance> {
    this.instance ??= openDuck(':memory:', {
      threads: String(THREADS),
      memory_limit: `${MEMORY_MB}MB`,
      // So many rows that a part of a question finds are named to the reading of the table that it is for.
      dynamic_or_filter_threshold: '1000',
      temp_directory: join(this.folder, `spilled-${process.pid}`),
    });
    return this.instance;
  }

  /** Whether a part can be asked, as far as one knows without opening it. */
  has(part: Part): boolean {
    if (this.attached.has(part.id)) return true;
    return isOfThisShape(part.file) && !this.isBroken(part) && existsSync(join(this.folder, part.file));
  }

  private isBroken({ id }: Part): boolean {
    const until = this.broken.get(id);
    if (until !== undefined && until <= Date.now()) this.broken.delete(id);
    return this.broken.has(id);
  }

  /**
   * Makes the copies ready that a question needs.
   * @param copies those that are as new as the books
   * @returns null where there is none of some books, or one cannot be opened, which is written down: the database answers then
   */
  async readyFor(question: Question, copies: ReadonlyMap<number, readonly Part[]>): Promise<Columns | null> {
    const { catalogue } = question;
    const parts = new Map<number, readonly Part[]>();
    for (const books of booksOf(question)) {
      const mine = copies.get(books);
      if (!mine?.every((part) => this.has(part))) return null;
      parts.set(books, mine);
    }
    if (parts.size === 0 || !expressible(question)) return null;
    try {
      const all = [...parts.values()].flat();
      const found = await this.open(all);
      const summed = new Map(all.map((part, i) => [part.id, new Set(found[i])] as const));
      await this.letGo(copies);
      return { engine: this, parts, accounts: await this.accountsOf(catalogue), summed };
    } catch (error) {
      log().error({ error: (error as Error).message }, 'a copy of lines could not be opened; the database answers');
      return null;
    }
  }

  /**
   * Makes parts ready to be asked by their names.
   * @returns for each the columns by which its lines are added up beforehand
   * @throws what is said of a file that is no part
   */
  async open(parts: readonly Part[]): Promise<string[][]> {
    return Promise.all(parts.map((part) => this.attach(part)));
  }

  private async attach(part: Part): Promise<string[]> {
    const held = this.attached.get(part.id);
    if (held) {
      held.used = Date.now();
      return held.summed;
    }
    const open = async (): Promise<string[]> => {
      await this.unshared(`attach ${quoted(join(this.folder, part.file))} as ${partName(part)} (read_only)`);
      const tables = `select table_name as name from duckdb_tables() where database_name = '${partName(part)}'`;
      return summedIn((await this.run<{ name: string }>(tables, [], null, null)).map(({ name }) => name));
    };
    const summed = open();
    this.attached.set(part.id, { summed, used: Date.now() });
    try {
      await summed;
    } catch (error) {
      this.broken.set(part.id, Date.now() + (/lock/i.test((error as Error).message) ? LOCKED_MS : BROKEN_MS));
      this.attached.delete(part.id);
      throw error;
    }
    return summed;
  }

  /** Lets go of parts that others took the place of, once nobody has asked of them for a while. */
  private async letGo(copies: ReadonlyMap<number, readonly Part[]>): Promise<void> {
    const current = new Set([...copies.values()].flat().map((part) => part.id));
    for (const [id, { used }] of this.attached) {
      if (current.has(id) || Date.now() - used < IDLE_MS) continue;
      this.attached.delete(id);
      await this.unshared(`detach part_${id}`).catch((error: Error) =>
        log().warn({ error: error.message }, 'a former copy of lines could not be let go'),
      );
    }
  }

  /** What accounts are may change without a load; everything else that lines name is in the copy. */
  private async accountsOf(catalogue: Catalogue): Promise<string> {
    if (this.accounts?.catalogue === catalogue) return this.accounts.name;
    const name = `account_${++this.named}`;
    const rows = [...catalogue.entities.values()].flatMap((e) =>
      e.chart.map((a) => `(${Number(a.id)}, ${isTemporary(a.type)}, '${a.type}')`),
    );
    await this.unshared(
      `create table ${name} as select * from (values ${rows.join(', ') || `(0, false, '')`}) a(id, temporary, type)`,
    );
    const former = this.accounts;
    this.accounts = { catalogue, name };
    // Whoever still asks by the one before has it for a while.
    if (former) setTimeout(() => void this.unshared(`drop table ${former.name}`).catch(() => {}), IDLE_MS).unref();
    return name;
  }

  private async unshared(sql: string): Promise<void> {
    const connection = await this.connection();
    try {
      await connection.run(sql);
    } finally {
      this.idle.push(connection);
    }
  }

  private async connection(): Promise<DuckDBConnection> {
    return this.idle.pop() ?? (await this.start()).connect();
  }

  /**
   * Rows of a question; whole numbers come as exact integers. The caller names their shape. Who asks is shared out to and
   * stopped for as in the database.
   * @param limitMs null: as long as it takes
   */
  async rows<Row>(sql: string, values: readonly string[], limitMs: number | null, why?: string): Promise<Row[]> {
    const asking = whoAsks();
    const from = performance.now();
    try {
      if (!asking) return await this.run<Row>(sql, values, null, limitMs);
      return await this.share.run(asking.person ?? asking.id, asking.signal, () =>
        this.run<Row>(sql, values, asking.signal, limitMs),
      );
    } finally {
      tellOf({ of: 'copies by columns', why, sql, from });
    }
  }

  private async run<Row>(
    sql: string,
    values: readonly string[],
    signal: AbortSignal | null,
    limitMs: number | null,
  ): Promise<Row[]> {
    if (signal?.aborted) throw new NoTurn('gone');
    const connection = await this.connection();
    const stop = (): void => connection.interrupt();
    let late = false;
    const limit =
      limitMs === null
        ? null
        : setTimeout(() => {
            late = true;
            stop();
          }, limitMs);
    signal?.addEventListener('abort', stop, { once: true });
    try {
      return await duckRows<Row>(connection, sql, values);
    } catch (error) {
      if (signal?.aborted) throw new NoTurn('gone');
      throw late ? new StoppedAtLimit() : error;
    } finally {
      if (limit) clearTimeout(limit);
      signal?.removeEventListener('abort', stop);
      this.idle.push(connection);
    }
  }

  async close(): Promise<void> {
    const instance = await this.instance;
    for (const connection of this.idle.splice(0)) connection.closeSync();
    this.attached.clear();
    this.accounts = null;
    this.instance = null;
    instance?.closeSync();
  }
}
