import { z } from 'zod';
import { PERCENT, QUANTITY } from '@/core/expectation';
import { PROPOSED_KINDS, PROPOSED_LINES_MAX, PROPOSED_STATES } from '@/core/proposedEntry';
import { MEASURES } from '../traced';
import { about, date, money } from './shared';

/** What is sent of entries that are proposed, and of what is material. */

const period = z.string().regex(/^\d{4}\.\d\d$/, 'write a period as 2027.06');
const code = z.string().trim().min(1).max(200);
const percent = z.string().regex(PERCENT, 'write percents as a decimal, such as 12.5');
const perUnit = z.string().trim().regex(QUANTITY, 'write an amount for one unit as 12 or 41.35, debit positive');
const line = z.strictObject({
  account: code,
  amount: money.describe('Debit positive'),
  date: date.optional().describe('Of the entry where it is not given'),
  period: period.optional(),
  description: z.string().trim().max(500).optional(),
  counterparty: code.optional(),
  document: code.optional(),
  taxCode: code.optional(),
  currency: z.string().trim().max(3).optional().describe('Of the transaction, where it is not that of the books'),
  currencyAmount: money.optional().describe('In that currency, debit positive'),
  dims: z.record(z.string(), code).optional(),
});

const words = {
  kind: z.enum(PROPOSED_KINDS),
  title: z.string().trim().max(200),
  reason: z.string().trim().min(1, 'say why it should be booked').max(4_000),
  set: z.string().trim().min(1).max(100),
  links: z.array(z.string().min(1).max(6_000)).max(100).describe('What it goes back to, as subjects'),
  taxPercent: percent.or(z.literal('')).describe('Tax on what it does to the result; empty: none'),
};

const entry = {
  entity: code,
  date,
  period: period.optional(),
  lines: z.array(line).min(1).max(PROPOSED_LINES_MAX),
  turnsAround: date.optional().describe('A later day on which all of it is taken back'),
};

export const newProposedSchema = z.strictObject({
  ...entry,
  kind: words.kind,
  title: words.title.default(''),
  reason: words.reason,
  set: words.set.optional(),
  links: words.links.default([]),
  taxPercent: words.taxPercent.default(''),
  subject: about.subject.optional(),
  address: about.address,
  label: about.label,
  thread: about.thread,
});

/** Lines of a figure, or those that are named, moved to where they belong. */
const movedTo = z
  .strictObject({
    account: code.optional(),
    dims: z.record(z.string(), code.nullable()).optional(),
    counterparty: code.nullable().optional(),
    taxCode: code.nullable().optional(),
    date: date.optional(),
    period: period.optional(),
  })
  .refine((to) => Object.values(to).some((value) => value !== undefined), 'say where they belong');

const taken = {
  scope: z.string().max(8_000).optional().describe('Address of a figure, all lines of which are meant'),
  lines: z.array(z.string().min(1).max(1_000)).min(1).max(PROPOSED_LINES_MAX).optional().describe('Lines, as subjects'),
};

const takesOne = (d: { scope?: string | undefined; lines?: string[] | undefined }): boolean =>
  (d.scope === undefined) !== (d.lines === undefined);
const TAKE_ONE = { path: ['lines'], message: 'name a figure, or lines' };

export const draftedSchema = z
  .strictObject({
    ...taken,
    make: z.discriminatedUnion('by', [
      z.strictObject({ by: z.literal('move'), to: movedTo }),
      z.strictObject({ by: z.literal('reverse'), date, period: period.optional() }),
      z.strictObject({
        by: z.literal('spread'),
        holds: code.describe('Account that holds what is not spread yet'),
        periods: z.number().int().min(1).max(120),
        from: period.optional().describe('The first of them; that of the line where it is not given'),
      }),
      z.strictObject({
        by: z.literal('split'),
        among: z
          .array(
            z.strictObject({
              weight: z.number().int().min(1).max(1_000_000),
              account: code.optional(),
              dims: z.record(z.string(), code.nullable()).optional(),
            }),
          )
          .min(1)
          .max(50),
      }),
    ]),
    on: z.enum(['own-days', 'one-day']).default('own-days'),
    date: date.optional().describe('The day, where it is one'),
  })
  .refine(takesOne, TAKE_ONE);

export const movedEntrySchema = z
  .strictObject({
    ...taken,
    to: movedTo,
    reason: words.reason,
    kind: words.kind,
    set: words.set.optional(),
    title: words.title.default(''),
    thread: about.thread,
  })
  .refine(takesOne, TAKE_ONE);

export const proposedChangeSchema = z.strictObject({
  state: z.enum(PROPOSED_STATES).optional(),
  stateReason: z.string().trim().max(4_000).optional(),
  booked: z.string().trim().min(1).max(200).optional().describe('Number of the entry that is it, though it differs'),
  ...{ date: date.optional(), period: entry.period, lines: entry.lines.optional(), turnsAround: entry.turnsAround },
  kind: words.kind.optional(),
  title: words.title.optional(),
  reason: words.reason.optional(),
  set: words.set.optional(),
  links: words.links.optional(),
  taxPercent: words.taxPercent.optional(),
});

/** Many entries at once, as a table. */
export const proposedTableSchema = z.strictObject({
  entity: code,
  text: z.string().min(1, 'paste a table').max(200_000, 'paste a smaller table, or load it'),
  mapping: z
    .record(z.string().max(200), z.string().max(200))
    .optional()
    .describe('What a column is, by its head; empty: nothing. Others are known by their heads'),
  kind: words.kind,
  reason: words.reason,
  set: words.set.optional(),
  keep: z.boolean().default(false).describe('Propose them, where nothing stands against any of them'),
});

/** What a draft would do; nothing is kept. */
export const draftEffectSchema = z.strictObject({ ...entry, taxPercent: words.taxPercent.default('') });

export const newSetSchema = z.strictObject({
  name: z.string().trim().min(1, 'give it a name').max(60).regex(/^[^~]/, 'a name does not begin with ~'),
  about: z.string().trim().max(500).default(''),
});

export const templateSchema = z.strictObject({
  name: z.string().trim().min(1, 'give it a name').max(100),
  entity: code,
  kind: words.kind,
  title: words.title.default(''),
  reason: words.reason,
  taxPercent: words.taxPercent.default(''),
  lines: z
    .array(
      z
        .strictObject({
          ...line.shape,
          amount: money.optional(),
          of: z
            .union([
              z.strictObject({ subject: about.subject, measure: z.enum(MEASURES), percent }),
              z.strictObject({ subject: about.subject, each: perUnit }),
            ])
            .optional()
            .describe(
              'Over the period of the entry so many percent of a figure, or so much for each unit of the quantity of its lines',
            ),
        })
        .refine((l) => l.amount === undefined || l.of === undefined, {
          message: 'a line has an amount or a figure; with neither it takes what is left',
        }),
    )
    .min(2)
    .max(PROPOSED_LINES_MAX),
});
export const filledSchema = z.strictObject({ date, period: period.optional() });

const basis = z.strictObject({
  subject: about.subject.optional().describe('The figure that it is a percentage of'),
  measure: z.enum(MEASURES).default('movement'),
  label: z.string().trim().max(200).default(''),
  percent,
});

export const materialitySchema = z.strictObject({
  entity: code.nullable().default(null),
  year: z.number().int().min(1900).max(9999),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  basis: basis.optional(),
  overall: money.optional().describe('Where it is not reckoned from a figure'),
  performance: z.string().trim().min(1).max(40).describe('An amount, or a percentage of the overall one such as 75%'),
  trivial: z.string().trim().min(1).max(40),
  alternatives: z.array(basis).max(10).default([]),
  reason: z.string().trim().min(1, 'say why').max(4_000),
});
