import { yearOf } from '../calendar';
import { isTemporary } from '../ledger';
import { type Month, monthsOf } from './looked';
import { bits, COMMON, type Hit, type LedgerTested, ledgerTest, money, num, said, times, told, words } from './test';

/** Balances that an account of its kind does not usually have. */

interface Standing {
  entity: string;
  account: string;
  /** What the account stands at when the window ends. */
  balance: number;
  /** What it stood at after each period in which anything was booked, since it last began at nothing. */
  stood: readonly number[];
}

/** What each account stands at: income and expense since the year of the window's end began, others since ever. */
function standings(ledger: LedgerTested): Standing[] {
  return [...monthsOf(ledger, true).values()].flatMap((months) => {
    const { entity, account } = months[0] as Month;
    const books = ledger.books.get(entity);
    const known = books?.chart.find((a) => a.code === account);
    if (!books || !known || account === books.retainedEarnings) return [];
    const end = ledger.end(entity);
    const own = isTemporary(known.type) ? months.filter((m) => yearOf(m.period) === yearOf(end)) : months;
    const stood: number[] = [];
    let balance = 0;
    for (const { amount } of own) {
      balance += amount;
      stood.push(balance);
    }
    return own.length === 0 ? [] : [{ entity, account, balance, stood }];
  });
}

export const wrongSide = ledgerTest({
  code: 'wrong-side',
  name: 'Balance on the wrong side',
  group: 'Balances',
  looksFor:
    'Accounts that end the window with a credit balance where their kind has a debit balance, or the other way. Something was released, paid or cleared more often than it was booked, or booked to the wrong account.',
  source: COMMON,
  looksAt: 'accounts',
  params: { least: money('Balances from', (facts, entity) => facts.of(entity).typical) },
  at: ['account'],
  behind: ['account'],
  plain: (ledger, { least }) =>
    standings(ledger).flatMap(({ entity, account, balance, stood }): Hit[] => {
      const normal = ledger.books.get(entity)?.chart.find((a) => a.code === account)?.normal;
      const sign = normal === 'credit' ? -1 : 1;
      if (balance * sign >= 0 || Math.abs(balance) < Math.max(1, least(entity))) return [];
      const right = stood.filter((s) => s * sign > 0).length;
      const wrong = stood.filter((s) => s * sign < 0).length;
      return [
        {
          ...{ entity, at: { account }, degree: bits(1 + right / wrong), amount: balance },
          parts: { right, wrong },
        },
      ];
    }),
  reason: ({ at, amount, parts }, say) =>
    `${say.account(told(at.account))} ends with ${amount < 0 ? 'a credit' : 'a debit'} balance of ${say.money(Math.abs(amount))}; after ${times(num(parts.right), 'period')} with postings it stood on its usual side, after ${said(parts.wrong)} on this one.`,
});

/** What clears what is in no other place yet, by the words of its name. */
const CLEARING = ['suspense', 'clearing', 'differences', 'unallocated', 'unexplained', 'in transit', 'to be sorted'];

export const suspense = ledgerTest({
  code: 'suspense',
  name: 'Suspense and clearing accounts not at nothing',
  group: 'Balances',
  looksFor:
    'Accounts whose name, group or classification says that they only hold what is yet to be cleared, and that do not end at nothing. What is left there belongs somewhere else.',
  source: COMMON,
  looksAt: 'accounts',
  params: { words: words('Words in their name, group or classification', CLEARING) },
  at: ['account'],
  behind: ['account'],
  plain: (ledger, { words: named }) =>
    standings(ledger).flatMap(({ entity, account, balance, stood }): Hit[] => {
      const known = ledger.books.get(entity)?.chart.find((a) => a.code === account);
      if (!known || balance === 0) return [];
      const text = [known.name, ...known.groups, known.classification ?? ''].join('\n').toLowerCase();
      if (!named.some((word) => text.includes(word.toLowerCase()))) return [];
      const periods = stood.filter((s) => s !== 0).length;
      return [{ ...{ entity, at: { account }, degree: bits(1 + periods), amount: balance }, parts: { periods } }];
    }),
  reason: ({ at, amount, parts }, say) =>
    `${say.account(told(at.account))} still holds ${say.money(amount)}; it was not at nothing after ${times(num(parts.periods), 'period')} with postings.`,
});

export const inactive = ledgerTest({
  code: 'inactive-account',
  name: 'Posted to an account that is closed to postings',
  group: 'Balances',
  looksFor:
    'Accounts that the chart calls inactive or suspended, with lines in the window. They were closed because nothing more was to come.',
  source: COMMON,
  looksAt: 'accounts',
  params: {},
  at: ['account'],
  behind: ['account'],
  plain: (ledger) =>
    [...monthsOf(ledger, false).values()].flatMap((months): Hit[] => {
      const { entity, account } = months[0] as Month;
      const status = ledger.books.get(entity)?.chart.find((a) => a.code === account)?.status ?? 'active';
      const within = ledger.lines.filter((l) => l.within && l.entity === entity && l.account === account);
      if (status === 'active' || within.length === 0) return [];
      const amount = within.reduce((sum, l) => sum + l.amount, 0);
      return [{ ...{ entity, at: { account }, degree: 2, amount }, parts: { status, lines: within.length } }];
    }),
  reason: ({ at, amount, parts }, say) =>
    `${say.account(told(at.account))} is ${told(parts.status)}, and has ${times(num(parts.lines), 'line')} in the window that come to ${say.money(amount)}.`,
});
