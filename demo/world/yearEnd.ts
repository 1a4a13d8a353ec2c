import type { DemoEntry, DemoLine } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

/** Adjustments of the year end are in period 13. */
export function* yearEnd(books: Books, month: Month): Generator<DemoEntry> {
  if (month.month !== 3) return;
  const adjust = (entity: DemoEntry['entity'], description: string, lines: DemoLine[]): DemoEntry => ({
    ...books.manual(entity, month.last, description, lines),
    ...{ period: [13, month.year] as [number, number], kind: 'adjustment' },
  });
  yield adjust('KSF', 'Audit fee of the year', [
    { account: '8216', amount: 4_200_000, dims: { costcentre: 'ADM-FIN' } },
    { account: '2193', amount: -4_200_000 },
  ]);
  yield adjust('KSF', 'Spares counted', [
    { account: '6310', amount: 1_140_000, dims: { vessel: 'POOL' } },
    { account: '1212', amount: -1_140_000 },
  ]);
  yield adjust('STL', 'Shop goods counted', [
    { account: '6511', amount: 312_000, dims: { costcentre: 'TRM-HAR' } },
    { account: '1213', amount: -312_000 },
  ]);
}
