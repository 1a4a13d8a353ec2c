import { z } from 'zod';

/** Shapes of the API's answers that the screens read. */
export const sentencePartSchema = z.strictObject({
  text: z.string(),
  control: z.string().optional(),
  removable: z.boolean().optional(),
  granted: z.boolean().optional(),
});
export type SentencePart = z.infer<typeof sentencePartSchema>;

export const amountsSchema = z.strictObject({
  opening: z.string(),
  debit: z.string(),
  credit: z.string(),
  movement: z.string(),
  roll: z.string(),
  closing: z.string(),
  count: z.number(),
  yearToDate: z.string().optional(),
  yearDebit: z.string().optional(),
  yearCredit: z.string().optional(),
});
export type Amounts = z.infer<typeof amountsSchema>;

export const tieSchema = z.strictObject({
  ok: z.boolean(),
  offBy: z.string(),
  sinceLoad: z.number().nullable().optional(),
});
export type Tie = z.infer<typeof tieSchema>;

export const emptySchema = z.strictObject({
  reason: z.string(),
  instead: z.record(z.string(), z.string()).nullable(),
  label: z.string().nullable(),
});
export type Empty = z.infer<typeof emptySchema>;

export const sheetHeadSchema = z.strictObject({
  sentence: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  currency: z.string(),
  /** Some of the books are in another currency than the answer. */
  translated: z.boolean().optional(),
  load: z.number(),
  empty: emptySchema.optional(),
});
export type SheetHead = z.infer<typeof sheetHeadSchema>;

/** Values by column. */
export const columnValuesSchema = z.record(z.string(), z.string().nullable());

export const columnHeadSchema = z.strictObject({
  key: z.string(),
  label: z.string(),
  /** Its window, or why it has no values. */
  title: z.string(),
  hint: z.string(),
  unit: z.enum(['amount', 'percent', 'number']),
  /** Scope parameters that make the window of the sheet that of the column; none where it is calculated from others. */
  scope: z.record(z.string(), z.union([z.string(), z.array(z.string())])),
});

/** Something was made; this is its number. */
export const madeSchema = z.strictObject({ id: z.number() });
export const okSchema = z.strictObject({ ok: z.boolean() });
