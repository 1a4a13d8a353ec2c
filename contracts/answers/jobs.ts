import { z } from 'zod';

/** A piece of long work, of whatever kind. */
export const jobSchema = z.strictObject({
  id: z.number(),
  kind: z.string(),
  subject: z.string(),
  label: z.string(),
  state: z.enum(['waiting', 'under way', 'done', 'refused', 'cancelled', 'put aside']),
  progress: z.number(),
  message: z.string().nullable(),
  by: z.string(),
  mine: z.boolean(),
  cancelAsked: z.boolean(),
  tries: z.number(),
  addedAt: z.string(),
  begunAt: z.string().nullable(),
  finishedAt: z.string().nullable(),
});
export type Job = z.infer<typeof jobSchema>;

export const jobsSchema = z.strictObject({
  rows: z.array(jobSchema),
  /** Whether any worker is there to take them. */
  workers: z.boolean(),
  next: z.string().nullable(),
});
