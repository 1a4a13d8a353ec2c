import { quantityText } from './lineStats';
import { formatAmount } from './money';
import type { Value } from './sheet';

const TENTH_OF_PERCENT = 1_000;

/** Amounts as decimal strings; shares as percent with one decimal, rounded half away from zero; null for nothing over nothing. */
export function valueText(value: Value, digits: number): string | null {
  if (value.is === 'amount') return formatAmount(value.amount, digits);
  if (value.is === 'count') return String(value.count);
  if (value.is === 'quantity') return quantityText(value.millionths);
  if (value.millionths === null) return null;
  const tenths = Math.sign(value.millionths) * Math.round(Math.abs(value.millionths) / TENTH_OF_PERCENT);
  return formatAmount(tenths === 0 ? 0 : tenths, 1);
}
