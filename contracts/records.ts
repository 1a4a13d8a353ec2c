import { z } from 'zod';
import { isDate } from '@/core/dates';
import { ACCOUNT_TYPES, LINE_KINDS, STATUSES } from '@/core/ledger';
import { LINE_FIELDS, type LineField } from '@/core/lineFields';

const date = z.string().refine(isDate).meta({ format: 'date' });
const amount = z
  .string()
  .regex(/^-?\d+(\.\d+)?$/)
  .describe('Decimal string in units of the currency');
const text = z.string();
const byCode = z.record(text, text);

const OF_VALUE: Record<LineField['holds'], z.ZodType> = {
  text,
  date,
  instant: text,
  integer: z.union([text, z.int()]),
  number: text,
  amount,
};

/** A record of our JSON (`{"lines": [...]}`, or a list) and NDJSON, one object a record. */
const RECORDS = {
  lines: z.object({
    ...Object.fromEntries(
      LINE_FIELDS.flatMap((f: LineField) => (f.file === null ? [] : [[f.file, OF_VALUE[f.holds].optional()]])),
    ),
    entry: text,
    line: z.union([text, z.int()]),
    date,
    account: text,
    description: text,
    debit: amount.optional(),
    credit: amount.optional(),
    amount: amount.optional().describe('Signed, debit positive, instead of debit or credit'),
    period: z.union([text, z.int()]).optional(),
    year: z.union([text, z.int()]).optional(),
    counterparty_name: text.optional(),
    status: z.enum(['posted', 'unposted']).optional(),
    kind: z.enum(LINE_KINDS).optional(),
    source: text.optional().describe('The unit or system that raised the entry'),
    dims: byCode.optional().describe('Member by dimension code'),
  }),
  accounts: z.object({
    entity: text.optional(),
    code: text,
    name: text,
    type: z.enum(ACCOUNT_TYPES),
    parent: text.optional(),
    posting: z.enum(['yes', 'no']).optional(),
    status: z.enum(STATUSES).optional(),
    normal: z.enum(['debit', 'credit']).optional(),
    flow: z.enum(['operating', 'investing', 'financing', 'cash']).optional(),
    group: text.optional(),
    classification: text.optional(),
    currency: text.optional(),
    created_at: date.optional(),
    created_by: text.optional(),
    names: byCode.optional().describe('Name by language'),
    codes: byCode.optional().describe('Code by statutory scheme'),
    dims: z.record(text, z.enum(['required', 'optional', 'forbidden'])).optional(),
  }),
  dimensions: z.object({
    dimension: text,
    code: text.optional().describe('Absent: the record names the dimension itself'),
    name: text,
    parent: text.optional(),
    valid_from: date.optional(),
    valid_to: date.optional(),
    group: text.optional(),
    names: byCode.optional(),
  }),
} as const;

/** JSON Schema (2020-12) by kind of record. */
export const recordSchemas = (): { [kind: string]: unknown } =>
  Object.fromEntries(
    Object.entries(RECORDS).map(([kind, schema]) => [
      kind,
      { title: `Just Thread: ${kind}`, ...z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }) },
    ]),
  );
