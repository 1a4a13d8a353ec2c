import { addDays } from '@/core/dates';
import { allot } from '@/core/money';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

/** Lifeline grants come by the quarter and are released by the month. */
export function* grants(books: Books, month: Month): Generator<DemoEntry> {
  const quarterly: [string, number][] = [
    ['G-BRE', 96_000_000],
    ['G-TOL', 71_000_000],
    ['G-LIN', 64_000_000],
    ['G-SKA', 82_000_000],
  ];
  for (const [fund, amount] of quarterly) {
    if (month.month % 3 === 1) {
      yield {
        ...{
          entity: 'KSF',
          number: books.next('GR'),
          date: addDays(month.first, 4),
          journal: 'GR',
          description: `Grant received ${fund}`,
          postedBy: 'ihallam',
        },
        ...{
          counterparty: ['C-ISL', 'Island Transport Board'] as [string, string],
          document: `ITB-${month.year}-${month.month}-${fund}`,
          documentType: 'grant letter',
        },
        lines: [
          { account: '1521', amount },
          { account: '2221', amount: -amount, dims: { fund } },
        ],
      };
    }
    // One quarter of one grant was released to the wrong fund (story 2).
    const misplaced = fund === 'G-LIN' && month.first >= '2026-04-01' && month.first <= '2026-06-01';
    const [release] = allot(amount, [1, 1, 1]) as [number];
    yield {
      ...{
        entity: 'KSF',
        number: books.next('GR'),
        date: month.last,
        journal: 'GR',
        description: `Grant released ${fund}`,
        postedBy: 'ihallam',
      },
      lines: [
        { account: '2221', amount: release, dims: { fund } },
        { account: '4310', amount: -release, dims: { fund: misplaced ? 'UNR' : fund } },
      ],
    };
  }
  yield {
    ...{
      entity: 'KSF',
      number: books.next('GR'),
      date: month.last,
      journal: 'GR',
      description: 'Community fund, school travel',
      postedBy: 'ihallam',
    },
    lines: [
      { account: '1521', amount: 650_000 },
      { account: '4311', amount: -650_000, dims: { fund: 'COMM' } },
    ],
  };
}
