import { addDays } from '@/core/dates';
import { VESSELS } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import { DRY_DOCK, type Month } from './time';

/** Every vessel bunkers about weekly; the price swings. */
export function* fuel(books: Books, month: Month): Generator<DemoEntry> {
  const price = 62 + 9 * Math.sin((month.year * 12 + month.month) / 4.1) + (month.year - 2024) * 2;
  for (const vessel of VESSELS) {
    for (let week = 0; week < 4; week++) {
      const date = addDays(month.first, week * 7 + books.random.whole(0, 5));
      if (vessel === 'MAREN' && date >= DRY_DOCK.from && date <= DRY_DOCK.to) continue;
      const litres = books.random.whole(9_000, 24_000) * (vessel === 'MAREN' || vessel === 'SOLAN' ? 2 : 1);
      yield bunkering(books, date, vessel, litres, Math.round(litres * price));
    }
    yield {
      ...books.supplier(
        'KSF',
        addDays(month.first, 9),
        ['S-LUB', 'Harrow Lubricants'],
        `Lubricants ${vessel.toLowerCase()}`,
      ),
      lines: books.withTax('6220', books.random.around(98_000, 0.4), '2110', {
        vessel,
        costcentre: `EN-${vessel.slice(0, 3)}`,
      }),
    };
  }
}

function bunkering(books: Books, date: string, vessel: string, litres: number, net: number): DemoEntry {
  const lines = books.withTax('6210', net, '2111', { vessel, costcentre: `EN-${vessel.slice(0, 3)}` });
  return {
    ...books.supplier(
      'KSF',
      date,
      ['S-BUNK', 'Sound Bunkering'],
      `Bunkering ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()}, ${litres} litres`,
    ),
    lines: lines.map((l) => (l.account === '6210' ? { ...l, quantity: [litres, 'l'] as [number, string] } : l)),
  };
}
