import type { LoadKind } from '@/contracts/mapping';
import { LINE_FIELDS, type LineField } from '@/core/lineFields';

/** What a table of one kind looks like: the columns that must be there and those that may be (formats.md). */
export interface Columns {
  /** Field that can be had several ways: with these columns, or with those. */
  required: readonly string[];
  /** Groups of columns of which at least one group must be whole: debit and credit, or amount. */
  anyOf?: readonly (readonly string[])[];
  known: readonly string[];
  /** Prefixes of open-ended columns, such as `dim:`. */
  prefixes: readonly string[];
  /** Columns that hold dates and amounts, which are written in many ways. */
  dates: readonly string[];
  amounts: readonly string[];
}

const LINE_REQUIRED = ['entry', 'line', 'date', 'account', 'description'] as const;

/** Columns of journal lines that say a field in a way of their own: amounts by side, years apart, names beside codes. */
const LINE_WAYS = {
  amounts: ['debit', 'credit'],
  years: ['year'],
  sides: ['side'],
  names: ['counterparty_name', 'account_name'],
} as const;

const IN_FILES = LINE_FIELDS.flatMap((f: LineField) => (f.file === null ? [] : [{ column: f.file, holds: f.holds }]));
const fieldsThat = (...hold: LineField['holds'][]): string[] =>
  IN_FILES.flatMap((f) => (hold.includes(f.holds) ? [f.column] : []));

export const LINE_COLUMNS: Columns = {
  required: LINE_REQUIRED,
  anyOf: [['debit', 'credit'], ['amount']],
  known: [
    ...new Set([
      'entity',
      ...LINE_REQUIRED,
      ...LINE_WAYS.amounts,
      'period',
      ...LINE_WAYS.years,
      ...IN_FILES.map((f) => f.column),
      ...LINE_WAYS.sides,
      ...LINE_WAYS.names,
      'account_type',
    ]),
  ],
  prefixes: ['dim:'],
  dates: fieldsThat('date'),
  amounts: [...LINE_WAYS.amounts, ...fieldsThat('amount', 'number')],
};

export const ACCOUNT_COLUMNS: Columns = {
  required: ['code', 'name', 'type'],
  known: [
    'entity',
    'code',
    'name',
    'type',
    'parent',
    'posting',
    'status',
    'normal',
    'flow',
    'group',
    'classification',
    'currency',
    'created_at',
    'created_by',
  ],
  prefixes: ['name:', 'code:', 'dim:'],
  dates: ['created_at'],
  amounts: [],
};

export const DIMENSION_COLUMNS: Columns = {
  required: ['dimension', 'code', 'name'],
  known: ['entity', 'dimension', 'code', 'name', 'parent', 'valid_from', 'valid_to', 'group'],
  prefixes: ['name:'],
  dates: ['valid_from', 'valid_to'],
  amounts: [],
};

export const BUDGET_COLUMNS: Columns = {
  required: ['version', 'account'],
  anyOf: [['period'], ['date']],
  known: ['entity', 'version', 'account', 'period', 'year', 'date', 'amount', 'debit', 'credit', 'side', 'description'],
  prefixes: ['dim:'],
  dates: ['date'],
  amounts: ['amount', 'debit', 'credit'],
};

export const COMMITMENT_COLUMNS: Columns = {
  required: ['number', 'date', 'account', 'amount'],
  known: [
    'entity',
    'number',
    'line',
    'date',
    'due_date',
    'account',
    'amount',
    'ordered',
    'counterparty',
    'counterparty_name',
    'description',
  ],
  prefixes: ['dim:'],
  dates: ['date', 'due_date'],
  amounts: ['amount', 'ordered'],
};

export const DOCUMENT_COLUMNS: Columns = {
  required: ['number', 'type', 'date', 'amount'],
  known: [
    'entity',
    'number',
    'type',
    'date',
    'due_date',
    'amount',
    'currency',
    'counterparty',
    'counterparty_name',
    'account',
    'description',
    'source',
    'applied',
    'applied_date',
    'attachment',
  ],
  prefixes: [],
  dates: ['date', 'due_date', 'applied_date'],
  amounts: ['amount', 'applied'],
};

export const DOCUMENT_LINE_COLUMNS: Columns = {
  required: ['document', 'description', 'amount'],
  known: [
    'entity',
    'document',
    'line',
    'item',
    'description',
    'quantity',
    'unit',
    'unit_price',
    'amount',
    'currency',
    'tax_code',
    'tax_amount',
    'account',
  ],
  prefixes: [],
  dates: [],
  amounts: ['quantity', 'unit_price', 'amount', 'tax_amount'],
};

export const RATE_COLUMNS: Columns = {
  required: ['date', 'from', 'to', 'rate'],
  known: ['date', 'from', 'to', 'rate', 'kind'],
  prefixes: [],
  dates: ['date'],
  amounts: ['rate'],
};

export const TRIAL_BALANCE_COLUMNS: Columns = {
  required: ['account'],
  anyOf: [['debit', 'credit'], ['amount'], ['closing']],
  known: [
    'entity',
    'account',
    'name',
    'date',
    'period',
    'year',
    'opening',
    'debit',
    'credit',
    'amount',
    'side',
    'closing',
  ],
  prefixes: [],
  dates: ['date'],
  amounts: ['opening', 'debit', 'credit', 'amount', 'closing'],
};

export const CALENDAR_COLUMNS: Columns = {
  required: ['year', 'number', 'from', 'to'],
  known: ['entity', 'year', 'number', 'from', 'to', 'adjustment'],
  prefixes: [],
  dates: ['from', 'to'],
  amounts: [],
};

export const HOLDING_COLUMNS: Columns = {
  required: ['number', 'name', 'kind', 'account'],
  known: ['entity', 'number', 'name', 'kind', 'account', 'takes', 'currency', 'bank_account'],
  prefixes: [],
  dates: [],
  amounts: [],
};

export const TAX_CODE_COLUMNS: Columns = {
  required: ['code', 'name'],
  known: ['entity', 'code', 'name', 'rate', 'box', 'net_box'],
  prefixes: [],
  dates: [],
  amounts: [],
};

export const SCHEME_COLUMNS: Columns = {
  required: ['scheme', 'code', 'name'],
  known: ['scheme', 'code', 'name'],
  prefixes: ['name:'],
  dates: [],
  amounts: [],
};

export const PARTY_COLUMNS: Columns = {
  required: ['code'],
  known: [
    'code',
    'name',
    'kind',
    'group',
    'address',
    'postal_code',
    'city',
    'country',
    'bank_account',
    'tax_number',
    'status',
  ],
  prefixes: [],
  dates: [],
  amounts: [],
};

export const COLUMNS: Record<LoadKind, Columns> = {
  lines: LINE_COLUMNS,
  accounts: ACCOUNT_COLUMNS,
  dimensions: DIMENSION_COLUMNS,
  budgets: BUDGET_COLUMNS,
  commitments: COMMITMENT_COLUMNS,
  documents: DOCUMENT_COLUMNS,
  rates: RATE_COLUMNS,
  'trial-balance': TRIAL_BALANCE_COLUMNS,
  calendar: CALENDAR_COLUMNS,
  holdings: HOLDING_COLUMNS,
  'tax-codes': TAX_CODE_COLUMNS,
  'document-lines': DOCUMENT_LINE_COLUMNS,
  parties: PARTY_COLUMNS,
  schemes: SCHEME_COLUMNS,
};

export const isKnown = (columns: Columns, name: string): boolean =>
  columns.known.includes(name) || columns.prefixes.some((p) => name.startsWith(p) && name.length > p.length);
