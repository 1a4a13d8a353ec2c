import { addDays } from '@/core/dates';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import { LAST_DAY, type Month, SEASON } from './time';

/** Settlements, supplier payments, interest, and the month-end revaluation with its reversal. */
export function* bank(books: Books, month: Month): Generator<DemoEntry> {
  for (let day = addDays(month.first, 2); day <= month.last; day = addDays(day, 7)) {
    const amount = books.random.around(32_000_000 * (SEASON[month.month - 1] as number), 0.05);
    yield {
      ...{
        entity: 'KSF',
        number: books.next('BR'),
        date: day,
        journal: 'BR',
        description: 'Card settlement',
        postedBy: 'bank',
      },
      lines: [
        { account: '1520', amount: amount - Math.round(amount * 0.008) },
        { account: '8213', amount: Math.round(amount * 0.008), dims: { costcentre: 'COM-TKT' } },
        { account: '1510', amount: -amount },
      ],
    };
  }
  const payments: [DemoEntry['entity'], string, string, number][] = [
    ['KSF', '2110', '1520', 24_000_000],
    ['KSF', '2111', '1520', 41_000_000],
    ['STL', '2110', '1520', 5_400_000],
    ['NHS', '2110', '1523', 61_000_000],
  ];
  for (const [entity, account, bank, middle] of payments) {
    for (let i = 0; i < 4; i++) {
      const amount = books.random.around(middle / 4, 0.2);
      yield {
        ...{
          entity,
          number: books.next(`BP-${entity}`),
          date: books.dayIn(month),
          journal: 'BP',
          description: 'Supplier run',
          postedBy: 'bank',
        },
        lines: [
          { account, amount },
          { account: bank, amount: -amount },
        ],
      };
    }
  }
  yield books.manual(
    'KSF',
    month.last,
    'Interest on vessel loan',
    [
      { account: '8510', amount: 5_430_000 },
      { account: '1520', amount: -5_430_000 },
    ],
    'bank',
  );
  const difference = books.random.whole(-240_000, 240_000);
  const revaluation = {
    ...books.manual('KSF', month.last, 'Revaluation of kroner owed', [
      { account: '8512', amount: difference },
      { account: '2122', amount: -difference, dims: { partner: 'NHS' } },
    ]),
    kind: 'revaluation' as const,
  };
  yield revaluation;
  const next = addDays(month.last, 1);
  if (next <= LAST_DAY) {
    yield {
      ...books.manual('KSF', next, `Reversal of ${revaluation.number}`, [
        { account: '8512', amount: -difference },
        { account: '2122', amount: difference, dims: { partner: 'NHS' } },
      ]),
      kind: 'reversal',
      reversalOf: revaluation.number,
    };
  }
}
