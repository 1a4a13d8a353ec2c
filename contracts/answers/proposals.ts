import { z } from 'zod';
import { ABOVE } from '@/core/materiality';
import { MATCHED_FIELDS, PROPOSED_KINDS, PROPOSED_STATES } from '@/core/proposedEntry';
import { about } from './evidence';
import { rowProblemSchema } from './loads';

/** Entries that are proposed. Amounts in the currency of the books, as the sheets have them. */

const lineSchema = z.strictObject({
  account: z.string(),
  accountName: z.string(),
  amount: z.string(),
  debit: z.string(),
  credit: z.string(),
  date: z.string(),
  period: z.string(),
  description: z.string(),
  counterparty: z.string().nullable(),
  document: z.string().nullable(),
  taxCode: z.string().nullable(),
  /** In the currency of the transaction, debit positive; null where that is the books'. */
  inCurrency: z.strictObject({ currency: z.string(), amount: z.string() }).nullable(),
  dims: z.array(
    z.strictObject({ dimension: z.string(), dimensionName: z.string(), code: z.string(), name: z.string() }),
  ),
});

/** What correcting does, in debits less credits; of the result, a profit positive. */
const effectSchema = z.strictObject({
  assets: z.string(),
  liabilities: z.string(),
  equity: z.string(),
  income: z.string(),
  expense: z.string(),
  result: z.string(),
  /** Tax on what it does to the result; null where none is said. */
  tax: z.string().nullable(),
});

export const bookedAsSchema = z.strictObject({
  /** Which of its entries: the number that it bears here. */
  number: z.string(),
  /** The load that brought it; null: nothing like it came yet. */
  load: z.number().nullable(),
  entry: z.string().nullable(),
  how: z.enum(['as proposed', 'differs', 'accepted', 'not booked']),
  fields: z.array(z.enum(MATCHED_FIELDS)),
});

export const proposedSchema = z.strictObject({
  ...about,
  number: z.string(),
  entity: z.string(),
  entityName: z.string(),
  currency: z.string(),
  kind: z.enum(PROPOSED_KINDS),
  set: z.string(),
  title: z.string(),
  reason: z.string(),
  state: z.enum(PROPOSED_STATES),
  stateBy: z.string().nullable(),
  stateAt: z.string(),
  stateReason: z.string(),
  date: z.string(),
  lines: z.array(lineSchema),
  /** Lines that lie outside what the viewer may see. */
  outside: z.number(),
  debit: z.string(),
  credit: z.string(),
  effect: effectSchema,
  taxPercent: z.string(),
  links: z.array(z.string()),
  /** The numbers of its entries in ledgers that are shown with what is proposed. */
  entries: z.array(z.string()),
  /** Whether its lines count with what is booked. */
  counts: z.boolean(),
  exported: z.strictObject({ at: z.string(), digest: z.string() }).nullable(),
  booked: z.array(bookedAsSchema),
  /** Whether the viewer may approve it: somebody else than who proposed it. */
  mayApprove: z.boolean(),
});
export type Proposed = z.infer<typeof proposedSchema>;
export const proposedListSchema = z.strictObject({ rows: z.array(proposedSchema), next: z.string().nullable() });

/** Pins, files, findings and hits of tests about what a proposed entry goes back to, each with the screen that shows it. */
export const restsOnSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      is: z.enum(['pin', 'file', 'finding', 'hit']),
      label: z.string(),
      by: z.string().nullable(),
      address: z.string(),
    }),
  ),
});
export type RestsOn = z.infer<typeof restsOnSchema>;

/** Lines as they would be proposed, to be looked at and changed first. */
export const draftSchema = z.strictObject({
  entity: z.string(),
  currency: z.string(),
  date: z.string(),
  period: z.string(),
  lines: z.array(lineSchema),
  faults: z.array(z.strictObject({ line: z.number().nullable(), field: z.string(), message: z.string() })),
});
export type Draft = z.infer<typeof draftSchema>;

/** A table of entries as it is understood. */
export const proposedTableAnswerSchema = z.strictObject({
  columns: z.array(z.strictObject({ head: z.string(), field: z.string().nullable() })),
  /** What a column can be. */
  fields: z.array(z.string()),
  entries: z.array(z.strictObject({ name: z.string(), lines: z.array(lineSchema), debit: z.string() })),
  problems: z.array(rowProblemSchema),
  /** Numbers of the entries that were proposed. */
  kept: z.array(z.string()),
});
export type ProposedTable = z.infer<typeof proposedTableAnswerSchema>;

/** What entries do to statements, and to the results of years. */
export const proposedEffectSchema = z.strictObject({
  entity: z.string(),
  currency: z.string(),
  faults: draftSchema.shape.faults,
  effect: effectSchema,
  statements: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      window: z.string(),
      rows: z.array(
        z.strictObject({
          key: z.string(),
          label: z.string(),
          booked: z.string().nullable(),
          proposed: z.string().nullable(),
          adjusted: z.string().nullable(),
        }),
      ),
    }),
  ),
  years: z.array(z.strictObject({ year: z.number(), rollover: z.string(), ironCurtain: z.string() })),
  materiality: z
    .strictObject({ overall: z.string(), performance: z.string(), trivial: z.string(), above: z.enum(ABOVE) })
    .nullable(),
});
export type ProposedEffect = z.infer<typeof proposedEffectSchema>;

export const proposedSetsSchema = z.strictObject({
  rows: z.array(
    z.strictObject({ name: z.string(), about: z.string(), by: z.string().nullable(), entries: z.number() }),
  ),
});

export const templatesSchema = z.strictObject({
  rows: z.array(
    z.strictObject({
      id: z.number(),
      name: z.string(),
      entity: z.string(),
      words: z.custom<Record<string, unknown>>((value) => typeof value === 'object'),
      by: z.string(),
      at: z.string(),
    }),
  ),
});

const basisSchema = z.strictObject({
  subject: z.string().nullable(),
  measure: z.string(),
  label: z.string(),
  percent: z.string(),
  /** What the figure came to when it was set; null where it was typed. */
  figure: z.string().nullable(),
  amount: z.string(),
});

export const materialitiesSchema = z.strictObject({
  /** What is material of the figure that was named. */
  applies: z.strictObject({ overall: z.string(), performance: z.string(), trivial: z.string() }).nullable(),
  rows: z.array(
    z.strictObject({
      id: z.number(),
      entity: z.string().nullable(),
      year: z.number(),
      currency: z.string(),
      overall: z.string(),
      performance: z.string(),
      trivial: z.string(),
      basis: basisSchema,
      alternatives: z.array(basisSchema),
      reason: z.string(),
      by: z.string(),
      at: z.string(),
      /** Whether it counts now; those before it are kept. */
      counts: z.boolean(),
    }),
  ),
});

/** Misstatements of a company in a year, corrected and not, against what is material. */
export const misstatementsSchema = z.strictObject({
  entity: z.string(),
  entityName: z.string(),
  year: z.number(),
  from: z.string(),
  to: z.string(),
  currency: z.string(),
  load: z.number(),
  materiality: materialitiesSchema.shape.rows.element.nullable(),
  groups: z.array(
    z.strictObject({
      is: z.enum(['uncorrected', 'corrected']),
      kind: z.enum(PROPOSED_KINDS),
      rows: z.array(
        z.strictObject({
          id: z.number(),
          number: z.string(),
          title: z.string(),
          state: z.enum(PROPOSED_STATES),
          reason: z.string(),
          /** Who left it uncorrected, and why. */
          waivedBy: z.string().nullable(),
          effect: effectSchema,
          rollover: z.string(),
          ironCurtain: z.string(),
          /** No more than what is clearly trivial. */
          trivial: z.boolean(),
        }),
      ),
      total: effectSchema,
      /** Σ of what each does to the result, whichever way. */
      gross: z.string(),
    }),
  ),
  uncorrected: z.strictObject({
    effect: effectSchema,
    gross: z.string(),
    rollover: z.string(),
    ironCurtain: z.string(),
    prior: z.string(),
    afterTax: z.string(),
  }),
  corrected: z.strictObject({ effect: effectSchema, gross: z.string() }),
  /** By row of the income statement and the balance sheet: what uncorrected ones would change. */
  byLine: z.array(
    z.strictObject({
      statement: z.string(),
      key: z.string(),
      label: z.string(),
      booked: z.string(),
      change: z.string(),
    }),
  ),
  /** How what is uncorrected stands to what is material. */
  verdict: z.enum([...ABOVE, 'not set']),
  outside: z.number(),
});
export type Misstatements = z.infer<typeof misstatementsSchema>;
