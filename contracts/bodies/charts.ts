import { z } from 'zod';
import { date } from './shared';

/** What is sent of companies, their calendars, and names. */

const adjustmentPeriods = z.number().int().min(0).max(10).default(0);

export const calendarSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('monthly'),
    start: z.string().regex(/^(0[1-9]|1[0-2])$/, 'write the first month as 01 to 12'),
    adjustmentPeriods,
  }),
  z.strictObject({
    kind: z.literal('weeks'),
    pattern: z.enum(['4-4-5', '4-5-4', '5-4-4']),
    yearEnds: z.strictObject({
      weekday: z.number().int().min(0).max(6),
      month: z.number().int().min(1).max(12),
      rule: z.enum(['last', 'nearest']),
    }),
    adjustmentPeriods,
  }),
  z.strictObject({
    kind: z.literal('custom'),
    periods: z
      .array(
        z.strictObject({
          year: z.number().int().min(2000).max(2199),
          number: z.number().int().min(1).max(99),
          from: date,
          to: date,
          adjustment: z.boolean().optional(),
        }),
      )
      .min(1)
      .max(2_000),
  }),
]);

export const newEntitySchema = z.strictObject({
  code: z.string().regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,19}$/, 'a code has up to 20 letters, digits, . - and _'),
  name: z.string().min(1).max(200),
  currency: z.string().regex(/^[A-Z]{3}$/, 'write the currency as in ISO 4217, such as GBP'),
  calendar: calendarSchema,
  yearEnd: z.enum(['derived', 'booked']),
  retainedEarnings: z.string().min(1).max(40),
  names: z.record(z.string(), z.string()).optional(),
});

const language = z
  .string()
  .regex(/^[a-z]{2,3}$/, 'write a language as nb or en')
  .nullable()
  .default(null);

export const accountNameSchema = z.strictObject({ entity: z.string(), language, name: z.string().max(200).nullable() });

export const memberNameSchema = z.strictObject({ language, name: z.string().max(200).nullable() });

export const holdingSchema = z.strictObject({
  entity: z.string(),
  number: z.string().trim().min(1).max(40),
  name: z.string().trim().min(1).max(200),
  kind: z.enum(['cash', 'bank']),
  takes: z.enum(['receipts', 'payments', 'both']).default('both'),
  account: z.string().min(1),
  currency: z.string().optional(),
  bankAccount: z.string().max(60).optional(),
});
