import type { Ordinal } from './calendar';
import type { DateText } from './dates';
import { type Account, type AccountType, isTemporary, type Tree } from './ledger';
import { add, allot, type Minor, sum } from './money';

/**
 * What should be booked (method.md §14): entries that balance for every day on which they are, with what makes them from
 * what is booked. Nothing booked is changed: what is wrong is taken out by lines of the other sign, and brought in where
 * it belongs.
 */
export interface ProposedLine {
  account: string;
  /** Debit positive. */
  amount: Minor;
  date: DateText;
  period: Ordinal;
  description: string;
  counterparty: string | null;
  document: string | null;
  taxCode: string | null;
  /** Member code by dimension code. */
  dims: Readonly<Record<string, string>>;
  /** What it is in the currency of the transaction; absent where that is the currency of the books. */
  inCurrency?: InCurrency | undefined;
}

/** An amount in a currency of its own (ISO 4217), debit positive, in its minor units. */
export interface InCurrency {
  currency: string;
  amount: Minor;
}

/**
 * Kinds of what is proposed: misstatements of fact, of judgement and projected from a sample (ISA 450.A6), entries that
 * only move amounts between accounts, and what is planned or foreseen.
 */
export const PROPOSED_KINDS = ['factual', 'judgemental', 'projected', 'reclassification', 'forecast'] as const;
export type ProposedKind = (typeof PROPOSED_KINDS)[number];

/**
 * How far an entry that is proposed has come: said; approved by another; left uncorrected on purpose; taken back; booked
 * by a later load. Its lines count with what is booked while it is one of the first two.
 */
export const PROPOSED_STATES = ['proposed', 'approved', 'waived', 'retired', 'booked'] as const;
export type ProposedState = (typeof PROPOSED_STATES)[number];
export const countsIn = (state: ProposedState): boolean => state === 'proposed' || state === 'approved';

/** So many lines one entry has at the most. */
export const PROPOSED_LINES_MAX = 1_000;

/** What is wrong with a line that is proposed; of no line, with the whole. */
export interface ProposedFault {
  line: number | null;
  field: 'account' | 'amount' | 'currencyAmount' | 'date' | 'period' | 'counterparty' | 'lines' | `dims.${string}`;
  message: string;
}

/** What an entry is held against. */
export interface ProposedBooks {
  accounts: ReadonlyMap<
    string,
    Pick<Account, 'code' | 'name' | 'posting'> & { status: string; dimRules: Readonly<Record<string, string>> }
  >;
  dimensions: ReadonlyMap<string, { name: string; tree: Tree }>;
  counterparties: ReadonlySet<string>;
  /** Where a period is by the calendar; null where the calendar has none of it. */
  spanOf(period: Ordinal): { from: DateText; to: DateText } | null;
  amountText(amount: Minor): string;
}

/** Everything that stands against an entry, in the order of its lines. */
export function faultsOf(lines: readonly ProposedLine[], books: ProposedBooks): ProposedFault[] {
  const faults: ProposedFault[] = [];
  if (lines.length < 2) faults.push({ line: null, field: 'lines', message: 'an entry has two lines at least' });
  if (lines.length > PROPOSED_LINES_MAX)
    faults.push({
      ...{ line: null, field: 'lines' },
      message: `an entry has ${PROPOSED_LINES_MAX} lines at the most; put it on one day, or propose it in parts`,
    });
  for (const [at, line] of lines.entries())
    for (const fault of lineFaults(line, books)) faults.push({ line: at, ...fault });
  for (const [day, own] of byDay(lines)) {
    const off = sum(own.map((l) => l.amount));
    if (off !== 0)
      faults.push({
        ...{ line: null, field: 'amount' },
        message: `on ${day} debits and credits differ by ${books.amountText(Math.abs(off))}, more ${off > 0 ? 'debit' : 'credit'}`,
      });
  }
  return faults;
}

function lineFaults(line: ProposedLine, books: ProposedBooks): Omit<ProposedFault, 'line'>[] {
  const faults: Omit<ProposedFault, 'line'>[] = [];
  const account = books.accounts.get(line.account);
  if (!account) faults.push({ field: 'account', message: `there is no account “${line.account}”` });
  else if (!account.posting)
    faults.push({ field: 'account', message: `${account.code} is a heading; name an account` });
  else if (account.status !== 'active')
    faults.push({ field: 'account', message: `${account.code} ${account.name} is ${account.status}` });
  if (line.amount === 0) faults.push({ field: 'amount', message: 'a line has an amount' });
  if (line.inCurrency && Math.sign(line.inCurrency.amount) === -Math.sign(line.amount) && line.amount !== 0)
    faults.push({
      ...{ field: 'currencyAmount' },
      message: `in ${line.inCurrency.currency} it is on the other side than in the currency of the books`,
    });
  const span = books.spanOf(line.period);
  if (!span) faults.push({ field: 'period', message: 'the calendar has no such period' });
  else if (line.date < span.from || line.date > span.to)
    faults.push({ field: 'date', message: `${line.date} is outside of its period, ${span.from} to ${span.to}` });
  if (line.counterparty !== null && !books.counterparties.has(line.counterparty))
    faults.push({ field: 'counterparty', message: `there is no party “${line.counterparty}”` });
  for (const [code, member] of Object.entries(line.dims)) {
    const dimension = books.dimensions.get(code);
    if (!dimension) faults.push({ field: `dims.${code}`, message: `there is no dimension “${code}”` });
    else if (!dimension.tree.has(member))
      faults.push({ field: `dims.${code}`, message: `there is no ${dimension.name.toLowerCase()} “${member}”` });
  }
  for (const [code, rule] of Object.entries(account?.dimRules ?? {})) {
    const name = books.dimensions.get(code)?.name.toLowerCase() ?? code;
    const has = line.dims[code] !== undefined;
    if (rule === 'required' && !has)
      faults.push({ field: `dims.${code}`, message: `account ${line.account} wants a ${name}` });
    if (rule === 'forbidden' && has)
      faults.push({ field: `dims.${code}`, message: `account ${line.account} takes no ${name}` });
  }
  return faults;
}

/** A line on its other side. */
const turned = (line: ProposedLine): ProposedLine => ({
  ...line,
  amount: -line.amount,
  ...(line.inCurrency ? { inCurrency: { ...line.inCurrency, amount: -line.inCurrency.amount || 0 } } : {}),
});

/** A line in parts by weights, which come to it exactly in each of its currencies. */
function inParts(line: ProposedLine, weights: readonly number[]): ProposedLine[] {
  const { inCurrency } = line;
  const amounts = allot(line.amount, weights);
  // A part that comes to nothing is no line, and takes nothing of the other currency with it.
  const foreign =
    inCurrency &&
    allot(
      inCurrency.amount,
      weights.map((weight, i) => (amounts[i] === 0 ? 0 : weight)),
    );
  return amounts.map((amount, i) => ({
    ...line,
    amount,
    ...(inCurrency ? { inCurrency: { ...inCurrency, amount: foreign?.[i] as Minor } } : {}),
  }));
}

const dayKey = ({ date, period }: Pick<ProposedLine, 'date' | 'period'>): string => `${period} ${date}`;

/** The lines of each day and period, which are an entry of their own; earliest first. */
export function byDay(lines: readonly ProposedLine[]): Map<string, ProposedLine[]> {
  const found = new Map<string, ProposedLine[]>();
  const sorted = [...lines].sort((a, b) => a.period - b.period || (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  const days = new Map<DateText, Set<Ordinal>>();
  for (const { date, period } of lines) days.set(date, (days.get(date) ?? new Set()).add(period));
  for (const line of sorted) {
    // A day is told with its period where entries of several are on it.
    const several = (days.get(line.date)?.size ?? 0) > 1;
    const key = several ? `${line.date} (period ${line.period % 100})` : line.date;
    const own = found.get(key);
    if (own) own.push(line);
    else found.set(key, [line]);
  }
  return found;
}

/** Numbers of the entries that a proposal is of: its own, or where it is of several days one after the other. */
export const entryNumbers = (number: string, days: number): string[] =>
  days === 1 ? [number] : Array.from({ length: days }, (_, i) => `${number}.${i + 1}`);

/** What lines are moved to; what is not named stays as it is. */
export interface MovedTo {
  account?: string | undefined;
  counterparty?: string | null | undefined;
  taxCode?: string | null | undefined;
  /** null: to no member. */
  dims?: Readonly<Record<string, string | null>> | undefined;
}

/**
 * Takes lines out of where they are and brings them in where they belong. Lines that are alike in everything but their
 * amount and text are one. Lines that are where they belong are left alone.
 * @param on the day on which it is put right; null: each line's own
 */
export function moved(
  lines: readonly ProposedLine[],
  to: MovedTo,
  on: { date: DateText; period: Ordinal } | null,
): ProposedLine[] {
  const found: ProposedLine[] = [];
  for (const line of together(on ? lines.map((l) => ({ ...l, ...on })) : lines)) {
    const there = { ...line, ...changed(line, to) };
    if (alike(there) === alike(line)) continue;
    found.push(turned(line), there);
  }
  return found;
}

function changed(line: ProposedLine, { account, counterparty, taxCode, dims }: MovedTo): Partial<ProposedLine> {
  const members = { ...line.dims, ...dims };
  return {
    ...(account === undefined ? {} : { account }),
    ...(counterparty === undefined ? {} : { counterparty }),
    ...(taxCode === undefined ? {} : { taxCode }),
    dims: Object.fromEntries(Object.entries(members).filter((of): of is [string, string] => of[1] !== null)),
  };
}

/** Lines taken back on another day, and brought in on it: what was booked on a wrong day. */
export function movedInTime(lines: readonly ProposedLine[], to: { date: DateText; period: Ordinal }): ProposedLine[] {
  return together(lines)
    .filter((line) => dayKey(line) !== dayKey(to))
    .flatMap((line) => [turned(line), { ...line, ...to }]);
}

/** Lines of the other sign on a day. */
export const reversed = (lines: readonly ProposedLine[], on: { date: DateText; period: Ordinal }): ProposedLine[] =>
  lines.map((line) => ({ ...turned(line), ...on }));

/**
 * An entry that is taken back on the first day of a later period, as an accrual is: itself, and its reversal.
 */
export const turningAround = (
  lines: readonly ProposedLine[],
  on: { date: DateText; period: Ordinal },
): ProposedLine[] => [...lines, ...reversed(lines, on)];

/**
 * What is to be spread over periods: taken from where it is to an account that holds it, and given back in parts that are
 * as equal as whole minor units are and come to the whole.
 * @param holds account that holds what is not spread yet
 */
export function spread(
  line: ProposedLine,
  holds: string,
  over: readonly { date: DateText; period: Ordinal }[],
): ProposedLine[] {
  if (over.length === 0) return [];
  const parts = inParts(
    line,
    over.map(() => 1),
  );
  const held = { account: holds, dims: {} };
  return [
    turned(line),
    { ...line, ...held },
    ...over.flatMap((on, i) => {
      const part = parts[i] as ProposedLine;
      return part.amount === 0
        ? []
        : [
            { ...part, ...on },
            { ...turned(part), ...held, ...on },
          ];
    }),
  ];
}

/** One amount split by weights over several places: taken out once, brought in by parts that come to it exactly. */
export function splitAmong(line: ProposedLine, among: readonly ({ weight: number } & MovedTo)[]): ProposedLine[] {
  const parts = inParts(
    line,
    among.map(({ weight }) => weight),
  );
  return [turned(line), ...among.map((to, i) => ({ ...(parts[i] as ProposedLine), ...changed(line, to) }))].filter(
    ({ amount }) => amount !== 0,
  );
}

/** All that a line says but for its amount and its text. */
const alike = ({ account, counterparty, document, taxCode, dims, inCurrency, ...on }: ProposedLine): string =>
  JSON.stringify([
    ...[dayKey(on), account, counterparty, document, taxCode],
    ...[inCurrency?.currency, Object.entries(dims).sort()],
  ]);

/** Lines that are alike as one; what cancels is left out. The text is the first line's. */
export function together(lines: readonly ProposedLine[]): ProposedLine[] {
  const found = new Map<string, ProposedLine>();
  for (const line of lines) {
    const held = found.get(alike(line));
    found.set(alike(line), held ? addedUp(held, line) : line);
  }
  return [...found.values()].filter(({ amount }) => amount !== 0);
}

const addedUp = (to: ProposedLine, line: ProposedLine): ProposedLine => ({
  ...to,
  amount: add(to.amount, line.amount),
  ...(to.inCurrency && line.inCurrency
    ? { inCurrency: { ...to.inCurrency, amount: add(to.inCurrency.amount, line.inCurrency.amount) } }
    : {}),
});

/** What a booked entry is held against: its lines as they are proposed ones. */
export type Booked = Pick<
  ProposedLine,
  'account' | 'amount' | 'date' | 'period' | 'counterparty' | 'taxCode' | 'dims' | 'inCurrency'
>;

export const MATCHED_FIELDS = [
  'date',
  'period',
  'accounts',
  'amounts',
  'counterparty',
  'tax code',
  'dimensions',
  'currency',
] as const;
export type MatchedField = (typeof MATCHED_FIELDS)[number];

/**
 * In which fields a booked entry differs from a proposed one; none: it is booked as it was proposed. Texts, numbers and
 * the order of lines are the ledger's own. Lines that are alike count together, however they were split.
 */
export function differsIn(proposed: readonly Booked[], booked: readonly Booked[]): MatchedField[] {
  const bag = (
    lines: readonly Booked[],
    of: (line: Booked) => unknown,
    amountOf: (line: Booked) => Minor = (line) => line.amount,
  ): string => {
    const sums = new Map<string, Minor>();
    for (const line of lines) {
      const key = JSON.stringify(of(line));
      sums.set(key, add(sums.get(key) ?? 0, amountOf(line)));
    }
    return JSON.stringify([...sums].filter(([, amount]) => amount !== 0).sort());
  };
  const dimsOf = ({ dims }: Booked): unknown => Object.entries(dims).sort();
  const whole = (l: Booked): unknown => [
    ...[l.date, l.period, l.account, l.counterparty, l.taxCode],
    ...[dimsOf(l), l.inCurrency?.currency],
  ];
  const inCurrency = (of: (line: Booked) => unknown): boolean => {
    const amount = (l: Booked): Minor => l.inCurrency?.amount ?? 0;
    return bag(proposed, of, amount) === bag(booked, of, amount);
  };
  if (bag(proposed, whole) === bag(booked, whole) && inCurrency(whole)) return [];
  const days = (lines: readonly Booked[], by: 'date' | 'period'): string =>
    JSON.stringify([...new Set(lines.map((l) => l[by]))].sort());
  const accounts = (lines: readonly Booked[]): string =>
    JSON.stringify([...new Set(lines.map((l) => l.account))].sort());
  const sameAccounts = accounts(proposed) === accounts(booked);
  const differing: MatchedField[] = [
    ...(days(proposed, 'date') === days(booked, 'date') ? [] : (['date'] as const)),
    ...(days(proposed, 'period') === days(booked, 'period') ? [] : (['period'] as const)),
    ...(sameAccounts ? [] : (['accounts'] as const)),
    ...(bag(proposed, (l) => (sameAccounts ? l.account : l.amount > 0)) ===
    bag(booked, (l) => (sameAccounts ? l.account : l.amount > 0))
      ? []
      : (['amounts'] as const)),
  ];
  for (const [field, of] of [
    ['counterparty', (l: Booked) => [l.account, l.counterparty]],
    ['tax code', (l: Booked) => [l.account, l.taxCode]],
    ['dimensions', (l: Booked) => [l.account, dimsOf(l)]],
  ] as const)
    if (sameAccounts && !differing.includes('amounts') && bag(proposed, of) !== bag(booked, of)) differing.push(field);
  const ofCurrency = (l: Booked): unknown => [l.account, l.inCurrency?.currency];
  if (sameAccounts && !differing.includes('amounts'))
    if (bag(proposed, ofCurrency) !== bag(booked, ofCurrency) || !inCurrency(ofCurrency)) differing.push('currency');
  // Whatever it is that differs, it is never told as the same.
  return differing.length > 0 ? differing : ['dimensions'];
}

/** What an entry does to the parts of a balance sheet and a result, in debits less credits. */
export interface Effect {
  assets: Minor;
  liabilities: Minor;
  equity: Minor;
  income: Minor;
  expense: Minor;
}

const PARTS: Record<AccountType, keyof Effect> = {
  asset: 'assets',
  liability: 'liabilities',
  equity: 'equity',
  income: 'income',
  expense: 'expense',
};

export function effectOf(lines: readonly ProposedLine[], typeOf: (account: string) => AccountType): Effect {
  const effect: Effect = { assets: 0, liabilities: 0, equity: 0, income: 0, expense: 0 };
  for (const line of lines) {
    const part = PARTS[typeOf(line.account)];
    effect[part] = add(effect[part], line.amount);
  }
  return effect;
}

/**
 * What correcting would do to the result of a fiscal year, a profit positive, in the two ways in which misstatements that
 * go over a year's end are weighed (US SEC Staff Accounting Bulletin 108, from memory): by what belongs to the year
 * itself, what turned around in it with it (rollover); and by all that the balance sheet at its end is out by, from
 * whichever year (iron curtain).
 */
export function onResult(
  lines: readonly ProposedLine[],
  typeOf: (account: string) => AccountType,
  yearOf: (period: Ordinal) => number,
  year: number,
): { rollover: Minor; ironCurtain: Minor } {
  const results = lines.filter((l) => isTemporary(typeOf(l.account)));
  const of = (some: readonly ProposedLine[]): Minor => -sum(some.map((l) => l.amount)) || 0;
  return {
    rollover: of(results.filter((l) => yearOf(l.period) === year)),
    ironCurtain: of(results.filter((l) => yearOf(l.period) <= year)),
  };
}
