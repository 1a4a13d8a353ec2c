import { z } from 'zod';

export const budgetRowSchema = z.strictObject({
  kind: z.enum(['caption', 'account']),
  label: z.string(),
  account: z.string().nullable(),
  depth: z.number(),
  sign: z.enum(['debit', 'credit']),
  /** Of a caption: how many of the rows after it it adds up; 0 for a mere heading. */
  takes: z.number(),
  values: z.array(z.string()),
  elsewhere: z.string(),
});
export type BudgetRow = z.infer<typeof budgetRowSchema>;

/** A version of a budget as it is written: the rows of the income statement, one amount for each period. */
export const budgetAnswerSchema = z.strictObject({
  entity: z.string(),
  version: z.string(),
  year: z.number(),
  currency: z.string(),
  digits: z.number(),
  unit: z.array(z.string()),
  periods: z.array(
    z.strictObject({
      period: z.string(),
      from: z.string(),
      to: z.string(),
    }),
  ),
  rows: z.array(budgetRowSchema),
  units: z.array(
    z.strictObject({
      unit: z.array(z.string()),
      name: z.string(),
      total: z.string(),
    }),
  ),
  asOf: z.number(),
});
export type BudgetAnswer = z.infer<typeof budgetAnswerSchema>;

export const budgetListSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      entity: z.string(),
      version: z.string(),
      year: z.number(),
      lines: z.number(),
      load: z.number(),
      by: z.string(),
      at: z.string(),
    }),
  ),
  years: z.array(z.number()),
});
export type BudgetList = z.infer<typeof budgetListSchema>;
