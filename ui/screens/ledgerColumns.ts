import type { PartOfLines } from '@/contracts/traced';
import { isSort, LINE_FIELDS, type LineField } from '@/core/lineFields';
import { amountWidth, type Column } from '../sheet/gridModel';

/** What is before the dimensions, in this order; what a line has beyond it follows in the order of the list of fields. */
const FIRST = [
  'postingDate',
  'period',
  'entry',
  'line',
  'journal',
  'account',
  'description',
  'entryDescription',
  'document',
  'documentType',
  'documentDate',
  'dueDate',
  'counterparty',
];

/** On every screen; the others are there on request. */
const ALWAYS = ['postingDate', 'entry', 'account', 'description'];

const WIDTHS: Record<string, string> = {
  entry: 'minmax(118px, 0.5fr)',
  account: 'minmax(90px, 0.8fr)',
  counterparty: 'minmax(90px, 0.8fr)',
  description: 'minmax(110px, 1.2fr)',
  entryDescription: 'minmax(110px, 1fr)',
  line: '48px',
  period: '72px',
  journal: '72px',
  taxCode: '72px',
  partnerEntity: '72px',
  entity: '72px',
  enteredAt: '130px',
  quantity: '84px',
  unitPrice: '92px',
  taxAmount: '96px',
  currencyAmount: '148px',
};

const HINTS: Record<string, string> = {
  source: 'The unit or system that raised the entry.',
  unitPrice: 'The amount over the quantity.',
  currencyAmount: 'In the currency of the transaction, beside the books’ own.',
};

const TEXT_WIDTH = 'minmax(84px, 0.6fr)';
const DATE_WIDTH = '92px';
const AMOUNT_WIDTH = amountWidth(116);

/** A word as the head of a column begins with it. */
export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

const isFigure = ({ holds }: LineField): boolean => holds === 'number' || holds === 'amount';

/** The column of a field in a ledger: the day of posting is its date. */
export const columnOf = ({ name }: Pick<LineField, 'name'>): string => (name === 'postingDate' ? 'date' : name);

/** The fields that a ledger has columns of, but for debit, credit and balance. */
export const COLUMN_FIELDS: readonly LineField[] = LINE_FIELDS.filter((f: LineField) => f.heading !== null);

/** What is shown of the lines. */
interface LedgerView {
  /** All lines are of one account, which is not said on each of them. */
  oneAccount: boolean;
  /** Lines are asked for by their tax code: then the tax on them is what is looked for. */
  taxed?: boolean;
  /** The part of each line that was traced. */
  part?: PartOfLines | undefined;
  /** Balances run from nothing instead of from what was there. */
  running?: boolean;
  /** Another currency than that of the books, in which lines are worth something. */
  worthIn?: string | undefined;
}

const PARTS: Record<PartOfLines, Pick<Column, 'label' | 'hint'>> = {
  allotted: {
    label: 'Of this, allotted',
    hint: 'What of the line is allotted to the accounts on the other side that the sentence names; of an entry with several lines on both sides each has its share.',
  },
  tax: { label: 'Tax on it', hint: 'The tax on the line, on the side of the line.' },
};

/** Every column of the ledger, from what a line has. */
export function ledgerColumns(
  { oneAccount, taxed, part, running, worthIn }: LedgerView,
  dimensions: readonly { code: string; name: string }[],
): Column[] {
  const column = (field: LineField): Column => ({
    key: columnOf(field),
    label: field.heading ?? field.name,
    width: WIDTHS[field.name] ?? (isFigure(field) ? AMOUNT_WIDTH : field.holds === 'date' ? DATE_WIDTH : TEXT_WIDTH),
    ...(isFigure(field) ? { amount: true } : {}),
    ...(ALWAYS.includes(field.name) || (taxed && part !== 'tax' && field.name === 'taxAmount')
      ? {}
      : { onRequest: true }),
    ...(HINTS[field.name] ? { hint: HINTS[field.name] } : {}),
  });
  const fields = COLUMN_FIELDS.filter((f) => !(oneAccount && f.name === 'account'));
  const first = FIRST.flatMap((name) => fields.filter((f) => f.name === name));
  const others = fields.filter((f) => !FIRST.includes(f.name));
  return [
    ...first.map(column),
    ...dimensions.map((d): Column => ({ key: `dim:${d.code}`, label: d.name, width: TEXT_WIDTH, onRequest: true })),
    ...others.filter((f) => !isFigure(f)).map(column),
    { key: 'load', label: 'Load', width: '56px', onRequest: true },
    { key: 'other', label: 'Other side', width: 'minmax(90px, 0.9fr)' },
    ...others.filter(isFigure).map(column),
    ...(['debit', 'credit', 'balance'] as const).map((key) => ({
      key,
      label: key === 'balance' && running ? 'Running' : capital(key),
      width: AMOUNT_WIDTH,
      amount: true,
      ...(key === 'balance' && running ? { hint: 'What moved up to and with the line.' } : {}),
      // What whole lines come to is not what is looked for where a part of each is.
      ...(key === 'balance' && part ? { onRequest: true } : {}),
    })),
    ...(part ? [{ key: 'part', ...PARTS[part], width: AMOUNT_WIDTH, amount: true }] : []),
    ...(worthIn
      ? [
          {
            key: 'worth',
            label: `In ${worthIn}`,
            hint: 'Income and expense at the average rate of their period, all else at the rate of the day.',
            width: AMOUNT_WIDTH,
            amount: true,
          },
        ]
      : []),
  ].map((c) => ({ ...c, sortable: isSort(c.key) }));
}
