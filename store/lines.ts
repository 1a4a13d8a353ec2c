import type { LineContent } from '@/core/digest';
import { EXTRA_FIELDS } from '@/core/lineFields';
import { answerOf, copiedOf } from './answer';
import { byBooks } from './catalogue';
import { type Bind, sortSql } from './clauseSql';
import { kindOf, statusOf } from './codes';
import { type LineKey, ledgerKeys, sortedKeys, sortedKeysRunning } from './columns/pages';
import { day as dayOf } from './columns/words';
import { type Db, rowsOf } from './db';
import { quoted } from './duck';
import { bearingLinesFrom, linesFrom } from './figureSql';
import type { From, LedgerKey, Sort } from './ledgerPlaces';
import { asStored, type Question } from './question';

/** A journal line as read from the store, keys turned back into codes. */
export interface StoredLine extends LineContent {
  id: string;
  entryId: number;
  entity: string;
  /** Number under which it is kept. */
  books: number;
  entry: string;
  line: number;
  account: string;
  postingDate: string;
  day: string;
  period: number;
  amount: number;
  side: 'debit' | 'credit';
  load: number;
  replacedBy: number;
  description: string;
  entryDescription: string;
  journal: string | null;
  counterparty: string | null;
  counterpartyName: string | null;
  postedBy: string | null;
  document: string | null;
  currency: string | null;
  currencyAmount: number | null;
  quantity: string | null;
  status: 'posted' | 'unposted';
  kind: string;
  unit: string | null;
  enteredAt: string | null;
  approvedBy: string | null;
  reversalOf: string | null;
  source: string | null;
  extra: Record<string, string> | null;
  /** Member code by dimension code. */
  members: Record<string, string>;
}

const LEDGER_ORDER = 's.day, s.entry_number, s.entity, s.entry, s.line_no';

const READ = `s.entity, s.entry, s.line_no, s.account, s.posting_date, s.day, s.period, s.status, s.kind, s.side, s.amount,
  s.journal, s.counterparty, s.posted_by, s.d1, s.d2, s.d3, s.d4, s.d5, s.d6, s.d7, s.d8, s.load, s.replaced_by, s.currency,
  s.currency_amount, s.entry_number, s.document, s.quantity, s.unit, s.description, s.extra`;

/** Movement of a figure's lines in each transaction currency; null where a line does not say its amount in it. */
export function currencySums(db: Db, question: Question): Promise<{ currency: string; amount: number | null }[]> {
  const lines = linesFrom(question, { bodies: ['currency'] });
  return answerOf(
    db,
    lines,
    `select s.currency, case when count(*) = count(s.currency_amount) then sum(s.currency_amount)::bigint end as amount
     ${lines.sql} and s.currency is not null group by 1`,
  );
}

/** How many of a figure's lines are of each amount, by what the rate of a line depends on. */
export async function amountsByDay(
  db: Db,
  question: Question,
): Promise<{ entity: string; account: string; day: string; period: number; amount: number; lines: number }[]> {
  const lines = linesFrom(question);
  const rows = await answerOf<{
    entity: number;
    account: number;
    day: string;
    period: number;
    amount: number;
    lines: number;
  }>(
    db,
    lines,
    `select s.entity, s.account, s.day::text as day, s.period, s.amount, count(*)::integer as lines ${lines.sql} group by 1, 2, 3, 4, 5`,
  );
  const entityOf = byBooks(question.catalogue);
  return rows.map((row) => {
    const entity = entityOf.get(row.entity);
    return { ...row, entity: entity?.code ?? '', account: entity?.accountOf.get(row.account)?.code ?? '' };
  });
}

/** A page of a figure's lines in ledger order. Offsets count from the given day. @param options.openings see linesFrom */
export async function ledgerPage(
  db: Db,
  question: Question,
  from: From,
  limit: number,
  options: { openings?: boolean } = {},
): Promise<StoredLine[]> {
  const copied = isInIndexOrder(question) ? null : copiedOf(db, question);
  if (copied) return linesOfKeys(db, question, await ledgerKeys(copied, from, limit, options.openings ?? false));
  const after = 'after' in from ? from.after : null;
  const [day, offset] = 'after' in from ? [from.after.day, 0] : [from.day, from.offset];
  const { sql, bindings } = linesFrom(asStored(question), {
    ...options,
    first: {
      where: (bind) => [
        ...(day === null ? [] : [`s.day >= ${bind(day, 'date')}`]),
        ...(after ? [`(s.day, s.entry_number, s.entity, s.entry, s.line_no) > (${placeOf(after, bind)})`] : []),
      ],
      ...{ order: LEDGER_ORDER, many: offset + limit },
    },
  });
  return read(db, question, `select ${READ} ${sql} order by ${LEDGER_ORDER} offset ? limit ?`, [
    ...(bindings as unknown[]),
    ...[offset, limit],
  ]);
}

/** A place in ledger order, as the database compares it. */
const placeOf = ({ day, entryNumber, entity, entry, line }: LedgerKey, bind: Bind): string =>
  [
    bind(day, 'date'),
    bind(entryNumber, 'text'),
    bind(entity, 'smallint'),
    ...[bind(entry, 'integer'), bind(line, 'integer')],
  ].join(', ');

/** Whether a page of a figure's lines comes straight off an index of the database: of one account, or of all, without clauses. */
const isInIndexOrder = ({ entities, figure }: Question): boolean =>
  figure.where.length === 0 && entities.length === 1 && entities.every((e) => e.own === null || e.own.length === 1);

/** Lines by their keys, as the database has them, in that order. */
export async function linesOfKeys(db: Db, question: Question, keys: readonly LineKey[]): Promise<StoredLine[]> {
  if (keys.length === 0) return [];
  const rows = await rowsOf<RawLine>(
    db,
    `select ${READ} from unnest(?::smallint[], ?::integer[], ?::integer[]) with ordinality k(entity, entry, line_no, at)
     join line s on s.entry = k.entry and s.line_no = k.line_no and s.entity = k.entity
     where s.entity = any(?) order by k.at`,
    [
      keys.map((k) => k.entity),
      keys.map((k) => k.entry),
      keys.map((k) => k.line_no),
      [...new Set(keys.map((k) => k.entity))],
    ],
  );
  if (rows.length !== keys.length) throw new Error('a copy of lines names a line that the database has not');
  return decode(db, question, rows);
}

/** Σ of the first lines of a figure from a day on, in ledger order. */
export async function amountOfFirst(db: Db, question: Question, day: string, count: number): Promise<number> {
  if (count === 0) return 0;
  if (question.columns && !isInIndexOrder(question)) {
    const lines = linesFrom(question, { bodies: ['entry_number'] });
    const [row] = await answerOf<{ amount: number }>(
      db,
      lines,
      `select coalesce(sum(amount), 0)::bigint as amount
       from (select s.amount ${lines.sql} and s.day >= ${dayOf(day)} order by ${LEDGER_ORDER} limit ${Number(count)}) s`,
    );
    return row?.amount ?? 0;
  }
  const { sql, bindings } = linesFrom(asStored(question), {
    first: { where: (bind) => [`s.day >= ${bind(day, 'date')}`], order: LEDGER_ORDER, many: count },
  });
  const [row] = await rowsOf<{ amount: number }>(
    db,
    `select coalesce(sum(amount), 0)::bigint as amount from (select s.amount ${sql} order by ${LEDGER_ORDER} limit ?) s`,
    [...bindings, count],
  );
  return row?.amount ?? 0;
}

/** The place of a line in ledger order. */
export const keyOf = (line: StoredLine): LedgerKey => ({
  day: line.day,
  entryNumber: line.entry,
  entity: line.books,
  entry: line.entryId,
  line: line.line,
});

/** How many of a figure's lines come before a place in ledger order. */
export async function countBefore(db: Db, question: Question, key: LedgerKey): Promise<number> {
  const { day, entryNumber, entity, entry, line } = key;
  // Counting is quicker by the copies, also where a page comes straight off an index.
  const earlier = linesFrom(question);
  const before = await answerOf<{ n: number }>(
    db,
    earlier,
    `select count(*)::integer as n ${earlier.sql} and s.day < ${dayOf(day)}`,
  );
  // Only those of the same day are held against the place by what they are called.
  const same = linesFrom(question, { bodies: ['entry_number'] });
  const place = '(s.entry_number, s.entity, s.entry, s.line_no)';
  const ofDay = question.columns
    ? await answerOf<{ n: number }>(
        db,
        same,
        `select count(*)::integer as n ${same.sql} and s.day = ${dayOf(day)}
           and ${place} < (${quoted(entryNumber)}, ${Number(entity)}, ${Number(entry)}, ${Number(line)})`,
      )
    : await rowsOf<{ n: number }>(
        db,
        `select count(*)::integer as n ${same.sql} and s.day = ? and ${place} < (?, ?, ?, ?)`,
        [...same.bindings, day, entryNumber, entity, entry, line],
      );
  return (before[0]?.n ?? 0) + (ofDay[0]?.n ?? 0);
}

/** A page in another order; `running` is the line's balance in ledger order without the opening, or null if not asked. */
export async function sortedPage(
  db: Db,
  question: Question,
  sorts: readonly Sort[],
  offset: number,
  limit: number,
  withRunning: boolean,
) {
  const copied = copiedOf(db, question);
  if (copied) {
    const keys = await (withRunning ? sortedKeysRunning : sortedKeys)(copied, sorts, offset, limit);
    const found = await linesOfKeys(db, question, keys);
    return found.map((line, i) => ({ line, running: keys[i]?.running ?? null }));
  }
  const { sql, bindings } = linesFrom(question);
  const order = [
    ...sorts.map((s) => `${sortSql(s.by)} ${s.descending ? 'desc' : 'asc'} nulls last`),
    LEDGER_ORDER,
  ].join(', ');
  const running = withRunning
    ? `, sum(s.amount) over (order by ${LEDGER_ORDER} rows unbounded preceding)::bigint as running`
    : '';
  const page = `select * from (select ${READ}${running} ${sql}) s order by ${order} offset ? limit ?`;
  const rows = await rowsOf<RawLine & { running?: number }>(db, page, [...bindings, offset, limit]);
  const lines = await decode(db, question, rows);
  return lines.map((line, i) => ({ line, running: rows[i]?.running ?? null }));
}

/** All lines of whole entries. */
export async function linesOfEntries(
  db: Db,
  question: Pick<Question, 'catalogue'>,
  entries: number[],
  asOf: number | null,
): Promise<StoredLine[]> {
  const visible = asOf === null ? '' : 'and s.load <= ? and s.replaced_by > ?';
  const sql = `select ${READ} from line s where s.entry = any(?) ${visible} order by s.entry, s.line_no`;
  return read(db, question, sql, [entries, ...(asOf === null ? [] : [asOf, asOf])]);
}

/** A stored line with the part of time it is in and whose balance it bears on. */
export interface BearingLine {
  line: StoredLine;
  part: 0 | 1 | 2 | 3;
  own: boolean;
  temporary: boolean;
}

/**
 * Lines that bear on a figure and that loads after one added, or took away.
 * @param since the load as of which the figure was known
 */
export async function linesChangedSince(
  db: Db,
  question: Question,
  since: number,
  limit: number,
): Promise<(BearingLine & { added: boolean })[]> {
  const { sql, bindings } = bearingLinesFrom(question);
  const rows = await rowsOf<RawLine & { part: 0 | 1 | 2 | 3; own: boolean; temporary: boolean }>(
    db,
    `select ${READ}, s.part, s.own, s.temporary ${sql}
     where (s.load > ? and s.load <= ? and s.replaced_by > ?) or (s.load <= ? and s.replaced_by > ? and s.replaced_by <= ?)
     order by ${LEDGER_ORDER} limit ?`,
    [...bindings, since, question.asOf, question.asOf, since, since, question.asOf, limit],
  );
  const lines = await decode(db, question, rows);
  return rows.map((row, i) => ({
    line: lines[i] as StoredLine,
    part: row.part,
    own: row.own,
    temporary: row.temporary,
    added: row.load > since,
  }));
}

const BEARING_ATONCE = 20_000;
const BEARING_SEEN = 'where s.load <= ? and s.replaced_by > ?';

/** How many lines bear on a figure. */
export async function countBearing(db: Db, question: Question): Promise<number> {
  const { sql, bindings } = bearingLinesFrom(question);
  const seen = [...(bindings as unknown[]), question.asOf, question.asOf];
  const [row] = await rowsOf<{ n: number }>(db, `select count(*)::integer as n ${sql} ${BEARING_SEEN}`, seen);
  return row?.n ?? 0;
}

/**
 * Every line that bears on a figure, with its part: what its opening is made of as much as what its window is. They come by
 * days, as many at once as come to some thousands of lines: no order of all of them is made.
 */
export async function* bearingLines(db: Db, question: Question): AsyncGenerator<BearingLine> {
  const { sql, bindings } = bearingLinesFrom(question);
  const known = [...(bindings as unknown[]), question.asOf, question.asOf];
  const days = await rowsOf<{ day: string; n: number }>(
    db,
    `select s.day::text as day, count(*)::integer as n ${sql} ${BEARING_SEEN} group by 1 order by 1`,
    known,
  );
  while (days.length > 0) {
    const some = days.splice(0, 1);
    let many = some[0]?.n ?? 0;
    while (days[0] && many + days[0].n <= BEARING_ATONCE) {
      many += days[0].n;
      some.push(...days.splice(0, 1));
    }
    const rows = await rowsOf<RawLine & Omit<BearingLine, 'line'>>(
      db,
      `select ${READ}, s.part, s.own, s.temporary ${sql} ${BEARING_SEEN} and s.day between ? and ? order by ${LEDGER_ORDER}`,
      [...known, some[0]?.day, some.at(-1)?.day],
    );
    const lines = await decode(db, question, rows);
    for (const [i, { part, own, temporary }] of rows.entries())
      yield { line: lines[i] as StoredLine, part, own, temporary };
  }
}

interface RawLine {
  entity: number;
  entry: number;
  line_no: number;
  account: number;
  posting_date: string;
  day: string;
  period: number;
  status: number;
  kind: number;
  side: number;
  amount: number;
  journal: number;
  counterparty: number;
  posted_by: number;
  d1: number;
  d2: number;
  d3: number;
  d4: number;
  d5: number;
  d6: number;
  d7: number;
  d8: number;
  load: number;
  replaced_by: number;
  currency: string | null;
  currency_amount: number | null;
  entry_number: string;
  document: string | null;
  quantity: string | null;
  unit: string | null;
  description: string;
  extra: Record<string, string> | null;
}

const read = async (
  db: Db,
  question: Pick<Question, 'catalogue'>,
  sql: string,
  bindings: unknown[],
): Promise<StoredLine[]> => decode(db, question, await rowsOf<RawLine>(db, sql, bindings));

interface EntryHead {
  id: number;
  description: string;
  entered_at: string | null;
  approved_by: string | null;
  reversal_of: string | null;
  source: string | null;
}

async function decode(db: Db, question: Pick<Question, 'catalogue'>, rows: RawLine[]): Promise<StoredLine[]> {
  if (rows.length === 0) return [];
  const { catalogue } = question;
  const named = async <Row extends { id: number; code: string }>(
    table: string,
    ids: number[],
    columns = 'id, code',
  ): Promise<Map<number, Row>> => {
    const wanted = [...new Set(ids)].filter((id) => id !== 0);
    if (wanted.length === 0) return new Map();
    const found = await rowsOf<Row>(db, `select ${columns} from ${table} where id = any(?)`, [wanted]);
    return new Map(found.map((r) => [r.id, r]));
  };
  const [heads, journals, counterparties, users] = await Promise.all([
    rowsOf<EntryHead>(
      db,
      'select id, description, entered_at, approved_by, reversal_of, source from entry where id = any(?)',
      [[...new Set(rows.map((r) => r.entry))]],
    ),
    named(
      'journal',
      rows.map((r) => r.journal),
    ),
    named<{ id: number; code: string; name: string }>(
      'counterparty',
      rows.map((r) => r.counterparty),
      'id, code, name',
    ),
    named(
      'ledger_user',
      rows.map((r) => r.posted_by),
    ),
  ]);
  const headOf = new Map(heads.map((h) => [h.id, h]));
  const entityOf = byBooks(catalogue);
  const dimensions = [...catalogue.dimensions.values()];
  return rows.map((r) => {
    const entity = entityOf.get(r.entity);
    const head = headOf.get(r.entry);
    const members: Record<string, string> = {};
    for (const d of dimensions) {
      const code = d.codeOf.get(r[`d${d.slot}` as 'd1']);
      if (code !== undefined) members[d.code] = code;
    }
    return {
      id: `${r.entry}-${r.line_no}`,
      entryId: r.entry,
      entity: entity?.code ?? '',
      books: r.entity,
      entry: r.entry_number,
      line: r.line_no,
      account: entity?.accountOf.get(r.account)?.code ?? '',
      postingDate: r.posting_date,
      day: r.day,
      period: r.period,
      status: statusOf(r.status),
      kind: kindOf(r.kind),
      side: r.side === 1 ? 'debit' : 'credit',
      amount: r.amount,
      currency: r.currency,
      currencyAmount: r.currency_amount,
      quantity: r.quantity,
      unit: r.unit,
      description: r.description,
      entryDescription: head?.description ?? '',
      journal: journals.get(r.journal)?.code ?? null,
      counterparty: counterparties.get(r.counterparty)?.code ?? null,
      counterpartyName: counterparties.get(r.counterparty)?.name ?? null,
      postedBy: users.get(r.posted_by)?.code ?? null,
      document: r.document,
      dims: JSON.stringify(Object.entries(members).sort(([a], [b]) => (a < b ? -1 : 1))),
      members,
      load: r.load,
      replacedBy: r.replaced_by,
      enteredAt: head?.entered_at ?? null,
      approvedBy: head?.approved_by ?? null,
      reversalOf: head?.reversal_of ?? null,
      source: head?.source ?? null,
      ...extrasOf(r.extra),
      extra: r.extra,
    };
  });
}

/** What the file said of a line in columns that have no place of their own in the store. */
function extrasOf(extra: Record<string, string> | null): Record<Extra, string | null> {
  return Object.fromEntries(EXTRA_FIELDS.map((f) => [f.name, extra?.[f.column] ?? null])) as Record<
    Extra,
    string | null
  >;
}

type Extra =
  | 'documentType'
  | 'taxCode'
  | 'taxAmount'
  | 'dueDate'
  | 'documentDate'
  | 'partnerEntity'
  | 'attachment'
  | 'reconciled';

/** Whether any of those lines, of whatever load, bears on the figure. */
export async function bearsOnAny(
  db: Db,
  question: Question,
  lines: readonly { entry: number; line: number }[],
): Promise<boolean> {
  const { sql, bindings } = bearingLinesFrom(question);
  const rows = await rowsOf(
    db,
    `select 1 as found ${sql} join unnest(?::integer[], ?::integer[]) k(entry, line_no) on k.entry = s.entry and k.line_no = s.line_no limit 1`,
    [...bindings, lines.map((l) => l.entry), lines.map((l) => l.line)],
  );
  return rows.length > 0;
}
