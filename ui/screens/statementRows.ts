import type { Statement } from '@/contracts/answers/statements';
import { figureSubject } from '@/contracts/subject';
import { asPut } from '../address/address';
import type { Scale } from '../amounts';
import { accountCell, comparedCell, type Verdict } from '../sheet/cell';
import { cellFigure } from '../sheet/cellFigure';
import { amountWidth, type Column } from '../sheet/gridModel';
import type { SheetLink, SheetRow } from '../sheet/model';
import type { Proof } from '../sheet/proof';
import { incomeStatementStep, statementStep } from './steps';

const AMOUNT = amountWidth(130);
const PERCENT = 'minmax(76px, 96px)';

type Row = Statement['rows'][number];

/** What the rows of a statement are made with, beside its answer. */
export interface StatementView {
  /** Keys of the rows that are opened to their accounts; `all` for all of them. */
  opened: ReadonlySet<string>;
  scale: Scale;
  labels: string | undefined;
  marks: ReadonlyMap<string, string[]>;
  /** Where the fiscal year of the window's end begins, as the scope says it. */
  yearStart: string | undefined;
}

/** The columns of a statement; a position leaves out what nobody has, such as adjustments. */
export function statementColumns(data: Statement | undefined, scale: Scale): Column[] {
  const position = data?.kind === 'position';
  const used = (data?.columns ?? []).filter(
    (c) => !position || data?.rows.some((r) => /[1-9]/.test(r.values[c.key] ?? '')),
  );
  return [
    {
      key: 'caption',
      label: `${data?.name ?? 'Statement'}${scale === 'thousands' ? ', thousands' : ''}`,
      width: position ? 'minmax(140px, 1fr)' : 'minmax(220px, 1fr)',
    },
    ...used.map((c) => ({
      key: c.key,
      label: c.label,
      width: c.unit === 'percent' ? PERCENT : position ? amountWidth(116) : AMOUNT,
      amount: true,
      hint: `${c.title ? `${c.title}. ` : ''}${c.hint}`,
    })),
  ];
}

/** A row of a statement as the sheet has it. */
export function statementRow(row: Row, data: Statement, view: StatementView): SheetRow {
  const address = new URLSearchParams(data.address);
  const subject = new URLSearchParams(address);
  if (row.refine?.accounts) subject.set('accounts', String(row.refine.accounts));
  const opensHere = row.kind === 'accounts' && row.opens;
  const ofAccounts = data.kind !== 'cashflow' && data.kind !== 'tax';
  const unitOf = new Map(data.columns.map((c) => [c.key, c.unit]));
  return {
    key: row.key,
    label: row.account ? `${row.account} ${row.label}` : row.label,
    depth: row.depth,
    ...(row.kind === 'caption' && row.values.window === null
      ? { look: 'heading' as const }
      : row.emphasis
        ? { look: row.emphasis }
        : {}),
    folded: opensHere ? !(view.opened.has('all') || view.opened.has(row.key)) : null,
    opens: row.refine !== null,
    standsOut: view.marks.get(row.key),
    cells: {
      caption: row.account ? accountCell(row.account, row.label, view.labels) : row.label,
      ...Object.fromEntries(
        Object.entries(row.values).map(([key, value]) => [
          key,
          comparedCell(value, unitOf.get(key) ?? 'amount', verdictOf(data, row, key), view.scale),
        ]),
      ),
    },
    subject: row.refine && ofAccounts && row.key !== 'intercompany' ? figureSubject(subject) : null,
    put: row.refine && asPut({ ...data.columns.find((c) => c.key === 'window')?.scope, ...row.refine }),
    figureAt: (column) =>
      row.refine && ofAccounts
        ? cellFigure(
            columnsFor(row, data.columns),
            column,
            data.address,
            asPut(row.refine),
            data.kind === 'balance' ? 'closing' : 'movement',
          )
        : undefined,
    links:
      data.kind === 'balance' && row.kind === 'result'
        ? linksOf(incomeStatementStep(address, view.yearStart))
        : undefined,
    step: (column) => statementStep(row, column === 'caption' ? 'window' : column, data),
    say: (column) => sayOf(data, row, column),
  };
}

/** The columns as a row asks them: where both say the same of the lines, such as with whom they were, the row does. */
const columnsFor = (row: Row, columns: Statement['columns']): Statement['columns'] =>
  columns.map((column) => ({
    ...column,
    scope: Object.fromEntries(Object.entries(column.scope).filter(([name]) => !(name in (row.refine ?? {})))),
  }));

const linksOf = (step: ReturnType<typeof incomeStatementStep>): SheetLink[] =>
  step === null ? [] : [{ name: step.label, step }];

/** Favourable is more income or less expense (method.md §9). */
function verdictOf(data: Statement, row: Row, key: string): Verdict | null {
  const column = data.columns.find((c) => c.key === key);
  const value = row.values[key];
  if (!column?.favourable || !value) return null;
  return (row.sign === 'credit') === !value.startsWith('-') ? 'favourable' : 'adverse';
}

function sayOf(data: Statement, row: Row, column: string): string {
  const of = data.columns.find((c) => c.key === column);
  if (row.refine?.opposite)
    return 'The cash lines of entries with such accounts on the other side; of an entry with several lines on both sides this row has its share.';
  const what = row.refine?.accounts ? `Accounts ${row.refine.accounts}. ` : '';
  return `${what}${of ? `${of.label}${of.title ? `, ${of.title}` : ''}: ${of.hint}` : ''}`;
}

/** All guards of a statement in one. */
export function guardsProof(guards: Statement['guards']): Proof {
  const off = guards.filter((g) => !g.ok).length;
  const says = off === 0 ? 'guards hold' : off === 1 ? 'a guard does not hold' : `${off} guards do not hold`;
  return { ok: off === 0, says };
}
