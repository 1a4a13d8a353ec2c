import type { DemoEntry, DemoLine } from './entry';

/** The planted stories that are single entries; the others are part of the world's own running (world.ts). */
export function* stories(): Generator<DemoEntry> {
  yield* stageInvoiceTwice();
  yield insuranceReleasedOnceMore();
  yield fuelInDryDock();
  yield* tillDifferences();
  yield* weekendEntry();
  yield typedYear();
  yield creditNoteWithoutInvoice();
  yield dormantAccount();
}

/** Story 1: the third stage of Maren's docking is booked twice; the second copy sits on another project. */
function* stageInvoiceTwice(): Generator<DemoEntry> {
  const copies = [
    {
      number: 'PI-KSF-90631',
      date: '2026-07-03',
      document: 'NS-20631',
      project: 'DD-MAR-26',
      description: 'Stage 3 and steel, Maren docking',
    },
    {
      number: 'PI-KSF-90639',
      date: '2026-07-06',
      document: 'NS-2063I',
      project: 'LINK-BRE',
      description: 'Stage 3 and steel',
    },
  ];
  for (const { number, date, document, project, description } of copies) {
    const dims = { vessel: 'MAREN', project, partner: 'NHS', costcentre: 'DK-MAR' };
    yield {
      ...invoice(number, date, description, ['NHS', 'Nordholm Slip AS'], document),
      lines: [
        { account: '6320', amount: 41_020_000, dims, currency: ['NOK', 549_668_000] },
        { account: '2122', amount: -41_020_000, dims: { partner: 'NHS' }, currency: ['NOK', -549_668_000] },
      ],
    };
  }
  yield {
    entity: 'NHS',
    number: 'GI-NHS-90631',
    date: '2026-07-03',
    journal: 'GI',
    description: 'Stage 3 and steel, Maren docking',
    postedBy: 'slip',
    document: 'NS-20631',
    documentType: 'invoice',
    lines: [
      { account: '1321', amount: 549_668_000, dims: { partner: 'KSF' } },
      { account: '4611', amount: -549_668_000, dims: { partner: 'KSF' } },
    ],
  };
}

/** Story 3: in a policy year of twelve months the insurance was released a thirteenth time; the prepayment ends in credit. */
const insuranceReleasedOnceMore = (): DemoEntry =>
  manual('KSF', 'JE-KSF-90110', '2026-08-31', 'Hull insurance released', [
    { account: '8110', amount: 15_600_000 },
    { account: '1410', amount: -15_600_000 },
  ]);

/** Story 4: fuel for Maren in a week in which she was in dry dock. */
function fuelInDryDock(): DemoEntry {
  const dims = { vessel: 'MAREN', costcentre: 'EN-MAR' };
  return {
    ...invoice(
      'PI-KSF-90702',
      '2026-07-08',
      'Bunkering Maren, 38000 litres',
      ['S-BUNK', 'Sound Bunkering'],
      'SB-77120',
    ),
    lines: [
      { account: '6210', amount: 2_546_000, dims, quantity: [38_000, 'l'], tax: ['P20', 509_200] },
      { account: '1331', amount: 509_200 },
      { account: '2111', amount: -3_055_200 },
    ],
  };
}

/** Story 5: seven small round till differences at one terminal, all on the same cashier's days. */
function* tillDifferences(): Generator<DemoEntry> {
  const days = ['2026-06-05', '2026-06-19', '2026-07-03', '2026-07-17', '2026-08-07', '2026-08-21', '2026-09-04'];
  for (const [i, date] of days.entries()) {
    const amount = [2_000, 4_000, 2_000, 6_000, 2_000, 4_000, 2_000][i] as number;
    yield {
      ...manual('STL', `JE-STL-9050${i + 1}`, date, 'Till difference Tolsey', [
        { account: '2990', amount, dims: { costcentre: 'TRM-TOL' } },
        { account: '1532', amount: -amount },
      ]),
      postedBy: 'cashier07',
    };
  }
}

/** Story 6: a large round entry on a Saturday by a user who seldom posts, reversed early in the next period. */
function* weekendEntry(): Generator<DemoEntry> {
  yield {
    ...manual('KSF', 'JE-KSF-90606', '2026-08-29', 'Charter income, season adjustment', [
      { account: '1311', amount: 25_000_000 },
      { account: '4410', amount: -25_000_000 },
    ]),
    postedBy: 'rquill',
  };
  yield {
    ...manual('KSF', 'JE-KSF-90607', '2026-09-02', 'Reversal of JE-KSF-90606', [
      { account: '1311', amount: -25_000_000 },
      { account: '4410', amount: 25_000_000 },
    ]),
    postedBy: 'rquill',
    kind: 'reversal',
    reversalOf: 'JE-KSF-90606',
  };
}

/** Story 7: an invoice of June 2026, typed with next year's date; the period was right. */
const typedYear = (): DemoEntry => ({
  ...invoice(
    'PI-KSF-90307',
    '2027-06-11',
    'Propeller shaft bearing Tern',
    ['S-401', 'Harrowick Marine Works'],
    'HMW-5518',
  ),
  period: [3, 2027],
  enteredAt: '2026-06-12',
  lines: [
    { account: '6310', amount: 684_000, dims: { vessel: 'TERN', costcentre: 'EN-TER' }, tax: ['P20', 136_800] },
    { account: '1331', amount: 136_800 },
    { account: '2110', amount: -820_800 },
  ],
});

/** Story 11, beside the lost number in the series FI: a credit note for which there is no invoice. */
const creditNoteWithoutInvoice = (): DemoEntry => ({
  ...invoice('FC-00019', '2026-08-12', 'Credit note, Lindra Stores', ['C-103', 'Lindra Stores'], 'FC-00019'),
  journal: 'FI',
  documentType: 'credit note',
  lines: [
    { account: '4210', amount: 240_000, dims: { route: 'R3', vessel: 'TERN' }, tax: ['S20', 48_000] },
    { account: '2310', amount: 48_000 },
    { account: '1310', amount: -288_000 },
  ],
});

/** Story 15: an account that has slept for years takes one line whose words match nothing else. */
const dormantAccount = (): DemoEntry =>
  manual('KSF', 'JE-KSF-90515', '2026-09-17', 'per call w/ M, to be sorted', [
    { account: '2992', amount: 318_450 },
    { account: '1520', amount: -318_450 },
  ]);

const manual = (
  entity: DemoEntry['entity'],
  number: string,
  date: string,
  description: string,
  lines: DemoLine[],
): DemoEntry => ({
  entity,
  number,
  date,
  journal: 'JE',
  description,
  lines,
  postedBy: 'tek',
});

const invoice = (
  number: string,
  date: string,
  description: string,
  counterparty: [string, string],
  document: string,
): Omit<DemoEntry, 'lines'> => ({
  entity: 'KSF',
  number,
  date,
  journal: 'PI',
  description,
  postedBy: 'mhald',
  counterparty,
  document,
  documentType: 'invoice',
  documentDate: date,
});
