export type Role = 'owner' | 'preparer' | 'reviewer' | 'reader';

export interface Grant {
  entities: string[] | null;
  members: Record<string, string[]>;
  accounts: string | null;
}

/** Nothing left out. */
export const ALL: Grant = { entities: null, members: {}, accounts: null };

export interface Person extends Grant {
  id: number;
  email: string;
  name: string;
  role: Role;
  active: boolean;
  suspendedAt: string | null;
  lastSeen: string | null;
}

export interface Session {
  id: number;
  address: string;
  agent: string;
  here: boolean;
  createdAt: string;
  seenAt: string;
  expiresAt: string;
}

export interface Token {
  id: number;
  name: string;
  expired: boolean;
  createdAt: string;
  expiresAt: string;
  usedAt: string | null;
}

export const ROLES: readonly Role[] = ['preparer', 'reviewer', 'reader', 'owner'];
