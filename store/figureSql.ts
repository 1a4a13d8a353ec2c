import { type Calendar, calendar, ordinal, yearOf, yearSpan } from '@/core/calendar';
import { type Clause, type Figure, isPattern, membersOf, type Split, splitsWindow } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { exponentOf } from '@/core/money';
import { accountsIn, type Pick, type Selection } from '@/core/selection';
import { bands } from '@/core/sizes';
import type { Catalogue, CatalogueEntity } from './catalogue';
import { KIND, STATUS } from './codes';

/**
 * The one translator of figures into SQL. A figure becomes a scope (constants per entity) and a source of
 * rows, each with the part of time that it lies in (core/balances); every question about figures is asked
 * of `partsFrom` or `linesFrom` and of nothing else.
 *
 * By date, whole periods come from summaries and part periods from days or lines.
 */
export interface FigureSql {
  sql: string;
  bindings: unknown[];
  /** Which table answers, said for tests and for whoever tunes. */
  source: Source;
}

export type Source = 'balance_period' | 'balance_day' | 'balance_member' | 'line';

/** What a figure asks, with every name turned into a key of the database. */
export interface Question {
  figure: Figure;
  catalogue: Catalogue;
  asOf: number;
  entities: EntityQuestion[];
}

export interface EntityQuestion {
  entity: CatalogueEntity;
  calendar: Calendar;
  /** Selected posting accounts; null: all of them. */
  own: number[] | null;
  /** The figure selects this entity's retained earnings account. */
  retained: boolean;
  rolls: boolean;
  firstYear: number;
  lastYear: number;
}

/** @throws SelectionError, CalendarError when the figure does not fit the ledger */
export function questionOf(figure: Figure, catalogue: Catalogue, asOf: number): Question {
  const entities = figure.entities.map((code) => {
    const entity = catalogue.entities.get(code) as CatalogueEntity;
    const cal = calendar(entity.calendar);
    const { from, to } = figure.window;
    const firstYear = typeof from === 'number' ? yearOf(from) : cal.periodAt(from).year;
    const lastYear = typeof to === 'number' ? yearOf(to) : cal.periodAt(to).year;
    const codes = figure.accounts && selected(figure.accounts, entity);
    return {
      entity,
      calendar: cal,
      own: codes && [...codes].map((c) => entity.accounts.get(c)?.id as number),
      retained: !codes || codes.has(entity.retainedEarnings),
      rolls: lastYear > firstYear,
      firstYear,
      lastYear,
    };
  });
  return { figure, catalogue, asOf, entities };
}

/** Accounts of one entity that a selection takes; of a group, codes that only others have take nothing here. */
function selected(accounts: Selection, entity: CatalogueEntity): Set<string> {
  const there = (pick: Pick): boolean => pick.is !== 'code' || entity.accounts.has(pick.code);
  const groups = new Set(entity.chart.flatMap((a) => a.groups.map((g) => g.toLowerCase())));
  const known = (pick: Pick): boolean => pick.is !== 'group' || groups.has(pick.group.toLowerCase());
  const take = accounts.take.filter((p) => there(p) && known(p));
  if (accounts.take.length > 0 && take.length === 0) return new Set();
  return accountsIn({ take, except: accounts.except.filter((p) => there(p) && known(p)) }, entity.chart);
}

/** One row of what `partsFrom` asks. */
export interface PartRow {
  entity: string;
  part: 0 | 1 | 2 | 3;
  own: boolean;
  temporary: boolean;
  year: number;
  adjusting: boolean;
  debit: number;
  credit: number;
  count: number;
  [key: `key${number}`]: string | number | null;
}

/**
 * Sums of debit, credit and count by part, own, temporary, and the raw keys of the splits given.
 * @param options.from a table beneath the one that would answer, to hold the two against each other
 */
export function partsFrom(question: Question, splits: readonly Split[], options: { byYear?: boolean; from?: 'line' | 'balance_day' } = {}): FigureSql {
  const natural = sourceFor(question, splits);
  const source = options.from === 'line' || natural === 'balance_period' ? (options.from ?? natural) : natural;
  const running = splits.some((s) => splitsWindow(question.figure.window, s));
  const slot = slotOf(question, splits);
  const keys = splits.map((_, i) => `key${i}`);
  const legs = legsOf(question, source).map((leg) =>
    legSql(
      leg,
      question,
      slot,
      splits.map((split, i) => `${keySql(split, leg, question)} as key${i}`),
      { keepAdjusting: running },
    ),
  );
  const year = options.byYear ? 'year' : running ? 'case when part = 0 then 0 else year end' : '0';
  const shown = splits.map((s, i) => (splitsWindow(question.figure.window, s) ? `case when part < 2 then null else key${i} end as key${i}` : `key${i}`));
  const group = ['entity', 'part', 'own', 'temporary', 'year', 'adjusting', ...keys];
  const sql = `
    select ${group.join(', ')}, sum(debit)::bigint as debit, sum(credit)::bigint as credit, sum(count)::bigint as count
    from (
      select ${['entity', 'part', 'own', 'temporary', `${year} as year`, 'adjusting', ...shown].join(', ')}, debit, credit, count
      from (${legs.map((l) => l.sql).join(' union all ')}) legs
    ) sums
    group by ${group.join(', ')}`;
  return { sql, bindings: legs.flatMap((l) => l.bindings), source };
}

/**
 * The lines of a figure: those of its window, loaded opening balances left out. Columns of `line` as `s`; the caller
 * adds conditions with `and`. One leg an entity with plain conditions, so that a page comes straight off an index.
 * @param options.openings loaded opening balances in the window too: whoever passes the lines on needs them
 */
export function linesFrom(question: Question, options: { openings?: boolean } = {}): FigureSql {
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const leg = lineLeg(question);
  const legs = question.entities.map((e) => `select s.* from line s where ${ownLines(e, question, leg, bind, options.openings ?? false).join(' and ')}`);
  return { sql: `from (${legs.join(' union all ')}) s where true`, bindings, source: 'line' };
}

function ownLines(e: EntityQuestion, question: Question, leg: Leg, bind: Bind, openings: boolean): string[] {
  const { figure, asOf } = question;
  const { window } = figure;
  const type = window.by === 'period' ? 'smallint' : 'date';
  const p = `s.${leg.axis}`;
  const nextYear = window.by === 'period' ? ordinal(e.firstYear + 1, 0) : startOfYear(e.calendar, e.firstYear + 1);
  const where = [
    `s.entity = ${Number(e.entity.id)}`,
    `${p} >= ${bind(window.from, type)}`,
    `${p} <= ${bind(window.to, type)}`,
    ...(openings ? [] : [`not (s.kind = ${KIND.opening} and ${p} < ${bind(nextYear, type)})`]),
    ...countedLines(question, leg, bind),
    `s.load <= ${bind(asOf, 'integer')}`,
    `s.replaced_by > ${bind(asOf, 'integer')}`,
  ];
  const [only] = e.own ?? [];
  if (e.own?.length === 1) where.push(`s.account = ${bind(only, 'integer')}`);
  else if (e.own !== null) where.push(`s.account = any(${bind(e.own, 'integer[]')})`);
  if (figure.adjustments === 'without') where.push(`not (s.period = any(${bind(adjustmentsOf(e), 'smallint[]')}))`);
  return where;
}

/** Conditions on status and every clause, the same for all entities. */
function countedLines(question: Question, leg: Leg, bind: Bind): string[] {
  const { status, where } = question.figure;
  return [...(status === 'all' ? [] : [`s.status = ${STATUS[status]}`]), ...where.map((clause) => clauseSql(clause, question, leg, bind))];
}

/** Adjustment periods of the fiscal years that the window touches. */
function adjustmentsOf(e: EntityQuestion): number[] {
  const found: number[] = [];
  for (let year = e.firstYear; year <= e.lastYear; year++) {
    for (const p of e.calendar.periodsOf(year)) if (p.adjustment) found.push(p.ordinal);
  }
  return found;
}

/**
 * Signed sums of an entity's lines up to the end of the window, by account and period, those of the window apart; by
 * day too where asked. Every clause of the figure holds, its selection of accounts does not.
 * @param options.accounts ids; null: all
 */
export function sumsUpTo(question: Question, e: EntityQuestion, options: { byDay: boolean; accounts: number[] | null }): FigureSql {
  const { window } = question.figure;
  const byPeriod = window.by === 'period';
  const source = sourceFor(question, options.byDay || !byPeriod ? [{ by: 'day' }] : []);
  const leg: Leg = { table: source, axis: byPeriod ? 'period' : 'day', cut: 'all' };
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const isLine = source === 'line';
  const p = `s.${leg.axis}`;
  const type = byPeriod ? 'smallint' : 'date';
  const within = `${p} >= ${bind(window.from, type)}`;
  const where = [
    `s.entity = ${Number(e.entity.id)}`,
    `${p} <= ${bind(window.to, type)}`,
    `s.load <= ${bind(question.asOf, 'integer')}`,
    ...(isLine ? [`s.replaced_by > ${bind(question.asOf, 'integer')}`] : []),
    ...(options.accounts ? [`s.account = any(${bind(options.accounts, 'integer[]')})`] : []),
    ...(source === 'balance_member' ? [`s.slot = ${Number(slotOf(question, []))}`] : []),
    ...countedLines(question, leg, bind),
  ];
  const keys = ['s.account', `s.${byPeriod ? 'period' : 'day_period'}`, 's.period', `s.kind = ${KIND.opening}`, within, ...(options.byDay ? ['s.day'] : [])];
  const sql = `
    select s.account, ${keys[1]} as period, s.period as booked, ${keys[3]} as opening, ${within} as within, ${options.byDay ? 's.day,' : ''}
      sum(${isLine ? 's.amount' : 's.debit - s.credit'})::bigint as amount, ${isLine ? 'count(*)' : 'sum(s.count)'}::integer as count
    from ${source} s where ${where.join(' and ')} group by ${keys.map((_, i) => i + 1).join(', ')}`;
  return { sql, bindings, source };
}

/** Every line that may bear on a figure, with its part: the window's, its opening's, and ended years' results. */
export function bearingLinesFrom(question: Question): FigureSql {
  const { sql, bindings } = legSql(lineLeg(question), question, null, ['s.*'], { ofAllLoads: true });
  return { sql: `from (${sql}) s`, bindings, source: 'line' };
}

interface Leg {
  table: Source;
  /** Whether rows are placed in time by period ordinal or by day. */
  axis: 'period' | 'day_period' | 'day';
  /** By date: rows of whole periods only, or of part periods only. */
  cut: 'all' | 'whole' | 'part';
}

const lineLeg = (question: Question): Leg => ({
  table: 'line',
  axis: question.figure.window.by === 'period' ? 'period' : 'day',
  cut: 'all',
});

const SUMMARISED = new Set<string>(['account', 'heading', 'type', 'entity', 'period', 'kind']);

/** The smallest table that can answer: every clause and split must be among what it keeps. */
function sourceFor(question: Question, splits: readonly Split[]): Source {
  const dims = new Set<string>();
  let days = false;
  for (const asked of [...question.figure.where.map((c) => [c.on, c] as const), ...splits.map((s) => [s.by, s] as const)]) {
    const [word, what] = asked;
    if (word === 'dim') dims.add((what as { dim: string }).dim);
    else if (word === 'day' || word === 'week' || word === 'month') days = true;
    else if (!SUMMARISED.has(word)) return 'line';
  }
  if (dims.size === 0) return days ? 'balance_day' : 'balance_period';
  return dims.size === 1 && !days ? 'balance_member' : 'line';
}

/** Whether a question can only be answered by reading lines. */
export const readsLines = (question: Question, splits: readonly Split[]): boolean => sourceFor(question, splits) === 'line';

function legsOf(question: Question, source: Source): Leg[] {
  if (question.figure.window.by === 'period') return [{ table: source, axis: 'period', cut: 'all' }];
  if (source === 'line' || source === 'balance_day') return [{ table: source, axis: 'day', cut: 'all' }];
  const whole: Leg = { table: source, axis: 'day_period', cut: 'whole' };
  if (question.entities.every((e) => partPeriods(e, question).length === 0)) return [whole];
  return [whole, { table: source === 'balance_member' ? 'line' : 'balance_day', axis: 'day', cut: 'part' }];
}

/** Periods that a window by date begins or ends inside of. */
function partPeriods({ calendar: cal }: EntityQuestion, { figure: { window } }: Question): number[] {
  if (window.by === 'period') return [];
  const first = cal.periodAt(window.from);
  const last = cal.periodAt(window.to);
  return [...new Set([...(first.from < window.from ? [first.ordinal] : []), ...(last.to > window.to ? [last.ordinal] : [])])];
}

type Bind = (value: unknown, type: string) => string;

function legSql(leg: Leg, question: Question, slot: number | null, columns: string[], options: { keepAdjusting?: boolean; ofAllLoads?: boolean } = {}) {
  const bindings: unknown[] = [];
  const bind: Bind = (value, type) => {
    bindings.push(value);
    return `?::${type}`;
  };
  const { figure, asOf } = question;
  const isLine = leg.table === 'line';
  const p = `s.${leg.axis}`;
  const scope = question.entities.map((e) => scopeRow(e, question, leg, bind)).join(', ');
  const sql = `
    select ${columns.length > 0 ? `${columns.join(', ')},` : ''}
      c.entity_code${isLine && columns[0] === 's.*' ? '' : ' as entity'}, a.temporary, ${figure.adjustments === 'without' && options.keepAdjusting ? 's.period = any(c.adjustments)' : 'false'} as adjusting,
      (c.all_own or s.account = any(c.own)) as own,
      case when ${p} < c.year_start then 0
           when ${p} < c.f or (s.kind = ${KIND.opening} and ${p} < c.next_year) then 1
           when ${p} < c.last_year then 2 else 3 end as part,
      (s.${leg.axis === 'period' ? 'period' : 'day_period'} + 20000) / 100 + 1800 as year,
      ${isLine ? 'case when s.side = 1 then s.amount else 0 end' : 's.debit'} as debit,
      ${isLine ? 'case when s.side = 1 then 0 else -s.amount end' : 's.credit'} as credit,
      ${isLine ? '1' : 's.count'} as count
    from (values ${scope})
      c(entity_id, entity_code, f, t, year_start, next_year, last_year, all_own, own, retained, cut, adjustments)
    join ${leg.table} s on s.entity = c.entity_id
    join account a on a.id = s.account`;
  const where = [
    `s.entity in (${question.entities.map((e) => Number(e.entity.id)).join(', ') || '-1'})`,
    `${p} <= c.t`,
    '(c.all_own or s.account = any(c.own) or (c.retained and a.temporary))',
  ];
  const accounts = boundingAccounts(question);
  if (accounts) where.push(`s.account = any(${bind(accounts, 'integer[]')})`);
  if (!options.ofAllLoads) {
    where.push(`s.load <= ${bind(asOf, 'integer')}`);
    if (isLine) where.push(`s.replaced_by > ${bind(asOf, 'integer')}`);
  }
  const leavesOut = figure.adjustments === 'without';
  if (leavesOut && !options.keepAdjusting) where.push('not (s.period = any(c.adjustments))');
  if (leg.cut !== 'all') where.push(`${leg.cut === 'whole' ? 'not ' : ''}(s.day_period = any(c.cut))`);
  if (leg.table === 'balance_member') where.push(`s.slot = ${Number(slot)}`);
  where.push(...countedLines(question, leg, bind));
  return { sql: `${sql} where ${where.join(' and ')}`, bindings };
}

function scopeRow(e: EntityQuestion, question: Question, leg: Leg, bind: Bind): string {
  const { window } = question.figure;
  const byDay = leg.axis === 'day';
  const type = byDay ? 'date' : 'integer';
  const end = (at: number | string): number | string => (byDay || typeof at === 'number' ? at : e.calendar.periodAt(at).ordinal);
  const yearStart = (year: number): number | string => (byDay ? startOfYear(e.calendar, year) : ordinal(year, 0));
  const cells = [
    `${Number(e.entity.id)}::smallint`,
    bind(e.entity.code, 'text'),
    bind(end(window.from), type),
    bind(end(window.to), type),
    bind(yearStart(e.firstYear), type),
    bind(yearStart(e.firstYear + 1), type),
    bind(yearStart(e.lastYear), type),
    `${e.own === null}`,
    bind(e.own ?? [], 'integer[]'),
    `${e.retained}`,
    bind(partPeriods(e, question), 'integer[]'),
    bind(adjustmentsOf(e), 'integer[]'),
  ];
  return `(${cells.join(', ')})`;
}

/** First day of a fiscal year; past the end of a custom calendar, the day after everything. */
function startOfYear(cal: Calendar, year: number): string {
  return cal.periodsOf(year).length > 0 ? yearSpan(cal, year).from : '9999-12-31';
}

/** All accounts whose lines can matter, where the selection bounds them; null: any account. */
function boundingAccounts(question: Question): number[] | null {
  const found: number[] = [];
  for (const e of question.entities) {
    if (e.own === null) return null;
    found.push(...e.own);
    if (!e.retained) continue;
    for (const a of e.entity.accounts.values()) if (isTemporary(a.type)) found.push(a.id);
  }
  return found;
}

function slotOf(question: Question, splits: readonly Split[]): number | null {
  for (const c of question.figure.where) if (c.on === 'dim') return dimensionOf(question, c.dim).slot;
  for (const s of splits) if (s.by === 'dim') return dimensionOf(question, s.dim).slot;
  return null;
}

function dimensionOf(question: Question, code: string) {
  const found = question.catalogue.dimensions.get(code);
  if (!found) throw new RangeError(`no dimension ${code}`);
  return found;
}

function keySql(split: Split, leg: Leg, question: Question): string {
  switch (split.by) {
    case 'account':
    case 'heading':
      return 's.account';
    case 'type':
      return 'a.type';
    case 'entity':
      return 'c.entity_code';
    case 'period':
      return 's.period';
    case 'month':
      return `to_char(s.day, 'YYYY-MM')`;
    case 'week':
      return `to_char(s.day, 'IYYY-"W"IW')`;
    case 'day':
      return 's.day::text';
    case 'dim':
      return leg.table === 'balance_member' ? 's.member' : `s.d${dimensionOf(question, split.dim).slot}`;
    case 'kind':
      return 's.kind';
    case 'size': {
      const [first, ...others] = bands(exponentOf(question.entities[0]?.entity.currency ?? 'XXX'));
      return `(case ${others
        .reverse()
        .map((b) => `when abs(s.amount) >= ${Number(b.from)} then '${b.key}'`)
        .join(' ')} else '${first?.key}' end)`;
    }
    default:
      return split.by in DICTIONARY ? `s.${COLUMN[split.by as keyof typeof COLUMN]}` : TEXT_COLUMN[split.by as keyof typeof TEXT_COLUMN];
  }
}

const COLUMN = { journal: 'journal', counterparty: 'counterparty', postedBy: 'posted_by' } as const;
/** Attributes that a line has as text. */
const TEXT_COLUMN = {
  document: 's.document',
  currency: 's.currency',
  entry: 's.entry_number',
  documentType: `s.extra->>'document_type'`,
  taxCode: `s.extra->>'tax_code'`,
  unit: 's.unit',
  dueDate: `s.extra->>'due_date'`,
  documentDate: `s.extra->>'document_date'`,
  // What an entry has as a whole stands with the entry.
  approvedBy: '(select x.approved_by from entry x where x.id = s.entry)',
  enteredAt: '(select x.entered_at from entry x where x.id = s.entry)',
} as const;
const DICTIONARY = { journal: 'journal', counterparty: 'counterparty', postedBy: 'ledger_user' } as const;

function clauseSql(clause: Clause, question: Question, leg: Leg, bind: Bind): string {
  switch (clause.on) {
    case 'dim': {
      const dim = dimensionOf(question, clause.dim);
      const column = leg.table === 'balance_member' ? 's.member' : `s.d${dim.slot}`;
      const ids = clause.any.flatMap((pick) => (pick.is === 'none' ? [0] : [...membersOf(pick, dim.tree)].map((code) => dim.members.get(code) ?? -1)));
      return `${clause.not ? 'not ' : ''}(${column} = any(${bind(ids, 'integer[]')}))`;
    }
    case 'journal':
    case 'counterparty':
    case 'postedBy': {
      const none = clause.any.includes(null) ? ` or s.${COLUMN[clause.on]} = 0` : '';
      const named = `s.${COLUMN[clause.on]} = any(array(select id from ${DICTIONARY[clause.on]} where ${valuesSql('code', clause.any, bind)}))`;
      return `${clause.not ? 'not ' : ''}(${named}${none})`;
    }
    case 'document':
    case 'currency':
    case 'entry':
    case 'documentType':
    case 'taxCode':
    case 'unit':
    case 'dueDate':
    case 'documentDate':
    case 'approvedBy':
    case 'enteredAt': {
      const column = TEXT_COLUMN[clause.on];
      const none = clause.any.includes(null) ? ` or ${column} is null` : '';
      return `${clause.not ? 'not ' : ''}coalesce(${valuesSql(column, clause.any, bind)}${none}, false)`;
    }
    case 'kind':
      return `s.kind = any(${bind(
        clause.any.map((k) => KIND[k]),
        'smallint[]',
      )})`;
    case 'period':
      return `s.period = any(${bind(clause.any, 'smallint[]')})`;
    case 'week':
      return `to_char(s.day, 'IYYY-"W"IW') = any(${bind(clause.any, 'text[]')})`;
    case 'day':
      return `s.day = any(${bind(clause.any, 'date[]')})`;
    case 'month':
      return `to_char(s.day, 'YYYY-MM') = any(${bind(clause.any, 'text[]')})`;
    case 'min':
      return `abs(s.amount) >= ${bind(clause.amount, 'bigint')}`;
    case 'max':
      return `abs(s.amount) <= ${bind(clause.amount, 'bigint')}`;
    case 'opposite': {
      const ids = question.entities.flatMap((e) => clause.any.flatMap((code) => e.entity.accounts.get(code)?.id ?? []));
      const entries = (
        sign: string,
      ): string => `s.entry in (select o.entry from line o where o.entity in (${question.entities.map((e) => Number(e.entity.id)).join(', ')})
        and o.account = any(${bind(ids, 'integer[]')}) and o.amount ${sign} 0
        and o.load <= ${bind(question.asOf, 'integer')} and o.replaced_by > ${bind(question.asOf, 'integer')})`;
      return `((s.amount > 0 and ${entries('<')}) or (s.amount < 0 and ${entries('>')}))`;
    }
    case 'text': {
      const pattern = `%${clause.contains.replace(/[\\%_]/g, '\\$&')}%`;
      return `(s.description ilike ${bind(pattern, 'text')}
        or exists (select from entry e where e.id = s.entry and e.description ilike ${bind(pattern, 'text')}))`;
    }
  }
}

/** Whether a text is one of the values, or fits one of the patterns among them. */
function valuesSql(column: string, any: readonly (string | null)[], bind: Bind): string {
  const named = any.filter((v) => v !== null);
  const patterns = named.filter(isPattern).map((v) =>
    v
      .replace(/[\\%_]/g, '\\$&')
      .replaceAll('*', '%')
      .replaceAll('?', '_'),
  );
  const literal = `${column} = any(${bind(
    named.filter((v) => !isPattern(v)),
    'text[]',
  )})`;
  return patterns.length === 0 ? literal : `(${literal} or ${column} ilike any(${bind(patterns, 'text[]')}))`;
}
