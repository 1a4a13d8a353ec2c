import { SaxesParser, type SaxesTagPlain } from 'saxes';
import type { LoadKind, Reading } from '@/contracts/mapping';
import { decoding, recogniseEncoding } from './encoding';
import type { FileRecord } from './fileRecord';
import { CELL_MAX, ELEMENTS_MAX } from './limits';
import { type Source, UnreadableFile } from './source';

/**
 * OECD Standard Audit File for Tax 2.0 (2010): master files, general ledger entries, source documents. Elements are
 * known by their local names, so that national variants with other namespaces and further elements are read too. The
 * parser knows no document types and no external entities.
 */
export interface SaftOptions {
  onBytes?: (bytes: number) => void;
}

/** Which elements make a record, for what is asked. */
const SECTIONS: Partial<{ [kind in LoadKind]: readonly string[] }> = {
  lines: ['Line', 'TransactionLine', 'DebitLine', 'CreditLine'],
  accounts: ['Account'],
  dimensions: ['AnalysisTypeTableEntry'],
  documents: ['Invoice', 'Payment'],
  parties: ['Customer', 'Supplier'],
};

/** Longest path of open elements that an honest file has. */
const DEPTH_MAX = 64;

/** An element as read: its text and children, of a record only. */
interface Node {
  name: string;
  text: string;
  children: Node[];
}

/** What the file says of itself (GeneralLedgerEntries, Header). */
export interface SaftStated {
  entries: number | null;
  debit: string | null;
  credit: string | null;
  balances: { account: string; opening: string | null; closing: string | null }[];
}

/** Records of one kind. @throws UnreadableFile */
export async function* saftRecords(
  source: Source,
  reading: Reading,
  kind: LoadKind,
  options: SaftOptions,
): AsyncGenerator<FileRecord> {
  const wanted = SECTIONS[kind];
  if (!wanted) throw new UnreadableFile(`a standard audit file holds no ${kind}`);
  let row = 0;
  for await (const { node, path, context } of elements(source, reading, wanted, options)) {
    if ((kind === 'accounts' || kind === 'parties') && path.includes('GeneralLedgerEntries')) return;
    if (kind === 'lines' && !path.includes('GeneralLedgerEntries')) continue;
    row += 1;
    const values =
      kind === 'lines'
        ? lineOf(node, context)
        : kind === 'accounts'
          ? accountOf(node)
          : kind === 'dimensions'
            ? memberOf(node)
            : kind === 'parties'
              ? partyOf(node)
              : documentOf(node);
    if (values) yield { row, values };
  }
}

/** Totals and balances that the file states. */
export async function saftStated(source: Source, reading: Reading): Promise<SaftStated> {
  const stated: SaftStated = { entries: null, debit: null, credit: null, balances: [] };
  const wanted = ['Account', 'NumberOfEntries', 'TotalDebit', 'TotalCredit'];
  for await (const { node, path } of elements(source, reading, wanted, {})) {
    const inLedger = path[path.length - 1] === 'GeneralLedgerEntries';
    if (node.name === 'NumberOfEntries' && inLedger) stated.entries = Number(node.text);
    else if (node.name === 'TotalDebit' && inLedger) stated.debit = node.text.trim();
    else if (node.name === 'TotalCredit' && inLedger) {
      stated.credit = node.text.trim();
      return stated;
    } else if (node.name === 'Account' && path.includes('GeneralLedgerAccounts')) {
      const side = (which: 'Opening' | 'Closing'): string | null => {
        const debit = textOf(node, `${which}DebitBalance`);
        const credit = textOf(node, `${which}CreditBalance`);
        if (!debit && !credit) return null;
        return debit && !/^0+(\.0*)?$/.test(debit)
          ? debit
          : !credit || /^0+(\.0*)?$/.test(credit)
            ? (debit ?? '0')
            : negated(credit);
      };
      stated.balances.push({
        account: textOf(node, 'AccountID') ?? '',
        opening: side('Opening'),
        closing: side('Closing'),
      });
    } else if (path.includes('GeneralLedgerEntries')) return stated;
  }
  return stated;
}

/** Whose books an audit file holds, as its header says. */
export async function saftCompany(
  source: Source,
  reading: Reading,
): Promise<{ code: string | null; name: string | null; currency: string | null }> {
  for await (const { node } of elements(source, reading, ['Header'], {})) {
    const company = childOf(node, 'Company');
    return {
      code: own(company, 'RegistrationNumber') ?? own(node, 'CompanyID'),
      name: own(company, 'Name') ?? own(node, 'CompanyName'),
      currency: own(node, 'DefaultCurrencyCode'),
    };
  }
  return { code: null, name: null, currency: null };
}

/** What is around a line: its journal and its transaction. */
interface Context {
  journal: string | null;
  transaction: Node | null;
  /** Number of this line among those of its transaction. */
  line: number;
}

/** Every wanted element with the names above it, one at a time; nothing else is kept. */
async function* elements(source: Source, reading: Reading, wanted: readonly string[], { onBytes }: SaftOptions) {
  const parser = new SaxesParser({ xmlns: false });
  const path: string[] = [];
  const open: Node[] = [];
  let elementsOpen = 0;
  const context: Context = { journal: null, transaction: null, line: 0 };
  let found: { node: Node; path: string[]; context: Context }[] = [];
  parser.on('doctype', () => {
    throw new UnreadableFile('the file declares a document type; an audit file has none, and it is not read');
  });
  parser.on('error', (error) => {
    throw new UnreadableFile(`the XML is broken: ${error.message}; have the file made again`, parser.line);
  });
  parser.on('opentag', (tag: SaxesTagPlain) => {
    const name = tag.name.slice(tag.name.indexOf(':') + 1);
    if (path.length > DEPTH_MAX)
      throw new UnreadableFile('the XML is nested too deeply for an audit file', parser.line);
    if (name === 'Transaction' && open.length === 0)
      Object.assign(context, { transaction: { name, text: '', children: [] }, line: 0 });
    if (name === 'Journal' && open.length === 0) context.journal = null;
    const isHead = open.length === 0 && isOf(path, 'Transaction') && !wanted.includes(name) && name !== 'Lines';
    if (open.length > 0 || wanted.includes(name) || isHead) {
      const node = { name, text: '', children: [] };
      open[open.length - 1]?.children.push(node);
      open.push(node);
      elementsOpen = open.length === 1 ? 1 : elementsOpen + 1;
      if (elementsOpen > ELEMENTS_MAX)
        throw new UnreadableFile(`${open[0]?.name} has more than ${ELEMENTS_MAX} elements`, parser.line);
    }
    path.push(name);
  });
  parser.on('text', (text: string) => {
    const node = open[open.length - 1];
    if (node) {
      node.text += text;
      if (node.text.length > CELL_MAX) throw new UnreadableFile(`the text of ${node.name} has no end`, parser.line);
    } else if (path[path.length - 1] === 'JournalID' && isOf(path.slice(0, -1), 'Journal'))
      context.journal = (context.journal ?? '') + text.trim();
  });
  parser.on('closetag', () => {
    path.pop();
    const node = open.pop();
    if (!node || open.length > 0) return;
    if (isOf(path, 'Transaction') || path[path.length - 2] === 'Transaction')
      context.line += wanted.includes(node.name) ? 1 : 0;
    if (wanted.includes(node.name)) found.push({ node, path: [...path], context: { ...context } });
    else context.transaction?.children.push(node);
  });
  const bytes = await source.stream(onBytes);
  const text = bytes.pipe(decoding(reading.encoding ?? recogniseEncoding(source)?.value ?? 'utf-8'));
  bytes.on('error', (error) => text.destroy(error));
  try {
    for await (const chunk of text) {
      parser.write(String(chunk));
      yield* found;
      found = [];
    }
    parser.close();
    yield* found;
  } finally {
    bytes.destroy();
  }
}

const isOf = (path: readonly string[], name: string): boolean => path[path.length - 1] === name;

/** Text of the first child of that name, at any depth. */
function textOf(node: Node | null, name: string): string | null {
  for (const child of node?.children ?? []) {
    if (child.name === name && child.children.length === 0) return child.text.trim() || null;
    const inner = textOf(child, name);
    if (inner !== null) return inner;
  }
  return null;
}

const childOf = (node: Node | null, name: string): Node | null => node?.children.find((c) => c.name === name) ?? null;
/** Of this element itself, not of one beneath it. */
const own = (node: Node | null, name: string): string | null => childOf(node, name)?.text.trim() || null;

const negated = (amount: string): string => (amount.startsWith('-') ? amount.slice(1) : `-${amount}`);

/** An amount element: <Amount> beneath it, or its own text in variants. */
const amountOf = (node: Node | null): string | null =>
  node === null ? null : (own(node, 'Amount') ?? (node.text.trim() || null));

function lineOf(node: Node, { journal, transaction, line }: Context): FileRecord['values'] {
  const debit = childOf(node, 'DebitAmount');
  const credit = childOf(node, 'CreditAmount');
  const amounts = debit ?? credit;
  const values: FileRecord['values'] = {
    entry: own(transaction, 'TransactionID') ?? '',
    line: /^\d{1,9}$/.test(own(node, 'RecordID') ?? '') ? (own(node, 'RecordID') as string) : String(line),
    date: own(transaction, 'TransactionDate') ?? '',
    account: own(node, 'AccountID') ?? '',
    description: own(node, 'Description') ?? '',
    entry_description: own(transaction, 'Description') ?? '',
    debit: amountOf(debit) ?? '',
    credit: amountOf(credit) ?? '',
  };
  const gl = own(transaction, 'GLPostingDate');
  if (gl) values.date = gl;
  const period = own(transaction, 'Period') ?? own(transaction, 'PeriodNumber');
  if (period && /^\d{1,2}$/.test(period)) {
    values.period = period;
    const year = own(transaction, 'PeriodYear');
    if (year) values.year = year;
  }
  const put = (field: string, value: string | null): void => {
    if (value !== null && value !== '') values[field] = value;
  };
  put('journal', journal);
  put('document', own(node, 'SourceDocumentID') ?? own(node, 'ReferenceNumber'));
  put('counterparty', own(node, 'CustomerID') ?? own(node, 'SupplierID'));
  put('posted_by', own(transaction, 'SourceID'));
  put('entered_at', own(transaction, 'SystemEntryDate'));
  put('due_date', own(node, 'DueDate'));
  put('quantity', own(node, 'Quantity'));
  put('unit', own(node, 'UnitOfMeasure'));
  const currency = own(amounts, 'CurrencyCode');
  const foreign = own(amounts, 'CurrencyAmount');
  if (currency && foreign) {
    values.currency = currency;
    values.currency_amount = credit && !debit ? negated(foreign) : foreign;
  }
  const tax = childOf(node, 'TaxInformation');
  put('tax_code', own(tax, 'TaxCode'));
  put('tax_amount', tax && amountOf(childOf(tax, 'TaxAmount')));
  for (const analysis of node.children.filter((c) => c.name === 'Analysis')) {
    const type = own(analysis, 'AnalysisType');
    if (type) put(`dim:${dimensionCode(type)}`, own(analysis, 'AnalysisID'));
  }
  return values;
}

/** A dimension's code as an attribute name allows it. */
export const dimensionCode = (type: string): string =>
  type.replace(/[^A-Za-z0-9_-]/g, '-').replace(/^(?=[^A-Za-z])/, 'd');

const ACCOUNT_TYPES: { [word: string]: string } = {
  asset: 'asset',
  liability: 'liability',
  equity: 'equity',
  sale: 'income',
  sales: 'income',
  income: 'income',
  revenue: 'income',
  expense: 'expense',
  cost: 'expense',
};

function accountOf(node: Node): FileRecord['values'] | null {
  const code = own(node, 'AccountID');
  if (!code) return null;
  const values: FileRecord['values'] = { code, name: own(node, 'AccountDescription') ?? code };
  const type = ACCOUNT_TYPES[(own(node, 'AccountType') ?? '').toLowerCase()];
  if (type) values.type = type;
  const standard = own(node, 'StandardAccountID') ?? own(node, 'GroupingCode');
  if (standard) values['code:standard'] = standard;
  const created = own(node, 'AccountCreationDate');
  if (created) values.created_at = created;
  return values;
}

function memberOf(node: Node): FileRecord['values'] | null {
  const type = own(node, 'AnalysisType');
  const code = own(node, 'AnalysisID');
  if (!type || !code) return null;
  const values: FileRecord['values'] = {
    dimension: dimensionCode(type),
    code,
    name: own(node, 'AnalysisIDDescription') ?? code,
  };
  const named = own(node, 'AnalysisTypeDescription');
  if (named) values.dimension_name = named;
  for (const [field, element] of [
    ['valid_from', 'StartDate'],
    ['valid_to', 'EndDate'],
  ] as const) {
    const date = own(node, element);
    if (date) values[field] = date;
  }
  return values;
}

function partyOf(node: Node): FileRecord['values'] | null {
  const code = textOf(node, 'CustomerID') ?? textOf(node, 'SupplierID') ?? textOf(node, 'RegistrationNumber');
  if (!code) return null;
  const values: FileRecord['values'] = {
    code,
    name: textOf(node, 'Name') ?? textOf(node, 'CompanyName') ?? code,
    kind: node.name.toLowerCase(),
  };
  for (const [field, element] of PARTY_ELEMENTS) {
    const text = textOf(node, element);
    if (text && values[field] === undefined) values[field] = text;
  }
  return values;
}

/** Which element gives which field; of two for the same field the first that is there. */
const PARTY_ELEMENTS = [
  ['address', 'StreetName'],
  ['address', 'AddressDetail'],
  ['postal_code', 'PostalCode'],
  ['city', 'City'],
  ['country', 'Country'],
  ['bank_account', 'IBANNumber'],
  ['bank_account', 'BankAccountNumber'],
  ['tax_number', 'TaxRegistrationNumber'],
] as const;

function documentOf(node: Node): FileRecord['values'] | null {
  const payment = node.name === 'Payment';
  const number = own(node, payment ? 'PaymentRefNo' : 'InvoiceNo');
  if (!number) return null;
  const totals = childOf(node, 'DocumentTotals');
  const values: FileRecord['values'] = {
    number,
    type: payment ? 'payment' : /credit/i.test(own(node, 'InvoiceType') ?? '') ? 'credit note' : 'invoice',
    date: own(node, payment ? 'TransactionDate' : 'InvoiceDate') ?? '',
    amount: own(totals, 'GrossTotal') ?? own(totals, 'NetTotal') ?? '',
    description: own(node, 'Description') ?? '',
  };
  const party = textOf(node, 'CustomerID') ?? textOf(node, 'SupplierID');
  if (party) values.counterparty = party;
  const due = textOf(node, 'PaymentDueDate') ?? textOf(node, 'DueDate');
  if (due) values.due_date = due;
  const settles = payment ? textOf(node, 'SourceDocumentID') : null;
  if (settles && values.amount) Object.assign(values, { source: settles, applied: values.amount });
  return values;
}
