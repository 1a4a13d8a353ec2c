import { periodText } from '@/core/calendar';
import { LINE_KINDS } from '@/core/ledger';
import { EXTRA_FIELDS } from '@/core/lineFields';
import { exponentOf, formatAmount, parseAmount } from '@/core/money';
import type { FileRecord } from '@/exchange/fileRecord';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import type { CatalogueEntity } from '@/store/catalogue';
import { KIND, SIDE, STATUS } from '@/store/codes';
import { laidBefore, type Stage } from '@/store/stage';
import { type Dictionary, dictionaries, idOfCode, type StagedLine } from '@/store/staging';
import { type AccountMaker, Fields, type Moment } from './fields';
import type { LoadJob } from './loadJob';
import type { Fault, Values } from './values';

/**
 * Reads journal lines into the staging table, checking every row; nothing of it is visible to any figure.
 * Whatever is wrong is added to the problems, as many as can be found.
 * @param names names of counterparties that the file gives apart from its lines
 */
export async function stageLines(
  stage: Stage,
  job: LoadJob,
  problems: Problems,
  makeAccount: AccountMaker | null,
  names: ReadonlyMap<string, string>,
): Promise<void> {
  const ids = await dictionaries(job.outside);
  const idOf = (table: Dictionary, code: string, name?: string): number | Promise<number> => {
    const known = ids[table].get(code);
    if (known !== undefined) return known;
    return idOfCode(job.outside, table, code, name || names.get(code) || code).then((id) => {
      ids[table].set(code, id);
      return id;
    });
  };
  const reader = new LineReader(job, problems, idOf, makeAccount);
  const writer = await stage.writer();
  let rows = 0;
  try {
    for await (const record of readRecords(job.file, problems, job.reading)) {
      rows += 1;
      job.onRow();
      const staged = await reader.read(record);
      if (staged) writer.write(staged);
    }
  } finally {
    writer.end();
  }
  if (rows === 0 && problems.count === 0) problems.add(null, null, null, 'the file holds a header but no lines');
  await checkEntries(stage, job, problems, reader.faulty);
}

/** Turns records into lines as they will be kept. Also used to show what a file would become. */
export class LineReader {
  private readonly fields: Fields;
  /** Entries with a row that was refused: whether they balance cannot be said. */
  readonly faulty = new Set<string>();

  /** @param idOf id of a journal, counterparty or user, which is added if it is new */
  constructor(
    private readonly job: Pick<LoadJob, 'entity' | 'catalogue' | 'replaces'>,
    private readonly problems: Problems,
    private readonly idOf: (table: Dictionary, code: string, name?: string) => number | Promise<number>,
    makeAccount: AccountMaker | null,
  ) {
    this.fields = new Fields(job, problems, makeAccount);
  }

  /** The line as it will be kept, or null with problems added. */
  async read({ row, values }: FileRecord): Promise<StagedLine | null> {
    const { job, problems, fields } = this;
    const before = problems.count;
    const fault = fields.fault(row, values);

    const entity = fields.entity(values.entity, fault);
    const entryNumber = (values.entry ?? '').trim();
    if (entryNumber === '') fault('entry', 'the entry number is missing');
    const lineNumber = Number(values.line);
    if (!/^\d{1,9}$/.test((values.line ?? '').trim()))
      fault('line', `“${values.line}” is no line number; write a whole number`);
    if (!entity) return null;

    const account = await fields.account(entity, values, fault);
    const moment = fields.moment(entity, values, fault);
    const amount = fields.amount(entity, values, fault);
    const dims = fields.dims(account, values, fault);
    const kind = this.kind(values.kind, moment, fault);
    const status = (values.status || 'posted').toLowerCase();
    if (status !== 'posted' && status !== 'unposted')
      fault('status', `the status is posted or unposted, not “${status}”`);
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
    if (values.quantity && !/^-?\d+(\.\d+)?$/.test(values.quantity))
      fault('quantity', `“${values.quantity}” is no quantity`);
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
      journal: values.journal ? await this.idOf('journal', values.journal) : 0,
      counterparty: values.counterparty
        ? await this.idOf('counterparty', values.counterparty, values.counterparty_name)
        : 0,
      postedBy: values.posted_by ? await this.idOf('ledger_user', values.posted_by) : 0,
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
      source: values.source || null,
      extra: extraOf(values),
    };
  }

  private kind(word: string | undefined, moment: Moment | null, fault: Fault): number {
    const kind = (word || 'normal').toLowerCase();
    const known = LINE_KINDS.find((k) => k === kind);
    if (!known) fault('kind', `“${word}” is no kind of line; it is one of ${LINE_KINDS.join(', ')}`);
    return KIND[moment?.adjustment && (known ?? 'normal') === 'normal' ? 'adjustment' : (known ?? 'normal')];
  }

  private foreign(values: Values, fault: Fault): number | null {
    // A currency column that is filled with zeroes says that there is none.
    if (!values.currency && Number(values.currency_amount || 0) === 0) return null;
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
}

function extraOf(values: Values): string | null {
  const extra: { [name: string]: string } = {};
  for (const { column } of EXTRA_FIELDS) if (values[column]) extra[column] = values[column] as string;
  return Object.keys(extra).length > 0 ? JSON.stringify(extra) : null;
}

/** Problems that only whole entries show: unbalanced, given twice, or already loaded before. */
async function checkEntries(
  stage: Stage,
  job: LoadJob,
  problems: Problems,
  faulty: ReadonlySet<string>,
): Promise<void> {
  const named = (entity: number): CatalogueEntity =>
    [...job.catalogue.entities.values()].find((e) => e.id === entity) as CatalogueEntity;
  const unbalanced = await stage.rows<{ entity: number; entry_number: string; row: number; off: number }>(
    `select entity, entry_number, min(row_no) as row, sum(amount) as off
     from staged_line group by entity, entry_number having sum(amount) <> 0 order by 3 limit 1001`,
  );
  for (const e of unbalanced) {
    if (faulty.has(`${e.entity}|${e.entry_number}`)) continue;
    const { code, currency } = named(e.entity);
    const off = formatAmount(Math.abs(e.off), exponentOf(currency));
    const more = e.off > 0 ? 'debits exceed credits' : 'credits exceed debits';
    problems.add(
      e.row,
      'entry',
      e.entry_number,
      `entry ${e.entry_number} of ${code} does not balance: ${more} by ${off}`,
    );
  }
  const twice = await stage.rows<{ entry_number: string; line_no: number; row: number; first: number }>(
    `select entry_number, line_no, max(row_no) as row, min(row_no) as first
     from staged_line group by entity, entry_number, line_no having count(*) > 1 order by 3 limit 1001`,
  );
  for (const l of twice) {
    problems.add(
      l.row,
      'line',
      String(l.line_no),
      `line ${l.line_no} of entry ${l.entry_number} stands twice, first in row ${l.first}`,
    );
  }
  for (const e of await laidBefore(job.inside, stage, 1_001)) {
    problems.add(
      e.row,
      'entry',
      e.entry_number,
      `entry ${e.entry_number} is there already, from load ${e.load}; say which periods this file replaces`,
    );
  }
}
