import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { DuckDBConnection, DuckDBInstance } from '@duckdb/node-api';
import { ordinal, yearOf } from '@/core/calendar';
import { isTemporary } from '@/core/ledger';
import { alikeParties } from '@/core/tests/twice';
import { KIND } from '../codes';
import { partName } from '../columns/manifest';
import { copiedOut, copyOut } from '../copyOut';
import { type Db, inOneState } from '../db';
import { duckRows, FRUGAL, openDuck, quoted } from '../duck';
import { bearingLinesFrom, linesFrom } from '../figureSql';
import { readParties } from '../parties';
import { asStored, type Question } from '../question';

/**
 * The lines that tests look at, in an engine of their own: all lines of a scope up to the end of its window, those within
 * it marked, with what the tests ask of again and again made once. Nothing of it is kept.
 */

/** One company of a scope: what is asked of it, and the same since its first line. */
export interface CompanyAsked {
  entity: string;
  own: Question;
  sinceEver: Question;
}

const THREADS = Math.min(4, Math.max(2, availableParallelism()));
/** What the engine keeps in memory; what is more goes to a folder of its own. */
const MEMORY_MB = Number(process.env.JUST_THREAD_TESTS_MB ?? 1_400);

/** Columns of a line: its type, how the database says it, and its column in the copies where that is another. */
const COLUMNS: readonly [name: string, type: string, sql: string, copied?: string][] = [
  ['entry', 'integer', 's.entry'],
  ['line_no', 'integer', 's.line_no'],
  ['number', 'varchar', 's.entry_number', 'entry_number'],
  ['day', 'date', 's.day'],
  ['period', 'smallint', 's.period'],
  ['day_period', 'smallint', 's.day_period'],
  ['status', 'tinyint', 's.status'],
  ['kind', 'tinyint', 's.kind'],
  ['side', 'tinyint', 's.side'],
  ['account', 'integer', 's.account'],
  ['amount', 'bigint', 's.amount'],
  ['party', 'varchar', 'c.code', 'counterparty'],
  ['journal', 'varchar', 'j.code', 'journal'],
  ['person', 'varchar', 'u.code', 'posted_by'],
  ['document', 'varchar', 's.document', 'document'],
  ['document_type', 'varchar', `s.extra->>'document_type'`, 'document_type'],
  ['document_date', 'varchar', `s.extra->>'document_date'`, 'document_date'],
  ['description', 'varchar', `nullif(s.description, '')`, 'description'],
  ['entry_description', 'varchar', `nullif(e.description, '')`, 'entry_description'],
  ['entered_at', 'varchar', 'e.entered_at', 'entered_at'],
  ['approved_by', 'varchar', 'e.approved_by', 'approved_by'],
  ['reversal_of', 'varchar', 'e.reversal_of', 'reversal_of'],
  ['source', 'varchar', 'e.source', 'source'],
  ...Array.from({ length: 8 }, (_, i): [string, string, string] => [`d${i + 1}`, 'integer', `s.d${i + 1}`]),
];
/** Columns of the copies that number texts. */
const BODIES = COLUMNS.flatMap(([, type, , copied]) => (type === 'varchar' && copied ? [copied] : []));

const GONE: readonly [name: string, type: string, sql: string][] = [
  ['number', 'varchar', 's.entry_number'],
  ['line_no', 'integer', 's.line_no'],
  ['account', 'integer', 's.account'],
  ['amount', 'bigint', 's.amount'],
  ['period', 'smallint', 's.period'],
  ['day', 'date', 's.day'],
  ['description', 'varchar', `nullif(s.description, '')`],
];

/** An engine with the lines of a scope. */
export class Population {
  private constructor(
    readonly entities: readonly string[],
    private readonly folder: string,
    private readonly instance: DuckDBInstance,
    private readonly connection: DuckDBConnection,
  ) {}

  /**
   * Reads the lines of a scope.
   * @param folder where what does not fit into memory goes; emptied at the end
   * @param copies the folder of the copies by columns
   */
  static async of(
    db: Db,
    companies: readonly CompanyAsked[],
    { folder, copies }: { folder: string; copies: string },
  ): Promise<Population> {
    const own = await mkdtemp(join(folder, 'tests-'));
    const instance = await openDuck(join(own, 'lines'), {
      threads: String(THREADS),
      memory_limit: `${MEMORY_MB}MB`,
      temp_directory: join(own, 'spilled'),
      ...FRUGAL,
    });
    const connection = await instance.connect();
    const population = new Population(
      companies.map((c) => c.entity),
      own,
      instance,
      connection,
    );
    try {
      await population.fill(db, companies, copies);
    } catch (error) {
      await population.close();
      throw error;
    }
    return population;
  }

  async run(sql: string, values: readonly string[] = []): Promise<void> {
    await this.connection.run(sql, [...values]);
  }

  rows = <Row>(sql: string): Promise<Row[]> => duckRows<Row>(this.connection, sql);

  /** Ends what is being asked. */
  interrupt(): void {
    this.connection.interrupt();
  }

  async close(): Promise<void> {
    this.connection.closeSync();
    this.instance.closeSync();
    await rm(this.folder, { recursive: true, force: true });
  }

  private async fill(db: Db, companies: readonly CompanyAsked[], copies: string): Promise<void> {
    await this.run('set preserve_insertion_order = false');
    await this.run(
      `create table p (entity varchar, within boolean, opening boolean, code varchar, ${COLUMNS.map(([name, type]) => `${name} ${type}`).join(', ')})`,
    );
    await this.run(`create table gone (entity varchar, ${GONE.map(([name, type]) => `${name} ${type}`).join(', ')})`);
    await this.accounts(companies);
    for (const company of companies) await this.lines(db, company, copies);
    await this.periods(companies);
    await this.alike(db);
    for (const sql of MADE) await this.run(sql);
  }

  /** Accounts `a`, the dimensions that the chart rules of them `r`, and companies `b`. */
  private async accounts(companies: readonly CompanyAsked[]): Promise<void> {
    await this.run(
      'create table a (account integer, entity varchar, code varchar, temporary boolean, normal varchar, status varchar, retained boolean, named varchar)',
    );
    await this.run('create table r (account integer, dimension varchar, slot integer, rule varchar)');
    await this.run('create table b (entity varchar, stop integer)');
    for (const { entity, own } of companies) {
      const [asked] = own.entities;
      if (!asked) continue;
      const { catalogue } = own;
      const rows = asked.entity.chart.map(
        (a) =>
          `(${a.id}, ${quoted(entity)}, ${quoted(a.code)}, ${isTemporary(a.type)}, ${quoted(a.normal)}, ${quoted(a.status)}, ${a.code === asked.entity.retainedEarnings},
            ${quoted([a.name, ...a.groups, a.classification ?? ''].join('\n').toLowerCase())})`,
      );
      if (rows.length > 0) await this.run(`insert into a values ${rows.join(', ')}`);
      const rules = asked.entity.chart.flatMap((a) =>
        Object.entries(a.dimRules).flatMap(([dim, rule]) => {
          const slot = catalogue.dimensions.get(dim)?.slot;
          return slot === undefined || rule === 'optional'
            ? []
            : [`(${a.id}, ${quoted(dim)}, ${slot}, ${quoted(rule)})`];
        }),
      );
      if (rules.length > 0) await this.run(`insert into r values ${rules.join(', ')}`);
      await this.run(`insert into b values (${quoted(entity)}, ${endOf(own)})`);
    }
  }

  private async lines(db: Db, { entity, own, sinceEver }: CompanyAsked, copies: string): Promise<void> {
    const [asked] = own.entities;
    if (!asked) return;
    const { window } = own.figure;
    const opening = `kind = ${KIND.opening} and day_period < ${ordinal(asked.firstYear + 1, 0)}`;
    const place =
      window.by === 'period'
        ? `period between ${Number(window.from)} and ${Number(window.to)}`
        : `day between date ${quoted(window.from)} and date ${quoted(window.to)}`;
    const into = (from: string): string =>
      `insert into p by name select ${quoted(entity)} as entity, (${place} and not (${opening})) as within, kind = ${KIND.opening} as opening, a.code, l.*
       from (${from}) l left join a on a.account = l.account`;
    const { columns } = sinceEver;
    if (columns) {
      const parts = asked.books.flatMap((books) => columns.parts.get(books) ?? []);
      for (const part of parts)
        await this.run(`attach if not exists ${quoted(join(copies, part.file))} as ${partName(part)} (read_only)`);
      const { sql, bindings } = linesFrom(sinceEver, { openings: true, bodies: BODIES });
      const told = COLUMNS.map(([name, , , copied]) => (copied ? `s.${copied} as ${name}` : `s.${name}`));
      await this.run(into(`select ${told.join(', ')} ${sql}`), bindings as string[]);
      for (const part of parts) await this.run(`detach ${partName(part)}`);
    }
    await inOneState(db, async (trx) => {
      if (!columns) {
        const { sql, bindings } = linesFrom(asStored(sinceEver), { openings: true });
        const file = join(this.folder, 'read');
        const told = COLUMNS.map(([name, , stored]) => `${stored} as ${name}`);
        const rows = trx.raw(
          `select ${told.join(', ')} from (select s.* ${sql}) s join entry e on e.id = s.entry
             left join counterparty c on c.id = s.counterparty left join journal j on j.id = s.journal left join ledger_user u on u.id = s.posted_by`,
          bindings as never[],
        );
        await copyOut(trx, rows.toQuery(), file);
        await this.run(into(`select * from ${copiedOut(file, Object.fromEntries(COLUMNS.map(([n, t]) => [n, t])))}`));
        await rm(file);
      }
      const { sql, bindings } = bearingLinesFrom(own);
      const file = join(this.folder, 'gone');
      const rows = trx.raw(
        `select ${GONE.map(([name, , stored]) => `${stored} as ${name}`).join(', ')} ${sql} where s.own and s.part >= 2 and s.replaced_by <= ?`,
        [...(bindings as never[]), own.asOf],
      );
      await copyOut(trx, rows.toQuery(), file);
      await this.run(
        `insert into gone select ${quoted(entity)}, * from ${copiedOut(file, Object.fromEntries(GONE.map(([n, t]) => [n, t])))}`,
      );
      await rm(file);
    });
  }

  /** Periods `per`: numbered through the years of each company; `looked` from that of its first line to the window's end. */
  private async periods(companies: readonly CompanyAsked[]): Promise<void> {
    await this.run(
      'create table per (entity varchar, ordinal integer, seq integer, starts date, stops date, adjustment boolean, looked boolean, whole boolean)',
    );
    const firsts = await this.rows<{ entity: string; first: number }>(
      'select entity, min(period) as first from p group by entity',
    );
    for (const { entity, own } of companies) {
      const first = firsts.find((f) => f.entity === entity)?.first;
      const [asked] = own.entities;
      if (first === undefined || !asked) continue;
      const { window } = own.figure;
      const end = endOf(own);
      const rows: string[] = [];
      let seq = 0;
      for (let year = yearOf(first); year <= yearOf(end) + 1; year++)
        for (const period of asked.calendar.periodsOf(year)) {
          if (!period.adjustment) seq += 1;
          const whole = window.by === 'period' && period.ordinal >= window.from && period.ordinal <= window.to;
          rows.push(
            `(${quoted(entity)}, ${period.ordinal}, ${seq}, date ${quoted(period.from)}, date ${quoted(period.to)}, ${period.adjustment},
              ${period.ordinal >= first && period.ordinal <= end}, ${whole})`,
          );
        }
      if (rows.length > 0) await this.run(`insert into per values ${rows.join(', ')}`);
    }
  }

  private async alike(db: Db): Promise<void> {
    await this.run('create table alike (party varchar, other varchar, account varchar)');
    const used = new Set(
      (await this.rows<{ party: string }>('select distinct party from p where within and party is not null')).map(
        (r) => r.party,
      ),
    );
    const parties = (await readParties(db)).filter((p) => used.has(p.code));
    const pairs = alikeParties(
      parties.map((p) => ({ code: p.code, name: p.name, kind: p.kind, bankAccount: p.bank_account })),
    );
    for (let at = 0; at < pairs.length; at += INSERTED_AT_ONCE)
      await this.run(
        `insert into alike values ${pairs
          .slice(at, at + INSERTED_AT_ONCE)
          .map((p) => `(${quoted(p.party)}, ${quoted(p.other)}, ${p.account === null ? 'null' : quoted(p.account)})`)
          .join(', ')}`,
      );
  }
}

const INSERTED_AT_ONCE = 500;

/** The period in which a window ends. */
const endOf = ({ figure: { window }, entities: [asked] }: Question): number =>
  window.by === 'period' ? window.to : (asked?.calendar.periodAt(window.to).ordinal ?? 0);

/**
 * What tests ask of again and again: entries `e`; sums by account and period with balances brought in `standing`, and
 * without `m`; accounts by period from their first posting on, with those in which nothing was booked, `grid`.
 */
const MADE = [
  `create table e as
   select entity, entry, any_value(number) as number, min(day) as day, bool_or(within) as within, count(*)::integer as lines,
     sum(greatest(0, amount))::bigint as total, sum(amount)::bigint as net, min(person) as person, any_value(approved_by) as approved_by,
     any_value(entered_at) as entered_at, coalesce(min(journal), '') as journal, any_value(source) as source,
     any_value(reversal_of) as reversal_of, min(party) as party, min(document) as document,
     coalesce(any_value(entry_description), '') as description, count(description) + count(entry_description) = 0 as silent,
     min(period) as first_period, max(period) as last_period,
     arg_max(code, abs(amount)) as account
   from p group by entity, entry having not bool_or(opening)`,
  `create table standing as
   select entity, account, code, period, sum(amount)::bigint as amount, count(*)::integer as lines, count(*) filter (within)::integer as within
   from p group by all`,
  `create table m as
   select entity, account, code, period, sum(amount)::bigint as amount, count(*)::integer as lines from p where not opening group by all`,
  `create table grid as
   select f.entity, f.account, f.code, per.ordinal, per.seq, per.whole, coalesce(m.amount, 0) as amount, coalesce(m.lines, 0) as lines
   from (
     select m.entity, m.account, m.code, min(per.seq) as first from m join per on per.entity = m.entity and per.ordinal = m.period
     where per.looked and not per.adjustment group by all
   ) f
   join per on per.entity = f.entity and per.seq >= f.first and per.looked and not per.adjustment
   left join m on m.entity = f.entity and m.account = f.account and m.period = per.ordinal`,
];
