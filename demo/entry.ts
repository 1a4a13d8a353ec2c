import { lastOfMonth } from '@/core/dates';

/** A journal entry of the demo world, before it is written as rows of a file. Amounts in minor units, debit positive. */
export interface DemoEntry {
  entity: 'KSF' | 'STL' | 'NHS';
  number: string;
  date: string;
  journal: string;
  description: string;
  lines: DemoLine[];
  postedBy: string;
  approvedBy?: string;
  /** The day on which it was entered, where that is another; and the time. */
  enteredAt?: string;
  time?: string;
  status?: 'posted' | 'unposted';
  kind?: 'normal' | 'opening' | 'adjustment' | 'reversal' | 'revaluation';
  /** Period number and fiscal year, where the source gives them. */
  period?: [number: number, year: number];
  document?: string;
  documentType?: string;
  documentDate?: string;
  dueDate?: string;
  counterparty?: [code: string, name: string];
  reversalOf?: string;
}

export interface DemoLine {
  account: string;
  amount: number;
  description?: string;
  dims?: Partial<Record<'costcentre' | 'vessel' | 'route' | 'project' | 'fund' | 'partner', string>>;
  /** Transaction currency and amount in its minor units. */
  currency?: [code: string, amount: number];
  quantity?: [number: number, unit: string];
  /** Tax code and the tax on the line, in minor units. */
  tax?: [code: string, amount: number];
}

export const COLUMNS = [
  'entity',
  'entry',
  'line',
  'date',
  'account',
  'debit',
  'credit',
  'description',
  'period',
  'year',
  'journal',
  'entry_description',
  'document',
  'document_type',
  'document_date',
  'due_date',
  'counterparty',
  'counterparty_name',
  'currency',
  'currency_amount',
  'tax_code',
  'tax_amount',
  'quantity',
  'unit',
  'status',
  'posted_by',
  'entered_at',
  'approved_by',
  'reversal_of',
  'source',
  'kind',
  'reconciled',
  'dim:costcentre',
  'dim:vessel',
  'dim:route',
  'dim:project',
  'dim:fund',
  'dim:partner',
];

/** Where entries come from, by who posts them; the others are written at the head office. */
const SOURCES: Record<string, string> = {
  ticketing: 'Ticket office',
  tills: 'Terminals',
  terminals: 'Terminals',
  cashier07: 'Terminals',
  bank: 'Treasury',
  payroll: 'Payroll office',
  slip: 'Yard',
  purchase: 'Purchasing',
  mhald: 'Purchasing',
};

/** The entry as rows of our own lines file. */
export function rowsOf(entry: DemoEntry): string {
  let rows = '';
  entry.lines.forEach((line, i) => {
    const { dims = {} } = line;
    const cells = [
      entry.entity,
      entry.number,
      i + 1,
      entry.date,
      line.account,
      line.amount >= 0 ? money(line.amount) : '',
      line.amount < 0 ? money(-line.amount) : '',
      line.description ?? entry.description,
      entry.period?.[0],
      entry.period?.[1],
      entry.journal,
      entry.description,
      entry.document,
      entry.documentType,
      entry.documentDate,
      entry.dueDate,
      entry.counterparty?.[0],
      entry.counterparty?.[1],
      line.currency?.[0],
      line.currency && money(line.currency[1]),
      line.tax?.[0],
      line.tax && money(line.tax[1]),
      line.quantity?.[0],
      line.quantity?.[1],
      entry.status,
      entry.postedBy,
      `${entry.enteredAt ?? entry.date}T${timeEntered(entry)}`,
      entry.approvedBy ?? approverOf(entry),
      entry.reversalOf,
      SOURCES[entry.postedBy] ?? 'Head office',
      entry.kind,
      reconciledWith(entry, line),
      dims.costcentre,
      dims.vessel,
      dims.route,
      dims.project,
      dims.fund,
      dims.partner,
    ];
    rows += `${cells.map(cell).join(',')}\n`;
  });
  return rows;
}

/** In which hours each part of the house enters: machines by night, tills in the evening, the yard when the slip is clear. */
const HOURS: Record<string, readonly number[]> = {
  ...{ bank: [6], ticketing: [23], tills: [21, 22], terminals: [21, 22], cashier07: [22] },
  ...{ payroll: [2], slip: [16, 17], purchase: [19] },
};
const OFFICE_HOURS = [8, 9, 9, 10, 10, 10, 11, 11, 12, 13, 14, 14, 15, 15, 16, 16, 17] as const;

/** The time of the day at which it was entered, the same for the same number always. */
function timeEntered({ number, postedBy, time }: DemoEntry): string {
  if (time) return time;
  let hash = 0;
  for (const letter of `${postedBy}${number}`) hash = (hash * 31 + letter.charCodeAt(0)) % 1_000_003;
  const hours = HOURS[postedBy] ?? OFFICE_HOURS;
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${two(hours[hash % hours.length] as number)}:${two(hash % 60)}`;
}

/** From here on an invoice needs the controller's approval, in minor units. */
const APPROVAL_LIMIT = 500_000;

/** Who approved a supplier's invoice: the controller where it is large, else one of two others. */
function approverOf({ journal, lines, number }: DemoEntry): string | undefined {
  if (journal !== 'PI') return undefined;
  const owed = lines.reduce((all, { amount }) => all + Math.max(amount, 0), 0);
  return owed >= APPROVAL_LIMIT ? 'ihallam' : Number(number.at(-1)) % 2 === 0 ? 'sberg' : 'lmoe';
}

/** Bank accounts are reconciled with the statement of each month up to this one. */
const RECONCILED_TO = '2026-08';

/** The bank statement that a line was ticked off with. What was paid on the last two days of a month is on the next. */
function reconciledWith({ date, status }: DemoEntry, { account }: DemoLine): string | undefined {
  if (!/^152/.test(account) || status === 'unposted') return undefined;
  const [year, month] = [Number(date.slice(0, 4)), Number(date.slice(5, 7))];
  const late = lastOfMonth(year, month).slice(8) <= String(Number(date.slice(8)) + 1).padStart(2, '0');
  const on = late ? new Date(Date.UTC(year, month, 1)).toISOString().slice(0, 7) : date.slice(0, 7);
  return on > RECONCILED_TO ? undefined : `BS-${on}`;
}

/** Minor units as a decimal number. */
export const money = (minor: number): string =>
  `${minor < 0 ? '-' : ''}${Math.floor(Math.abs(minor) / 100)}.${String(Math.abs(minor) % 100).padStart(2, '0')}`;

const cell = (value: string | number | undefined): string => {
  const text = value === undefined ? '' : String(value);
  return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};
