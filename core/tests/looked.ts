import type { Ordinal, Period } from '../calendar';
import type { DateText } from '../dates';
import type { Minor } from '../money';
import type { Hit, LedgerTested, LineTested } from './test';

/** What tests make of the lines of a ledger before they look. */

/** An entry as a whole, up to the end of the window. */
export interface EntryTested {
  entity: string;
  number: string;
  day: DateText;
  within: boolean;
  lines: readonly LineTested[];
  /** Σ of what is above nothing. */
  total: Minor;
  net: Minor;
  person: string | null;
  approvedBy: string | null;
  enteredAt: string | null;
  journal: string;
  source: string | null;
  reversalOf: string | null;
  party: string | null;
  document: string | null;
  description: string;
}

/** An entry as a hit, by all that it comes to. */
export const hitOf = (e: EntryTested, degree: number, parts: Hit['parts']): Hit => ({
  ...{ entity: e.entity, at: { entry: e.number }, degree, amount: e.total, parts },
});

const least = (texts: readonly (string | null)[]): string | null =>
  texts.reduce<string | null>((a, b) => (b !== null && (a === null || b < a) ? b : a), null);

/** Entries, without those that bring balances in. */
export function entriesOf({ lines }: LedgerTested): EntryTested[] {
  const byEntry = grouped(lines, (l) => `${l.entity}\n${l.entry}`);
  return [...byEntry.values()].flatMap((own) => {
    const [first] = own;
    if (!first || own.some((l) => l.kind === 'opening')) return [];
    return [
      {
        entity: first.entity,
        number: first.entry,
        day: least(own.map((l) => l.day)) as string,
        within: own.some((l) => l.within),
        lines: own,
        total: own.reduce((sum, l) => sum + Math.max(0, l.amount), 0),
        net: own.reduce((sum, l) => sum + l.amount, 0),
        person: least(own.map((l) => l.postedBy)),
        approvedBy: least(own.map((l) => l.approvedBy)),
        enteredAt: least(own.map((l) => l.enteredAt)),
        journal: least(own.map((l) => l.journal)) ?? '',
        source: least(own.map((l) => l.source)),
        reversalOf: least(own.map((l) => l.reversalOf)),
        party: least(own.map((l) => l.counterparty)),
        document: least(own.map((l) => l.document)),
        description: least(own.map((l) => l.entryDescription)) ?? '',
      },
    ];
  });
}

/** A period of a company, numbered through its years; an adjustment period has the number of the one before. */
export interface PeriodLooked extends Period {
  seq: number;
}

/** The periods of a company from that of its first line to the end of the window. */
export function periodsOf(ledger: LedgerTested, entity: string): PeriodLooked[] {
  const { calendar } = ledger.books.get(entity) as NonNullable<ReturnType<LedgerTested['books']['get']>>;
  const first = Math.min(...ledger.lines.filter((l) => l.entity === entity).map((l) => l.period));
  const last = ledger.end(entity);
  const found: PeriodLooked[] = [];
  let seq = 0;
  for (let year = Math.floor(first / 100); year <= Math.floor(last / 100); year++)
    for (const period of calendar.periodsOf(year + 2000)) {
      if (!period.adjustment) seq += 1;
      if (period.ordinal >= first && period.ordinal <= last) found.push({ ...period, seq });
    }
  return found;
}

/** What moved on an account in a period. */
export interface Month {
  entity: string;
  account: string;
  period: Ordinal;
  amount: Minor;
  count: number;
  /** Lines of it that are in the window. */
  within: number;
}

/** Sums by account and period, in order; of one account after the other. @param openings whether balances brought in count */
export function monthsOf({ lines }: LedgerTested, openings: boolean): Map<string, Month[]> {
  const sums = new Map<string, Month>();
  for (const l of lines) {
    if (!openings && l.kind === 'opening') continue;
    const key = `${l.entity}\n${l.account}\n${l.period}`;
    const held = sums.get(key);
    if (held) {
      held.amount += l.amount;
      held.count += 1;
      held.within += l.within ? 1 : 0;
    } else
      sums.set(key, {
        ...{ entity: l.entity, account: l.account, period: l.period, amount: l.amount, count: 1 },
        within: l.within ? 1 : 0,
      });
  }
  const sorted = [...sums.values()].sort((a, b) => a.period - b.period);
  return grouped(sorted, (m) => `${m.entity}\n${m.account}`);
}

export function grouped<Of>(items: readonly Of[], keyOf: (item: Of) => string): Map<string, Of[]> {
  const groups = new Map<string, Of[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/** How many of the items each key has. */
export const countBy = <Of>(items: readonly Of[], keyOf: (item: Of) => string): Map<string, number> =>
  new Map([...grouped(items, keyOf)].map(([key, group]) => [key, group.length]));

export const trunc2 = (n: number): number => Math.trunc(n * 100) / 100;
