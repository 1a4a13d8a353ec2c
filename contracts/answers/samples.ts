import { z } from 'zod';
import { METHODS, type Reckoned, SAMPLED_OF } from '../work';
import { about } from './evidence';

const populationSchema = z.strictObject({
  count: z.number(),
  /** Σ without signs. */
  value: z.string(),
  /** Σ with signs: what the figure moved by. */
  net: z.string(),
  zeros: z.number(),
  debits: z.number(),
  debit: z.string(),
  credits: z.number(),
  credit: z.string(),
});
/** How the size was reckoned. */
const reckonedAnswer = z.custom<Reckoned>((value) => typeof value === 'object');
const strataSchema = z.array(z.strictObject({ from: z.string(), count: z.number(), value: z.string() })).nullable();

export const samplePlanSchema = z.strictObject({
  sentence: z.string(),
  currency: z.string(),
  population: populationSchema,
  /** What can be drawn against what the ledger says that the figure moved by. */
  tie: z.strictObject({ holds: z.boolean(), items: z.string(), ledger: z.string(), lines: z.number() }),
  strata: strataSchema,
  interval: z.string().nullable(),
  items: z.number(),
  certain: z.number(),
  reckoned: reckonedAnswer,
});
export type SamplePlan = z.infer<typeof samplePlanSchema>;

const head = {
  ...about,
  title: z.string(),
  of: z.enum(SAMPLED_OF),
  method: z.enum(METHODS),
  seed: z.string(),
  load: z.number(),
  currency: z.string(),
  conclusion: z.string(),
  changed: z.string(),
};

export const samplesSchema = z.strictObject({
  rows: z.array(z.strictObject({ ...head, size: z.number(), tested: z.number(), errors: z.number() })),
  next: z.string().nullable(),
});

export const sampleItemSchema = z.strictObject({
  no: z.number(),
  subject: z.string(),
  label: z.string(),
  day: z.string(),
  amount: z.string(),
  stratum: z.number().nullable(),
  certain: z.boolean(),
  /** The number of the item in whose place it was taken. */
  replaces: z.number().nullable(),
  why: z.string().nullable(),
  /** Whether another was taken in its place. */
  replaced: z.boolean(),
  found: z.string().nullable(),
  attributes: z.record(z.string(), z.boolean()),
  note: z.string(),
  by: z.string().nullable(),
  at: z.string().nullable(),
});
export type SampleItem = z.infer<typeof sampleItemSchema>;

export const sampleSchema = z.strictObject({
  ...head,
  size: z.number(),
  interval: z.string().nullable(),
  confidence: z.number(),
  reckoned: reckonedAnswer,
  attributes: z.array(z.string()),
  population: populationSchema,
  strata: strataSchema,
  items: z.array(sampleItemSchema),
});
export type Sample = z.infer<typeof sampleSchema>;

const sideSchema = z.strictObject({
  projected: z.string(),
  /** In what was taken for certain. */
  known: z.string(),
  basicPrecision: z.string(),
  incremental: z.string(),
  upperLimit: z.string(),
  factors: z.array(z.number()),
});

export const evaluationSchema = z.strictObject({
  method: z.enum(METHODS),
  size: z.number(),
  tested: z.number(),
  currency: z.string(),
  confidence: z.number(),
  /** Of the items themselves. */
  known: z.string(),
  /** Of those looked at, in amount or in anything looked for; up to how many are likely, exactly, where a draw tells of the whole. */
  deviationRate: z.number().nullable(),
  upperDeviationRate: z.number().nullable(),
  errors: z.array(
    z.strictObject({
      subject: z.string(),
      label: z.string(),
      booked: z.string(),
      found: z.string(),
      certain: z.boolean(),
      tainting: z.number().nullable(),
    }),
  ),
  /** Null where a sample tells of itself alone. */
  projected: z.string().nullable(),
  upperLimit: z.string().nullable(),
  basicPrecision: z.string().nullable(),
  factors: z.array(z.number()),
  /** Too much booked, and too little. */
  over: sideSchema.nullable(),
  under: sideSchema.nullable(),
  strata: z
    .array(z.strictObject({ items: z.number(), tested: z.number(), projected: z.string(), standardError: z.string() }))
    .nullable(),
  attributes: z.array(
    z.strictObject({
      name: z.string(),
      tested: z.number(),
      deviations: z.number(),
      deviationRate: z.number().nullable(),
      /** Exact, and by the Poisson distribution. */
      upperDeviationRate: z.number().nullable(),
      upperDeviationRatePoisson: z.number().nullable(),
    }),
  ),
});
export type Evaluation = z.infer<typeof evaluationSchema>;
export const redrawnSchema = z.strictObject({ same: z.boolean(), items: z.number() });
