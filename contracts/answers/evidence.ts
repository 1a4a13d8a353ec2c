import { z } from 'zod';
import type { RichText } from '../richText';
import { FINDING_KINDS, FINDING_STATES, FINDING_WORDS, type FileContents, TICK_SHAPES } from '../work';

/** A text as it was written; nothing that is sent is taken for one unchecked. */
export const richTextAnswer = z.custom<RichText>((value) => typeof value === 'object');

/** What every piece of evidence says of itself. */
export const about = {
  id: z.number(),
  subject: z.string(),
  measure: z.string().nullable(),
  /** The screen on which it was made. */
  address: z.string(),
  label: z.string(),
  by: z.string(),
  ink: z.enum(['preparer', 'reviewer', 'reader']),
  mine: z.boolean(),
  at: z.string(),
  /** The thread that gathers it. */
  thread: z.number().nullable(),
};
const said = {
  body: z.string(),
  /** As it was written in the editor; null where it is plain text. */
  content: richTextAnswer.nullable(),
};

/** A note, or an answer to one, to a review point or to a question. */
export const noteSchema = z.strictObject({
  ...about,
  ...said,
  replyTo: z.number().nullable(),
  /** How often it was changed. */
  edits: z.number(),
});
export type Note = z.infer<typeof noteSchema>;

export const tickMarkSchema = z.strictObject({
  code: z.string(),
  shape: z.enum(TICK_SHAPES),
  meaning: z.string(),
  retired: z.boolean(),
});
export const tickMarksAnswerSchema = z.strictObject({ marks: z.array(tickMarkSchema) });
export const tickSchema = z.strictObject({
  ...about,
  mark: z.string(),
  shape: z.enum(TICK_SHAPES),
  meaning: z.string(),
  /** Drifted: what it stands on is another than when it was put there. */
  state: z.enum(['fresh', 'drifted']),
});
export type Tick = z.infer<typeof tickSchema>;
export const ticksSchema = z.strictObject({ rows: z.array(tickSchema), next: z.string().nullable() });
export const newTicksAnswerSchema = z.strictObject({ rows: z.array(tickSchema) });
/** How much of a figure's lines is ticked. Amounts are those of the lines, whatever their side. */
export const tickedSchema = z.strictObject({
  lines: z.number(),
  ticked: z.number(),
  amount: z.string(),
  tickedAmount: z.string(),
});

export const fileSchema = z.strictObject({
  ...about,
  digest: z.string(),
  name: z.string(),
  bytes: z.number(),
  type: z.string(),
  /** Where else the very same bytes are attached, under what name and by whom. */
  sameAs: z.array(z.strictObject({ name: z.string(), label: z.string(), by: z.string(), at: z.string() })),
});
export type EvidenceFile = z.infer<typeof fileSchema>;
export const evidenceFilesSchema = z.strictObject({ rows: z.array(fileSchema), next: z.string().nullable() });

export const fileContentsSchema = z.strictObject({
  /** Null where it was not read yet. */
  contents: z.custom<FileContents>((value) => typeof value === 'object').nullable(),
});

/** An answer under a point or a question. */
export const answerOfSchema = z.strictObject({
  id: z.number(),
  ...said,
  /** What it did to what it answers, where it did anything. */
  act: z.string().nullable(),
  by: z.string(),
  ink: about.ink,
  at: z.string(),
});
export const pointSchema = z.strictObject({
  ...about,
  ...said,
  state: z.enum(['open', 'answered', 'cleared']),
  answers: z.array(answerOfSchema),
});
export type Point = z.infer<typeof pointSchema>;
export const pointsSchema = z.strictObject({ rows: z.array(pointSchema), next: z.string().nullable() });
export const questionSchema = z.strictObject({
  ...about,
  ...said,
  to: z.string(),
  /** Whether it waits for whoever reads this. */
  forMe: z.boolean(),
  state: z.enum(['open', 'answered']),
  answers: z.array(answerOfSchema),
  /** Days that it has been open; null where it is answered. */
  age: z.number().nullable(),
});
export type Question = z.infer<typeof questionSchema>;
export const questionsSchema = z.strictObject({ rows: z.array(questionSchema), next: z.string().nullable() });

export const findingSchema = z.strictObject({
  ...about,
  title: z.string(),
  kind: z.enum(FINDING_KINDS),
  state: z.enum(FINDING_STATES),
  subjects: z.array(z.string()),
  amount: z
    .strictObject({
      subject: z.string(),
      measure: z.string(),
      currency: z.string(),
      value: z.string(),
      lines: z.number(),
      load: z.number(),
    })
    .nullable(),
  cause: z.string(),
  effect: z.string(),
  recommendation: z.string(),
  /** Those of its words that have more in them than plain text, such as figures that are quoted. */
  written: z.partialRecord(z.enum(FINDING_WORDS), richTextAnswer),
  owner: z.strictObject({ id: z.number(), name: z.string() }).nullable(),
  due: z.string().nullable(),
  changed: z.string(),
});
export type Finding = z.infer<typeof findingSchema>;
export const findingsSchema = z.strictObject({
  rows: z.array(findingSchema),
  /** What findings that are open or agreed come to, by currency. */
  sums: z.array(z.strictObject({ currency: z.string(), value: z.string(), count: z.number() })),
  next: z.string().nullable(),
});

export const crossReferenceSchema = z.strictObject({
  id: z.number(),
  a: z.number(),
  b: z.number(),
  /** The threads that gather the pins, as they are called. */
  names: z.array(z.string()),
  labels: z.array(z.string()),
  agrees: z.boolean(),
  offBy: z.string(),
  by: z.string(),
  at: z.string(),
});
export const crossReferencesSchema = z.strictObject({ rows: z.array(crossReferenceSchema) });

export const historySchema = z.strictObject({
  acts: z.array(z.strictObject({ at: z.string(), person: z.string(), act: z.string(), says: z.string() })),
  /** Of an entry, a line or a document; a look is written down once a minute. */
  seenBy: z.array(z.strictObject({ person: z.string(), times: z.number(), last: z.string() })),
});
export const colleaguesSchema = z.strictObject({
  rows: z.array(z.strictObject({ id: z.number(), name: z.string(), role: z.string() })),
});

export const pinSchema = z.strictObject({
  ...about,
  measure: z.string(),
  sentence: z.string(),
  currency: z.string(),
  value: z.string(),
  lines: z.number(),
  load: z.number(),
  digest: z.string(),
  /** Which fields of a line the digest looks at; 1: those of before, 2: all. */
  digestVersion: z.number(),
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
