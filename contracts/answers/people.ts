import { z } from 'zod';
import { roleSchema } from '../roles';

export const grantSchema = z.strictObject({
  entities: z.array(z.string()).nullable(),
  members: z.record(z.string(), z.array(z.string())),
  accounts: z.string().nullable(),
});
export type Grant = z.infer<typeof grantSchema>;

export const personSchema = grantSchema.extend({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  role: roleSchema,
  active: z.boolean(),
  suspendedAt: z.string().nullable(),
  lastSeen: z.string().nullable(),
  /** Whether the sign-in of the organisation knows them. */
  bound: z.boolean(),
});
export type Person = z.infer<typeof personSchema>;

export const sessionSchema = z.strictObject({
  id: z.number(),
  address: z.string(),
  agent: z.string(),
  here: z.boolean(),
  createdAt: z.string(),
  seenAt: z.string(),
  expiresAt: z.string(),
});

export const tokenSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  expired: z.boolean(),
  createdAt: z.string(),
  expiresAt: z.string(),
  usedAt: z.string().nullable(),
});

export const secondFactorSchema = z.strictObject({ on: z.boolean(), required: z.boolean() });
/** Shown this once, to be read by an app. */
export const begunFactorSchema = z.strictObject({ secret: z.string(), uri: z.string() });
export const secondFactorRuleAnswerSchema = z.strictObject({ required: z.enum(['nobody', 'owners', 'everybody']) });

/** What somebody with a grant would see of each company. */
export const seenAsSchema = z.strictObject({
  /** Whether the books are seen whole: documents, journals and parties are of whole books. */
  whole: z.boolean(),
  books: z.array(
    z.strictObject({
      entity: z.string(),
      name: z.string(),
      sentence: z.string(),
      currency: z.string(),
      lines: z.number(),
      of: z.number(),
      accounts: z.array(z.strictObject({ code: z.string(), name: z.string(), closing: z.string() })),
      more: z.number(),
      /** Why nothing of it would be seen. */
      problem: z.string().optional(),
    }),
  ),
  /** Companies of which nothing would be seen, not even that they are there. */
  hidden: z.array(z.string()),
});

export const viewerSchema = grantSchema.extend({
  id: z.number(),
  name: z.string(),
  email: z.string(),
  role: roleSchema,
});

export const peopleSchema = z.strictObject({ rows: z.array(personSchema) });
export const addedPersonSchema = grantSchema.extend({
  email: z.string(),
  name: z.string(),
  role: roleSchema,
  /** Where they choose their password, where none was given. */
  link: z.string().optional(),
});
export const resetLinkSchema = z.strictObject({ link: z.string(), hours: z.number() });
export const sessionsSchema = z.strictObject({ rows: z.array(sessionSchema) });
export const tokensSchema = z.strictObject({ rows: z.array(tokenSchema) });
/** The token itself is shown this once. */
export const newTokenSchema = z.strictObject({
  token: z.string(),
  id: z.number(),
  name: z.string(),
  expiresAt: z.string(),
});
