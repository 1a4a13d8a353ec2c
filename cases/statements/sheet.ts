import type { Traced } from '@/contracts/traced';
import { formatAmount } from '@/core/money';
import type { Proof, Sheet, SheetColumn, SheetRow } from '@/core/sheet';
import type { StatementKind, Term } from '@/core/statement';
import type { Emptiness } from '../asking/explainEmpty';
import { headOf, printerOf, shownColumns } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** A statement before it is printed: an outline, a cash flow, a position and a tax return are all of this shape. */
export interface StatementSheet extends Sheet<StatementRow, Guard> {
  code: string;
  name: string;
  kind: StatementKind | 'tax';
  /** Key of the row that shares are of; null where there are none. */
  shareOf: string | null;
  /** What a position is of. */
  by?: string;
  languages?: string[];
  columns: readonly StatementColumn[];
  empty: Emptiness | null;
}

/** What must hold of a statement, and which accounts are in the way. */
interface Guard extends Proof {
  guard: string;
  accounts: string[];
  says: string;
}

interface StatementColumn extends SheetColumn {
  unit: 'amount' | 'percent';
  favourable: 'income' | null;
  /** Which measure of its lines a value is, where columns differ in that. */
  measure?: Traced;
}

/** A row of a statement; its cells are in natural sign. */
export interface StatementRow extends SheetRow {
  kind: string;
  emphasis: 'subtotal' | 'total' | undefined;
  sign: 'debit' | 'credit';
  account: string | null;
  /** Rows that it is made of, in natural sign, where it is. */
  terms?: readonly Term[] | undefined;
  /** Whether it can be opened to its accounts. */
  opens: boolean;
  /** Which measure of what `refine` asks for its values are; null where nothing that can be asked for comes to them. */
  measure: Traced | null;
}

/** A statement as it is answered. */
export function presentStatement(asked: ResolvedFigure, sheet: StatementSheet) {
  const texts = printerOf(sheet.columns, asked.digits);
  return {
    code: sheet.code,
    name: sheet.name,
    kind: sheet.kind,
    ...headOf(asked),
    shareOf: sheet.shareOf,
    ...(sheet.by === undefined ? {} : { by: sheet.by }),
    ...(sheet.languages ? { languages: sheet.languages } : {}),
    columns: shownColumns(sheet.columns),
    rows: sheet.rows.map(({ key, label, kind, depth, emphasis, sign, account, cells, refine, opens, measure }) => ({
      key,
      label,
      kind,
      depth,
      emphasis,
      sign,
      account,
      values: texts(cells),
      refine,
      opens,
      measure,
    })),
    guards: sheet.proofs.map(({ guard, ok, off, accounts, says }) => ({
      guard,
      ok,
      amount: formatAmount(off, asked.digits),
      accounts,
      says,
    })),
    ...(sheet.empty ? { empty: sheet.empty } : {}),
  };
}
