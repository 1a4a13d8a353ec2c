import { addDays } from '@/core/dates';
import { allot } from '@/core/money';
import { ROUTES } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

/** Berthing dues between the ferries and the terminals; one month's charge is in two different periods (story 8). */
export function* harbours(books: Books, month: Month): Generator<DemoEntry> {
  const dues = 14_600_000 + month.month * 110_000;
  const late = month.year === 2026 && month.month === 3;
  const document = `HD-${month.year}-${String(month.month).padStart(2, '0')}`;
  yield {
    ...{
      entity: 'STL',
      number: books.next('GI-STL'),
      date: month.last,
      journal: 'GI',
      description: `Berthing dues ${document}`,
      postedBy: 'terminals',
      document,
      documentType: 'invoice',
    },
    ...(late ? { period: [13, 2026] as [number, number], kind: 'adjustment' as const } : {}),
    lines: [
      { account: '1321', amount: dues, dims: { partner: 'KSF' } },
      { account: '4511', amount: -dues, dims: { partner: 'KSF' } },
    ],
  };
  for (const [i, part] of allot(
    dues,
    ROUTES.map((r) => r.fares),
  ).entries()) {
    const route = ROUTES[i] as (typeof ROUTES)[number];
    const date = late ? '2026-04-14' : month.last;
    yield {
      ...{
        entity: 'KSF',
        number: books.next('GP'),
        date,
        journal: 'GP',
        description: `Harbour dues ${document}, ${route.name}`,
        postedBy: 'mhald',
        document,
        documentType: 'invoice',
      },
      ...{ counterparty: ['STL', 'Sound Terminals Ltd'] as [string, string] },
      lines: [
        { account: '6410', amount: part, dims: { route: route.code, vessel: route.vessel, partner: 'STL' } },
        { account: '2120', amount: -part, dims: { partner: 'STL' } },
      ],
    };
  }
  const paid = addDays(month.first, 19);
  yield {
    ...{
      entity: 'KSF',
      number: books.next('BP'),
      date: paid,
      journal: 'BP',
      description: 'Paid Sound Terminals',
      postedBy: 'bank',
    },
    lines: [
      { account: '2120', amount: dues - 110_000, dims: { partner: 'STL' } },
      { account: '1520', amount: -(dues - 110_000) },
    ],
  };
  yield {
    ...{
      entity: 'STL',
      number: books.next('BR-STL'),
      date: paid,
      journal: 'BR',
      description: 'Received from Kestrel Sound Ferries',
      postedBy: 'bank',
    },
    lines: [
      { account: '1520', amount: dues - 110_000 },
      { account: '1321', amount: -(dues - 110_000), dims: { partner: 'KSF' } },
    ],
  };
  for (let i = 0; i < 12; i++) {
    const visitor = books.random.pick(VISITORS);
    const amount = books.random.whole(38_000, 420_000);
    yield {
      ...{
        entity: 'STL',
        number: books.next('TI'),
        date: books.dayIn(month),
        journal: 'TI',
        description: `Berth, ${visitor[1]}`,
        postedBy: 'terminals',
        counterparty: visitor,
      },
      lines: [
        { account: '1313', amount },
        {
          account: i % 4 === 0 ? '4514' : i % 4 === 1 ? '4513' : '4510',
          amount: -amount,
          dims: { costcentre: 'TRM-HAR' },
        },
      ],
    };
  }
}

const VISITORS: [string, string][] = [
  ['V-201', 'Yacht Pilgrim'],
  ['V-202', 'Trawler Asta'],
  ['V-203', 'Research ship Orla'],
  ['V-204', 'Barge Simmer'],
  ['V-205', 'Cruise tender pool'],
];
