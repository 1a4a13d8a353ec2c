import type { Catalogue, CatalogueAccount, CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';

/** What the reading of one load needs to know. */
export interface LoadJob {
  id: number;
  path: string;
  /** The entity named with the load, if one was. */
  entity: CatalogueEntity | null;
  catalogue: Catalogue;
  replaces: { from: number; to: number } | null;
  /** A connection outside the load's transaction, for dictionaries and progress. */
  outside: Db;
  onBytes(bytes: number): void;
  createAccounts: boolean;
  createAccount(
    entity: CatalogueEntity,
    code: string,
    values: { [column: string]: string },
    fault: (column: string, message: string) => void,
  ): Promise<CatalogueAccount | null>;
}
