import { rowsOf } from '@/store/db';
import { ask, type Door, timingOf } from './asked';
import { COMPANIES } from './ledger';

/** The same question of us, of PostgreSQL without sums or copies, and of DuckDB over the lines as the file has them. */
interface Reference {
  name: string;
  path: string;
  plain: string;
  duck: string;
}

const [{ code: ONE }] = COMPANIES;
const WINDOW = `entity=${ONE}&from=2027.01&to=2027.06`;
const BOOKED = `s.entity = (select id from entity where code = '${ONE}') and s.day <= '2026-09-30' and s.status = 1 and s.replaced_by = 2147483647`;
const RAW = `entity = '${ONE}' and date <= date '2026-09-30' and status = 'posted'`;
/** Opening, debit and credit of the window by something. */
const plainBy = (key: string, where = ''): string =>
  `select ${key} as k, sum(case when s.day < '2026-04-01' then s.amount else 0 end), sum(case when s.day >= '2026-04-01' and s.side = 1 then s.amount else 0 end),
     sum(case when s.day >= '2026-04-01' and s.side = -1 then s.amount else 0 end), count(*)
   from line s join account a on a.id = s.account where ${BOOKED} and (not a.temporary or s.day >= '2026-04-01') ${where} group by 1`;
const duckBy = (key: string, where = ''): string =>
  `select ${key} as k, sum(case when date < date '2026-04-01' then amount else 0 end), sum(case when date >= date '2026-04-01' and amount > 0 then amount else 0 end),
     sum(case when date >= date '2026-04-01' and amount < 0 then amount else 0 end), count(*)
   from lines join accounts on code = account where ${RAW} and (type not in ('income', 'expense') or date >= date '2026-04-01') ${where} group by 1`;

const REFERENCES: Reference[] = [
  {
    name: 'trial balance of a half year',
    path: `/trial-balance?${WINDOW}`,
    plain: plainBy('s.account'),
    duck: duckBy('account'),
  },
  {
    name: 'trial balance of a journal',
    path: `/trial-balance?${WINDOW}&journal=S1`,
    plain: plainBy('s.account', `and s.journal = (select id from journal where code = 'S1')`),
    duck: duckBy('account', `and journal = 'S1'`),
  },
  {
    name: 'trial balance of a word',
    path: `/trial-balance?${WINDOW}&text=zirconium`,
    plain: plainBy('s.account', `and s.description ilike '%zirconium%'`),
    duck: duckBy('account', `and description ilike '%zirconium%'`),
  },
  {
    name: 'whole ledger by who posted',
    path: `/sheets?${WINDOW}&by=postedBy`,
    plain: plainBy('s.posted_by'),
    duck: duckBy('posted_by'),
  },
  {
    name: 'whole ledger by two dimensions',
    path: `/sheets?${WINDOW}&by=dim:fund&by=dim:channel`,
    plain: plainBy(`s.d6 * 1000 + s.d5`),
    duck: duckBy(`concat("dim:fund", "dim:channel")`),
  },
  {
    name: 'row 500,000 of one account',
    path: `/lines?entity=${ONE}&accounts=1500&window=everything&at=500000`,
    plain: `select *, sum(amount) over (order by day, entry_number, line_no) from line s where ${BOOKED} and s.account = (select id from account where code = '1500' and entity = s.entity)
      order by day, entry_number, line_no offset 500000 limit 200`,
    duck: `select *, sum(amount) over (order by date, entry, line) from lines where entity = '${ONE}' and account = '1500' order by date, entry, line limit 200 offset 500000`,
  },
];

/** Says what the same questions take here, in plain SQL, and in DuckDB over raw lines. */
export async function beside(
  db: Parameters<typeof rowsOf>[0],
  door: Door,
  files: { lines: string; chart: string },
  say: (text: string) => void,
): Promise<void> {
  const duck = await duckOver(files);
  say(`\n${'the same question'.padEnd(40)}     here | plain SQL |  DuckDB   (ms, medians)`);
  for (const { name, path, plain, duck: sql } of REFERENCES) {
    const mine = await times(() => ask(door, path), 9);
    const theirs = await times(() => rowsOf(db, plain), 3);
    const other = await times(() => duck(sql), 5);
    say(`${name.padEnd(40)} ${cell(mine)} | ${cell(theirs)} | ${cell(other)}`);
  }
}

const cell = (ms: number): string => Math.round(ms).toLocaleString('en').padStart(8);

async function times(act: () => Promise<unknown>, rounds: number): Promise<number> {
  await act();
  const found: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const from = performance.now();
    await act();
    found.push(performance.now() - from);
  }
  return timingOf(found).median;
}

async function duckOver({
  lines,
  chart,
}: {
  lines: string;
  chart: string;
}): Promise<(sql: string) => Promise<unknown>> {
  const { DuckDBInstance } = await import('@duckdb/node-api');
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  await connection.run(`create table accounts as select code, type from read_csv('${chart}', all_varchar = true)`);
  await connection.run(`create table lines as select entity, account, cast(date as date) as date, entry, cast(line as integer) as line, status, journal, posted_by, description,
    "dim:fund", "dim:channel",
    cast(round((coalesce(cast(debit as decimal(18, 2)), 0) - coalesce(cast(credit as decimal(18, 2)), 0)) * 100) as bigint) as amount
    from read_csv('${lines}', all_varchar = true)`);
  return async (sql) => (await connection.runAndReadAll(sql)).getRowsJson();
}
