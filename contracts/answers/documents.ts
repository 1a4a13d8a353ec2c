import { z } from 'zod';
import { sentencePartSchema, tieSchema } from './head';

/** A document as every answer has it. */
export const documentHeadSchema = z.strictObject({
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

export const openOrderSchema = z.strictObject({
  entity: z.string(),
  number: z.string(),
  line: z.number(),
  date: z.string(),
  dueDate: z.string().nullable(),
  /** Falls due after the window. */
  later: z.boolean(),
  account: z.string(),
  accountName: z.string(),
  counterparty: z.string().nullable(),
  counterpartyName: z.string().nullable(),
  description: z.string(),
  dims: z.array(
    z.strictObject({ dimension: z.string(), dimensionName: z.string(), code: z.string(), name: z.string() }),
  ),
  ordered: z.string().nullable(),
  /** Ordered less open. */
  delivered: z.string().nullable(),
  open: z.string(),
  load: z.number(),
});
export type OpenOrder = z.infer<typeof openOrderSchema>;

export const openOrdersSchema = z.strictObject({
  sentence: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  currency: z.string(),
  load: z.number(),
  rows: z.array(openOrderSchema),
  total: z.strictObject({ orders: z.number(), open: z.string() }),
  /** The orders of the list against their sum, which is asked for apart. */
  tie: tieSchema.nullable(),
});

export const openDocumentsSchema = z.strictObject({
  sentence: z.string(),
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
    documentHeadSchema.extend({
      account: z.string(),
      open: z.string(),
      band: z.number(),
      daysPast: z.number(),
    }),
  ),
  /** Of all accounts together; what is owed by others less what is owed to them, where there is both. */
  bands: z.array(
    z.strictObject({
      name: z.string(),
      open: z.string(),
    }),
  ),
  /** Each control account by itself, as it is read: what is owed is positive. */
  accounts: z.array(
    z.strictObject({
      account: z.string(),
      name: z.string(),
      owed: z.enum(['to us', 'by us']),
      bands: z.array(z.string()),
      open: z.string(),
      ledger: z.string(),
      tie: tieSchema,
    }),
  ),
  /** The same of each party on each control account, most open first. */
  parties: z.array(
    z.strictObject({
      account: z.string(),
      code: z.string(),
      name: z.string().nullable(),
      bands: z.array(z.string()),
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

export const applicationSchema = z.strictObject({
  date: z.string(),
  document: z.string(),
  applied: z.string(),
  open: z.string(),
});

export const oneDocumentSchema = documentHeadSchema.extend({
  entity: z.string(),
  load: z.number(),
  settling: z.boolean(),
  account: z.string().nullable(),
  open: z.string(),
  events: z.array(applicationSchema),
  settles: z.array(applicationSchema),
  chain: z.strictObject({
    documents: z.array(documentHeadSchema.extend({ entity: z.string(), load: z.number() })),
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
