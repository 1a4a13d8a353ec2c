import { addDays } from '@/core/dates';
import type { DemoDocument } from './document';
import type { DemoEntry, DemoLine } from './entry';
import { invoice } from './stories';

/** The planted stories that papers tell: what the books hold of them, and the papers that nobody books. */
export function* paperStories(): Generator<DemoEntry> {
  yield* justUnderTheLimit();
  yield* linkspan();
  yield* kioskTakings();
}

/** Story 16: two suppliers with one bank account, in turn just under the limit of approval, approved by the same person. */
function* justUnderTheLimit(): Generator<DemoEntry> {
  const one: [string, string] = ['S-404', 'Sound Hydraulics'];
  const other: [string, string] = ['S-418', 'Sound Hydraulic Services'];
  const invoices = [
    ['2025-10-07', one, 'SHY-2288', 415_000],
    ['2025-10-14', other, 'SHS-104', 416_000],
    ['2025-10-28', one, 'SHY-2291', 414_000],
    ['2025-11-04', other, 'SHS-105', 416_500],
    ['2025-11-18', one, 'SHY-2297', 415_500],
    ['2025-11-25', other, 'SHS-106', 414_500],
  ] as const;
  for (const [i, [date, supplier, document, net]] of invoices.entries()) {
    const party: [string, string] = [...supplier];
    const dims = { vessel: 'POOL', costcentre: 'EN-TER' };
    yield {
      ...bought(`PI-KSF-9160${i + 1}`, date, 'Ramp hydraulics, call-out', party, document),
      approvedBy: 'rquill',
      lines: [
        { account: '6310', amount: net, dims, tax: ['P20', net / 5] },
        { account: '1331', amount: net / 5 },
        { account: '2110', amount: -(net + net / 5) },
      ],
    };
    yield paid(`BP-KSF-9160${i + 1}`, addDays(date, 21), party, document, net + net / 5);
  }
}

const STEELWORKS: [string, string] = ['V-STEEL', 'Brenna Steelworks'];
const CONTRACT = 'CON-LINK-BRE';
/** Net of tax, in pence: what was agreed for the linkspan, and what was agreed beside it later. */
const AGREED = 124_000_000;
const CHANGES = [
  { number: 'CO-LINK-BRE-1', date: '2026-02-09', amount: 8_600_000, text: 'Longer span bearings' },
  { number: 'CO-LINK-BRE-2', date: '2026-06-08', amount: 3_150_000, text: 'Fender piles' },
] as const;
/** What was billed of it, net. The second change order is billed by itself, and within the last stage once more (story 17). */
const STAGES = [
  { date: '2026-01-20', document: 'BSW-3318', net: 40_000_000, text: 'Linkspan Brenna, stage 1' },
  { date: '2026-04-21', document: 'BSW-3362', net: 48_600_000, text: 'Linkspan Brenna, stage 2 with change order 1' },
  { date: '2026-06-26', document: 'BSW-3391', net: 3_150_000, text: 'Linkspan Brenna, change order 2' },
  { date: '2026-09-08', document: 'BSW-3420', net: 47_150_000, text: 'Linkspan Brenna, stage 3, final' },
] as const;

function* linkspan(): Generator<DemoEntry> {
  for (const [i, { date, document, net, text }] of STAGES.entries()) {
    const dims = { project: 'LINK-BRE', fund: 'UNR' };
    const owed = net + net / 5;
    yield {
      ...bought(`PI-KSF-9170${i + 1}`, date, text, STEELWORKS, document),
      approvedBy: 'ihallam',
      lines: [
        { account: '1130', amount: net, dims, tax: ['P20', net / 5] },
        { account: '1331', amount: net / 5 },
        { account: '2110', amount: -owed },
      ],
    };
    // The last is not due yet.
    if (document === 'BSW-3420') continue;
    const on = addDays(date, 28);
    yield {
      ...{ entity: 'KSF', number: `BR-KSF-9170${i + 1}`, date: on, journal: 'BR', postedBy: 'bank' },
      description: `Linkspan loan drawn for ${document}`,
      lines: [
        { account: '1520', amount: owed },
        { account: '2411', amount: -owed },
      ],
    };
    yield paid(`BP-KSF-9170${i + 1}`, on, STEELWORKS, document, owed);
  }
}

/** Card takings of the kiosk on Tolsey pier in three weeks, a receipt a day, each week paid in as one deposit. */
const WEEKS = [
  { monday: '2026-02-02', takings: [84_150, 79_320, 91_480, 102_260, 143_900, 168_750, 121_640], deposit: 'DEP-0261' },
  { monday: '2026-02-09', takings: [81_060, 62_540, 58_200, 71_480, 118_330, 152_180, 109_710], deposit: 'DEP-0262' },
  { monday: '2026-02-16', takings: [88_430, 83_910, 90_170, 97_650, 139_020, 174_460, 126_300], deposit: 'DEP-0263' },
] as const;
/** Story 18: of the second week's takings so much is missing from its deposit; it comes a week later, on another account. */
const SHORT = { deposit: 'DEP-0262', amount: 105_000, rest: 'DEP-0262R' } as const;

/** The deposits of the weeks, with the receipts that each holds. */
const deposits = () =>
  WEEKS.map(({ monday, takings, deposit }) => {
    const receipts = takings.map((amount, i) => ({
      number: `KR-${addDays(monday, i).slice(2).replaceAll('-', '')}`,
      date: addDays(monday, i),
      amount: amount as number,
    }));
    const taken = receipts.reduce((all, { amount }) => all + amount, 0);
    const paidIn = deposit === SHORT.deposit ? taken - SHORT.amount : taken;
    return { number: deposit, date: addDays(monday, 9), receipts, amount: paidIn };
  });

function* kioskTakings(): Generator<DemoEntry> {
  const banked = (number: string, date: string, description: string, account: string, amount: number): DemoEntry => ({
    ...{ entity: 'KSF', number, date, journal: 'BR', description, postedBy: 'bank', document: number },
    documentType: 'deposit',
    lines: [
      { account, amount },
      { account: '1510', amount: -amount },
    ],
  });
  for (const { number, date, receipts, amount } of deposits()) {
    for (const receipt of receipts)
      yield {
        ...{ entity: 'KSF', number: receipt.number, date: receipt.date, journal: 'KR', postedBy: 'tills' },
        ...{ description: 'Kiosk on Tolsey pier, cards', document: receipt.number, documentType: 'receipt' },
        lines: [
          { account: '1510', amount: receipt.amount },
          { account: '4121', amount: -receipt.amount, dims: { route: 'R2', vessel: 'SOLAN' } },
        ],
      };
    yield banked(number, date, 'Card takings of the kiosk, a week', '1520', amount);
    if (number === SHORT.deposit)
      yield banked(SHORT.rest, addDays(date, 7), 'Card takings, rest', '1521', SHORT.amount);
  }
}

/** The papers of these stories that are not control accounts' own: contract, change orders, receipts and deposits. */
export function storyPapers(): DemoDocument[] {
  const named = { counterparty: STEELWORKS };
  return [
    {
      ...{ number: CONTRACT, type: 'contract', date: '2025-11-03', amount: AGREED, settles: [], ...named },
      ...{ description: 'New linkspan Brenna, in three stages, without tax', attachment: 'CON-LINK-BRE.pdf' },
      lines: [
        { description: 'Stage 1, span rolled and welded', amount: 40_000_000 },
        { description: 'Stage 2, bearings and lifting gear', amount: 40_000_000 },
        { description: 'Stage 3, fitted and tried', amount: 44_000_000 },
      ],
    },
    ...CHANGES.map(({ number, date, amount, text }) => ({
      ...{ number, type: 'change order', date, amount, description: text, ...named },
      settles: [{ number: CONTRACT, amount }],
    })),
    ...deposits().flatMap(({ number, date, receipts, amount }) => [
      ...receipts.map((receipt) => ({
        ...{ ...receipt, type: 'receipt', description: 'Kiosk on Tolsey pier, cards', settles: [] },
      })),
      {
        ...{ number, type: 'deposit', date, amount, description: 'Card takings of the kiosk, a week' },
        // What is short is short of the last day's receipt.
        settles: receipts.map((receipt, i) => ({
          number: receipt.number,
          amount: receipt.amount - (number === SHORT.deposit && i === receipts.length - 1 ? SHORT.amount : 0),
        })),
      },
      ...(number === SHORT.deposit
        ? [
            {
              ...{ number: SHORT.rest, type: 'deposit', date: addDays(date, 7), amount: SHORT.amount },
              ...{ description: 'Card takings, rest' },
              settles: [{ number: (receipts.at(-1) as { number: string }).number, amount: SHORT.amount }],
            },
          ]
        : []),
    ]),
  ];
}

/** Which invoice bills how much of the contract, without tax. */
export const BILLS_CONTRACT = new Map<string, { number: string; amount: number }>(
  STAGES.map(({ document, net }) => [document, { number: CONTRACT, amount: net }]),
);

const bought = (...[number, date, ...about]: Parameters<typeof invoice>): Omit<DemoEntry, 'lines'> => ({
  ...invoice(number, date, ...about),
  dueDate: addDays(date, 30),
});

const paid = (
  number: string,
  date: string,
  counterparty: [string, string],
  document: string,
  amount: number,
): DemoEntry => {
  const lines: DemoLine[] = [
    { account: '2110', amount },
    { account: '1520', amount: -amount },
  ];
  return {
    ...{ entity: 'KSF', number, date, journal: 'BP', description: `Paid ${counterparty[1]}`, postedBy: 'bank' },
    ...{ counterparty, document, documentType: 'payment', lines },
  };
};
