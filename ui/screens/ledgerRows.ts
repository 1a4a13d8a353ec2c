import type { SentencePart } from '@/contracts/answers/head';
import type { LineRow } from '@/contracts/answers/lines';
import { lineSubject } from '@/contracts/subject';
import { FIRST_SET } from '@/core/figure';
import type { LineField } from '@/core/lineFields';
import { hasPosition } from '@/core/position';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import { amountText } from '../amounts';
import { accountCell, amountCell, type Cell } from '../sheet/cell';
import type { Paper, SheetRow } from '../sheet/model';
import { COLUMN_FIELDS, columnOf } from './ledgerColumns';
import { documentStep, entryStep, positionStep } from './steps';

export const OPENING = '~opening';

/**
 * @param carries false where the ledger begins at nothing, whatever was there
 * @param worth the opening in another currency than that of the books
 */
export const openingRow = (amount: string, address: string, carries = true, worth?: string): SheetRow => ({
  key: OPENING,
  label: 'Opening',
  look: 'quiet',
  cells: {
    description: carries ? 'Opening balance' : 'Opening balance not carried',
    balance: amountCell(amount),
    worth: amountCell(worth),
  },
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

/** What brings the worth of lines to the figure in another currency. */
export const ratesRow = (amount: string): SheetRow => ({
  key: '~rates',
  label: 'By rates and rounding',
  look: 'quiet',
  cells: { description: 'By rates since, and rounding', worth: amountCell(amount) },
  subject: null,
  put: null,
  step: () => null,
  say: () =>
    'A balance stands at the rate of the last day, its lines at the rates of their own days; each is rounded by itself.',
});

/** @param worth the same in another currency than that of the books */
export const rolledRow = (roll: string, closing: string, worth?: string): SheetRow => ({
  key: '~roll',
  label: 'Rolled over at year ends',
  look: 'quiet',
  cells: {
    description: 'Rolled over to retained earnings at year ends',
    balance: amountCell(closing),
    debit: roll.startsWith('-') ? '–' : amountCell(roll),
    credit: roll.startsWith('-') ? amountCell(roll.slice(1)) : '–',
    worth: amountCell(worth),
  },
  subject: null,
  put: null,
  step: () => null,
  say: () => 'Income and expense begin each fiscal year at nothing.',
});

export function lineRow(
  line: LineRow,
  { currency, parts }: { currency: string; parts: readonly SentencePart[] },
): SheetRow {
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
    standsOut: line.standsOut,
    ...(line.proposedIn === undefined ? {} : { look: 'proposed' as const }),
    cells: {
      ...Object.fromEntries(COLUMN_FIELDS.map((field) => [columnOf(field), fieldCell(line, field)])),
      ...Object.fromEntries(line.dims.map((d) => [`dim:${d.dimension}`, d.name])),
      load: line.load,
      other: first && {
        is: 'words',
        code: first.account,
        text: first.name,
        others: line.otherSide.length + line.otherSideMore - 1,
      },
      debit: amountCell(line.debit),
      credit: amountCell(line.credit),
      balance: amountCell(line.running),
      part: line.part === undefined ? null : amountCell(line.part),
      worth: amountCell(line.worth),
    },
    subject: lineSubject(line),
    put: { accounts: [line.account], document: line.document ? [line.document] : [] },
    // Running balances are not added up; the lines' own amounts are.
    amounts: {
      balance: line.amount,
      ...(line.part ? { part: line.part } : {}),
      ...(line.worth ? { worth: line.worth } : {}),
    },
    only: (column) => onlyOf(line, column),
    ...(line.counterparty
      ? { party: { entity: line.entity, code: line.counterparty, account: line.account, date: line.date } }
      : {}),
    paper: paperOf(line),
    links: [
      // Documents are of whole books; who sees a part of them is not led to a refusal.
      ...(line.document && !parts.some((p) => p.granted)
        ? [{ name: `Document ${line.document}`, step: documentStep(line.entity, line.document) }]
        : []),
      ...line.dims
        .filter((d) => hasPosition(d.dimension))
        .map((d) => ({ name: `Position of ${d.name}`, step: positionStep(line, d), whole: true })),
    ],
    step: () => step,
    say: () =>
      [
        `Period ${line.period}`,
        line.journal && `journal ${line.journal}`,
        line.document && `document ${line.document}`,
        line.counterparty && `with ${partyText(line)}`,
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

/** The document that a line names; its amounts are also sought there as they were before they were translated, and its tax. */
export const paperOf = (line: LineRow): Paper | undefined =>
  line.document === null
    ? undefined
    : {
        entity: line.entity,
        number: line.document,
        amounts: [line.amount, line.currencyAmount, line.extra.tax_amount].flatMap((amount) => amount ?? []),
      };

/** What narrows the scope to lines with the same value in a column. */
function onlyOf(line: LineRow, column: string): Record<string, string[]> | null {
  if (column.startsWith('dim:')) {
    const code = column.slice('dim:'.length);
    return { [`dim.${code}`]: [line.dims.find((d) => d.dimension === code)?.code ?? '~none'] };
  }
  if (column === 'date') return { day: [line.date] };
  if (column === 'account') return { accounts: [line.account] };
  if (column === 'period' || column === 'entity') return { [column]: [line[column]] };
  if (column === 'currencyAmount') {
    const size = line.currencyAmount === null ? '~none' : line.currencyAmount.replace('-', '');
    return { currency: [line.currency ?? '~none'], currencyAmount: [size] };
  }
  if (column === 'debit' || column === 'credit' || column === 'balance') {
    const size = line.amount.replace('-', '');
    return { min: [size], max: [size] };
  }
  const field = COLUMN_FIELDS.find((f) => f.name === column);
  if (!field?.filter) return null;
  const value = held(line, field);
  if (!value) return { [column]: ['~none'] };
  // Tax is asked for whichever side it is on.
  return {
    [column]: [field.filter === 'value' ? exactly(value) : field.name === 'taxAmount' ? value.replace('-', '') : value],
  };
}

/** A party by code and name, where it has one beside its code. */
const partyCell = (code: string, name: string | null): Cell =>
  name === null || name === code ? code : accountCell(code, name);

export const partyText = ({ counterparty, counterpartyName }: LineRow): string =>
  [counterparty, counterpartyName === counterparty ? null : counterpartyName].filter(Boolean).join(' ');

/** What a line has in a field, as it came. */
function held(line: LineRow, { name, column, stored }: LineField): string | null {
  if (name === 'postingDate') return line.date;
  const value = stored === 'extra' ? line.extra[column] : line[name as keyof LineRow];
  return typeof value === 'string' || typeof value === 'number' ? String(value) : null;
}

/** What a line has in a field, as a ledger shows it. */
function fieldCell(line: LineRow, field: LineField): Cell {
  const value = held(line, field);
  switch (field.name) {
    case 'counterparty':
      return line.counterparty && partyCell(line.counterparty, line.counterpartyName);
    case 'account':
      return accountCell(line.account, line.accountName);
    case 'entry':
      return line.outOfOrder ? { is: 'words', text: line.entry, sign: 'out of order' } : line.entry;
    case 'description':
      return { is: 'words', text: line.description, tags: tagsOf(line) };
    case 'quantity':
      return value && `${value}${line.unit ? ` ${line.unit}` : ''}`;
    case 'currencyAmount':
      return amountCell(value, { unit: line.currency ?? '' });
  }
  if (value === null || value === '') return value;
  if (field.holds === 'date') return dateText(value);
  return field.holds === 'amount' ? amountCell(value) : value;
}

const tagsOf = ({ status, kind, outsidePeriod, onCashBasis, proposedIn }: LineRow): string[] => [
  ...(proposedIn ? [proposedIn === FIRST_SET ? 'proposed' : `proposed: ${proposedIn}`] : []),
  ...(onCashBasis ? ['cash basis'] : []),
  ...(outsidePeriod ? ['dated outside its period'] : []),
  ...(status === 'unposted' ? ['not posted'] : []),
  ...(kind === 'normal' ? [] : [kind]),
];
