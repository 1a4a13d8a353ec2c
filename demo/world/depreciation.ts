import { allot } from '@/core/money';
import { VESSELS } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

export function* depreciation(books: Books, month: Month): Generator<DemoEntry> {
  for (const [i, part] of allot(21_400_000, [5, 4, 4, 3, 3, 2, 2]).entries()) {
    yield books.manual(
      'KSF',
      month.last,
      'Depreciation of vessels',
      [
        { account: '8310', amount: part, dims: { vessel: VESSELS[i] as string } },
        { account: '1111', amount: -part, dims: { vessel: VESSELS[i] as string } },
      ],
      'assets',
    );
  }
  yield books.manual(
    'KSF',
    month.last,
    'Depreciation of ticketing system',
    [
      { account: '8311', amount: 390_000 },
      { account: '1127', amount: -390_000 },
    ],
    'assets',
  );
  yield books.manual(
    'STL',
    month.last,
    'Depreciation of terminals',
    [
      { account: '8311', amount: 3_100_000 },
      { account: '1121', amount: -1_900_000 },
      { account: '1123', amount: -1_200_000 },
    ],
    'assets',
  );
  yield books.manual(
    'NHS',
    month.last,
    'Depreciation of slipway',
    [
      { account: '8311', amount: 17_500_000 },
      { account: '1129', amount: -17_500_000 },
    ],
    'assets',
  );
}
