import type { DemoEntry, DemoLine } from './entry';

/** Story 14: the months that a second delivery restates. */
export const RESTATED = { entity: 'KSF', from: '2026-07-01', to: '2026-08-31', periods: '2027.04 to 2027.05' } as const;

const LATE_INVOICES = 20;
const SUPPLIERS: [string, string][] = [
  ['V-CHAND', 'Harrowick Chandlery'],
  ['V-ELEC', 'Sound Electrical'],
  ['V-PAINT', 'Brenna Coatings'],
];

/**
 * The two months as the ledger delivered them again: three lines changed, one removed, forty added.
 * @param world the entries as they were delivered first
 */
export function* restated(world: Iterable<DemoEntry>): Generator<DemoEntry> {
  let merged = false;
  let raised = false;
  for (const entry of world) {
    if (entry.entity !== RESTATED.entity || entry.date < RESTATED.from || entry.date > RESTATED.to || entry.period)
      continue;
    const [last, before] = [entry.lines[entry.lines.length - 1], entry.lines[entry.lines.length - 2]];
    if (
      !merged &&
      entry.journal === 'TS' &&
      entry.date >= '2026-08-12' &&
      last &&
      before &&
      last.amount < 0 &&
      before.amount < 0
    ) {
      // The café's share was booked apart and is now part of the fares: one line changed, one removed.
      merged = true;
      yield { ...entry, lines: [...entry.lines.slice(0, -2), { ...before, amount: before.amount + last.amount }] };
    } else if (!raised && entry.journal === 'PI' && entry.date >= '2026-07-10' && entry.number < 'PI-KSF-9') {
      raised = true;
      const owed = entry.lines.length - 1;
      const by = (i: number): number => (i === 0 ? 15_000 : i === owed ? -15_000 : 0);
      yield { ...entry, lines: entry.lines.map((l, i): DemoLine => ({ ...l, amount: l.amount + by(i) })) };
    } else yield entry;
  }
  for (let i = 0; i < LATE_INVOICES; i++) {
    const amount = 18_400 + i * 2_350;
    const [code, name] = SUPPLIERS[i % SUPPLIERS.length] as [string, string];
    const dims = { vessel: 'SOLAN', costcentre: 'DK-SOL' };
    yield {
      entity: 'KSF',
      number: `PI-KSF-9${String(700 + i)}`,
      date: `2026-08-${String(3 + i).padStart(2, '0')}`,
      journal: 'PI',
      postedBy: 'purchase',
      description: `${name}, late invoice`,
      document: `L-${4_100 + i}`,
      documentType: 'invoice',
      counterparty: [code, name],
      lines: [
        { account: '6310', amount, dims },
        { account: '2110', amount: -amount },
      ],
    };
  }
}
