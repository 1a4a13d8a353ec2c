import { Readable } from 'node:stream';
import type { Written } from './writers';

export type PartySide = 'Customer' | 'Supplier';

/** What the head of an audit file says of the books. */
export interface SaftHead {
  company: { code: string; name: string; currency: string };
  from: string;
  to: string;
  created: string;
  accounts: { code: string; name: string; type: string; opening: string; closing: string; standard: string | null }[];
  parties: { code: string; name: string; as: PartySide }[];
  /** Whether a party is named as a customer or as a supplier on a line of an account. */
  sideOf(party: string, account: string): PartySide;
  /** What the file leaves out, in words; null of whole books. */
  comment: string | null;
  analysis: { type: string; typeName: string; code: string; name: string }[];
  totals: { entries: number; debit: string; credit: string };
}

/** Control characters are no XML, whatever they are written as. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: that is what is taken out
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g;
const escaped = (text: string): string =>
  text.replace(CONTROL, '').replace(/[<>&"]/g, (c) => `&${{ '<': 'lt', '>': 'gt', '&': 'amp', '"': 'quot' }[c]};`);

/** An element with its text or inner elements; nothing where there is nothing to say. */
const element = (name: string, content: string | null | undefined, inner = false): string =>
  content === null || content === undefined || content === ''
    ? ''
    : `<${name}>${inner ? content : escaped(content)}</${name}>`;

const side = (which: string, amount: string): string =>
  element(`${which}${amount.startsWith('-') ? 'Credit' : 'Debit'}Balance`, amount.replace('-', ''));

const TYPE: { [type: string]: string } = {
  asset: 'Asset',
  liability: 'Liability',
  equity: 'Equity',
  income: 'Sale',
  expense: 'Expense',
};

/**
 * The general ledger part of the OECD standard audit file 2.0: header, accounts with balances, parties, analysis types,
 * entries with their stated totals.
 * @param records lines in an order in which an entry's lines follow each other
 */
export function writeSaft(head: SaftHead, records: AsyncIterable<Written>): Readable {
  return Readable.from(parts(head, records));
}

async function* parts(head: SaftHead, records: AsyncIterable<Written>): AsyncGenerator<string> {
  const { company, totals } = head;
  yield '<?xml version="1.0" encoding="UTF-8"?>\n<AuditFile xmlns="urn:OECD:StandardAuditFile-Tax:2.00">\n';
  yield element(
    'Header',
    [
      element('AuditFileVersion', '2.00'),
      element('AuditFileDateCreated', head.created),
      element('SoftwareCompanyName', 'Just Thread'),
      element('SoftwareID', 'Just Thread'),
      element('Company', element('RegistrationNumber', company.code) + element('Name', company.name), true),
      element('DefaultCurrencyCode', company.currency),
      element(
        'SelectionCriteria',
        element('SelectionStartDate', head.from) + element('SelectionEndDate', head.to),
        true,
      ),
      element('HeaderComment', head.comment),
    ].join(''),
    true,
  );
  yield '\n<MasterFiles><GeneralLedgerAccounts>\n';
  for (const a of head.accounts) {
    const content = [
      element('AccountID', a.code),
      element('AccountDescription', a.name),
      element('StandardAccountID', a.standard),
      element('AccountType', TYPE[a.type]),
      side('Opening', a.opening),
      side('Closing', a.closing),
    ];
    yield `${element('Account', content.join(''), true)}\n`;
  }
  yield '</GeneralLedgerAccounts>\n';
  for (const as of ['Customer', 'Supplier'] as const) {
    const listed = head.parties.filter((p) => p.as === as);
    if (listed.length === 0) continue;
    yield `<${as}s>\n`;
    for (const p of listed) yield `${element(as, element(`${as}ID`, p.code) + element('Name', p.name), true)}\n`;
    yield `</${as}s>\n`;
  }
  if (head.analysis.length > 0) {
    yield '<AnalysisTypeTable>\n';
    for (const a of head.analysis) {
      const content = [
        element('AnalysisType', a.type),
        element('AnalysisTypeDescription', a.typeName),
        element('AnalysisID', a.code),
      ];
      yield `${element('AnalysisTypeTableEntry', content.join('') + element('AnalysisIDDescription', a.name), true)}\n`;
    }
    yield '</AnalysisTypeTable>\n';
  }
  yield '</MasterFiles>\n<GeneralLedgerEntries>\n';
  yield element('NumberOfEntries', String(totals.entries)) +
    element('TotalDebit', totals.debit) +
    element('TotalCredit', totals.credit);
  let journal: string | null = null;
  let open = '';
  for await (const r of records) {
    const own = r.journal || 'GL';
    const key = `${own}|${r.entry}|${r.date}`;
    if (key !== open) {
      if (open !== '') yield '</Transaction>\n';
      if (journal !== own) {
        if (journal !== null) yield '</Journal>\n';
        yield `<Journal>${element('JournalID', own)}${element('Description', own)}\n`;
        journal = own;
      }
      yield `<Transaction>${transactionOf(r)}`;
      open = key;
    }
    yield lineOf(r, head);
  }
  if (open !== '') yield '</Transaction>\n';
  yield `${journal === null ? '' : '</Journal>\n'}</GeneralLedgerEntries>\n</AuditFile>\n`;
}

const transactionOf = (r: Written): string =>
  element('TransactionID', r.entry) +
  element('Period', r.period) +
  element('PeriodYear', r.year) +
  element('TransactionDate', r.date) +
  element('SourceID', r.posted_by) +
  element('Description', r.entry_description) +
  element('SystemEntryDate', r.entered_at?.slice(0, 10)) +
  element('GLPostingDate', r.date);

function lineOf(r: Written, head: SaftHead): string {
  const dims = Object.entries(r)
    .filter(([name, value]) => name.startsWith('dim:') && value)
    .map(([name, value]) =>
      element('Analysis', element('AnalysisType', name.slice(4)) + element('AnalysisID', value), true),
    );
  const isDebit = Boolean(r.debit);
  const foreign = r.currency_amount
    ? element('CurrencyCode', r.currency) +
      element('CurrencyAmount', isDebit ? r.currency_amount : turned(r.currency_amount))
    : '';
  const content = [
    element('RecordID', r.line),
    element('AccountID', r.account),
    ...dims,
    element('SourceDocumentID', r.document),
    r.counterparty ? element(`${head.sideOf(r.counterparty, r.account ?? '')}ID`, r.counterparty) : '',
    element('Description', r.description),
    element(isDebit ? 'DebitAmount' : 'CreditAmount', element('Amount', isDebit ? r.debit : r.credit) + foreign, true),
    element('Quantity', r.quantity),
    element('UnitOfMeasure', r.unit),
    r.tax_code
      ? element(
          'TaxInformation',
          element('TaxCode', r.tax_code) + element('TaxAmount', element('Amount', r.tax_amount), true),
          true,
        )
      : '',
  ];
  return element('Line', content.join(''), true);
}

const turned = (amount: string): string => (amount.startsWith('-') ? amount.slice(1) : `-${amount}`);
