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
  yield* winterLayUp();
  yield* charters();
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
    ...{ postedBy: 'rquill', time: '22:47' },
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

/** Story 9: winter lay-up is accrued at the year's end until its invoice comes; the second time it was not reversed. */
function* winterLayUp(): Generator<DemoEntry> {
  const dims = { vessel: 'POOL' };
  const accrual = (number: string, date: string, description: string, amount: number): DemoEntry =>
    manual('KSF', number, date, description, [
      { account: '6350', amount, dims },
      { account: '2192', amount: -amount },
    ]);
  const billed = (number: string, date: string, document: string, net: number): DemoEntry => ({
    ...invoice(number, date, 'Winter lay-up, berths and watch', ['S-402', 'Brenna Boatyard'], document),
    lines: [
      { account: '6350', amount: net, dims, tax: ['P20', net / 5] },
      { account: '1331', amount: net / 5 },
      { account: '2110', amount: -net - net / 5 },
    ],
  });
  yield accrual('JE-KSF-90901', '2025-03-31', 'Winter lay-up, invoice to come', 7_860_000);
  yield {
    ...accrual('JE-KSF-90902', '2025-04-01', 'Reversal of JE-KSF-90901', -7_860_000),
    kind: 'reversal',
    reversalOf: 'JE-KSF-90901',
  };
  yield billed('PI-KSF-90903', '2025-04-18', 'BBY-2204', 7_920_000);
  yield accrual('JE-KSF-90904', '2026-03-31', 'Winter lay-up, invoice to come', 8_140_000);
  yield billed('PI-KSF-90905', '2026-04-20', 'BBY-2391', 8_140_000);
}

/** Story 10: of three charters the second has its tax in charter income, where it is no income. */
function* charters(): Generator<DemoEntry> {
  const sailings = [
    {
      document: 'CH-0061',
      date: '2026-07-04',
      paid: '2026-07-24',
      party: ['C-201', 'Skarvoy Folk Weekend'],
      net: 960_000,
    },
    { document: 'CH-0062', date: '2026-08-01', paid: '2026-08-20', party: ['C-202', 'Tolsey Regatta'], net: 1_150_000 },
    { document: 'CH-0063', date: '2026-09-05', paid: '2026-09-28', party: ['C-203', 'Harrowick Choir'], net: 720_000 },
  ] as const;
  for (const { document, date, paid, party, net } of sailings) {
    const tax = net / 5;
    const dims = { vessel: 'TERN' };
    const entry = { ...invoice(`FI-${document}`, date, `Charter, ${party[1]}`, [...party], document), journal: 'FI' };
    const rightly: DemoLine[] = [
      { account: '4410', amount: -net, dims, tax: ['S20', tax] },
      { account: '2310', amount: -tax },
    ];
    const wrongly: DemoLine[] = [
      { account: '4410', amount: -net, dims },
      { account: '4410', amount: -tax, dims },
    ];
    yield {
      ...entry,
      lines: [{ account: '1310', amount: net + tax }, ...(document === 'CH-0062' ? wrongly : rightly)],
    };
    yield {
      ...invoice(`BR-${document}`, paid, `Received from ${party[1]}`, [...party], document),
      journal: 'BR',
      postedBy: 'bank',
      documentType: 'payment',
      lines: [
        { account: '1520', amount: net + tax },
        { account: '1310', amount: -(net + tax) },
      ],
    };
  }
}

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

/** The head of a supplier’s invoice of the ferries. */
export const invoice = (
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
