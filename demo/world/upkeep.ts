import { addDays } from '@/core/dates';
import { VESSELS } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

export function* upkeep(books: Books, month: Month): Generator<DemoEntry> {
  for (const vessel of VESSELS) {
    for (let i = 0; i < 4; i++) {
      const net = books.random.whole(45_000, 1_050_000);
      yield {
        ...books.supplier(
          'KSF',
          books.dayIn(month),
          books.random.pick(WORKSHOPS),
          `${books.random.pick(REPAIRS)} ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()}`,
        ),
        lines: books.withTax('6310', net, '2110', { vessel, costcentre: `EN-${vessel.slice(0, 3)}` }),
      };
    }
    if (month.month === 3 || month.month === 9) {
      yield {
        ...books.supplier(
          'KSF',
          addDays(month.first, 11),
          ['S-CLASS', 'Sound Class Survey'],
          `Class survey ${vessel.toLowerCase()}`,
        ),
        lines: books.withTax('6330', books.random.around(620_000, 0.2), '2110', { vessel }),
      };
    }
    if (month.month === 11) {
      yield {
        ...books.supplier(
          'KSF',
          addDays(month.first, 17),
          ['S-SAFE', 'Hesp Safety'],
          `Life rafts serviced ${vessel.toLowerCase()}`,
        ),
        lines: books.withTax('6340', books.random.around(410_000, 0.2), '2110', { vessel }),
      };
    }
  }
  const stage = DOCKINGS[`${month.year}-${month.month}`];
  if (stage) yield* docking(books, month, ...stage);
}

/** A stage invoice of the group's yard, in kroner there and in pounds here. */
function* docking(books: Books, month: Month, vessel: string, pounds: number, stage: string): Generator<DemoEntry> {
  const kroner = Math.round(pounds * 13.4);
  const document = `NS-${books.next('NS').slice(3)}`;
  const date = addDays(month.first, 10);
  const dims = {
    vessel,
    project: `DD-${vessel.slice(0, 3)}-${month.year % 100}`,
    partner: 'NHS',
    costcentre: `DK-${vessel.slice(0, 3)}`,
  };
  const named = `${stage}, ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()} docking`;
  yield {
    ...{
      entity: 'NHS',
      number: books.next('GI-NHS'),
      date,
      journal: 'GI',
      description: named,
      postedBy: 'slip',
      document,
      documentType: 'invoice',
    },
    lines: [
      { account: '1321', amount: kroner, dims: { partner: 'KSF' } },
      { account: '4611', amount: -kroner, dims: { partner: 'KSF' } },
    ],
  };
  yield {
    ...books.supplier('KSF', date, ['NHS', 'Nordholm Slip AS'], named),
    ...{ document, documentType: 'invoice', documentDate: date },
    lines: [
      { account: '6320', amount: pounds, dims, currency: ['NOK', kroner] },
      { account: '2122', amount: -pounds, dims: { partner: 'NHS' }, currency: ['NOK', -kroner] },
    ],
  };
}

/** Year-month of a stage invoice: vessel, pounds in pence, stage. */
const DOCKINGS: Record<string, [string, number, string]> = {
  '2024-10': ['SOLAN', 18_200_000, 'Stage 1'],
  '2024-11': ['SOLAN', 24_400_000, 'Stage 2'],
  '2025-5': ['TERN', 12_900_000, 'Stage 1'],
  '2025-7': ['TERN', 31_800_000, 'Stage 2'],
  '2025-8': ['TERN', 29_400_000, 'Stage 3'],
  '2026-1': ['SKUA', 14_100_000, 'Stage 1'],
  '2026-5': ['MAREN', 13_660_000, 'Stage 1'],
  '2026-6': ['MAREN', 13_660_000, 'Stage 2'],
};

const WORKSHOPS: [string, string][] = [
  ['S-401', 'Harrowick Marine Works'],
  ['S-402', 'Tolsey Electrical'],
  ['S-403', 'Pump and Valve Services'],
  ['S-404', 'Sound Hydraulics'],
];

const REPAIRS = [
  'Pump overhaul',
  'Bow door seals',
  'Generator service',
  'Radar repair',
  'Hull painting',
  'Stabiliser parts',
  'Galley repair',
  'Ramp hydraulics',
];
