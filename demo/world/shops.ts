import type { DemoEntry } from '../entry';
import type { Books } from './books';
import { SEASON } from './time';

/** Terminal shops, by day and terminal; the till is counted every evening. */
export function* shops(books: Books, day: string): Generator<DemoEntry> {
  const terminals = [
    ['1530', 'TRM-HAR', 'Harrowick', 168_000],
    ['1531', 'TRM-BRE', 'Brenna', 61_000],
    ['1532', 'TRM-TOL', 'Tolsey', 47_000],
    ['1533', 'TRM-LIN', 'Lindra', 32_000],
  ] as const;
  const season = SEASON[Number(day.slice(5, 7)) - 1] as number;
  for (const [till, costcentre, terminal, middle] of terminals) {
    const sales = books.random.around(middle * season, 0.3);
    const tax = Math.round(sales / 6);
    yield {
      ...{
        entity: 'STL',
        number: books.next('SH'),
        date: day,
        journal: 'SH',
        description: `Shop sales, terminal ${terminal}`,
        postedBy: 'tills',
      },
      lines: [
        { account: till, amount: sales },
        { account: '4512', amount: -(sales - tax), dims: { costcentre }, tax: ['S20', tax] },
        { account: '2310', amount: -tax },
      ],
    };
  }
}
