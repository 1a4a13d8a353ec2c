import type { Knex } from 'knex';
import type { ReadOptions } from '@/exchange/readRecords';
import type { DeliveredFile } from '@/exchange/recognise';
import type { Catalogue, CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';

/** What the reading of one load needs to know. */
export interface LoadJob {
  id: number;
  file: DeliveredFile;
  reading: ReadOptions;
  /** The entity named with the load, if one was. */
  entity: CatalogueEntity | null;
  catalogue: Catalogue;
  replaces: { from: number; to: number } | null;
  /** The load's own transaction. */
  inside: Db;
  /** A connection outside the load's transaction, for dictionaries and progress. */
  outside: Knex;
  /** Told after every row, so that progress can be written and a cancelled load stops. @throws if it was cancelled */
  onRow(): void;
  /** The same for several rows at once. */
  onRows(rows: number): void;
  createAccounts: boolean;
  /** What empty cells of a table do to what is known already. */
  emptyCells: 'ask' | 'clear' | 'keep';
}
