import { formatAmount, parseAmount } from './money';

/** Amounts as people and files write them: grouped, in parentheses, with the minus at either end. */

/** What is between the digits of an amount without meaning anything. */
export const SPACES = /[\s\u00a0\u202f'’]/g;

const PLAIN = /^-?\d+(?:\.\d+)?$/;
const GROUPED = {
  '.': /^([+-]?)(\d{1,3}(?:[,]\d{3})+|\d+)(?:\.(\d*))?$/,
  ',': /^([+-]?)(\d{1,3}(?:[.]\d{3})+|\d+)(?:,(\d*))?$/,
} as const;

/** "(1.234,50)", "1 234,50-" and the like → "-1234.50". */
export function plainAmount(value: string, decimal: '.' | ','): string {
  if (decimal === '.' && PLAIN.test(value)) return value;
  let text = value.replace(SPACES, '').replace('−', '-');
  let negative = false;
  if (/^\(.*\)$/.test(text)) {
    negative = true;
    text = text.slice(1, -1);
  } else if (text.endsWith('-')) {
    negative = true;
    text = text.slice(0, -1);
  }
  const match = GROUPED[decimal].exec(text);
  if (!match) return value.trim();
  const [, sign, whole = '', fraction = ''] = match;
  if (negative && sign === '-') return value.trim();
  const digits = whole.replace(/[.,]/g, '');
  return `${negative || sign === '-' ? '-' : ''}${digits}${fraction === '' ? '' : `.${fraction}`}`;
}

/**
 * An amount as somebody types it into a cell, as a decimal string of the currency; empty for an empty cell or a dash.
 * @param digits decimals of the currency
 * @throws AmountFormatError, AmountRangeError
 */
export function typedAmount(text: string, decimal: '.' | ',', digits: number): string {
  const plain = plainAmount(text.trim(), decimal).replace(/^\+/, '');
  return plain === '' || /^[-–—]$/.test(plain) ? '' : formatAmount(parseAmount(plain, digits), digits);
}

/** The same amount on the other side; an empty cell stays empty. */
export const otherSign = (amount: string): string =>
  amount.startsWith('-') ? amount.slice(1) : /[1-9]/.test(amount) ? `-${amount}` : amount;
