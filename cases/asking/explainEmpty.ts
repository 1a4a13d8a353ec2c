import { periodText } from '@/core/calendar';
import { dateText, periodName, windowText } from '@/core/sentence';
import type { ResolvedFigure } from './resolvedFigure';

/** Why a screen shows nothing, and the nearest scope that has something (SC-08). */
export interface Emptiness {
  reason: string;
  /** Parameters that lead to where data is; null if there is none at all. */
  instead: Record<string, string> | null;
  label: string | null;
}

export function explainEmpty(asked: ResolvedFigure): Emptiness {
  const { figure, entities, known } = asked;
  const names = entities.map((e) => e.name).join(', ');
  const reaches = entities.map((e) => known.extents.get(e.code)).filter((e) => e !== undefined);
  if (reaches.length === 0) {
    return {
      reason: `No lines of ${names} have been loaded yet. Load a ledger file on the Loads page.`,
      instead: null,
      label: null,
    };
  }
  const cal = asked.calendar;
  const first = Math.min(...reaches.map((r) => r.firstPeriod));
  const last = Math.max(...reaches.map((r) => r.lastPosted));
  const { window } = figure;
  const said = windowText(window, cal);
  const outside =
    window.by === 'period'
      ? window.to < first || window.from > last
      : reaches.every((r) => window.to < r.firstDay || window.from > r.lastDay);
  if (outside) {
    const period = cal.period(last);
    const reach = `${dateText(cal.period(first).from)} to ${dateText(period.to)}`;
    return {
      reason: `There are no lines in ${said}. The lines of ${names} run from ${reach}.`,
      instead: { from: periodText(last), to: periodText(last) },
      label: `Go to ${periodName(period)}`,
    };
  }
  const wholeTime =
    window.by === 'period'
      ? window.from <= first && window.to >= last
      : reaches.every((r) => window.from <= r.firstDay && window.to >= r.lastDay);
  const status = figure.status === 'all' ? '' : `${figure.status} `;
  if (wholeTime)
    return {
      reason: `No ${status}lines of any period meet every clause of the scope. Remove a clause.`,
      instead: null,
      label: null,
    };
  return {
    reason: `No ${status}lines in ${said} meet every clause of the scope. Remove a clause, or widen the window.`,
    instead: { from: periodText(first), to: periodText(last) },
    label: 'Look at all periods',
  };
}
