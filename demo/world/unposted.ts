import type { DemoEntry, DemoLine } from '../entry';
import type { Books } from './books';

/** A few entries of September that wait to be posted. */
export function* unposted(books: Books): Generator<DemoEntry> {
  const waiting: [string, string, DemoLine[]][] = [
    [
      '2026-09-28',
      'Crew overtime September',
      [
        { account: '7011', amount: 2_180_000, dims: { costcentre: 'DECK' } },
        { account: '2313', amount: -2_180_000 },
      ],
    ],
    [
      '2026-09-29',
      'Marketing, autumn sailings',
      [
        { account: '8217', amount: 940_000, dims: { costcentre: 'COM-MKT' } },
        { account: '2110', amount: -940_000 },
      ],
    ],
    [
      '2026-09-30',
      'Doubtful freight debts',
      [
        { account: '8219', amount: 1_460_000, dims: { costcentre: 'ADM-FIN' } },
        { account: '1314', amount: -1_460_000 },
      ],
    ],
  ];
  for (const [date, description, lines] of waiting)
    yield { ...books.manual('KSF', date, description, lines), status: 'unposted' };
}
