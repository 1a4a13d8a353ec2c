import type { LedgerProposal } from '@/contracts/answers/loads';
import type { Mapping } from '@/contracts/mapping';
import { wrong } from '@/contracts/problem';
import type { ReadonlyDeep } from '@/contracts/routes';
import { isDate, lastOfMonth } from '@/core/dates';
import { ACCOUNT_TYPES, type AccountType, DIMENSIONS_MAX, isTemporary } from '@/core/ledger';
import { isCurrency } from '@/core/money';
import {
  type AccountFacts,
  type ColumnFacts,
  companyCode,
  proposeAccounts,
  proposeDimensions,
  proposeRetained,
  proposeYearStart,
  stemOf,
  type TimeFacts,
} from '@/core/proposal';
import { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import { type DeliveredFile, type Recognition, recognise, tableRows } from '@/exchange/recognise';
import { saftCompany } from '@/exchange/saft';
import { UnreadableFile } from '@/exchange/source';
import { type Context, known } from '../asking/context';
import type { Work } from '../jobs/work';
import { viewerOfPerson } from '../people/signIn';
import { keptFile } from './keptFiles';

/** Rows that are read for a proposal; what comes later can only add accounts and members. */
const ROWS_MAX = 3_000_000;
/** A column of more values than this is no dimension. */
const MEMBERS_MAX = 400;

export interface ProposalAsked {
  digest: string;
  name: string;
  mapping: Mapping | null;
}

/** The work of making a proposal. What is wrong with the file is told to whoever asked, as it is. */
export async function proposeAtLength({ ctx, job }: Work): Promise<{ result: ReadonlyDeep<LedgerProposal> }> {
  await viewerOfPerson(ctx, job.person as number);
  return { result: await proposeLedger(ctx, job.input as unknown as ProposalAsked) };
}

/**
 * What a ledger could be made of that has nothing but one file of lines: company, currency, fiscal year, chart with types,
 * dimensions; each with what it was taken from. Nothing is made of it before somebody has looked at it.
 * @throws ProblemError where the file cannot be read as lines
 */
export async function proposeLedger(ctx: Context, { digest, name, mapping }: ProposalAsked): Promise<LedgerProposal> {
  const { path } = await keptFile(ctx, 'file', digest);
  const file: DeliveredFile = { path, kind: 'lines', format: null, mapping };
  try {
    const found = await recognise(file);
    const said = found.shape === 'xml' ? await saftCompany(found.source, found.reading) : null;
    const facts = await factsOf({ ...file, mapping: mapping ?? null }, found);
    if (facts.rows === 0)
      throw wrong('file', facts.problem ?? 'no line of it could be read; say what its columns are first');
    const accounts = proposeAccounts([...facts.accounts.values()].sort((a, b) => (a.code < b.code ? -1 : 1)));
    const year = proposeYearStart({ ...facts.time, closings: closingsOf(facts, accounts) });
    const { catalogue } = await known(ctx.write);
    // Dimensions are shared by all companies, and there is room for so many.
    let room = DIMENSIONS_MAX - catalogue.dimensions.size;
    const dimensions = (found.shape === 'xml' ? [] : proposeDimensions(facts.columns)).filter(
      ({ code }) => catalogue.dimensions.has(code) || room-- > 0,
    );
    const codes = facts.entities.size > 0 ? [...facts.entities] : [said?.code ?? companyCode(name)];
    const currency = said?.currency ?? facts.currency;
    return {
      digest,
      rows: facts.rows,
      partly: facts.partly,
      companies: codes.sort().map((code) => ({
        code: /^[A-Za-z0-9][A-Za-z0-9._-]{0,19}$/.test(code) ? code : companyCode(code),
        name: codes.length === 1 ? (said?.name ?? nameOf(name)) : code,
        taken: catalogue.entities.has(code),
      })),
      inFile: facts.entities.size > 0 ? [...facts.entities].sort() : [],
      currency: {
        code: currency ?? 'EUR',
        why: said?.currency
          ? 'the file says so'
          : currency
            ? 'most lines with a currency are in it'
            : 'nothing in the file tells',
      },
      yearStart: year,
      adjustments: facts.thirteenth ? 1 : 0,
      first: facts.time.first,
      last: facts.time.last,
      accounts,
      retained: proposeRetained(accounts),
      dimensions: dimensions.map(({ column, code, members }) => ({
        ...{ column, code, members },
        name: column.replace(/^dim:/, ''),
      })),
      mapping: withoutDimensions(mapping ?? mappingOf(found)),
      problems: facts.problems,
    };
  } catch (error) {
    if (error instanceof UnreadableFile) throw wrong('file', error.message);
    throw error;
  }
}

const nameOf = (file: string): string => stemOf(file).replace(/[_-]+/g, ' ').trim() || 'Books';

/** The columns as they were recognised, written down, so that dimensions can be added to them. */
function mappingOf(found: Recognition): Mapping | null {
  if (found.shape === 'xml') return null;
  const columns = Object.fromEntries(
    [...found.fields].map(([field, at]) => {
      const names = at.map((i) => found.header[i] ?? '');
      return [field, names.length === 1 ? (names[0] as string) : names];
    }),
  );
  return { columns, ...(found.preset ? { reading: found.preset.mapping(found.header).reading } : {}) } as Mapping;
}

/** Dimensions that nobody has made yet are columns of the file until then. */
const isDimension = (field: string): boolean => /^(dim|slot):/.test(field);

const withoutDimensions = (mapping: Mapping | null): Mapping | null =>
  mapping?.columns
    ? { ...mapping, columns: Object.fromEntries(Object.entries(mapping.columns).filter(([f]) => !isDimension(f))) }
    : mapping;

interface Facts {
  rows: number;
  partly: boolean;
  problems: number;
  problem: string | null;
  accounts: Map<string, AccountFacts>;
  entities: Set<string>;
  currency: string | null;
  time: Omit<TimeFacts, 'closings'>;
  thirteenth: boolean;
  columns: ColumnFacts[];
  /** By the last day of a month and entry, the net of each account. */
  monthEnds: Map<string, Map<string, number>>;
  /** What each account came to up to the end of each month, by month and account. */
  movements: Map<string, Map<string, number>>;
}

async function factsOf(file: DeliveredFile, found: Recognition): Promise<Facts> {
  const problems = new Problems();
  const facts: Facts = {
    ...{ rows: 0, partly: false, problems: 0, problem: null, currency: null, thirteenth: false },
    ...{ accounts: new Map(), entities: new Set(), columns: [], monthEnds: new Map(), movements: new Map() },
    time: { first: '9999-12-31', last: '0000-01-01', monthsOfPeriod: new Map() },
  };
  // An audit file has its accounts apart from its lines.
  if (found.shape === 'xml')
    for await (const { values } of readRecords({ ...file, kind: 'accounts' }, new Problems())) {
      const { code = '', name = '' } = values;
      facts.accounts.set(code, {
        ...{ code, name, debits: 0, credits: 0 },
        said: saidType({ account_type: values.type }),
      });
    }
  const currencies = new Map<string, number>();
  const months = new Map<number, Map<number, number>>();
  for await (const { values } of readRecords(file, problems)) {
    const { account = '', date = '', entity = '', period = '', currency = '' } = values;
    if (account.trim() === '' || !isDate(date)) continue;
    facts.rows += 1;
    if (facts.rows > ROWS_MAX) {
      facts.partly = true;
      break;
    }
    const code = account.trim();
    const own = facts.accounts.get(code) ?? {
      ...{ code, name: (values.account_name ?? '').trim() || code, said: saidType(values), debits: 0, credits: 0 },
    };
    facts.accounts.set(code, own);
    const amount = amountOf(values);
    if (amount >= 0) own.debits += 1;
    else own.credits += 1;
    if (entity.trim()) facts.entities.add(entity.trim());
    if (isCurrency(currency)) currencies.set(currency, (currencies.get(currency) ?? 0) + 1);
    if (date < facts.time.first) facts.time.first = date;
    if (date > facts.time.last) facts.time.last = date;
    const number = Number(period.includes('.') ? period.split('.')[1] : period);
    if (Number.isInteger(number) && number > 0) {
      if (number === 13) facts.thirteenth = true;
      const of = months.get(number) ?? new Map<number, number>();
      const month = Number(date.slice(5, 7));
      months.set(number, of.set(month, (of.get(month) ?? 0) + 1));
    }
    noteMonth(facts, date, values.entry ?? '', code, amount);
  }
  const [most] = [...currencies].sort((a, b) => b[1] - a[1]);
  const [problem] = problems.kept;
  return {
    ...facts,
    problems: problems.count,
    problem: problem ? `${problem.column ? `${problem.column}: ` : ''}${problem.message}` : null,
    currency: most?.[0] ?? null,
    time: { ...facts.time, monthsOfPeriod: months },
    columns: found.shape === 'text' || found.shape === 'workbook' ? await unmappedColumns(found) : [],
  };
}

function saidType(values: { [field: string]: string | undefined }): AccountType | null {
  const said = (values.account_type ?? '').trim().toLowerCase();
  return ACCOUNT_TYPES.find((t) => t === said) ?? null;
}

/** The signed amount of a row, for proportions only: it is read exactly when it is loaded. */
function amountOf({ debit, credit, amount }: { [field: string]: string | undefined }): number {
  const number = (text: string | undefined): number => Number(text || 0) || 0;
  return amount ? number(amount) : number(debit) - number(credit);
}

/** Keeps what closing entries are told by: the net of each entry on the last day of a month, and what was before it. */
function noteMonth(
  { monthEnds, movements }: Facts,
  date: string,
  entry: string,
  account: string,
  amount: number,
): void {
  const month = date.slice(0, 7);
  const isEnd = date === lastOfMonth(Number(month.slice(0, 4)), Number(month.slice(5, 7)));
  const into = (map: Map<string, Map<string, number>>, key: string): void => {
    const own = map.get(key) ?? new Map<string, number>();
    map.set(key, own.set(account, (own.get(account) ?? 0) + amount));
  };
  if (isEnd) into(monthEnds, `${month}|${entry}`);
  into(movements, month);
}

/** Months at whose end one entry brings income and expense accounts to nothing, with how many of them. */
function closingsOf({ monthEnds, movements }: Facts, accounts: readonly { code: string; type: AccountType }[]) {
  const temporary = new Set(accounts.filter((a) => isTemporary(a.type)).map((a) => a.code));
  const months = [...movements.keys()].sort();
  const found = new Map<number, number>();
  for (const [key, entry] of monthEnds) {
    const [month = ''] = key.split('|');
    let cleared = 0;
    for (const [code, net] of entry) {
      if (!temporary.has(code) || Math.abs(net) < 0.005) continue;
      const upTo = months.filter((m) => m <= month).reduce((sum, m) => sum + (movements.get(m)?.get(code) ?? 0), 0);
      // With the entry the account stands at nothing, and without it it did not.
      if (Math.abs(upTo) < 0.005) cleared += 1;
    }
    const number = Number(month.slice(5, 7));
    if (cleared > (found.get(number) ?? 0)) found.set(number, cleared);
  }
  return found;
}

/** The columns of a table that give none of our fields, with their values as far as they are few. */
async function unmappedColumns(found: Recognition): Promise<ColumnFacts[]> {
  const mapped = new Set([...found.fields].flatMap(([field, at]) => (isDimension(field) ? [] : at)));
  const columns = found.header.map((name, at) => ({
    name,
    at,
    filled: 0,
    values: new Set<string>() as Set<string> | null,
  }));
  // What a known layout has columns for beyond its segments is no dimension.
  const segments = new Set([...found.fields].flatMap(([field, at]) => (isDimension(field) ? at : [])));
  const open = columns.filter((c) => c.name !== '' && (found.preset ? segments.has(c.at) : !mapped.has(c.at)));
  let lines = 0;
  for await (const { row, cells } of tableRows(found.source, found.shape, found.reading)) {
    if (row <= found.headerRow) continue;
    lines += 1;
    if (lines > ROWS_MAX || open.every((c) => c.values === null)) break;
    for (const column of open) {
      const value = (cells[column.at] ?? '').trim();
      if (value === '' || column.values === null) continue;
      column.filled += 1;
      column.values.add(value);
      if (column.values.size > MEMBERS_MAX) column.values = null;
    }
  }
  return open.map(({ name, filled, values }) => ({ name, lines, filled, values }));
}
