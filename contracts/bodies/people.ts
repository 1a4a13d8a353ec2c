import { z } from 'zod';
import { roleSchema } from '../roles';

/** What is sent of people, what they may see, and how they sign in. */

/** Long enough for a sentence, short enough to be hashed. */
const password = z.string().min(1).max(128, 'a password has at most 128 characters');

const grantedMembers = z.record(z.string(), z.array(z.string().min(1)).min(1));

const grantedAccounts = z.string().min(1).max(2_000).nullable();

export const newPersonSchema = z.strictObject({
  email: z.email().max(200),
  name: z.string().min(1).max(100),
  role: roleSchema,
  password: password.optional().describe('To begin with; without one, a link with which they choose it is answered'),
  entities: z.array(z.string()).nullable().default(null),
  members: grantedMembers
    .default({})
    .describe('Members of dimensions that a person is limited to, with all beneath them, by dimension code'),
  accounts: grantedAccounts.default(null).describe('Accounts that a person is limited to, as a selection'),
});

export const personChangeSchema = z.strictObject({
  name: z.string().min(1).max(100).optional(),
  role: roleSchema.optional(),
  entities: z.array(z.string()).nullable().optional(),
  members: grantedMembers.optional(),
  accounts: grantedAccounts.optional(),
  active: z.boolean().optional().describe('false: suspended; they may come in no longer, and nothing of theirs goes'),
});

/** A grant that is looked through before it is given. */
export const seeAsSchema = z.strictObject({
  role: roleSchema,
  entities: z.array(z.string()).nullable().default(null),
  members: grantedMembers.default({}),
  accounts: grantedAccounts.default(null),
});

export const passwordChangeSchema = z.strictObject({ current: password, password });

export const resetSchema = z.strictObject({ secret: z.string().max(100), password });

const TOKEN_DAYS_MAX = 366;

export const newTokenSchema = z.strictObject({
  name: z.string().trim().min(1, 'say what it is for').max(80),
  days: z.number().int().min(1).max(TOKEN_DAYS_MAX, `a token lasts a year at the most`).default(90),
});

export const firstOwnerSchema = z.strictObject({
  code: z.string().min(1).max(100).describe('The one-time code that the start command prints'),
  name: z.string().trim().min(1).max(100),
  email: z.email().max(200),
  password,
});

export const signInSchema = z.strictObject({
  email: z.string().max(200),
  password: z.string().max(200),
  code: z.string().max(20).optional().describe('Of the second factor, where there is one'),
});

export const secondFactorChangeSchema = z.strictObject({
  code: z.string().min(1).max(20),
  off: z.boolean().default(false).describe('true: take it away'),
});

export const secondFactorRuleSchema = z.strictObject({ required: z.enum(['nobody', 'owners', 'everybody']) });
