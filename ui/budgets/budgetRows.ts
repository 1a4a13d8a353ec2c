import type { BudgetAnswer, BudgetRow } from '@/contracts/answers/budgets';
import { type CellAt, totalOf } from '@/core/budgetSheet';
import { dateText } from '@/core/sentence';
import { otherSign } from '@/core/writtenAmounts';
import { amountText, isZero } from '../amounts';
import { accountCell, amountCell, type Cell, cellText } from '../sheet/cell';
import { between, type Column, type GridRow } from '../sheet/gridModel';
import type { CellRange } from '../sheet/useEditing';

export type Account = BudgetRow & { account: string };

/** Columns of the grid: the account, its periods, the year, and what other units have. */
const FIRST_PERIOD = 1;

/** What was written so far, over what the version has. */
export class BudgetCells {
  readonly accounts: readonly Account[];
  /** Row of the grid of each account, and the number of the account in each row; captions have none. */
  private readonly accountAt: (number | null)[];
  private readonly rowOf: number[] = [];

  constructor(
    readonly sheet: BudgetAnswer,
    private readonly written: ReadonlyMap<string, string>,
  ) {
    const accounts: Account[] = [];
    this.accountAt = sheet.rows.map((row, index) => {
      if (row.account === null) return null;
      accounts.push(row as Account);
      this.rowOf.push(index);
      return accounts.length - 1;
    });
    this.accounts = accounts;
  }

  get yearColumn(): number {
    return FIRST_PERIOD + this.sheet.periods.length;
  }

  /** Whether other units of the version have anything, over the year. */
  get hasElsewhere(): boolean {
    return this.accounts.some((a) => !isZero(a.elsewhere));
  }

  keyOf(account: number, period: number): string {
    return `${this.accounts[account]?.account}/${this.sheet.periods[period]?.period}`;
  }

  valueAt(account: number, period: number): string {
    return this.written.get(this.keyOf(account, period)) ?? this.accounts[account]?.values[period] ?? '';
  }

  valuesOf(account: number): string[] {
    return this.sheet.periods.map((_, period) => this.valueAt(account, period));
  }

  /** Cells that are not as the version has them. */
  get changed(): { account: Account; period: string; amount: string }[] {
    return this.accounts.flatMap((account, at) =>
      this.sheet.periods.flatMap(({ period }, column) => {
        const amount = this.valueAt(at, column);
        return amount === account.values[column] ? [] : [{ account, period, amount }];
      }),
    );
  }

  /** A cell of the grid as one of an account; the year is the one after the last period. Null where nothing is written. */
  cellAt({ row, column }: CellAt): CellAt | null {
    const account = this.accountAt[row] ?? null;
    if (account === null || column < FIRST_PERIOD || column > this.yearColumn) return null;
    return { row: account, column: column - FIRST_PERIOD };
  }

  /** The cells of accounts in a range of the grid, its captions left out; null where there are none. */
  within({ from, to }: CellRange): { from: CellAt; to: CellAt } | null {
    const rows = this.accountAt.slice(from.row, to.row + 1).filter((at) => at !== null);
    const [first, last] = [rows[0], rows[rows.length - 1]];
    const columns = [Math.max(from.column, FIRST_PERIOD), Math.min(to.column, this.yearColumn)] as const;
    if (first === undefined || last === undefined || columns[0] > columns[1]) return null;
    return {
      from: { row: first, column: columns[0] - FIRST_PERIOD },
      to: { row: last, column: columns[1] - FIRST_PERIOD },
    };
  }

  /** What a cell of an account is begun to be written with. */
  plainAt({ row, column }: CellAt): string {
    if (column < this.sheet.periods.length) return this.valueAt(row, column);
    const total = totalOf(this.valuesOf(row), this.sheet.digits);
    return isZero(total) ? '' : total;
  }

  get columns(): Column[] {
    const { periods } = this.sheet;
    const shown = [this.total, ...this.sheet.rows.map((_, index) => this.rowAt(index)?.cells ?? {})];
    // As wide as its longest amount, so that none is cut off.
    const widthOf = (keys: readonly string[]): string => {
      const texts = keys.flatMap((key) => shown.map((cells) => cellText(cells[key])));
      return `minmax(${Math.ceil(Math.max(CELL_MIN_PX, ...texts.map(pixelsOf)))}px, 1fr)`;
    };
    const periodWidth = widthOf(periods.map((p) => p.period));
    return [
      { key: 'account', label: 'Account', width: 'minmax(210px, 1.6fr)' },
      ...periods.map((p) => ({
        key: p.period,
        label: monthOf(p.to, periods.length),
        width: periodWidth,
        amount: true,
        hint: `Period ${p.period}, ${dateText(p.from)} to ${dateText(p.to)}`,
      })),
      { key: 'year', label: 'Year', width: widthOf(['year']), amount: true },
      ...(this.hasElsewhere
        ? [
            {
              key: 'elsewhere',
              label: 'Other units',
              width: widthOf(['elsewhere']),
              amount: true,
              hint: 'What this version has for other units, over the year',
            },
          ]
        : []),
    ];
  }

  rowAt(index: number): GridRow | undefined {
    const row = this.sheet.rows[index];
    if (!row) return undefined;
    const account = this.accountAt[index] ?? null;
    if (account !== null) {
      const values = this.valuesOf(account);
      return {
        key: row.account ?? row.label,
        depth: row.depth,
        cells: {
          account: accountCell(row.account ?? '', row.label),
          ...this.figures(values, (value, period) => whole(value, value !== row.values[period])),
          elsewhere: whole(row.elsewhere),
        },
      };
    }
    const first = this.rowOf.findIndex((at) => at > index);
    const inside = Array.from({ length: row.takes }, (_, i) => first + i);
    const sums = this.sheet.periods.map((_, period) =>
      totalOf(
        inside.map((at) => this.valueAt(at, period)),
        this.sheet.digits,
      ),
    );
    return {
      key: `~${index} ${row.label}`,
      look: 'heading',
      depth: row.depth,
      cells: { account: row.label, ...(row.takes > 0 ? this.figures(sums, (value) => whole(value)) : {}) },
    };
  }

  /** What all accounts come to: income less expense. */
  get total(): Record<string, Cell> {
    const results = this.sheet.periods.map((_, period) =>
      totalOf(
        this.accounts.map((a, at) => signed(a, this.valueAt(at, period))),
        this.sheet.digits,
      ),
    );
    return { label: 'Result', ...this.figures(results, (value) => whole(value)) };
  }

  private figures(values: readonly string[], cell: (value: string, period: number) => Cell): Record<string, Cell> {
    const total = totalOf(values, this.sheet.digits);
    return {
      ...Object.fromEntries(this.sheet.periods.map((p, i) => [p.period, cell(values[i] ?? '', i)])),
      year: values.every((v) => v === '') ? '' : whole(total),
    };
  }
}

const CELL_MIN_PX = 62;

/** How wide an amount is drawn, in bold, with the space around it: digits are of one width, their marks of half of it. */
const pixelsOf = (text: string): number => [...text].reduce((px, letter) => px + (/\d/.test(letter) ? 7.2 : 3.8), 19);

/** Whole units, so that a year fits on the screen; the line below has the exact amount. */
const whole = (value: string, fresh = false): Cell =>
  // A cell that was cleared and is not kept yet is told by its sign of nothing.
  value === '' ? (fresh ? { is: 'amount', value: '0', fresh } : '') : amountCell(value, { scale: 'whole', fresh });

/** What an account adds to the result. */
const signed = (account: BudgetRow, amount: string): string => (account.sign === 'credit' ? amount : otherSign(amount));

/** "Apr" of a year of twelve months; else the last day. */
const monthOf = (to: string, periods: number): string =>
  periods === 12 ? dateText(to).split(' ').slice(1).join(' ') : dateText(to);

export const cellsOf = ({ from, to }: { from: CellAt; to: CellAt }): CellAt[] =>
  between(from.row, to.row).flatMap((row) => between(from.column, to.column).map((column) => ({ row, column })));

export function statusOf(cells: readonly string[], digits: number): string {
  if (cells.length < 2)
    return `${cells[0] ? `${amountText(cells[0])}. ` : ''}Enter writes, Delete clears, Shift with arrows chooses several, Ctrl Z undoes.`;
  return `${cells.length} cells, ${amountText(totalOf(cells, digits))} together.`;
}
