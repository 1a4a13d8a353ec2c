import { z } from 'zod';
import { entryOriginsSchema } from '../bodies/all';
import { sheetHeadSchema, tieSchema } from './head';

export const lineRowSchema = z.strictObject({
  id: z.string(),
  entity: z.string(),
  entry: z.string(),
  entryId: z.string(),
  line: z.number(),
  date: z.string(),
  period: z.string(),
  account: z.string(),
  accountName: z.string(),
  debit: z.string(),
  credit: z.string(),
  amount: z.string(),
  running: z.string().nullable(),
  description: z.string(),
  entryDescription: z.string(),
  journal: z.string().nullable(),
  document: z.string().nullable(),
  counterparty: z.string().nullable(),
  counterpartyName: z.string().nullable(),
  postedBy: z.string().nullable(),
  enteredAt: z.string().nullable(),
  status: z.string(),
  kind: z.string(),
  currency: z.string().nullable(),
  currencyAmount: z.string().nullable(),
  quantity: z.string().nullable(),
  unit: z.string().nullable(),
  unitPrice: z.string().nullable(),
  approvedBy: z.string().nullable(),
  reversalOf: z.string().nullable(),
  source: z.string().nullable(),
  load: z.number(),
  /** What else the file said of the line, by its own column names. */
  extra: z.record(z.string(), z.string()),
  /** By its date it is where by its number it does not. */
  outOfOrder: z.boolean().optional(),
  /** Why it stands out by the rules of the workspace. */
  standsOut: z.array(z.string()).optional(),
  /** It was not booked, but takes out or brings in on the cash basis what a document bears. */
  onCashBasis: z.boolean().optional(),
  /** It was not booked, but is proposed in this set. */
  proposedIn: z.string().optional(),
  /** Its date is not in the period that it was booked in. */
  outsidePeriod: z.boolean().optional(),
  dims: z.array(
    z.strictObject({
      dimension: z.string(),
      dimensionName: z.string(),
      code: z.string(),
      name: z.string(),
    }),
  ),
  otherSide: z.array(
    z.strictObject({
      account: z.string(),
      name: z.string(),
      amount: z.string(),
      exact: z.boolean(),
    }),
  ),
  otherSideMore: z.number(),
  /** The part of the line that was asked for. */
  part: z.string().nullable().optional(),
  /** What it is worth in the currency that was asked for, where that is not the one of the books. */
  worth: z.string().optional(),
});
export type LineRow = z.infer<typeof lineRowSchema>;

/** Where in a ledger a line is that was looked for: its row, and which of how many it is; null where there is none. */
export const foundLineSchema = z.strictObject({
  at: z.number().int().nullable(),
  number: z.number().int().nullable(),
  of: z.number().int(),
});

export const linesPageSchema = sheetHeadSchema.extend({
  /** false: it begins at nothing, whatever was there. */
  carries: z.literal(false).optional(),
  /** All lines are of one account. */
  oneAccount: z.boolean(),
  opening: z.string(),
  roll: z.string(),
  closing: z.string(),
  totals: z.strictObject({
    count: z.number(),
    debit: z.string(),
    credit: z.string(),
    movement: z.string(),
  }),
  /** What the parts of all lines come to, where a part was asked for; null where there are too many. */
  part: z.string().nullable().optional(),
  /**
   * What the lines are worth in the currency that was asked for, where that is not the one of the books: opening, lines,
   * what rates and rounding did besides, and what years rolled over come to the closing. Null where there are too many lines
   * to be added up one by one.
   */
  worth: z
    .strictObject({
      currency: z.string(),
      opening: z.string(),
      lines: z.string().nullable(),
      byRates: z.string().nullable(),
      movement: z.string(),
      roll: z.string(),
      closing: z.string(),
    })
    .optional(),
  at: z.number(),
  rows: z.array(lineRowSchema),
  /** At the end of a ledger; null where it has no running balances. */
  tie: tieSchema.nullable().optional(),
  next: z.string().nullable(),
});

export const originSchema = entryOriginsSchema.shape.rows.element;

export const entrySchema = z.strictObject({
  id: z.string(),
  entity: z.string(),
  entityName: z.string(),
  inSource: z.string().nullable(),
  number: z.string(),
  origin: originSchema.nullable(),
  description: z.string(),
  journal: z.string().nullable(),
  date: z.string(),
  period: z.string(),
  periodName: z.string(),
  status: z.string(),
  postedBy: z.string().nullable(),
  enteredAt: z.string().nullable(),
  approvedBy: z.string().nullable(),
  reversalOf: z.string().nullable(),
  source: z.string().nullable(),
  currency: z.string(),
  load: z.number(),
  replacedBy: z.number().nullable(),
  lines: z.array(lineRowSchema),
  /** Lines outside what the viewer may see. */
  outside: z.number(),
  totals: z.strictObject({
    count: z.number(),
    debit: z.string(),
    credit: z.string(),
  }),
  /** null where the viewer sees a part of it. */
  tie: tieSchema.nullable(),
  documents: z.array(
    z.strictObject({
      number: z.string(),
      opens: z.boolean(),
      type: z.string().nullable(),
      date: z.string().nullable(),
    }),
  ),
});
export type Entry = z.infer<typeof entrySchema>;
