import type { STATUSES } from '@/core/ledger';
import type { PARTY_KINDS } from '@/core/parties';
import { type Db, rowsOf } from './db';

/** A customer, supplier or other party with all that is known of it. */
export interface PartyRecord {
  code: string;
  name: string;
  /** Null of a party that only lines and documents have named. */
  kind: (typeof PARTY_KINDS)[number] | null;
  groups: string[];
  address: string;
  postal_code: string;
  city: string;
  country: string;
  bank_account: string;
  tax_number: string;
  status: (typeof STATUSES)[number];
}

const COLUMNS =
  'code, name, kind, groups, address, postal_code, city, country, bank_account, tax_number, status' as const;
const BATCH_ROWS = 500;

/** All parties, or those of some codes, by code. */
export const readParties = (db: Db, codes: readonly string[] | null = null): Promise<PartyRecord[]> =>
  rowsOf(
    db,
    `select ${COLUMNS} from counterparty where ?::text[] is null or code = any(?::text[]) order by code collate "C"`,
    [codes as string[] | null, codes as string[] | null],
  );

export async function upsertParties(db: Db, parties: readonly PartyRecord[]): Promise<void> {
  for (let at = 0; at < parties.length; at += BATCH_ROWS)
    await db('counterparty')
      .insert(parties.slice(at, at + BATCH_ROWS))
      .onConflict('code')
      .merge();
}
