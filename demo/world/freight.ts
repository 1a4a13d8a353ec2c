import { addDays } from '@/core/dates';
import { ROUTES } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import { LAST_DAY, type Month, SEASON } from './time';

export function* freight(books: Books, month: Month): Generator<DemoEntry> {
  const season = (SEASON[month.month - 1] as number) * 0.5 + 0.5;
  for (let i = 0; i < 46; i++) {
    const customer = books.random.pick(FREIGHT_CUSTOMERS);
    const route = books.random.pick(ROUTES.slice(0, 5));
    const date = books.dayIn(month);
    const net = books.random.around(310_000 * season, 0.7);
    const surcharge = Math.round(net * 0.06);
    const tax = Math.round((net + surcharge) * 0.2);
    const onSurcharge = Math.round(surcharge * 0.2);
    const number = books.next('FI');
    // A number that was given out and never booked (story 11).
    const document = number === 'FI-00871' ? books.next('FI') : number;
    const dims = { route: route.code, vessel: route.vessel };
    yield {
      ...{
        entity: 'KSF',
        number: document,
        date,
        journal: 'FI',
        description: `Freight, ${customer[1]}`,
        postedBy: 'mhald',
        counterparty: customer,
      },
      ...{ document, documentType: 'invoice', documentDate: date, dueDate: addDays(date, 30) },
      lines: [
        { account: '1310', amount: net + surcharge + tax },
        { account: i % 9 === 0 ? '4212' : '4210', amount: -net, dims, tax: ['S20', tax - onSurcharge] },
        { account: '4213', amount: -surcharge, dims, tax: ['S20', onSurcharge] },
        { account: '2310', amount: -tax },
      ],
    };
    const paid = addDays(date, books.random.whole(18, 55));
    if (paid > LAST_DAY) continue;
    yield {
      ...{
        entity: 'KSF',
        number: books.next('BR'),
        date: paid,
        journal: 'BR',
        description: `Received from ${customer[1]}`,
        postedBy: 'bank',
        counterparty: customer,
      },
      ...{ document, documentType: 'payment' },
      lines: [
        { account: '1520', amount: net + surcharge + tax },
        { account: '1310', amount: -(net + surcharge + tax) },
      ],
    };
  }
}

const FREIGHT_CUSTOMERS: [string, string][] = [
  ['C-101', 'Brenna Farmers'],
  ['C-102', 'Tolsey Shellfish'],
  ['C-103', 'Lindra Stores'],
  ['C-104', 'Marrok Timber'],
  ['C-105', 'Skarvoy Distillery'],
  ['C-106', 'Harrow Haulage'],
  ['C-107', 'Sound Builders'],
  ['C-108', 'Island Bakers'],
  ['C-109', 'Northfirth Parcels'],
  ['C-110', 'Hill and Shore Wool'],
];
