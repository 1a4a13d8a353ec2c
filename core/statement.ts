import type { Balance } from './balances';
import { type Account, type AccountType, isTemporary, usualSide } from './ledger';
import { add, type Minor } from './money';
import { accountsIn, parseSelection, SelectionError } from './selection';
import type { Value } from './sheet';

/**
 * A statement is an outline of rows (method.md §6). Values inside are signed, debit positive; a row's sign turns them
 * into what a reader expects: income, liabilities and equity positive when credit (common practice).
 */
export type OutlineRow = Labelled &
  (
    | { is: 'caption' }
    /** @param members of dimensions, by their codes as a scope has them: the row takes only what is booked on these */
    | { is: 'accounts'; accounts: string; sign: Sign; members?: Members }
    /** Other rows added up or taken away, in natural sign: gross profit = revenue − cost. */
    | { is: 'formula'; terms: Term[]; emphasis?: Emphasis }
    /** One row over another, as a share. */
    | { is: 'ratio'; over: string; under: string }
    /** The result: of the window on an income statement, of the year so far on a balance sheet. */
    | { is: 'result'; emphasis?: Emphasis }
  );

interface Labelled {
  key: string;
  label: string;
  /** The label in other languages, by their codes (ISO 639). */
  names?: Record<string, string>;
  depth: number;
}

/** Members of dimensions, by dimension. */
export type Members = Readonly<Record<string, string[]>>;

/** The members that a row is of; null where it is of whole accounts. */
export const membersOfRow = (row: OutlineRow): Members | null =>
  row.is === 'accounts' && row.members && Object.keys(row.members).length > 0 ? row.members : null;

/** Balances of rows that are of some members only, by the key of the row. */
export type OwnBalances = ReadonlyMap<string, ReadonlyMap<string, Balance>>;

/** debit: shown as booked; credit: turned, so that what is usually credit reads as positive. */
export type Sign = 'debit' | 'credit';
export type Emphasis = 'subtotal' | 'total';
export interface Term {
  row: string;
  times: 1 | -1;
}

export type StatementKind = 'income' | 'balance' | 'cashflow' | 'position';

export interface Outline {
  code: string;
  name: string;
  names?: Record<string, string>;
  kind: StatementKind;
  rows: OutlineRow[];
  /** The row that shares are taken of, such as total income. */
  shareOf?: string;
}

/** Raised when an outline cannot be calculated: a row that is not there, or that depends on itself. */
export class OutlineError extends Error {
  constructor(
    readonly row: string,
    message: string,
  ) {
    super(message);
    this.name = 'OutlineError';
  }
}

/** Which measure of an account's balance a kind of statement is made of. */
export const measureOf = (kind: StatementKind): 'movement' | 'closing' => (kind === 'balance' ? 'closing' : 'movement');

/** Accounts that a kind of statement must take, each once. */
export const belongs = (kind: StatementKind, type: AccountType): boolean =>
  kind === 'balance' ? !isTemporary(type) : kind === 'income' ? isTemporary(type) : false;

/** The posting accounts that each account row takes. @throws SelectionError with the word that the chart does not know */
export function accountsOf(outline: Outline, chart: readonly Account[]): Map<string, Set<string>> {
  const taken = new Map<string, Set<string>>();
  for (const row of outline.rows) {
    if (row.is !== 'accounts') continue;
    try {
      taken.set(row.key, accountsIn(parseSelection(row.accounts), chart));
    } catch (error) {
      if (error instanceof SelectionError) throw new OutlineError(row.key, `row “${row.label}”: ${error.message}`);
      throw error;
    }
  }
  return taken;
}

/**
 * Every row's value for one column.
 * @param balances of the posting accounts, by code
 * @param result signed, debit positive: Σ of temporary accounts
 */
export function valuesOf(
  outline: Outline,
  taken: ReadonlyMap<string, ReadonlySet<string>>,
  balances: ReadonlyMap<string, Balance>,
  result: Minor,
  own: OwnBalances = new Map(),
): Map<string, Value> {
  const measure = measureOf(outline.kind);
  const rows = new Map(outline.rows.map((r) => [r.key, r]));
  const found = new Map<string, Value>();
  const open = new Set<string>();
  const valueAt = (key: string, from: string): Value => {
    const held = found.get(key);
    if (held) return held;
    const row = rows.get(key);
    if (!row) throw new OutlineError(from, `row “${from}” names a row “${key}” that is not there`);
    if (open.has(key)) throw new OutlineError(key, `row “${row.label}” depends on itself`);
    open.add(key);
    const value = valueOfRow(row);
    open.delete(key);
    found.set(key, value);
    return value;
  };
  const amountOf = (key: string, from: string): Minor => {
    const value = valueAt(key, from);
    return value.is === 'amount' ? value.amount : 0;
  };
  const valueOfRow = (row: OutlineRow): Value => {
    switch (row.is) {
      case 'caption':
        return { is: 'amount', amount: 0 };
      case 'accounts': {
        let sum = 0;
        const of = own.get(row.key) ?? balances;
        for (const code of taken.get(row.key) ?? []) sum = add(sum, of.get(code)?.[measure] ?? 0);
        return { is: 'amount', amount: natural(sum, row.sign) };
      }
      case 'result':
        return { is: 'amount', amount: natural(result, 'credit') };
      case 'formula': {
        let sum = 0;
        for (const { row: key, times } of row.terms)
          sum = add(sum, times === 1 ? amountOf(key, row.label) : 0 - amountOf(key, row.label));
        return { is: 'amount', amount: sum };
      }
      case 'ratio':
        return { is: 'share', millionths: shareOf(amountOf(row.over, row.label), amountOf(row.under, row.label)) };
    }
  };
  for (const row of outline.rows) valueAt(row.key, row.label);
  return found;
}

export const natural = (amount: Minor, sign: Sign): Minor => (sign === 'credit' ? 0 - amount : amount);

/** One amount over another in millionths, rounded half away from zero; null over nothing (method.md §9). */
export function shareOf(over: Minor, under: Minor): number | null {
  if (under === 0) return null;
  const exact = (BigInt(over) * 2_000_000n) / BigInt(under);
  return Number(exact >= 0n ? (exact + 1n) / 2n : (exact - 1n) / 2n);
}

export interface Guard {
  guard: 'missing' | 'twice' | 'balances' | 'result';
  ok: boolean;
  /** Debit positive; what is missing, counted twice, or off. */
  amount: Minor;
  accounts: string[];
}

/**
 * What must hold of a statement, always shown: no account with a balance that no row takes, none that two rows take;
 * assets = liabilities + equity with the result; the result is that of the trial balance. Of an account that rows take by
 * members, what they take together is held against its balance.
 * @param whole whether the figure is a whole ledger, of which alone assets equal liabilities and equity
 */
export function guardsOf(
  outline: Outline,
  taken: ReadonlyMap<string, ReadonlySet<string>>,
  balances: ReadonlyMap<string, Balance>,
  chart: readonly Account[],
  result: Minor,
  whole: boolean,
  own: OwnBalances = new Map(),
): Guard[] {
  const measure = measureOf(outline.kind);
  const times = new Map<string, number>();
  /** What rows take of accounts that at least one takes by members. */
  const byMembers = new Map<string, Minor>();
  for (const [key, codes] of taken)
    for (const code of codes) {
      times.set(code, (times.get(code) ?? 0) + 1);
      if (own.has(key)) byMembers.set(code, 0);
    }
  for (const [key, codes] of taken)
    for (const code of codes) {
      const held = byMembers.get(code);
      if (held !== undefined) byMembers.set(code, add(held, (own.get(key) ?? balances).get(code)?.[measure] ?? 0));
    }
  const of = (code: string): Minor => balances.get(code)?.[measure] ?? 0;
  /** What no row takes of an account; more than is there where rows overlap. */
  const left = (code: string): Minor => add(of(code), -(byMembers.get(code) ?? (times.has(code) ? of(code) : 0)));
  const isOver = (code: string): boolean => byMembers.has(code) && left(code) !== 0 && left(code) > 0 !== of(code) > 0;
  const mine = chart.filter((a) => a.posting && belongs(outline.kind, a.type));
  const missing = mine.filter((a) => left(a.code) !== 0 && !isOver(a.code)).map((a) => a.code);
  const twice = [...times].filter(([code, n]) => (byMembers.has(code) ? isOver(code) : n > 1)).map(([code]) => code);
  const total = (codes: readonly string[], amount: (code: string) => Minor): Minor =>
    codes.reduce((sum, code) => add(sum, amount(code)), 0);
  const guards: Guard[] = [
    { guard: 'missing', ok: missing.length === 0, amount: total(missing, left), accounts: missing },
    {
      guard: 'twice',
      ok: twice.length === 0,
      amount: total(twice, (code) => (byMembers.has(code) ? 0 - left(code) : of(code))),
      accounts: twice,
    },
  ];
  const shown = total([...times.keys()], (code) => byMembers.get(code) ?? of(code));
  if (outline.kind === 'balance' && whole) {
    const off = add(shown, outline.rows.some((r) => r.is === 'result') ? result : 0);
    guards.push({ guard: 'balances', ok: off === 0, amount: off, accounts: [] });
  }
  if (outline.kind === 'income') {
    const off = add(shown, 0 - result);
    guards.push({ guard: 'result', ok: off === 0, amount: off, accounts: [] });
  }
  return guards;
}

/** What is wrong with an outline as such, as sentences; empty if it can be used. */
export function outlineFaults(outline: Outline, chart: readonly Account[]): { row: string; message: string }[] {
  const faults: { row: string; message: string }[] = [];
  const keys = new Set<string>();
  for (const row of outline.rows) {
    if (keys.has(row.key)) faults.push({ row: row.key, message: `two rows have the key “${row.key}”` });
    keys.add(row.key);
  }
  const fault = (error: unknown): void => {
    if (!(error instanceof OutlineError)) throw error;
    faults.push({ row: error.row, message: error.message });
  };
  let taken = new Map<string, Set<string>>();
  try {
    taken = accountsOf(outline, chart);
  } catch (error) {
    fault(error);
  }
  try {
    valuesOf(outline, taken, new Map(), 0);
  } catch (error) {
    fault(error);
  }
  if (outline.shareOf !== undefined && !keys.has(outline.shareOf))
    faults.push({ row: outline.shareOf, message: `shares are taken of a row “${outline.shareOf}” that is not there` });
  return faults;
}

/**
 * A sensible outline from account types and tree: a row for each heading under the topmost ones, what is under none
 * of them in a row of its own, subtotals by type. An income statement has a gross profit where headings are called the
 * cost of what was sold, and an operating result where some are of finance or of tax on the result (IAS 1.82 and 1.85
 * name the lines; where they stand is common practice).
 */
export function usualOutline(kind: 'income' | 'balance', chart: readonly Account[]): Outline {
  const rows: OutlineRow[] = [];
  const draw: Draw = {
    part: (caption, key, parts) => {
      rows.push({ key: `head-${key}`, label: caption, is: 'caption', depth: 0 });
      for (const [type, head] of parts) {
        const { label, accounts } = head;
        rows.push({ key: rowOf(type, head), label, is: 'accounts', depth: 1, accounts, sign: usualSide(type) });
      }
    },
    total: (key, label, terms) => {
      rows.push({ key, label, is: 'formula', depth: 0, terms, emphasis: 'subtotal' });
    },
  };
  if (kind === 'income') {
    drawIncome(chart, draw);
    rows.push({ key: 'result', label: 'Result', is: 'result', depth: 0, emphasis: 'total' });
    return { code: 'income', name: 'Income statement', kind, rows, shareOf: 'total-income' };
  }
  const section = (type: AccountType, caption: string, total: string): void =>
    drawSummed(
      draw,
      { caption, key: type, total },
      headsOf(type, chart).map((head): TypedHead => [type, head]),
    );
  section('asset', 'Assets', 'Total assets');
  section('liability', 'Liabilities', 'Total liabilities');
  section('equity', 'Equity', 'Equity before the result');
  rows.push({ key: 'result', label: 'Result of the year so far', is: 'result', depth: 1 });
  const terms: Term[] = ['total-liability', 'total-equity', 'result'].map((row) => ({ row, times: 1 }));
  rows.push({ key: 'total', label: 'Total liabilities and equity', is: 'formula', depth: 0, terms, emphasis: 'total' });
  return { code: 'balance', name: 'Balance sheet', kind, rows, shareOf: 'total-asset' };
}

const COST_OF_SALES = /\bcosts? of (sales|goods sold|revenue|turnover)\b|^direct costs?$/i;
const FINANCE = /^financ(e|ial|ing)( costs?| expenses?| income| items?)?$|^interest\b/i;
const TAX_ON_RESULT =
  /^(income|corporation|corporate) tax(es)?\b|^tax(es|ation)?( on (income|profits?|ordinary activities|the result))?$/i;

type TypedHead = [type: AccountType, head: Head];

/** The parts that a usual outline is drawn of. */
interface Draw {
  /** A caption with a row for each head under it. */
  part(caption: string, key: string, heads: readonly TypedHead[]): void;
  total(key: string, label: string, terms: Term[]): void;
}

const rowOf = (type: AccountType, head: Head): string => `${type}-${head.key}`;

/** A part with its sum below it. */
function drawSummed(
  draw: Draw,
  { caption, key, total }: { caption: string; key: string; total: string },
  heads: readonly TypedHead[],
): void {
  draw.part(caption, key, heads);
  draw.total(
    `total-${key}`,
    total,
    heads.map(([type, head]): Term => ({ row: rowOf(type, head), times: 1 })),
  );
}

/** Income, cost of sales, other expenses, then what is not of operations; as many subtotals as there are such parts. */
function drawIncome(chart: readonly Account[], draw: Draw): void {
  const byCode = new Map(chart.map((a) => [a.code, a]));
  const ofFinance = ({ label, codes }: Head): boolean =>
    FINANCE.test(label) || codes.every((code) => byCode.get(code)?.flow === 'financing');
  const placeOf = (type: 'income' | 'expense', head: Head): 'income' | 'expense' | 'cost' | 'below' => {
    // An account under no heading is told apart by nobody: it stays with its type.
    if (byCode.get(head.key)?.posting !== false) return type;
    if (type === 'expense' && COST_OF_SALES.test(head.label)) return 'cost';
    return ofFinance(head) || TAX_ON_RESULT.test(head.label) ? 'below' : type;
  };
  const placed = (['income', 'expense'] as const).flatMap((type) =>
    headsOf(type, chart).map((head) => ({ head: [type, head] as TypedHead, type, place: placeOf(type, head) })),
  );
  // Where nothing else is left of income or of expenses there is nothing to tell apart.
  const apart = (['income', 'expense'] as const).every((type) => placed.some((p) => p.place === type));
  const of = (place: string): TypedHead[] =>
    placed.flatMap((p) => ((apart ? p.place : p.type) === place ? [p.head] : []));
  const [cost, below] = [of('cost'), of('below')];
  const withCost = cost.length > 0;
  const withBelow = below.length > 0;
  drawSummed(draw, { caption: 'Income', key: 'income', total: 'Total income' }, of('income'));
  if (withCost) {
    drawSummed(draw, { caption: 'Cost of sales', key: 'cost', total: 'Total cost of sales' }, cost);
    draw.total('gross', 'Gross profit', [
      { row: 'total-income', times: 1 },
      { row: 'total-cost', times: -1 },
    ]);
  }
  const total = withBelow ? 'Operating expenses' : withCost ? 'Total other expenses' : 'Total expenses';
  drawSummed(draw, { caption: 'Expenses', key: 'expense', total }, of('expense'));
  if (!withBelow) return;
  draw.total('operating', 'Operating result', [
    { row: withCost ? 'gross' : 'total-income', times: 1 },
    { row: 'total-expense', times: -1 },
  ]);
  draw.part('Finance and tax', 'below', below);
}

interface Head {
  key: string;
  label: string;
  accounts: string;
  /** The accounts that lie beneath it. */
  codes: readonly string[];
}

/** More rows than this in a section say less than their headings do. */
const ROWS_MOST = 14;

/** The headings under which the accounts of a type are, one level below the topmost where that is not too many. */
function headsOf(type: AccountType, chart: readonly Account[]): Head[] {
  const byCode = new Map(chart.map((a) => [a.code, a]));
  const mine = chart.filter((a) => a.posting && a.type === type);
  const pathOf = (a: Account): Account[] => {
    const path: Account[] = [];
    for (
      let at: Account | undefined = a;
      at && !path.includes(at);
      at = at.parent === null ? undefined : byCode.get(at.parent)
    )
      path.unshift(at);
    return path.filter((p) => !p.posting);
  };
  const at = (level: number): Map<string, string[]> => {
    const groups = new Map<string, string[]>();
    for (const a of mine) {
      const path = pathOf(a);
      const head = path[Math.min(level, path.length - 1)];
      const key = head?.code ?? '';
      groups.set(key, [...(groups.get(key) ?? []), a.code]);
    }
    return groups;
  };
  const [top, next] = [at(0), at(1)];
  const groups = next.size <= ROWS_MOST ? next : top;
  const heads = [...groups]
    .filter(([code]) => code !== '')
    .map(([code, codes]): Head => {
      const head = byCode.get(code) as Account;
      // A heading that holds accounts of several types is taken account by account.
      const all = accountsIn({ take: [{ is: 'code', code }], except: [] }, chart);
      return { key: code, label: head.name, accounts: all.size === codes.length ? code : codes.join(', '), codes };
    });
  const loose = groups.get('') ?? [];
  if (loose.length === 0) return heads;
  if (heads.length > 0 || loose.length > ROWS_MOST)
    return [...heads, { key: 'other', label: 'Other', accounts: loose.join(', '), codes: loose }];
  return loose.map((code) => ({ key: code, label: byCode.get(code)?.name ?? code, accounts: code, codes: [code] }));
}
