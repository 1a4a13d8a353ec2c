import { isTemporary } from '../ledger';
import { type Month, monthsOf, type PeriodLooked, periodsOf, trunc2 } from './looked';
import {
  bits,
  COMMON,
  choice,
  type Hit,
  ISA_240,
  ISA_520,
  type LedgerTested,
  ledgerTest,
  money,
  num,
  number,
  said,
  told,
} from './test';

/** Accounts that do not go on as they did. */

/** Every account by period, from the first in which anything was booked on it; adjustment periods and openings left out. */
interface Row {
  entity: string;
  account: string;
  temporary: boolean;
  periods: { period: PeriodLooked; amount: number; count: number; within: boolean }[];
}

function rowsOf(ledger: LedgerTested): Row[] {
  const periods = new Map([...ledger.books.keys()].map((e) => [e, periodsOf(ledger, e)]));
  return [...monthsOf(ledger, false).values()].flatMap((months) => {
    const { entity, account } = months[0] as Month;
    const known = ledger.books.get(entity)?.chart.find((a) => a.code === account);
    const normal = (periods.get(entity) ?? []).filter((p) => !p.adjustment);
    const own = new Map(months.map((m) => [m.period, m]));
    const from = normal.findIndex((p) => own.has(p.ordinal));
    if (!known || from < 0) return [];
    return [
      {
        ...{ entity, account, temporary: isTemporary(known.type) },
        periods: normal.slice(from).map((period) => ({
          ...{ period, amount: own.get(period.ordinal)?.amount ?? 0, count: own.get(period.ordinal)?.count ?? 0 },
          within: ledger.whole(period.ordinal),
        })),
      },
    ];
  });
}

/** A year has so many periods that something can be held against the same of the year before. */
const YEAR = 12;

export const changed = ledgerTest({
  code: 'changed',
  name: 'Changed against the year before',
  group: 'Changes over time',
  looksFor:
    'Accounts whose movement in the last periods of the window, a year at the most, is far from that of the same periods a year before, in amount and in proportion. Either the business changed, or something is booked twice, late, or elsewhere.',
  source: ISA_520,
  looksAt: 'accounts',
  params: {
    least: money('Changes from', (facts, entity) => facts.of(entity).large),
    percent: number('Percent of the year before', 30, { least: 1, most: 100_000 }),
  },
  at: ['account'],
  behind: ['account'],
  needs: ['periods'],
  plain: (ledger, { least, percent }) =>
    [...monthsOf(ledger, false).values()].flatMap((months): Hit[] => {
      const { entity, account } = months[0] as Month;
      const all = periodsOf(ledger, entity);
      const inWindow = all.filter((p) => ledger.whole(p.ordinal));
      const last = inWindow.at(-1)?.seq ?? 0;
      const now = inWindow.filter((p) => p.seq > last - YEAR).map((p) => p.ordinal);
      const [from] = now;
      if (from === undefined || !all.some((p) => p.ordinal <= from - 100)) return [];
      const total = (of: readonly number[]): number =>
        months.reduce((sum, m) => sum + (of.includes(m.period) ? m.amount : 0), 0);
      const [moved, before] = [total(now), total(now.map((p) => p - 100))];
      const change = moved - before;
      if (Math.abs(change) < Math.max(1, least(entity)) || Math.abs(change) * 100 < percent * Math.abs(before))
        return [];
      const degree = before === 0 ? 4 : Math.min(8, bits(1 + Math.abs(change) / Math.abs(before)));
      return [{ ...{ entity, at: { account }, degree, amount: change }, parts: { moved, before } }];
    }),
  reason: ({ at, amount, parts }, say) =>
    `${say.account(told(at.account))} moved by ${say.money(num(parts.moved))}, against ${say.money(num(parts.before))} in the same periods a year before: a change of ${say.money(amount)}.`,
});

export const dormant = ledgerTest({
  code: 'dormant',
  name: 'An account that slept, and moves',
  group: 'Changes over time',
  looksFor:
    'Accounts on which nothing was booked for many periods, and then something was. Whoever wants to hide an entry books it where nobody looks any more; whoever mistypes a code finds such accounts too.',
  source: ISA_240,
  looksAt: 'account-months',
  params: { periods: number('Periods without a posting', 6, { least: 1, most: 120 }) },
  at: ['account', 'period'],
  behind: ['account', 'period'],
  plain: (ledger, { periods }) =>
    [...monthsOf(ledger, true).values()].flatMap((months): Hit[] => {
      const { entity, account } = months[0] as Month;
      const seqs = new Map(periodsOf(ledger, entity).map((p) => [p.ordinal, p.seq]));
      const known = months.filter((m) => seqs.has(m.period));
      return known.flatMap((m, i): Hit[] => {
        const before = known[i - 1];
        const silent =
          before === undefined ? -1 : (seqs.get(m.period) as number) - (seqs.get(before.period) as number) - 1;
        if (before === undefined || m.within === 0 || silent < periods) return [];
        return [
          {
            ...{ entity, at: { account, period: m.period }, degree: bits(1 + silent), amount: m.amount },
            parts: { silent, since: before.period },
          },
        ];
      });
    }),
  reason: ({ at, amount, parts }, say) =>
    `${say.account(told(at.account))} moved by ${say.money(amount)} in ${say.period(num(at.period))}, after ${said(parts.silent)} periods without a posting (the last was in ${say.period(num(parts.since))}).`,
});

/** A history that hardly varies says nothing of changes that are small beside it. */
const LEAST_SPREAD = 0.01;
/** The median of absolute deviations times this is the standard deviation of what is normally distributed. */
const MAD_TO_SD = 1.4826;

/** Begun with: so many standard deviations, from so many periods before, and from so many at the least. */
export const OUT_OF_LINE = { deviations: 4, history: 24, least: 6 } as const;

export const outOfLine = ledgerTest({
  code: 'out-of-line',
  name: 'A month out of line with its own history',
  group: 'Changes over time',
  looksFor:
    'Accounts whose movement in one period lies many standard deviations from those of the periods before it. With “median”, what was out of line before does not hide what is now: the median and the median absolute deviation take their place.',
  source: ISA_520,
  looksAt: 'account-months',
  params: {
    deviations: number('Standard deviations', OUT_OF_LINE.deviations, { least: 1, most: 100 }),
    history: number('Periods before it, at the most', OUT_OF_LINE.history, { least: 3, most: 120 }),
    least: number('and at the least', OUT_OF_LINE.least, { least: 3, most: 120 }),
    by: choice('Measured by', ['mean', 'median'], 'mean'),
  },
  at: ['account', 'period'],
  behind: ['account', 'period'],
  needs: ['periods'],
  plain: (ledger, { deviations, history, least, by }) =>
    rowsOf(ledger).flatMap(({ entity, account, periods }) =>
      periods.flatMap(({ period, amount, within }, i): Hit[] => {
        const before = periods.slice(Math.max(0, i - history), i).map((p) => p.amount);
        if (!within || before.length < least) return [];
        const { centre, far } = farFrom(before, amount, by);
        if (far <= deviations) return [];
        return [
          {
            ...{ entity, at: { account, period: period.ordinal }, degree: bits(1 + far / deviations) },
            amount: amount - Math.trunc(centre),
            parts: { moved: amount, usual: Math.trunc(centre), deviations: trunc2(far), before: before.length },
          },
        ];
      }),
    ),
  reason: ({ at, parts }, say) =>
    `${say.account(told(at.account))} moved by ${say.money(num(parts.moved))} in ${say.period(num(at.period))}; the ${said(parts.before)} periods before it moved by ${say.money(num(parts.usual))} as a rule, which is ${said(parts.deviations)} standard deviations away.`,
});

/** How many standard deviations an amount lies from what was before it, and from which centre. */
export function farFrom(before: readonly number[], amount: number, by: string): { centre: number; far: number } {
  const { centre, spread } = by === 'median' ? robust(before) : moments(before);
  return { centre, far: Math.abs(amount - centre) / Math.max(spread, Math.abs(centre) * LEAST_SPREAD, 1) };
}

function moments(of: readonly number[]): { centre: number; spread: number } {
  const centre = of.reduce((a, b) => a + b, 0) / of.length;
  return { centre, spread: Math.sqrt(of.reduce((sum, x) => sum + (x - centre) ** 2, 0) / (of.length - 1)) };
}

function robust(of: readonly number[]): { centre: number; spread: number } {
  const centre = median(of);
  return { centre, spread: MAD_TO_SD * median(of.map((x) => Math.abs(x - centre))) };
}

export function median(of: readonly number[]): number {
  const sorted = [...of].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return ((sorted[Math.ceil(half) - 1] as number) + (sorted[Math.floor(half)] as number)) / 2;
}

export const missingMonth = ledgerTest({
  code: 'missing-month',
  name: 'A month that is missing',
  group: 'Booked twice or missing',
  looksFor:
    'Income and expense accounts with nothing booked in a period although every one of the periods before it had something. An invoice was not sent, a cost not accrued, or both wait in the next period.',
  source: COMMON,
  looksAt: 'account-months',
  params: { periods: number('Periods before it with postings', 6, { least: 2, most: 120 }) },
  at: ['account', 'period'],
  behind: ['account', 'period'],
  needs: ['periods'],
  plain: (ledger, { periods: many }) =>
    rowsOf(ledger).flatMap(({ entity, account, temporary, periods }) =>
      periods.flatMap(({ period, count, within }, i): Hit[] => {
        const before = periods.slice(Math.max(0, i - many), i);
        if (!temporary || !within || count > 0 || before.length < many || before.some((p) => p.count === 0)) return [];
        const usual = Math.trunc(before.reduce((sum, p) => sum + p.amount, 0) / many);
        return [
          {
            ...{ entity, at: { account, period: period.ordinal }, degree: bits(many), amount: usual },
            parts: { before: many },
          },
        ];
      }),
    ),
  reason: ({ at, amount, parts }, say) =>
    `Nothing is booked on ${say.account(told(at.account))} in ${say.period(num(at.period))}; each of the ${said(parts.before)} periods before it had something, ${say.money(amount)} on average.`,
});

export const season = ledgerTest({
  code: 'season',
  name: 'A month that breaks the season',
  group: 'Changes over time',
  looksFor:
    'Income and expense accounts of which one month has another share of its year than the same month had in the years before. Growth alone does not do that: something came in another month, twice, or not at all.',
  source: ISA_520,
  looksAt: 'account-months',
  params: {
    points: number('Percentage points of the year', 10, { least: 1, most: 100 }),
    years: number('Years before it, at the least', 2, { least: 1, most: 20 }),
    least: money('Accounts with a year of', (facts, entity) => facts.of(entity).typical * 12),
  },
  at: ['account', 'period'],
  behind: ['account', 'period'],
  needs: ['periods'],
  plain: (ledger, { points, years, least }) =>
    rowsOf(ledger).flatMap(({ entity, account, temporary, periods }): Hit[] => {
      if (!temporary) return [];
      const shares = periods.flatMap(({ period, amount, within }, i) => {
        const year = i < YEAR - 1 ? 0 : periods.slice(i - YEAR + 1, i + 1).reduce((sum, p) => sum + p.amount, 0);
        return year === 0 ? [] : [{ at: period.ordinal, amount, within, year, share: amount / year }];
      });
      return shares.flatMap((own): Hit[] => {
        const before = shares.filter((s) => s.at < own.at && (own.at - s.at) % 100 === 0).map((s) => s.share);
        if (!own.within || before.length < years || Math.abs(own.year) < least(entity)) return [];
        const usual = before.reduce((a, b) => a + b, 0) / before.length;
        const off = Math.abs(own.share - usual) * 100;
        if (off < points) return [];
        return [
          {
            ...{ entity, at: { account, period: own.at }, degree: Math.min(8, bits(1 + off / points)) },
            amount: own.amount - Math.trunc(usual * own.year),
            parts: {
              moved: own.amount,
              share: trunc2(own.share * 100),
              usual: trunc2(usual * 100),
              years: before.length,
            },
          },
        ];
      });
    }),
  reason: ({ at, parts }, say) =>
    `${say.account(told(at.account))} moved by ${say.money(num(parts.moved))} in ${say.period(num(at.period))}, ${num(parts.share).toFixed(1)} % of the twelve months up to then; in the ${num(parts.years) === 1 ? 'year' : `${said(parts.years)} years`} before, that month had ${num(parts.usual).toFixed(1)} %.`,
});
