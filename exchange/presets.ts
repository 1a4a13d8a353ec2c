import type { Format, LoadKind, Mapping } from '@/contracts/mapping';

/** Layouts that are known by their column names, with what each column means. */
export interface Preset {
  format: Extract<Format, 'fec' | 'ads'>;
  kind: LoadKind;
  /** Columns by which it is known; letters' case and separators do not matter. */
  signature: readonly string[];
  mapping(header: readonly string[]): Mapping;
}

const squeezed = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');
const find = (header: readonly string[], name: string): string | undefined =>
  header.find((h) => squeezed(h) === squeezed(name));

/** Keeps those fields whose columns the file has. */
function present(
  header: readonly string[],
  columns: Record<string, string | string[]>,
): Record<string, string | string[]> {
  const kept: Record<string, string | string[]> = {};
  for (const [field, wanted] of Object.entries(columns)) {
    const names = (Array.isArray(wanted) ? wanted : [wanted]).map((n) => find(header, n));
    if (names.every((n) => n !== undefined))
      kept[field] = Array.isArray(wanted) ? (names as string[]) : (names[0] as string);
  }
  return kept;
}

/**
 * The accounting entries file of the French tax procedures (Livre des procédures fiscales, art. A47 A-1): 18 columns,
 * amounts with a decimal comma, dates YYYYMMDD, either Debit and Credit or Montant and Sens. Its fields are divided by
 * the delimiter alone: a quotation mark is part of a text.
 */
const FEC: Preset = {
  format: 'fec',
  kind: 'lines',
  signature: ['JournalCode', 'EcritureNum', 'EcritureDate', 'CompteNum', 'EcritureLib'],
  mapping: (header) => ({
    reading: { dates: 'ymd', quotes: 'letters' },
    columns: present(header, {
      entry: ['JournalCode', 'EcritureNum'],
      journal: 'JournalCode',
      date: 'EcritureDate',
      account: 'CompteNum',
      account_name: 'CompteLib',
      counterparty: 'CompAuxNum',
      counterparty_name: 'CompAuxLib',
      document: 'PieceRef',
      document_date: 'PieceDate',
      description: 'EcritureLib',
      debit: 'Debit',
      credit: 'Credit',
      amount: 'Montant',
      side: 'Sens',
      entered_at: 'ValidDate',
      reconciled: 'EcritureLet',
      currency_amount: 'Montantdevise',
      currency: 'Idevise',
    }),
  }),
};

const SEGMENTS = 8;

/** General ledger detail of the AICPA audit data standards (2013, updated 2015), field names from memory. */
const ADS_LINES: Preset = {
  format: 'ads',
  kind: 'lines',
  signature: ['Journal_ID', 'GL_Account_Number', 'Effective_Date', 'Amount'],
  mapping: (header) => ({
    columns: present(header, {
      entity: 'Business_Unit_Code',
      entry: 'Journal_ID',
      line: 'Journal_ID_Line_Number',
      entry_description: 'JE_Header_Description',
      description: 'JE_Line_Description',
      journal: 'Source',
      date: 'Effective_Date',
      year: 'Fiscal_Year',
      period: 'Period',
      account: 'GL_Account_Number',
      amount: 'Amount',
      side: 'Amount_Credit_Debit_Indicator',
      currency: 'Amount_Transaction_Currency',
      currency_amount: 'Amount_Transaction',
      posted_by: 'Entered_By',
      entered_at: 'Entered_Date',
      approved_by: 'Approved_By',
      reversal_of: 'Reversal_Journal_ID',
      source: 'Raised_By',
      document: 'Document_Number',
      counterparty: 'Counterparty_Code',
      quantity: 'Quantity',
      unit: 'Unit',
      kind: 'Entry_Kind',
      status: 'Posting_Status',
      ...Object.fromEntries(Array.from({ length: SEGMENTS }, (_, i) => [`slot:${i + 1}`, `Segment0${i + 1}`])),
    }),
  }),
};

const ADS_BALANCES: Preset = {
  format: 'ads',
  kind: 'trial-balance',
  signature: ['GL_Account_Number', 'Fiscal_Year', 'Period', 'Amount_Beginning', 'Amount_Ending'],
  mapping: (header) => ({
    columns: present(header, {
      entity: 'Business_Unit_Code',
      account: 'GL_Account_Number',
      year: 'Fiscal_Year',
      period: 'Period',
      opening: 'Amount_Beginning',
      closing: 'Amount_Ending',
    }),
  }),
};

const ADS_ACCOUNTS: Preset = {
  format: 'ads',
  kind: 'accounts',
  signature: ['GL_Account_Number', 'GL_Account_Name', 'Account_Type'],
  mapping: (header) => ({
    columns: present(header, {
      entity: 'Business_Unit_Code',
      code: 'GL_Account_Number',
      name: 'GL_Account_Name',
      type: 'Account_Type',
      classification: 'Account_Subtype',
      group: 'FS_Caption',
      parent: 'Parent_GL_Account_Number',
      created_at: 'Created_Date',
      created_by: 'Created_By',
    }),
  }),
};

const PRESETS: readonly Preset[] = [FEC, ADS_LINES, ADS_BALANCES, ADS_ACCOUNTS];

/** The known layout that a header has, if any. */
export function presetOf(header: readonly string[], kind?: LoadKind): Preset | null {
  return (
    PRESETS.find(
      (p) => (kind === undefined || p.kind === kind) && p.signature.every((name) => find(header, name) !== undefined),
    ) ?? null
  );
}
