import { addDays } from '@/core/dates';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import { LAST_DAY, type Month } from './time';

export function* office(books: Books, month: Month): Generator<DemoEntry> {
  const monthly: [DemoEntry['entity'], string, number, string, string, string][] = [
    ['KSF', '8210', 640_000, 'ADM-IT', 'S-SOFT', 'Ticketing licences'],
    ['KSF', '8211', 210_000, 'ADM-IT', 'S-TEL', 'Radio and telephones'],
    ['KSF', '8212', 84_000, 'ADM-FIN', 'S-POST', 'Stationery and post'],
    ['KSF', '8217', 720_000, 'COM-MKT', 'S-MKT', 'Island summer campaign'],
    ['KSF', '8213', 980_000, 'COM-TKT', 'S-CARD', 'Card charges'],
    ['KSF', '8218', 96_000, 'ADM-MD', 'S-TRV', 'Travel of the direction'],
    ['KSF', '7040', 610_000, 'DECK', 'S-CAT', 'Crew food'],
    ['KSF', '7310', 240_000, 'ADM-SAF', 'S-TRN', 'Safety training'],
    ['KSF', '7320', 88_000, 'ADM-HR', 'S-CLO', 'Work clothes'],
    ['KSF', '6510', 1_840_000, 'COM-CAF', 'S-CAF', 'Café goods'],
    ['STL', '6610', 740_000, 'TRM-HAR', 'S-POW', 'Power and heat'],
    ['STL', '6612', 310_000, 'TRM-HAR', 'S-CLN', 'Cleaning'],
    ['STL', '6614', 205_000, 'TRM-HAR', 'S-SEC', 'Night watch'],
    ['STL', '6611', 420_000, 'TRM-BRE', 'S-BLD', 'Roof and doors'],
    ['STL', '6511', 2_210_000, 'TRM-HAR', 'S-SHP', 'Shop goods'],
    ['NHS', '6610', 8_900_000, 'YD-DOCK', 'S-POW', 'Power of the slip'],
    ['NHS', '7310', 1_250_000, 'YD-STEEL', 'S-TRN', 'Welding certificates'],
  ];
  for (const [entity, account, middle, costcentre, code, name] of monthly) {
    for (let i = 0; i < 2; i++) {
      yield {
        ...books.supplier(entity, books.dayIn(month), [code, name], name),
        ...(code === 'S-TRV' ? { documentType: 'expense claim' } : {}),
        lines: books.withTax(account, books.random.around(middle / 2, 0.3), '2110', { costcentre }),
      };
    }
  }
  // Hull insurance is paid for a year each October and released by the month; once it was released twice (story 3).
  if (month.month === 10) {
    yield {
      ...books.supplier('KSF', addDays(month.first, 2), ['S-INS', 'Sound Mutual Hull'], 'Hull insurance for a year'),
      lines: [
        { account: '1410', amount: 187_200_000 },
        { account: '2110', amount: -187_200_000 },
      ],
    };
  }
  yield books.manual('KSF', month.last, 'Hull insurance released', [
    { account: '8110', amount: 15_600_000 },
    { account: '1410', amount: -15_600_000 },
  ]);
  yield books.manual('KSF', month.last, 'Lease of booking office', [
    { account: '8313', amount: 410_000 },
    { account: '2412', amount: -410_000 },
  ]);
  const accrued = books.random.around(3_200_000, 0.4);
  const accrual = books.manual('KSF', month.last, 'Accrual, invoices to come', [
    { account: '6310', amount: accrued, dims: { vessel: 'POOL' } },
    { account: '2190', amount: -accrued },
  ]);
  yield accrual;
  const next = addDays(month.last, 1);
  if (next <= LAST_DAY) {
    yield {
      ...books.manual('KSF', next, `Reversal of ${accrual.number}`, [
        { account: '2190', amount: accrued },
        { account: '6310', amount: -accrued, dims: { vessel: 'POOL' } },
      ]),
      ...{ kind: 'reversal', reversalOf: accrual.number },
    };
  }
}
