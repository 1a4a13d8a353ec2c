import { z } from 'zod';
import { outlineSchema } from '../bodies/all';
import { TRACED } from '../traced';
import { columnHeadSchema, sheetHeadSchema } from './head';

export const statementSchema = sheetHeadSchema.extend({
  code: z.string(),
  name: z.string(),
  kind: z.enum(['income', 'balance', 'cashflow', 'position', 'tax']),
  shareOf: z.string().nullable(),
  by: z.string().optional(),
  languages: z.array(z.string()).optional(),
  columns: z.array(
    columnHeadSchema.extend({
      favourable: z.literal('income').nullable(),
      /** Which measure of its lines a value is, where columns differ in that. */
      measure: z.enum(TRACED).optional(),
    }),
  ),
  rows: z.array(
    z.strictObject({
      key: z.string(),
      label: z.string(),
      kind: z.string(),
      depth: z.number(),
      emphasis: z.enum(['subtotal', 'total']).optional(),
      sign: z.enum(['debit', 'credit']),
      account: z.string().nullable(),
      values: z.record(z.string(), z.string().nullable()),
      refine: z.record(z.string(), z.union([z.string(), z.array(z.string())])).nullable(),
      opens: z.boolean(),
      /** Which measure of what `refine` asks for its values are; null where nothing that can be asked for comes to them. */
      measure: z.enum(TRACED).nullable(),
    }),
  ),
  guards: z.array(
    z.strictObject({
      guard: z.string(),
      ok: z.boolean(),
      amount: z.string(),
      accounts: z.array(z.string()),
      says: z.string(),
    }),
  ),
});
export type Statement = z.infer<typeof statementSchema>;

export const statementsSchema = z.strictObject({
  entity: z.string(),
  schemes: z.array(z.string()),
  rows: z.array(
    z.strictObject({
      code: z.string(),
      name: z.string(),
      kind: statementSchema.shape.kind,
      version: z.number(),
      by: z.string().nullable(),
      rows: z.number(),
    }),
  ),
});

export const keptOutlineSchema = z.strictObject({
  entity: z.string(),
  outline: outlineSchema,
  versions: z.array(
    z.strictObject({
      version: z.number(),
      by: z.string(),
      at: z.string(),
      removed: z.boolean(),
    }),
  ),
});
export type KeptOutline = z.infer<typeof keptOutlineSchema>;

export const outlineVersionSchema = z.strictObject({ version: z.number() });
