import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DuckDBInstance, listValue } from '@duckdb/node-api';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { readSheet } from '@/cases/sheets/readSheet';
import { readTrialBalance } from '@/cases/sheets/readTrialBalance';
import { sheetShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { folded, foldedSql } from '@/core/folded';
import { writeDemoFiles, writeRestatement } from '@/demo/files';
import { RESTATED } from '@/demo/restate';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { duckRows, openDuck } from './duck';

// An independent engine (DuckDB) over the demo world's own files, held against our trial balance and splits.

let fresh: Fresh;
let folder: string;
let ask: (sql: string) => Promise<Record<string, unknown>[]>;

beforeAll(async () => {
  fresh = await demoInstallation();
  folder = await mkdtemp(join(tmpdir(), 'just-thread-duck-'));
  const files = await writeDemoFiles(folder);
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  ask = async (sql) => (await connection.runAndReadAll(sql)).getRowObjectsJson() as Record<string, unknown>[];
  await ask(`create table accounts as select code, type from read_csv('${files.chart}', all_varchar = true)`);
  // The months that came again are as they came last.
  const again = await writeRestatement(folder);
  await ask(`create table delivered as
    select * from read_csv('${files.lines}', all_varchar = true)
      where not (entity = '${RESTATED.entity}' and date between '${RESTATED.from}' and '${RESTATED.to}')
    union all by name select * from read_csv('${again}', all_varchar = true)`);
  await ask(`create table lines as
    select entity, account, cast(date as date) as date, coalesce(status, 'posted') as status, coalesce(kind, 'normal') as kind,
      cast(round(coalesce(cast(debit as decimal(18, 2)), 0) * 100) as bigint) as debit,
      cast(round(coalesce(cast(credit as decimal(18, 2)), 0) * 100) as bigint) as credit,
      coalesce(cast(period as integer), (extract(month from cast(date as date)) + 8) % 12 + 1) as period,
      coalesce(cast(year as integer), cast(extract(year from cast(date as date)) + case when extract(month from cast(date as date)) >= 4 then 1 else 0 end as integer)) as year,
      "dim:vessel" as vessel, journal
    from delivered`);
  await ask(`create table placed as select *, year * 100 + period as place from lines where status = 'posted'`);
});
afterAll(async () => {
  await fresh?.close();
  await rm(folder, { recursive: true, force: true });
});

test.each([
  ['KSF', 202701, 202706],
  ['STL', 202601, 202613],
  ['NHS', 202507, 202604],
])('trial balance of %s, periods %i to %i', async (entity, from, to) => {
  const year = Math.floor(from / 100);
  const lastYear = Math.floor(to / 100);
  const temporary = `type in ('income', 'expense')`;
  const expected = await ask(`
    select account,
      sum(case when kind = 'opening' and year = ${year} then debit - credit when place < ${from} and (not ${temporary} or year = ${year}) then debit - credit else 0 end) as opening,
      sum(case when place between ${from} and ${to} and not (kind = 'opening' and year = ${year}) then debit else 0 end) as debit,
      sum(case when place between ${from} and ${to} and not (kind = 'opening' and year = ${year}) then credit else 0 end) as credit,
      sum(case when place <= ${to} and (not ${temporary} or year = ${lastYear}) then debit - credit else 0 end) as closing
    from placed join accounts on code = account where entity = '${entity}' and place <= ${to} group by account order by account`);
  const [result] = await ask(`select
      sum(case when year < ${year} then debit - credit else 0 end) as opening, sum(case when year < ${lastYear} then debit - credit else 0 end) as closing
    from placed join accounts on code = account where entity = '${entity}' and ${temporary}`);
  const period = (p: number): string => `${Math.floor(p / 100)}.${String(p % 100).padStart(2, '0')}`;
  const params = new URLSearchParams({ entity, from: period(from), to: period(to), zero: 'show' });
  const answer = await readTrialBalance(fresh.ctx, fresh.owner, readQuery(trialBalanceShape, params));
  const ours = new Map(answer.rows.map((r) => [r.account, r]));
  const minor = (text: string | undefined): number => Math.round(Number(text ?? '0') * 100);
  for (const row of expected) {
    const mine = ours.get(row.account as string);
    const retained = row.account === '3120';
    expect({
      account: row.account,
      opening: minor(mine?.opening),
      debit: minor(mine?.debit),
      credit: minor(mine?.credit),
      closing: minor(mine?.closing),
    }).toEqual({
      account: row.account,
      opening: Number(row.opening) + (retained ? Number(result?.opening) : 0),
      debit: Number(row.debit),
      credit: Number(row.credit),
      closing: Number(row.closing) + (retained ? Number(result?.closing) : 0),
    });
  }
  expect(expected.length).toBeGreaterThan(20);
  expect(answer.tie?.ok).toBe(true);
});

test.each([
  ['dim:vessel/FLEET', 'vessel'],
  ['journal', 'journal'],
])('split of running costs by %s', async (by, column) => {
  const where = column === 'vessel' ? 'and vessel is not null' : '';
  const expected = await ask(`select ${column} as member, sum(debit - credit) as movement, count(*) as count from placed
    where entity = 'KSF' and account like '6%' and place between 202604 and 202703 ${where} group by 1 order by 1`);
  const params = new URLSearchParams({ entity: 'KSF', accounts: '6*', from: '2026.04', to: '2027.03', by });
  const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
  const moved = sheet.rows
    .filter((r) => r.count > 0)
    .map((r) => ({ member: r.member, movement: Math.round(Number(r.movement) * 100), count: r.count }));
  expect(moved).toEqual(
    expected.map((r) => ({ member: r.member, movement: Number(r.movement), count: Number(r.count) })),
  );
  expect(moved.length).toBeGreaterThan(2);
});

test('texts are folded in the engine as they are everywhere', async () => {
  const instance = await openDuck(':memory:', {});
  const connection = await instance.connect();
  const letters: string[] = [];
  for (let code = 0x20; code < 0xa000; code++) {
    if (code >= 0x1c80 && code < 0x1e00) continue;
    const letter = String.fromCodePoint(code);
    // Marks that Unicode got lately are not known everywhere yet.
    if (/[\p{L}\p{N}\p{P}]/u.test(letter) || (code >= 0x300 && code < 0x370)) letters.push(`a${letter}b`);
  }
  await connection.run('create table t (body varchar)');
  await connection.run('insert into t select unnest($1)', [listValue(letters)]);
  const rows = await duckRows<{ body: string; plain: string }>(
    connection,
    `select body, ${foldedSql('body')} as plain from t`,
  );
  const off = rows.filter(({ body, plain }) => plain !== folded(body));
  expect(off.slice(0, 20)).toEqual([]);
  instance.closeSync();
});
