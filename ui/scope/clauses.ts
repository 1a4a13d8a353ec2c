import type { Entities } from '@/contracts/answers/charts';
import { ATTRIBUTES, LINE_NUMBERS } from '@/core/figure';
import type { Sayable } from '@/core/typedClause';

/** What a clause is about, in the words of the scope. */
export interface ClauseWords {
  label: string;
  hint: string;
  /** How it is named when it is typed, such as “quantity over 100”. */
  typed?: readonly string[];
}

export const CLAUSES: Record<string, ClauseWords> = {
  accounts: { label: 'accounts', hint: 'Such as 4000 to 4999, 52*, type expense, group Vessel running, except 5210' },
  text: { label: 'words in a description', hint: 'Found in the line’s or the entry’s description, any case' },
  min: { label: 'a least amount', hint: 'Lines of this amount and over, debit or credit' },
  max: { label: 'a greatest amount', hint: 'Lines up to this amount, debit or credit' },
  begins: { label: 'first digits of amounts', hint: 'One digit or two, such as 4 or 41, whatever the sign' },
  journal: { label: 'a journal', hint: 'The journal’s code', typed: ['journal'] },
  counterparty: { label: 'a counterparty', hint: 'The counterparty’s code', typed: ['counterparty', 'party'] },
  postedBy: { label: 'posted by', hint: 'The posting user’s id', typed: ['posted by', 'user'] },
  source: { label: 'a source', hint: 'The unit or system that raised the entry', typed: ['source', 'raised by'] },
  entry: { label: 'an entry', hint: 'Its number', typed: ['entry number', 'entry'] },
  line: { label: 'a line number', hint: 'The number of the line in its entry', typed: ['line number', 'line'] },
  description: {
    label: 'a description',
    hint: 'The whole text of the line',
    typed: ['line text', 'text', 'description'],
  },
  entryDescription: {
    label: 'an entry description',
    hint: 'The whole text',
    typed: ['entry text', 'entry description'],
  },
  document: { label: 'a document number', hint: 'As booked', typed: ['document number', 'document'] },
  documentType: {
    label: 'a type of document',
    hint: 'As the ledger has it, such as invoice',
    typed: ['document type'],
  },
  documentDate: { label: 'a document date', hint: 'Such as 2026-07-31', typed: ['document date', 'dated'] },
  dueDate: { label: 'a due date', hint: 'Such as 2026-07-31', typed: ['due date', 'due'] },
  taxCode: { label: 'a tax code', hint: 'As the ledger has it', typed: ['tax code'] },
  taxAmount: { label: 'an amount of tax', hint: 'Whichever side it stands on', typed: ['tax amount', 'tax'] },
  quantity: { label: 'a quantity', hint: 'As it stands, with its sign', typed: ['quantity'] },
  unit: { label: 'a unit of quantity', hint: 'Such as l or h', typed: ['unit of quantity', 'unit'] },
  unitPrice: { label: 'a unit price', hint: 'The amount over the quantity', typed: ['unit price', 'price'] },
  currency: { label: 'a transaction currency', hint: 'Such as NOK', typed: ['transaction currency', 'currency'] },
  currencyAmount: {
    label: 'a transaction amount',
    hint: 'In the currency of the transaction, debit or credit',
    typed: ['transaction amount'],
  },
  approvedBy: { label: 'approved by', hint: 'As the ledger has it', typed: ['approved by'] },
  enteredAt: { label: 'entered on', hint: 'Such as 2026-07-31', typed: ['entered on', 'entered'] },
  enteredWhen: {
    label: 'entered at times of the week',
    hint: 'A day as sat, an hour of it as sat.14, an hour of any day as .14',
  },
  partnerEntity: { label: 'a partner company', hint: 'The company’s code', typed: ['partner company', 'partner'] },
  reversalOf: {
    label: 'a reversal of an entry',
    hint: 'The entry’s number',
    typed: ['reversal of', 'reverses'],
  },
  attachment: {
    label: 'an attachment',
    hint: 'The name of the file that came with the line',
    typed: ['attachment', 'file'],
  },
  reconciled: {
    label: 'reconciled or not',
    hint: 'The statement or mark that it was ticked off with; none for lines that are still open',
    typed: ['reconciled'],
  },
  opposite: { label: 'an account on the other side', hint: 'The account’s code' },
  kind: { label: 'a kind of line', hint: 'normal, opening, adjustment, closing, reversal or revaluation' },
  period: { label: 'a period', hint: 'Written as 2027.04' },
  month: { label: 'a month', hint: 'Written as 2026-07' },
  week: { label: 'a week', hint: 'Written as 2026-W31' },
  day: { label: 'a day', hint: 'Written as 2026-07-31' },
  load: { label: 'an earlier load', hint: 'Everything as it was as of that load’s number' },
};

/** Clauses that only a cell or a split makes, since the window says them better. */
const MADE_ELSEWHERE = ['accounts', 'period', 'month', 'week', 'day'];

/** Everything that can be added to a scope. */
export function clauseChoices(entities: Entities | undefined): { name: string; label: string }[] {
  return [
    { name: 'accounts', label: 'accounts' },
    ...(entities?.dimensions ?? []).map((d) => ({ name: `dim.${d.code}`, label: d.name.toLowerCase() })),
    ...Object.entries(CLAUSES).flatMap(([name, { label }]) => (MADE_ELSEWHERE.includes(name) ? [] : [{ name, label }])),
  ];
}

/** Clauses that can be said by their names. */
export const SAYABLE: readonly Sayable[] = Object.entries(CLAUSES).flatMap(([name, { typed }]) =>
  typed ? [{ name, words: typed, isNumber: (LINE_NUMBERS as readonly string[]).includes(name) }] : [],
);

export const isNumber = (name: string): boolean => (LINE_NUMBERS as readonly string[]).includes(name);
export const isValue = (name: string): boolean => (ATTRIBUTES as readonly string[]).includes(name);

/** Values in which a comma is a part of them: one is in a row. */
const TEXTS = ['description', 'entryDescription'];
export const isText = (name: string): boolean => TEXTS.includes(name);

/** "GL, not AP, none" ⇄ the values of the parameter; texts have a row each. */
export const valuesWritten = (text: string, name: string): string[] =>
  text
    .split(isText(name) ? '\n' : ',')
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) =>
      part
        .replace(/^(?:not|all but)\s+/i, '~not:')
        .replace(/(^|:)exactly\s+/i, '$1~is:')
        .replace(/^(~not:)?none$/i, '$1~none'),
    );

export const valuesShown = (values: readonly string[], name: string): string =>
  values
    .map((v) =>
      v
        .replace(/^~not:/, 'not ')
        .replace('~is:', 'exactly ')
        .replace('~none', 'none'),
    )
    .join(isText(name) ? '\n' : ', ');
