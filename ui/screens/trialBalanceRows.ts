'use client';

import type { TrialBalance } from '@/contracts/answers/sheets';
import { asPut } from '../address/address';
import { amountText, columnText, type Scale, scaledText } from '../amounts';
import type { Column } from '../sheet/gridModel';
import type { SheetRow } from '../sheet/model';
import type { Pick } from './Pick';

const AMOUNT = 'minmax(96px, 110px)';

export const COLUMNS: Column[] = [
  { key: 'account', label: 'Account', width: 'minmax(180px, 1fr)' },
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

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

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
  ].map(([key = '', label = '']) => ({ key, label, width: 'minmax(100px, 122px)', amount: true })),
];

/** Which balance a column of one side traces. */
export const SIDE_OF: Record<string, string> = {
  openingDebit: 'opening',
  openingCredit: 'opening',
  closingDebit: 'closing',
  closingCredit: 'closing',
};

/** A heading nets what is beneath it; only accounts are on a side. */
export function sideCells(row: Row, scale: Scale): Record<string, string> {
  const sides = (['opening', 'closing'] as const).flatMap((of): [string, string][] => {
    const credit = row[of].startsWith('-');
    return [
      [`${of}Debit`, credit ? '' : scaledText(row[of], scale)],
      [`${of}Credit`, credit ? scaledText(row[of].slice(1), scale) : ''],
    ];
  });
  return Object.fromEntries(sides);
}

export const accountsText = (count: number): string => `${count} ${count === 1 ? 'account' : 'accounts'}`;

export const sideTotals = (sides: NonNullable<TrialBalance['sides']>, scale: Scale): Record<string, string> =>
  Object.fromEntries(Object.entries(sides).map(([key, value]) => [key, scaledText(value, scale)]));

export const comparedCells = (row: Row, columns: TrialBalance['columns'], scale: Scale): Record<string, string> =>
  Object.fromEntries(
    (columns ?? []).map(({ key, unit }) => {
      return [key, columnText(row.values?.[key] ?? null, unit === 'percent', scale)];
    }),
  );

type Listed =
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
  cells: { account: part.label, opening: amountText(part.opening) },
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
  row: Pick<Row, 'opening' | 'debit' | 'credit' | 'closing' | 'yearToDate' | 'yearDebit' | 'yearCredit'>,
): Record<string, string> => ({
  opening: row.opening,
  debit: row.debit,
  credit: row.credit,
  closing: row.closing,
  yearToDate: row.yearToDate ?? '',
  yearDebit: row.yearDebit ?? '',
  yearCredit: row.yearCredit ?? '',
});

export const amountCells = (row: Parameters<typeof amountsOf>[0], scale: Scale = 'exact'): Record<string, string> =>
  Object.fromEntries(Object.entries(amountsOf(row)).map(([key, value]) => [key, scaledText(value, scale)]));
