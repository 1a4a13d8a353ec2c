import { formatAmount, type Minor } from '@/core/money';
import { whoAsks } from '@/store/asking';

/** What is written for nobody in particular, such as on the command line. */
const USUAL_LOCALE = 'en';

const inLocale = (options: Intl.NumberFormatOptions = {}): Intl.NumberFormat =>
  new Intl.NumberFormat(whoAsks()?.locale ?? USUAL_LOCALE, options);

/** A number of things in a sentence, grouped as whoever asks has it. */
export const spokenCount = (count: number): string => inLocale().format(count);

const MILLION = 1_000_000;

/** "1.7 million", and numbers below it in full. */
export const spokenRoughly = (count: number): string =>
  count >= MILLION
    ? `${inLocale({ minimumFractionDigits: 1, maximumFractionDigits: 1 }).format(count / MILLION)} million`
    : spokenCount(count);

/** An amount in a sentence, to its last unit, with the marks of whoever asks. */
export const spokenAmount = (amount: Minor, digits: number): string => spokenDecimal(formatAmount(amount, digits));

/** The same of an exact decimal string: a binary number would not hold every amount. */
export function spokenDecimal(text: string): string {
  const digits = text.split('.')[1]?.length ?? 0;
  return inLocale({ minimumFractionDigits: digits, maximumFractionDigits: digits }).format(text as `${number}`);
}
