import { z } from 'zod';
import { partySchema } from './charts';
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

export const documentRegisterSchema = z.strictObject({
  entity: z.string(),
  load: z.number(),
  /** How many there are of each kind, whatever is limited to. */
  kinds: z.array(z.strictObject({ type: z.string(), count: z.number() })),
  count: z.number(),
  rows: z.array(
    documentHeadSchema.extend({
      /** What it is worth with its change orders, where it has any. */
      value: z.string().nullable(),
      open: z.string(),
      state: z.string(),
      /** Promised or asked for, and never booked itself. */
      promising: z.boolean(),
      /** Lines that name it, where that was looked at. */
      lines: z.number().nullable(),
    }),
  ),
  next: z.number().nullable(),
});
export type DocumentRegister = z.infer<typeof documentRegisterSchema>;

export const partyStorySchema = z.strictObject({
  entity: z.string(),
  load: z.number(),
  currency: z.string(),
  party: partySchema,
  /** Which way it is owed. */
  owed: z.enum(['to us', 'by us']),
  /** In the order of days. */
  rows: z.array(
    documentHeadSchema.extend({
      open: z.string(),
      state: z.string(),
      /** Whether it changes what is owed. */
      counts: z.boolean(),
      /** A document of several, such as a payment of many invoices: the part that is of this one. */
      shared: z.boolean(),
      balance: z.string(),
    }),
  ),
  /** There are more documents than are told. */
  more: z.boolean(),
  balance: z.string(),
  /** Control accounts that its documents are on, and what the ledger says of it there. */
  accounts: z.array(z.string()),
  ledger: z.string(),
  tie: tieSchema,
});
export type PartyStory = z.infer<typeof partyStorySchema>;

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
  /** By the documents that followed the order as a whole; null where it is not among the documents. */
  received: z.string().nullable(),
  invoiced: z.string().nullable(),
  paid: z.string().nullable(),
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
  /** Up to how many days past each band of age goes. */
  edges: z.array(z.number()),
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
      /** What proposed entries make of it, where they count. */
      proposed: z.string().optional(),
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

/** What makes the difference between the documents of a control account and its balance. What is owed is positive. */
export const unmatchedDocumentsSchema = z.strictObject({
  sentence: z.string(),
  entity: z.string(),
  at: z.string(),
  parts: z.array(sentencePartSchema),
  address: z.string(),
  currency: z.string(),
  load: z.number(),
  accounts: z.array(
    z.strictObject({
      account: z.string(),
      name: z.string(),
      owed: z.enum(['to us', 'by us']),
      /** Documents and groups of lines that were held against each other. */
      compared: z.number(),
      unmatched: z.number(),
      alike: z.number(),
      ledger: z.string(),
      documents: z.string(),
      /** Ledger less documents. */
      difference: z.string(),
      tie: tieSchema,
      /** The largest of them. */
      rows: z.array(
        z.strictObject({
          kind: z.enum(['no-document', 'no-lines', 'differs', 'other-currency', 'applied']),
          /** Of the document; of what is applied, that which it was applied to. */
          number: z.string().nullable(),
          /** Of lines that name no document. */
          entry: z.string().nullable(),
          /** Of what is applied, the document that applied it. */
          other: z.string().nullable(),
          type: z.string().nullable(),
          date: z.string(),
          counterparty: z.string().nullable(),
          counterpartyName: z.string().nullable(),
          description: z.string(),
          documents: z.string().nullable(),
          ledger: z.string().nullable(),
          difference: z.string(),
          lines: z.number(),
        }),
      ),
    }),
  ),
});
export type UnmatchedDocuments = z.infer<typeof unmatchedDocumentsSchema>;

export const applicationSchema = z.strictObject({
  date: z.string(),
  document: z.string(),
  applied: z.string(),
  open: z.string(),
  /** It changed what the document is worth, as a change order does. */
  changes: z.literal(true).optional(),
});

export const oneDocumentSchema = documentHeadSchema.extend({
  entity: z.string(),
  load: z.number(),
  settling: z.boolean(),
  /** Promised or asked for, and never booked itself. */
  promising: z.boolean(),
  state: z.string(),
  value: z.string().nullable(),
  account: z.string().nullable(),
  open: z.string(),
  booked: z.number(),
  /** As it was written, line by line; null where nothing of it came. */
  lines: z
    .strictObject({
      rows: z.array(
        z.strictObject({
          line: z.number(),
          item: z.string(),
          description: z.string(),
          quantity: z.string().nullable(),
          unit: z.string(),
          unitPrice: z.string().nullable(),
          amount: z.string(),
          taxCode: z.string(),
          tax: z.string().nullable(),
          account: z.string(),
        }),
      ),
      net: z.string(),
      tax: z.string(),
      /** Whether they come to its amount, with their tax or without. */
      tie: tieSchema,
    })
    .nullable(),
  taxes: z.array(z.strictObject({ code: z.string(), base: z.string(), tax: z.string() })),
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
