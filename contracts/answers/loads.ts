import { z } from 'zod';
import { ACCOUNT_TYPES } from '@/core/ledger';
import { FORMATS, LOAD_KINDS, mappingSchema, readingSchema } from '../mapping';

/** What stands against a row of a table: its number in the file, the head of its column, and what is there. */
export const rowProblemSchema = z.strictObject({
  row: z.number().nullable(),
  column: z.string().nullable(),
  value: z.string().nullable(),
  message: z.string(),
});

export const loadSchema = z.strictObject({
  id: z.number(),
  status: z.enum(['reading', 'loaded', 'refused']),
  waits: z.boolean(),
  cancelAsked: z.boolean(),
  progress: z.number(),
  rowsRead: z.number(),
  problemsSoFar: z.number(),
  startedAt: z.string().nullable(),
  finishedAt: z.string().nullable(),
  entity: z.string().nullable(),
  kind: z.string(),
  format: z.string(),
  file: z.string(),
  digest: z.string(),
  bytes: z.number(),
  replaces: z.string().nullable(),
  person: z.string(),
  createdAt: z.string(),
  lines: z.number(),
  entries: z.number(),
  replaced: z.number(),
  problemCount: z.number(),
  message: z.string().nullable(),
  mapping: mappingSchema.nullable().optional(),
  stated: z
    .array(
      z.strictObject({
        what: z.string(),
        entity: z.string(),
        account: z.string().nullable(),
        period: z.string().nullable(),
        stated: z.string(),
        found: z.string(),
        ok: z.boolean(),
      }),
    )
    .nullable()
    .optional(),
  totals: z
    .array(
      z.strictObject({
        entity: z.string(),
        period: z.string(),
        lines: z.number(),
        debit: z.string(),
        credit: z.string(),
      }),
    )
    .optional(),
  problems: z.array(rowProblemSchema).optional(),
});
export type Load = z.infer<typeof loadSchema>;

export const recognisedSchema = z.strictObject({
  value: z.string(),
  doubt: z.enum(['none', 'likely', 'ask']),
  why: z.string(),
});
export type Recognised = z.infer<typeof recognisedSchema>;

const looked = {
  digest: z.string(),
  kind: z.enum(LOAD_KINDS),
  /** Of a file that was just sent. */
  name: z.string().optional(),
  bytes: z.number().optional(),
};

/** A file of which nothing can be told but why. */
export const unreadableFileSchema = z.strictObject({ ...looked, unreadable: z.string() });

/** An entry of the first rows, as it would be loaded. */
export const previewEntrySchema = z.strictObject({
  entity: z.string(),
  entry: z.string(),
  date: z.string(),
  balances: z.boolean(),
  lines: z.array(
    z.strictObject({
      line: z.number(),
      account: z.string(),
      accountName: z.string(),
      debit: z.string(),
      credit: z.string(),
      description: z.string(),
      dims: z.array(z.string()),
    }),
  ),
});
export type PreviewEntry = z.infer<typeof previewEntrySchema>;

export const readableFileSchema = z.strictObject({
  ...looked,
  unreadable: z.null(),
  format: z.enum(FORMATS),
  container: z.enum(['none', 'gzip', 'zip', 'workbook']),
  members: z.array(z.string()),
  sheets: z.array(z.string()),
  reading: readingSchema,
  recognised: z.strictObject({
    encoding: recognisedSchema.nullable(),
    decimal: recognisedSchema,
    dates: recognisedSchema,
  }),
  header: z.array(z.string()),
  columns: z.array(
    z.strictObject({
      name: z.string(),
      guess: z
        .strictObject({
          field: z.string(),
          why: z.enum(['name', 'values']),
        })
        .nullable(),
      values: z.array(z.string()),
    }),
  ),
  rows: z.array(
    z.strictObject({
      row: z.number(),
      cells: z.array(z.string()),
    }),
  ),
  ownColumns: z.boolean(),
  fields: z.strictObject({
    required: z.array(z.string()),
    anyOf: z.array(z.array(z.string())),
    known: z.array(z.string()),
    prefixes: z.array(z.string()),
  }),
  missing: z.array(
    z.strictObject({
      field: z.string(),
      message: z.string(),
    }),
  ),
  mapping: mappingSchema.nullable(),
  offered: z.array(
    z.strictObject({
      name: z.string(),
      mapping: mappingSchema,
    }),
  ),
  preview: z
    .strictObject({
      rows: z.number(),
      entries: z.array(previewEntrySchema),
      balanced: z.boolean(),
      problems: z.array(rowProblemSchema),
      problemCount: z.number(),
    })
    .nullable(),
});
export type ReadableFile = z.infer<typeof readableFileSchema>;

/** What a file is, column by column, and what it would become. */
export const inspectionSchema = z.union([unreadableFileSchema, readableFileSchema]);
export type Inspection = z.infer<typeof inspectionSchema>;

export const completenessSchema = z.strictObject({
  load: z.number(),
  reach: z.array(
    z.strictObject({
      entity: z.string(),
      first: z.string(),
      last: z.string(),
      lines: z.number(),
      debit: z.string(),
      credit: z.string(),
      balances: z.boolean(),
    }),
  ),
  series: z.array(
    z.strictObject({
      entity: z.string(),
      journal: z.string().nullable(),
      prefix: z.string(),
      entries: z.number(),
      first: z.string(),
      last: z.string(),
      missing: z.number(),
      unnumbered: z.number(),
    }),
  ),
  gaps: z.array(
    z.strictObject({
      entity: z.string(),
      from: z.string(),
      to: z.string(),
      count: z.number(),
    }),
  ),
  gapsMore: z.boolean(),
  ranges: z.array(
    z.strictObject({
      entity: z.string(),
      from: z.string(),
      to: z.string(),
      count: z.number(),
    }),
  ),
  continuity: z.strictObject({
    periods: z.number(),
    ok: z.boolean(),
    broken: z.array(
      z.strictObject({
        entity: z.string(),
        period: z.string(),
        accountsOff: z.number(),
      }),
    ),
  }),
});

export const comparisonSchema = z.strictObject({
  from: z.number(),
  to: z.number(),
  counts: z.strictObject({
    added: z.number(),
    changed: z.number(),
    removed: z.number(),
  }),
  accounts: z.array(
    z.strictObject({
      entity: z.string(),
      account: z.string(),
      name: z.string(),
      currency: z.string(),
      added: z.number(),
      changed: z.number(),
      removed: z.number(),
      before: z.string(),
      after: z.string(),
      change: z.string(),
    }),
  ),
  lines: z.array(
    z.strictObject({
      change: z.enum(['added', 'changed', 'removed']),
      entity: z.string(),
      entry: z.string(),
      line: z.number(),
      date: z.string(),
      account: z.string(),
      description: z.string(),
      amount: z.string(),
      fields: z.array(
        z.strictObject({
          field: z.string(),
          from: z.string(),
          to: z.string(),
        }),
      ),
    }),
  ),
  at: z.number(),
  touched: z.strictObject({
    pins: z.array(
      z.strictObject({
        id: z.number(),
        label: z.string(),
        by: z.string(),
        currency: z.string(),
        value: z.string(),
        now: z.string().nullable(),
        state: z.string(),
      }),
    ),
    notes: z.array(
      z.strictObject({
        id: z.number(),
        label: z.string(),
        by: z.string(),
        body: z.string(),
      }),
    ),
    threads: z.array(
      z.strictObject({
        id: z.number(),
        name: z.string(),
        by: z.string(),
        state: z.string(),
        steps: z.array(z.string()),
      }),
    ),
  }),
});
export type Comparison = z.infer<typeof comparisonSchema>;

export const connectionSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  url: z.string(),
  entity: z.string().nullable(),
  everyMinutes: z.number().nullable(),
  state: z.enum(['idle', 'asked', 'pulling', 'loading', 'failed']),
  message: z.string().nullable(),
  pulledAt: z.string().nullable(),
  lastLoad: z.number().nullable(),
  upTo: z.string().nullable(),
  privateAllowed: z.boolean(),
});
export type Connection = z.infer<typeof connectionSchema>;

export const keptMappingSchema = z.strictObject({
  name: z.string(),
  mapping: mappingSchema,
});

export const loadListSchema = z.strictObject({ rows: z.array(loadSchema), next: z.string().nullable() });
export const connectionsSchema = z.strictObject({ rows: z.array(connectionSchema) });
export const mappingsSchema = z.strictObject({ rows: z.array(keptMappingSchema) });
export const newestSchema = z.strictObject({ load: z.number() });

/** What a ledger could be made of that has nothing but one file of lines. */
export const ledgerProposalSchema = z.strictObject({
  digest: z.string(),
  /** Lines that were read; `partly`: there are more. */
  rows: z.number(),
  partly: z.boolean(),
  companies: z.array(z.strictObject({ code: z.string(), name: z.string(), taken: z.boolean() })),
  /** Codes of companies that the lines name; empty where they name none. */
  inFile: z.array(z.string()),
  currency: z.strictObject({ code: z.string(), why: z.string() }),
  yearStart: z.strictObject({ month: z.number(), why: z.string() }),
  adjustments: z.number(),
  first: z.string(),
  last: z.string(),
  accounts: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      type: z.enum(ACCOUNT_TYPES),
      why: z.enum(['file', 'name', 'class', 'sides']),
    }),
  ),
  retained: z.string().nullable(),
  dimensions: z.array(
    z.strictObject({ column: z.string(), code: z.string(), name: z.string(), members: z.array(z.string()) }),
  ),
  mapping: mappingSchema.nullable(),
  /** How many things are wrong in the rows that were read. */
  problems: z.number(),
});
export type LedgerProposal = z.infer<typeof ledgerProposalSchema>;

export const begunLedgerSchema = z.strictObject({ loads: z.array(z.number()) });
export const guessesSchema = z.strictObject({
  rows: z.array(z.strictObject({ entity: z.string(), key: z.string(), says: z.string() })),
});
