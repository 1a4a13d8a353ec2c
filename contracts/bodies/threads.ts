import { z } from 'zod';
import { KEPT_VIEWS, MEASURES } from '../traced';
import { ASSERTIONS, RIGHTS } from '../work';
import { ownAddress, prose } from './shared';

/** What is sent of threads, their steps, reviews and rights. */

/** Who may do what with a thread or a kept sentence. */
export const sharingSchema = z.strictObject({
  everybody: z.enum(RIGHTS).describe('What everybody may who is not named'),
  people: z.array(z.strictObject({ id: z.number().int().positive(), may: z.enum(RIGHTS) })).max(500),
});

export const signOffSchema = z.strictObject({ as: z.enum(['preparer', 'reviewer']) });

export const reopenSchema = z.strictObject({
  reason: z.string().trim().min(1, 'say why it is opened again').max(2_000),
});

export const rollForwardSchema = z.strictObject({
  threads: z.array(z.number().int().positive()).min(1).max(200),
  from: z.string().max(20),
  to: z.string().max(20),
  folder: z.string().trim().max(200).default(''),
});

/** One step of a way, as the screen on which it was taken knows it. */
export const newStepSchema = z.strictObject({
  /** The address of its screen. */
  address: ownAddress,
  label: z.string().min(1).max(300),
  view: z.enum(KEPT_VIEWS),
  /** What a split is by. */
  by: z.string().max(200).optional(),
  /** figure:<address>; of an entry, entry:<id>. */
  subject: z.string().min(1).max(6_000),
  /** What was traced; absent for a first sheet, which has no one figure. */
  measure: z.enum(MEASURES).optional(),
});

const threadName = z.string().trim().min(1, 'give it a name').max(200);

/** A way has a first sheet and at most so many steps. */
const STEPS_MAX = 40;

const way = z.array(newStepSchema).min(1).max(STEPS_MAX);

export const newThreadSchema = z.strictObject({ name: threadName, steps: way });

export const moreStepsSchema = z.strictObject({ steps: way });

export const threadChangeSchema = z.strictObject({
  name: threadName.optional(),
  reference: z.string().trim().max(40).optional(),
  purpose: prose.optional(),
  assertions: z.array(z.enum(ASSERTIONS)).max(ASSERTIONS.length).optional(),
  result: prose.optional(),
  conclusion: prose.optional(),
  folder: z.string().trim().max(200).optional(),
  reviewer: z.number().int().positive().nullable().optional(),
});

export const stepChangeSchema = z.strictObject({
  label: z.string().trim().min(1).max(300).optional(),
  note: z.string().trim().max(4_000).optional(),
});
