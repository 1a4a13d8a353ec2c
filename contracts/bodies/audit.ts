import { z } from 'zod';
import { JUDGEMENTS, METHODS, SAMPLED_OF, TESTS_WHEN } from '../work';
import { about, money } from './shared';

/** What is sent of samples, and of tests for what is unusual. */

const rate = z.number().gt(0).lt(1);

/** What a sample is drawn from, and how. */
const sampleShape = {
  scope: z.string().min(1).max(6_000).describe('The figure that is drawn from: figure:<address>, or the address alone'),
  of: z.enum(SAMPLED_OF),
  method: z.enum(METHODS),
  size: z.number().int().positive().max(5_000).optional(),
  interval: money.optional().describe('Monetary unit: as wanted, instead of reckoned'),
  tolerable: money.optional().describe('Tolerable misstatement'),
  expected: money.optional().describe('Expected misstatement'),
  confidence: z.number().gt(0.5).lt(1).optional().describe('0.95 where nothing is said'),
  tolerableRate: rate.optional().describe('Tolerable rate of deviations, as a part of one'),
  expectedRate: z.number().min(0).lt(1).optional(),
  certain: z.boolean().optional().describe('Monetary unit: whether items of an interval or more are taken for certain'),
  strata: z.array(money).min(1).max(20).optional().describe('The least amount of each stratum but the first, rising'),
  subjects: z.array(about.subject).min(1).max(5_000).optional().describe('What is chosen by hand'),
  seed: z.string().trim().min(1).max(100).optional(),
};

export const newSampleSchema = z.strictObject({
  ...sampleShape,
  title: z.string().trim().max(200).optional(),
  attributes: z.array(z.string().trim().min(1).max(100)).max(20).optional(),
  label: about.label,
  address: about.address,
  thread: about.thread.optional(),
});

export const testedItemSchema = z.strictObject({
  subject: about.subject,
  found: money.nullable().optional().describe('The amount that it should be; null: not told yet'),
  attributes: z.record(z.string().max(100), z.boolean()).optional(),
  note: z.string().trim().max(4_000).optional(),
});

export const testedItemsSchema = z.union([testedItemSchema, z.array(testedItemSchema).min(1).max(5_000)]);

export const replacedItemSchema = z.strictObject({
  subject: about.subject,
  by: about.subject,
  why: z.string().trim().min(1, 'say why').max(1_000),
});

export const sampleChangeSchema = z.strictObject({
  title: z.string().trim().min(1).max(200).optional(),
  attributes: z.array(z.string().trim().min(1).max(100)).max(20).optional(),
  conclusion: z.string().trim().max(8_000).optional(),
});

const testCode = z.string().min(1).max(40);

/** Tests to run: all where none are named; settings by test, amounts as text, in the currency of each company's books. */
export const newTestRunSchema = z.strictObject({
  tests: z.array(testCode).min(1).max(100).optional(),
  scope: z
    .string()
    .min(1)
    .max(6_000)
    .describe('The figure whose lines are looked at: figure:<address>, or the address alone'),
  parameters: z
    .record(
      testCode,
      z.record(z.string().max(40), z.union([z.number(), z.string().max(200), z.array(z.string().max(100)).max(200)])),
    )
    .optional(),
  title: z.string().trim().max(200).optional(),
  address: about.address,
  thread: about.thread.optional(),
});

export const judgedHitSchema = z
  .strictObject({
    judgement: z.enum(JUDGEMENTS),
    note: z.string().trim().max(4_000).default(''),
  })
  .refine(({ judgement, note }) => judgement !== 'explained' || note !== '', { path: ['note'], message: 'say why' });

export const newIgnoredSchema = z.strictObject({
  run: z.number().int().positive(),
  key: z.string().min(1).max(64).describe('The hit that others are alike'),
  alike: z
    .array(z.enum(['account', 'party', 'person', 'journal']))
    .min(1)
    .describe('What they have in common with it'),
  why: z.string().trim().min(1, 'say why').max(1_000),
});

export const testsByThemselvesSchema = z
  .union([
    z.strictObject({
      tests: z.array(testCode).min(1).max(100),
      scope: z.string().min(1).max(6_000),
      when: z.enum(TESTS_WHEN).default('load'),
    }),
    z.strictObject({
      firstLook: z.literal(true).describe('A first look at the companies of each load, with all tests'),
    }),
  ])
  .nullable();
