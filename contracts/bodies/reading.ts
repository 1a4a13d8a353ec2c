import { z } from 'zod';
import { ASKED_TOGETHER, TOGETHER_MAX } from '../askedTogether';
import { MEASURES } from '../traced';

/** What is sent of figures that are asked, and of how sheets are read. */

/** So many figures are asked for at once. */
const FIGURES_MAX = 200;

export const figuresSchema = z.strictObject({
  figures: z
    .array(
      z.strictObject({
        scope: z.string().max(6_000).describe('Scope parameters, as in a query: entity=…&accounts=…'),
        measure: z.enum(MEASURES).default('closing'),
      }),
    )
    .min(1)
    .max(FIGURES_MAX),
});

/** What a screen asks for beside each other. */
export const askedTogetherSchema = z.strictObject({
  asked: z
    .array(
      z.strictObject({
        route: z.enum(ASKED_TOGETHER),
        path: z.record(z.string(), z.string().max(400)).default({}),
        query: z.string().max(16_000).default(''),
      }),
    )
    .min(1)
    .max(TOGETHER_MAX),
});

const decimal = z.string().regex(/^\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or 50000.00');

const signed = z.string().regex(/^-?\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or -50000.00');

const conditionName = z.string().trim().min(1, 'say what it means').max(80);

/** A condition of one's own: lines that a scope's clauses ask for, or accounts whose balance is within limits. */
const conditionSchema = z.discriminatedUnion('on', [
  z.strictObject({
    on: z.literal('lines'),
    name: conditionName,
    query: z
      .string()
      .min(1, 'say which lines')
      .max(2_000)
      .describe('Clauses of a scope, such as min=5000&postedBy=mhald'),
  }),
  z.strictObject({
    on: z.literal('accounts'),
    name: conditionName,
    accounts: z.string().min(1).max(2_000).describe('An account selection, such as 15*'),
    measure: z.enum(['closing', 'movement']),
    least: signed.nullable().describe('Debit is positive'),
    most: signed.nullable(),
  }),
]);

const CONDITIONS_MAX = 30;

/** Which rows a sheet marks; null switches a rule off. Amounts are in the currency of the sheet. */
export const markRulesSchema = z.strictObject({
  change: z.strictObject({ amount: decimal, percent: z.number().int().min(0).max(10_000) }).nullable(),
  wrongSide: z.boolean(),
  silent: z.strictObject({ periods: z.number().int().min(1).max(24) }).nullable(),
  material: z
    .string()
    .regex(/^said$|^\d{1,13}(\.\d{1,4})?$/, 'write an amount as 50000 or 50000.00')
    .nullable()
    .describe('said: what somebody said is material of the company and year of the sheet'),
  share: z.strictObject({ points: z.number().min(0.1).max(100) }).nullable(),
  own: z.array(conditionSchema).max(CONDITIONS_MAX).default([]).describe('Conditions of the workspace’s own'),
});

export const sheetNameSchema = z.string().regex(/^[a-z0-9-]{1,60}$/, 'that is no sheet');

const columnKey = z.string().min(1).max(400);

const COLUMNS_MAX = 80;

/** How a person has arranged the columns of a sheet; columns that it does not name are as they come. */
export const columnLayoutSchema = z.strictObject({
  order: z.array(columnKey).max(COLUMNS_MAX),
  hidden: z.array(columnKey).max(COLUMNS_MAX),
  /** Of the columns that a sheet has on request, those that are shown. */
  shown: z.array(columnKey).max(COLUMNS_MAX),
  /** Pixels. */
  widths: z.record(columnKey, z.number().int().min(40).max(900)),
  /** Whether all columns are made to fit the window. */
  fit: z.boolean(),
});

export type ColumnLayout = z.infer<typeof columnLayoutSchema>;

const keptName = z.string().trim().min(1, 'give it a name').max(120);

const folder = z.string().trim().max(80);

/** A sentence to be kept by name, as the address of its sheet has it. */
export const newKeptScopeSchema = z.strictObject({
  name: keptName,
  folder: folder.default('').describe('The area of work under which it lies'),
  place: z.enum(['trial-balance', 'statements', 'lines']),
  query: z.string().max(16_000),
  shared: z.boolean().default(false),
  /** Whether its place is to open with it. */
  opens: z.boolean().default(false),
  replaces: z
    .boolean()
    .optional()
    .describe('true: in place of the sentence of that name, which keeps its folder and who sees it'),
});

export const keptScopeChangeSchema = z.strictObject({
  name: keptName.optional(),
  folder: folder.optional(),
  query: z.string().max(16_000).optional().describe('Another shape of it: what it asks from now on'),
  shared: z.boolean().optional(),
  opens: z.boolean().optional(),
  atHand: z.boolean().optional().describe('Whether it stands among the places; of any sentence that one sees'),
});

/** Up to how many days past each band of age goes; the last has no end. */
export const ageBandsSchema = z.strictObject({ edges: z.array(z.number().int().min(1).max(9_999)).min(1).max(9) });

/** What numbers of entries tell of where these come from: the first pattern that fits does. */
export const entryOriginsSchema = z.strictObject({
  rows: z
    .array(
      z.strictObject({
        /** With * for any characters and ? for one. */
        pattern: z.string().trim().min(1).max(100),
        name: z.string().trim().min(1).max(100),
        /** Where its detail is: in the document that it was booked from, or in the entry itself. */
        leads: z.enum(['document', 'entry']),
      }),
    )
    .max(60),
});

/** Where the entries of a company are found in the ledger that they came from; empty: nowhere. */
export const sourceLinkSchema = z.strictObject({
  entity: z.string().min(1).max(40),
  link: z
    .string()
    .trim()
    .max(500)
    .refine(
      (link) => link === '' || isEntryAddress(link),
      'write an address that begins with http:// or https:// and has {entry} in it',
    ),
});

function isEntryAddress(link: string): boolean {
  if (!/^https?:\/\//.test(link) || !link.includes('{entry}')) return false;
  // What is put in place of the words must not decide where one is sent.
  const { host, username } = URL.canParse(link) ? new URL(link) : { host: '{', username: '' };
  return username === '' && !/[{}%]/.test(host);
}
