import { z } from 'zod';
import { sheetHeadSchema, tieSchema } from './head';
import { originSchema } from './lines';

export const journalEntrySchema = z.strictObject({
  id: z.string(),
  entity: z.string(),
  currency: z.string(),
  number: z.string(),
  date: z.string(),
  description: z.string(),
  origin: originSchema.nullable(),
  journal: z.string().nullable(),
  /** Kind of the document that it was booked from. */
  type: z.string().nullable(),
  postedBy: z.string().nullable(),
  enteredAt: z.string().nullable(),
  load: z.number(),
  status: z.string(),
  documents: z.array(z.string()),
  counterparties: z.array(z.string()),
  lines: z.array(
    z.strictObject({
      id: z.string(),
      line: z.number(),
      account: z.string(),
      accountName: z.string(),
      description: z.string(),
      dims: z.array(z.string()),
      debit: z.string(),
      credit: z.string(),
      /** It is a line of the scope; else it is only beside one. */
      within: z.boolean(),
    }),
  ),
  outside: z.number(),
  debit: z.string(),
  credit: z.string(),
  tie: tieSchema.nullable(),
});
export type JournalEntry = z.infer<typeof journalEntrySchema>;

export const journalSchema = sheetHeadSchema.extend({
  /** How many entries there are. */
  count: z.number(),
  /** Lines of the scope and their sums; null where they are in several currencies. */
  lines: z.number().nullable(),
  debit: z.string().nullable(),
  credit: z.string().nullable(),
  entries: z.array(journalEntrySchema),
  next: z.number().nullable(),
});

export const seriesSchema = sheetHeadSchema.extend({
  /** null for who sees a part of the books: numbers of other entries are not told. */
  series: z
    .array(
      z.strictObject({
        entity: z.string(),
        first: z.string(),
        last: z.string(),
        count: z.number(),
        /** Numbers between the first and the last that no entry bears. */
        missing: z.number(),
        gaps: z.array(z.strictObject({ from: z.string(), to: z.string() })),
        /** Where it goes on in another block of numbers: the last of one and the first of the next. */
        jumps: z.array(z.strictObject({ from: z.string(), to: z.string() })),
        more: z.boolean(),
      }),
    )
    .nullable(),
  more: z.boolean(),
});
export type EntrySeries = z.infer<typeof seriesSchema>;
