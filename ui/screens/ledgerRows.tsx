'use client';

import type { LineRow } from '@/contracts/answers/lines';
import { lineSubject } from '@/contracts/subject';
import { isSort } from '@/core/lineFields';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import { amountText } from '../amounts';
import { documentPath } from '../documents/address';
import { isValue } from '../scope/clauses';
import type { Column } from '../sheet/gridModel';
import type { SheetRow } from '../sheet/model';
import { NamedAccount } from './NamedAccount';
import { entryStep, positionOf } from './steps';

const AMOUNT = 'minmax(96px, 112px)';
/** Dimensions whose members have a position: what they received, spent, and have left. */
const POSITIONED = /fund|project/i;

export const OPENING = '~opening';

const text = (key: string, label: string, more: Partial<Column> = {}): Column => ({
  key,
  label,
  width: 'minmax(84px, 0.6fr)',
  onRequest: true,
  ...more,
});
const amount = (key: string, label: string, more: Partial<Column> = {}): Column => ({
  key,
  label,
  width: AMOUNT,
  amount: true,
  ...more,
});

/**
 * Every column of the ledger; what is not on every screen is there on request.
 * @param taxed whether the lines are asked for by their tax code: then the tax on them is what is looked for
 */
export const columnsOf = (
  oneAccount: boolean,
  dimensions: readonly { code: string; name: string }[],
  taxed: boolean,
): Column[] =>
  everyColumn(oneAccount, dimensions, taxed).map((column) => ({ ...column, sortable: isSort(column.key) }));

const everyColumn = (
  oneAccount: boolean,
  dimensions: readonly { code: string; name: string }[],
  taxed: boolean,
): Column[] => [
  { key: 'date', label: 'Date', width: '92px' },
  text('period', 'Period', { width: '72px' }),
  { key: 'entry', label: 'Entry', width: 'minmax(90px, 0.5fr)' },
  text('line', 'Line', { width: '48px' }),
  text('journal', 'Journal', { width: '72px' }),
  ...(oneAccount ? [] : [{ key: 'account', label: 'Account', width: 'minmax(90px, 0.8fr)' }]),
  { key: 'description', label: 'Description', width: 'minmax(110px, 1.2fr)' },
  text('entryDescription', 'Entry description', { width: 'minmax(110px, 1fr)' }),
  text('document', 'Document'),
  text('documentType', 'Document type'),
  text('documentDate', 'Document date', { width: '92px' }),
  text('dueDate', 'Due', { width: '92px' }),
  text('counterparty', 'Counterparty'),
  ...dimensions.map((d) => text(`dim:${d.code}`, d.name)),
  text('postedBy', 'Posted by'),
  text('approvedBy', 'Approved by'),
  text('enteredAt', 'Entered', { width: '130px' }),
  text('source', 'Source', { hint: 'The unit or system that raised the entry.' }),
  text('taxCode', 'Tax code', { width: '72px' }),
  text('partnerEntity', 'Partner company', { width: '72px' }),
  text('reversalOf', 'Takes back'),
  text('attachment', 'File'),
  text('entity', 'Company', { width: '72px' }),
  text('load', 'Load', { width: '56px' }),
  { key: 'other', label: 'Other side', width: 'minmax(90px, 0.9fr)' },
  amount('taxAmount', 'Tax', { width: '96px', onRequest: !taxed }),
  amount('quantity', 'Quantity', { width: '84px', onRequest: true }),
  amount('unitPrice', 'Unit price', { width: '92px', onRequest: true, hint: 'The amount over the quantity.' }),
  amount('currencyAmount', 'Transaction amount', {
    onRequest: true,
    width: '148px',
    hint: 'In the currency of the transaction, beside the books’ own.',
  }),
  amount('debit', 'Debit'),
  amount('credit', 'Credit'),
  amount('balance', 'Balance'),
];

/** @param carries false where the ledger begins at nothing, whatever was there */
export const openingRow = (amount: string, address: string, carries = true): SheetRow => ({
  key: OPENING,
  label: 'Opening',
  look: 'quiet',
  cells: { description: carries ? 'Opening balance' : 'Opening balance not carried', balance: amountText(amount) },
  subject: null,
  put: null,
  step: () => null,
  say: () =>
    carries
      ? `What stood there before ${beginningOf(address)}.`
      : 'The ledger begins at nothing here; Opening balances, above, carries what stood there.',
});

/** Where the window of an address begins, in words. */
function beginningOf(address: string): string {
  const from = new URLSearchParams(address).get('from');
  if (from === null) return 'the first line';
  return from.includes('-') ? dateText(from) : `period ${from}`;
}

export const rolledRow = (roll: string, closing: string): SheetRow => ({
  key: '~roll',
  label: 'Rolled over at year ends',
  look: 'quiet',
  cells: {
    description: 'Rolled over to retained earnings at year ends',
    balance: amountText(closing),
    debit: roll.startsWith('-') ? '–' : amountText(roll),
    credit: roll.startsWith('-') ? amountText(roll.slice(1)) : '–',
  },
  subject: null,
  put: null,
  step: () => null,
  say: () => 'Income and expense begin each fiscal year at nothing.',
});

export function lineRow(line: LineRow, currency: string): SheetRow {
  const [first] = line.otherSide;
  const step = entryStep(line);
  const dims = line.dims.map((d) => `${d.dimensionName.toLowerCase()} ${d.name}`).join(', ');
  const foreign =
    line.currency && line.currency !== currency && line.currencyAmount
      ? `; ${amountText(line.currencyAmount)} ${line.currency}`
      : '';
  const quantity = line.quantity ? `; ${line.quantity} ${line.unit ?? ''}` : '';
  return {
    key: line.id,
    label: `${line.entry} line ${line.line}`,
    opens: true,
    cells: {
      date: dateText(line.date),
      period: line.period,
      entry: line.outOfOrder ? <OutOfOrder entry={line.entry} /> : line.entry,
      line: line.line,
      journal: line.journal,
      document: line.document,
      documentType: line.extra.document_type,
      documentDate: line.extra.document_date && dateText(line.extra.document_date),
      dueDate: line.extra.due_date && dateText(line.extra.due_date),
      taxCode: line.extra.tax_code,
      taxAmount: line.extra.tax_amount && amountText(line.extra.tax_amount),
      source: line.source,
      partnerEntity: line.extra.partner_entity,
      reversalOf: line.reversalOf,
      attachment: line.extra.attachment,
      counterparty: line.counterparty,
      postedBy: line.postedBy,
      approvedBy: line.approvedBy,
      enteredAt: line.enteredAt,
      entryDescription: line.entryDescription,
      entity: line.entity,
      load: line.load,
      ...Object.fromEntries(line.dims.map((d) => [`dim:${d.dimension}`, d.name])),
      quantity: line.quantity && `${line.quantity}${line.unit ? ` ${line.unit}` : ''}`,
      unitPrice: line.unitPrice && amountText(line.unitPrice),
      currencyAmount: line.currencyAmount && `${amountText(line.currencyAmount)} ${line.currency ?? ''}`,
      account: <NamedAccount code={line.account} name={line.accountName} />,
      description: (
        <>
          {line.description}
          {line.status === 'unposted' && <Tag>not posted</Tag>}
          {line.kind !== 'normal' && <Tag>{line.kind}</Tag>}
        </>
      ),
      other: first && (
        <>
          <span className="mr-2 inline-block min-w-9 text-faint">{first.account}</span>
          {first.name}
          {line.otherSide.length + line.otherSideMore > 1 && (
            <span className="text-faint"> +{line.otherSide.length + line.otherSideMore - 1}</span>
          )}
        </>
      ),
      debit: amountText(line.debit),
      credit: amountText(line.credit),
      balance: line.running === null ? '' : amountText(line.running),
    },
    subject: lineSubject(line),
    put: { accounts: [line.account], document: line.document ? [line.document] : [] },
    amounts: {
      debit: line.debit,
      credit: line.credit,
      balance: line.amount,
      ...(line.currencyAmount ? { currencyAmount: line.currencyAmount } : {}),
    },
    only: (column) => onlyOf(line, column),
    ...(line.counterparty
      ? { party: { entity: line.entity, code: line.counterparty, account: line.account, date: line.date } }
      : {}),
    links: [
      ...(line.document ? [{ name: `Document ${line.document}`, href: documentPath(line.entity, line.document) }] : []),
      ...line.dims
        .filter((d) => POSITIONED.test(d.dimension))
        .map((d) => ({ name: `Position of ${d.name}`, href: positionOf(line.entity, d.dimension, line.period) })),
    ],
    step: () => step,
    say: () =>
      [
        `Period ${line.period}`,
        line.journal && `journal ${line.journal}`,
        line.document && `document ${line.document}`,
        line.counterparty && `with ${line.counterparty}`,
        line.postedBy && `posted by ${line.postedBy}`,
        dims,
        line.entryDescription !== line.description && `“${line.entryDescription}”`,
      ]
        .filter(Boolean)
        .join(', ') +
      foreign +
      quantity,
  };
}

/** What narrows the scope to lines with the same value in a column. */
function onlyOf(line: LineRow, column: string): Record<string, string[]> | null {
  if (column.startsWith('dim:')) {
    const code = column.slice('dim:'.length);
    return { [`dim.${code}`]: [line.dims.find((d) => d.dimension === code)?.code ?? '~none'] };
  }
  const named: Record<string, [name: string, value: string | null | undefined]> = {
    date: ['day', line.date],
    period: ['period', line.period],
    entry: ['entry', line.entry],
    journal: ['journal', line.journal],
    account: ['accounts', line.account],
    document: ['document', line.document],
    documentType: ['documentType', line.extra.document_type],
    taxCode: ['taxCode', line.extra.tax_code],
    documentDate: ['documentDate', line.extra.document_date],
    dueDate: ['dueDate', line.extra.due_date],
    approvedBy: ['approvedBy', line.approvedBy],
    enteredAt: ['enteredAt', line.enteredAt],
    source: ['source', line.source],
    partnerEntity: ['partnerEntity', line.extra.partner_entity],
    reversalOf: ['reversalOf', line.reversalOf],
    attachment: ['attachment', line.extra.attachment],
    description: ['description', line.description],
    entryDescription: ['entryDescription', line.entryDescription],
    line: ['line', String(line.line)],
    quantity: ['quantity', line.quantity],
    unitPrice: ['unitPrice', line.unitPrice],
    taxAmount: ['taxAmount', line.extra.tax_amount?.replace('-', '')],
    counterparty: ['counterparty', line.counterparty],
    postedBy: ['postedBy', line.postedBy],
    entity: ['entity', line.entity],
  };
  const found = named[column];
  if (found) return { [found[0]]: [found[1] ? (isValue(found[0]) ? exactly(found[1]) : found[1]) : '~none'] };
  if (column === 'currencyAmount') {
    const size = line.currencyAmount === null ? '~none' : line.currencyAmount.replace('-', '');
    return { currency: [line.currency ?? '~none'], currencyAmount: [size] };
  }
  if (column === 'debit' || column === 'credit' || column === 'balance') {
    const size = line.amount.replace('-', '');
    return { min: [size], max: [size] };
  }
  return null;
}

const OutOfOrder = ({ entry }: { entry: string }) => (
  <span title="By its date it stands among entries whose numbers it does not lie between">
    <span aria-hidden className="mr-1 text-[12px] text-warn">
      ⇅
    </span>
    <span className="sr-only">out of order: </span>
    {entry}
  </span>
);

export const Tag = ({ children }: { children: string }) => (
  <span className="ml-2 rounded-[2px] bg-warnground px-1.5 py-px text-[12.5px] text-warn">{children}</span>
);
