import type { ScopeParams } from '@/contracts/scope';
import { WEEKDAYS } from '@/core/enteredWhen';
import { enteredTimes } from '@/store/pictures';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { drawnOf } from './drawn';

/** On which days of the week, and in which hours, the entries of a figure were entered, as the ledger writes it. */
export async function readEnteredTimes(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, params);
  const { db, question } = await asked.ask(ctx, [{ by: 'enteredAt' }]);
  const rows = await enteredTimes(db, question);
  const untold = rows.filter((r) => r.weekday === null);
  const sum = (of: 'entries' | 'lines'): number => untold.reduce((all, r) => all + r[of], 0);
  return {
    ...drawnOf(asked),
    times: rows.flatMap(({ weekday, hour, entries, lines }) =>
      weekday === null ? [] : [{ weekday: WEEKDAYS[weekday - 1] as (typeof WEEKDAYS)[number], hour, entries, lines }],
    ),
    untold: { entries: sum('entries'), lines: sum('lines') },
  };
}
