import { z } from 'zod';
import {
  amountsSchema,
  columnHeadSchema,
  columnValuesSchema,
  sentencePartSchema,
  sheetHeadSchema,
  tieSchema,
} from './head';

export const trialBalanceSchema = sheetHeadSchema.extend({
  languages: z.array(z.string()),
  schemes: z.array(z.string()),
  rows: z.array(
    amountsSchema.extend({
      account: z.string(),
      name: z.string(),
      type: z.string(),
      heading: z.boolean(),
      depth: z.number(),
      /** Codes of schemes beside the house's own, by scheme. */
      codes: z.record(z.string(), z.string()).optional(),
      selection: z.string().optional(),
      parts: z
        .array(
          z.strictObject({
            label: z.string(),
            opening: z.string(),
            year: z.number().nullable(),
            refine: z.record(z.string(), z.string()).nullable(),
          }),
        )
        .optional(),
      values: columnValuesSchema.optional(),
    }),
  ),
  columns: z.array(columnHeadSchema).optional(),
  columnTotals: columnValuesSchema.optional(),
  sides: z.strictObject({
    openingDebit: z.string(),
    openingCredit: z.string(),
    closingDebit: z.string(),
    closingCredit: z.string(),
  }),
  totals: amountsSchema,
  tie: tieSchema.extend({ means: z.enum(['balances', 'parts']) }).nullable(),
});
export type TrialBalance = z.infer<typeof trialBalanceSchema>;

const aboveSchema = z.array(z.enum(['movement', 'closing'])).optional();

export const splitSheetSchema = sheetHeadSchema.extend({
  /** Measures in which the rows add up to the total. */
  additive: z.array(z.string()),
  /** What is material of what is asked, where that is said. */
  material: z.string().optional(),
  columns: z.array(
    z.strictObject({
      member: z.string(),
      name: z.string(),
      within: z.string().nullable(),
      refine: z.record(z.string(), z.union([z.string(), z.array(z.string())])),
      total: amountsSchema,
    }),
  ),
  rows: z.array(
    amountsSchema.extend({
      member: z.string(),
      name: z.string(),
      depth: z.number(),
      refine: z.record(z.string(), z.union([z.string(), z.array(z.string())])),
      address: z.string(),
      /** In which measures it is at least what is material. */
      above: aboveSchema,
      /** Of a row with rows below it: whether they add up to it. */
      tie: tieSchema.optional(),
      /** Of a translated sheet: whether the row is of a single account. */
      oneAccount: z.boolean().optional(),
      /** With the accounts of the cell where both splits are of accounts. */
      cells: z
        .array(
          amountsSchema.extend({
            accounts: z.string().optional(),
            above: aboveSchema,
          }),
        )
        .optional(),
      inCurrency: z.string().nullable().optional(),
      /** Under the columns to compare with. */
      values: columnValuesSchema.optional(),
      /** By column, what asks for the row over its window, where rows are of time. */
      scopes: z.record(z.string(), z.record(z.string(), z.union([z.string(), z.array(z.string())]))).optional(),
    }),
  ),
  /** Columns to compare with; a variance of income and expense is favourable where it is a credit. */
  compared: z
    .array(
      columnHeadSchema.extend({
        favourable: z.literal('credit').nullable(),
      }),
    )
    .optional(),
  values: columnValuesSchema.optional(),
  total: amountsSchema,
  /** Of a split with very many rows, answered page by page: what the rows of other pages come to, and the member after which the next begins. */
  others: amountsSchema.extend({ next: z.string().nullable() }).optional(),
  tie: tieSchema,
});
export type SplitSheet = z.infer<typeof splitSheetSchema>;

export const totalsSchema = sheetHeadSchema.extend({
  values: columnValuesSchema.optional(),
  total: amountsSchema,
  /** What the parts of its lines come to, where a part was asked for; null where there are too many. */
  part: z.string().nullable().optional(),
  /** Null where nothing independent proves it. */
  tie: tieSchema.nullable(),
});

/** One of many figures that were asked for at once. */
export const figureOfSeveralSchema = z.strictObject({
  value: z.string().nullable(),
  count: z.number().nullable(),
  currency: z.string().nullable(),
  load: z.number().nullable(),
  tie: tieSchema.nullable(),
  /** Why it cannot be told; the rest is null then. */
  error: z.string().optional(),
});
export type FigureOfSeveral = z.infer<typeof figureOfSeveralSchema>;
export const figuresSchema = z.strictObject({ figures: z.array(figureOfSeveralSchema) });

export const otherSideSchema = z.strictObject({
  sentence: z.string(),
  parts: z.array(sentencePartSchema),
  currency: z.string(),
  rows: z.array(
    z.strictObject({
      account: z.string(),
      name: z.string(),
      movement: z.string(),
      exact: z.string(),
      shared: z.string(),
    }),
  ),
  total: z.string(),
  tie: tieSchema,
});
export type OtherSide = z.infer<typeof otherSideSchema>;

export const overTimeSchema = z.strictObject({
  sentence: z.string(),
  currency: z.string(),
  load: z.number(),
  measure: z.enum(['movement', 'closing']),
  tie: tieSchema,
  points: z.array(
    z.strictObject({
      period: z.string(),
      name: z.string(),
      value: z.string(),
      before: z.string().nullable(),
      count: z.number(),
      inWindow: z.boolean(),
    }),
  ),
  usual: z
    .strictObject({
      mean: z.string(),
      low: z.string(),
      high: z.string(),
    })
    .nullable(),
});
export type OverTime = z.infer<typeof overTimeSchema>;

export const whatMovedSchema = z.strictObject({
  sentence: z.string(),
  measure: z.enum(['movement', 'closing']),
  currency: z.string(),
  now: z.string(),
  before: z.string(),
  totals: z
    .strictObject({
      before: z.string(),
      now: z.string(),
      change: z.string(),
    })
    .nullable(),
  /** Null where nothing independent proves it. */
  tie: tieSchema.nullable(),
  dimensions: z.array(
    z.strictObject({
      by: z.string(),
      name: z.string(),
      members: z.number(),
      concentration: z.number(),
      gross: z.string(),
      movers: z.array(
        z.strictObject({
          member: z.string(),
          name: z.string(),
          is: z.enum(['there', 'new', 'gone']),
          refine: z.record(z.string(), z.union([z.string(), z.array(z.string())])),
          before: z.string(),
          now: z.string(),
          change: z.string(),
          share: z.string().nullable(),
        }),
      ),
      rest: z.string(),
    }),
  ),
  notWeighed: z.array(
    z.strictObject({
      name: z.string(),
      problem: z.string(),
    }),
  ),
});
export type WhatMoved = z.infer<typeof whatMovedSchema>;

/** Words, or an amount that stands among them. */
const pieceSchema = z.union([z.string(), z.strictObject({ amount: z.string() })]);

export const marksSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      row: z.string(),
      marks: z.array(
        z.strictObject({
          rule: z.string(),
          /** A sentence in pieces; each amount is one of them. */
          says: z.array(pieceSchema),
        }),
      ),
    }),
  ),
});

/** A question in words. */
export const sentenceSchema = sheetHeadSchema.pick({ sentence: true, parts: true, address: true, currency: true });
