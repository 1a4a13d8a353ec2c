import { type DateText, daysBetween, isDate, weekdayOf } from '../dates';
import { weekdayCodeOf, weekdayName } from '../enteredWhen';
import { isTemporary } from '../ledger';
import { entriesOf, grouped, hitOf } from './looked';
import { runningNumber } from './series';
import {
  bits,
  COMMON,
  type Hit,
  ISA_240,
  type LedgerTested,
  ledgerTest,
  num,
  number,
  rarity,
  said,
  times,
  told,
  words,
} from './test';

/** Entries of days and hours on which nobody usually books. */

/** Entries of some days, each as unusual as such days are in its own journal. */
function onDays(ledger: LedgerTested, isOne: (day: DateText) => boolean): Hit[] {
  const journals = grouped(entriesOf(ledger), (e) => `${e.entity}\n${e.journal}`);
  return [...journals.values()].flatMap((all) => {
    const some = all.filter((e) => isOne(e.day));
    return some
      .filter((e) => e.within)
      .map((e) =>
        hitOf(e, rarity(some.length, all.length), {
          day: e.day,
          journal: e.journal,
          some: some.length,
          all: all.length,
        }),
      );
  });
}

const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'] as const;
export const weekdayNumbers = (names: readonly string[]): number[] =>
  names.flatMap((name) => {
    const at = (WEEKDAYS as readonly string[]).indexOf(name.trim().toLowerCase());
    return at < 0 ? [] : [at];
  });
const nameOfDay = (day: DateText): string => weekdayName(weekdayCodeOf(day));

export const weekend = ledgerTest({
  code: 'weekend',
  name: 'Booked on a weekend',
  group: 'Dates',
  looksFor:
    'Entries of days on which the office is closed. Where a journal has such days all the time, as takings do, its entries hardly count; where it has none, one does.',
  source: ISA_240,
  looksAt: 'entries',
  params: { days: words('Days', ['saturday', 'sunday']) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) => {
    const numbers = weekdayNumbers(days);
    return onDays(ledger, (day) => numbers.includes(weekdayOf(day)));
  },
  reason: ({ parts }, say) =>
    `Booked on ${nameOfDay(told(parts.day))}, ${say.day(told(parts.day))}; ${said(parts.some)} of ${times(num(parts.all), 'entry', 'entries')} of journal ${told(parts.journal) || '(none)'} are of such days.`,
});

export const holiday = ledgerTest({
  code: 'holiday',
  name: 'Booked on a public holiday',
  group: 'Dates',
  looksFor:
    'Entries of public holidays, which you name: as month and day where they return each year, as a whole date where they do not. Each counts by how seldom its journal has such days.',
  source: ISA_240,
  looksAt: 'entries',
  params: { days: words('Days, as 12-25 or 2026-04-03', ['01-01', '12-25', '12-26']) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) => onDays(ledger, (day) => days.includes(day) || days.includes(day.slice(5))),
  reason: ({ parts }, say) =>
    `Booked on a holiday, ${say.day(told(parts.day))}; ${said(parts.some)} of ${times(num(parts.all), 'entry', 'entries')} of journal ${told(parts.journal) || '(none)'} are of such days.`,
});

/** The hour at which an entry was entered, as it is written; null where none is. */
export const hourOf = (enteredAt: string | null): number | null => {
  const hour = enteredAt?.match(/^\d{4}-\d\d-\d\d[T ](\d\d):/)?.[1];
  return hour === undefined ? null : Number(hour);
};
const dayEntered = (enteredAt: string | null): DateText | null => {
  const day = enteredAt?.slice(0, 10);
  return day !== undefined && isDate(day) ? day : null;
};

export const outOfHours = ledgerTest({
  code: 'out-of-hours',
  name: 'Entered out of hours',
  group: 'Dates',
  looksFor:
    'Entries that were entered earlier or later in the day than nineteen of twenty others. Only where the ledger keeps the hour can this be told.',
  source: ISA_240,
  looksAt: 'entries',
  params: {
    from: number('Hours from', (facts) => facts.hours?.from ?? 7, { most: 24 }),
    to: number('to', (facts) => facts.hours?.to ?? 19, { most: 24 }),
  },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { from, to }) =>
    entriesOf(ledger).flatMap((e) => {
      const hour = hourOf(e.enteredAt);
      if (!e.within || hour === null || (hour >= from && hour < to)) return [];
      const away = hour < from ? from - hour : hour - to + 1;
      return [hitOf(e, bits(1 + away), { entered: e.enteredAt, person: e.person })];
    }),
  reason: ({ parts }) =>
    `Entered at ${told(parts.entered).slice(11, 16)} on ${told(parts.entered).slice(0, 10)}${parts.person === null ? '' : ` by ${told(parts.person)}`}.`,
});

export const enteredLate = ledgerTest({
  code: 'entered-late',
  name: 'Entered long after its date',
  group: 'Dates',
  looksFor:
    'Entries that were entered many days after the date that they bear, later than nineteen of twenty others. What is dated back may be there to change a period that was read already.',
  source: ISA_240,
  looksAt: 'entries',
  params: { days: number('Days', (facts) => Math.max(10, facts.entered), { least: 1 }) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) =>
    entriesOf(ledger).flatMap((e) => {
      const entered = dayEntered(e.enteredAt);
      const late = entered === null ? 0 : daysBetween(e.day, entered);
      return e.within && late > days ? [hitOf(e, bits(late / days), { day: e.day, entered, late })] : [];
    }),
  reason: ({ parts }, say) =>
    `Dated ${say.day(told(parts.day))} and entered ${say.day(told(parts.entered))}, ${said(parts.late)} days later.`,
});

export const datedAhead = ledgerTest({
  code: 'dated-ahead',
  name: 'Dated long after it was entered',
  group: 'Dates',
  looksFor:
    'Entries with a date that was far ahead on the day on which they were entered. A year or a month was mistyped, or something is to appear later than it happened.',
  source: COMMON,
  looksAt: 'entries',
  params: { days: number('Days', 40, { least: 1 }) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) =>
    entriesOf(ledger).flatMap((e) => {
      const entered = dayEntered(e.enteredAt);
      const ahead = entered === null ? 0 : daysBetween(entered, e.day);
      return e.within && ahead > days ? [hitOf(e, bits(ahead / days), { day: e.day, entered, ahead })] : [];
    }),
  reason: ({ parts }, say) =>
    `Entered ${say.day(told(parts.entered))} and dated ${say.day(told(parts.day))}, ${said(parts.ahead)} days ahead.`,
});

/** A month has so many days, by which distances are told. */
const MONTH = 30;

/** How many days a date lies outside of a span. */
const outside = (day: DateText, span: { from: DateText; to: DateText }): number =>
  Math.max(0, daysBetween(day, span.from), daysBetween(span.to, day));

export const outsidePeriod = ledgerTest({
  code: 'outside-period',
  name: 'Dated outside of its period',
  group: 'Dates',
  looksFor:
    'Entries whose date lies in another period than the one they were booked into; adjustment periods are left out, since they have no days of their own. The date or the period is wrong.',
  source: COMMON,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger) =>
    entriesOf(ledger).flatMap((e) => {
      const { calendar } = ledger.books.get(e.entity) as NonNullable<ReturnType<LedgerTested['books']['get']>>;
      const off = e.lines.flatMap((l) => {
        const period = calendar.periodsOf(2000 + Math.floor(l.period / 100)).find((p) => p.ordinal === l.period);
        const days = !l.within || !period || period.adjustment ? 0 : outside(l.day, period);
        return days > 0 ? [{ days, period: l.period, day: l.day }] : [];
      });
      const worst = off.sort((a, b) => b.days - a.days || a.period - b.period)[0];
      return worst && e.within ? [hitOf(e, bits(1 + worst.days / MONTH), { ...worst })] : [];
    }),
  reason: ({ parts }, say) =>
    `Dated ${say.day(told(parts.day))} and booked into ${say.period(num(parts.period))}, ${times(num(parts.days), 'day')} away.`,
});

export const cutOff = ledgerTest({
  code: 'cut-off',
  name: 'Document of another period',
  group: 'Dates',
  looksFor:
    'Income and expense booked into another period than that of the date of their document. What was delivered before the end of a year and billed after it belongs to the earlier one.',
  source: COMMON,
  looksAt: 'entries',
  params: { days: number('Days outside of the period, more than', 5) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) =>
    entriesOf(ledger).flatMap((e) => {
      const books = ledger.books.get(e.entity) as NonNullable<ReturnType<LedgerTested['books']['get']>>;
      const off = e.lines.flatMap((l) => {
        const type = books.chart.find((a) => a.code === l.account)?.type;
        const period = books.calendar.periodsOf(2000 + Math.floor(l.period / 100)).find((p) => p.ordinal === l.period);
        if (!l.within || !type || !isTemporary(type) || !period || period.adjustment) return [];
        const away = l.documentDate !== null && isDate(l.documentDate) ? outside(l.documentDate, period) : 0;
        return away > days ? [{ line: l, away }] : [];
      });
      const worst = off.sort(
        (a, b) => b.away - a.away || ((a.line.documentDate as string) < (b.line.documentDate as string) ? -1 : 1),
      )[0];
      if (!worst || !e.within) return [];
      const amount = off.reduce((sum, { line }) => sum + line.amount, 0);
      return [
        {
          ...hitOf(e, bits(1 + worst.away / MONTH), {
            document: worst.line.documentDate,
            period: worst.line.period,
            away: worst.away,
          }),
          amount,
        },
      ];
    }),
  reason: ({ amount, parts }, say) =>
    `${say.money(amount)} of income or expense in ${say.period(num(parts.period))}, of a document dated ${say.day(told(parts.document))}, ${times(num(parts.away), 'day')} outside of it.`,
});

export const outOfOrder = ledgerTest({
  code: 'out-of-order',
  name: 'Date out of the order of numbers',
  group: 'Dates',
  looksFor:
    'Entries whose date is far from those of the entries numbered before and after them, both the same way. Where numbers are given one after the other, the date was mistyped or put back.',
  source: COMMON,
  looksAt: 'entries',
  params: { days: number('Days from both neighbours', 45, { least: 1 }) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { days }) => {
    const numbered = entriesOf(ledger).flatMap((e) => {
      const at = runningNumber(e.number);
      return at === null ? [] : [{ e, ...at }];
    });
    return [
      ...grouped(numbered, ({ e, beginning }) => `${e.entity}\n${beginning}\n${e.number.length}`).values(),
    ].flatMap((series) => {
      series.sort((a, b) => a.at - b.at);
      return series.flatMap(({ e }, i): Hit[] => {
        const [before, after] = [series[i - 1]?.e, series[i + 1]?.e];
        if (!e.within || !before || !after) return [];
        const [one, other] = [daysBetween(before.day, e.day), daysBetween(after.day, e.day)];
        const far = Math.min(Math.abs(one), Math.abs(other));
        if (Math.sign(one) !== Math.sign(other) || far <= days) return [];
        return [hitOf(e, bits(far / days), { day: e.day, before: before.number, after: after.number, far })];
      });
    });
  },
  reason: ({ parts }, say) =>
    `Dated ${say.day(told(parts.day))}, ${said(parts.far)} days from both ${told(parts.before)} and ${told(parts.after)}, the entries numbered before and after it.`,
});
