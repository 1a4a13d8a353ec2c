import { dateText } from '@/core/sentence';
import type { PieceText } from '@/core/spoken';
import { readerLocale } from './readerLocale';

/** How amounts and dates are read on screen. Amounts are decimal strings and are only ever formatted here, never calculated with. */
const MINUS = /^-/;

/** "-1200.50" → "(1,200.50)", "0.00" → "–". Grouping and decimal mark as the viewer's locale has them. */
export function amountText(amount: string): string {
  if (isZero(amount)) return '–';
  const text = grouped(amount.replace(MINUS, ''));
  return MINUS.test(amount) ? `(${text})` : text;
}

/** The side of a line on which an amount is; on the other side nothing stands. */
export const sideText = (amount: string): string => (isZero(amount) ? '' : amountText(amount));

/** A sentence that came in pieces, its amounts as the viewer writes them. */
export const spokenText = (pieces: readonly PieceText[]): string =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : amountText(piece.amount))).join('');

/** A share as the server rounded it; negative ones in brackets, as amounts are. */
export const percentText = (value: string): string => (value.startsWith('-') ? `(${value.slice(1)})` : value);

/** How far amounts are shown: to the last unit, in whole ones, or in thousands. What is exported stays exact. */
export type Scale = 'exact' | 'whole' | 'thousands';

/** "-1500.50" in thousands → "(2)": rounded once for display, half away from zero (method.md §1). */
export function scaledText(amount: string, scale: Scale): string {
  if (scale === 'exact') return amountText(amount);
  const [whole = '0', fraction = ''] = amount.replace(MINUS, '').split('.');
  const unit = 10n ** BigInt(fraction.length) * (scale === 'thousands' ? 1_000n : 1n);
  const rounded = (BigInt(whole + fraction) * 2n + unit) / (unit * 2n);
  return amountText(`${MINUS.test(amount) && rounded > 0n ? '-' : ''}${rounded}`);
}

export const isZero = (amount: string): boolean => /^-?0*(\.0*)?$/.test(amount);

function grouped(amount: string): string {
  const [whole = '0', fraction] = amount.split('.');
  const { group, decimal } = marks();
  const head = whole.replace(/\B(?=(\d{3})+(?!\d))/g, group);
  return fraction === undefined ? head : `${head}${decimal}${fraction}`;
}

interface Marks {
  group: string;
  decimal: string;
}
const known = new Map<string | undefined, Marks>();

function marks(): Marks {
  const locale = readerLocale();
  const held = known.get(locale);
  if (held) return held;
  const parts = new Intl.NumberFormat(locale).formatToParts(1_234_567.8);
  const found = {
    group: parts.find((p) => p.type === 'group')?.value ?? ',',
    decimal: parts.find((p) => p.type === 'decimal')?.value ?? '.',
  };
  known.set(locale, found);
  return found;
}

/** The decimal mark that the viewer types. */
export const decimalMark = (): '.' | ',' => (marks().decimal === ',' ? ',' : '.');

export const countText = (count: number): string => new Intl.NumberFormat(readerLocale()).format(count);

/** "2026-04-14T09:30:00Z" → "14 Apr 2026, 10:30" in the viewer's own zone. */
export function momentText(iso: string): string {
  const at = new Date(iso);
  const date = `${at.getDate()} ${at.toLocaleString('en', { month: 'short' })} ${at.getFullYear()}`;
  return `${date}, ${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`;
}

/** When something was entered as the ledger writes it, in no zone but its own: "2026-04-14T09:30" → "14 Apr 2026, 09:30". */
export function enteredText(text: string): string {
  const [, day, time = ''] = /^(\d{4}-\d\d-\d\d)(?:[T ](\d\d:\d\d)\S*)?$/.exec(text) ?? [];
  return day === undefined ? text : [dateText(day), time].filter(Boolean).join(', ');
}

/** Which part of a whole something is, in whole percent; never all of it where anything is left. */
export const shareText = (part: string, whole: string): string =>
  Number(whole) === 0 ? '0 %' : `${Math.floor((100 * Number(part)) / Number(whole))} %`;
