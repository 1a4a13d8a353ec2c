import { z } from 'zod';
import { ACCOUNT_TYPES } from '@/core/ledger';
import { FORMATS, LOAD_KINDS, mappingSchema } from '../mapping';
import { newEntitySchema } from './charts';

/** What is sent with files, and of the sources that files are pulled from. */

const loadOptions = {
  entity: z.string().optional(),
  kind: z.enum(LOAD_KINDS).default('lines'),
  format: z.enum(FORMATS).optional().describe('Recognised by the content if absent'),
  replaces: z.string().optional().describe('Period range restated by this load, such as 2027.04 to 2027.05'),
  unknownAccounts: z.enum(['create', 'refuse']).optional(),
  use: z
    .enum(['openings', 'check'])
    .optional()
    .describe('What a trial balance is: openings of a ledger without lines, or a check of its balances'),
  emptyCells: z
    .enum(['ask', 'clear', 'keep'])
    .optional()
    .describe(
      'What empty cells of a table of accounts, members or parties do to what is known: ask refuses the load and lists what it would take away',
    ),
  ifStatedDiffers: z
    .enum(['refuse', 'load'])
    .optional()
    .describe('What to do if the file states other totals than it holds'),
} as const;

/** The fields that come with an uploaded file. */
export const newLoadSchema = z.strictObject({
  ...loadOptions,
  mapping: z.string().optional().describe('A column mapping as JSON, or the name of one that was kept'),
});

/** A file alone. */
export const fileSchema = z.strictObject({});

/** A load of a file that was sent before, to be looked at. */
export const loadOfFileSchema = z.strictObject({
  ...loadOptions,
  file: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().min(1).max(200),
  mapping: mappingSchema.optional(),
});

export const inspectionFieldsSchema = z.strictObject({
  name: z.string().min(1).max(200).optional().describe('What the file is called'),
  kind: z.enum(LOAD_KINDS).optional(),
  format: z.enum(FORMATS).optional(),
  mapping: mappingSchema.optional(),
  entity: z.string().optional(),
  unknownAccounts: z.enum(['create', 'refuse']).optional(),
});

export const proposalFieldsSchema = z.strictObject({
  name: z.string().min(1).max(200),
  mapping: mappingSchema.optional(),
});

/** A ledger made of one file of lines: what was proposed, as it was corrected. */
export const beginLedgerSchema = z.strictObject({
  file: z.string().regex(/^[0-9a-f]{64}$/),
  name: z.string().min(1).max(200).describe('What the file is called'),
  companies: z
    .array(
      z.strictObject({
        code: newEntitySchema.shape.code,
        name: z.string().trim().min(1).max(200),
        inFile: z.string().optional(),
      }),
    )
    .min(1)
    .max(50),
  inFile: z.array(z.string()).default([]).describe('Companies that the lines name'),
  currency: newEntitySchema.shape.currency,
  yearStart: z.number().int().min(1).max(12).describe('Month in which the fiscal year begins'),
  adjustments: z.number().int().min(0).max(4).default(0),
  yearEnd: z.enum(['derived', 'booked']).default('derived'),
  retained: z.string().min(1).max(40).nullable().describe('Account of retained earnings; null: one is added'),
  accounts: z
    .array(
      z.strictObject({
        code: z.string().min(1).max(60),
        name: z.string().min(1).max(300),
        type: z.enum(ACCOUNT_TYPES),
      }),
    )
    .min(1)
    .max(20_000),
  dimensions: z
    .array(
      z.strictObject({
        column: z.string().min(1).max(200),
        code: z.string().regex(/^[A-Za-z][A-Za-z0-9_-]{0,30}$/, 'a code has letters, digits, - and _, a letter first'),
        name: z.string().min(1).max(100),
        members: z.array(z.string().min(1).max(200)).max(2_000),
      }),
    )
    .max(8)
    .default([]),
  mapping: mappingSchema.nullable(),
  guesses: z
    .array(z.strictObject({ key: z.string().min(1).max(120), says: z.string().min(1).max(400) }))
    .max(500)
    .default([])
    .describe('What was guessed, to be confirmed later'),
});

export const confirmGuessesSchema = z.strictObject({
  key: z.string().optional().describe('What is confirmed; all of it where it is absent'),
});

export type NewLoadFields = z.infer<typeof newLoadSchema>;

export const connectionSchema = z.strictObject({
  name: z.string().trim().min(1).max(100),
  url: z.url().max(500),
  entity: z.string().optional(),
  everyMinutes: z.number().int().min(1).max(10_080).nullable().optional(),
  privateAllowed: z.boolean().optional().describe('Whether it may lie inside this machine or a private network'),
});

export const connectionChangeSchema = z.strictObject({ privateAllowed: z.boolean() });
