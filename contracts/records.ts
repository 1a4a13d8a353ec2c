import { z } from 'zod';
import { isDate } from '@/core/dates';
import { ACCOUNT_TYPES, LINE_KINDS } from '@/core/ledger';

const date = z.string().refine(isDate).meta({ format: 'date' });
const amount = z
  .string()
  .regex(/^-?\d+(\.\d+)?$/)
  .describe('Decimal string in units of the currency');
const text = z.string();
const byCode = z.record(text, text);

/** A record of our JSON (`{"lines": [...]}`, or a list) and NDJSON, one object a record. */
const RECORDS = {
  lines: z.object({
    entity: text.optional(),
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
    journal: text.optional(),
    entry_description: text.optional(),
    document: text.optional(),
    document_type: text.optional(),
    document_date: date.optional(),
    due_date: date.optional(),
    counterparty: text.optional(),
    counterparty_name: text.optional(),
    partner_entity: text.optional(),
    currency: text.optional(),
    currency_amount: amount.optional(),
    quantity: text.optional(),
    unit: text.optional(),
    status: z.enum(['posted', 'unposted']).optional(),
    kind: z.enum(LINE_KINDS).optional(),
    posted_by: text.optional(),
    entered_at: text.optional(),
    source: text.optional().describe('The unit or system that raised the entry'),
    approved_by: text.optional(),
    reversal_of: text.optional(),
    tax_code: text.optional(),
    tax_amount: amount.optional(),
    attachment: text.optional(),
    dims: byCode.optional().describe('Member by dimension code'),
  }),
  accounts: z.object({
    entity: text.optional(),
    code: text,
    name: text,
    type: z.enum(ACCOUNT_TYPES),
    parent: text.optional(),
    posting: z.enum(['yes', 'no']).optional(),
    status: z.enum(['active', 'inactive', 'suspended']).optional(),
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
