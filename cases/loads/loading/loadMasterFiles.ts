import { calendar, periodText } from '@/core/calendar';
import { ACCOUNT_TYPES, type AccountType, usualSide } from '@/core/ledger';
import { exponentOf, parseAmount } from '@/core/money';
import { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import { recognise } from '@/exchange/recognise';
import { type SaftStated, saftStated } from '@/exchange/saft';
import type { CatalogueEntity } from '@/store/catalogue';
import { type AccountRecord, accountIds, upsertAccounts, upsertDimension, upsertMembers } from '@/store/charts';
import type { Db } from '@/store/db';
import { balancesAt, balancesBefore, type CheckRow, periodsWithLines } from '@/store/deliveries';
import { openSlot } from '@/store/layers';
import { periodsOfLoad } from '@/store/loads';
import { type PartyRecord, readParties, upsertParties } from '@/store/parties';
import type { Stage } from '@/store/stage';
import type { LoadJob } from './loadJob';
import { newParty, PARTY_TEXTS } from './loadParties';
import { openingLine } from './openings';

/**
 * What a standard audit file brings beside its lines: accounts and analysis members that are not there yet are added
 * (known ones stay as they are), and what it states of itself is read for comparison.
 */
export async function loadMasterFiles(
  db: Db,
  job: LoadJob,
): Promise<SaftStated & { parties: ReadonlyMap<string, string> }> {
  const unread = new Problems();
  if (job.entity) {
    const fresh: AccountRecord[] = [];
    for await (const { values } of readRecords({ ...job.file, kind: 'accounts' }, unread)) {
      const { code = '', name = '' } = values;
      if (code !== '' && !job.entity.accounts.has(code) && !fresh.some((a) => a.code === code)) {
        fresh.push(
          newAccount(
            job.entity,
            code,
            name || code,
            typeOf(values, code, 'saft'),
            `from load ${job.id}`,
            values['code:standard'],
          ),
        );
      }
    }
    await upsertAccounts(db, fresh);
  }
  const members = new Map<string, { name: string; list: Map<string, string> }>();
  for await (const { values } of readRecords({ ...job.file, kind: 'dimensions' }, unread)) {
    const { dimension = '', code = '', name = '' } = values;
    if (job.catalogue.dimensions.get(dimension)?.members.has(code)) continue;
    const held = members.get(dimension) ?? { name: values.dimension_name ?? '', list: new Map<string, string>() };
    members.set(dimension, held);
    held.list.set(code, name || code);
  }
  for (const [code, { name, list }] of members) {
    const { id, slot, isNew } = await upsertDimension(
      db,
      code,
      job.catalogue.dimensions.has(code) ? null : name || null,
    );
    if (isNew) await openSlot(db, slot);
    const rows = [...list].map(([member, named]) => ({
      code: member,
      name: named,
      names: {},
      parent: null,
      valid_from: null,
      valid_to: null,
      groups: [],
    }));
    await upsertMembers(db, id, rows);
  }
  const { source, reading } = await recognise(job.file);
  return { ...(await saftStated(source, reading)), parties: await partiesOf(db, job) };
}

/** Adds the customers and suppliers that the file has and nobody knew. @returns the names of all of them by code */
async function partiesOf(db: Db, job: LoadJob): Promise<Map<string, string>> {
  const found = new Map<string, PartyRecord>();
  for await (const { values } of readRecords({ ...job.file, kind: 'parties' }, new Problems())) {
    const { code = '', name = '', country = '', ...rest } = values;
    const own = found.get(code);
    const kind = values.kind === 'supplier' ? 'supplier' : 'customer';
    found.set(code, {
      ...newParty(code, name),
      ...own,
      ...Object.fromEntries(PARTY_TEXTS.flatMap((c) => (rest[c] ? [[c, rest[c]]] : []))),
      country: /^[A-Z]{2}$/.test(country) ? country : (own?.country ?? ''),
      kind: own && own.kind !== kind ? 'both' : kind,
    });
  }
  const before = new Map((await readParties(db, [...found.keys()])).map((p) => [p.code, p]));
  await upsertParties(
    db,
    // One that lines have named before has a name, and nothing else.
    [...found.values()].filter((p) => (before.get(p.code)?.kind ?? null) === null),
  );
  return new Map([...found.values()].map((p) => [p.code, p.name]));
}

/** An account as it is made where a file brings it without a chart. */
export const newAccount = (
  entity: CatalogueEntity,
  code: string,
  name: string,
  type: AccountType,
  note: string,
  standard?: string,
): AccountRecord => ({
  entity: entity.id,
  code,
  name,
  names: {},
  type,
  parent: null,
  posting: true,
  status: 'active',
  normal: usualSide(type),
  flow: null,
  groups: [],
  classification: note,
  currency: null,
  created_at: null,
  created_by: null,
  codes: standard ? { standard } : {},
  dim_rules: {},
});

/** Account classes of the general chart of the French decree (Plan comptable général): 1 equity, 16 to 19 debts, and so on. */
const FRENCH: [RegExp, AccountType][] = [
  [/^1[6-9]/, 'liability'],
  [/^1/, 'equity'],
  [/^(2|3)/, 'asset'],
  [/^4(0|2|3|4|5|6|7|8)/, 'liability'],
  [/^4/, 'asset'],
  [/^519/, 'liability'],
  [/^5/, 'asset'],
  [/^6/, 'expense'],
  [/^7/, 'income'],
];
/** Common practice of charts in the Nordic countries: 1 assets, 20 equity, 2 debts, 3 income, above that costs. */
const NORDIC: [RegExp, AccountType][] = [
  [/^1/, 'asset'],
  [/^20/, 'equity'],
  [/^2/, 'liability'],
  [/^3/, 'income'],
  [/^[4-9]/, 'expense'],
];

/** The type that a file gives an account, else the one that its class in the format's usual chart suggests. */
export function typeOf(
  values: { [field: string]: string | undefined },
  code: string,
  format: string | null,
): AccountType {
  const said = (values.account_type || values.type || '').toLowerCase();
  const known = ACCOUNT_TYPES.find((t) => t === said);
  if (known) return known;
  const by = values['code:standard'] || code;
  const classes = format === 'fec' ? FRENCH : NORDIC;
  return classes.find(([pattern]) => pattern.test(by))?.[1] ?? 'asset';
}

/** Compares the totals that the file states with the staged lines: entries, debits, credits. */
export async function statedTotals(stage: Stage, job: LoadJob, stated: SaftStated): Promise<CheckRow[]> {
  const { entity } = job;
  if (!entity) return [];
  const digits = exponentOf(entity.currency);
  const [total] = await stage.rows<{ entries: number; debit: number; credit: number }>(
    `select count(distinct entry_number) as entries, coalesce(sum(amount) filter (where side = 1), 0) as debit,
       coalesce(-sum(amount) filter (where side = -1), 0) as credit from staged_line`,
  );
  if (!total) return [];
  const checks: CheckRow[] = [];
  const one = { entity: entity.id, account: null, period: null };
  if (stated.entries !== null) checks.push({ ...one, what: 'entries', stated: stated.entries, found: total.entries });
  if (stated.debit !== null)
    checks.push({ ...one, what: 'debits', stated: parseAmount(stated.debit, digits), found: total.debit });
  if (stated.credit !== null)
    checks.push({ ...one, what: 'credits', stated: parseAmount(stated.credit, digits), found: total.credit });
  return checks;
}

/**
 * Stages the opening balances that the file states, where the ledger has nothing before its first period and the
 * stated closing balances need them: closing = opening + movement.
 * @returns whether they were taken
 */
export async function stageStatedOpenings(db: Db, stage: Stage, job: LoadJob, stated: SaftStated): Promise<boolean> {
  const { entity } = job;
  if (!entity) return false;
  const digits = exponentOf(entity.currency);
  const openings = stated.balances
    .filter((b) => b.opening !== null)
    .map((b) => ({ ...b, minor: parseAmount(b.opening as string, digits) }));
  if (openings.every((b) => b.minor === 0) || openings.reduce((sum, b) => sum + b.minor, 0) !== 0) return false;
  const first = await stage.firstPeriod();
  if (first === null || (await periodsWithLines(db, entity.id)).some((p) => p.period <= first)) return false;
  const ids = await accountIds(db, entity.id);
  const moved = await stage.sumsByAccount();
  const needed = openings.filter((b) => b.closing !== null && b.minor !== 0);
  if (
    needed.some(
      (b) => parseAmount(b.closing as string, digits) !== b.minor + (moved.get(ids.get(b.account) as number) ?? 0),
    )
  )
    return false;
  const cal = calendar(entity.calendar);
  const period = cal.period(first);
  const writer = await stage.writer();
  let line = 0;
  for (const { account, minor } of openings) {
    if (minor === 0) continue;
    line += 1;
    writer.write({
      ...openingLine(entity.id, `OPENING-${periodText(first)}`, line, ids.get(account) as number, minor),
      postingDate: period.from,
      day: period.from,
      period: first,
      dayPeriod: first,
    });
  }
  writer.end();
  return true;
}

/** Compares stated balances with the ledger's, account by account, once the lines are laid. */
export async function statedBalances(
  db: Db,
  job: LoadJob,
  stated: SaftStated,
  openingsTaken: boolean,
): Promise<CheckRow[]> {
  const { entity } = job;
  if (!entity) return [];
  const digits = exponentOf(entity.currency);
  const span = await periodsOfLoad(db, job.id);
  if (span === null) return [];
  const before = new Map(
    (await balancesBefore(db, entity.id, Math.floor(span.first / 100) * 100, job.id)).map((b) => [
      b.account,
      b.balance,
    ]),
  );
  const after = new Map((await balancesAt(db, entity.id, span.last, job.id)).map((b) => [b.account, b.balance]));
  const ids = await accountIds(db, entity.id);
  const checks: CheckRow[] = [];
  for (const { account, opening, closing } of stated.balances) {
    const id = ids.get(account);
    if (id === undefined) continue;
    const at = { entity: entity.id, account };
    if (opening !== null && !openingsTaken) {
      checks.push({
        ...at,
        what: 'opening balance',
        period: span.first,
        stated: parseAmount(opening, digits),
        found: before.get(id) ?? 0,
      });
    }
    if (closing !== null)
      checks.push({
        ...at,
        what: 'closing balance',
        period: span.last,
        stated: parseAmount(closing, digits),
        found: after.get(id) ?? 0,
      });
  }
  return checks;
}
