import { z } from 'zod';
import { columnLayoutSchema } from '../bodies/all';
import { RIGHTS } from '../work';

/** A sentence that was kept by name. */
export const keptScopeSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  place: z.enum(['trial-balance', 'statements', 'lines']),
  query: z.string(),
  shared: z.boolean(),
  opens: z.boolean(),
  mine: z.boolean(),
  /** What the viewer may do with it. */
  may: z.enum(RIGHTS),
  by: z.string(),
  folder: z.string(),
  /** Whether it is among the places of the viewer. */
  atHand: z.boolean(),
});
export type KeptScope = z.infer<typeof keptScopeSchema>;

/** Who may do what with something that is shared. */
export const sharingSchema = z.strictObject({
  /** Who made it. */
  by: z.string(),
  everybody: z.enum(RIGHTS),
  people: z.array(z.strictObject({ id: z.number(), name: z.string(), may: z.enum(RIGHTS) })),
  /** Whom something may be said of. */
  others: z.array(z.strictObject({ id: z.number(), name: z.string() })),
});
export type Sharing = z.infer<typeof sharingSchema>;

export const recordEntrySchema = z.strictObject({
  number: z.number(),
  at: z.string(),
  person: z.string(),
  act: z.string(),
  subject: z.string(),
  detail: z.record(z.string(), z.unknown()),
  /** The hash of the entry before it. */
  previous: z.string(),
  hash: z.string(),
});

export const recordAnswerSchema = z.strictObject({
  head: z.strictObject({
    number: z.number(),
    hash: z.string(),
  }),
  rows: z.array(recordEntrySchema),
  next: z.string().nullable(),
});

export const recordCheckSchema = z.strictObject({
  ok: z.boolean(),
  entries: z.number(),
  hash: z.string(),
  anchors: z.number(),
  brokenAt: z.number().optional(),
});

export const keptScopesSchema = z.strictObject({ rows: z.array(keptScopeSchema) });

/** How the viewer has arranged the columns of each sheet. */
export const layoutsSchema = z.strictObject({ sheets: z.record(z.string(), columnLayoutSchema) });
export type Layouts = z.infer<typeof layoutsSchema>;
export const sheetNameSchema = z.strictObject({ sheet: z.string() });

export const healthSchema = z.strictObject({
  status: z.enum(['ok', 'unavailable']),
  version: z.string(),
  database: z.string(),
});
