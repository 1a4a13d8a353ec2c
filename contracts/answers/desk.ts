import { z } from 'zod';

/** Something that waits for whoever reads it. */
export const waitingSchema = z.strictObject({
  kind: z.enum(['question', 'answer', 'point', 'mention', 'review', 'finding', 'proposed']),
  id: z.number(),
  /** What is to be done, after who waits for it: “asks about 6320 Dry-docking”. */
  says: z.string(),
  body: z.string(),
  by: z.string(),
  at: z.string(),
  /** Where it is. */
  place: z.string(),
  /** Days that it has waited. */
  age: z.number(),
  /** It is past its day. */
  late: z.boolean(),
  /** It goes away once it was said to be seen; and of which kind of evidence it is. */
  seen: z.string().nullable(),
});
export type Waiting = z.infer<typeof waitingSchema>;

export const deskSchema = z.strictObject({
  waiting: z.array(waitingSchema),
  /** Since the viewer last looked. */
  moved: z.array(
    z.strictObject({
      kind: z.enum(['load', 'tests', 'pin', 'thread', 'tick']),
      says: z.string(),
      /** By how much a pinned figure moved. */
      change: z.strictObject({ currency: z.string(), value: z.string() }).nullable(),
      at: z.string().nullable(),
      place: z.string(),
    }),
  ),
  lookedAt: z.string().nullable(),
  threads: z.array(
    z.strictObject({
      id: z.number(),
      name: z.string(),
      reference: z.string(),
      state: z.string(),
      openPoints: z.number(),
      moved: z.number(),
      changed: z.string(),
    }),
  ),
  scopes: z.array(z.strictObject({ name: z.string(), place: z.string() })),
  /** The team's work, by the folder that it is in. */
  progress: z.array(
    z.strictObject({
      folder: z.string(),
      threads: z.number(),
      open: z.number(),
      prepared: z.number(),
      signed: z.number(),
      openPoints: z.number(),
      moved: z.number(),
    }),
  ),
});
export type Desk = z.infer<typeof deskSchema>;

export const workDoneSchema = z.strictObject({
  statement: z.string(),
  name: z.string(),
  sentence: z.string(),
  currency: z.string(),
  above: z.string(),
  rows: z.array(
    z.strictObject({
      key: z.string(),
      label: z.string(),
      depth: z.number(),
      is: z.string(),
      amount: z.string().nullable(),
      /** Null: not above the amount from which on rows are looked at, or a caption. */
      state: z.enum(['signed', 'prepared', 'under way', 'nothing']).nullable(),
      threads: z.array(
        z.strictObject({
          id: z.number(),
          name: z.string(),
          reference: z.string(),
          state: z.string(),
          moved: z.boolean(),
        }),
      ),
      accounts: z.string().nullable(),
    }),
  ),
  counts: z.strictObject({
    rows: z.number(),
    signed: z.number(),
    prepared: z.number(),
    underWay: z.number(),
    nothing: z.number(),
  }),
});
