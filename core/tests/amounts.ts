import type { Minor } from '../money';
import { digitsOf, EXPECTED_FIRST, firstDigit, measuresOf, NIGRINI_FIRST } from './benford';
import { entriesOf, grouped, hitOf, trunc2 } from './looked';
import { bits, type Hit, ISA_240, ledgerTest, money, num, number, said, times, told } from './test';

/** Amounts that are rounder, larger, or closer to a limit than amounts usually are. */

export const round = ledgerTest({
  code: 'round',
  name: 'Round amounts',
  group: 'Amounts',
  looksFor:
    'Entries with a line that is a multiple of a large round number, such as hardly any line of this ledger is. What was measured or billed is seldom round; what was estimated, or made up, is.',
  source: ISA_240,
  looksAt: 'entries',
  params: { multiple: money('Multiples of', (facts, entity) => facts.of(entity).round) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { multiple }) =>
    entriesOf(ledger).flatMap((e) => {
      const of = Math.max(1, multiple(e.entity));
      const largest = Math.max(
        0,
        ...e.lines.filter((l) => l.within && l.amount % of === 0).map((l) => Math.abs(l.amount)),
      );
      if (!e.within || largest === 0) return [];
      return [{ ...hitOf(e, zeros(largest / of) * 2, { amount: largest }), amount: largest }];
    }),
  reason: ({ parts }, say) => `A line of exactly ${say.money(num(parts.amount))}.`,
});

/** How many noughts a whole number ends with. */
const zeros = (n: number): number => String(n).match(/0*$/)?.[0].length ?? 0;

export const underLimit = ledgerTest({
  code: 'under-limit',
  name: 'Just under a limit',
  group: 'Amounts',
  looksFor:
    'Entries whose total lies just under the limit from which somebody else has to approve. The limit that is proposed is the round number under which most more entries lie than over it.',
  source: ISA_240,
  looksAt: 'entries',
  params: {
    limit: money('Limit', (facts, entity) => facts.of(entity).limit),
    percent: number('Percent below it', 5, { least: 1, most: 50 }),
  },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { limit, percent }) =>
    entriesOf(ledger).flatMap((e) => {
      const of = limit(e.entity);
      if (!e.within || of === 0 || e.total >= of || e.total * 100 < of * (100 - percent)) return [];
      return [
        hitOf(e, bits((of * percent) / 100 / (of - e.total)), { limit: of, below: of - e.total, party: e.party }),
      ];
    }),
  reason: ({ amount, parts }, say) =>
    `${say.money(amount)} is ${say.money(num(parts.below))} under the limit of ${say.money(num(parts.limit))}${parts.party === null ? '' : `; ${say.party(told(parts.party))}`}.`,
});

export const large = ledgerTest({
  code: 'large',
  name: 'Above materiality',
  group: 'Amounts',
  looksFor:
    'Entries whose total alone is above what is material. What is proposed is what was said of the company and year, else one percent of a year’s income or expense, whichever is greater.',
  source: 'ISA 320.A8, benchmarks; the percentage is common practice',
  looksAt: 'entries',
  params: {
    from: money(
      'Entries from',
      (facts, entity) => facts.of(entity).material ?? Math.trunc(facts.of(entity).turnover / 100),
    ),
  },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { from }) =>
    entriesOf(ledger).flatMap((e) => {
      const least = Math.max(1, from(e.entity));
      return e.within && e.total >= least ? [hitOf(e, bits(e.total / least), { least })] : [];
    }),
  reason: ({ amount, parts }, say) => `${say.money(amount)} in one entry, above ${say.money(num(parts.least))}.`,
});

export const benford = ledgerTest({
  code: 'first-digits',
  name: 'First digits that do not come as they should',
  group: 'Amounts',
  looksFor:
    'Accounts whose amounts begin with some digits more often than amounts of many sizes do (Benford’s law: a digit d with the share log10(1 + 1/d)). Prices that repeat explain it; so do amounts that somebody made up or kept under a limit.',
  source: 'M. Nigrini, Benford’s Law (Wiley, 2012), from memory: bands of the mean absolute deviation of first digits',
  looksAt: 'accounts',
  params: {
    lines: number('Lines on the account, at the least', 300, { least: 30, most: 10_000_000 }),
    deviation: number('Mean absolute deviation above, in thousandths', NIGRINI_FIRST.marginal * 1_000, {
      least: 1,
      most: 100,
    }),
  },
  at: ['account'],
  behind: ['account'],
  plain: (ledger, { lines: least, deviation }) => {
    const own = ledger.lines.filter((l) => l.within && l.amount !== 0 && l.kind !== 'opening');
    return [...grouped(own, (l) => `${l.entity}\n${l.account}`).values()].flatMap((lines): Hit[] => {
      const [{ entity, account }] = lines as [(typeof lines)[number]];
      const counts = digitsOf(
        lines.map((l) => firstDigit(l.amount)),
        1,
      );
      return benfordHit(
        { entity, account, counts, amount: lines.reduce((sum, l) => sum + l.amount, 0) },
        least,
        deviation,
      );
    });
  },
  reason: ({ at, parts }, say) =>
    `Of ${times(num(parts.lines), 'amount')} on ${say.account(told(at.account))} ${said(parts.share)} % begin with ${said(parts.digit)}, where ${said(parts.expected)} % would; mean absolute deviation ${told(parts.deviation)}, chi-square ${said(parts.chiSquare)}.`,
});

/** What the counts of first digits of an account tell, where they are far enough from what is expected. */
export function benfordHit(
  of: { entity: string; account: string; counts: readonly number[]; amount: Minor },
  least: number,
  deviation: number,
): Hit[] {
  const { total, mad, chiSquare } = measuresOf(of.counts, EXPECTED_FIRST);
  if (total < least || mad * 1_000 <= deviation) return [];
  const excess = of.counts.map((count, i) => count / total - (EXPECTED_FIRST[i] as number));
  const at = excess.indexOf(Math.max(...excess));
  const percent = (share: number): number => Math.trunc(share * 1_000) / 10;
  return [
    {
      ...{ entity: of.entity, at: { account: of.account }, degree: bits((mad * 1_000) / deviation), amount: of.amount },
      parts: {
        ...{ lines: total, digit: at + 1, share: percent((of.counts[at] as number) / total) },
        ...{ expected: percent(EXPECTED_FIRST[at] as number), deviation: mad.toFixed(4), chiSquare: trunc2(chiSquare) },
      },
    },
  ];
}
