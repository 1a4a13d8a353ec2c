import { z } from 'zod';
import { KEPT_VIEWS } from '../traced';
import { tieSchema } from './head';

export const threadHeadSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  state: z.enum(['open', 'concluded']),
  by: z.string(),
  mine: z.boolean(),
  at: z.string(),
  changed: z.string(),
});

export const threadInListSchema = threadHeadSchema.extend({
  steps: z.number(),
  entities: z.array(z.string()),
  address: z.string().nullable(),
});

/** Words as they were before they were changed. */
export const formerSchema = z.strictObject({
  words: z.record(z.string(), z.string()),
  by: z.string(),
  at: z.string(),
});
export type Former = z.infer<typeof formerSchema>;

export const threadStepSchema = z.strictObject({
  id: z.number(),
  parent: z.number().nullable(),
  address: z.string(),
  label: z.string(),
  view: z.enum(KEPT_VIEWS),
  by: z.string().nullable(),
  measure: z.string().nullable(),
  note: z.string(),
  load: z.number(),
  currency: z.string().nullable(),
  value: z.string().nullable(),
  lines: z.number().nullable(),
  who: z.string(),
  at: z.string(),
  now: z.string().nullable(),
  moved: z.boolean().optional(),
  problem: z.string().optional(),
  sentence: z.string().optional(),
  mine: z.boolean(),
  former: z.array(formerSchema),
});
export type ThreadStep = z.infer<typeof threadStepSchema>;

export const savedThreadSchema = threadHeadSchema.extend({
  former: z.array(formerSchema),
  steps: z.array(threadStepSchema),
});
export type SavedThread = z.infer<typeof savedThreadSchema>;

export const replayedSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  put: z.record(z.string(), z.array(z.string())),
  steps: z.array(
    threadStepSchema.omit({ mine: true, former: true }).extend({
      nowLines: z.number().optional(),
      nowCurrency: z.string().optional(),
      change: z.string().nullable(),
      empty: z.string().optional(),
      members: z
        .strictObject({
          vanished: z.array(z.string()),
          appeared: z.array(z.string()),
        })
        .optional(),
    }),
  ),
});
export type Replayed = z.infer<typeof replayedSchema>;

export const fannedOutSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  by: z.string(),
  columns: z.array(
    z.strictObject({
      step: z.number(),
      label: z.string(),
      measure: z.string(),
      currency: z.string(),
      total: z.string().nullable(),
      tie: tieSchema,
    }),
  ),
  rows: z.array(
    z.strictObject({
      member: z.string(),
      name: z.string(),
      cells: z.array(z.string().nullable()),
    }),
  ),
});

export const threadsSchema = z.strictObject({ rows: z.array(threadInListSchema) });
/** The steps of a way that was kept, in its order. */
export const keptWaySchema = z.strictObject({ id: z.number(), steps: z.array(z.number()) });
