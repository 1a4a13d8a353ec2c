import { jumpsAmong, numberAt, RUNNING_DIGITS } from '../entryNumbers';
import { grouped } from './looked';
import { bits, COMMON, type Hit, ledgerTest, num, number, times, told } from './test';

/** Numbers that count up. */

const RUNNING = new RegExp(`[0-9]{1,${RUNNING_DIGITS}}$`);

/** What a number begins with and where it stands in its series; null of one that does not end in digits. */
export function runningNumber(text: string): { beginning: string; at: number } | null {
  const digits = text.match(RUNNING)?.[0];
  return digits === undefined ? null : { beginning: text.slice(0, text.length - digits.length), at: Number(digits) };
}

/** A series shorter than this is none. */
export const SERIES_LEAST = 10;

/** Numbers with more gaps among them than one in twenty, and more than a few, were never given out one after the other. */
export const gapsMost = (count: number): number => Math.max(3, Math.floor(count / 20));

export const gaps = ledgerTest({
  code: 'gaps',
  name: 'Numbers missing in a series',
  group: 'Booked twice or missing',
  looksFor:
    'Numbers of entries and of invoices that nothing bears, between others that count up. Something was taken away, never booked, or booked elsewhere.',
  source: COMMON,
  looksAt: 'numbers',
  params: { numbers: number('Numbers that a series has at the least', SERIES_LEAST, { least: 3, most: 1_000_000 }) },
  at: ['other', 'series'],
  behind: [],
  needs: ['whole entries'],
  plain: (ledger, { numbers: least }) => {
    const within = ledger.lines.filter((l) => l.within && l.kind !== 'opening');
    const of = {
      entries: within.map((l) => ({ entity: l.entity, number: l.entry })),
      invoices: within.flatMap((l) =>
        l.document !== null && l.documentType === 'invoice' ? [{ entity: l.entity, number: l.document }] : [],
      ),
    };
    return Object.entries(of).flatMap(([other, all]) => {
      const distinct = [...new Map(all.map((n) => [`${n.entity}\n${n.number}`, n])).values()];
      const running = distinct.flatMap((n) => {
        const at = runningNumber(n.number);
        return at === null ? [] : [{ ...n, ...at }];
      });
      const series = grouped(running, (n) => `${n.entity}\n${n.beginning}\n${n.number.length}`);
      return [...series.values()].flatMap((own): Hit[] => {
        const places = own.map((n) => n.at).sort((a, b) => a - b);
        const [{ entity, beginning, number: one }] = own as [(typeof own)[number]];
        if (places.length < least) return [];
        const missing = places.flatMap((at, i) => {
          const last = places[i - 1];
          return last === undefined || at === last + 1 ? [] : [{ from: last + 1, to: at - 1, before: i }];
        });
        if (missing.length > gapsMost(places.length)) return [];
        return gapHits({ entity, other, beginning, length: one.length, count: places.length }, missing);
      });
    });
  },
  reason: ({ parts }) =>
    `${num(parts.missing) === 1 ? `Number ${told(parts.first)} is` : `Numbers ${told(parts.first)} to ${told(parts.last)} are`} missing among ${times(num(parts.count), 'number')} of ${told(parts.of)} that begin with ${told(parts.beginning)}.`,
});

/** What is missing in one series, told apart from where it goes on in another block. */
export function gapHits(
  series: { entity: string; other: string; beginning: string; length: number; count: number },
  missing: readonly { from: number; to: number; before: number }[],
): Hit[] {
  const { entity, other, beginning, count } = series;
  return jumpsAmong(missing, count).gaps.map(({ from, to }) => ({
    entity,
    at: { other, series: numberAt(series, from) },
    degree: bits(1 + count / (to - from + 1)) / 2,
    amount: 0,
    parts: {
      ...{ of: other, beginning, first: numberAt(series, from), last: numberAt(series, to) },
      ...{ missing: to - from + 1, count },
    },
  }));
}
