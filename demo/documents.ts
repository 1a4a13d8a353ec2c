import { addDays } from '@/core/dates';
import type { DemoEntry } from './entry';
import { RESTATED, restated } from './restate';
import { demoWorld } from './world/demoWorld';

/** The ferries' documents: what their control accounts are made of, with orders, what settled what, and scans of some. */
export interface DemoDocument {
  number: string;
  type: string;
  date: string;
  due?: string | undefined;
  counterparty?: [code: string, name: string] | undefined;
  /** In pence. */
  amount: number;
  account?: string;
  description: string;
  settles: { number: string; amount: number }[];
  attachment?: string;
}

/** Control accounts, and whether they are in debit. */
const CONTROLS: Record<string, boolean> = { '1310': true, '2110': false, '2111': false, '2122': false };
/** Payments of these are matched to the oldest invoices, as the supplier run pays them. */
const BY_AGE = ['2110', '2111'];

/** Documents of which the scan is at hand, with the name of its file. */
const SCANNED: Record<string, string> = {
  'NS-20631': 'NS-20631.pdf',
  'NS-2063I': 'NS-20631.pdf',
  'SB-77120': 'SB-77120.pdf',
  'HMW-5518': 'HMW-5518.pdf',
  'ORDER-DD-MAR-26': 'ORDER-DD-MAR-26.pdf',
  'ITB-2026-4-G-LIN': 'ITB-2026-4-G-LIN.pdf',
};

/** The dates on the paper, where the ledger has another. */
const ON_PAPER: Record<string, string> = { 'HMW-5518': '2026-06-11' };

/** All documents, in date order. */
export function demoDocuments(): DemoDocument[] {
  const entries = ledgerNow().sort((a, b) =>
    a.date === b.date ? (a.number < b.number ? -1 : 1) : a.date < b.date ? -1 : 1,
  );
  const documents = new Map<string, DemoDocument>();
  const orders = new Map<string, DemoDocument>();
  const waiting = new Map<string, { number: string; left: number }[]>(BY_AGE.map((account) => [account, []]));
  for (const entry of entries) {
    if (entry.documentType === 'grant letter') documents.set(entry.document as string, grantLetter(entry));
    for (const line of entry.lines) {
      const debit = CONTROLS[line.account];
      if (debit === undefined) continue;
      const owed = debit ? line.amount : -line.amount;
      const opening = entry.kind === 'opening';
      if (line.account === '2122' && entry.documentType !== 'invoice') continue; // the month's revaluation is no document
      const own = { counterparty: entry.counterparty, account: line.account, description: entry.description };
      if (owed > 0) {
        const number = entry.document ?? (opening ? `${entry.number}/${line.account}` : entry.number);
        const date = ON_PAPER[number] ?? entry.date;
        const type = entry.documentType ?? (opening ? 'balance brought forward' : 'voucher');
        const document: DemoDocument = {
          number,
          type,
          date,
          due: entry.dueDate ? addDays(date, 30) : undefined,
          amount: owed,
          ...own,
          settles: [],
        };
        if (SCANNED[number]) document.attachment = SCANNED[number];
        const project =
          line.account === '2122'
            ? entry.lines.find((l) => l.dims?.project?.startsWith('DD-'))?.dims?.project
            : undefined;
        if (project) document.settles.push({ number: billed(orders, project, document), amount: owed });
        documents.set(number, document);
        waiting.get(line.account)?.push({ number, left: owed });
      } else if (entry.documentType === 'credit note') {
        documents.set(entry.document as string, {
          number: entry.document as string,
          type: 'credit note',
          date: entry.date,
          amount: -owed,
          ...own,
          settles: [],
        });
      } else {
        const paid = -owed;
        const matched = entry.document
          ? [{ number: entry.document, amount: paid }]
          : oldest(waiting.get(line.account) ?? [], paid);
        documents.set(entry.number, {
          number: entry.number,
          type: debit ? 'receipt' : 'payment',
          date: entry.date,
          amount: paid,
          ...own,
          settles: matched,
        });
      }
    }
  }
  return [...orders.values(), ...documents.values()].sort((a, b) =>
    a.date === b.date ? (a.number < b.number ? -1 : 1) : a.date < b.date ? -1 : 1,
  );
}

/** The posted entries of the ferries as they are after the second delivery of two months. */
function ledgerNow(): DemoEntry[] {
  const first = [...demoWorld()].filter((e) => e.entity === RESTATED.entity && e.status !== 'unposted');
  const again = [...restated(first)];
  const kept = first.filter((e) => e.date < RESTATED.from || e.date > RESTATED.to || e.period);
  return [...kept, ...again];
}

/** A letter that promises money is a document too, though nobody owes it back. */
function grantLetter({ document = '', date, counterparty, description, lines }: DemoEntry): DemoDocument {
  const scan = SCANNED[document];
  const amount = Math.max(...lines.map((l) => l.amount));
  return {
    number: document,
    type: 'grant letter',
    date,
    counterparty,
    amount,
    description,
    settles: [],
    ...(scan ? { attachment: scan } : {}),
  };
}

/** The yard's docking orders: each grows by the stages that were billed against it. */
function billed(orders: Map<string, DemoDocument>, project: string, invoice: DemoDocument): string {
  const number = `ORDER-${project}`;
  const held = orders.get(number);
  if (held) held.amount += invoice.amount;
  else
    orders.set(number, {
      number,
      type: 'order',
      date: addDays(invoice.date, -24),
      amount: invoice.amount,
      counterparty: invoice.counterparty,
      settles: [],
      description: `Dry-docking ${project.slice(3)}, all stages`,
      ...(SCANNED[number] ? { attachment: SCANNED[number] } : {}),
    });
  return number;
}

/** Takes a payment off what has waited longest. */
function oldest(waiting: { number: string; left: number }[], paid: number): DemoDocument['settles'] {
  const matched: DemoDocument['settles'] = [];
  let rest = paid;
  while (rest > 0 && waiting[0]) {
    const [first] = waiting;
    const amount = Math.min(rest, first.left);
    matched.push({ number: first.number, amount });
    first.left -= amount;
    rest -= amount;
    if (first.left === 0) waiting.shift();
  }
  return matched;
}
