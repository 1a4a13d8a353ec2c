import { addBalance, type Balance, emptyBalance } from './balances';
import { type Calendar, ordinal, yearOf, yearSpan } from './calendar';
import { weekOf } from './dates';
import { enteredThen } from './enteredWhen';
import { type Clause, type Figure, type LineNumber, memberPicked } from './figure';
import { type Account, isTemporary, type Line, type Tree } from './ledger';
import { add, exponentOf, formatAmount, perUnit, sum } from './money';
import { accountsIn } from './selection';
import { numberPicked, valuePicked } from './values';

/** A whole ledger in memory: what the core can answer any figure from, without a database. */
export interface Ledger {
  entities: ReadonlyMap<string, LedgerEntity>;
  trees: ReadonlyMap<string, Tree>;
  lines: readonly Line[];
}

export interface LedgerEntity {
  code: string;
  calendar: Calendar;
  retainedEarnings: string;
  chart: readonly Account[];
}

/**
 * The balance of every account that a figure selects, straight from the definitions of method.md §4.
 * It serves small ledgers and is what the store's SQL is held against.
 * @returns entity code → account code → balance; accounts with nothing are left out
 */
export function evaluate(ledger: Ledger, figure: Figure): Map<string, Map<string, Balance>> {
  return new Map(figure.entities.map((code) => [code, evaluateEntity(ledger, figure, code)]));
}

/** The figure's total over all its entities and accounts. */
export function evaluateTotal(ledger: Ledger, figure: Figure): Balance {
  const total = emptyBalance();
  for (const accounts of evaluate(ledger, figure).values()) {
    for (const balance of accounts.values()) addBalance(total, balance);
  }
  return total;
}

/** The journal lines of a figure in ledger order: date, entry number, line number. Opening balances are not lines of it. */
export function linesOf(ledger: Ledger, figure: Figure): Line[] {
  const found: Line[] = [];
  for (const code of figure.entities) {
    const entity = entityOf(ledger, code);
    const selected = selectedAccounts(figure, entity.chart);
    const times = timesOf(figure, entity.calendar);
    found.push(
      ...countedLines(ledger, figure, entity).filter(
        (l) => selected.has(l.account) && times.inWindow(l) && !times.isOpening(l),
      ),
    );
  }
  return found.sort(byLedgerOrder);
}

/** Ledger order (method.md §8): date, then entry number as text, then entity and line number. */
export function byLedgerOrder(a: Line, b: Line): number {
  return compare(a.day, b.day) || compare(a.entry, b.entry) || compare(a.entity, b.entity) || a.line - b.line;
}

function evaluateEntity(ledger: Ledger, figure: Figure, code: string): Map<string, Balance> {
  const entity = entityOf(ledger, code);
  const { chart, calendar, retainedEarnings } = entity;
  const counted = countedLines(ledger, figure, entity);
  const selected = selectedAccounts(figure, chart);
  const types = new Map(chart.map((a) => [a.code, a.type]));
  const temporary = (l: Line): boolean => isTemporary(types.get(l.account) as Account['type']);
  const times = timesOf(figure, calendar);
  const firstYear = times.year(figure.window.from);
  const lastYear = times.year(figure.window.to);
  const amounts = (lines: Line[]): number => sum(lines.map((l) => l.amount));

  const balances = new Map<string, Balance>();
  for (const account of selected) {
    const mine = counted.filter((l) => l.account === account && times.upToEnd(l));
    const window = mine.filter((l) => times.inWindow(l) && !times.isOpening(l));
    const before = mine.filter((l) => times.beforeWindow(l) || times.isOpening(l));
    const debit = amounts(window.filter((l) => l.side === 'debit'));
    const credit = -amounts(window.filter((l) => l.side === 'credit'));
    let opening = amounts(before);
    let roll = 0;
    if (isTemporary(types.get(account) as Account['type'])) {
      opening = amounts(before.filter((l) => times.yearOfLine(l) >= firstYear));
      roll = -amounts(mine.filter((l) => times.yearOfLine(l) >= firstYear && times.yearOfLine(l) < lastYear));
    }
    if (account === retainedEarnings) {
      const results = counted.filter((l) => temporary(l) && times.upToEnd(l));
      opening = add(opening, amounts(results.filter((l) => times.yearOfLine(l) < firstYear)));
      const ended = (l: Line): boolean => times.yearOfLine(l) >= firstYear && times.yearOfLine(l) < lastYear;
      roll = add(roll, amounts(results.filter(ended)));
    }
    const movement = add(debit, -credit);
    const balance = {
      opening,
      debit,
      credit,
      movement,
      roll,
      closing: add(add(opening, movement), roll),
      count: window.length,
    };
    if (mine.length > 0 || balance.opening !== 0 || balance.roll !== 0) balances.set(account, balance);
  }
  return balances;
}

function entityOf(ledger: Ledger, code: string): LedgerEntity {
  const entity = ledger.entities.get(code);
  if (!entity) throw new RangeError(`no entity ${code}`);
  return entity;
}

function selectedAccounts(figure: Figure, chart: readonly Account[]): Set<string> {
  if (figure.accounts) return accountsIn(figure.accounts, chart);
  return new Set(chart.filter((a) => a.posting).map((a) => a.code));
}

/** The lines that count, before any window: status, adjustment periods, and every clause. */
function countedLines(ledger: Ledger, figure: Figure, entity: LedgerEntity): Line[] {
  const times = timesOf(figure, entity.calendar);
  const first = times.year(figure.window.from);
  const last = times.year(figure.window.to);
  return ledger.lines.filter((l) => {
    if (l.entity !== entity.code) return false;
    if (figure.status !== 'all' && l.status !== figure.status) return false;
    if (figure.adjustments === 'without' && entity.calendar.period(l.period).adjustment) {
      const year = yearOf(l.period);
      if (year >= first && year <= last) return false;
    }
    return figure.where.every((clause) =>
      clause.on === 'opposite' ? stands(ledger, l, clause.any) : satisfies(l, clause, ledger.trees),
    );
  });
}

/** Whether an entry has, opposite to a line of it, a line of one of the accounts. */
const stands = (ledger: Ledger, line: Line, accounts: readonly string[]): boolean =>
  ledger.lines.some(
    (o) =>
      o.entity === line.entity && o.entry === line.entry && o.amount * line.amount < 0 && accounts.includes(o.account),
  );

/** Whether a line meets a clause; whether it has an account on its other side is asked of its entry. */
export function satisfies(
  line: Line,
  clause: Exclude<Clause, { on: 'opposite' }>,
  trees: ReadonlyMap<string, Tree>,
): boolean {
  switch (clause.on) {
    case 'dim':
      return (
        memberPicked(clause.any, line.dims[clause.dim] ?? null, trees.get(clause.dim) ?? new Map()) !==
        (clause.not ?? false)
      );
    case 'min':
      return Math.abs(line.amount) >= clause.amount;
    case 'max':
      return Math.abs(line.amount) <= clause.amount;
    case 'begins':
      return clause.any.some((digits) => String(Math.abs(line.amount)).startsWith(digits));
    case 'enteredWhen':
      return enteredThen(line.enteredAt, clause.any);
    case 'text': {
      const wanted = clause.contains.toLowerCase();
      return [line.description, line.entryDescription].some((t) => t.toLowerCase().includes(wanted));
    }
    case 'ticked':
      return (
        clause.lines.some((t) => t.entity === line.entity && t.entry === line.entry && t.line === line.line) !==
        (clause.not ?? false)
      );
    case 'period':
      return clause.any.includes(line.period);
    case 'month':
      return clause.any.includes(line.day.slice(0, 7));
    case 'week':
      return clause.any.includes(weekOf(line.day));
    case 'day':
      return clause.any.includes(line.day);
    case 'kind':
      return clause.any.includes(line.kind);
    case 'line':
    case 'quantity':
    case 'unitPrice':
    case 'currencyAmount':
    case 'taxAmount':
      return numberPicked(clause.any, lineNumber(line, clause.on)) !== (clause.not ?? false);
    default:
      return valuePicked(clause.any, line[clause.on] || null) !== (clause.not ?? false);
  }
}

/** A number that a line has beside its amount, as a decimal; amounts and prices without their sign. */
function lineNumber(line: Line, on: LineNumber): string | null {
  switch (on) {
    case 'line':
      return String(line.line);
    case 'quantity':
      return line.quantity;
    case 'unitPrice': {
      const price = line.quantity === null ? null : perUnit(line.amount, line.quantity);
      return price === null ? null : String(Math.abs(price));
    }
    case 'currencyAmount':
      return line.currencyAmount === null || line.currency === null
        ? null
        : formatAmount(Math.abs(line.currencyAmount), exponentOf(line.currency));
    case 'taxAmount':
      return line.taxAmount === null ? null : line.taxAmount.replace(/^[+-]/, '');
  }
}

function timesOf(figure: Figure, calendar: Calendar) {
  const { window } = figure;
  const byPeriod = window.by === 'period';
  const at = (l: Line): string | number => (byPeriod ? l.period : l.day);
  const year = (end: string | number): number => (typeof end === 'number' ? yearOf(end) : calendar.periodAt(end).year);
  const firstYear = year(window.from);
  const yearEnd = byPeriod ? ordinal(firstYear, 99) : yearSpan(calendar, firstYear).to;
  return {
    year,
    yearOfLine: (l: Line): number => year(at(l)),
    beforeWindow: (l: Line): boolean => at(l) < window.from,
    upToEnd: (l: Line): boolean => at(l) <= window.to,
    inWindow: (l: Line): boolean => at(l) >= window.from && at(l) <= window.to,
    /** A loaded opening balance of the window's first year, even if dated inside the window. */
    isOpening: (l: Line): boolean => l.kind === 'opening' && at(l) <= yearEnd,
  };
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
