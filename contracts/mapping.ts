import { z } from 'zod';

/** Formats that a file may be in; the container (zip, gzip) is recognised beside them. */
export const FORMATS = ['csv', 'xlsx', 'saft', 'fec', 'ads', 'json'] as const;
export type Format = (typeof FORMATS)[number];

export const LOAD_KINDS = [
  'lines',
  'accounts',
  'dimensions',
  'budgets',
  'commitments',
  'documents',
  'rates',
  'trial-balance',
  'calendar',
  'holdings',
  'tax-codes',
  'parties',
  'schemes',
  'document-lines',
] as unknown as readonly [
  ...['lines', 'accounts', 'dimensions', 'budgets', 'commitments', 'documents', 'rates'],
  ...['trial-balance', 'calendar', 'holdings', 'tax-codes', 'parties', 'schemes', 'document-lines'],
];
export type LoadKind = (typeof LOAD_KINDS)[number];

export const ENCODINGS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252', 'iso-8859-15'] as const;
export type Encoding = (typeof ENCODINGS)[number];

export const DATE_ORDERS = ['ymd', 'dmy', 'mdy'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** How the characters of a file are to be read. What is left out is recognised. */
export const readingSchema = z.strictObject({
  encoding: z.enum(ENCODINGS).optional(),
  delimiter: z.enum([',', ';', '\t', '|']).optional(),
  quotes: z
    .enum(['around fields', 'letters'])
    .optional()
    .describe('Whether a quotation mark encloses a field, as in CSV, or is a letter like any other'),
  decimal: z.enum(['.', ',']).optional().describe('The decimal mark of amounts'),
  dates: z.enum(DATE_ORDERS).optional().describe('Order of day, month and year in dates'),
  sheet: z.string().max(200).optional().describe('Name of the sheet of a workbook; the first if absent'),
  headerRow: z.number().int().min(1).max(200).optional().describe('Row that names the columns, counted from 1'),
  member: z.string().max(500).optional().describe('Name of the file within a zip'),
});
export type Reading = z.infer<typeof readingSchema>;

const columnName = z.string().min(1).max(200);

/**
 * Which column of a file gives which field of ours. A field may join several columns (an entry number that is unique
 * only within its journal), or be the same for the whole file.
 */
export const mappingSchema = z.strictObject({
  name: z.string().trim().min(1).max(100).optional().describe('Name under which the mapping is kept'),
  reading: readingSchema.optional(),
  columns: z.record(columnName, z.union([columnName, z.array(columnName).min(1).max(5)])).optional(),
  constants: z.record(columnName, z.string().max(200)).optional(),
  debit: z.array(z.string().max(20)).max(10).optional().describe('Words in the side column that mean debit'),
});
export type Mapping = z.infer<typeof mappingSchema>;
