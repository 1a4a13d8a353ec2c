import { addDays, firstOfMonth, lastOfMonth, weekdayOf } from '@/core/dates';
import { allot } from '@/core/money';
import { ROUTES, VESSELS } from './dimensions';
import type { DemoEntry, DemoLine } from './entry';
import { Random } from './random';
import { stories } from './stories';

/** The demo world begins on the first day of fiscal year 2024/25 and ends with September 2026. */
export const FIRST_DAY = '2024-04-01';
export const LAST_DAY = '2026-09-30';
const SEED = 20_260_930;

/**
 * All entries of the demo world, the same every time. Nothing is booked that does not balance.
 * @param scale how many times the ticket sales are split into; 1 gives about 90,000 lines in all, 150 about ten million
 */
export function* demoWorld(scale = 1): Generator<DemoEntry> {
  const world = new World(new Random(SEED));
  yield* openings();
  for (const month of months()) {
    for (const day of daysOf(month)) {
      yield* world.tickets(day, scale);
      yield* world.shops(day);
    }
    yield* world.freight(month);
    yield* world.fuel(month);
    yield* world.payroll(month);
    yield* world.grants(month);
    yield* world.harbours(month);
    yield* world.upkeep(month);
    yield* world.yard(month);
    yield* world.office(month);
    yield* world.depreciation(month);
    yield* world.bank(month);
    yield* world.yearEnd(month);
  }
  yield* world.unposted();
  yield* stories();
}

export interface Month {
  year: number;
  month: number;
  first: string;
  last: string;
}

function* months(): Generator<Month> {
  for (let i = 0; i < 30; i++) {
    const month = ((3 + i) % 12) + 1;
    const year = 2024 + Math.floor((3 + i) / 12);
    yield { year, month, first: firstOfMonth(year, month), last: lastOfMonth(year, month) };
  }
}

function* daysOf({ first, last }: Month): Generator<string> {
  for (let day = first; day <= last; day = addDays(day, 1)) yield day;
}

/** Ferries are full in summer. */
const SEASON = [0.45, 0.48, 0.6, 0.85, 1.05, 1.3, 1.65, 1.7, 1.2, 0.9, 0.55, 0.6];
/** A storm week in which hardly anything sailed to Skarvoy (story 13). */
export const STORM = { from: '2026-02-09', to: '2026-02-15', route: 'R5' };
/** Maren lay in dry dock (stories 1 and 4). */
export const DRY_DOCK = { from: '2026-05-04', to: '2026-07-19' };

function* openings(): Generator<DemoEntry> {
  const opening = (entity: DemoEntry['entity'], balances: [string, number, DemoLine['dims']?][]): DemoEntry => {
    const lines: DemoLine[] = balances.map(([account, amount, dims]) => ({ account, amount, ...(dims ? { dims } : {}) }));
    const rest = -lines.reduce((a, l) => a + l.amount, 0);
    return {
      ...{ entity, number: `OB-${entity}-1`, date: FIRST_DAY, journal: 'OB', description: 'Opening balances', kind: 'opening', postedBy: 'ihallam' },
      lines: [...lines, { account: '3120', amount: rest }],
    };
  };
  yield opening('KSF', [
    ['1110', 4_820_000_000],
    ['1111', -2_140_000_000],
    ['1112', 620_000_000],
    ['1113', -310_000_000],
    ['1114', 240_000_000],
    ['1115', -120_000_000],
    ['1120', 180_000_000],
    ['1121', -60_000_000],
    ['1126', 45_000_000],
    ['1127', -31_000_000],
    ['1210', 18_400_000],
    ['1212', 41_250_000],
    ['1310', 38_610_000],
    ['1330', 62_500_000],
    ['1410', 93_600_000],
    ['1510', 9_412_000],
    ['1520', 214_880_000],
    ['1521', 88_000_000],
    ['1522', 150_000_000],
    ['2110', -41_370_000],
    ['2111', -22_800_000],
    ['2190', -9_640_000],
    ['2220', -31_200_000],
    ['2221', -62_500_000],
    ['2410', -1_450_000_000],
    ['2992', -1_204_000],
    ['3110', -900_000_000],
    ['3111', -350_000_000],
    ['3121', -200_000_000],
  ]);
  yield opening('STL', [
    ['1120', 930_000_000],
    ['1121', -288_000_000],
    ['1122', 610_000_000],
    ['1123', -190_000_000],
    ['1213', 6_240_000],
    ['1313', 9_870_000],
    ['1320', 0],
    ['1321', 7_310_000],
    ['1520', 61_950_000],
    ['1530', 120_000],
    ['1531', 60_000],
    ['1532', 60_000],
    ['1533', 60_000],
    ['1534', 60_000],
    ['2110', -12_630_000],
    ['2411', -480_000_000],
    ['3110', -250_000_000],
  ]);
  yield opening('NHS', [
    ['1128', 410_000_000],
    ['1129', -172_000_000],
    ['1214', 28_400_000],
    ['1312', 51_200_000],
    ['1523', 96_300_000],
    ['2110', -33_900_000],
    ['3110', -200_000_000],
  ]);
}

class World {
  private readonly counters = new Map<string, number>();

  constructor(private readonly random: Random) {}

  /** Fares of every route and day, paid by card at the counter and online, or in cash on board. */
  *tickets(day: string, scale: number): Generator<DemoEntry> {
    const month = Number(day.slice(5, 7));
    const weekday = weekdayOf(day);
    for (const route of ROUTES) {
      const stormy = route.code === STORM.route && day >= STORM.from && day <= STORM.to;
      const docked = route.vessel === 'MAREN' && day >= DRY_DOCK.from && day <= DRY_DOCK.to;
      if (stormy && day !== STORM.from) continue;
      const growth = day < '2025-04-01' ? 1 : day < '2026-04-01' ? 1.035 : 1.07;
      const busy = (SEASON[month - 1] as number) * growth * (weekday === 5 || weekday === 0 ? 1.25 : weekday === 6 ? 1.15 : 0.9);
      const total = this.random.around(route.fares * busy * (docked ? 0.82 : 1), 0.18);
      const vessel = docked ? 'POOL' : route.vessel;
      for (const [i, part] of allot(total, new Array(scale).fill(1)).entries()) {
        const dims = { route: route.code, vessel };
        const [foot, concession, cars, coaches, cafe] = allot(part, [430, 90, 310, 50, 120]) as [number, number, number, number, number];
        const cash = Math.round(part * 0.07);
        const refund = this.random.next() < 0.06 ? this.random.whole(1_200, 9_800) : 0;
        const lines: DemoLine[] = [
          { account: '1510', amount: part - cash - refund },
          { account: '1512', amount: cash },
          { account: '4110', amount: -foot, dims },
          { account: '4111', amount: -concession, dims },
          { account: '4112', amount: -cars, dims },
          ...(coaches > 30_000
            ? [
                { account: '4113', amount: -coaches, dims },
                { account: '4120', amount: -cafe, dims },
              ]
            : [{ account: '4120', amount: -cafe - coaches, dims }]),
          ...(refund > 0 ? [{ account: '4116', amount: refund, dims, description: 'Refunds, sailings missed' }] : []),
        ];
        yield {
          ...{ entity: 'KSF', number: this.next('TS'), date: day, journal: 'TS', lines },
          description: scale === 1 ? `Ticket sales ${route.name}` : `Ticket sales ${route.name}, sailing ${i + 1}`,
          postedBy: 'ticketing',
        };
      }
    }
  }

  /** Terminal shops, by day and terminal; the till is counted every evening. */
  *shops(day: string): Generator<DemoEntry> {
    const terminals = [
      ['1530', 'TRM-HAR', 'Harrowick', 168_000],
      ['1531', 'TRM-BRE', 'Brenna', 61_000],
      ['1532', 'TRM-TOL', 'Tolsey', 47_000],
      ['1533', 'TRM-LIN', 'Lindra', 32_000],
    ] as const;
    const season = SEASON[Number(day.slice(5, 7)) - 1] as number;
    for (const [till, costcentre, terminal, middle] of terminals) {
      const sales = this.random.around(middle * season, 0.3);
      const tax = Math.round(sales / 6);
      yield {
        ...{
          entity: 'STL',
          number: this.next('SH'),
          date: day,
          journal: 'SH',
          description: `Shop sales, terminal ${terminal}`,
          postedBy: 'tills',
        },
        lines: [
          { account: till, amount: sales },
          { account: '4512', amount: -(sales - tax), dims: { costcentre }, tax: ['S20', tax] },
          { account: '2310', amount: -tax },
        ],
      };
    }
  }

  *freight(month: Month): Generator<DemoEntry> {
    const season = (SEASON[month.month - 1] as number) * 0.5 + 0.5;
    for (let i = 0; i < 46; i++) {
      const customer = this.random.pick(FREIGHT_CUSTOMERS);
      const route = this.random.pick(ROUTES.slice(0, 5));
      const date = this.dayIn(month);
      const net = this.random.around(310_000 * season, 0.7);
      const surcharge = Math.round(net * 0.06);
      const tax = Math.round((net + surcharge) * 0.2);
      const onSurcharge = Math.round(surcharge * 0.2);
      const number = this.next('FI');
      // A number that was given out and never booked (story 11).
      const document = number === 'FI-00871' ? this.next('FI') : number;
      const dims = { route: route.code, vessel: route.vessel };
      yield {
        ...{ entity: 'KSF', number: document, date, journal: 'FI', description: `Freight, ${customer[1]}`, postedBy: 'mhald', counterparty: customer },
        ...{ document, documentType: 'invoice', documentDate: date, dueDate: addDays(date, 30) },
        lines: [
          { account: '1310', amount: net + surcharge + tax },
          { account: i % 9 === 0 ? '4212' : '4210', amount: -net, dims, tax: ['S20', tax - onSurcharge] },
          { account: '4213', amount: -surcharge, dims, tax: ['S20', onSurcharge] },
          { account: '2310', amount: -tax },
        ],
      };
      const paid = addDays(date, this.random.whole(18, 55));
      if (paid > LAST_DAY) continue;
      yield {
        ...{
          entity: 'KSF',
          number: this.next('BR'),
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

  /** Every vessel bunkers about weekly; the price swings. */
  *fuel(month: Month): Generator<DemoEntry> {
    const price = 62 + 9 * Math.sin((month.year * 12 + month.month) / 4.1) + (month.year - 2024) * 2;
    for (const vessel of VESSELS) {
      for (let week = 0; week < 4; week++) {
        const date = addDays(month.first, week * 7 + this.random.whole(0, 5));
        if (vessel === 'MAREN' && date >= DRY_DOCK.from && date <= DRY_DOCK.to) continue;
        const litres = this.random.whole(9_000, 24_000) * (vessel === 'MAREN' || vessel === 'SOLAN' ? 2 : 1);
        yield this.bunkering(date, vessel, litres, Math.round(litres * price));
      }
      yield {
        ...this.supplier('KSF', addDays(month.first, 9), ['S-LUB', 'Harrow Lubricants'], `Lubricants ${vessel.toLowerCase()}`),
        lines: this.withTax('6220', this.random.around(98_000, 0.4), '2110', { vessel, costcentre: `EN-${vessel.slice(0, 3)}` }),
      };
    }
  }

  bunkering(date: string, vessel: string, litres: number, net: number): DemoEntry {
    const lines = this.withTax('6210', net, '2111', { vessel, costcentre: `EN-${vessel.slice(0, 3)}` });
    return {
      ...this.supplier('KSF', date, ['S-BUNK', 'Sound Bunkering'], `Bunkering ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()}, ${litres} litres`),
      lines: lines.map((l) => (l.account === '6210' ? { ...l, quantity: [litres, 'l'] as [number, string] } : l)),
    };
  }

  /** Crew and shore pay by cost centre; from May 2026 the rate of one cost centre steps up with no new staff. */
  *payroll(month: Month): Generator<DemoEntry> {
    const date = addDays(month.last, -3);
    const summer = month.month >= 5 && month.month <= 9 ? 1.18 : 1;
    const crews: [DemoEntry['entity'], string, string, number, number][] = [
      ...VESSELS.flatMap((v): [DemoEntry['entity'], string, string, number, number][] => [
        ['KSF', `DK-${v.slice(0, 3)}`, '7010', 9, 318_000],
        ['KSF', `EN-${v.slice(0, 3)}`, '7010', 5, 352_000],
      ]),
      ['KSF', 'SH-HAR', '7110', 14, 262_000],
      ['KSF', 'SH-ISL', '7110', 11, 258_000],
      ['KSF', 'COM-TKT', '7111', 9, 241_000],
      ['KSF', 'COM-FRT', '7111', 4, 268_000],
      ['KSF', 'COM-CAF', '7111', 16, 214_000],
      ['KSF', 'ADM-FIN', '7111', 6, 334_000],
      ['KSF', 'ADM-HR', '7111', 3, 318_000],
      ['KSF', 'ADM-IT', '7111', 4, 362_000],
      ['KSF', 'ADM-MD', '7111', 2, 690_000],
      ['STL', 'TRM-HAR', '7110', 12, 238_000],
      ['STL', 'TRM-BRE', '7110', 5, 236_000],
      ['STL', 'TRM-TOL', '7110', 5, 236_000],
      ['STL', 'TRM-LIN', '7110', 4, 236_000],
      ['NHS', 'YD-DOCK', '7112', 18, 4_480_000],
      ['NHS', 'YD-STEEL', '7112', 11, 4_620_000],
      ['NHS', 'YD-ENG', '7112', 9, 4_790_000],
    ];
    for (const [entity, costcentre, account, heads, rate] of crews) {
      const stepped = costcentre === 'SH-HAR' && month.first >= '2026-05-01' ? 1.11 : 1;
      const raise = 1 + 0.03 * (month.year - 2024 + (month.month >= 4 ? 0 : -1));
      const gross = Math.round(heads * rate * raise * stepped * (account === '7010' ? summer : 1));
      const pension = Math.round(gross * 0.06);
      const social = Math.round(gross * 0.12);
      const tax = Math.round(gross * 0.24);
      const shore = account !== '7010';
      const dims = { costcentre };
      yield {
        ...{ entity, number: this.next(`PY-${entity}`), date, journal: 'PY', description: `Payroll ${costcentre}`, postedBy: 'payroll' },
        lines: [
          { account, amount: gross, dims, quantity: [heads, 'people'] },
          { account: shore ? '7120' : '7020', amount: pension, dims },
          { account: shore ? '7130' : '7030', amount: social, dims },
          { account: '2311', amount: -(tax + social) },
          { account: '2312', amount: -pension },
          { account: '2313', amount: -(gross - tax) },
        ],
      };
    }
    for (const entity of ['KSF', 'STL', 'NHS'] as const) {
      yield this.manual(entity, addDays(month.last, -1), 'Pay and deductions paid', [], 'payroll');
    }
  }

  /** Lifeline grants come by the quarter and are released by the month. */
  *grants(month: Month): Generator<DemoEntry> {
    const quarterly: [string, number][] = [
      ['G-BRE', 96_000_000],
      ['G-TOL', 71_000_000],
      ['G-LIN', 64_000_000],
      ['G-SKA', 82_000_000],
    ];
    for (const [fund, amount] of quarterly) {
      if (month.month % 3 === 1) {
        yield {
          ...{
            entity: 'KSF',
            number: this.next('GR'),
            date: addDays(month.first, 4),
            journal: 'GR',
            description: `Grant received ${fund}`,
            postedBy: 'ihallam',
          },
          ...{
            counterparty: ['C-ISL', 'Island Transport Board'] as [string, string],
            document: `ITB-${month.year}-${month.month}-${fund}`,
            documentType: 'grant letter',
          },
          lines: [
            { account: '1521', amount },
            { account: '2221', amount: -amount, dims: { fund } },
          ],
        };
      }
      // One quarter of one grant was released to the wrong fund (story 2).
      const misplaced = fund === 'G-LIN' && month.first >= '2026-04-01' && month.first <= '2026-06-01';
      const [release] = allot(amount, [1, 1, 1]) as [number];
      yield {
        ...{ entity: 'KSF', number: this.next('GR'), date: month.last, journal: 'GR', description: `Grant released ${fund}`, postedBy: 'ihallam' },
        lines: [
          { account: '2221', amount: release, dims: { fund } },
          { account: '4310', amount: -release, dims: { fund: misplaced ? 'UNR' : fund } },
        ],
      };
    }
    yield {
      ...{ entity: 'KSF', number: this.next('GR'), date: month.last, journal: 'GR', description: 'Community fund, school travel', postedBy: 'ihallam' },
      lines: [
        { account: '1521', amount: 650_000 },
        { account: '4311', amount: -650_000, dims: { fund: 'COMM' } },
      ],
    };
  }

  /** Berthing dues between the ferries and the terminals; one month's charge is in two different periods (story 8). */
  *harbours(month: Month): Generator<DemoEntry> {
    const dues = 14_600_000 + month.month * 110_000;
    const late = month.year === 2026 && month.month === 3;
    const document = `HD-${month.year}-${String(month.month).padStart(2, '0')}`;
    yield {
      ...{
        entity: 'STL',
        number: this.next('GI-STL'),
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
          number: this.next('GP'),
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
      ...{ entity: 'KSF', number: this.next('BP'), date: paid, journal: 'BP', description: 'Paid Sound Terminals', postedBy: 'bank' },
      lines: [
        { account: '2120', amount: dues - 110_000, dims: { partner: 'STL' } },
        { account: '1520', amount: -(dues - 110_000) },
      ],
    };
    yield {
      ...{ entity: 'STL', number: this.next('BR-STL'), date: paid, journal: 'BR', description: 'Received from Kestrel Sound Ferries', postedBy: 'bank' },
      lines: [
        { account: '1520', amount: dues - 110_000 },
        { account: '1321', amount: -(dues - 110_000), dims: { partner: 'KSF' } },
      ],
    };
    for (let i = 0; i < 12; i++) {
      const visitor = this.random.pick(VISITORS);
      const amount = this.random.whole(38_000, 420_000);
      yield {
        ...{
          entity: 'STL',
          number: this.next('TI'),
          date: this.dayIn(month),
          journal: 'TI',
          description: `Berth, ${visitor[1]}`,
          postedBy: 'terminals',
          counterparty: visitor,
        },
        lines: [
          { account: '1313', amount },
          { account: i % 4 === 0 ? '4514' : i % 4 === 1 ? '4513' : '4510', amount: -amount, dims: { costcentre: 'TRM-HAR' } },
        ],
      };
    }
  }

  *upkeep(month: Month): Generator<DemoEntry> {
    for (const vessel of VESSELS) {
      for (let i = 0; i < 4; i++) {
        const net = this.random.whole(45_000, 1_050_000);
        yield {
          ...this.supplier(
            'KSF',
            this.dayIn(month),
            this.random.pick(WORKSHOPS),
            `${this.random.pick(REPAIRS)} ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()}`,
          ),
          lines: this.withTax('6310', net, '2110', { vessel, costcentre: `EN-${vessel.slice(0, 3)}` }),
        };
      }
      if (month.month === 3 || month.month === 9) {
        yield {
          ...this.supplier('KSF', addDays(month.first, 11), ['S-CLASS', 'Sound Class Survey'], `Class survey ${vessel.toLowerCase()}`),
          lines: this.withTax('6330', this.random.around(620_000, 0.2), '2110', { vessel }),
        };
      }
      if (month.month === 11) {
        yield {
          ...this.supplier('KSF', addDays(month.first, 17), ['S-SAFE', 'Hesp Safety'], `Life rafts serviced ${vessel.toLowerCase()}`),
          lines: this.withTax('6340', this.random.around(410_000, 0.2), '2110', { vessel }),
        };
      }
    }
    const docking = DOCKINGS[`${month.year}-${month.month}`];
    if (docking) yield* this.docking(month, ...docking);
  }

  /** A stage invoice of the group's yard, in kroner there and in pounds here. */
  *docking(month: Month, vessel: string, pounds: number, stage: string): Generator<DemoEntry> {
    const kroner = Math.round(pounds * 13.4);
    const document = `NS-${this.next('NS').slice(3)}`;
    const date = addDays(month.first, 10);
    const dims = { vessel, project: `DD-${vessel.slice(0, 3)}-${month.year % 100}`, partner: 'NHS', costcentre: `DK-${vessel.slice(0, 3)}` };
    const named = `${stage}, ${vessel.charAt(0)}${vessel.slice(1).toLowerCase()} docking`;
    yield {
      ...{ entity: 'NHS', number: this.next('GI-NHS'), date, journal: 'GI', description: named, postedBy: 'slip', document, documentType: 'invoice' },
      lines: [
        { account: '1321', amount: kroner, dims: { partner: 'KSF' } },
        { account: '4611', amount: -kroner, dims: { partner: 'KSF' } },
      ],
    };
    yield {
      ...this.supplier('KSF', date, ['NHS', 'Nordholm Slip AS'], named),
      ...{ document, documentType: 'invoice', documentDate: date },
      lines: [
        { account: '6320', amount: pounds, dims, currency: ['NOK', kroner] },
        { account: '2122', amount: -pounds, dims: { partner: 'NHS' }, currency: ['NOK', -kroner] },
      ],
    };
  }

  /** What the yard does for others. */
  *yard(month: Month): Generator<DemoEntry> {
    for (let i = 0; i < 22; i++) {
      const customer = this.random.pick(YARD_CUSTOMERS);
      const net = this.random.whole(900_000, 24_000_000);
      const tax = Math.round(net * 0.25);
      const document = this.next('YI');
      yield {
        ...{
          entity: 'NHS',
          number: document,
          date: this.dayIn(month),
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
            dims: { costcentre: this.random.pick(['YD-DOCK', 'YD-STEEL', 'YD-ENG']) },
            tax: ['S25', tax],
          },
          { account: '2310', amount: -tax },
        ],
      };
      if (i % 2 === 0) {
        yield {
          ...this.supplier('NHS', this.dayIn(month), ['S-STEEL', 'Nordholm Stål'], 'Plate and sections'),
          lines: this.withTax(i % 4 === 0 ? '6512' : '6513', Math.round(net * 0.31), '2110', { costcentre: 'YD-STEEL' }),
        };
      }
    }
    const received = this.random.around(180_000_000, 0.1);
    yield {
      ...{ entity: 'NHS', number: this.next('BR-NHS'), date: month.last, journal: 'BR', description: 'Customers paid', postedBy: 'bank' },
      lines: [
        { account: '1523', amount: received },
        { account: '1312', amount: -received },
      ],
    };
  }

  *office(month: Month): Generator<DemoEntry> {
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
          ...this.supplier(entity, this.dayIn(month), [code, name], name),
          lines: this.withTax(account, this.random.around(middle / 2, 0.3), '2110', { costcentre }),
        };
      }
    }
    // Hull insurance is paid for a year each October and released by the month; once it was released twice (story 3).
    if (month.month === 10) {
      yield {
        ...this.supplier('KSF', addDays(month.first, 2), ['S-INS', 'Sound Mutual Hull'], 'Hull insurance for a year'),
        lines: [
          { account: '1410', amount: 187_200_000 },
          { account: '2110', amount: -187_200_000 },
        ],
      };
    }
    yield this.manual('KSF', month.last, 'Hull insurance released', [
      { account: '8110', amount: 15_600_000 },
      { account: '1410', amount: -15_600_000 },
    ]);
    yield this.manual('KSF', month.last, 'Lease of booking office', [
      { account: '8313', amount: 410_000 },
      { account: '2412', amount: -410_000 },
    ]);
    const accrued = this.random.around(3_200_000, 0.4);
    const accrual = this.manual('KSF', month.last, 'Accrual, invoices to come', [
      { account: '6310', amount: accrued, dims: { vessel: 'POOL' } },
      { account: '2190', amount: -accrued },
    ]);
    yield accrual;
    const next = addDays(month.last, 1);
    if (next <= LAST_DAY) {
      yield {
        ...this.manual('KSF', next, `Reversal of ${accrual.number}`, [
          { account: '2190', amount: accrued },
          { account: '6310', amount: -accrued, dims: { vessel: 'POOL' } },
        ]),
        ...{ kind: 'reversal', reversalOf: accrual.number },
      };
    }
  }

  *depreciation(month: Month): Generator<DemoEntry> {
    for (const [i, part] of allot(21_400_000, [5, 4, 4, 3, 3, 2, 2]).entries()) {
      yield this.manual(
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
    yield this.manual(
      'KSF',
      month.last,
      'Depreciation of ticketing system',
      [
        { account: '8311', amount: 390_000 },
        { account: '1127', amount: -390_000 },
      ],
      'assets',
    );
    yield this.manual(
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
    yield this.manual(
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

  /** Settlements, supplier payments, interest, and the month-end revaluation with its reversal. */
  *bank(month: Month): Generator<DemoEntry> {
    for (let day = addDays(month.first, 2); day <= month.last; day = addDays(day, 7)) {
      const amount = this.random.around(32_000_000 * (SEASON[month.month - 1] as number), 0.05);
      yield {
        ...{ entity: 'KSF', number: this.next('BR'), date: day, journal: 'BR', description: 'Card settlement', postedBy: 'bank' },
        lines: [
          { account: '1520', amount: amount - Math.round(amount * 0.008) },
          { account: '8213', amount: Math.round(amount * 0.008), dims: { costcentre: 'COM-TKT' } },
          { account: '1510', amount: -amount },
        ],
      };
    }
    const payments: [DemoEntry['entity'], string, string, number][] = [
      ['KSF', '2110', '1520', 24_000_000],
      ['KSF', '2111', '1520', 41_000_000],
      ['STL', '2110', '1520', 5_400_000],
      ['NHS', '2110', '1523', 61_000_000],
    ];
    for (const [entity, account, bank, middle] of payments) {
      for (let i = 0; i < 4; i++) {
        const amount = this.random.around(middle / 4, 0.2);
        yield {
          ...{ entity, number: this.next(`BP-${entity}`), date: this.dayIn(month), journal: 'BP', description: 'Supplier run', postedBy: 'bank' },
          lines: [
            { account, amount },
            { account: bank, amount: -amount },
          ],
        };
      }
    }
    yield this.manual(
      'KSF',
      month.last,
      'Interest on vessel loan',
      [
        { account: '8510', amount: 5_430_000 },
        { account: '1520', amount: -5_430_000 },
      ],
      'bank',
    );
    const difference = this.random.whole(-240_000, 240_000);
    const revaluation = this.manual('KSF', month.last, 'Revaluation of kroner owed', [
      { account: '8512', amount: difference },
      { account: '2122', amount: -difference, dims: { partner: 'NHS' } },
    ]);
    yield revaluation;
    const next = addDays(month.last, 1);
    if (next <= LAST_DAY) {
      yield {
        ...this.manual('KSF', next, `Reversal of ${revaluation.number}`, [
          { account: '8512', amount: -difference },
          { account: '2122', amount: difference, dims: { partner: 'NHS' } },
        ]),
        kind: 'reversal',
        reversalOf: revaluation.number,
      };
    }
  }

  /** Adjustments of the year end stand in period 13. */
  *yearEnd(month: Month): Generator<DemoEntry> {
    if (month.month !== 3) return;
    const adjust = (entity: DemoEntry['entity'], description: string, lines: DemoLine[]): DemoEntry => ({
      ...this.manual(entity, month.last, description, lines),
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

  /** A few entries of September that wait to be posted. */
  *unposted(): Generator<DemoEntry> {
    const waiting: [string, string, DemoLine[]][] = [
      [
        '2026-09-28',
        'Crew overtime September',
        [
          { account: '7011', amount: 2_180_000, dims: { costcentre: 'DECK' } },
          { account: '2313', amount: -2_180_000 },
        ],
      ],
      [
        '2026-09-29',
        'Marketing, autumn sailings',
        [
          { account: '8217', amount: 940_000, dims: { costcentre: 'COM-MKT' } },
          { account: '2110', amount: -940_000 },
        ],
      ],
      [
        '2026-09-30',
        'Doubtful freight debts',
        [
          { account: '8219', amount: 1_460_000, dims: { costcentre: 'ADM-FIN' } },
          { account: '1314', amount: -1_460_000 },
        ],
      ],
    ];
    for (const [date, description, lines] of waiting) yield { ...this.manual('KSF', date, description, lines), status: 'unposted' };
  }

  private next(series: string): string {
    const count = (this.counters.get(series) ?? 0) + 1;
    this.counters.set(series, count);
    return `${series}-${String(count).padStart(5, '0')}`;
  }

  private dayIn({ first, last }: Month): string {
    return addDays(first, this.random.whole(0, Number(last.slice(8)) - 1));
  }

  private supplier(entity: DemoEntry['entity'], date: string, counterparty: [string, string], description: string): Omit<DemoEntry, 'lines'> {
    const document = this.next(`PI-${entity}`);
    return {
      entity,
      number: document,
      date,
      journal: 'PI',
      description,
      postedBy: 'mhald',
      counterparty,
      document,
      documentType: 'invoice',
      documentDate: date,
      dueDate: addDays(date, 30),
    };
  }

  private withTax(account: string, net: number, creditor: string, dims: DemoLine['dims'] = {}): DemoLine[] {
    const tax = Math.round(net * 0.2);
    return [
      { account, amount: net, dims, tax: ['P20', tax] },
      { account: '1331', amount: tax },
      { account: creditor, amount: -(net + tax) },
    ];
  }

  private manual(entity: DemoEntry['entity'], date: string, description: string, lines: DemoLine[], postedBy = 'tek'): DemoEntry {
    const settled = lines.length > 0 ? lines : this.payOut(entity);
    return { entity, number: this.next(`JE-${entity}`), date, journal: 'JE', description, lines: settled, postedBy };
  }

  private payOut(entity: DemoEntry['entity']): DemoLine[] {
    const [net, tax, pension] = (
      { KSF: [44_000_000, 20_500_000, 3_480_000], STL: [4_680_000, 2_210_000, 370_000], NHS: [132_000_000, 63_000_000, 10_500_000] } as const
    )[entity];
    const bank = entity === 'NHS' ? '1523' : '1520';
    return [
      { account: '2313', amount: net },
      { account: '2311', amount: tax },
      { account: '2312', amount: pension },
      { account: bank, amount: -(net + tax + pension) },
    ];
  }
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
const VISITORS: [string, string][] = [
  ['V-201', 'Yacht Pilgrim'],
  ['V-202', 'Trawler Asta'],
  ['V-203', 'Research ship Orla'],
  ['V-204', 'Barge Simmer'],
  ['V-205', 'Cruise tender pool'],
];
const YARD_CUSTOMERS: [string, string][] = [
  ['Y-301', 'Fjellvik Havbruk'],
  ['Y-302', 'Kystlos Nord'],
  ['Y-303', 'Asta Rederi'],
  ['Y-304', 'Holmen Fiske'],
  ['Y-305', 'Skøyta Vest'],
];
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
