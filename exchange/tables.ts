import type { Columns } from './csv';

/** The columns of the tables that can be loaded (formats.md). */
const LINE_REQUIRED = ['entry', 'line', 'date', 'account', 'description'] as const;

export const LINE_COLUMNS: Columns = {
  required: LINE_REQUIRED,
  anyOf: [['debit', 'credit'], ['amount']],
  known: [
    ...['entity', ...LINE_REQUIRED, 'debit', 'credit', 'amount', 'period', 'year', 'journal', 'entry_description'],
    ...['document', 'document_type', 'document_date', 'due_date', 'counterparty', 'counterparty_name', 'partner_entity'],
    ...['currency', 'currency_amount', 'quantity', 'unit', 'status', 'posted_by', 'entered_at', 'approved_by'],
    ...['reversal_of', 'kind', 'tax_code', 'tax_amount', 'attachment', 'account_name', 'account_type'],
  ],
  prefixes: ['dim:'],
};

export const ACCOUNT_COLUMNS: Columns = {
  required: ['code', 'name', 'type'],
  known: [
    ...['entity', 'code', 'name', 'type', 'parent', 'posting', 'status', 'normal', 'flow', 'group'],
    ...['classification', 'currency', 'created_at', 'created_by'],
  ],
  prefixes: ['name:', 'code:', 'dim:'],
};

export const DIMENSION_COLUMNS: Columns = {
  required: ['dimension', 'code', 'name'],
  known: ['entity', 'dimension', 'code', 'name', 'parent', 'valid_from', 'valid_to', 'group'],
  prefixes: ['name:'],
};
