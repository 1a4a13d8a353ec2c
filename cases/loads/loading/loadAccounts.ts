import { isDate } from '@/core/dates';
import { ACCOUNT_TYPES, type AccountType, STATUSES, usualSide } from '@/core/ledger';
import { isCurrency } from '@/core/money';
import { nearest } from '@/core/selection';
import type { FileRecord } from '@/exchange/fileRecord';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import type { CatalogueEntity } from '@/store/catalogue';
import {
  type AccountRecord,
  accountsWithLines,
  type ChartAccount,
  noteStatuses,
  readChart,
  upsertAccounts,
} from '@/store/charts';
import type { Db } from '@/store/db';
import { emptyCells } from './emptyCells';
import type { LoadJob } from './loadJob';
import { typeOf } from './loadMasterFiles';
import { listed } from './values';

const FLOWS = ['operating', 'investing', 'financing', 'cash'] as const;
/** Other words of the trade for the five types. */
const SAID: { [word: string]: AccountType } = {
  assets: 'asset',
  liabilities: 'liability',
  capital: 'equity',
  revenue: 'income',
  revenues: 'income',
  sales: 'income',
  expenses: 'expense',
  cost: 'expense',
  costs: 'expense',
};
const RULES = ['required', 'optional', 'forbidden'] as const;

/**
 * Reads a chart of accounts: new accounts are added, known ones get the attributes that the file has columns of, and keep
 * the others. Codes never change.
 */
export async function loadAccounts(db: Db, job: LoadJob, problems: Problems): Promise<number> {
  const found: { row: number; entity: CatalogueEntity; account: AccountRecord; postingSaid: boolean }[] = [];
  const seen = new Map<string, number>();
  const known = new Map<number, Map<string, ChartAccount>>();
  for await (const record of readRecords(job.file, problems, job.reading)) {
    job.onRow();
    const said = (record.values.type ?? '').trim().toLowerCase();
    record.values.type = SAID[said] ?? said;
    if (said === '' && job.file.format === 'saft')
      record.values.type = typeOf(record.values, record.values.code ?? '', 'saft');
    const entity = entityOf(record, job, problems);
    if (!entity) continue;
    const chart = known.get(entity.id) ?? new Map((await readChart(db, entity.id)).map((a) => [a.code, a]));
    known.set(entity.id, chart);
    const before = chart.get((record.values.code ?? '').trim());
    if (before) emptyCells(record, (column) => heldOf(before, column), job, problems);
    const account = accountOf(record, problems);
    if (!account) continue;
    const key = `${entity.code}|${account.code}`;
    const first = seen.get(key);
    if (first !== undefined)
      problems.add(record.row, 'code', account.code, `account ${account.code} stands twice, first in row ${first}`);
    seen.set(key, record.row);
    found.push({
      row: record.row,
      entity,
      account: kept({ ...account, entity: entity.id }, before, record.values),
      postingSaid: (record.values.posting ?? '') !== '',
    });
  }
  if (found.length === 0 && problems.count === 0)
    problems.add(null, null, null, 'the file holds a header but no accounts');

  const charts = new Map<string, Map<string, string | null>>();
  const chart = (entity: CatalogueEntity): Map<string, string | null> => {
    const held = charts.get(entity.code) ?? new Map(entity.chart.map((a) => [a.code, a.parent]));
    charts.set(entity.code, held);
    return held;
  };
  for (const { entity, account } of found) chart(entity).set(account.code, account.parent);
  for (const { row, entity, account } of found) {
    const parents = chart(entity);
    if (account.parent !== null && !parents.has(account.parent)) {
      problems.add(
        row,
        'parent',
        account.parent,
        `there is no account “${account.parent}” to be the parent of ${account.code}`,
      );
    } else if (inCircle(account.code, parents)) {
      problems.add(row, 'parent', account.parent, `account ${account.code} is beneath itself; mend its parent`);
    }
  }
  for (const { entity, account, postingSaid } of found) {
    const before = known.get(entity.id)?.get(account.code);
    const isParent = [...chart(entity).values()].includes(account.code);
    if (!postingSaid) account.posting = !isParent && (before?.posting ?? true);
  }
  const booked = await accountsWithLines(db, [...new Set(found.map((f) => f.entity.id))]);
  for (const { row, entity, account } of found) {
    const before = entity.accounts.get(account.code);
    if (!before || !booked.has(before.id)) continue;
    if (before.type !== account.type) {
      problems.add(
        row,
        'type',
        account.type,
        `account ${account.code} has lines as ${before.type}; its type cannot change`,
      );
    }
    if (!account.posting)
      problems.add(row, 'posting', 'no', `account ${account.code} has lines; it cannot become a heading`);
  }
  if (problems.count > 0) return found.length;
  await upsertAccounts(
    db,
    found.map((f) => f.account),
  );
  const changed = found.flatMap(({ entity, account }) => {
    const was = known.get(entity.id)?.get(account.code)?.status;
    return was === undefined || was === account.status
      ? []
      : [{ load: job.id, entity: entity.id, code: account.code, was, status: account.status }];
  });
  await noteStatuses(db, changed);
  return found.length;
}

function entityOf({ row, values }: FileRecord, job: LoadJob, problems: Problems): CatalogueEntity | null {
  const code = (values.entity ?? '').trim() || job.entity?.code;
  const entity = code === undefined ? undefined : job.catalogue.entities.get(code);
  if (!entity || (job.entity && job.entity.code !== code)) {
    problems.add(
      row,
      'entity',
      code ?? null,
      code ? `this load has no entity “${code}”` : 'the entity is missing; name it with the load',
    );
    return null;
  }
  return entity;
}

function accountOf({ row, values }: FileRecord, problems: Problems): AccountRecord | null {
  const before = problems.count;
  const fault = (column: string, message: string): void => problems.add(row, column, values[column] ?? null, message);
  const text = (column: string): string | null => (values[column] ?? '').trim() || null;
  const oneOf = <T extends string>(column: string, words: readonly T[], fallback: T | null): T | null => {
    const word = text(column)?.toLowerCase();
    if (!word) return fallback;
    const known = words.find((w) => w === word);
    if (!known)
      fault(
        column,
        `“${word}” is none of ${words.join(', ')}${nearest(word, words).length ? `; is it ${nearest(word, words)[0]}?` : ''}`,
      );
    return known ?? fallback;
  };
  const code = text('code');
  if (!code) fault('code', 'the account code is missing');
  else if (/[,;*?]|\s/.test(code)) fault('code', 'an account code holds no spaces, commas, semicolons, * or ?');
  if (!text('name')) fault('name', 'the account name is missing');
  const type = oneOf<AccountType>('type', ACCOUNT_TYPES, null);
  if (!text('type')) fault('type', `the type is missing; it is one of ${ACCOUNT_TYPES.join(', ')}`);
  const posting = oneOf('posting', ['yes', 'no'] as const, 'yes');
  const currency = text('currency');
  if (currency && !isCurrency(currency)) fault('currency', `“${currency}” is no ISO 4217 currency`);
  const created = text('created_at');
  if (created && !isDate(created.slice(0, 10))) fault('created_at', `“${created}” is no date`);
  const dimRules: AccountRecord['dim_rules'] = {};
  for (const column of Object.keys(values)) {
    if (!column.startsWith('dim:')) continue;
    const rule = oneOf(column, RULES, null);
    if (rule && rule !== 'optional') dimRules[column.slice(4)] = rule;
  }
  if (problems.count > before || !type || !code) return null;
  return {
    entity: 0,
    code,
    name: text('name') as string,
    names: prefixed(values, 'name:'),
    type,
    parent: text('parent'),
    posting: posting === 'yes',
    status: oneOf('status', STATUSES, 'active') as string,
    normal: oneOf('normal', ['debit', 'credit'] as const, usualSide(type as AccountType)) as string,
    flow: oneOf('flow', FLOWS, null),
    groups: listed(text('group')),
    classification: text('classification'),
    currency,
    created_at: created,
    created_by: text('created_by'),
    codes: prefixed(values, 'code:'),
    dim_rules: dimRules,
  };
}

/** What is known of an account under a column of a file, as text; what every account has unless it is said is nothing. */
function heldOf(account: ChartAccount, column: string): string {
  const [prefix, key] = column.split(/:(.*)/s);
  if (key !== undefined) {
    const by = { name: account.names, code: account.codes, dim: account.dim_rules }[prefix as string];
    return (by as Record<string, string> | undefined)?.[key] ?? '';
  }
  if (column === 'group') return account.groups.join('; ');
  if (column === 'status') return account.status === 'active' ? '' : account.status;
  if (column === 'normal') return account.normal === usualSide(account.type) ? '' : account.normal;
  const field = BY_COLUMN[column];
  return field === undefined ? '' : String(account[field] ?? '');
}

/** Attributes of an account by the column that they are in. */
const BY_COLUMN: { [column: string]: keyof AccountRecord } = {
  parent: 'parent',
  status: 'status',
  normal: 'normal',
  flow: 'flow',
  group: 'groups',
  classification: 'classification',
  currency: 'currency',
  created_at: 'created_at',
  created_by: 'created_by',
};

/** An account as a file has it, with what it was before where the file has no column of that. */
function kept(account: AccountRecord, before: ChartAccount | undefined, values: FileRecord['values']): AccountRecord {
  if (!before) return account;
  const held = Object.entries(BY_COLUMN).flatMap(([column, field]) =>
    column in values ? [] : [[field, before[field]]],
  );
  return {
    ...account,
    ...Object.fromEntries(held),
    names: keptBy(before.names, account.names, values, 'name:'),
    codes: keptBy(before.codes, account.codes, values, 'code:'),
    dim_rules: keptBy(before.dim_rules, account.dim_rules, values, 'dim:'),
  };
}

/** The same of attributes that have a column each. */
export const keptBy = <Value>(
  before: { [key: string]: Value },
  now: { [key: string]: Value },
  values: FileRecord['values'],
  prefix: string,
): { [key: string]: Value } => ({
  ...Object.fromEntries(Object.entries(before).filter(([key]) => !(prefix + key in values))),
  ...now,
});

/** `name:nb` = Diesel → { nb: "Diesel" } */
export function prefixed(values: { [column: string]: string }, prefix: string): { [key: string]: string } {
  const found: { [key: string]: string } = {};
  for (const [column, value] of Object.entries(values)) {
    if (column.startsWith(prefix) && value.trim() !== '') found[column.slice(prefix.length)] = value.trim();
  }
  return found;
}

/** Whether following parents from a code leads back to it. */
export function inCircle(code: string, parents: ReadonlyMap<string, string | null>): boolean {
  const path = new Set<string>();
  for (let at: string | null = code; at !== null; at = parents.get(at) ?? null) {
    if (path.has(at)) return true;
    path.add(at);
  }
  return false;
}
