import { calendar, type Period, periodText } from '@/core/calendar';
import { exponentOf, formatAmount } from '@/core/money';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import type { CatalogueAccount, CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { balancesAt, type CheckRow, earlierResult, keepChecks, periodsWithLines } from '@/store/deliveries';
import { layStaged } from '@/store/layers';
import type { Stage } from '@/store/stage';
import { Fields } from './fields';
import type { LoadJob } from './loadJob';
import { openingLine } from './openings';
import type { Values } from './values';

interface Balance {
  row: number;
  account: CatalogueAccount;
  minor: number;
}

interface StatedBalances {
  entity: CatalogueEntity;
  period: Period;
  balances: Balance[];
}

/**
 * A trial balance without lines. Where the ledger has no lines up to its period it becomes the openings, one entry of
 * kind opening on the period's last day; where it has, it is a check total, compared account by account.
 * @param use openings or check, if the person who loads said so
 */
export async function loadTrialBalance(
  db: Db,
  stage: Stage,
  job: LoadJob,
  problems: Problems,
  use: 'openings' | 'check' | undefined,
): Promise<{ lines: number; entries: number }> {
  const stated = await readBalances(job, problems);
  if (problems.count > 0) return { lines: 0, entries: 0 };
  let lines = 0;
  const openings: StatedBalances[] = [];
  const checks: CheckRow[] = [];
  for (const one of stated.values()) {
    lines += one.balances.length;
    const has = (await periodsWithLines(db, one.entity.id)).some((p) => p.period <= one.period.ordinal);
    if (use === 'check' || (use === undefined && has)) checks.push(...(await compared(db, job.id, one)));
    else if (has) {
      const named = periodText(one.period.ordinal);
      problems.add(
        null,
        null,
        named,
        `${one.entity.code} has lines up to ${named} already; openings would count them twice. Load the balances as a check`,
      );
    } else openings.push(one);
  }
  for (const one of openings) checkBalanced(one, problems);
  if (problems.count > 0) return { lines: 0, entries: 0 };
  await keepChecks(db, job.id, checks);
  if (openings.length === 0) return { lines, entries: 0 };
  await stageOpenings(stage, openings);
  return layStaged(db, job.outside, stage, job.id);
}

async function readBalances(job: LoadJob, problems: Problems): Promise<Map<string, StatedBalances>> {
  const fields = new Fields(job, problems);
  const stated = new Map<string, StatedBalances>();
  const seen = new Map<string, number>();
  let rows = 0;
  for await (const { row, values } of readRecords(job.file, problems, job.reading)) {
    rows += 1;
    job.onRow();
    const fault = fields.fault(row, values);
    const entity = fields.entity(values.entity, fault);
    if (!entity) continue;
    const account = await fields.account(entity, values, fault);
    const period = fields.period(entity, values, fault);
    const amounts: Values = values.closing ? { amount: values.closing } : withoutZeroSide(values);
    const amount = fields.amount(entity, amounts, fault);
    if (!account || !period || !amount) continue;
    const key = `${entity.code}|${period.ordinal}`;
    const first = seen.get(`${key}|${account.code}`);
    if (first !== undefined)
      fault('account', `account ${account.code} stands twice for ${periodText(period.ordinal)}, first in row ${first}`);
    seen.set(`${key}|${account.code}`, row);
    const one = stated.get(key) ?? { entity, period, balances: [] };
    stated.set(key, one);
    one.balances.push({ row, account, minor: amount.minor });
  }
  if (rows === 0 && problems.count === 0) problems.add(null, null, null, 'the file holds a header but no balances');
  return stated;
}

/** An account without a balance has both sides empty in many trial balances. */
const withoutZeroSide = (values: Values): Values =>
  values.amount || values.debit || values.credit ? values : { ...values, amount: '0' };

function checkBalanced({ entity, period, balances }: StatedBalances, problems: Problems): void {
  const off = balances.reduce((sum, b) => sum + b.minor, 0);
  if (off === 0) return;
  const text = formatAmount(Math.abs(off), exponentOf(entity.currency));
  const more = off > 0 ? 'debits exceed credits' : 'credits exceed debits';
  problems.add(
    null,
    null,
    periodText(period.ordinal),
    `the balances of ${entity.code} at ${periodText(period.ordinal)} do not balance: ${more} by ${text}`,
  );
}

async function stageOpenings(stage: Stage, openings: readonly StatedBalances[]): Promise<void> {
  const writer = await stage.writer();
  for (const { entity, period, balances } of openings) {
    const dayPeriod = calendar(entity.calendar).periodAt(period.to).ordinal;
    let line = 0;
    for (const { row, account, minor } of balances) {
      if (minor === 0) continue;
      line += 1;
      writer.write({
        ...openingLine(entity.id, `OPENING-${periodText(period.ordinal)}`, line, account.id, minor),
        row,
        postingDate: period.to,
        day: period.to,
        period: period.ordinal,
        dayPeriod,
      });
    }
  }
  writer.end();
}

async function compared(db: Db, load: number, { entity, period, balances }: StatedBalances): Promise<CheckRow[]> {
  const found = new Map((await balancesAt(db, entity.id, period.ordinal, load)).map((b) => [b.account, b.balance]));
  if (entity.yearEnd === 'derived') {
    const retained = entity.accounts.get(entity.retainedEarnings);
    if (retained)
      found.set(
        retained.id,
        (found.get(retained.id) ?? 0) + (await earlierResult(db, entity.id, period.ordinal, load)),
      );
  }
  const stated = new Map(balances.map((b) => [b.account.id, b.minor]));
  const accounts = entity.chart.filter((a) => stated.has(a.id) || (found.get(a.id) ?? 0) !== 0);
  return accounts.map((a) => ({
    what: 'closing balance',
    entity: entity.id,
    account: a.code,
    period: period.ordinal,
    stated: stated.get(a.id) ?? 0,
    found: found.get(a.id) ?? 0,
  }));
}
