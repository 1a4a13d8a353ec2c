import { z } from 'zod';
import type { ExpectationRule } from '../work';
import { about } from './evidence';

/** A figure with what it is expected to be (ISA 520). Amounts in the figure's own currency, as the sheets have them. */
export const expectationSchema = z.strictObject({
  ...about,
  sentence: z.string(),
  currency: z.string(),
  rule: z.custom<ExpectationRule>((value) => typeof value === 'object'),
  /** How what is expected is reckoned, in words with its amounts. */
  reckoned: z.string(),
  /** null where it cannot be reckoned any more. */
  expected: z.string().nullable(),
  actual: z.string().nullable(),
  difference: z.string().nullable(),
  /** A difference of so much needs explaining. */
  least: z.string(),
  parts: z.array(
    z.strictObject({
      text: z.string(),
      subject: z.string().nullable(),
      measure: z.string().nullable(),
      /** null where it is not seen, or not there any more. */
      amount: z.string().nullable(),
      /** Whether somebody typed it. */
      typed: z.boolean(),
    }),
  ),
  explained: z.string().nullable(),
  left: z.string().nullable(),
  state: z.enum(['as expected', 'explained', 'needs explaining', 'not reckoned']),
  reason: z.string(),
  conclusion: z.string(),
  changed: z.string(),
});
export type Expectation = z.infer<typeof expectationSchema>;
export const expectationsSchema = z.strictObject({ rows: z.array(expectationSchema), next: z.string().nullable() });
