import { z } from 'zod';

/** What is sent of outlines of statements, and of budgets. */

const rowKey = z.string().regex(/^[\w~./-]{1,80}$/, 'a row key has letters, digits, . _ / and -');

const label200 = z.string().trim().min(1).max(200);

const inLanguages = z.record(z.string().regex(/^[a-z]{2,3}$/, 'a language is an ISO 639 code, such as nb'), label200);

const labelled = {
  key: rowKey,
  label: label200,
  names: inLanguages.optional().describe('The label in other languages'),
  depth: z.number().int().min(0).max(8),
};

const emphasis = z.enum(['subtotal', 'total']).optional();

/** An outline as it is written, exported and imported. */
export const outlineSchema = z.strictObject({
  code: z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'a code has small letters, digits and -'),
  name: label200,
  names: inLanguages.optional(),
  kind: z.enum(['income', 'balance', 'cashflow', 'position']),
  rows: z
    .array(
      z.discriminatedUnion('is', [
        z.strictObject({ ...labelled, is: z.literal('caption') }),
        z.strictObject({
          ...labelled,
          is: z.literal('accounts'),
          accounts: z.string().min(1).max(8_000),
          sign: z.enum(['debit', 'credit']),
          members: z
            .record(z.string(), z.array(z.string().min(1).max(200)).min(1).max(200))
            .optional()
            .describe('Members of dimensions, as scope parameters have them: only what is booked on these'),
        }),
        z.strictObject({
          ...labelled,
          is: z.literal('formula'),
          terms: z.array(z.strictObject({ row: rowKey, times: z.union([z.literal(1), z.literal(-1)]) })).max(200),
          emphasis,
        }),
        z.strictObject({ ...labelled, is: z.literal('ratio'), over: rowKey, under: rowKey }),
        z.strictObject({ ...labelled, is: z.literal('result'), emphasis }),
      ]),
    )
    .min(1)
    .max(500),
  shareOf: rowKey.optional(),
});

export const keptOutlineSchema = z.strictObject({ entity: z.string(), outline: outlineSchema });

const versionName = z
  .string()
  .trim()
  .min(1, 'give the version a name')
  .max(80)
  .regex(/^[^/\\,|]+$/, 'a version’s name has no / \\ , or |');

const fiscalYear = z.number().int().min(1900).max(2200);

/** A year of a large chart has so many cells; more than this is brought in as a file. */
const CELLS_MAX = 3_500;

/** Cells of a budget as they were written; amounts are debit positive, an empty one removes the cell. */
export const budgetEditSchema = z.strictObject({
  entity: z.string(),
  year: fiscalYear,
  /** dimension:member, one for each dimension; none: the whole company. */
  unit: z.array(z.string().max(200)).max(8),
  /** The load as of which the sheet was read. */
  asOf: z.number().int().min(0),
  cells: z
    .array(
      z.strictObject({
        account: z.string(),
        period: z.string(),
        amount: z.string().regex(/^$|^-?\d{1,13}(\.\d{1,4})?$/, 'write an amount as 1200.50'),
      }),
    )
    .min(1)
    .max(CELLS_MAX, `keep at most ${CELLS_MAX} cells at once, or bring the budget in as a file`),
});

export const budgetCopySchema = z.strictObject({
  entity: z.string(),
  version: versionName,
  year: fiscalYear,
  from: z.strictObject({ version: z.string(), year: fiscalYear }),
});

export const budgetVersionSchema = versionName;
