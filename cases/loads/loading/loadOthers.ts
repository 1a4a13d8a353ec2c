import {
  type CalendarSpec,
  type CustomPeriod,
  calendar,
  calendarFaults,
  type Period,
  periodText,
  yearOf,
} from '@/core/calendar';
import { isDate } from '@/core/dates';
import { isCurrency } from '@/core/money';
import type { FileRecord } from '@/exchange/fileRecord';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import type { CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';
import {
  type HoldingRow,
  periodsWithLines,
  replaceCalendar,
  replaceSame,
  rowWriter,
  slotColumns,
  upsertHoldings,
} from '@/store/deliveries';
import { findControlAccounts, replaceLinks } from '@/store/documents';
import { idOfCode } from '@/store/staging';
import { holdingOf } from '../../charts/holdingOf';
import { Fields } from './fields';
import { prefixed } from './loadAccounts';
import type { LoadJob } from './loadJob';
import { type Fault, text, type Values } from './values';

/** What a load of one of the smaller kinds came to. */
export interface Laid {
  lines: number;
  replaced: number;
}

/** Reads every record and keeps what it becomes; after the first problem nothing more is kept, since all is undone. */
export async function each(
  job: LoadJob,
  problems: Problems,
  named: string,
  keep: (record: FileRecord, fault: Fault, fields: Fields) => Promise<(() => Promise<void>) | null>,
): Promise<number> {
  const fields = new Fields(job, problems);
  let rows = 0;
  for await (const record of readRecords(job.file, problems, job.reading)) {
    rows += 1;
    job.onRow();
    const fault = fields.fault(record.row, record.values);
    const lay = await keep(record, fault, fields);
    if (lay && problems.count === 0) await lay();
  }
  if (rows === 0 && problems.count === 0) problems.add(null, null, null, `the file holds a header but no ${named}`);
  return rows;
}

export function needed(values: Values, column: string, fault: Fault): string | null {
  const value = text(values, column);
  if (value === '') fault(column, `the ${column.replaceAll('_', ' ')} is missing`);
  return value || null;
}

function dateOf(values: Values, column: string, fault: Fault, required: boolean): string | null {
  const value = text(values, column);
  if (value === '' && !required) return null;
  if (isDate(value)) return value;
  fault(
    column,
    value === '' ? `the ${column.replaceAll('_', ' ')} is missing` : `“${value}” is no date; write it as 2026-04-30`,
  );
  return null;
}

function moneyOf(
  column: string,
  missing: string,
  values: Values,
  currency: string,
  fault: Fault,
  fields: Fields,
): number | null {
  if (values[column]) return fields.money(column, values, currency, fault);
  fault(column, missing);
  return null;
}

const counterpartyOf = async (job: LoadJob, values: Values): Promise<number> => {
  const code = text(values, 'counterparty');
  return code === '' ? 0 : idOfCode(job.outside, 'counterparty', code, text(values, 'counterparty_name') || code);
};

/** Budgets in named versions. A version given again replaces what was in it for the periods that the file has. */
export async function loadBudgets(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'budget');
  const lines = await each(job, problems, 'budget lines', async ({ values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const version = needed(values, 'version', fault);
    if (!entity) return null;
    const account = await fields.account(entity, values, fault);
    const period = fields.period(entity, values, fault);
    const amount = fields.amount(entity, values, fault);
    // A budget is set at the level that its owner chose: an account's rules for lines do not bind it.
    const dims = fields.dims(null, values, fault);
    if (!version || !account || !period || !amount) return null;
    return () =>
      writer.add({
        load: job.id,
        entity: entity.id,
        version,
        account: account.id,
        period: period.ordinal,
        amount: amount.minor,
        description: text(values, 'description'),
        ...slotColumns(dims),
      });
  });
  await writer.flush();
  return {
    lines,
    replaced: problems.count === 0 ? await replaceSame(db, 'budget', job.id, ['entity', 'version', 'period']) : 0,
  };
}

/** Open commitments: the newest list of an entity is the one that counts. */
export async function loadCommitments(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'commitment');
  const seen = new Map<string, number>();
  const lines = await each(job, problems, 'commitments', async ({ row, values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const number = needed(values, 'number', fault);
    const date = dateOf(values, 'date', fault, true);
    const due = dateOf(values, 'due_date', fault, false);
    const line = text(values, 'line') || '1';
    if (!/^\d{1,9}$/.test(line)) fault('line', `“${line}” is no line number; write a whole number`);
    if (!entity) return null;
    const key = `${entity.code}|${number}|${line}`;
    const first = seen.get(key);
    if (first !== undefined) fault('line', `line ${line} of commitment ${number} stands twice, first in row ${first}`);
    seen.set(key, row);
    const account = await fields.account(entity, values, fault);
    const amount = moneyOf('amount', 'the open amount is missing', values, entity.currency, fault, fields);
    const ordered = values.ordered ? fields.money('ordered', values, entity.currency, fault) : null;
    const dims = fields.dims(account, values, fault);
    const period = date ? fields.period(entity, { date: due ?? date }, fault) : null;
    if (!number || !date || !account || amount === null || !period) return null;
    const counterparty = await counterpartyOf(job, values);
    return () =>
      writer.add({
        load: job.id,
        entity: entity.id,
        number,
        line_no: Number(line),
        date,
        due_date: due,
        period: period.ordinal,
        account: account.id,
        counterparty,
        amount,
        ordered,
        description: text(values, 'description'),
        ...slotColumns(dims),
      });
  });
  await writer.flush();
  return { lines, replaced: problems.count === 0 ? await replaceSame(db, 'commitment', job.id, ['entity']) : 0 };
}

/** Exchange rates, shared by all entities. A rate given again for a day replaces the former. */
export async function loadRates(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'rate');
  const seen = new Map<string, number>();
  const lines = await each(job, problems, 'rates', async ({ row, values }, fault) => {
    const date = dateOf(values, 'date', fault, true);
    for (const column of ['from', 'to'])
      if (!isCurrency(text(values, column))) fault(column, `“${text(values, column)}” is no ISO 4217 currency`);
    const kind = text(values, 'kind').toLowerCase() || 'closing';
    if (kind !== 'closing' && kind !== 'average') fault('kind', `a rate is closing or average, not “${kind}”`);
    const rate = text(values, 'rate');
    if (!/^\d{1,12}(\.\d{1,12})?$/.test(rate) || Number(rate) === 0)
      fault('rate', `“${rate}” is no rate; write a number above zero with a decimal point`);
    const [from, to] = [text(values, 'from'), text(values, 'to')];
    if (from === to && from !== '') fault('to', 'a rate is between two currencies');
    const key = [date, from, to, kind].join('|');
    const first = seen.get(key);
    if (first !== undefined)
      fault('rate', `the ${kind} rate of ${from} to ${to} on ${date} stands twice, first in row ${first}`);
    seen.set(key, row);
    return () => writer.add({ load: job.id, date, from_currency: from, to_currency: to, kind, rate });
  });
  await writer.flush();
  return {
    lines,
    replaced:
      problems.count === 0
        ? await replaceSame(db, 'rate', job.id, ['date', 'from_currency', 'to_currency', 'kind'])
        : 0,
  };
}

/**
 * Documents with what they settle and the files attached to them. A number may be in several rows: the first is the
 * document, every row with a source is a link by the amount applied. A document given again replaces the former.
 * @param files which of the names that come with the load are there, with their digest and size
 */
export async function loadDocuments(
  db: Db,
  job: LoadJob,
  problems: Problems,
  files: (name: string) => Promise<{ digest: string; bytes: number } | null>,
): Promise<Laid> {
  const documents = rowWriter(db, 'document');
  const links = rowWriter(db, 'document_link');
  const attachments = rowWriter(db, 'attachment');
  const seen = new Map<string, string>();
  const lines = await each(job, problems, 'documents', async ({ values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const number = needed(values, 'number', fault);
    if (!entity || !number) return null;
    const type = needed(values, 'type', fault)?.toLowerCase();
    const date = dateOf(values, 'date', fault, true);
    const due = dateOf(values, 'due_date', fault, false);
    const currency = text(values, 'currency') || entity.currency;
    if (!isCurrency(currency)) fault('currency', `“${currency}” is no ISO 4217 currency`);
    const amount = moneyOf('amount', 'the amount is missing', values, currency, fault, fields);
    const account = text(values, 'account') ? await fields.account(entity, values, fault) : null;
    const source = text(values, 'source');
    if (source === number) fault('source', 'a document does not settle itself');
    const applied = source && values.applied ? fields.money('applied', values, currency, fault) : null;
    if (source && !values.applied) fault('applied', `how much of ${source} this settles is missing`);
    const on = dateOf(values, 'applied_date', fault, false) ?? date;
    const name = text(values, 'attachment');
    const file = name ? await files(name) : null;
    if (name && !file)
      fault('attachment', `the file “${name}” did not come with the load; send the table and its files as one zip`);
    if (!type || !date || amount === null) return null;
    const counterparty = await counterpartyOf(job, values);
    const base = { load: job.id, entity: entity.id };
    const key = `${entity.id}|${number}`;
    const content = [type, date, due, currency, amount].join('|');
    const former = seen.get(key);
    if (former !== undefined && former !== content)
      fault('number', `document ${number} stands twice with different content`);
    seen.set(key, content);
    return async () => {
      if (former === undefined) {
        const description = text(values, 'description');
        await documents.add({
          ...base,
          number,
          type,
          date,
          due_date: due,
          counterparty,
          currency,
          amount,
          account: account?.id ?? null,
          description,
        });
      }
      if (source && applied !== null) await links.add({ ...base, source, target: number, applied, date: on });
      if (file) await attachments.add({ ...base, document: number, name, ...file });
    };
  });
  for (const writer of [documents, links, attachments]) await writer.flush();
  if (problems.count > 0) return { lines, replaced: 0 };
  const replaced = await replaceSame(db, 'document', job.id, ['entity', 'number']);
  await replaceLinks(db, job.id);
  await replaceSame(db, 'attachment', job.id, ['entity', 'document', 'name']);
  await findControlAccounts(db, job.id, 'documents');
  return { lines, replaced };
}

/** The periods of an entity's calendar as a list. Periods that hold lines keep their dates. */
export async function loadCalendar(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const periods = new Map<CatalogueEntity, CustomPeriod[]>();
  const lines = await each(job, problems, 'periods', async ({ values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const whole = (column: string, least: number, most: number): number => {
      const value = Number(text(values, column));
      if (!Number.isInteger(value) || value < least || value > most)
        fault(column, `“${text(values, column)}” is no ${column}; write a whole number`);
      return value;
    };
    const [year, number] = [whole('year', 2000, 2199), whole('number', 1, 99)];
    const [from, to] = [dateOf(values, 'from', fault, true), dateOf(values, 'to', fault, true)];
    const adjustment = /^(yes|true|1)$/i.test(text(values, 'adjustment'));
    if (!entity || !from || !to) return null;
    const list = periods.get(entity) ?? [];
    periods.set(entity, list);
    list.push({ year, number, from, to, ...(adjustment ? { adjustment } : {}) });
    return null;
  });
  if (problems.count > 0) return { lines: 0, replaced: 0 };
  for (const [entity, list] of periods) {
    const spec: CalendarSpec = { kind: 'custom', periods: list };
    for (const fault of calendarFaults(spec)) problems.add(null, null, null, `${entity.code}: ${fault}`);
    if (problems.count > 0) continue;
    const [before, after] = [calendar(entity.calendar), calendar(spec)];
    for (const { period } of await periodsWithLines(db, entity.id)) {
      const was = before.periodsOf(yearOf(period)).find((p) => p.ordinal === period);
      const is = after.periodsOf(yearOf(period)).find((p) => p.ordinal === period);
      if (is && was && same(was, is)) continue;
      const named = periodText(period);
      problems.add(
        null,
        null,
        named,
        `${entity.code} has lines in period ${named}; its dates cannot change (${was?.from} to ${was?.to})`,
      );
    }
    if (problems.count === 0) await replaceCalendar(db, entity.id, spec);
  }
  return { lines, replaced: 0 };
}

const same = (a: Period, b: Period): boolean => a.from === b.from && a.to === b.to && a.adjustment === b.adjustment;

/** Tax codes with the boxes of the return that they go into. A code given again replaces the former. */
export async function loadTaxCodes(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'tax_code');
  const seen = new Map<string, number>();
  const lines = await each(job, problems, 'tax codes', async ({ row, values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const [code, name] = [needed(values, 'code', fault), needed(values, 'name', fault)];
    if (!entity || !code || !name) return null;
    const key = `${entity.code}|${code}`;
    const first = seen.get(key);
    if (first !== undefined) fault('code', `tax code ${code} stands twice, first in row ${first}`);
    seen.set(key, row);
    const [rate, box, netBox] = ['rate', 'box', 'net_box'].map((column) => text(values, column));
    return () => writer.add({ load: job.id, entity: entity.id, code, name, rate, box, net_box: netBox });
  });
  await writer.flush();
  return { lines, replaced: problems.count === 0 ? await replaceSame(db, 'tax_code', job.id, ['entity', 'code']) : 0 };
}

/** What the codes of a statutory scheme are called. A code given again replaces the former. */
export async function loadSchemes(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'scheme_caption');
  const seen = new Map<string, number>();
  const lines = await each(job, problems, 'captions', async ({ row, values }, fault) => {
    const [scheme, code] = [needed(values, 'scheme', fault), needed(values, 'code', fault)];
    const name = needed(values, 'name', fault);
    if (!scheme || !code || !name) return null;
    const key = JSON.stringify([scheme, code]);
    const first = seen.get(key);
    if (first !== undefined) fault('code', `code ${code} of ${scheme} stands twice, first in row ${first}`);
    seen.set(key, row);
    return () => writer.add({ load: job.id, scheme, code, name, names: JSON.stringify(prefixed(values, 'name:')) });
  });
  await writer.flush();
  const replaced = problems.count === 0 ? await replaceSame(db, 'scheme_caption', job.id, ['scheme', 'code']) : 0;
  return { lines, replaced };
}

/** The register of bank accounts and cash boxes, each with the ledger account that it is tied to. */
export async function loadHoldings(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const found: HoldingRow[] = [];
  const lines = await each(job, problems, 'holdings', async ({ values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    if (!entity) return null;
    const [number, name] = [needed(values, 'number', fault), needed(values, 'name', fault)];
    const account = await fields.account(entity, values, fault);
    const holding = holdingOf({ ...values, account: account?.code ?? '' }, entity.currency, fault);
    if (number && name && account && holding)
      found.push({ entity: entity.id, number, name, account: account.code, ...holding });
    return null;
  });
  if (problems.count === 0) await upsertHoldings(db, found);
  return { lines, replaced: 0 };
}
