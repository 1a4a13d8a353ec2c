import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

/** What the yard does for others. */
export function* yard(books: Books, month: Month): Generator<DemoEntry> {
  for (let i = 0; i < 22; i++) {
    const customer = books.random.pick(YARD_CUSTOMERS);
    const net = books.random.whole(900_000, 24_000_000);
    const tax = Math.round(net * 0.25);
    const document = books.next('YI');
    yield {
      ...{
        entity: 'NHS',
        number: document,
        date: books.dayIn(month),
        journal: 'YI',
        description: `Slip and repair, ${customer[1]}`,
        postedBy: 'slip',
        counterparty: customer,
        document,
        documentType: 'invoice',
      },
      lines: [
        { account: '1312', amount: net + tax },
        {
          account: i % 3 === 0 ? '4610' : '4612',
          amount: -net,
          dims: { costcentre: books.random.pick(['YD-DOCK', 'YD-STEEL', 'YD-ENG']) },
          tax: ['S25', tax],
        },
        { account: '2310', amount: -tax },
      ],
    };
    if (i % 2 === 0) {
      yield {
        ...books.supplier('NHS', books.dayIn(month), ['S-STEEL', 'Nordholm Stål'], 'Plate and sections'),
        lines: books.withTax(i % 4 === 0 ? '6512' : '6513', Math.round(net * 0.31), '2110', { costcentre: 'YD-STEEL' }),
      };
    }
  }
  const received = books.random.around(180_000_000, 0.1);
  yield {
    ...{
      entity: 'NHS',
      number: books.next('BR-NHS'),
      date: month.last,
      journal: 'BR',
      description: 'Customers paid',
      postedBy: 'bank',
    },
    lines: [
      { account: '1523', amount: received },
      { account: '1312', amount: -received },
    ],
  };
}

const YARD_CUSTOMERS: [string, string][] = [
  ['Y-301', 'Fjellvik Havbruk'],
  ['Y-302', 'Kystlos Nord'],
  ['Y-303', 'Asta Rederi'],
  ['Y-304', 'Holmen Fiske'],
  ['Y-305', 'Skøyta Vest'],
];
