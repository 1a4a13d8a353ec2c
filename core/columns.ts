import { COMPARISON_LABEL, COMPARISONS, type Comparison } from './comparisons';
import { shareOf, type Value } from './statement';

/** A column of a statement, as it is asked for: `ytd`, `budget:B1`, `change:year-before`, `share`. */
export type Column =
  | { key: string; is: 'window' }
  | { key: string; is: 'comparison'; of: Comparison }
  | { key: string; is: 'budget'; version: string; of: 'window' | 'ytd' }
  | { key: string; is: 'change' | 'change%' | 'variance'; of: string; base: string }
  | { key: string; is: 'share'; of: string };

/** Raised for a word that names no column. */
export class ColumnError extends Error {}

/** Reads a column as it is written. @throws ColumnError */
export function readColumn(text: string): Column {
  if (text === 'window') return { key: text, is: 'window' };
  const comparison = COMPARISONS.find((c) => c === text);
  if (comparison) return { key: text, is: 'comparison', of: comparison };
  const [word = '', ...rest] = text.split(':');
  const of = rest.join(':');
  if (word === 'budget' && of) return { key: text, is: 'budget', version: of, of: 'window' };
  if (word === 'budget-ytd' && of) return { key: text, is: 'budget', version: of, of: 'ytd' };
  if (word === 'share') return { key: text, is: 'share', of: of || 'window' };
  if ((word === 'change' || word === 'change%') && of) {
    const [base = '', over] = of.split('/');
    return { key: text, is: word, of: over ?? 'window', base };
  }
  if (word === 'variance' && of) return { key: text, is: 'variance', of: 'window', base: `budget:${of}` };
  if (word === 'variance-ytd' && of) return { key: text, is: 'variance', of: 'ytd', base: `budget-ytd:${of}` };
  throw new ColumnError(
    `“${text}” is no column; columns are ${COMPARISONS.join(', ')}, budget:<version>, budget-ytd:<version>, change:<column>, change%:<column>, variance:<version>, share, share:<column>`,
  );
}

/** Columns that must be reckoned so that the wanted ones can be, bases before what is made of them. */
export function withBases(wanted: readonly Column[]): Column[] {
  const found = new Map<string, Column>();
  const take = (column: Column): void => {
    if (found.has(column.key)) return;
    if ('base' in column) for (const key of [column.of, column.base]) take(readColumn(key));
    if (column.is === 'share') take(readColumn(column.of));
    found.set(column.key, column);
  };
  take({ key: 'window', is: 'window' });
  for (const column of wanted) take(column);
  return [...found.values()];
}

export function columnLabel(column: Column): string {
  switch (column.is) {
    case 'window':
      return 'This window';
    case 'comparison':
      return COMPARISON_LABEL[column.of];
    case 'budget':
      return `Budget ${column.version}${column.of === 'ytd' ? ', year to date' : ''}`;
    case 'change':
      return `Change from ${lower(column.base)}`;
    case 'change%':
      return `Change from ${lower(column.base)}, %`;
    case 'variance':
      return `Variance from ${lower(column.base)}`;
    case 'share':
      return column.of === 'window' ? 'Share, %' : `Share ${lower(column.of)}, %`;
  }
}

const lower = (key: string): string => {
  const label = columnLabel(readColumn(key));
  return label.charAt(0).toLowerCase() + label.slice(1);
};

/** What each column says to a reader who is no accountant. */
export function columnHint(column: Column, shareRow: string | null): string {
  switch (column.is) {
    case 'window':
      return 'What was booked in the window of the sentence above, or what stood at its end.';
    case 'comparison':
      return `The same rows over: ${COMPARISON_LABEL[column.of].toLowerCase()}.`;
    case 'budget':
      return 'What was planned, as far as it was planned for these accounts.';
    case 'change':
      return 'The first less the second.';
    case 'change%':
      return 'The difference over the second; empty where there was nothing before.';
    case 'variance':
      return 'Actual less budget. More income or less expense is favourable.';
    case 'share':
      return `Each row over ${shareRow ? `“${shareRow}”` : 'the base row'} of the same column.`;
  }
}

/** A value of a derived column from those that it is made of; null where there is nothing to say. */
export function derived(column: Column, of: (key: string) => Value | undefined, base: (key: string) => Value | undefined): Value | null {
  const amount = (value: Value | undefined): number | null => (value?.is === 'amount' ? value.amount : null);
  switch (column.is) {
    case 'change':
    case 'variance': {
      const [a, b] = [amount(of(column.of)), amount(of(column.base))];
      return a === null || b === null ? null : { is: 'amount', amount: a - b };
    }
    case 'change%': {
      const [a, b] = [amount(of(column.of)), amount(of(column.base))];
      return a === null || b === null ? null : { is: 'share', millionths: shareOf(a - b, Math.abs(b)) };
    }
    case 'share': {
      const [a, b] = [amount(of(column.of)), amount(base(column.of))];
      return a === null || b === null ? null : { is: 'share', millionths: shareOf(a, b) };
    }
    default:
      return null;
  }
}
