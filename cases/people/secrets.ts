import { createHash, randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import * as store from '@/store/people';

export const RESET_HOURS = 24;

export const digest = (secret: string): string => createHash('sha256').update(secret).digest('hex');

export const secretOf = (): string => randomBytes(32).toString('base64url');

/** The secret is behind the # of the address, which no browser sends and no log has. */
export async function linkFor(trx: Knex.Transaction, person: number): Promise<string> {
  const secret = secretOf();
  await store.insertReset(trx, { hash: digest(secret), person, hours: RESET_HOURS });
  return `/new-password#${secret}`;
}
