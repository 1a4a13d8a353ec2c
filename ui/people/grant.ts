import type { Grant } from '@/contracts/answers/people';
import type { Role } from '@/contracts/roles';

/** Nothing left out. */
export const ALL: Grant = { entities: null, members: {}, accounts: null };

/** In the order in which they are offered: the usual ones first. */
export const ROLES: readonly Role[] = ['preparer', 'reviewer', 'reader', 'owner'];
