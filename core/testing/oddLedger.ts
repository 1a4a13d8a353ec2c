import { type CalendarSpec, calendar } from '../calendar';
import { addDays } from '../dates';
import type { Line } from '../ledger';
import { grouped } from '../tests/looked';
import type { AccountTested, LedgerTested } from '../tests/test';
import { CHART, dice, RETAINED, randomLedger } from './randomLedger';

/** A random ledger in which there is something for every test to find, made from a seed. */

export const ODD_SPEC: CalendarSpec = { kind: 'monthly', start: '04', adjustmentPeriods: 1 };

const RULES: Record<string, AccountTested['dimRules']> = {
  '5100': { unit: 'required' },
  '4000': { fund: 'forbidden' },
};

export const ODD_CHART: AccountTested[] = CHART.map((a) => ({
  ...a,
  name: a.code === '1500' ? 'Bank in transit' : a.name,
  status: a.code === '5900' ? 'inactive' : 'active',
  normal: a.type === 'asset' || a.type === 'expense' ? 'debit' : 'credit',
  dimRules: RULES[a.code] ?? {},
}));

export const ODD_PARTIES = [
  { code: 'C1', name: 'Brenna Boatyard', kind: 'supplier', bankAccount: 'GB11 0001' },
  { code: 'C2', name: 'Brenna Boatyards', kind: 'supplier', bankAccount: 'GB22 0002' },
  { code: 'C3', name: 'Tolsey Rope Works', kind: 'supplier', bankAccount: 'gb11-0001' },
];

/** Lines of one company, and those that a later load restates: whole periods, without or with other lines. */
export function oddLines(seed: number, code: string): { first: Line[]; restated: Line[]; period: number } {
  const roll = dice(seed);
  const cal = calendar(ODD_SPEC);
  const base = randomLedger(seed, [{ code, spec: ODD_SPEC, yearEnd: 'derived' }]).lines;
  const entries = [...grouped(base, (l) => l.entry).values()];
  const lines: Line[] = [];
  let number = 500;
  const next = (): string => {
    number += roll.chance(0.1) ? 2 : 1;
    return `${code}-${String(number).padStart(4, '0')}`;
  };
  const moved = (own: readonly Line[], days: number, change: Partial<Line>): Line[] => {
    const entry = next();
    return own.map((l) => {
      const postingDate = addDays(l.postingDate, days);
      const { ordinal } = cal.periodAt(postingDate);
      return { ...l, entry, postingDate, day: postingDate, period: ordinal, ...change };
    });
  };
  for (const own of entries) {
    if (own[0]?.kind === 'opening') {
      lines.push(...own);
      continue;
    }
    const silent = roll.chance(0.15);
    const day = own[0]?.day as string;
    const at = roll.whole(0, 9);
    const enteredAt =
      at === 0
        ? null
        : at === 1
          ? addDays(day, -90)
          : `${addDays(day, roll.whole(0, 60))}T${roll.pick(['08', '09', '14', '22'])}:15`;
    const head: Partial<Line> = {
      enteredAt,
      reversalOf: null,
      postedBy: roll.chance(0.02) ? 'zoe' : roll.pick(['ann', 'ann', 'ben']),
      approvedBy: roll.pick(['ann', 'eva', null]),
      journal: roll.pick(['GL', 'JE', null]),
      source: roll.pick(['Yard', 'Entered by hand', null]),
      counterparty: roll.pick(['C1', 'C2', 'C3', null]),
      document: roll.chance(0.5) ? `INV-${String(roll.whole(1, 60)).padStart(4, '0')}` : null,
      documentType: roll.chance(0.7) ? 'invoice' : null,
      documentDate: roll.chance(0.5) ? addDays(day, roll.whole(-50, 10)) : null,
      entryDescription: silent ? '' : roll.pick(['Accrual of fuel', 'Wages', 'To correct an ERROR', 'Rent']),
      ...(silent ? { description: '' } : {}),
    };
    // Whole amounts now and then, which are round.
    const whole = roll.chance(0.2) ? 10_000 : 1;
    const mended = own.map((l) => ({ ...l, ...head, amount: Math.trunc(l.amount / whole) * whole || l.amount }));
    const net = mended.reduce((sum, l) => sum + l.amount, 0);
    const [top] = mended;
    if (top) top.amount -= net;
    lines.push(...mended);
    if (roll.chance(0.1))
      lines.push(
        ...moved(mended, roll.whole(0, 6), { document: head.document ? `${head.document.slice(0, -1)}I` : null }),
      );
    if (roll.chance(0.2)) {
      const back = moved(mended, roll.whole(1, 25), { reversalOf: own[0]?.entry as string, kind: 'reversal' });
      lines.push(...back.map((l) => ({ ...l, amount: 0 - l.amount })));
    }
  }
  const { ordinal: period } = cal.periodAt(addDays('2025-04-01', 200));
  const inPeriod = [
    ...grouped(
      lines.filter((l) => l.period === period),
      (l) => l.entry,
    ).values(),
  ];
  const restated = inPeriod.flatMap((own, i) =>
    i % 4 === 0 ? [] : i % 4 === 1 ? own.map((l) => ({ ...l, description: `${l.description} again` })) : own,
  );
  return { first: lines, restated: restated.length > 0 ? restated : inPeriod.flat(), period };
}

/** The same as tests look at it, up to the end of a window. */
export function oddTested(
  code: string,
  { first, restated, period }: ReturnType<typeof oddLines>,
  figure: {
    window: { by: 'period'; from: number; to: number } | { by: 'date'; from: string; to: string };
    status: 'posted' | 'all';
  },
): LedgerTested {
  const cal = calendar(ODD_SPEC);
  const { window } = figure;
  const at = (l: Line): number | string => (window.by === 'period' ? l.period : l.day);
  const counts = (l: Line): boolean => (figure.status === 'all' || l.status === 'posted') && at(l) <= window.to;
  const firstYear =
    typeof window.from === 'number'
      ? Math.floor(window.from / 100)
      : Math.floor(cal.periodAt(window.from).ordinal / 100);
  const within = (l: Line): boolean =>
    at(l) >= window.from && !(l.kind === 'opening' && Math.floor(l.period / 100) <= firstYear);
  const now = [...first.filter((l) => l.period !== period), ...restated].filter(counts);
  return {
    books: new Map([[code, { calendar: cal, chart: ODD_CHART, retainedEarnings: RETAINED }]]),
    lines: now.map((l) => ({ ...l, within: within(l) })),
    gone: first.filter((l) => l.period === period && counts(l) && within(l)),
    parties: ODD_PARTIES,
    end: () => (typeof window.to === 'number' ? window.to : cal.periodAt(window.to).ordinal),
    whole: (ordinal) => window.by === 'period' && ordinal >= window.from && ordinal <= window.to,
  };
}
