import { figureSubject } from '@/contracts/subject';
import type { LeafColumn } from '@/core/leaf';
import { exponentOf } from '@/core/money';
import type { Cells, ColumnHead, Proof } from '@/core/sheet';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';

/** Characters that a column of amounts likes to have: a hundred billion with marks between thousands and a sign. */
const AMOUNT_WIDTH = 18;

export const amountColumn = (key: string, label: string, digits: number, adds = true): LeafColumn => ({
  key,
  label,
  is: 'amount',
  digits,
  width: AMOUNT_WIDTH,
  adds,
});

export const textColumn = (key: string, label: string, width: number, is: 'text' | 'date' = 'text'): LeafColumn => ({
  key,
  label,
  is,
  digits: 0,
  width,
  adds: false,
});

/** A column that was asked for beside others. */
export const besideColumn = (
  { key, label, unit, digits }: ColumnHead & { digits?: number | undefined },
  of: ResolvedFigure,
): LeafColumn => ({
  ...amountColumn(key, label, digits ?? of.digits, unit === 'amount'),
  is: unit === 'percent' ? 'share' : unit === 'number' ? 'quantity' : 'amount',
});

/** Whether a measure is nothing in all rows, so that its column says nothing. */
export const isNowhere = (rows: readonly { cells: Cells }[], key: string): boolean =>
  rows.every(({ cells }) => {
    const value = cells[key];
    return !value || (value.is === 'amount' && value.amount === 0);
  });

/** What else must be said of a sheet of a figure. */
export const factsOf = (asked: ResolvedFigure): [string, string][] => [
  [asked.entities.length === 1 ? 'Company' : 'Companies', asked.entities.map((e) => `${e.code} ${e.name}`).join(', ')],
  ['Currency', asked.currency],
  ['As of load', String(asked.asOf)],
];

/** A figure's address with some of its parameters put otherwise. */
export function addressWith(address: string, put: Readonly<Record<string, string | string[]>>): URLSearchParams {
  const params = new URLSearchParams(address);
  for (const [name, value] of Object.entries(put)) {
    params.delete(name);
    for (const each of [value].flat()) if (each !== '') params.append(name, each);
  }
  return params;
}

/**
 * Where what is behind a figure is asked for: its lines, or of books in several currencies its accounts, since lines
 * stand in the currency of their books.
 */
export const behindOf = (asked: ResolvedFigure, params: URLSearchParams): string =>
  asked.translates ? `/sheets?${params}&by=${asked.entities.length > 1 ? 'entity' : 'account'}` : `/lines?${params}`;

export const subjectOf = (params: URLSearchParams): string => figureSubject(params);

/** A proof in words. @param means what holds where it does */
export const proofWords = ({ ok, off }: Proof, means: string, asked: ResolvedFigure): string =>
  ok ? means : `does not agree: off by ${spokenAmount(off, exponentOf(asked.currency))} ${asked.currency}`;
