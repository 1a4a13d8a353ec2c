import type { ScopeParams } from '@/contracts/scope';
import { type Ordinal, parsePeriod, periodText } from '@/core/calendar';
import { normalPeriod } from '@/core/comparisons';
import { formatAmount } from '@/core/money';
import { amountIn, asOne, countIn } from '@/core/sheet';
import { farFrom, OUT_OF_LINE } from '@/core/tests/history';
import type { Context } from '../asking/context';
import { nameOfPeriod } from '../asking/memberNames';
import { shownProof } from '../asking/present';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { periodEnds, periodsBefore } from '../sheets/periodsBack';
import { splitFigure } from '../sheets/readSheet';
import { drawnOf } from './drawn';

/** Periods that are drawn, the last of the window; and accounts, those furthest from their own history. */
const PERIODS_MAX = 24;
const ACCOUNTS_MAX = 40;

/**
 * How far each account's movement in each period lies from those of the periods before it: in standard deviations of their
 * median (core/tests/history, “a month out of line”, measured by the median).
 */
export async function readAccountMonths(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, params, { translates: true });
  const { digits, calendar: cal } = asked;
  const { from, to } = periodEnds(asked);
  const { deviations: limit, history, least } = OUT_OF_LINE;
  const last = normalPeriod(cal, to);
  const shown = [...periodsBefore(asked, last, PERIODS_MAX - 1), last].filter((p) => p >= from);
  const [first = last] = shown;
  const all = [...periodsBefore(asked, first, history), ...shown];
  const wide = asked.narrowed({ window: { by: 'period', from: all[0] ?? first, to: last } });
  const sheet = await splitFigure(ctx, wide, [{ by: 'account' }], { by: 'period' });
  const at = new Map(sheet.across.map((c, i) => [parsePeriod(c.member) as Ordinal, i]));
  const text = (minor: number): string => formatAmount(minor, digits);
  const accounts = sheet.rows.map((row) => {
    const cells = all.map((period) => row.across?.[at.get(period) ?? -1]?.cells);
    const amounts = cells.map((c) => (c ? amountIn(c, 'movement') : 0));
    const counts = cells.map((c) => (c ? countIn(c) : 0));
    const begins = counts.findIndex((count) => count > 0);
    const months = shown.map((period) => {
      const i = all.indexOf(period);
      const amount = amounts[i] as number;
      const held = begins < 0 ? [] : amounts.slice(Math.max(begins, i - history), i);
      const { centre, far } = held.length < least ? { centre: null, far: null } : farFrom(held, amount, 'median');
      return {
        period: periodText(period),
        amount: text(amount),
        count: counts[i] as number,
        usual: centre === null ? null : text(Math.trunc(centre)),
        /** Standard deviations from what is usual; below nothing where it is less. */
        deviations: far === null || centre === null ? null : Math.sign(amount - centre) * far,
      };
    });
    return {
      ...{ code: row.member, name: row.label, months },
      furthest: Math.max(0, ...months.map((m) => Math.abs(m.deviations ?? 0))),
    };
  });
  const looked = accounts.filter((a) => a.months.some((m) => m.deviations !== null));
  looked.sort((a, b) => b.furthest - a.furthest || (a.code < b.code ? -1 : 1));
  return {
    ...{ ...drawnOf(asked), currency: asked.currency },
    tie: shownProof(asOne(sheet.proofs), digits),
    ...{ limit, history },
    periods: shown.map((period) => ({ period: periodText(period), name: nameOfPeriod(cal, period) })),
    accounts: looked.slice(0, ACCOUNTS_MAX).sort((a, b) => (a.code < b.code ? -1 : 1)),
    notDrawn: Math.max(0, looked.length - ACCOUNTS_MAX),
    /** Accounts with too short a history. */
    tooShort: accounts.length - looked.length,
  };
}
