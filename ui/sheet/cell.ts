import type { Tie } from '@/contracts/answers/head';
import { isZero, percentText, type Scale, scaledText } from '../amounts';

/**
 * What a cell of a sheet holds: data with a look, so that the screen, the clipboard and print are made of the same.
 * Words may be given bare; amounts keep their exact decimal string, however far they are shown.
 */
export type Cell = string | number | null | undefined | AmountCell | PercentCell | WordsCell;

/** Less expense or more income than was compared with is favourable (method.md §9). */
export type Verdict = 'favourable' | 'adverse';

export interface AmountCell {
  is: 'amount';
  value: string;
  /** How far it is shown; exact where it is absent. */
  scale?: Scale | undefined;
  /** Its currency or unit, where it is not that of the sheet. */
  unit?: string | undefined;
  verdict?: Verdict | null | undefined;
  shade?: Shade | undefined;
  /** Why it stands out. */
  standsOut?: string | undefined;
  /** It was written here and is not kept yet. */
  fresh?: boolean | undefined;
}

export interface PercentCell {
  is: 'percent';
  value: string;
  verdict?: Verdict | null | undefined;
}

export interface WordsCell {
  is: 'words';
  text: string;
  /** A code that stands before the words, all codes of a column in line. */
  code?: string | undefined;
  /** What is unusual of the line, in a word each. */
  tags?: readonly string[] | undefined;
  /** How many others there are beside the one that is named. */
  others?: number | undefined;
  sign?: 'out of order' | 'traced' | undefined;
  /** Whether the rows below add up to this one. */
  tie?: Tie | null | undefined;
}

/** How far the ground of a cell is darkened, from 0 to 1, and which way its figure went. */
export interface Shade {
  share: number;
  fell?: boolean | undefined;
  arrow?: 'more' | 'less' | undefined;
}

/** An amount; nothing where there is none. */
export const amountCell = (
  value: string | null | undefined,
  more: Omit<AmountCell, 'is' | 'value'> = {},
): AmountCell | '' => (value === null || value === undefined || value === '' ? '' : { is: 'amount', value, ...more });

/** Several amounts by their columns. */
export const amountCells = (
  values: Readonly<Record<string, string | null | undefined>>,
  scale: Scale = 'exact',
): Record<string, AmountCell | ''> =>
  Object.fromEntries(Object.entries(values).map(([key, value]) => [key, amountCell(value, { scale })]));

/** A value under a column to compare with, and whether it is good or bad for the result; nothing where there is nothing to say. */
export function comparedCell(
  value: string | null | undefined,
  unit: string,
  verdict: Verdict | null = null,
  scale: Scale = 'exact',
): Cell {
  if (value === null || value === undefined) return '';
  const says = isZero(value) ? null : verdict;
  return unit === 'percent' ? { is: 'percent', value, verdict: says } : { is: 'amount', value, scale, verdict: says };
}

/** @param show by `code` or by `name` alone, or both */
export function accountCell(code: string, name: string, show?: string | undefined): Cell {
  if (show === 'code' || show === 'name') return show === 'code' ? code : name;
  return { is: 'words', code, text: name };
}

/** A cell as plain text: as it is read on the screen, without its signs. */
export function cellText(cell: Cell): string {
  if (cell === null || cell === undefined) return '';
  if (typeof cell !== 'object') return String(cell);
  if (cell.is === 'percent') return percentText(cell.value);
  if (cell.is === 'amount')
    return `${scaledText(cell.value, cell.scale ?? 'exact')}${cell.unit ? ` ${cell.unit}` : ''}`;
  return [cell.code, cell.text, cell.others ? `+${cell.others}` : '', ...(cell.tags ?? [])].filter(Boolean).join(' ');
}

/** The exact amount of a cell as a decimal string, however far it is shown; undefined for words and shares. */
export const cellAmount = (cell: Cell): string | undefined =>
  typeof cell === 'object' && cell?.is === 'amount' ? cell.value : undefined;
