import { paramsOf } from '@/contracts/scope';
import type { Figure } from '@/core/figure';
import { formatAmount } from '@/core/money';

/** How tests ask a figure of a random ledger, in amounts of two digits, and how they read what is answered. */

const MEASURES = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const;

/** Measures as they are printed, whether they are answered or worked out. */
export const texts = (b: Record<(typeof MEASURES)[number], number | string>) =>
  Object.fromEntries(MEASURES.map((m) => [m, typeof b[m] === 'number' ? formatAmount(b[m], 2) : b[m]])) as Record<
    (typeof MEASURES)[number],
    string
  >;

export function withParams(figure: Figure, more: Record<string, string> = {}): URLSearchParams {
  const params = paramsOf(figure, 2);
  for (const [name, value] of Object.entries(more)) params.set(name, value);
  return params;
}

/** A scope with what a row narrows it by put in place of what it had of the same name. */
export function narrowedBy(scope: URLSearchParams, put: Record<string, string | string[]>): URLSearchParams {
  const found = new URLSearchParams(scope);
  for (const [name, value] of Object.entries(put)) {
    found.delete(name);
    for (const v of [value].flat()) found.append(name, v);
  }
  return found;
}
