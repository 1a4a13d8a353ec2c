import { addDays } from '@/core/dates';
import type { DemoDocument, DemoDocumentLine } from './document';
import type { DemoEntry } from './entry';
import { orderPapers } from './orders';
import { BILLS_CONTRACT, storyPapers } from './paperStories';
import { RESTATED, restated } from './restate';
import { demoWorld } from './world/demoWorld';

/** The companies of which documents are at hand: the ferries and the yard. */
export type Documented = 'KSF' | 'NHS';

/** Control accounts, and whether they are in debit. */
const CONTROLS: Record<Documented, Record<string, boolean>> = {
  KSF: { '1310': true, '2110': false, '2111': false, '2122': false },
  NHS: { '1312': true, '1321': true, '2110': false },
};
/** Payments of these are matched to the oldest invoices, as the supplier run pays them; the yard's customers pay so too. */
const BY_AGE = ['2110', '2111', '1312'];

/** Documents of which the scan is at hand, with the name of its file. */
const SCANNED: Record<string, string> = {
  'NS-20631': 'NS-20631.pdf',
  'NS-2063I': 'NS-20631.pdf',
  'SB-77120': 'SB-77120.pdf',
  'HMW-5518': 'HMW-5518.pdf',
  'ORDER-DD-MAR-26': 'ORDER-DD-MAR-26.pdf',
  'ITB-2026-4-G-LIN': 'ITB-2026-4-G-LIN.pdf',
  'BSW-3391': 'BSW-3391.pdf',
  'BSW-3420': 'BSW-3420.pdf',
};

/** The dates on the paper, where the ledger has another. */
const ON_PAPER: Record<string, string> = { 'HMW-5518': '2026-06-11' };

/** The documents of a company, in date order: what its control accounts are made of, with orders, what settled what, and scans of some. */
export function demoDocuments(entity: Documented): DemoDocument[] {
  const entries = ledgerNow(entity).sort(inOrder);
  const controls = CONTROLS[entity];
  // What is paid by itself does not wait for the run.
  const alone = new Set(entries.flatMap((e) => (e.documentType === 'payment' && e.document ? [e.document] : [])));
  const documents = new Map<string, DemoDocument>();
  const orders = new Map<string, DemoDocument>();
  const waiting = new Map<string, { number: string; left: number }[]>(BY_AGE.map((account) => [account, []]));
  for (const entry of entries) {
    if (entry.documentType === 'grant letter') documents.set(entry.document as string, grantLetter(entry));
    for (const line of entry.lines) {
      const debit = controls[line.account];
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
        // What the yard sent it has no scan of.
        const written = writtenLines(entry);
        if (written.length > 0) document.lines = written;
        if (SCANNED[number] && entity === 'KSF') document.attachment = SCANNED[number];
        const project =
          line.account === '2122'
            ? entry.lines.find((l) => l.dims?.project?.startsWith('DD-'))?.dims?.project
            : undefined;
        if (project) document.settles.push({ number: billed(orders, project, document), amount: owed });
        const contract = BILLS_CONTRACT.get(number);
        if (contract) document.settles.push(contract);
        documents.set(number, document);
        if (!alone.has(number)) waiting.get(line.account)?.push({ number, left: owed });
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
  const booked = [...orders.values(), ...documents.values()];
  const papers =
    entity === 'KSF' ? [...storyPapers(), ...orderPapers(), ...goodsOrdered(booked)] : yardContracts(booked);
  return [...booked, ...papers].sort(inOrder);
}

const inOrder = (a: { date: string; number: string }, b: { date: string; number: string }): number =>
  a.date === b.date ? (a.number < b.number ? -1 : 1) : a.date < b.date ? -1 : 1;

/** The posted entries of a company as they are after the second delivery of two months. */
function ledgerNow(entity: Documented): DemoEntry[] {
  const first = [...demoWorld()].filter((e) => e.entity === entity && e.status !== 'unposted');
  if (entity !== RESTATED.entity) return first;
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

/** What an invoice says line by line: what it was booked for, with the tax on it. */
function writtenLines({ documentType, description, lines }: DemoEntry): DemoDocumentLine[] {
  if (documentType !== 'invoice') return [];
  return lines.flatMap((line) => {
    const { tax, quantity } = line;
    if (!tax) return [];
    const amount = Math.abs(line.amount);
    const text = line.account === '4213' ? 'Fuel surcharge' : (line.description ?? description);
    return [{ description: text, amount, tax, ...(quantity ? { quantity } : {}) }];
  });
}

/** Goods for the café are ordered, come, and are billed; the orders of this year are at hand, and what was signed for. */
function goodsOrdered(booked: readonly DemoDocument[]): DemoDocument[] {
  return booked
    .filter((d) => d.counterparty?.[0] === 'S-CAF' && d.type === 'invoice' && d.date >= '2026-04-01')
    .flatMap((invoice, i) => {
      const at = String(i + 1).padStart(3, '0');
      const [order, receipt] = [`GO-${at}`, `GR-${at}`];
      invoice.settles.push({ number: order, amount: invoice.amount }, { number: receipt, amount: invoice.amount });
      const own = { amount: invoice.amount, counterparty: invoice.counterparty, lines: goodsOf(invoice.amount) };
      return [
        {
          ...{ ...own, number: order, type: 'order', date: addDays(invoice.date, -11), settles: [] },
          description: 'Café goods ordered',
        },
        {
          ...{ ...own, number: receipt, type: 'receipt of goods', date: addDays(invoice.date, -4) },
          ...{ description: 'Café goods, signed for on board', settles: [{ number: order, amount: 0 }] },
        },
      ];
    });
}

const GOODS: readonly [name: string, unit: string, price: number, share: number][] = [
  ['Coffee, roasted', 'kg', 1_180, 3],
  ['Rolls and pastry', 'tray', 860, 4],
  ['Soup, frozen', 'case', 2_240, 2],
];

/** What was ordered for an amount: whole numbers of each, and what is left over as carriage. */
function goodsOf(amount: number): DemoDocumentLine[] {
  const shares = GOODS.reduce((all, [, , , share]) => all + share, 0);
  const rows = GOODS.map(([description, unit, price, share]): DemoDocumentLine => {
    const count = Math.floor((amount * share) / shares / price);
    return { description, amount: count * price, quantity: [count, unit], price };
  });
  const rest = amount - rows.reduce((all, row) => all + row.amount, 0);
  return [...rows, { description: 'Carriage', amount: rest }];
}

/** So many invoices of a customer and year are stages of one contract of the yard. */
const STAGES = 3;

/** What the yard agreed with its customers: an estimate, the contract after it, a change order, and the stages billed of it. */
function yardContracts(booked: readonly DemoDocument[]): DemoDocument[] {
  const stages = new Map<string, DemoDocument[]>();
  for (const invoice of booked) {
    const [customer] = invoice.counterparty ?? [];
    if (!customer?.startsWith('Y-') || invoice.type !== 'invoice') continue;
    const key = `${customer.slice(2)}-${invoice.date.slice(0, 4)}`;
    const held = stages.get(key) ?? [];
    stages.set(key, held);
    if (held.length < STAGES) held.push(invoice);
  }
  return [...stages].flatMap(([key, invoices]) => {
    const [first, second] = invoices as [DemoDocument, DemoDocument];
    const billed = invoices.reduce((all, { amount }) => all + amount, 0);
    const [estimate, contract, change] = [`EST-${key}`, `CON-${key}`, `CO-${key}`];
    const extra = Math.round(billed / 12);
    // Of this year's contracts a stage is still to come.
    const agreed = billed - extra + (first.date > '2026' ? Math.round(billed / 4) : 0);
    for (const invoice of invoices) invoice.settles.push({ number: contract, amount: invoice.amount });
    const own = {
      counterparty: first.counterparty,
      description: `Refit in ${STAGES} stages, ${first.counterparty?.[1]}`,
    };
    return [
      { ...own, number: estimate, type: 'estimate', date: addDays(first.date, -45), amount: agreed, settles: [] },
      {
        ...{ ...own, number: contract, type: 'contract', date: addDays(first.date, -20), amount: agreed },
        settles: [{ number: estimate, amount: agreed }],
      },
      {
        ...{ ...own, number: change, type: 'change order', date: second.date, amount: extra },
        ...{ description: 'Steel beyond what was agreed', settles: [{ number: contract, amount: extra }] },
      },
    ];
  });
}

/** The docking orders of the ferries: each grows by the stages that were billed against it. */
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
