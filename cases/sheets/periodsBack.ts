import { neighbour, type Ordinal } from '@/core/calendar';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** The periods that the window of a figure begins and ends in. */
export function periodEnds({ calendar: cal, figure: { window } }: ResolvedFigure): { from: Ordinal; to: Ordinal } {
  return window.by === 'period'
    ? window
    : { from: cal.periodAt(window.from).ordinal, to: cal.periodAt(window.to).ordinal };
}

/** So many periods right before one, the earliest first, adjustment periods left out; none before the first line of the companies. */
export function periodsBefore(asked: ResolvedFigure, of: Ordinal, many: number): Ordinal[] {
  const { calendar: cal, entities, known } = asked;
  const { from } = periodEnds(asked);
  const reach = Math.min(...entities.map((e) => known.extents.get(e.code)?.firstPeriod ?? from));
  const found: Ordinal[] = [];
  for (let at = neighbour(cal, of, -1); at !== null && at >= reach && found.length < many; at = neighbour(cal, at, -1))
    found.unshift(at);
  return found;
}
