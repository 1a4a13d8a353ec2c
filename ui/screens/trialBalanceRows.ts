import type { TrialBalance } from '@/contracts/answers/sheets';
import { figureSubject } from '@/contracts/subject';
import { asPut } from '../address/address';
import { amountText, isZero, type Scale } from '../amounts';
import { openDocumentsPath } from '../documents/address';
import { accountCell, amountCell, amountCells, type Cell, comparedCell } from '../sheet/cell';
import { cellFigure } from '../sheet/cellFigure';
import { amountWidth, type Column } from '../sheet/gridModel';
import type { SheetRow } from '../sheet/model';
import { capital } from './ledgerColumns';
import { trialBalanceStep } from './steps';

const AMOUNT = amountWidth(116);

export const COLUMNS: Column[] = [
  { key: 'account', label: 'Account', width: 'minmax(220px, 1fr)' },
  { key: 'opening', label: 'Opening', width: AMOUNT, amount: true },
  { key: 'debit', label: 'Debit', width: AMOUNT, amount: true },
  { key: 'credit', label: 'Credit', width: AMOUNT, amount: true },
  { key: 'closing', label: 'Closing', width: AMOUNT, amount: true },
  {
    key: 'yearDebit',
    label: 'Debits, year',
    width: AMOUNT,
    amount: true,
    onRequest: true,
    hint: 'All debits since the fiscal year began.',
  },
  {
    key: 'yearCredit',
    label: 'Credits, year',
    width: AMOUNT,
    amount: true,
    onRequest: true,
    hint: 'All credits since the fiscal year began.',
  },
  { key: 'yearToDate', label: 'Year to date', width: AMOUNT, amount: true },
];

type Row = TrialBalance['rows'][number];

/** Beside other windows the balance of each is, instead of what made it up. */
export function columnsOf(data: TrialBalance | undefined, sides: boolean): Column[] {
  const codes = (data?.schemes ?? []).map(
    (scheme): Column => ({ key: codeColumn(scheme), label: `${capital(scheme)} code`, width: '96px', onRequest: true }),
  );
  const [account, ...amounts] = !data?.columns && sides ? SIDES : COLUMNS;
  if (!data?.columns) return [account as Column, ...codes, ...amounts];
  const compared = data.columns.map((c) => ({
    key: c.key,
    label: c.key === 'window' ? 'Closing' : c.label,
    width: c.unit === 'percent' ? 'minmax(70px, 84px)' : AMOUNT,
    amount: true,
    hint: `${c.title ? `${c.title}. ` : ''}${c.hint}`,
  }));
  return [account as Column, ...codes, COLUMNS[1] as Column, ...compared];
}

/** The column of a scheme’s codes. */
export const codeColumn = (scheme: string): string => `code:${scheme}`;

/** Balances in two columns, as many a trial balance is printed. */
const SIDES: Column[] = [
  { key: 'account', label: 'Account', width: 'minmax(200px, 1fr)' },
  ...[
    ['openingDebit', 'Opening debit'],
    ['openingCredit', 'Opening credit'],
    ['debit', 'Debit'],
    ['credit', 'Credit'],
    ['closingDebit', 'Closing debit'],
    ['closingCredit', 'Closing credit'],
  ].map(([key = '', label = '']) => ({ key, label, width: amountWidth(122), amount: true })),
];

/** Which balance a column of one side traces. */
export const SIDE_OF: Record<string, string> = {
  openingDebit: 'opening',
  openingCredit: 'opening',
  closingDebit: 'closing',
  closingCredit: 'closing',
};

/** A heading nets what is beneath it; only accounts are on a side. */
export function sideCells(row: Row, scale: Scale): Record<string, Cell> {
  const sides = (['opening', 'closing'] as const).flatMap((of): [string, Cell][] => {
    const credit = row[of].startsWith('-');
    return [
      [`${of}Debit`, credit ? '' : amountCell(row[of], { scale })],
      [`${of}Credit`, credit ? amountCell(row[of].slice(1), { scale }) : ''],
    ];
  });
  return Object.fromEntries(sides);
}

export const accountsText = (count: number): string => `${count} ${count === 1 ? 'account' : 'accounts'}`;

export const comparedCells = (
  values: Row['values'],
  columns: TrialBalance['columns'],
  scale: Scale,
): Record<string, Cell> =>
  Object.fromEntries((columns ?? []).map(({ key, unit }) => [key, comparedCell(values?.[key], unit, null, scale)]));

export type Listed =
  | { row: Row; hasChildren: boolean }
  | { part: NonNullable<Row['parts']>[number]; depth: number; key: string };

/** Rows that no folded heading hides, with the parts of retained earnings under it. */
export function rowsOf(rows: Row[], folded: ReadonlySet<string>): Listed[] {
  const found: Listed[] = [];
  let hiddenBelow: number | null = null;
  for (const [i, row] of rows.entries()) {
    if (hiddenBelow !== null && row.depth > hiddenBelow) continue;
    hiddenBelow = row.heading && folded.has(row.account) ? row.depth : null;
    found.push({ row, hasChildren: (rows[i + 1]?.depth ?? 0) > row.depth });
    for (const part of row.parts ?? []) found.push({ part, depth: row.depth + 1, key: `${row.account}/${part.label}` });
  }
  return found;
}

export const partRow = ({ part, depth, key }: Extract<Listed, { part: unknown }>): SheetRow => ({
  key,
  label: part.label,
  look: 'quiet',
  depth,
  cells: { account: part.label, opening: amountCell(part.opening) },
  subject: null,
  put: null,
  opens: part.refine !== null,
  step: (column) => {
    if (!part.refine) return null;
    const taken = { label: part.label, row: key, column, put: asPut(part.refine) };
    return part.year === null ? { view: 'lines', ...taken } : { view: 'split', by: 'account', ...taken };
  },
  say: () => 'Part of the opening balance of retained earnings.',
});

export const amountsOf = (
  row: Pick<Row, 'opening' | 'debit' | 'credit' | 'movement' | 'closing' | 'yearToDate' | 'yearDebit' | 'yearCredit'>,
): Record<string, string> => ({
  opening: row.opening,
  debit: row.debit,
  credit: row.credit,
  movement: row.movement,
  closing: row.closing,
  yearToDate: row.yearToDate ?? '',
  yearDebit: row.yearDebit ?? '',
  yearCredit: row.yearCredit ?? '',
});

/** What the rows of a trial balance are made with, beside its answer. */
export interface TrialBalanceView {
  folded: ReadonlySet<string>;
  scale: Scale;
  /** Whether balances are in two columns. */
  sides: boolean;
  /** Whether accounts are named by their code, their name, or both. */
  labels: string | undefined;
  measure: 'movement' | 'closing';
  marks: ReadonlyMap<string, string[]>;
  /** Accounts that documents are on. */
  controls: ReadonlySet<string>;
}

/** A row of the trial balance as the sheet has it. */
export function trialBalanceRow(found: Listed, data: TrialBalance, view: TrialBalanceView): SheetRow {
  if ('part' in found) return partRow(found);
  const { row, hasChildren } = found;
  const subject = new URLSearchParams(data.address);
  subject.set('accounts', row.selection ?? row.account);
  const put = { accounts: [row.selection ?? row.account] };
  return {
    key: row.account,
    label: row.heading ? row.name : `${row.account} ${row.name}`,
    depth: row.depth,
    ...(row.heading ? { look: 'heading' as const } : {}),
    folded: row.heading && hasChildren ? view.folded.has(row.account) : null,
    opens: true,
    cells: {
      account: row.heading ? row.name : accountCell(row.account, row.name, view.labels),
      ...Object.fromEntries(Object.entries(row.codes ?? {}).map(([scheme, code]) => [codeColumn(scheme), code])),
      ...amountCells(amountsOf(row), view.scale),
      ...(view.sides ? sideCells(row, view.scale) : {}),
      ...comparedCells(row.values, data.columns, view.scale),
    },
    count: row.count,
    standsOut: view.marks.get(row.account),
    ...(view.controls.has(row.account)
      ? {
          links: [{ name: 'Open documents', href: openDocumentsPath(new URLSearchParams(data.address), row.account) }],
        }
      : {}),
    subject: figureSubject(subject),
    put,
    figureAt: (column) => cellFigure(data.columns, column, data.address, put, view.measure),
    step: (column) => trialBalanceStep(row, SIDE_OF[column] ?? column, data, view.measure),
    say: (column) => sayOf(row, column, data),
  };
}

function sayOf(row: Row, column: string, { columns }: TrialBalance): string {
  const compared = columns?.find((c) => c.key === column && c.key !== 'window');
  if (compared) return compared.hint;
  if (column.startsWith('year'))
    return COLUMNS.find((c) => c.key === column)?.hint ?? 'What was booked since the fiscal year began.';
  const rolled = isZero(row.roll) ? '' : `, ${amountText(row.roll)} rolled over at the year end`;
  return `Opening ${amountText(row.opening)} plus ${amountText(row.debit)} debit less ${amountText(row.credit)} credit${rolled}, makes ${amountText(row.closing)}.`;
}

/** The totals of a trial balance, by column. @param scaleSaid how far amounts are shown, in words */
export const trialBalanceTotal = (
  data: TrialBalance,
  { scale, sides }: Pick<TrialBalanceView, 'scale' | 'sides'>,
  scaleSaid: string,
): Record<string, Cell> => ({
  label: `${accountsText(data.rows.filter((r) => !r.heading).length)}, in ${data.currency}${scaleSaid}`,
  ...amountCells(amountsOf(data.totals), scale),
  ...(sides && data.sides ? amountCells(data.sides, scale) : {}),
  // Shares and changes in percent have no total of their own.
  ...Object.fromEntries(
    (data.columns ?? []).map(({ key, unit }) => [
      key,
      unit === 'percent' ? '' : amountCell(data.columnTotals?.[key] ?? '0', { scale }),
    ]),
  ),
});
