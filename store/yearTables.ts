import type { Knex } from 'knex';
import { type Db, rowsOf } from './db';
import { asText, copyInto, type Stage } from './stage';

/**
 * Lines are laid down by fiscal year. A year's first lines go into a table of their own, made and indexed apart from the
 * load's transaction, which is much quicker; no question sees it before that transaction attaches it.
 */
export interface Year {
  entity: number;
  year: number;
  lines: number;
}

/** A part of a year's lines: those of some accounts, which lie side by side in its table. */
interface Slice {
  firstAccount: number;
  lastAccount: number;
  lines: number;
}

/** A slice is sorted at once: more lines than this do not fit into the stage's memory. */
const SLICE_LINES = 1_100_000;
/** Slices that the stage writes before the database has taken them, at most. */
const WRITTEN_AHEAD = 2;
/** Indexes that are built at the same time. */
const BUILDERS = 2;

const COLUMNS = `entity, period, day_period, status, kind, side, journal, account, line_no, day, posting_date, counterparty,
  posted_by, d1, d2, d3, d4, d5, d6, d7, d8, amount, currency_amount, entry_number, document, currency, quantity, unit,
  description, extra`;
/** Columns in which a file may have anything. */
const TEXTS = ['entry_number', 'document', 'currency', 'unit', 'description', 'extra'];
const INDEXES = [
  '(entity, account, day, entry_number, line_no)',
  '(entity, day, entry_number, line_no)',
  '(entry, line_no) include (entity, account, amount)',
];

const firstOf = (year: number): number => (year - 2000) * 100;
const tableOf = ({ entity, year }: Omit<Year, 'lines'>): string => `line_e${Number(entity)}_${Number(year)}`;

/**
 * Lays down all staged lines: the stage sorts and writes one slice after the other, the database takes one while the
 * next is written, and a year's indexes are built while another year is taken in.
 * @param db the load's transaction, which takes the lines of years that are there already
 * @param besides further work of the stage, done while the database takes the first slice
 * @param onLaid told of lines as they are laid
 * @returns the years whose tables are yet to be attached
 */
export async function layYears(
  db: Db,
  outside: Knex,
  stage: Stage,
  load: number,
  besides: () => Promise<void>,
  onLaid: (lines: number) => void,
): Promise<Year[]> {
  await dropUnattached(outside);
  const slices = await slicesOf(stage);
  const writing = async function* (): AsyncGenerator<YearTable> {
    for (const [at, of] of slices.entries()) {
      yield { ...of, path: await writeSlice(stage, load, of) };
      if (at === 0) await besides();
    }
    if (slices.length === 0) await besides();
  };
  const made: Year[] = [];
  const indexes = lanes(BUILDERS);
  let table: Knex.Transaction | null = null;
  try {
    for await (const { year, slice, path, isLast } of readAhead(writing(), WRITTEN_AHEAD)) {
      const columns = `${tableOf(year)} (entry, load, ${COLUMNS})`;
      if (table === null && (await isThere(outside, year))) await copyInto(db, columns, path);
      else {
        table ??= await openTable(outside, year);
        await copyInto(table, columns, path, true);
        if (isLast) {
          await table.commit();
          table = null;
          made.push(year);
          for (const index of INDEXES)
            indexes.add(year.lines, async () => void (await outside.raw(`create index on ${tableOf(year)} ${index}`)));
        }
      }
      onLaid(slice.lines);
    }
    await indexes.done();
  } catch (error) {
    await table?.rollback();
    await indexes.done().catch(() => {}); // no table may be dropped while it is indexed
    await dropUnattached(outside).catch(() => {}); // else the next load clears them away
    throw error;
  }
  return made;
}

/** Makes the lines of a year part of the ledger. */
export async function attachYear(db: Db, year: Year): Promise<void> {
  await db.raw(`alter table line_e${Number(year.entity)} attach partition ${tableOf(year)} ${rangeOf(year)}`);
}

/** A table for the lines of a year, where there is none yet, within the transaction that fills it. */
export async function openYear(db: Db, year: Omit<Year, 'lines'>): Promise<void> {
  await db.raw(
    `create table if not exists ${tableOf(year)} partition of line_e${Number(year.entity)} ${rangeOf(year)}`,
  );
}

const rangeOf = ({ year }: Omit<Year, 'lines'>): string =>
  `for values from (${firstOf(year)}) to (${firstOf(year) + 100})`;

interface SliceOfYear {
  year: Year;
  slice: Slice;
  /** Nothing of the year comes after it. */
  isLast: boolean;
}
type YearTable = SliceOfYear & { path: string };

/** The years' slices in the order in which they are laid: small years last, so that little is left to do when all is written. */
async function slicesOf(stage: Stage): Promise<SliceOfYear[]> {
  const accounts = await stage.rows<Year & { account: number }>(
    'select entity, (period + 20000) // 100 + 1800 as year, account, count(*) as lines from staged_line group by all order by entity, year, account',
  );
  const years = new Map<string, { year: Year; slices: Slice[] }>();
  for (const { entity, year: number, account, lines } of accounts) {
    const key = `${entity} ${number}`;
    const found = years.get(key) ?? { year: { entity, year: number, lines: 0 }, slices: [] };
    years.set(key, found);
    found.year.lines += lines;
    const last = found.slices[found.slices.length - 1];
    if (last && last.lines + lines <= SLICE_LINES)
      Object.assign(last, { lastAccount: account, lines: last.lines + lines });
    else found.slices.push({ firstAccount: account, lastAccount: account, lines });
  }
  return [...years.values()]
    .sort((a, b) => b.year.lines - a.year.lines)
    .flatMap(({ year, slices }) => slices.map((slice, at) => ({ year, slice, isLast: at === slices.length - 1 })));
}

/** Writes a slice out in the order of the account ledgers. A row is put together before it is sorted: one text is moved about more quickly than thirty values. */
const writeSlice = (stage: Stage, load: number, { year: { entity, year }, slice }: SliceOfYear): Promise<string> =>
  stage.writeOut(
    `lines-${entity}-${year}-${slice.firstAccount}`,
    `select id, ${load}, row_text from (
       select e.id, s.account, s.day, s.line_no, ${ROW} as row_text
       from staged_line s join (
         select id, entry_number from staged_entry
         where entity = ${entity} and last_period >= ${firstOf(year)} and first_period < ${firstOf(year) + 100}) e on e.entry_number = s.entry_number
       where s.entity = ${entity} and s.period >= ${firstOf(year)} and s.period < ${firstOf(year) + 100}
         and s.account between ${slice.firstAccount} and ${slice.lastAccount})
     order by account, day, id, line_no`,
  );

/** A staged line's columns as a row of PostgreSQL's text format. */
const ROW = `concat(${COLUMNS.split(',')
  .map((c) => c.trim())
  .map((c) => `coalesce(${TEXTS.includes(c) ? asText(`s.${c}`) : `s.${c}::varchar`}, '\\N')`)
  .join(', chr(9), ')})`;

async function isThere(outside: Knex, year: Year): Promise<boolean> {
  const [row] = await rowsOf<{ there: boolean }>(outside, 'select to_regclass(?) is not null as there', [
    tableOf(year),
  ]);
  return row?.there ?? false;
}

/** A table for a year's first lines, in a transaction of its own. */
async function openTable(outside: Knex, year: Year): Promise<Knex.Transaction> {
  const apart = await outside.transaction();
  const first = firstOf(year.year);
  await apart.raw(`create table ${tableOf(year)} (like line including defaults,
    check (entity = ${Number(year.entity)} and period >= ${first} and period < ${first + 100}))`);
  return apart;
}

/** Tables of years that a load made and did not come to attach. Loads run one at a time. */
async function dropUnattached(outside: Knex): Promise<void> {
  const left = await rowsOf<{ name: string }>(
    outside,
    `select relname as name from pg_class where relkind = 'r' and not relispartition and relname ~ '^line_e[0-9]+_[0-9]+$'
     and relnamespace = current_schema()::regnamespace`,
  );
  for (const { name } of left) await outside.raw(`drop table ${name}`);
}

/** What comes from a source, of which so many more are asked for before they are wanted. */
async function* readAhead<Item>(source: AsyncGenerator<Item>, ahead: number): AsyncGenerator<Item> {
  const asked: Promise<IteratorResult<Item>>[] = [];
  const ask = (): void => {
    const next = source.next();
    next.catch(() => {}); // whoever waits for it hears of it
    asked.push(next);
  };
  for (let i = 0; i <= ahead; i++) ask();
  try {
    for (let next = await asked.shift(); next && !next.done; next = await asked.shift()) {
      ask();
      yield next.value;
    }
  } finally {
    await Promise.allSettled(asked);
  }
}

/** Pieces of work, so many at a time, each given to the lane that has least to do. */
function lanes(many: number) {
  const all = Array.from({ length: many }, () => ({ load: 0, end: Promise.resolve() }));
  return {
    add(weight: number, work: () => Promise<void>): void {
      const least = all.reduce((a, b) => (b.load < a.load ? b : a));
      least.load += weight;
      least.end = least.end.then(work);
      least.end.catch(() => {}); // told by done
    },
    async done(): Promise<void> {
      for (const settled of await Promise.allSettled(all.map(({ end }) => end)))
        if (settled.status === 'rejected') throw settled.reason;
    },
  };
}
