import { type Minor, parseAmount } from './money';

const WRITTEN = /^[+-]?(\d+(?:\.\d+)?)$/;

/**
 * The tax on a line, on the side of the line whatever sign a file gave it.
 * @param written the tax as its file has it
 * @param amount the line's own, in minor units
 * @param digits decimals of the books
 * @returns null where no tax is written
 */
export function taxOnLine(written: string | null | undefined, amount: Minor, digits: number): Minor | null {
  const [, size] = WRITTEN.exec(written ?? '') ?? [];
  if (size === undefined) return null;
  const tax = parseAmount(size, digits);
  return amount < 0 ? 0 - tax : tax;
}
