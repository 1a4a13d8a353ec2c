import { z } from 'zod';

export const noteSchema = z.strictObject({
  id: z.number(),
  subject: z.string(),
  /** The screen on which it was written. */
  address: z.string(),
  measure: z.string().nullable(),
  label: z.string(),
  body: z.string(),
  by: z.string(),
  ink: z.enum(['preparer', 'reviewer', 'reader']),
  mine: z.boolean(),
  at: z.string(),
});
export type Note = z.infer<typeof noteSchema>;

export const pinSchema = z.strictObject({
  id: z.number(),
  subject: z.string(),
  /** The screen on which it was pinned. */
  address: z.string(),
  measure: z.string(),
  label: z.string(),
  sentence: z.string(),
  currency: z.string(),
  value: z.string(),
  lines: z.number(),
  load: z.number(),
  digest: z.string(),
  /** Which fields of a line the digest looks at; 1: those of before, 2: all. */
  digestVersion: z.number(),
  by: z.string(),
  ink: z.enum(['preparer', 'reviewer', 'reader']),
  mine: z.boolean(),
  at: z.string(),
  state: z.enum(['fresh', 'drifted']),
  now: z.string().nullable(),
  change: z.string().nullable(),
  drift: z.array(
    z.strictObject({
      change: z.enum(['added', 'changed', 'removed']),
      entity: z.string(),
      entry: z.string(),
      line: z.number(),
      date: z.string(),
      description: z.string(),
      amount: z.string(),
      before: z.string().nullable(),
      fields: z.array(z.string()),
      effect: z.string(),
    }),
  ),
  driftMore: z.boolean(),
  driftTies: z.boolean(),
});
export type Pin = z.infer<typeof pinSchema>;

export const notesSchema = z.strictObject({ rows: z.array(noteSchema), next: z.string().nullable() });
export const pinsSchema = z.strictObject({ rows: z.array(pinSchema), next: z.string().nullable() });
