import { periodText } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { endBefore } from '@/core/windows';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** A part of what retained earnings opened with. */
export interface RetainedPart {
  label: string;
  opening: Minor;
  /** The fiscal year whose result it is; null for what was booked directly. */
  year: number | null;
  /** Scope parameters that ask for it; null where no lines can be there. */
  refine: Record<string, string> | null;
}

export const isRetained = ({ entities }: ResolvedFigure, code: string): boolean =>
  entities.some((e) => e.retainedEarnings === code);

/**
 * What retained earnings opened with, by the year that earned it and what was booked directly; each part traces.
 * @param opening what the account opened with, all parts together
 */
export function retainedParts(
  asked: ResolvedFigure,
  account: string,
  results: readonly { year: number; result: Minor }[],
  opening: Minor,
): RetainedPart[] {
  const byYear = new Map<number, Minor>();
  for (const { year, result } of results) byYear.set(year, (byYear.get(year) ?? 0) + result);
  const cal = asked.calendar;
  const { window } = asked.figure;
  const yearEnds = (year: number): [from: string, to: string] => {
    const periods = cal.periodsOf(year);
    const [first, last] = [periods[0], periods[periods.length - 1]];
    if (!first || !last) return ['', ''];
    return window.by === 'period' ? [periodText(first.ordinal), periodText(last.ordinal)] : [first.from, last.to];
  };
  let direct = opening;
  const parts = [...byYear]
    .sort(([a], [b]) => a - b)
    .map(([year, result]): RetainedPart => {
      direct -= result;
      const [from, to] = yearEnds(year);
      // An ended year's result has its adjustments in it, whatever is asked of the window's own years.
      const refine = { accounts: 'type income, type expense', from, to, adjustments: 'with' };
      return { label: `Result of fiscal year ${year}`, opening: result, year, refine };
    });
  const before = endBefore(cal, window);
  const refine = before === null ? null : { accounts: account, from: '', to: before };
  return [...parts, { label: 'Booked directly', opening: direct, year: null, refine }];
}
