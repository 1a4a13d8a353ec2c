import { CalendarError, type calendar, periodText } from '@/core/calendar';
import { mondayOf } from '@/core/dates';
import { DIRECT, DIRECTLY_ON, NONE, type Split } from '@/core/figure';
import { dateText, monthText, periodName, weekText } from '@/core/sentence';
import { bandOf } from '@/core/sizes';
import type { SplitRow } from '@/core/split';
import { oneValue } from '@/core/values';
import { dictionaryNames } from '@/store/balances';
import { mergedChart } from '../balances/accountBalances';
import type { Context } from './context';
import type { ResolvedFigure } from './resolvedFigure';
import { spokenCount } from './spokenNumbers';

/** A member's key as it crosses the API. */
export const shownKey = (split: Split, key: string): string => (split.by === 'period' ? periodText(Number(key)) : key);

/** What the members of a sheet's splits are called. */
export async function namer(
  ctx: Context,
  asked: ResolvedFigure,
  splits: Split[],
  rows: Pick<SplitRow, 'path'>[],
  columns: string[],
) {
  const { known } = asked;
  const chart = new Map(mergedChart(asked).map((a) => [a.code, a.name]));
  const dictionary = async (by: 'journal' | 'counterparty') =>
    splits.some((s) => s.by === by)
      ? dictionaryNames(ctx.read, by, [...new Set([...rows.flatMap((r) => r.path), ...columns])])
      : new Map<string, string>();
  const [journals, counterparties] = await Promise.all([dictionary('journal'), dictionary('counterparty')]);
  const cal = asked.calendar;
  return (split: Split, key: string): string => {
    if (key === NONE)
      return split.by === 'dim' ? `(no ${known.catalogue.dimensions.get(split.dim)?.name.toLowerCase()})` : '(none)';
    switch (split.by) {
      case 'account':
      case 'heading':
        return chart.get(key) ?? key;
      case 'entity':
        return known.catalogue.entities.get(key)?.name ?? key;
      case 'period':
        return nameOfPeriod(cal, Number(key));
      case 'month':
        return monthText(key);
      case 'week':
        return `${weekText(key)}, from ${dateText(mondayOf(key))}`;
      case 'day':
        return dateText(key);
      case 'size':
        return bandText(key, asked.digits);
      case 'journal':
        return journals.get(key) ?? key;
      case 'counterparty':
        return counterparties.get(key) ?? key;
      case 'dim': {
        const tree = known.catalogue.trees.get(split.dim);
        if (key.startsWith(DIRECTLY_ON)) {
          const code = key.slice(DIRECTLY_ON.length);
          const name = tree?.get(code)?.name ?? code;
          return [...(tree?.values() ?? [])].some((m) => m.parent === code) ? `(directly on ${name})` : name;
        }
        if (key === DIRECT) return `(directly on ${tree?.get(split.under as string)?.name ?? split.under})`;
        return tree?.get(key)?.name ?? key;
      }
      default:
        return oneValue(key) ?? key;
    }
  };
}

/** "100 to under 1,000" */
function bandText(key: string, digits: number): string {
  const { from, to } = bandOf(key);
  const text = (minor: number): string => spokenCount(Math.round(minor / 10 ** digits));
  if (from === null) return `under ${text((to ?? 0) + 1)}`;
  return to === null ? `${text(from)} and over` : `${text(from)} to under ${text(to + 1)}`;
}

/** A period by its name; by its number where the calendar has none of it. */
export function nameOfPeriod(cal: ReturnType<typeof calendar>, period: number): string {
  try {
    return periodName(cal.period(period));
  } catch (error) {
    if (error instanceof CalendarError) return periodText(period);
    throw error;
  }
}
