import { z } from 'zod';

/** What can be found, in the order in which it is shown. */
/** Kinds of what is found, in the order in which they are shown. */
export const HIT_KINDS = [
  'page',
  'account',
  'member',
  'party',
  'entry',
  'document',
  'line',
  'statement',
  'thread',
  'finding',
  'proposed',
  'scope',
  'note',
  'file',
  'load',
  'person',
] as const;
/** What is found among all that was booked, which takes longer the more there is. */
export const IN_BOOKS: readonly HitKind[] = ['entry', 'document', 'line', 'file'];
/** What is found among names and among what people wrote, at once. */
export const AT_HAND: readonly HitKind[] = HIT_KINDS.filter((kind) => !IN_BOOKS.includes(kind));
export type HitKind = (typeof HIT_KINDS)[number];

/** Where words that were sought stand in a text: from, to. */
const marksSchema = z.array(z.tuple([z.number(), z.number()]));

export const hitSchema = z.strictObject({
  kind: z.enum(HIT_KINDS),
  label: z.string(),
  detail: z.string(),
  /** Whose books it is of; null: of no company, or of several. */
  entity: z.string().nullable(),
  /** An amount of it with its currency, where it has one. */
  amount: z.strictObject({ amount: z.string(), currency: z.string() }).nullable(),
  subject: z.string().nullable(),
  address: z.string(),
  /** Scope parameters that take it alone, where it can be a clause. */
  put: z.record(z.string(), z.array(z.string())).nullable(),
  marks: z.strictObject({ label: marksSchema, detail: marksSchema }),
});
export type Hit = z.infer<typeof hitSchema>;

export const searchSchema = z.strictObject({
  hits: z.array(hitSchema),
  /** Of each kind that has any. */
  counts: z.partialRecord(z.enum(HIT_KINDS), z.strictObject({ count: z.number(), capped: z.boolean() })),
  /** After how many of a kind the next page begins; null: there is none. */
  next: z.number().nullable(),
  /** What is not covered yet, in words. */
  missing: z.array(z.string()).optional(),
});
