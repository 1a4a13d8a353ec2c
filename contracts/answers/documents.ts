import { z } from 'zod';
import { sentencePartSchema, tieSchema } from './head';

/** A document as every answer has it. */
export const plainSchema = z.strictObject({
  number: z.string(),
  type: z.string(),
  date: z.string(),
  dueDate: z.string().nullable(),
  currency: z.string(),
  counterparty: z.string().nullable(),
  counterpartyName: z.string().nullable(),
  amount: z.string(),
  description: z.string(),
});
export type Plain = z.infer<typeof plainSchema>;

export const openDocumentsSchema = z.strictObject({
  entity: z.string(),
  at: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  currency: z.string(),
  controls: z.array(
    z.strictObject({
      account: z.string(),
      name: z.string(),
    }),
  ),
  rows: z.array(
    plainSchema.extend({
      account: z.string(),
      open: z.string(),
      band: z.number(),
      daysPast: z.number(),
    }),
  ),
  bands: z.array(
    z.strictObject({
      name: z.string(),
      open: z.string(),
    }),
  ),
  total: z.strictObject({
    documents: z.number(),
    open: z.string(),
    inOtherCurrencies: z.number(),
  }),
  ledger: z.string(),
  tie: tieSchema,
});
export type OpenDocuments = z.infer<typeof openDocumentsSchema>;

export const appliedSchema = z.strictObject({
  date: z.string(),
  document: z.string(),
  applied: z.string(),
  open: z.string(),
});
export type Applied = z.infer<typeof appliedSchema>;

export const oneDocumentSchema = plainSchema.extend({
  entity: z.string(),
  load: z.number(),
  settling: z.boolean(),
  account: z.string().nullable(),
  open: z.string(),
  events: z.array(appliedSchema),
  settles: z.array(appliedSchema),
  chain: z.strictObject({
    documents: z.array(plainSchema),
    links: z.array(
      z.strictObject({
        source: z.string(),
        target: z.string(),
        date: z.string(),
        applied: z.string(),
      }),
    ),
  }),
  attachments: z.array(
    z.strictObject({
      name: z.string(),
      digest: z.string(),
      bytes: z.number(),
      alsoOn: z.array(z.string()),
    }),
  ),
});
export type OneDocument = z.infer<typeof oneDocumentSchema>;
