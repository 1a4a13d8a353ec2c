import { CalendarError, calendar, dayOf, ordinal, type Period, parsePeriod, periodText } from '@/core/calendar';
import { isDate } from '@/core/dates';
import { LINE_KINDS } from '@/core/ledger';
import { AmountRangeError, exponentOf, formatAmount, parseAmount } from '@/core/money';
import { nearest } from '@/core/selection';
import { type Record, readCsv } from '@/exchange/csv';
import type { Problems } from '@/exchange/problem';
import { LINE_COLUMNS } from '@/exchange/tables';
import type { CatalogueAccount, CatalogueDimension, CatalogueEntity } from '@/store/catalogue';
import { KIND, SIDE, STATUS } from '@/store/codes';
import { type Db, rowsOf } from '@/store/db';
import { createStage, type Dictionaries, type Dictionary, dictionaries, idOfCode, type StagedLine, stageWriter } from '@/store/staging';
import type { LoadJob } from './loadJob';

/**
 * Reads journal lines into the staging table, checking every row; nothing of it is visible to any figure.
 * Whatever is wrong is added to the problems, as many as can be found.
 */
export async function stageLines(db: Db, job: LoadJob, problems: Problems): Promise<void> {
  await createStage(db);
  const reader = new LineReader(job, problems, await dictionaries(job.outside));
  const writer = await stageWriter(db);
  let rows = 0;
  try {
    for await (const record of readCsv(job.path, LINE_COLUMNS, problems, job.onBytes)) {
      rows += 1;
      const staged = await reader.read(record);
      if (staged && !writer.write(staged)) await writer.drained();
    }
  } finally {
    await writer.end();
  }
  if (rows === 0 && problems.count === 0) problems.add(null, null, null, 'the file holds a header but no lines');
  await checkEntries(db, job, problems, reader.faulty);
}

/** What a line's date and period come to, worked out once for each pair that occurs. */
interface Moment {
  period: number;
  dayPeriod: number;
  day: string;
  adjustment: boolean;
}

class LineReader {
  private readonly moments = new Map<string, Moment | string>();
  private readonly calendars = new Map<string, ReturnType<typeof calendar>>();
  /** Entries with a row that was refused: whether they balance cannot be said. */
  readonly faulty = new Set<string>();

  constructor(
    private readonly job: LoadJob,
    private readonly problems: Problems,
    private readonly ids: Dictionaries,
  ) {}

  /** The line as it will be kept, or null with problems added. */
  async read({ row, values }: Record): Promise<StagedLine | null> {
    const { job, problems } = this;
    const before = problems.count;
    const fault = (column: string, message: string): void => problems.add(row, column, values[column] ?? null, message);

    const entity = this.entity(values.entity, fault);
    const entryNumber = (values.entry ?? '').trim();
    if (entryNumber === '') fault('entry', 'the entry number is missing');
    const lineNumber = Number(values.line);
    if (!/^\d{1,9}$/.test((values.line ?? '').trim())) fault('line', `“${values.line}” is no line number; write a whole number`);
    if (!entity) return null;

    const account = await this.account(entity, values, fault);
    const moment = this.moment(entity, values, fault);
    const amount = this.amount(entity, values, fault);
    const dims = this.dims(account, values, fault);
    const kind = this.kind(values.kind, moment, fault);
    const status = (values.status || 'posted').toLowerCase();
    if (status !== 'posted' && status !== 'unposted') fault('status', `the status is posted or unposted, not “${status}”`);
    if (moment && job.replaces && (moment.period < job.replaces.from || moment.period > job.replaces.to)) {
      const { from, to } = job.replaces;
      fault(
        'date',
        `this line is of period ${periodText(moment.period)}, outside the periods that this load replaces (${periodText(from)} to ${periodText(to)})`,
      );
    }
    if (values.partner_entity && !job.catalogue.entities.has(values.partner_entity)) {
      fault('partner_entity', `there is no entity “${values.partner_entity}”`);
    }
    const foreign = this.foreign(values, fault);
    if (values.quantity && !/^-?\d+(\.\d+)?$/.test(values.quantity)) fault('quantity', `“${values.quantity}” is no quantity`);
    if (problems.count > before || !account || !moment || !amount) {
      this.faulty.add(`${entity.id}|${entryNumber}`);
      return null;
    }

    return {
      row,
      entity: entity.id,
      entryNumber,
      line: lineNumber,
      account: account.id,
      postingDate: values.date as string,
      ...moment,
      status: STATUS[status as 'posted' | 'unposted'],
      kind,
      side: SIDE[amount.side],
      amount: amount.minor,
      journal: values.journal ? (this.ids.journal.get(values.journal) ?? (await this.added('journal', values.journal))) : 0,
      counterparty: values.counterparty
        ? (this.ids.counterparty.get(values.counterparty) ?? (await this.added('counterparty', values.counterparty, values.counterparty_name)))
        : 0,
      postedBy: values.posted_by ? (this.ids.ledger_user.get(values.posted_by) ?? (await this.added('ledger_user', values.posted_by))) : 0,
      dims,
      currency: values.currency || null,
      currencyAmount: foreign,
      quantity: values.quantity || null,
      unit: values.unit || null,
      document: values.document || null,
      description: values.description ?? '',
      entryDescription: values.entry_description ?? '',
      enteredAt: values.entered_at || null,
      approvedBy: values.approved_by || null,
      reversalOf: values.reversal_of || null,
      extra: extraOf(values),
    };
  }

  private entity(code: string | undefined, fault: Fault): CatalogueEntity | null {
    const wanted = (code ?? '').trim() || this.job.entity?.code;
    if (!wanted) {
      fault('entity', 'the entity is missing; add the column or name the entity with the load');
      return null;
    }
    if (this.job.entity && this.job.entity.code !== wanted) {
      fault('entity', `this load is for ${this.job.entity.code}, the line is of “${wanted}”`);
      return null;
    }
    const entity = this.job.catalogue.entities.get(wanted);
    if (!entity) {
      fault('entity', `there is no entity “${wanted}”`);
      return null;
    }
    return entity;
  }

  private async account(entity: CatalogueEntity, values: Values, fault: Fault): Promise<CatalogueAccount | null> {
    const code = (values.account ?? '').trim();
    const account = entity.accounts.get(code);
    if (account?.posting) return account;
    if (!account && code !== '' && this.job.createAccounts) return this.job.createAccount(entity, code, values, fault);
    if (account) fault('account', `${code} ${account.name} is a heading; only posting accounts take lines`);
    else if (code === '') fault('account', 'the account is missing');
    else {
      const near = nearest(code, [...entity.accounts.keys()]);
      fault(
        'account',
        `${entity.code} has no account “${code}”${near.length ? `; is it ${near.join(' or ')}?` : '; load it with the chart of accounts first'}`,
      );
    }
    return null;
  }

  private moment(entity: CatalogueEntity, values: Values, fault: Fault): Moment | null {
    const key = `${entity.id}|${values.date}|${values.period ?? ''}|${values.year ?? ''}`;
    let moment = this.moments.get(key);
    if (moment === undefined) {
      moment = this.workOut(entity, values);
      this.moments.set(key, moment);
    }
    if (typeof moment !== 'string') return moment;
    fault(moment.startsWith('period') ? 'period' : 'date', moment);
    return null;
  }

  private workOut(entity: CatalogueEntity, values: Values): Moment | string {
    const date = (values.date ?? '').trim();
    if (!isDate(date)) return `“${date}” is no date; write it as 2026-04-30`;
    let cal = this.calendars.get(entity.code);
    if (!cal) {
      cal = calendar(entity.calendar);
      this.calendars.set(entity.code, cal);
    }
    try {
      const natural = cal.periodAt(date);
      const period = this.period(cal, natural, values);
      if (typeof period === 'string') return period;
      const day = dayOf(cal, date, period.ordinal);
      return { period: period.ordinal, dayPeriod: cal.periodAt(day).ordinal, day, adjustment: period.adjustment };
    } catch (error) {
      if (error instanceof CalendarError) return `${error.message} of ${entity.code}`;
      throw error;
    }
  }

  private period(cal: ReturnType<typeof calendar>, natural: Period, values: Values): Period | string {
    if (!values.period) return natural;
    const whole = parsePeriod(values.period);
    const year = Number(values.year || natural.year);
    if (whole === null && (!/^\d{1,2}$/.test(values.period) || !Number.isInteger(year))) {
      return `period “${values.period}” of year “${values.year}” is no period; write the number within the fiscal year`;
    }
    const wanted = whole ?? ordinal(year, Number(values.period));
    const found = cal.periodsOf(Math.floor(wanted / 100) + 2000).find((p) => p.ordinal === wanted);
    return found ?? `period ${periodText(wanted)} is not in the calendar`;
  }

  private amount(entity: CatalogueEntity, values: Values, fault: Fault): { minor: number; side: 'debit' | 'credit' } | null {
    const digits = exponentOf(entity.currency);
    const parse = (column: string): number | null => {
      try {
        return parseAmount(values[column] as string, digits);
      } catch (error) {
        const beyond = error instanceof AmountRangeError;
        fault(column, beyond ? 'the amount is beyond 2^53 minor units and cannot be kept exactly' : (error as Error).message);
        return null;
      }
    };
    if (values.amount !== undefined && values.amount !== '') {
      if (values.debit || values.credit) fault('amount', 'give either an amount, or a debit or credit, not both');
      const minor = parse('amount');
      return minor === null ? null : { minor, side: minor < 0 ? 'credit' : 'debit' };
    }
    const debit = values.debit ? parse('debit') : 0;
    const credit = values.credit ? parse('credit') : 0;
    if (debit === null || credit === null) return null;
    if (debit !== 0 && credit !== 0) {
      fault('credit', 'this line has an amount on both sides; split it into two lines');
      return null;
    }
    if (!values.debit && !values.credit) {
      fault('debit', 'this line has no amount');
      return null;
    }
    const side = credit !== 0 || !values.debit ? 'credit' : 'debit';
    return { minor: side === 'debit' ? debit : 0 - credit, side };
  }

  private dims(account: CatalogueAccount | null, values: Values, fault: Fault): number[] {
    const slots = new Array<number>(8).fill(0);
    for (const column of this.dimColumns(values)) {
      const code = (values[column] ?? '').trim();
      if (code === '') continue;
      const dimension = this.job.catalogue.dimensions.get(column.slice(4));
      if (!dimension) {
        fault(column, `there is no dimension “${column.slice(4)}”; load the dimensions first`);
        continue;
      }
      const id = dimension.members.get(code);
      if (id === undefined) fault(column, unknownMember(dimension, code));
      else slots[dimension.slot - 1] = id;
    }
    for (const [code, rule] of Object.entries(account?.dimRules ?? {})) {
      const dimension = this.job.catalogue.dimensions.get(code);
      if (!dimension || !account) continue;
      const given = (values[`dim:${code}`] ?? '').trim() !== '';
      if (rule === 'required' && !given) fault(`dim:${code}`, `account ${account.code} needs a ${dimension.name.toLowerCase()}`);
      if (rule === 'forbidden' && given) fault(`dim:${code}`, `account ${account.code} takes no ${dimension.name.toLowerCase()}`);
    }
    return slots;
  }

  private dimNames: string[] | null = null;
  private dimColumns(values: Values): string[] {
    this.dimNames ??= Object.keys(values).filter((c) => c.startsWith('dim:'));
    return this.dimNames;
  }

  private kind(word: string | undefined, moment: Moment | null, fault: Fault): number {
    const kind = (word || 'normal').toLowerCase();
    const known = LINE_KINDS.find((k) => k === kind);
    if (!known) fault('kind', `“${word}” is no kind of line; it is one of ${LINE_KINDS.join(', ')}`);
    return KIND[moment?.adjustment && (known ?? 'normal') === 'normal' ? 'adjustment' : (known ?? 'normal')];
  }

  private foreign(values: Values, fault: Fault): number | null {
    if (!values.currency && !values.currency_amount) return null;
    if (!/^[A-Z]{3}$/.test(values.currency ?? '')) {
      fault('currency', `“${values.currency ?? ''}” is no currency code; write three capital letters as in ISO 4217`);
      return null;
    }
    if (!values.currency_amount) return null;
    try {
      return parseAmount(values.currency_amount, exponentOf(values.currency as string));
    } catch (error) {
      fault('currency_amount', (error as Error).message);
      return null;
    }
  }

  private async added(table: Dictionary, code: string, name?: string): Promise<number> {
    const id = await idOfCode(this.job.outside, table, code, name || code);
    this.ids[table].set(code, id);
    return id;
  }
}

type Values = Record['values'];
type Fault = (column: string, message: string) => void;

function unknownMember(dimension: CatalogueDimension, code: string): string {
  const near = nearest(code, [...dimension.members.keys()]);
  const named = dimension.name.toLowerCase();
  return `there is no ${named} “${code}”${near.length ? `; is it ${near.join(' or ')}?` : '; load it with the dimensions first'}`;
}

const EXTRA = ['document_type', 'document_date', 'due_date', 'partner_entity', 'tax_code', 'tax_amount', 'attachment'] as const;

function extraOf(values: Values): string | null {
  const extra: { [name: string]: string } = {};
  for (const name of EXTRA) if (values[name]) extra[name] = values[name] as string;
  return Object.keys(extra).length > 0 ? JSON.stringify(extra) : null;
}

/** Problems that only whole entries show: unbalanced, given twice, or already loaded before. */
async function checkEntries(db: Db, job: LoadJob, problems: Problems, faulty: ReadonlySet<string>): Promise<void> {
  const named = (entity: number): CatalogueEntity => [...job.catalogue.entities.values()].find((e) => e.id === entity) as CatalogueEntity;
  const unbalanced = await rowsOf<{ entity: number; entry_number: string; row: number; off: number }>(
    db,
    `select entity, entry_number, min(row_no) as row, sum(amount)::bigint as off
     from staged_line group by entity, entry_number having sum(amount) <> 0 order by 3 limit 1001`,
  );
  for (const e of unbalanced) {
    if (faulty.has(`${e.entity}|${e.entry_number}`)) continue;
    const { code, currency } = named(e.entity);
    const off = formatAmount(Math.abs(e.off), exponentOf(currency));
    const more = e.off > 0 ? 'debits exceed credits' : 'credits exceed debits';
    problems.add(e.row, 'entry', e.entry_number, `entry ${e.entry_number} of ${code} does not balance: ${more} by ${off}`);
  }
  const twice = await rowsOf<{ entry_number: string; line_no: number; row: number; first: number }>(
    db,
    `select entry_number, line_no, max(row_no) as row, min(row_no) as first
     from staged_line group by entity, entry_number, line_no having count(*) > 1 order by 3 limit 1001`,
  );
  for (const l of twice) {
    problems.add(l.row, 'line', String(l.line_no), `line ${l.line_no} of entry ${l.entry_number} stands twice, first in row ${l.first}`);
  }
  const again = await rowsOf<{ entry_number: string; row: number; load: number }>(
    db,
    `select s.entry_number, min(s.row_no) as row, min(e.load) as load
     from staged_line s join entry e on e.entity = s.entity and e.number = s.entry_number and e.replaced_by = 2147483647
     group by s.entry_number order by 2 limit 1001`,
  );
  for (const e of again) {
    problems.add(e.row, 'entry', e.entry_number, `entry ${e.entry_number} is there already, from load ${e.load}; say which periods this file replaces`);
  }
}
