import { z } from 'zod';

/** What people of the installation may do, from the least on. */
export const ROLES = ['reader', 'preparer', 'reviewer', 'owner'] as const;
export const roleSchema = z.enum(ROLES);
export type Role = z.infer<typeof roleSchema>;
