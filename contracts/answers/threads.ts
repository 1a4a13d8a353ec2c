import { z } from 'zod';
import { KEPT_VIEWS } from '../traced';
import { ASSERTIONS, EVIDENCE_KINDS, RIGHTS, THREAD_WORDS } from '../work';
import { crossReferenceSchema, richTextAnswer } from './evidence';
import { tieSchema } from './head';

export const threadHeadSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  /** Changed: it was signed, and opened again since. */
  state: z.enum(['open', 'prepared', 'signed', 'changed']),
  reference: z.string(),
  folder: z.string(),
  reviewer: z.strictObject({ id: z.number(), name: z.string() }).nullable(),
  by: z.string(),
  mine: z.boolean(),
  at: z.string(),
  changed: z.string(),
});

export const threadInListSchema = threadHeadSchema.extend({
  steps: z.number(),
  /** Review points that are not cleared. */
  openPoints: z.number(),
  /** Figures of its steps and pins in it that are another by now. */
  moved: z.number(),
  signedBy: z.array(z.string()),
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

export const signOffAnswerSchema = z.strictObject({
  id: z.number(),
  as: z.enum(['preparer', 'reviewer']),
  by: z.string(),
  at: z.string(),
  digest: z.string(),
  /** The newest load then. */
  load: z.number(),
  /** That it no longer counts, since when, by whom, and why. */
  ended: z.strictObject({ at: z.string(), by: z.string(), reason: z.string() }).nullable(),
});

/** What a thread gathered on the way, as a line of its record. */
export const gatheredSchema = z.strictObject({
  kind: z.enum(EVIDENCE_KINDS),
  id: z.number(),
  subject: z.string(),
  label: z.string(),
  address: z.string(),
  /** What it says, in a line. */
  says: z.string(),
  by: z.string(),
  ink: z.enum(['preparer', 'reviewer', 'reader']),
  at: z.string(),
  /** That what it stands on has moved, or that it is still open. */
  state: z.string(),
});

export const savedThreadSchema = threadHeadSchema.extend({
  purpose: z.string(),
  assertions: z.array(z.enum(ASSERTIONS)),
  result: z.string(),
  conclusion: z.string(),
  /** Those of its words that have more in them than plain text, such as figures that are quoted. */
  written: z.partialRecord(z.enum(THREAD_WORDS), richTextAnswer),
  /** What the viewer may do with it. */
  may: z.enum(RIGHTS),
  /** Of what it says and gathered, as it is now. */
  digest: z.string(),
  signOffs: z.array(signOffAnswerSchema),
  /** What stands in the way of signing, and of reviewing. */
  hindered: z.strictObject({ preparer: z.string().nullable(), reviewer: z.string().nullable() }),
  gathered: z.array(gatheredSchema),
  crossReferences: z.array(crossReferenceSchema),
  rolledFrom: z.strictObject({ id: z.number(), name: z.string(), conclusion: z.string() }).nullable(),
  openPoints: z.number(),
  moved: z.number(),
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

export const signedContentSchema = z.strictObject({
  signOff: signOffAnswerSchema,
  /** Whether what is kept still gives the digest that was signed. */
  holds: z.boolean(),
  content: z.record(z.string(), z.unknown()),
});
export const rolledForwardSchema = z.strictObject({
  threads: z.array(
    z.strictObject({ from: z.number(), id: z.number(), name: z.string(), problems: z.array(z.string()) }),
  ),
});

export const threadsSchema = z.strictObject({ rows: z.array(threadInListSchema) });
/** The steps of a way that was kept, in its order. */
export const keptWaySchema = z.strictObject({ id: z.number(), steps: z.array(z.number()) });
