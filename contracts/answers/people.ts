import { z } from 'zod';

export const roleSchema = z.enum(['owner', 'preparer', 'reviewer', 'reader']);
export type Role = z.infer<typeof roleSchema>;

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
export type Session = z.infer<typeof sessionSchema>;

export const tokenSchema = z.strictObject({
  id: z.number(),
  name: z.string(),
  expired: z.boolean(),
  createdAt: z.string(),
  expiresAt: z.string(),
  usedAt: z.string().nullable(),
});
export type Token = z.infer<typeof tokenSchema>;

export const viewerSchema = grantSchema.extend({
  id: z.number(),
  name: z.string(),
  email: z.string(),
  role: roleSchema,
});
export type Viewer = z.infer<typeof viewerSchema>;
