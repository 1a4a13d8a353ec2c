import { calendar, periodText, yearOf } from '@/core/calendar';
import { exponentOf, formatAmount } from '@/core/money';
import { periodsWithLines } from '@/store/deliveries';
import { type Context, known } from '../asking/context';
import { maySee, seesWhole, type Viewer } from '../asking/viewer';

/** The fiscal years of each entity with their periods: dates, and how many lines each holds. */
export async function readCalendars(ctx: Context, viewer: Viewer) {
  const { catalogue } = await known(ctx.read);
  const entities = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code));
  const whole = seesWhole(viewer);
  return {
    today: ctx.today(),
    entities: await Promise.all(
      entities.map(async (e) => {
        const cal = calendar(e.calendar);
        const loaded = new Map((await periodsWithLines(ctx.read, e.id)).map((p) => [p.period, p]));
        const years = new Set([...loaded.keys()].map(yearOf));
        try {
          years.add(cal.periodAt(ctx.today()).year);
        } catch {
          // Today may lie outside a list of periods.
        }
        const first = Math.min(...years);
        const last = Math.max(...years);
        const digits = exponentOf(e.currency);
        return {
          code: e.code,
          name: e.name,
          currency: e.currency,
          calendar: e.calendar.kind === 'custom' ? { kind: 'custom' as const } : e.calendar,
          yearEnd: e.yearEnd,
          years: Array.from({ length: years.size === 0 ? 0 : last - first + 1 }, (_, i) => first + i).map((year) => ({
            year,
            periods: cal.periodsOf(year).map((p) => ({
              period: periodText(p.ordinal),
              from: p.from,
              to: p.to,
              adjustment: p.adjustment,
              lines: (whole && loaded.get(p.ordinal)?.count) || 0,
              posted: (whole && loaded.get(p.ordinal)?.posted) || 0,
              debit: formatAmount((whole && loaded.get(p.ordinal)?.debit) || 0, digits),
            })),
          })),
        };
      }),
    ),
  };
}
