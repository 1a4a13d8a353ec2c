import type { LoadKind } from '@/contracts/mapping';

/** What a file may hold, in the words of the screens. */
export const KIND_WORDS: Record<LoadKind, string> = {
  lines: 'journal lines',
  accounts: 'chart of accounts',
  dimensions: 'dimensions and members',
  'trial-balance': 'trial balance',
  budgets: 'budget',
  commitments: 'open commitments',
  documents: 'documents and their files',
  'document-lines': 'lines of documents',
  rates: 'exchange rates',
  calendar: 'list of fiscal periods',
  holdings: 'bank accounts and cash boxes',
  'tax-codes': 'tax codes and their boxes',
  parties: 'customers and suppliers',
  schemes: 'captions of a statutory scheme',
};

export const FORMAT_WORDS: Record<string, string> = {
  csv: 'delimited text',
  xlsx: 'workbook',
  saft: 'standard audit file (XML)',
  fec: 'accounting entries file (18 columns)',
  ads: 'audit data standards',
  json: 'JSON',
  unknown: 'unreadable',
};

/** Kinds that belong to no single company. */
export const SHARED_KINDS: readonly LoadKind[] = ['dimensions', 'rates', 'parties', 'schemes'];
