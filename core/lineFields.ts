/**
 * What a journal line has beside its place in the ledger: one list, from which clauses and splits, their words, orders,
 * the columns of a ledger and of files, the comparison of loads and the digests of pins are made. A field that is added
 * here is in all of them.
 */
export interface LineField {
  name: string;
  /** Its column in the store. */
  column: string;
  /** Where the store has it: with the line, in a dictionary by its code, with the whole entry, or as the file said it. */
  stored: 'line' | 'dictionary' | 'entry' | 'extra' | 'calculated';
  /** What its values are: words, days, moments, whole numbers, decimal numbers, amounts of money. */
  holds: 'text' | 'date' | 'instant' | 'integer' | 'number' | 'amount';
  /** How a clause asks for it: by values and patterns, or by ranges of numbers. */
  filter: 'value' | 'number' | null;
  /** What a clause on it says: “posted by mhald”. */
  clause: string | null;
  /** What a split by it is called on the screen; null: nobody splits by it. */
  split: string | null;
  /** What the difference is called where two lines differ in it. */
  word: string;
  /** The head of its column in a ledger; null where a ledger shows it in another way, or not at all. */
  heading: string | null;
  /** Its column in files of ours; null where files say it in another way. */
  file: string | null;
  /** The version of the digest that first looks at it; null: none does. */
  digest: 1 | 2 | 3 | null;
}

const field = <Name extends string, Filter extends LineField['filter']>(
  name: Name,
  column: string,
  stored: LineField['stored'],
  filter: Filter,
  said: { clause?: string; split?: string; word?: string; heading?: string | null },
  form: { holds?: LineField['holds']; file?: string | null; digest: LineField['digest'] },
) => ({
  name,
  column,
  stored,
  holds: form.holds ?? 'text',
  filter,
  clause: said.clause ?? null,
  split: said.split ?? null,
  word: said.word ?? name,
  heading: said.heading === undefined ? (said.split ?? null) : said.heading,
  file: form.file === undefined ? column : form.file,
  digest: form.digest,
});

export const LINE_FIELDS = [
  field('entity', 'entity', 'line', null, { split: 'Company', word: 'company' }, { digest: 1 }),
  field('journal', 'journal', 'dictionary', 'value', { clause: 'journal', split: 'Journal' }, { digest: 1 }),
  field('document', 'document', 'line', 'value', { clause: 'document', split: 'Document' }, { digest: 1 }),
  field(
    'documentType',
    'document_type',
    'extra',
    'value',
    { clause: 'document type', split: 'Document type', word: 'document type' },
    { digest: 2 },
  ),
  field(
    'documentDate',
    'document_date',
    'extra',
    'value',
    { clause: 'document of', split: 'Document date', word: 'document date' },
    { holds: 'date', digest: 2 },
  ),
  field(
    'dueDate',
    'due_date',
    'extra',
    'value',
    { clause: 'due on', split: 'Due date', word: 'due date' },
    { holds: 'date', digest: 2 },
  ),
  field(
    'counterparty',
    'counterparty',
    'dictionary',
    'value',
    { clause: 'counterparty', split: 'Counterparty' },
    { digest: 1 },
  ),
  field(
    'partnerEntity',
    'partner_entity',
    'extra',
    'value',
    { clause: 'partner company', split: 'Partner company', word: 'partner company' },
    { digest: 2 },
  ),
  field(
    'postedBy',
    'posted_by',
    'dictionary',
    'value',
    { clause: 'posted by', split: 'Posted by', word: 'posted by' },
    { digest: 1 },
  ),
  field(
    'enteredAt',
    'entered_at',
    'entry',
    'value',
    { clause: 'entered on', split: 'Entered on', word: 'entered on' },
    { holds: 'instant', digest: 2 },
  ),
  field(
    'approvedBy',
    'approved_by',
    'entry',
    'value',
    { clause: 'approved by', split: 'Approved by', word: 'approved by' },
    { digest: 2 },
  ),
  field('source', 'source', 'entry', 'value', { clause: 'source', split: 'Source' }, { digest: 2 }),
  field(
    'reversalOf',
    'reversal_of',
    'entry',
    'value',
    { clause: 'reversal of', split: 'Reversal of', word: 'entry reversed' },
    { digest: 2 },
  ),
  field(
    'currency',
    'currency',
    'line',
    'value',
    { clause: 'booked in', split: 'Transaction currency', heading: null },
    { digest: 1 },
  ),
  field(
    'currencyAmount',
    'currency_amount',
    'line',
    'number',
    { clause: 'transaction amount', word: 'currency amount', heading: 'Transaction amount' },
    { holds: 'amount', digest: 1 },
  ),
  field(
    'quantity',
    'quantity',
    'line',
    'number',
    { clause: 'quantity', heading: 'Quantity' },
    { holds: 'number', digest: 1 },
  ),
  field(
    'unit',
    'unit',
    'line',
    'value',
    { clause: 'unit', split: 'Unit of quantity', word: 'unit of quantity', heading: null },
    { digest: 2 },
  ),
  field(
    'unitPrice',
    'unit_price',
    'calculated',
    'number',
    { clause: 'unit price', heading: 'Unit price' },
    { holds: 'amount', file: null, digest: null },
  ),
  field(
    'taxCode',
    'tax_code',
    'extra',
    'value',
    { clause: 'tax code', split: 'Tax code', word: 'tax code' },
    { digest: 2 },
  ),
  field(
    'taxAmount',
    'tax_amount',
    'extra',
    'number',
    { clause: 'tax', word: 'tax', heading: 'Tax' },
    { holds: 'amount', digest: 2 },
  ),
  field(
    'attachment',
    'attachment',
    'extra',
    'value',
    { clause: 'attachment', split: 'Attachment', word: 'attachment' },
    { digest: 2 },
  ),
  field(
    'reconciled',
    'reconciled',
    'extra',
    'value',
    { clause: 'reconciled', split: 'Reconciled', word: 'reconciliation' },
    { digest: 3 },
  ),
  field('entry', 'entry_number', 'line', 'value', { clause: 'entry', split: 'Entry' }, { file: 'entry', digest: 1 }),
  field(
    'line',
    'line_no',
    'line',
    'number',
    { clause: 'line number', heading: 'Line' },
    { holds: 'integer', file: 'line', digest: 1 },
  ),
  field('description', 'description', 'line', 'value', { clause: 'description', split: 'Description' }, { digest: 1 }),
  field(
    'entryDescription',
    'entry_description',
    'entry',
    'value',
    { clause: 'entry description', split: 'Entry description', word: 'entry description' },
    { digest: 1 },
  ),
  field('account', 'account', 'line', null, { split: 'Account' }, { digest: 1 }),
  field(
    'postingDate',
    'posting_date',
    'line',
    null,
    { word: 'date', heading: 'Date' },
    { holds: 'date', file: 'date', digest: 1 },
  ),
  field('period', 'period', 'line', null, { split: 'Period' }, { digest: 1 }),
  field('status', 'status', 'line', null, {}, { digest: 1 }),
  field('kind', 'kind', 'line', null, { clause: 'lines of kind', split: 'Kind of line', heading: null }, { digest: 1 }),
  field('side', 'side', 'line', null, {}, { file: null, digest: 1 }),
  field('amount', 'amount', 'line', null, {}, { holds: 'amount', digest: 1 }),
  field('dims', 'd1', 'line', null, { word: 'dimensions' }, { file: null, digest: 1 }),
] as const satisfies readonly LineField[];

type Of<Filter> = Extract<(typeof LINE_FIELDS)[number], { filter: Filter }>['name'];

/** Line attributes that a clause can ask to be one of several values; null stands for "none". */
export type Attribute = Of<'value'>;
/**
 * Numbers that a line has beside its amount: its own number in the entry, quantities in their unit, prices of one unit
 * in minor units of the books, amounts in units of the transaction currency or of the books; all amounts and prices
 * whichever side they are on.
 */
export type LineNumber = Of<'number'>;

const named = (filter: LineField['filter']): string[] =>
  LINE_FIELDS.flatMap((f) => (f.filter === filter ? [f.name] : []));

export const ATTRIBUTES = named('value') as Attribute[];
export const LINE_NUMBERS = named('number') as LineNumber[];
/** What a ledger can be put in order by: its day and amount, where a line is booked, and all that a clause can ask for. */
export const SORTS = ['date', 'amount', 'account', 'period', 'entity', ...ATTRIBUTES, ...LINE_NUMBERS] as const;
export type SortField = (typeof SORTS)[number];
export const isSort = (word: string): word is SortField => (SORTS as readonly string[]).includes(word);

export const isLineNumber = (word: string): word is LineNumber => (LINE_NUMBERS as string[]).includes(word);
export const isAttribute = (word: string): word is Attribute => (ATTRIBUTES as string[]).includes(word);

/** What a file may say of a line beyond what the store has columns for, by its columns in files. */
export const EXTRA_FIELDS = LINE_FIELDS.filter((f) => f.stored === 'extra');

const BY_NAME = new Map<string, LineField>(LINE_FIELDS.map((f) => [f.name, f]));

/** A field of the list. @throws RangeError if it has none of that name */
export function lineField(name: string): LineField {
  const found = BY_NAME.get(name);
  if (!found) throw new RangeError(`a line has no field ${name}`);
  return found;
}
